using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Points read as values.</summary>
internal static class ScaleCheck
{
    /// <summary>The point that shows the value: the label's pin that is nearest to it, or the marked point.</summary>
    public static Point? PointOf(ScalePoint target, Response response)
    {
        IEnumerable<Point> shown = target.Label is { } label
            ? response.Pins.Where(pin => pin.Label == label).Select(pin => pin.At)
            : response.Marks.GetValueOrDefault(target.Id, []);
        return shown.Select(point => (Point?)point).MinBy(point => Off(target, point!.Value));
    }

    public static decimal Credit(ScalePoint target, Point point) =>
        target.Within.CreditAt(Off(target, point) - Rounding.Of(target.X, target.Y));

    /// <summary>How far the worse of the two values is off, in the scale's own units.</summary>
    private static double Off(ScalePoint target, Point point)
    {
        var (x, y) = target.Scale.ValueAt(point);
        return Math.Max(Math.Abs(x - target.X), target.Scale.Y is null ? 0 : Math.Abs(y - target.Y));
    }
}
