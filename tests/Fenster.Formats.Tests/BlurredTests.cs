using Fenster.Core.Geometry;
using Fenster.Formats.Pictures;
using Fenster.Testing;
using SkiaSharp;

namespace Fenster.Formats.Tests;

/// <summary>A photograph and what a lens out of focus makes of it, by Skia's Gaussian blur.</summary>
public sealed class BlurredTests
{
    private static Sharpness Of(SKBitmap photograph, float sigma)
    {
        using var blurred = new SKBitmap(photograph.Width, photograph.Height);
        using (var canvas = new SKCanvas(blurred))
        using (var image = SKImage.FromBitmap(photograph))
        using (var paint = new SKPaint { ImageFilter = sigma > 0 ? SKImageFilter.CreateBlur(sigma, sigma) : null })
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest), paint);
        using var encoded = blurred.Encode(SKEncodedImageFormat.Jpeg, 90);
        using var stream = new MemoryStream(encoded.ToArray());
        return Sharpness.Of(PicturePixels.Read(stream));
    }

    [Fact]
    public void It_is_told_when_it_is_blurred_so_that_everybody_sees_it()
    {
        using var photograph = SKBitmap.Decode(
            Path.Combine(RunningFenster.Repository, "demo", "sailing-school", "pictures", "harbour-entrance.jpg")
        );
        var blurs = ((float[])[0, 1, 2, 4, 8]).Select(sigma => Of(photograph, sigma).Blur).ToList();
        Assert.Equal(blurs.Order(), blurs);
        Assert.True(Of(photograph, 0).IsSharp);
        // A pixel more or less is what phones do by themselves.
        Assert.True(Of(photograph, 1).IsSharp);
        Assert.False(Of(photograph, 6).IsSharp);
    }
}
