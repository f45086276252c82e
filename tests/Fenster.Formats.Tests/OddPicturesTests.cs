using System.Text;
using Fenster.Formats.Pictures;
using Fenster.Testing;
using SkiaSharp;

namespace Fenster.Formats.Tests;

/// <summary>A corpus of odd and hostile files, most of them made here: each becomes a picture that is right, or gets a sentence.</summary>
public sealed class OddPicturesTests
{
    // Made with a general-purpose converter: a plain brick red, and two frames of red and blue with a comment.
    private const string FourInks =
        "/9j/7gAOQWRvYmUAZAAAAAAC/9sAQwADAgICAgIDAgICAwMDAwQGBAQEBAQIBgYFBgkICgoJCAkJCgwPDAoLDgsJCQ0RDQ4PEBAREAoMEhMSEBMPEBAQ/9sAQwEDAwMEAwQIBAQIEAsJCxAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQEBAQ/8AAFAgAEAAQBAERAAIRAQMRAQQRAP/EABUAAQEAAAAAAAAAAAAAAAAAAAAI/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/EABYBAQEBAAAAAAAAAAAAAAAAAAAHCP/EABQRAQAAAAAAAAAAAAAAAAAAAAD/2gAOBAEAAhEDEQQAAD8ALmwYsAAAAB//2Q==";
    private const string SixteenBits =
        "iVBORw0KGgoAAAANSUhEUgAAAAgAAAAIEAIAAAAb/fWfAAAABGdBTUEAALGPC/xhBQAAACBjSFJNAAB6JgAAgIQAAPoAAACA6AAAdTAAAOpgAAA6mAAAF3CculE8AAAABmJLR0T///////8JWPfcAAAAGUlEQVQY02M8ccLGRkODgWjARLzSUQ3EAwCfAQJoxb8xMwAAACV0RVh0ZGF0ZTpjcmVhdGUAMjAyNi0xMS0yM1QxNzowNzo0OCswMDowMIQZH5MAAAAldEVYdGRhdGU6bW9kaWZ5ADIwMjYtMTEtMjNUMTc6MDc6NDgrMDA6MDD1RKcvAAAAAElFTkSuQmCC";
    private const string Moving =
        "R0lGODlhGAAYAPAAAP8AAAAAACH5BAAKAAAAIf4NdGFrZW4gYXQgaG9tZQAh/wtORVRTQ0FQRTIuMAMBAAAALAAAAAAYABgAAAIWhI+py+0Po5y02ouz3rz7D4biSJZTAQAh+QQACgAAACH+DXRha2VuIGF0IGhvbWUALAAAAAAYABgAgAAA/wAAAAIWhI+py+0Po5y02ouz3rz7D4biSJZTAQA7";
    private const string PaletteWithHole =
        "iVBORw0KGgoAAAANSUhEUgAAAAgAAAAICAMAAADz0U65AAAABGdBTUEAALGPC/xhBQAAACBjSFJNAAB6JgAAgIQAAPoAAACA6AAAdTAAAOpgAAA6mAAAF3CculE8AAAABlBMVEUAAADIPCh8na8yAAAAAXRSTlMAQObYZgAAAAd0SU1FB+oLFxEHMLVpo18AAAAQSURBVAjXY2BghAAYTSYDAAkBAEC2d9l3AAAAJXRFWHRkYXRlOmNyZWF0ZQAyMDI2LTExLTIzVDE3OjA3OjQ4KzAwOjAwhBkfkwAAACV0RVh0ZGF0ZTptb2RpZnkAMjAyNi0xMS0yM1QxNzowNzo0OCswMDowMPVEpy8AAAAASUVORK5CYII=";

    private static SKColor Middle(byte[] bytes)
    {
        var file = PictureReader.Read(bytes).Files[^1];
        using var bitmap = SKBitmap.Decode(file.Bytes);
        return bitmap.GetPixel(bitmap.Width / 2, bitmap.Height / 2);
    }

    [Theory]
    [InlineData(FourInks)]
    [InlineData(SixteenBits)]
    [InlineData(PaletteWithHole)]
    public void Four_inks_sixteen_bits_and_palettes_come_out_in_their_colour(string file)
    {
        var colour = Middle(Convert.FromBase64String(file));
        Assert.InRange(colour.Red, 190, 210);
        Assert.InRange(colour.Green, 50, 75);
        Assert.InRange(colour.Blue, 30, 55);
    }

    [Fact]
    public void A_small_gif_keeps_moving_and_loses_its_comments()
    {
        var bytes = Convert.FromBase64String(Moving);
        Assert.Contains("taken at home", Encoding.Latin1.GetString(bytes));
        var file = Assert.Single(PictureReader.Read(bytes).Files);
        Assert.Equal("gif", file.Extension);
        Assert.DoesNotContain("taken at home", Encoding.Latin1.GetString(file.Bytes));
        using var codec = SKCodec.Create(new MemoryStream(file.Bytes));
        Assert.Equal(2, codec.FrameCount);
        Assert.Equal(-1, codec.RepetitionCount);
        Assert.Equal(100, codec.FrameInfo[0].Duration);
    }

    [Fact]
    public void Cut_off_anywhere_a_gif_never_does_worse_than_a_sentence()
    {
        var bytes = Convert.FromBase64String(Moving);
        for (var length = 1; length < bytes.Length; length++)
            AtWorstASentence(bytes[..length]);
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(20_000, 10)]
    [InlineData(3, 9_000)]
    public void Tiny_and_thin_pictures_are_taken(int width, int height)
    {
        var picture = PictureReader.Read(Solid(width, height));
        Assert.True(picture.Width <= 4096 && picture.Height <= 4096 && picture.Width >= 1 && picture.Height >= 1);
    }

    private static byte[] Solid(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.Teal);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    /// <summary>Display P3 red, by its profile, lies outside sRGB: it comes out as the strongest red there is.</summary>
    [Fact]
    public void Colours_of_a_wide_screen_are_brought_into_the_usual_ones()
    {
        using var p3 = SKColorSpace.CreateRgb(SKColorSpaceTransferFn.Srgb, SKColorSpaceXyz.DisplayP3);
        using var bitmap = new SKBitmap(new SKImageInfo(8, 8, SKColorType.Rgba8888, SKAlphaType.Opaque, p3));
        // A middle red, as numbers of that space.
        var pixels = Enumerable.Repeat<byte[]>([180, 60, 60, 255], 64).SelectMany(pixel => pixel).ToArray();
        System.Runtime.InteropServices.Marshal.Copy(pixels, 0, bitmap.GetPixels(), pixels.Length);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        var colour = Middle(data.ToArray());
        // The same colour has a stronger red and weaker others in sRGB: about (195, 49, 56), worked out with the two spaces' matrices.
        Assert.InRange(colour.Red, 190, 200);
        Assert.InRange(colour.Green, 43, 55);
        Assert.InRange(colour.Blue, 50, 62);
    }

    /// <summary>A disc on a blank sheet.</summary>
    private static byte[] Disc(int width, int height, SKColor sheet, SKRect disc)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(sheet);
            canvas.DrawOval(disc, new SKPaint { Color = SKColors.Crimson, IsAntialias = true });
        }
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    [Fact]
    public void A_label_loses_its_blank_edges_and_has_the_height_of_all_labels()
    {
        foreach (var sheet in (SKColor[])[SKColors.White, SKColors.Transparent, SKColors.Beige])
        {
            var label = PictureReader.ReadLabel(Disc(1200, 900, sheet, new(200, 300, 600, 700)));
            Assert.Equal(PictureReader.LabelHeight, label.Height);
            Assert.InRange(label.Width, PictureReader.LabelHeight - 4, PictureReader.LabelHeight + 4);
            using var bitmap = SKBitmap.Decode(Assert.Single(label.Files).Bytes);
            Assert.True(bitmap.GetPixel(bitmap.Width / 2, 3) is { Red: > 200, Green: < 60 });
            Assert.True(bitmap.GetPixel(3, bitmap.Height / 2) is { Red: > 200, Green: < 60 });
        }
        // A lower one is not blown up, and a blank one stays whole.
        Assert.Equal(40, PictureReader.ReadLabel(Disc(90, 80, SKColors.White, new(10, 20, 60, 60))).Height);
        Assert.Equal((30, 20), (PictureReader.ReadLabel(Solid(30, 20)).Width, PictureReader.ReadLabel(Solid(30, 20)).Height));
    }

    private static string Svg(string inside, string attributes = "viewBox='0 0 100 50'") =>
        $"<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' {attributes}>{inside}</svg>";

    private static string Cleaned(string svg) => Encoding.UTF8.GetString(PictureReader.Read(Encoding.UTF8.GetBytes(svg)).Files[0].Bytes);

    [Theory]
    [InlineData("<script>alert(1)</script>", "alert")]
    [InlineData("<rect width='9' height='9' onload='alert(1)'/>", "alert")]
    [InlineData("<rect width='9' height='9' ONCLICK='alert(1)'/>", "alert")]
    [InlineData("<a href='javascript:alert(1)'><rect width='9' height='9'/></a>", "alert")]
    [InlineData("<foreignObject><body xmlns='http://www.w3.org/1999/xhtml'>words</body></foreignObject>", "words")]
    [InlineData("<image href='https://elsewhere.example/x.png' width='9' height='9'/>", "elsewhere")]
    [InlineData("<image xlink:href='//elsewhere.example/x.png' width='9' height='9'/>", "elsewhere")]
    [InlineData("<image href='data:image/svg+xml;base64,PHN2Zy8+' width='9' height='9'/>", "svg+xml")]
    [InlineData("<use href='https://elsewhere.example/x.svg#a'/>", "elsewhere")]
    [InlineData("<style>@import url(https://elsewhere.example/x.css);</style>", "elsewhere")]
    [InlineData("<style>rect { fill: url('https://elsewhere.example/x') }</style>", "elsewhere")]
    [InlineData("<rect style='fill:url(https://elsewhere.example/x)'/>", "elsewhere")]
    [InlineData("<rect style='fill:u\\72l(https://elsewhere.example/x)'/>", "elsewhere")]
    [InlineData("<rect fill='url( \"https://elsewhere.example/x\")'/>", "elsewhere")]
    [InlineData("<set attributeName='href' to='javascript:alert(1)'/>", "alert")]
    [InlineData("<animate attributeName='href' values='javascript:alert(1)'/>", "alert")]
    [InlineData("<iframe src='https://elsewhere.example'/>", "elsewhere")]
    [InlineData("<handler>alert(1)</handler>", "alert")]
    [InlineData("<!-- secret -->", "secret")]
    [InlineData("<metadata>taken at home</metadata>", "taken")]
    [InlineData("<image href='data:image/png;base64,AAAA' width='9' height='9'/>", "AAAA")]
    [InlineData("<?xml-stylesheet href='https://elsewhere.example/x.css'?>", "elsewhere")]
    public void A_drawing_can_do_nothing_but_be_looked_at(string inside, string gone)
    {
        var clean = Cleaned(Svg(inside + "<circle r='7' cx='20' cy='20'/>"));
        Assert.DoesNotContain(gone, clean);
        Assert.Contains("<circle", clean);
    }

    [Fact]
    public void What_draws_stays()
    {
        var clean = Cleaned(
            Svg(
                "<defs><linearGradient id='g'><stop offset='0' "
                    + "stop-color='red'/></linearGradient></defs><style>.a{fill:url(#g)}</style><rect class='a' width='50' "
                    + "height='20'/><use href='#g'/><text x='5' y='9'>Mast</text><image href='data:image/png;base64,"
                    + Convert.ToBase64String(Solid(3, 2))
                    + "' width='9' height='9'/>"
            )
        );
        foreach (var part in (string[])["linearGradient", "url(#g)", "href=\"#g\"", ">Mast<", "data:image/png"])
            Assert.Contains(part, clean);
        Assert.DoesNotContain("xlink", clean);
    }

    [Theory]
    [InlineData("viewBox='0 0 100 50'", 1920, 960)]
    [InlineData("width='640' height='480'", 1920, 1440)]
    [InlineData("width='10cm' viewBox='0 0 200 100'", 1920, 960)]
    [InlineData("width='100%' height='100%' viewBox='0 0 30 40'", 1920, 2560)]
    [InlineData("", 1920, 960)]
    [InlineData("width='3000' height='1000'", 3000, 1000)]
    [InlineData("viewBox='0 0 10 100'", 410, 4096)]
    public void A_drawing_has_the_shape_that_browsers_give_it_and_is_sharp_on_every_screen(string attributes, int width, int height)
    {
        var picture = PictureReader.Read(Encoding.UTF8.GetBytes(Svg("<circle r='7'/>", attributes)));
        Assert.Equal((width, height), (picture.Width, picture.Height));
    }

    public static TheoryData<string, string> Hostile =>
        new()
        {
            { "entities", "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;'>]>" + Svg("<text>&b;</text>") },
            { "entities", "<!DOCTYPE svg [<!ENTITY x SYSTEM 'file:///etc/passwd'>]>" + Svg("<text>&x;</text>") },
            { "too many parts", Svg(string.Concat(Enumerable.Repeat("<g>", 200)) + string.Concat(Enumerable.Repeat("</g>", 200))) },
            { "too many parts", Svg(string.Concat(Enumerable.Repeat("<g/>", 60_000))) },
            {
                "too many parts",
                Svg(
                    string.Concat(
                        Enumerable
                            .Range(1, 8)
                            .Select(i => $"<g id='n{i}'>{string.Concat(Enumerable.Repeat($"<use href='#n{i - 1}'/>", 10))}</g>")
                    ) + "<circle id='n0' r='1'/>"
                )
            },
            {
                "too many parts",
                Svg(string.Concat(Enumerable.Range(1, 20_000).Reverse().Select(i => $"<g id='n{i}'><use href='#n{i - 1}'/></g>")))
            },
            { "damaged", "<svg xmlns='http://www.w3.org/2000/svg'><rect" },
            { "no size", Svg("<circle r='1'/>", "width='0' height='5'") },
            { "no size", Svg("<circle r='1'/>", "width='1e30' height='5'") },
            { "nothing in this drawing", "<svg xmlns='http://elsewhere.example/'><rect/></svg>" },
            { "web page", "<html><body><svg xmlns='http://www.w3.org/2000/svg'/></body></html>" },
            { "5 MB", Svg(new string(' ', 6 * 1024 * 1024)) },
        };

    [Theory, MemberData(nameof(Hostile))]
    public void A_drawing_that_can_not_be_read_gets_a_sentence(string words, string svg) =>
        Assert.Contains(words, Assert.Throws<PictureRefused>(() => PictureReader.Read(Encoding.UTF8.GetBytes(svg))).Sentence);

    [Fact]
    public void A_drawing_whose_parts_use_each_other_in_a_ring_is_read() =>
        Assert.Contains("<use", Cleaned(Svg("<g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g>")));

    [Fact]
    public void A_drawing_with_a_document_type_is_read() =>
        Assert.Contains(
            "<circle",
            Cleaned(
                "<?xml version='1.0'?><!DOCTYPE svg PUBLIC '-//W3C//DTD SVG 1.1//EN' 'http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd'>"
                    + Svg("<circle r='3'/>")
            )
        );

    [Fact]
    public void A_file_that_is_two_things_at_once_is_a_picture_only()
    {
        // A picture with a web page behind it: what is stored was encoded anew.
        byte[] both = [.. Solid(30, 20), .. "<script>alert(1)</script>"u8];
        Assert.DoesNotContain("alert", Encoding.Latin1.GetString(PictureReader.Read(both).Files[0].Bytes));
        byte[] gif = [.. Convert.FromBase64String(Moving), .. "<script>alert(1)</script>"u8];
        Assert.DoesNotContain("alert", Encoding.Latin1.GetString(PictureReader.Read(gif).Files[0].Bytes));
    }

    private static void AtWorstASentence(byte[] bytes)
    {
        try
        {
            Assert.True(PictureReader.Read(bytes).Width > 0);
        }
        catch (PictureRefused refused)
        {
            Assert.EndsWith(".", refused.Sentence);
        }
    }
}
