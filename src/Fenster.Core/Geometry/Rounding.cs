namespace Fenster.Core.Geometry;

/// <summary>
/// What distances are allowed to be off, so that a point on the very edge of a region made of decimal numbers is not lost to
/// binary rounding.
/// </summary>
internal static class Rounding
{
    private const double Share = 1e-9;

    /// <summary>In pu: 10⁻⁹ of the larger of 1 pu and the point's coordinates.</summary>
    public static double At(Point point) => Share * Math.Max(1, Math.Max(Math.Abs(point.X), Math.Abs(point.Y)));

    /// <summary>In the unit of some values: 10⁻⁹ of the larger of 1 and their size.</summary>
    public static double Of(double x, double y) => Share * Math.Max(1, Math.Max(Math.Abs(x), Math.Abs(y)));
}
