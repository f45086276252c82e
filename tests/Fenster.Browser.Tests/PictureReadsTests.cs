using System.Text.Json;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>What a picture already says is taken from it: its shapes become regions.</summary>
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
        var draft = browser.Script<string>(
            "const r = new XMLHttpRequest(); r.open('GET', location.pathname + '?handler=Draft', false); r.send(); return r.responseText"
        );
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
        Do(() => browser.Click("#publish"));
        browser.See("#join-code");
        Assert.True(interactions <= 60, $"{interactions} interactions");
    }
}
