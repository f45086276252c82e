namespace Fenster.Core.Geometry;

/// <summary>The pixels of one shape: all that are connected with one of them and of like colour, and what they enclose.</summary>
internal sealed class Filled
{
    private const byte Outside = 1;
    private const byte Inside = 2;

    /// <summary>A frame of one pixel lies around the picture, so that nothing asks for pixels that are not there.</summary>
    private readonly byte[] marks;
    private readonly int across;

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
            for (var i = from; i <= to; i++)
                marks[(v + 1) * across + i + 1] = Inside;
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

    /// <summary>Whatever can't be reached from the frame belongs to the shape.</summary>
    private void FillHoles()
    {
        var pending = new Stack<int>([0]);
        marks[0] = Outside;
        while (pending.TryPop(out var at))
            foreach (var step in (ReadOnlySpan<int>)[-1, 1, -across, across])
            {
                var next = at + step;
                if (next < 0 || next >= marks.Length || marks[next] != 0)
                    continue;
                marks[next] = Outside;
                pending.Push(next);
            }
        for (var i = 0; i < marks.Length; i++)
            if (marks[i] == 0)
                marks[i] = Inside;
        Tally();
    }

    /// <summary>
    /// Pixels on an edge are mixed of the colours on both sides: one belongs to the shape where more than half of it does, as its
    /// colour tells beside the next one further out.
    /// </summary>
    private void TakeHalfPixels(Raster raster, int seed)
    {
        var taken = new List<int>();
        for (var y = 0; y < raster.Height; y++)
        for (var x = 0; x < raster.Width; x++)
        {
            var at = (y + 1) * across + x + 1;
            if (marks[at] == Inside)
                continue;
            foreach (var (dx, dy) in (ReadOnlySpan<(int, int)>)[(-1, 0), (1, 0), (0, -1), (0, 1)])
            {
                if (marks[at + dy * across + dx] != Inside)
                    continue;
                var (fx, fy) = (x - dx, y - dy);
                if (fx < 0 || fy < 0 || fx >= raster.Width || fy >= raster.Height)
                    continue;
                var here = Raster.Difference(raster.Pixels[y * raster.Width + x], seed);
                var further = Raster.Difference(raster.Pixels[fy * raster.Width + fx], seed);
                if (here < further / 2)
                {
                    taken.Add(at);
                    break;
                }
            }
        }
        foreach (var at in taken)
            marks[at] = Inside;
        Tally();
    }

    private void Tally()
    {
        (Count, First) = (0, -1);
        for (var y = 0; y < Height; y++)
        for (var x = 0; x < Width; x++)
            if (Has(x, y))
            {
                if (Count++ == 0)
                    First = y * Width + x;
            }
    }
}
