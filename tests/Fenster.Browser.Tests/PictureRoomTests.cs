using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;
using OpenQA.Selenium;
using SkiaSharp;

namespace Fenster.BrowserTests;

/// <summary>The picture room: files in, a picture prepared, and what students then receive.</summary>
[Collection("screens")]
public sealed class PictureRoomTests(Demo demo)
{
    private readonly string files = Directory.CreateTempSubdirectory("fenster-pictures-").FullName;

    /// <summary>A light blue picture with a dark red block where a printed word would be.</summary>
    private string Clipping(string name = "clipping.png", int width = 1200, int height = 800)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(new SKColor(190, 220, 240));
            canvas.DrawRect(width * 0.3f, height * 0.4f, width * 0.2f, height * 0.1f, new SKPaint { Color = new SKColor(160, 20, 20) });
        }
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        var path = Path.Combine(files, name);
        File.WriteAllBytes(path, data.ToArray());
        return path;
    }

    /// <summary>A PDF of a page for each word, by the letter of PDF 1.4.</summary>
    private string Pdf(params string[] pages) => Pdf(isLocked: false, pages);

    /// <param name="isLocked">Whether it asks for a password, by the standard handler of PDF 1.4, section 3.5.</param>
    private string Pdf(bool isLocked, params string[] pages)
    {
        var text = new StringBuilder("%PDF-1.4\n");
        var offsets = new List<int>();
        void Object(string body)
        {
            offsets.Add(text.Length);
            text.Append($"{offsets.Count} 0 obj\n{body}\nendobj\n");
        }

        Object("<< /Type /Catalog /Pages 2 0 R >>");
        Object($"<< /Type /Pages /Count {pages.Length} /Kids [{string.Join(' ', pages.Select((_, i) => $"{4 + 2 * i} 0 R"))}] >>");
        Object("<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>");
        foreach (var (word, i) in pages.Select((word, i) => (word, i)))
        {
            Object(
                $"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Resources << /Font << /F 3 0 R >> >> /Contents {5 + 2 * i} 0 R >>"
            );
            var content = $"BT /F 48 Tf 60 140 Td ({word}) Tj ET";
            Object($"<< /Length {content.Length} >>\nstream\n{content}\nendstream");
        }
        // Owner and user entries that no empty password fits.
        var secret = $"<{string.Concat(Enumerable.Repeat("5A", 32))}>";
        if (isLocked)
            Object($"<< /Filter /Standard /V 1 /R 2 /O {secret} /U {secret} /P -4 >>");
        var lockEntry = isLocked ? $" /Encrypt {offsets.Count} 0 R /ID [<0123456789ABCDEF> <0123456789ABCDEF>]" : "";
        var start = text.Length;
        text.Append($"xref\n0 {offsets.Count + 1}\n0000000000 65535 f \n");
        foreach (var offset in offsets)
            text.Append($"{offset:0000000000} 00000 n \n");
        text.Append($"trailer << /Size {offsets.Count + 1} /Root 1 0 R{lockEntry} >>\nstartxref\n{start}\n%%EOF");
        var path = Path.Combine(files, isLocked ? "locked.pdf" : "worksheet.pdf");
        File.WriteAllText(path, text.ToString(), Encoding.Latin1);
        return path;
    }

    private async Task<(Browser Browser, long Id)> Enter(string? document = null)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var id = await teacher.Begin("Pictures");
        if (document is not null)
            (await teacher.Save(id, 1, document)).EnsureSuccessStatusCode();
        var browser = demo.Open();
        browser.SignIn();
        browser.Go($"/activities/{id}/picture");
        return (browser, id);
    }

    private static void Choose(Browser browser, params string[] paths) =>
        browser.Until(
            () =>
            {
                browser.Driver.FindElements(By.CssSelector("#room .choose"))[^1].SendKeys(string.Join('\n', paths));
                return true;
            },
            "a file chooser"
        );

    private static void Tool(Browser browser, string tool) =>
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.CssSelector($"#tool option[value={tool}]")).Click();
                return true;
            },
            $"the tool {tool}"
        );

    /// <summary>A spot on the easel, in shares of what it shows.</summary>
    private static (int X, int Y) On(Browser browser, double across, double down)
    {
        var spot = browser
            .Script<IReadOnlyCollection<object>>(
                """
                const svg = document.querySelector('.easel-picture'), b = svg.viewBox.baseVal
                const p = new DOMPoint(b.x + b.width * arguments[0], b.y + b.height * arguments[1]).matrixTransform(svg.getScreenCTM())
                return [Math.round(p.x), Math.round(p.y)]
                """,
                across,
                down
            )
            .Select(Convert.ToInt32)
            .ToArray();
        return (spot[0], spot[1]);
    }

    private static void Drag(Browser browser, (double X, double Y) from, (double X, double Y) to) =>
        browser.Drag(On(browser, from.X, from.Y), On(browser, (from.X + to.X) / 2, (from.Y + to.Y) / 2), On(browser, to.X, to.Y));

    private static void Use(Browser browser, long id)
    {
        browser.Click("#use");
        browser.Until(() => browser.Path == $"/activities/{id}", "the workbench");
    }

    private async Task<JsonNode> Picture(long id)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var draft = JsonNode.Parse(await teacher.Text($"/activities/{id}?handler=Draft"))!;
        return draft["document"]!["panes"]![0]!["picture"]!;
    }

    /// <summary>Every size of a picture as anyone can fetch it.</summary>
    private async Task<List<SKBitmap>> Served(string media)
    {
        using var http = new HttpClient();
        var sizes = new List<SKBitmap>();
        foreach (var width in (int[])[480, 960, 1920, 4096])
            sizes.Add(SKBitmap.Decode(await http.GetByteArrayAsync(new Uri(demo.Fenster.Address, $"/media/{media}/{width}"))));
        return sizes;
    }

    private static bool HasRed(SKBitmap bitmap) =>
        Enumerable
            .Range(0, bitmap.Width)
            .Any(x => Enumerable.Range(0, bitmap.Height).Any(y => bitmap.GetPixel(x, y) is { Red: > 110, Blue: < 90 }));

    [Fact]
    public async Task A_covered_word_is_gone_from_every_file_a_student_can_get_and_the_patch_has_the_colour_beside_it()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        Choose(browser, Clipping());
        browser.See(".easel-picture image");
        browser.SeeText("#quality", "1200 pixels wide");
        Drag(browser, (0.27, 0.37), (0.53, 0.53));
        browser.SeeText("#fixings", "Cover patch");
        Use(browser, id);

        var picture = await Picture(id);
        Assert.NotEqual((string?)picture["preparation"]!["source"], (string?)picture["media"]);
        foreach (var size in await Served((string)picture["media"]!))
        {
            Assert.False(HasRed(size));
            var patch = size.GetPixel((int)(size.Width * 0.4), (int)(size.Height * 0.45));
            Assert.InRange(patch.Red, 186, 194);
            Assert.InRange(patch.Blue, 236, 244);
        }
        // The source is there still, for its teacher.
        using var owner = await new Visitor(demo.Fenster.Address).SignIn();
        var source = await owner.Get($"/media/{(string)picture["preparation"]!["source"]!}/480");
        Assert.True(HasRed(SKBitmap.Decode(await source.Content.ReadAsByteArrayAsync())));

        // Nothing that a student is sent tells of the source.
        browser.Go($"/activities/{id}/picture");
        browser.SeeText("#fixings", "Cover patch");
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var draft = JsonNode.Parse(await teacher.Text($"/activities/{id}?handler=Draft"))!;
        draft["document"]!["panes"]![0]!["targets"] = new JsonArray(
            JsonNode.Parse(
                """{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {"x": 100, "y": 100}, "radius": 60}, "accepts": [{"label": "a"}]}"""
            )
        );
        draft["document"]!["panes"]![0]!["labels"] = new JsonArray(JsonNode.Parse("""{"id": "a", "text": "Mast"}"""));
        await teacher.Get($"/activities/{id}");
        (await teacher.Save(id, (long)draft["version"]!, draft["document"]!.ToJsonString())).EnsureSuccessStatusCode();
        await teacher.Get($"/activities/{id}/share");
        var code = System
            .Text.RegularExpressions.Regex.Match(
                await (await teacher.Post($"/activities/{id}/share?handler=Give", ("to", "0"))).Content.ReadAsStringAsync(),
                "data-code=\"(\\w+)\"\\s+data-to=\"anyone\""
            )
            .Groups[1]
            .Value;
        using var student = new Visitor(demo.Fenster.Address) { Record = new() };
        await student.Join(code, "Ada");
        await student.View(code);
        await student.HandIn(code);
        var seen = Encoding.UTF8.GetString(student.Record.ToArray());
        Assert.Contains((string)picture["media"]!, seen);
        Assert.DoesNotContain((string)picture["preparation"]!["source"]!, seen);
    }

    [Fact]
    public async Task A_turn_a_cut_and_a_margin_are_burnt_in_and_zones_move_with_the_picture()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        Choose(browser, Clipping());
        browser.See(".easel-picture image");
        browser.Click("#turn-right");
        Tool(browser, "crop");
        // Of the picture standing upright now, its upper half.
        Drag(browser, (-0.1, 0.0005), (1.1, 0.5));
        browser.SeeText("#quality", "800 pixels wide");
        // What is cut off stays in sight, so that a corner can be taken hold of again, and its share can be typed.
        string Cut(string side) => browser.See($"[data-cut={side}]").GetDomProperty("value")!;
        Assert.Equal(("0", "50"), (Cut("left"), Cut("bottom")));
        browser.Drag(browser.Spot("[data-grip='2']"), On(browser, 0.6, 0.6), On(browser, 0.52, 0.7));
        browser.Until(() => Cut("right") == "48", "a narrower cut");
        browser.Fill("[data-cut=right]", "0");
        browser.Fill("[data-cut=bottom]", "50");
        browser.Keys(Keys.Tab);
        browser.SeeText("#quality", "800 pixels wide");
        browser.Fill("[data-side=right]", "50");
        browser.Keys(Keys.Tab);
        Use(browser, id);
        var picture = await Picture(id);
        Assert.Equal(500, (double)picture["margins"]!["right"]!);
        var largest = (await Served((string)picture["media"]!))[^1];
        Assert.Equal(1200, largest.Width);
        Assert.InRange(largest.Height, 596, 604);
        // The red block, at 0.3 to 0.5 across and 0.4 to 0.5 down, now lies at 0.5 to 0.6 across and 0.3 to 0.5 of the height down.
        Assert.True(largest.GetPixel((int)(800 * 0.55), (int)(1200 * 0.4)) is { Red: > 110, Blue: < 90 });
        Assert.True(largest.GetPixel((int)(800 * 0.45), (int)(1200 * 0.4)) is { Blue: > 200 });
        Assert.True(largest.GetPixel(1100, 300) is { Red: > 250, Green: > 250, Blue: > 250 });
    }

    [Fact]
    public async Task Leader_lines_captions_and_boxes_are_made_by_drag_and_by_keyboard_and_undone()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        Choose(browser, Clipping());
        browser.See(".easel-picture image");
        Tool(browser, "line");
        for (var i = 0; i < 6; i++)
            Drag(browser, (0.1 + i * 0.1, 0.9), (0.2 + i * 0.1, 0.6));
        browser.Until(() => browser.Count("#fixings li") == 6, "six leader lines");
        // The end of a line is taken hold of; the click before selects it.
        double End() =>
            Convert.ToDouble(browser.Script<object>("return document.querySelector('[data-fixing=\"5\"] line').x2.baseVal.value"));
        browser.ClickAt(On(browser, 0.65, 0.75));
        browser.Drag(browser.Spot("[data-grip='1']"), On(browser, 0.75, 0.55), On(browser, 0.9, 0.5));
        Assert.InRange(End(), 895, 905);
        Tool(browser, "cover");
        // A patch that begins on a line does not move the line, and grows by its corner and by keys.
        Drag(browser, (0.15, 0.75), (0.3, 0.95));
        browser.Until(() => browser.Count("#fixings li") == 7, "a patch");
        double Wide() =>
            Convert.ToDouble(browser.Script<object>("return document.querySelector('[data-fixing=\"6\"] rect').width.baseVal.value"));
        Assert.InRange(Wide(), 145, 155);
        browser.Drag(browser.Spot("[data-grip='2']"), On(browser, 0.4, 0.9), On(browser, 0.45, 0.9));
        Assert.InRange(Wide(), 295, 305);
        browser.Until(
            () =>
                browser.Script<bool>(
                    "document.querySelectorAll('.fixing-name')[6].focus(); return "
                        + "document.activeElement.matches('#fixings li:last-child .fixing-name')"
                ),
            "the patch's line"
        );
        var wide = Wide();
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Alt).SendKeys(Keys.ArrowRight).KeyUp(Keys.Alt).Perform();
        Assert.Equal(wide + 1, Wide(), 0.01);
        browser.Keys(Keys.Delete);
        browser.Until(() => browser.Count("#fixings li") == 6, "the patch to be gone");
        Tool(browser, "caption");
        browser.ClickAt(On(browser, 0.8, 0.2));
        browser.See(".caption-text");
        browser.Until(() => browser.HasFocus(".caption-text"), "the caption's text to be typed over");
        browser.Keys("Stern", Keys.Enter);
        browser.SeeText(".fixing-caption", "Stern");
        Tool(browser, "box");
        browser.Click("#by-key");
        browser.Until(() => browser.HasFocus("#fixings li:last-child .fixing-name"), "the new box to be in hand");
        var before = Convert.ToDouble(browser.Script<object>("return document.querySelector('[data-fixing=\"7\"] rect').x.baseVal.value"));
        browser.Keys(Keys.ArrowRight, Keys.ArrowRight);
        Assert.Equal(
            before + 2,
            Convert.ToDouble(browser.Script<object>("return document.querySelector('[data-fixing=\"7\"] rect').x.baseVal.value")),
            0.01
        );
        browser.Keys(Keys.Delete);
        browser.Until(() => browser.Count("#fixings li") == 7, "the box to be gone");
        browser.Click("#undo");
        browser.Until(() => browser.Count("#fixings li") == 8, "the box to be back");
        Assert.Empty(browser.AxeViolations());
        Use(browser, id);
        Assert.Equal(8, (await Picture(id))["preparation"]!["fixings"]!.AsArray().Count);
    }

    [Fact]
    public async Task Of_several_files_each_arrives_or_fails_by_itself()
    {
        var (browser, _) = await Enter();
        using var __ = browser;
        var broken = Path.Combine(files, "broken.png");
        File.WriteAllText(broken, "This is no picture.");
        var drawing = Path.Combine(files, "drawing.svg");
        File.WriteAllText(
            drawing,
            "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 900 600'><circle cx='450' cy='300' r='200' fill='teal'/></svg>"
        );
        Choose(browser, broken, Clipping("first.png"), drawing);
        browser.SeeText(".arrival-failed", "broken.png: This is not a picture");
        browser.Until(() => browser.Count(".shelf-picture") >= 2, "two pictures on the shelf");
        browser.SeeText("#shelf", "first.png");
        browser.SeeText("#shelf", "drawing.svg");
        browser.See(".easel-picture image");
        browser.Until(
            () =>
                browser.Driver.FindElements(By.CssSelector(".shelf-picture")).First(e => e.Text.Contains("drawing")) is { } e && Clicked(e),
            "the drawing on the shelf"
        );
        browser.SeeText("#quality", "1920 pixels wide: sharp on every screen");
    }

    private static bool Clicked(IWebElement element)
    {
        element.Click();
        return true;
    }

    [Fact]
    public async Task Only_the_chosen_pages_of_a_pdf_are_sent()
    {
        var (browser, _) = await Enter();
        using var __ = browser;
        Choose(browser, Pdf("Question", "Answer", "Third"));
        browser.See("#pages[open]");
        browser.Until(() => browser.Count(".page-sheet canvas") == 3, "three thumbnails");
        Assert.Empty(browser.ConsoleErrors());
        Assert.Empty(browser.AxeViolations());
        browser.Click("[data-page='1'] .page");
        browser.Click("[data-page='3'] .page");
        browser.SeeText("#pages-take", "Take these 2 pages");
        browser.Click("#pages-take");
        browser.SeeText("#shelf", "worksheet, page 1.png");
        browser.SeeText("#shelf", "worksheet, page 3.png");
        Assert.DoesNotContain("page 2", browser.See("#shelf").Text);
        browser.SeeText("#quality", "2000 pixels wide");
        var broken = Path.Combine(files, "broken.pdf");
        File.WriteAllText(broken, "%PDF-1.4 and nothing more");
        Choose(browser, broken);
        browser.SeeText(".arrival-failed", "broken.pdf is damaged or no PDF");
        browser.Click(".arrival-failed button");
        Choose(browser, Pdf(isLocked: true, "Secret"));
        browser.SeeText(".arrival-failed", "locked.pdf is locked with a password");
    }

    [Fact]
    public async Task Ten_pictures_become_ten_equal_labels_at_once_and_a_click_each_gives_them_their_place()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        browser.Go($"/activities/{id}");
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Clipping());
                return true;
            },
            "a file chooser"
        );
        browser.See(".stage-picture");
        var tiles = Enumerable
            .Range(1, 10)
            .Select(i =>
            {
                using var bitmap = new SKBitmap(200 + 40 * i, 300);
                using (var canvas = new SKCanvas(bitmap))
                {
                    canvas.Clear(SKColors.White);
                    canvas.DrawCircle(100 + 5 * i, 150, 20 + 8 * i, new SKPaint { Color = SKColor.FromHsl(36 * i, 80, 40) });
                }
                using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
                var path = Path.Combine(files, $"flag_{i:00}.png");
                File.WriteAllBytes(path, data.ToArray());
                return path;
            })
            .ToList();
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("label-files")).SendKeys(string.Join('\n', tiles));
                return true;
            },
            "a chooser of labels"
        );
        browser.Until(() => browser.Count(".row-line") == 10, "ten rows");
        browser.Until(() => browser.Count(".bench-bank .label-picture[src^='/media']") == 10, "ten tiles in the bank");
        Assert.Single(
            browser.Script<IReadOnlyCollection<object>>(
                "return [...new Set([...document.querySelectorAll('.bench-bank "
                    + ".label-picture')].map(i => Math.round(i.getBoundingClientRect().height)))]"
            )
        );
        browser.SeeText(".says", "A click puts flag 01 there.");
        for (var i = 0; i < 10; i++)
            browser.ClickAt(browser.Spot("#mat .stage", 0.09 + i % 5 * 0.2, i < 5 ? 0.2 : 0.7));
        browser.SeeText(".ledger-count", "10 zones");
        browser.SeeText("#save-state", "Saved");

        browser.Go($"/activities/{id}/try/screen");
        browser.Until(() => browser.Count(".bank .label-picture") == 10, "ten tiles for the student");
        browser.ClickAt(browser.Spot(".bank .label"));
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.See(".label.placed.with-picture[data-zone=z1] img");
        // The label is drawn anew when the server has it.
        Assert.Matches(
            "^Picture [0-9]+$",
            browser.Until(() => browser.Driver.FindElement(By.CssSelector(".label.placed img")).GetDomAttribute("alt"), "what it is called")
        );
        Assert.DoesNotContain("flag", browser.Driver.PageSource);
        Assert.Empty(browser.AxeViolations());
    }

    /// <summary>Half a second of a tone, as a WAV file by the letter.</summary>
    private string Tone(string name, double frequency)
    {
        const int Rate = 8000;
        var samples = Enumerable
            .Range(0, Rate / 2)
            .SelectMany(i => BitConverter.GetBytes((short)(9000 * Math.Sin(2 * Math.PI * frequency * i / Rate))))
            .ToArray();
        using var file = new BinaryWriter(File.Create(Path.Combine(files, name)));
        file.Write("RIFF"u8);
        file.Write(36 + samples.Length);
        file.Write("WAVEfmt "u8);
        file.Write(16);
        file.Write((short)1);
        file.Write((short)1);
        file.Write(Rate);
        file.Write(Rate * 2);
        file.Write((short)2);
        file.Write((short)16);
        file.Write("data"u8);
        file.Write(samples.Length);
        file.Write(samples);
        return Path.Combine(files, name);
    }

    [Fact]
    public async Task Sounds_become_labels_that_play_when_they_are_picked_up()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        browser.Go($"/activities/{id}");
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Clipping());
                return true;
            },
            "a file chooser"
        );
        browser.See(".stage-picture");
        var broken = Path.Combine(files, "broken.mp3");
        File.WriteAllText(broken, "This is no sound at all.");
        browser.Until(
            () =>
            {
                browser
                    .Driver.FindElement(By.Id("label-files"))
                    .SendKeys(string.Join('\n', Tone("one_long_blast.wav", 200), broken, Tone("two_short_blasts.wav", 400)));
                return true;
            },
            "a chooser of sounds"
        );
        browser.Until(() => browser.Count(".row-line") == 2, "two rows");
        browser.SeeText(".notice-problem", "broken.mp3: This is not a sound");
        browser.SeeText(".says", "A click puts one long blast there.");
        for (var i = 0; i < 2; i++)
            browser.ClickAt(browser.Spot("#mat .stage", 0.3 + i * 0.4, 0.3));
        browser.SeeText(".ledger-count", "2 zones");
        browser.SeeText("#save-state", "Saved");

        browser.Go($"/activities/{id}/try/screen");
        browser.See(".bank .label-sound");
        // A file's name may be the answer: students know the sound by a number, until the teacher says otherwise.
        Assert.Matches("^Sound [12]$", browser.See(".bank .label").Text);
        Assert.DoesNotContain("blast", browser.Driver.PageSource);
        browser.Script<object?>(
            "window.played = []; const real = HTMLMediaElement.prototype.play; "
                + "HTMLMediaElement.prototype.play = function () { window.played.push(this); return real.call(this) }"
        );
        browser.ClickAt(browser.Spot(".bank .label"));
        browser.Until(
            () => browser.Script<bool>("return window.played.length === 1 && window.played[0].currentTime > 0"),
            "the sound to be heard"
        );
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.See(".label.placed .label-sound");
        Assert.Empty(browser.ConsoleErrors());
        Assert.Empty(browser.AxeViolations());
    }

    [Fact]
    public async Task A_clipping_is_pasted_and_several_pictures_are_dropped_each_for_a_pane_of_its_own()
    {
        var (browser, id) = await Enter();
        using var _ = browser;
        const string Give = """
            const canvas = document.createElement('canvas')
            Object.assign(canvas, { width: 800, height: 500 })
            const [event, count, done] = [arguments[0], arguments[1], arguments[2]]
            canvas.getContext('2d').fillRect(0, 0, 400, 500)
            canvas.toBlob(blob => {
              const data = new DataTransfer()
              for (let i = 0; i < count; i++) data.items.add(new File([blob, String(i)], `clipping-${i}.png`, { type: 'image/png' }))
              document.dispatchEvent(event === 'paste' ? new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }) : new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
              done()
            })
            """;
        void Do(string what, int count) => ((IJavaScriptExecutor)browser.Driver).ExecuteAsyncScript(Give, what, count);
        Do("paste", 1);
        browser.See(".easel-picture image");
        Assert.False(browser.See("#use").GetDomAttribute("disabled") is not null);
        Do("drop", 3);
        browser.SeeText("#each", "3 pictures arrived");
        browser.Click("[data-each=Panes]");
        browser.Until(() => browser.Count(".cell:not(.cell-add)") == 3, "three panes");
        Assert.Equal($"/activities/{id}", browser.Path);

        browser.Go($"/activities/{id}/picture");
        browser.See(".easel-picture image");
        Do("drop", 2);
        browser.SeeText("#each", "2 pictures arrived");
        browser.Click("[data-each=Labels]");
        browser.Until(() => browser.Count(".bench-bank .label-picture[src^='/media']") == 2, "two labels");
        Assert.Equal(
            ["clipping 0", "clipping 1"],
            browser.Driver.FindElements(By.CssSelector(".row-text")).Select(field => field.GetDomProperty("value"))
        );
    }

    [Theory]
    [InlineData(false, "ltr")]
    [InlineData(true, "rtl")]
    public void The_picture_room_has_no_accessibility_violation(bool dark, string direction)
    {
        using var browser = demo.Open(dark: dark);
        browser.SignIn();
        browser.Go("/activities/2/picture");
        browser.See(".easel-picture image");
        browser.Until(() => browser.Count("#library .shelf-picture") > 40, "the library");
        browser.Script<object?>("document.documentElement.dir = arguments[0]", direction);
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
    }
}
