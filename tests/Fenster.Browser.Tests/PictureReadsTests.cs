using System.Text.Json;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>
/// What a picture already says is taken from it: its shapes become regions, its printed names labels, and the drawings on a sheet
/// labels with pictures.
/// </summary>
[Collection("targets")]
public sealed class PictureReadsTests(Demo demo)
{
    private static string Library(string name) => Path.Combine(RunningFenster.Repository, "src/Fenster.Web/wwwroot/library", $"{name}.svg");

    private static void Begin(Browser browser, string title, string file)
    {
        browser.Fill("#title", title);
        browser.Keys(Keys.Enter);
        browser.See(".get-picture");
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("picture-file")).SendKeys(file);
                return true;
            },
            "a file chooser"
        );
        browser.See(".stage");
    }

    /// <summary>The pane as it is stored.</summary>
    private static JsonElement Pane(Browser browser)
    {
        browser.SeeText("#save-state", "Saved");
        var draft = browser.Draft();
        return JsonDocument.Parse(draft).RootElement.GetProperty("document").GetProperty("panes")[0];
    }

    private static void Paste(Browser browser, string text) =>
        browser.Script<object?>(
            "const d = new DataTransfer(); d.setData('text/plain', arguments[0]); document.activeElement.dispatchEvent(new "
                + "ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))",
            text
        );

    [Fact]
    public void A_click_makes_a_zone_as_large_as_the_shape_there_and_gives_the_next_name_its_place()
    {
        using var browser = demo.Open();
        browser.SignIn();
        Begin(browser, "Shapes", Library("animal-cell"));
        browser.See("#shape option[value=traced]").Click();
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
        browser.Keys("Nucleus", Keys.Enter);
        var region = Pane(browser).GetProperty("targets")[0].GetProperty("region");
        Assert.Equal("polygon", region.GetProperty("kind").GetString());
        var xs = region.GetProperty("vertices").EnumerateArray().Select(vertex => vertex.GetProperty("x").GetDouble()).ToList();
        // In the drawing the nucleus is a circle of 132 of its 1000 units about (500, 363), inside a line.
        Assert.InRange(xs.Max() - xs.Min(), 250, 266);
        Assert.InRange(xs.Average(), 490, 510);

        // More of it: the slider at what is selected, undone by one step.
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        browser.See(".at-reach input");
        browser.Script<object?>(
            "const r = document.querySelector('.at-reach input'); r.value = 100; r.dispatchEvent(new Event('input', { bubbles: true }))"
        );
        browser.Until(
            () => Pane(browser).GetProperty("targets")[0].GetProperty("region").GetRawText() != region.GetRawText(),
            "another outline"
        );
        browser.Ctrl("z");
        browser.Until(
            () => Pane(browser).GetProperty("targets")[0].GetProperty("region").GetRawText() == region.GetRawText(),
            "the outline of before"
        );

        // Where there is no shape, it is said and nothing is made.
        browser.ClickAt(browser.Spot(".stage", 0.02, 0.02));
        browser.SeeText(".notice-problem", "no shape there");
        Assert.Equal(1, browser.Count(".row-line"));

        browser.Click(".add-distractor");
        browser.Until(() => browser.HasFocus(".row-line:last-of-type .row-text"), "a row");
        Paste(browser, "Vacuole\nMitochondrion");
        browser.SeeText(".says", "A click puts Vacuole there");
        browser.ClickAt(browser.Spot(".stage", 0.75, 0.55));
        browser.SeeText(".says", "A click puts Mitochondrion there");
        Assert.Equal("polygon", Pane(browser).GetProperty("targets")[1].GetProperty("region").GetProperty("kind").GetString());
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Twenty_digits_that_are_used_again_in_eleven_boxes_take_at_most_sixty_interactions()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var interactions = 0;
        void Do(Action action)
        {
            action();
            interactions++;
        }
        Do(() => browser.Fill("#title", "Circle"));
        Do(() => browser.Keys(Keys.Enter));
        browser.See(".get-picture");
        Do(() => browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Library("number-line")));
        browser.See(".stage");
        const string digits = "31415926535";
        for (var i = 0; i < digits.Length; i++)
        {
            Do(() => browser.ClickAt(browser.Spot(".stage", 0.08 + i % 6 * 0.16, 0.2 + i / 6 * 0.4)));
            browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
            Do(() => browser.Keys($"{digits[i]}", Keys.Enter));
        }
        // Digits that are there already become one label with as many copies, each by the mend beside its row.
        for (var left = 4; left > 0; left--)
        {
            browser.Until(() => browser.Count(".row-line [data-mend=makeOne]:not([style*='none'])") == left, $"{left} of the same");
            Do(() => browser.Click(".row-line [data-mend=makeOne]:not([style*='none'])"));
        }
        Do(() => browser.Click(".add-distractor"));
        browser.Until(() => browser.HasFocus(".row-line:last-of-type .row-text"), "a row");
        Do(() => Paste(browser, "0\n7\n8"));
        browser.Until(() => browser.Count(".row-line") == 14, "three distractors");
        // 11 and 3 copies so far; six more of them twice.
        foreach (var row in (int[])[3, 6, 7, 8, 12, 13])
        {
            Do(() => browser.Click($".row-line:nth-of-type({row}) .row-kind button[aria-expanded]"));
            browser.See($".row-line:nth-of-type({row}) [data-name='label.copies']");
            Do(() => browser.Driver.FindElement(By.CssSelector("[data-name='label.copies'] option[value='2']")).Click());
        }
        var labels = Pane(browser).GetProperty("labels").EnumerateArray().ToList();
        Assert.Equal(10, labels.Count);
        Assert.Equal(20, labels.Sum(label => label.GetProperty("copies").GetInt32()));
        // A closed row says it in a word.
        browser.SeeText(".row-line:nth-of-type(3) .row-used", "×2");
        Do(() => browser.Click(".top-actions .btn-primary"));
        Do(() => browser.Click("#give-anyone"));
        browser.See(".join-code");
        Assert.True(interactions <= 60, $"{interactions} interactions");
    }

    /// <summary>A picture that the browser draws, as a file.</summary>
    /// <param name="drawing">Draws on <c>x</c>, the context of a white canvas of 1200 by 800 pixels.</param>
    private static string Drawn(Browser browser, string name, string drawing)
    {
        var png = browser.Script<string>(
            "const c = document.createElement('canvas'); c.width = 1200; c.height = 800; const x = c.getContext('2d'); "
                + "x.fillStyle = '#fff'; x.fillRect(0, 0, 1200, 800); x.fillStyle = '#111'; "
                + $"{drawing}; return c.toDataURL('image/png').split(',')[1]"
        );
        var file = Path.Combine(Path.GetTempPath(), $"{name}-{Guid.NewGuid():n}.png");
        File.WriteAllBytes(file, Convert.FromBase64String(png));
        return file;
    }

    [Fact]
    public void Twelve_printed_names_become_labels_in_at_most_eight_interactions()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var (names, file) = (PrintedDiagram.Names, PrintedDiagram.Draw(browser));
        var interactions = 0;
        void Do(Action action)
        {
            action();
            interactions++;
        }
        Do(() => browser.Fill("#title", "Printed"));
        Do(() => browser.Keys(Keys.Enter));
        browser.See(".get-picture");
        Do(() => browser.Driver.FindElement(By.Id("picture-file")).SendKeys(file));
        browser.See(".stage");
        WaitForPicture(browser);
        Do(() => browser.Click("#read-names"));
        // Nothing happens before the teacher says so.
        browser.Until(() => browser.Count(".read li") == names.Length, "twelve names");
        Assert.Equal(names.Length, browser.Count(".read-box"));
        Assert.Equal(0, browser.Count(".row-line"));
        Assert.Empty(browser.AxeViolations());
        Do(() => browser.Click("#make-names"));
        browser.Until(() => browser.Count(".row-line") == names.Length, "twelve rows");
        var pane = Pane(browser);
        Assert.Equal(
            names.Order(),
            pane.GetProperty("labels").EnumerateArray().Select(label => label.GetProperty("text").GetString()!).Order()
        );
        Assert.Equal(names.Length, pane.GetProperty("picture").GetProperty("preparation").GetProperty("fixings").GetArrayLength());
        Do(() => browser.Click(".top-actions .btn-primary"));
        Do(() => browser.Click("#give-anyone"));
        browser.See(".join-code");
        Assert.True(interactions <= 8, $"{interactions} interactions");
        File.Delete(file);
    }

    private static void WaitForPicture(Browser browser)
    {
        browser.SeeText("#save-state", "Saved");
        browser.Until(() => browser.Script<bool>("return document.querySelector('.stage-picture').complete"), "the picture");
    }

    [Fact]
    public void Names_are_mended_or_left_and_all_is_undone_by_one_step()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var file = Drawn(
            browser,
            "light",
            "x.font = '26px DejaVu Sans'; x.fillText('Harbour', 100, 200); x.fillText('Lighthouse', 700, 200); x.fillStyle = '#123a5c'; "
                + "x.fillRect(300, 500, 320, 110); x.fillStyle = '#fff'; x.fillText('Open water', 380, 562)"
        );
        Begin(browser, "Light on dark", file);
        WaitForPicture(browser);
        browser.Click("#read-names");
        browser.Until(() => browser.Count(".read li") == 3, "three names, one of them light on dark");
        browser.Click(".read li:nth-of-type(1) input[type=checkbox]");
        browser.SeeText("#make-names", "Make 2 labels");
        browser.Script<object?>(
            "const f = document.querySelector('.read li:nth-of-type(2) .row-text'); f.value = 'Tower'; f.dispatchEvent(new Event('change'))"
        );
        browser.Click("#make-names");
        browser.Until(() => browser.Count(".row-line") == 2, "two rows");
        Assert.Contains("Tower", Pane(browser).GetProperty("labels").GetRawText());
        browser.Ctrl("z");
        browser.Until(() => browser.Count(".row-line") == 0, "nothing made");
        Assert.Equal(JsonValueKind.Null, Pane(browser).GetProperty("picture").GetProperty("preparation").ValueKind);

        browser.Click("#read-names");
        browser.Until(() => browser.Count(".read li") == 3, "the names again");
        browser.Click(".read p .btn-plain");
        browser.Until(() => browser.Count(".read-box") == 0, "the names left");
        Assert.Empty(browser.ConsoleErrors());
        File.Delete(file);
    }

    [Fact]
    public void A_sheet_of_drawings_becomes_labels_with_pictures_after_a_look()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var sheet = Drawn(
            browser,
            "sheet",
            "for (let i = 0; i < 10; i++) { x.beginPath(); x.ellipse(130 + i % 5 * 230, 200 + 380 * Math.floor(i / 5), 40 + 6 * i, 90, 0, 0, 7); "
                + "x.lineWidth = 6; x.stroke() }"
        );
        Begin(browser, "From a sheet", Library("animal-cell"));
        browser.Driver.FindElement(By.Id("sheet-file")).SendKeys(sheet);
        browser.Until(() => browser.Count(".read li img") == 10, "ten drawings");
        Assert.Equal(0, browser.Count(".row-line"));
        browser.Click(".read li:nth-of-type(10) input[type=checkbox]");
        browser.Click("#make-sheet");
        browser.Until(() => browser.Count(".row-line") == 9, "nine rows");
        var faces = Pane(browser).GetProperty("labels").EnumerateArray().Select(label => label.GetProperty("face")).ToList();
        Assert.All(faces, face => Assert.Equal("picture", face.GetProperty("kind").GetString()));
        // Trimmed: the ninth is wider than the first.
        double Shape(JsonElement face) => face.GetProperty("width").GetDouble() / face.GetProperty("height").GetDouble();
        Assert.True(Shape(faces[8]) > Shape(faces[0]) * 1.5, $"{Shape(faces[0])} {Shape(faces[8])}");
        browser.Ctrl("z");
        browser.Until(() => browser.Count(".row-line") == 0, "one step back");

        browser
            .Driver.FindElement(By.Id("sheet-file"))
            .SendKeys(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"));
        browser.SeeText(".notice-problem", "no single drawings");
        Assert.Empty(browser.ConsoleErrors());
        File.Delete(sheet);
    }
}
