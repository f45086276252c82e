namespace Fenster.Core.Geometry;

/// <summary>
/// How blurred a picture looks: it is blurred once more, and the less that changes, the less sharp it was. After F. Crété-Roffet,
/// T. Dolmiere, P. Ladret and M. Nicolas, "The blur effect: perception and estimation with a new no-reference perceptual blur metric"
/// (2007), from memory.
/// </summary>
/// <param name="Blur">From 0, sharp, to 1, blurred; 0 for a picture of one colour, in which nothing can be blurred.</param>
public readonly record struct Sharpness(double Blur)
{
    /// <summary>Above it people call a photograph blurred. Read off pictures of ours that were blurred by known amounts.</summary>
    private const double Blurred = 0.62;

    public bool IsSharp => Blur <= Blurred;

    /// <summary>Pixels that are averaged on each side.</summary>
    private const int Reach = 4;

    public static Sharpness Of(Raster raster)
    {
        var grey = Array.ConvertAll(
            raster.Pixels,
            // Luma of ITU-R BT.601.
            pixel => 0.299 * ((pixel >> 16) & 255) + 0.587 * ((pixel >> 8) & 255) + 0.114 * (pixel & 255)
        );
        return new(
            Math.Max(Along(grey, raster.Width, raster.Height, 1, raster.Width), Along(grey, raster.Height, raster.Width, raster.Width, 1))
        );
    }

    /// <summary>The blur along lines of the picture.</summary>
    /// <param name="length">Of a line, in pixels.</param>
    /// <param name="step">From a pixel to the next of its line.</param>
    /// <param name="stride">From a line to the next.</param>
    private static double Along(double[] grey, int length, int lines, int step, int stride)
    {
        var (variation, lost) = (0.0, 0.0);
        var sums = new double[length + 1];
        for (var line = 0; line < lines; line++)
        {
            var start = line * stride;
            for (var i = 0; i < length; i++)
                sums[i + 1] = sums[i] + grey[start + i * step];
            double Mean(int at)
            {
                var (from, to) = (Math.Max(0, at - Reach), Math.Min(length, at + Reach + 1));
                return (sums[to] - sums[from]) / (to - from);
            }
            for (var i = 1; i < length; i++)
            {
                var own = Math.Abs(grey[start + i * step] - grey[start + (i - 1) * step]);
                variation += own;
                lost += Math.Max(0, own - Math.Abs(Mean(i) - Mean(i - 1)));
            }
        }
        return variation > 0 ? (variation - lost) / variation : 0;
    }
}
