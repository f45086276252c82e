using System.Text.Json;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>What is matched is built where students will see it: typed, pasted, dropped and linked on the cards.</summary>
[Collection("targets")]
public sealed class MatchBenchTests(Demo demo)
{
    private static void Begin(Browser browser, string title)
    {
        browser.SignIn();
        browser.Fill("#title", title);
        browser.Click(".new-activity .btn-primary");
        browser.Click(".get-picture .btn-outline-primary");
        browser.See(".match-edit");
    }

    private static string Card(string side, int number) => $".match-column[data-side={side}] li:nth-child({number})";

    private static void Focus(Browser browser, string css) =>
        browser.Until(
            () =>
                browser.Script<bool>(
                    "const e = document.querySelector(arguments[0]); e?.focus(); return document.activeElement === e",
                    css
                ),
            $"the focus on {css}"
        );

    /// <summary>The pairs of the first matching, by their words, as they are stored.</summary>
    private static string Pairs(Browser browser)
    {
        browser.SeeText("#save-state", "Saved");
        var draft = browser.Draft();
        var matching = JsonDocument.Parse(draft).RootElement.GetProperty("document").GetProperty("panes")[0].GetProperty("targets")[0];
        string Text(string side, string id) =>
            matching
                .GetProperty(side)
                .EnumerateArray()
                .First(item => item.GetProperty("id").GetString() == id)
                .GetProperty("text")
                .GetString()!;
        return string.Join(
            "; ",
            matching
                .GetProperty("pairs")
                .EnumerateArray()
                .Select(pair =>
                    $"{Text("left", pair.GetProperty("left").GetString()!)}={Text("right", pair.GetProperty("right").GetString()!)}"
                )
        );
    }

    private static void Reach(Browser browser, string pairs) =>
        browser.Until(() => Pairs(browser) == pairs, $"{pairs}, not {Pairs(browser)}");

    [Fact]
    public void Pairs_are_typed_one_after_the_other_with_Enter_alone()
    {
        using var browser = demo.Open();
        Begin(browser, "Typed pairs");
        Focus(browser, $"{Card("left", 1)} .match-text");
        foreach (var words in (string[])["One", "I", "Two", "II", "Three"])
            browser.Keys(words, Keys.Enter);
        browser.Keys("III");
        Reach(browser, "One=I; Two=II; Three=III");
        Assert.Equal(3, browser.Count(".match-bench .ribbon"));
        Assert.Equal(0, browser.Count("#proof-light.light-blocks"));
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
    }

    [Fact]
    public void Two_columns_of_a_spreadsheet_are_pasted_and_undone_in_one_step()
    {
        using var browser = demo.Open();
        Begin(browser, "Pasted pairs");
        Focus(browser, $"{Card("left", 1)} .match-text");
        browser.Script<object?>(
            """
            const data = new DataTransfer()
            data.setData('text/plain', arguments[0])
            document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
            """,
            "cow\tVache\r\nhorse\tCheval\r\npig\tCochon\r\n"
        );
        Reach(browser, "cow=Vache; horse=Cheval; pig=Cochon");
        browser.Ctrl("z");
        browser.Until(() => browser.Count(".match-bench .match-edit") == 4, "four empty cards again");
    }

    [Fact]
    public void Cards_are_linked_by_two_clicks_by_a_ribbon_and_by_keyboard_and_parted_the_same_way()
    {
        using var browser = demo.Open();
        Begin(browser, "Linked");
        Focus(browser, $"{Card("left", 1)} .match-text");
        foreach (var words in (string[])["One", "I", "Two"])
            browser.Keys(words, Keys.Enter);
        browser.Keys("II");
        Reach(browser, "One=I; Two=II");
        // A second partner, by two clicks.
        browser.Click($"{Card("left", 1)} .match-link");
        browser.Click($"{Card("right", 2)} .match-link");
        Reach(browser, "One=I; Two=II; One=II");
        // Parted by a ribbon that is drawn along the first.
        browser.Drag(browser.Spot($"{Card("left", 1)} .match-link"), browser.Spot($"{Card("right", 2)} .match-text"));
        Reach(browser, "One=I; Two=II");
        // By keyboard alone.
        Focus(browser, $"{Card("right", 1)} .match-link");
        browser.Keys(Keys.Enter);
        browser.Until(
            () =>
                browser
                    .Script<string>("return document.getElementById('announcer').textContent")
                    .Contains("I is chosen. Choose its partner"),
            "what is chosen"
        );
        Focus(browser, $"{Card("left", 2)} .match-link");
        browser.Keys(Keys.Enter);
        Reach(browser, "One=I; Two=II; Two=I");
        // One without partner makes it harder, and goes again.
        browser.Click(".match-column[data-side=right] .match-foot button");
        browser.Keys("III");
        browser.Until(() => browser.Count($"{Card("right", 3)}:not(.matched)") == 1, "a card without partner");
        browser.Click($"{Card("right", 3)} .match-delete");
        browser.Until(() => browser.Count(".match-column[data-side=right] li") == 2, "two cards on the right");
        // The last pair stays: a matching without any can't be.
        browser.Click($"{Card("left", 2)} .match-delete");
        browser.Click($"{Card("left", 1)} .match-delete");
        Reach(browser, "One=I");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Files_that_are_dropped_on_a_card_fill_it_and_those_below_it_and_never_become_the_picture()
    {
        using var browser = demo.Open();
        Begin(browser, "Dropped");
        var (x, y) = browser.Spot($"{Card("right", 2)} .match-text");
        browser.Script<object?>(
            """
            const data = new DataTransfer()
            const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><circle cx="15" cy="15" r="9"/></svg>'
            for (const name of ['first.svg', 'second.svg']) data.items.add(new File([drawing], name, { type: 'image/svg+xml' }))
            for (const type of ['dragover', 'drop']) {
              // What lies under the pointer gets it, whatever is shown over it meanwhile.
              const under = document.elementFromPoint(arguments[0], arguments[1])
              under.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }))
            }
            """,
            x,
            y
        );
        browser.Until(() => browser.Count(".match-column[data-side=right] .label-picture") == 2, "two pictures on the right");
        Assert.Equal(3, browser.Count(".match-column[data-side=right] li"));
        Assert.Equal(0, browser.Count($"{Card("right", 1)} .label-picture"));
        Assert.Equal(0, browser.Count(".stage-picture"));
        Assert.Equal(0, browser.Count(".dropping, .match-drop"));
    }

    /// <summary>Interactions: what a person does once, such as a click, a text that is typed, or a choice of files.</summary>
    [Fact]
    public void Ten_sounds_are_matched_with_ten_pictures_in_at_most_thirty_interactions()
    {
        using var browser = demo.Open();
        using var files = new TenOfEach();
        browser.SignIn();
        var interactions = 0;
        void Do(Action act)
        {
            act();
            interactions++;
        }
        Do(() => browser.Fill("#title", "Ten and ten"));
        Do(() => browser.Click(".new-activity .btn-primary"));
        Do(() => browser.Click(".get-picture .btn-outline-primary"));
        browser.See(".match-edit");
        Do(() => Choose("left", files.Sounds));
        browser.Until(() => browser.Count($".match-column[data-side=left] .icon-sound") == 10, "ten sounds");
        Do(() => Choose("right", files.Pictures));
        browser.Until(() => browser.Count(".match-column[data-side=right] .label-picture") == 10, "ten pictures");
        Assert.Equal(10, browser.Count(".match-bench .ribbon"));
        // Two that came in the wrong order are exchanged.
        Do(() => browser.Click($"{Card("left", 1)} .match-link"));
        Do(() => browser.Click($"{Card("right", 2)} .match-link"));
        Do(() => browser.Click($"{Card("left", 2)} .match-link"));
        Do(() => browser.Click($"{Card("right", 1)} .match-link"));
        Do(() => browser.Drag(browser.Spot($"{Card("left", 1)} .match-link"), browser.Spot($"{Card("right", 1)} .match-text")));
        Do(() => browser.Drag(browser.Spot($"{Card("left", 2)} .match-link"), browser.Spot($"{Card("right", 2)} .match-text")));
        browser.SeeText("#save-state", "Saved");
        Do(() => browser.Click(".top-actions .btn-primary"));
        Do(() => browser.Click("#give-anyone"));
        browser.See(".join-code");
        Assert.True(interactions <= 30, $"{interactions} interactions");

        void Choose(string side, string names) =>
            browser.Driver.FindElement(By.CssSelector($".match-column[data-side={side}] .match-foot input")).SendKeys(names);
    }

    private sealed class TenOfEach : IDisposable
    {
        private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("fenster-ten-");

        public string Sounds => Copies("sounds/one-short.wav", "sound");
        public string Pictures => Copies("pictures/knot-reef.svg", "picture");

        private string Copies(string file, string name) =>
            string.Join(
                '\n',
                Enumerable
                    .Range(1, 10)
                    .Select(i =>
                    {
                        var copy = Path.Combine(folder.FullName, $"{name} {i:00}{Path.GetExtension(file)}");
                        File.Copy(Path.Combine(RunningFenster.Repository, "demo/sailing-school", file), copy);
                        return copy;
                    })
            );

        public void Dispose() => folder.Delete(recursive: true);
    }
}
