using System.Text;
using Fenster.Formats.Pictures;
using Fenster.Testing;

namespace Fenster.Formats.Tests;

/// <summary>Drawings that mean to reach outside, to act, or to keep the server busy.</summary>
public sealed class HostileDrawingsTests
{
    private static string Clean(string inside, string attributes = "") =>
        Encoding.UTF8.GetString(
            SvgCleaner
                .Clean(
                    Encoding.UTF8.GetBytes(
                        $"<svg xmlns='http://www.w3.org/2000/svg' width='300' height='200' {attributes}>{inside}<rect width='9' height='9'/></svg>"
                    )
                )
                .Bytes
        );

    [Theory]
    [InlineData("<style>@im<x>..</x>port \"https://elsewhere.example/a.css\";</style>")]
    [InlineData("<style>@im<g/>port url(https://elsewhere.example/a.css);</style>")]
    [InlineData("<style>@import 'https://elsewhere.example/a.css';</style>")]
    [InlineData("<style>rect{fill:ur<x/>l(https://elsewhere.example/a.png)}</style>")]
    [InlineData("<style>rect{background:image-set(\"https://elsewhere.example/a.png\" 1x)}</style>")]
    [InlineData("<style>rect{background:-webkit-image-set(\"https://elsewhere.example/a.png\" 1x)}</style>")]
    [InlineData("<style>@font-face{font-family:x;src:src(\"https://elsewhere.example/a.woff\")}</style>")]
    [InlineData("<style>rect{fill:src(\"https://elsewhere.example/a\")}</style>")]
    [InlineData("<style>rect{fill:\\75 rl(https://elsewhere.example/a)}</style>")]
    [InlineData("<style>rect{fill:u\\rl(https://elsewhere.example/a)}</style>")]
    [InlineData("<style>@media screen{rect{fill:url( https://elsewhere.example/a)}}</style>")]
    [InlineData("<style>@namespace 'https://elsewhere.example/';</style>")]
    [InlineData("<style>rect{cursor:cross-fade(url(https://elsewhere.example/a),url(#b))}</style>")]
    [InlineData("<style>rect{mask:element(#a)}/*</style><style>*/rect{fill:url(//elsewhere.example/a)}</style>")]
    [InlineData("<rect fill='image-set(\"https://elsewhere.example/a.png\" 1x)'/>")]
    [InlineData("<rect style='fill:url(&quot;https://elsewhere.example/a&quot;)'/>")]
    [InlineData("<rect style='background:src(&quot;https://elsewhere.example/a&quot;)'/>")]
    [InlineData("<image href='data:image/svg+xml;base64,PHN2Zy8+'/>")]
    [InlineData("<use href='https://elsewhere.example/a.svg#b'/>")]
    public void Nothing_in_a_drawing_reaches_outside(string inside)
    {
        var clean = Clean(inside);
        Assert.DoesNotContain("elsewhere", clean);
        Assert.DoesNotContain("svg+xml", clean);
        Assert.Contains("<rect", clean);
    }

    [Fact]
    public void A_style_that_draws_stays()
    {
        var clean = Clean(
            "<style>.a, rect > path { fill: rgb(1, 2, 3); stroke: url(#b) } @media (min-width: 9px) { .a { opacity: .5 } }</style><path class='a' transform='translate(1 2)' fill='url(#b)'/>"
        );
        Assert.Contains("stroke:url(#b)", clean);
        Assert.Contains("opacity", clean);
        Assert.Contains("translate(1 2)", clean);
        Assert.Contains("rect", clean);
        // What came out once comes out the same again.
        Assert.Equal(clean, Encoding.UTF8.GetString(SvgCleaner.Clean(Encoding.UTF8.GetBytes(clean)).Bytes));
    }

    public static TheoryData<string, string> Heavy =>
        new()
        {
            { "blanks in a reference", $"<image href='data:image/png;base64,{new string(' ', 400_000)}!'/>" },
            { "blanks before a reference", $"<use href='{new string(' ', 400_000)}x'/>" },
            { "nested elements", string.Concat(Enumerable.Repeat("<g>", 70_000)) + string.Concat(Enumerable.Repeat("</g>", 70_000)) },
            { "attributes", $"<g {string.Concat(Enumerable.Range(0, 20_000).Select(i => $"a{i}='1' "))}/>" },
            { "brackets in a style", $"<style>{new string('{', 100_000)}</style>" },
            { "selectors in a style", $"<style>{string.Concat(Enumerable.Repeat("a>", 50_000))}b{{fill:red}}</style>" },
            { "functions in a value", $"<rect fill='{string.Concat(Enumerable.Repeat("calc(", 80_000))}'/>" },
        };

    /// <summary>Each is read or refused in a moment: what took minutes is told from what takes a second by a wide margin.</summary>
    [Theory, MemberData(nameof(Heavy))]
    public async Task A_heavy_drawing_holds_nobody_up(string what, string inside)
    {
        var cleaning = Task.Run(() =>
        {
            try
            {
                Clean(inside);
            }
            catch (PictureRefused refused)
            {
                Assert.NotEmpty(refused.Sentence);
            }
        });
        Assert.True(await Task.WhenAny(cleaning, Task.Delay(TimeSpan.FromSeconds(20))) == cleaning, what);
        await cleaning;
    }
}
