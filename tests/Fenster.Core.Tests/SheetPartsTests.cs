using Fenster.Core.Geometry;

namespace Fenster.Core.Tests;

/// <summary>The drawings on a sheet, found again where they were put.</summary>
public class SheetPartsTests
{
    private static Raster Sheet(int width, int height, int ground, IEnumerable<PixelBox> inked, int grain = 0)
    {
        var random = new Random(7);
        var pixels = Enumerable.Range(0, width * height).Select(_ => ground - 0x010101 * random.Next(grain + 1)).ToArray();
        foreach (var box in inked)
            for (var y = box.Top; y < box.Bottom; y++)
            for (var x = box.Left; x < box.Right; x++)
                pixels[y * width + x] = 0x302010;
        return new(width, height, pixels);
    }

    private static List<PixelBox> Ten() =>
        [.. Enumerable.Range(0, 10).Select(i => new PixelBox(20 + i % 5 * 190, 30 + i / 5 * 300, 140 + i % 5 * 190, 230 + i / 5 * 300))];

    [Theory]
    [InlineData(0)]
    [InlineData(9)]
    public void Ten_drawings_are_ten_parts_in_the_order_in_which_they_are_read(int grain) =>
        Assert.Equal(Ten(), SheetParts.Of(Sheet(1000, 640, 0xFCFCFC, Ten(), grain)));

    [Fact]
    public void What_lies_near_belongs_together_and_specks_are_none()
    {
        // A wheel beside its axle, 5 pixels apart; a dot of dust far off.
        var parts = SheetParts.Of(
            Sheet(1000, 600, 0xFFFFFF, [new(100, 100, 200, 200), new(205, 140, 300, 160), new(600, 300, 700, 420), new(900, 50, 904, 54)])
        );
        Assert.Equal([new PixelBox(100, 100, 300, 200), new PixelBox(600, 300, 700, 420)], parts);
    }

    [Fact]
    public void A_drawing_of_single_strokes_is_one_part()
    {
        var strokes = Enumerable.Range(0, 12).Select(i => new PixelBox(200 + i * 12, 200, 204 + i * 12, 320));
        Assert.Equal([new PixelBox(200, 200, 336, 320)], SheetParts.Of(Sheet(1200, 800, 0xFFFFFF, strokes)));
    }

    [Fact]
    public void A_sheet_need_not_be_white_but_even()
    {
        Assert.Equal(Ten(), SheetParts.Of(Sheet(1000, 640, 0x88AACC, Ten())));
        var random = new Random(3);
        Assert.Empty(SheetParts.Of(new(300, 300, [.. Enumerable.Range(0, 90_000).Select(_ => random.Next(0x1000000))])));
        Assert.Empty(SheetParts.Of(Sheet(400, 300, 0xFFFFFF, [])));
    }

    [Fact]
    public void A_page_of_dots_is_no_sheet_of_drawings()
    {
        var dots = Enumerable
            .Range(0, 400)
            .Select(i => new PixelBox(10 + i % 20 * 75, 10 + i / 20 * 75, 50 + i % 20 * 75, 50 + i / 20 * 75));
        Assert.Empty(SheetParts.Of(Sheet(1510, 1510, 0xFFFFFF, dots)));
    }
}
