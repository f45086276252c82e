namespace Fenster.Core.Geometry;

/// <summary>The pixels of one shape: all that are connected with one of them and of like colour, and what they enclose.</summary>
internal sealed class Filled
{
    private const byte Outside = 1;
    private const byte Inside = 2;

    /// <summary>A frame of one pixel lies around the picture, so that nothing asks for pixels that are not there.</summary>
    private readonly byte[] marks;
    private readonly int across;

    /// <summary>What is looked at: the shape and one pixel around it, in rows and columns that count the frame. The last are in it.</summary>
    private (int Left, int Top, int Right, int Bottom) box;

    public int Width => across - 2;
    public int Height { get; }

    /// <summary>How many pixels.</summary>
    public int Count { get; private set; }

    /// <summary>The number, row by row, of its first pixel.</summary>
    public int First { get; private set; }

    private Filled(int width, int height)
    {
        (across, Height) = (width + 2, height);
        marks = new byte[across * (height + 2)];
        box = (int.MaxValue, int.MaxValue, 0, 0);
    }

    public bool Has(int x, int y) => marks[(y + 1) * across + x + 1] == Inside;

    /// <returns>Null when the point is not on the picture.</returns>
    public static Filled? Around(Raster raster, int x, int y, double reach)
    {
        if (x < 0 || y < 0 || x >= raster.Width || y >= raster.Height)
            return null;
        var filled = new Filled(raster.Width, raster.Height);
        var seed = SeedAt(raster, x, y);
        filled.Spread(raster, x, y, seed, (int)(9 * reach * reach));
        filled.FillHoles();
        filled.TakeHalfPixels(raster, seed);
        return filled;
    }

    /// <summary>The mean colour of the pixels around one that are like it, so that one grain of a photograph does not decide.</summary>
    private static int SeedAt(Raster raster, int x, int y)
    {
        const int like = 9 * 20 * 20;
        var own = raster.Pixels[y * raster.Width + x];
        var (red, green, blue, count) = (0, 0, 0, 0);
        for (var v = Math.Max(0, y - 2); v <= Math.Min(raster.Height - 1, y + 2); v++)
        for (var u = Math.Max(0, x - 2); u <= Math.Min(raster.Width - 1, x + 2); u++)
        {
            var pixel = raster.Pixels[v * raster.Width + u];
            if (Raster.SquaredDifference(pixel, own) > like)
                continue;
            (red, green, blue, count) = (red + ((pixel >> 16) & 255), green + ((pixel >> 8) & 255), blue + (pixel & 255), count + 1);
        }
        return (red / count << 16) | (green / count << 8) | (blue / count);
    }

    private void Spread(Raster raster, int x, int y, int seed, int most)
    {
        var pending = new Stack<(int X, int Y)>([(x, y)]);
        bool IsLike(int u, int v) =>
            marks[(v + 1) * across + u + 1] == 0 && Raster.SquaredDifference(raster.Pixels[v * raster.Width + u], seed) <= most;
        while (pending.TryPop(out var at))
        {
            var (u, v) = at;
            if (!IsLike(u, v))
                continue;
            var from = u;
            while (from > 0 && IsLike(from - 1, v))
                from--;
            var to = u;
            while (to < raster.Width - 1 && IsLike(to + 1, v))
                to++;
            marks.AsSpan((v + 1) * across + from + 1, to - from + 1).Fill(Inside);
            box = (Math.Min(box.Left, from), Math.Min(box.Top, v), Math.Max(box.Right, to + 2), Math.Max(box.Bottom, v + 2));
            foreach (var row in (ReadOnlySpan<int>)[v - 1, v + 1])
            {
                if (row < 0 || row >= raster.Height)
                    continue;
                var isInRun = false;
                for (var i = from; i <= to; i++)
                {
                    var isLike = IsLike(i, row);
                    if (isLike && !isInRun)
                        pending.Push((i, row));
                    isInRun = isLike;
                }
            }
        }
    }

    /// <summary>What can't be reached from around the shape belongs to it.</summary>
    private void FillHoles()
    {
        var pending = new Stack<int>([box.Top * across + box.Left]);
        marks[pending.Peek()] = Outside;
        while (pending.TryPop(out var at))
        {
            var (x, y) = (at % across, at / across);
            if (x > box.Left)
                Reach(at - 1);
            if (x < box.Right)
                Reach(at + 1);
            if (y > box.Top)
                Reach(at - across);
            if (y < box.Bottom)
                Reach(at + across);
        }
        for (var y = box.Top; y <= box.Bottom; y++)
            marks.AsSpan(y * across + box.Left, box.Right - box.Left + 1).Replace((byte)0, Inside);

        void Reach(int next)
        {
            if (marks[next] != 0)
                return;
            marks[next] = Outside;
            pending.Push(next);
        }
    }

    /// <summary>
    /// Pixels on an edge are mixed of the colours on both sides: one belongs to the shape where more than half of it does, as its
    /// colour tells beside the next one further out.
    /// </summary>
    private void TakeHalfPixels(Raster raster, int seed)
    {
        var taken = new List<int>();
        for (var y = Math.Max(1, box.Top); y <= Math.Min(Height, box.Bottom); y++)
        for (var x = Math.Max(1, box.Left); x <= Math.Min(Width, box.Right); x++)
        {
            var at = y * across + x;
            if (
                marks[at] != Inside
                && (
                    (marks[at - 1] == Inside && IsHalf(x, y, 1, 0))
                    || (marks[at + 1] == Inside && IsHalf(x, y, -1, 0))
                    || (marks[at - across] == Inside && IsHalf(x, y, 0, 1))
                    || (marks[at + across] == Inside && IsHalf(x, y, 0, -1))
                )
            )
                taken.Add(at);
        }
        foreach (var at in taken)
            marks[at] = Inside;
        Tally();

        // Whether it is nearer to the shape's colour than to that of the next pixel further out.
        bool IsHalf(int x, int y, int dx, int dy)
        {
            var (fx, fy) = (x - 1 + dx, y - 1 + dy);
            if (fx < 0 || fy < 0 || fx >= raster.Width || fy >= raster.Height)
                return false;
            var here = Raster.Difference(raster.Pixels[(y - 1) * raster.Width + x - 1], seed);
            return here < Raster.Difference(raster.Pixels[fy * raster.Width + fx], seed) / 2;
        }
    }

    private void Tally()
    {
        (Count, First) = (0, -1);
        for (var y = Math.Max(1, box.Top); y <= Math.Min(Height, box.Bottom); y++)
        {
            var row = marks.AsSpan(y * across + 1, Width);
            if (First < 0 && row.IndexOf(Inside) is var x && x >= 0)
                First = (y - 1) * Width + x;
            Count += row.Count(Inside);
        }
    }
}
