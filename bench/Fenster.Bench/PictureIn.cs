using System.Diagnostics;
using Fenster.Formats.Pictures;
using SkiaSharp;

namespace Fenster.Bench;

/// <summary>A photograph of 24 megapixels to all stored sizes, beside decoding it, one resize and one encode. In milliseconds.</summary>
internal static class PictureIn
{
    public static Task<Line[]> Measure()
    {
        var photograph = Photograph();
        var (ours, baseline) = (new List<double>(), new List<double>());
        for (var run = 0; run < 6; run++)
        {
            ours.Add(Time(() => PictureReader.Read(photograph).Files.Length));
            baseline.Add(Time(() => Plain(photograph)));
        }
        return Task.FromResult<Line[]>([Line.AtMost("picture-in", Line.Median(ours.Skip(1)), Line.Median(baseline.Skip(1)), 0.7)]);
    }

    private static double Time(Func<int> action)
    {
        var watch = Stopwatch.StartNew();
        GC.KeepAlive(action());
        return watch.Elapsed.TotalMilliseconds;
    }

    private static int Plain(byte[] photograph)
    {
        using var bitmap = SKBitmap.Decode(photograph);
        using var scaled = bitmap.Resize(
            bitmap.Info.WithSize(4096, 4096 * bitmap.Height / bitmap.Width),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var data = scaled.Encode(SKEncodedImageFormat.Jpeg, 88);
        return (int)data.Size;
    }

    /// <summary>6000 by 4000 pixels of soft shapes and fine grain, as a camera's file has them.</summary>
    private static byte[] Photograph()
    {
        var random = new Random(3);
        using var bitmap = new SKBitmap(6000, 4000);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.SkyBlue);
            for (var i = 0; i < 4000; i++)
                canvas.DrawCircle(
                    random.Next(6000),
                    random.Next(4000),
                    random.Next(5, 120),
                    new SKPaint { Color = SKColor.FromHsl(random.Next(360), 50, random.Next(20, 80)).WithAlpha(140) }
                );
        }
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 92);
        return data.ToArray();
    }
}
