namespace Fenster.Core.Geometry;

/// <summary>A box of whole pixels; the last column and row are outside.</summary>
public readonly record struct PixelBox(int Left, int Top, int Right, int Bottom)
{
    internal PixelBox Around(PixelBox other) =>
        new(Math.Min(Left, other.Left), Math.Min(Top, other.Top), Math.Max(Right, other.Right), Math.Max(Bottom, other.Bottom));
}

/// <summary>The single drawings on a sheet: what lies on an even ground, connected or near each other.</summary>
public static class SheetParts
{
    /// <summary>More are no sheet of drawings, but a pattern or a page of text.</summary>
    public const int MostParts = 100;

    /// <summary>How unlike the ground something is that lies on it, from 0 to 255.</summary>
    private const double Unlike = 24;

    /// <summary>What lies nearer than this share of the sheet's longer side belongs together.</summary>
    private const double Near = 0.012;

    /// <summary>A smaller share of the sheet is a speck.</summary>
    private const double Speck = 0.0004;

    /// <returns>
    /// Each drawing's box, row by row as they are read from the left; none where the ground is not even, or where there are more
    /// than <see cref="MostParts"/>.
    /// </returns>
    public static IReadOnlyList<PixelBox> Of(Raster sheet)
    {
        var cell = Math.Max(1, (int)(Near * Math.Max(sheet.Width, sheet.Height) / 2));
        var (across, down) = ((sheet.Width + cell - 1) / cell, (sheet.Height + cell - 1) / cell);
        if (Ground(sheet) is not { } ground)
            return [];
        // Cells of half that distance: those with at most one empty one between them belong together.
        var boxes = Boxes(sheet, ground, cell, across, down);
        var parts = new List<PixelBox>();
        var pending = new Stack<int>();
        for (var i = 0; i < boxes.Length; i++)
        {
            if (boxes[i] is null)
                continue;
            PixelBox? part = null;
            pending.Push(i);
            while (pending.TryPop(out var at))
            {
                if (boxes[at] is not { } box)
                    continue;
                boxes[at] = null;
                part = part?.Around(box) ?? box;
                for (var y = Math.Max(0, at / across - 2); y <= Math.Min(down - 1, at / across + 2); y++)
                for (var x = Math.Max(0, at % across - 2); x <= Math.Min(across - 1, at % across + 2); x++)
                    pending.Push(y * across + x);
            }
            if ((part!.Value.Right - part.Value.Left) * (part.Value.Bottom - part.Value.Top) >= Speck * sheet.Pixels.Length)
                parts.Add(part.Value);
        }
        return parts.Count > MostParts ? [] : InRows(parts);
    }

    /// <summary>What is drawn in each cell; null for an empty one.</summary>
    private static PixelBox?[] Boxes(Raster sheet, int ground, int cell, int across, int down)
    {
        const int unlike = (int)(9 * Unlike * Unlike);
        var boxes = new PixelBox?[across * down];
        for (var y = 0; y < sheet.Height; y++)
        for (var x = 0; x < sheet.Width; x++)
        {
            if (Raster.SquaredDifference(sheet.Pixels[y * sheet.Width + x], ground) <= unlike)
                continue;
            var pixel = new PixelBox(x, y, x + 1, y + 1);
            ref var box = ref boxes[y / cell * across + x / cell];
            box = box?.Around(pixel) ?? pixel;
        }
        return boxes;
    }

    /// <summary>The colour of the sheet's edge; null where the edge has no even colour.</summary>
    private static int? Ground(Raster sheet)
    {
        var edge = new List<int>();
        for (var x = 0; x < sheet.Width; x++)
            edge.AddRange([sheet.Pixels[x], sheet.Pixels[(sheet.Height - 1) * sheet.Width + x]]);
        for (var y = 0; y < sheet.Height; y++)
            edge.AddRange([sheet.Pixels[y * sheet.Width], sheet.Pixels[y * sheet.Width + sheet.Width - 1]]);
        // Nearly the same colours count as one: a photograph of paper is never quite even.
        var ground = edge.CountBy(colour => colour & 0xF8F8F8).MaxBy(group => group.Value).Key | 0x040404;
        return edge.Count(colour => Raster.Difference(colour, ground) <= Unlike) >= 0.8 * edge.Count ? ground : null;
    }

    /// <summary>Row by row: those whose middle lies beside the first of a row belong to it.</summary>
    private static List<PixelBox> InRows(List<PixelBox> parts)
    {
        var (left, ordered) = (parts.OrderBy(part => part.Top).ToList(), new List<PixelBox>());
        while (left.Count > 0)
        {
            var first = left[0];
            var row = left.Where(part => (part.Top + part.Bottom) / 2 < first.Bottom).OrderBy(part => part.Left).ToList();
            ordered.AddRange(row);
            left.RemoveAll(row.Contains);
        }
        return ordered;
    }
}
