using Fenster.Core.Geometry;
using SkiaSharp;

namespace Fenster.Formats.Pictures;

/// <summary>Pictures as pixels, for what is worked out from them.</summary>
public static class PicturePixels
{
    /// <summary>Larger pictures are scaled down to this on their longer side: finer than a hand points.</summary>
    public const int LongestSide = 1600;

    private const long MostPixels = 8_000_000;

    /// <summary>The picture on white.</summary>
    /// <exception cref="PictureRefused">It is no such picture, or has too many pixels.</exception>
    public static Raster Read(Stream stream)
    {
        using var codec = SKCodec.Create(stream) ?? throw new PictureRefused(new("picture.notReady"));
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
            throw new PictureRefused(new("picture.notReady"));
        using var picture = SKBitmap.Decode(codec, new(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        if (picture is null)
            throw new PictureRefused(new("picture.notReady"));
        var scale = Math.Min(1, (double)LongestSide / Math.Max(picture.Width, picture.Height));
        var (width, height) = (Math.Max(1, (int)(picture.Width * scale)), Math.Max(1, (int)(picture.Height * scale)));
        using var onWhite = new SKBitmap(width, height, SKColorType.Bgra8888, SKAlphaType.Opaque);
        using (var canvas = new SKCanvas(onWhite))
        using (var image = SKImage.FromBitmap(picture))
        {
            canvas.Clear(SKColors.White);
            canvas.DrawImage(image, new SKRect(0, 0, width, height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        }
        var pixels = new int[width * height];
        System.Runtime.InteropServices.MemoryMarshal.Cast<byte, int>(onWhite.GetPixelSpan()).CopyTo(pixels);
        return new(width, height, pixels);
    }
}
