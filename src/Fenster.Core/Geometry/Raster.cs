namespace Fenster.Core.Geometry;

/// <summary>A picture as its pixels.</summary>
/// <param name="Pixels">Row by row from the upper left one, each red, green and blue from 0 to 255 in the bits from 16, 8 and 0.</param>
public sealed record Raster(int Width, int Height, int[] Pixels)
{
    /// <summary>
    /// How unlike two colours are, from 0 to 255: the differences of red, green and blue, weighed as the eye does. Common practice,
    /// weights from memory.
    /// </summary>
    public static double Difference(int a, int b) => Math.Sqrt(SquaredDifference(a, b) / 9.0);

    internal static int SquaredDifference(int a, int b)
    {
        var (red, green, blue) = (((a >> 16) & 255) - ((b >> 16) & 255), ((a >> 8) & 255) - ((b >> 8) & 255), (a & 255) - (b & 255));
        return 2 * red * red + 4 * green * green + 3 * blue * blue;
    }
}
