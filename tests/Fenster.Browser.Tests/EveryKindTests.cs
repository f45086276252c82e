using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>Each kind of target: made in the workbench by mouse and by keyboard alone, and played through the student's screen.</summary>
[Collection("targets")]
public sealed class EveryKindTests(Demo demo)
{
    private static readonly string Drawing = Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/chartroom.svg");

    /// <summary>What is typed into the row of each kind.</summary>
    private static readonly (string Kind, string Words)[] Kinds =
    [
        ("dropZone", "Porthole"),
        ("hiddenZone", "Compass"),
        ("hotspots", "Mark the compass"),
        ("answerBox", "compass; the compass"),
        ("questionPoint", "What is it?"),
        ("scalePoint", "Half-way"),
        ("sortRegion", "On the wall"),
        ("infoSpot", "Fog horn"),
        ("lock", "17 42 3; 17423"),
        ("openNote", "What else is there?"),
        ("matching", "What belongs together?"),
    ];

    private static void Begin(Browser browser, string title)
    {
        if (browser.Path == "/activities")
            browser.See(".cards");
        else if (browser.Count(".trial-top") > 0)
            browser.Go("/activities");
        else
            browser.SignIn();
        browser.Fill("#title", title);
        browser.Keys(Keys.Enter);
        browser.See(".get-picture");
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Drawing);
                return true;
            },
            "a file chooser"
        );
        browser.See(".stage");
    }

    private static void Focus(Browser browser, string css) =>
        browser.Until(
            () =>
                browser.Script<bool>(
                    "document.querySelector(arguments[0])?.focus(); return document.activeElement.matches(arguments[0])",
                    css
                ),
            $"the focus on {css}"
        );

    /// <summary>Makes one thing of what the line over the picture says.</summary>
    private static void Make(Browser browser, string kind, bool byKeyboard, double across = 0.5)
    {
        var rows = browser.Count(".row-line");
        if (kind == "matching")
        {
            if (!byKeyboard)
                browser.Click(".ledger-adds button[x-on\\:click=addMatching]");
            else
            {
                Focus(browser, ".ledger-adds button[x-on\\:click=addMatching]");
                browser.Keys(Keys.Enter);
            }
        }
        else if (byKeyboard)
        {
            Focus(browser, ".stage");
            browser.Keys(Keys.Enter);
        }
        else
        {
            browser.ClickAt(browser.Spot(".stage", across, 0.55));
        }
        if (kind is not "scalePoint" || rows > 0 || byKeyboard)
            browser.Until(() => browser.Count(".row-line") > rows, "a row");
    }

    private static void Choose(Browser browser, string kind, bool byKeyboard)
    {
        if (kind == "matching")
            return;
        if (byKeyboard)
        {
            // A closed menu goes to the entry that begins with what is typed.
            Focus(browser, "#tool");
            browser.Keys(browser.Script<string>("return document.querySelector(`#tool option[value=${arguments[0]}]`).textContent", kind));
        }
        else
        {
            browser.Driver.FindElement(By.CssSelector($"#tool option[value={kind}]")).Click();
        }
        browser.Until(() => browser.Script<string>("return document.getElementById('tool').value") == kind, $"a click to make a {kind}");
    }

    private static void Type(Browser browser, string css, string words)
    {
        Focus(browser, css);
        browser.Ctrl("a");
        browser.Keys(words, Keys.Tab);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Each_kind_is_made_by_mouse_and_by_keyboard_alone_and_its_key_earns_full_marks(bool byKeyboard)
    {
        using var browser = demo.Open();
        foreach (var (kind, words) in Kinds)
            MakeAndPlay(browser, kind, words, byKeyboard);
        Assert.Empty(browser.ConsoleErrors());
    }

    private static void MakeAndPlay(Browser browser, string kind, string words, bool byKeyboard)
    {
        Begin(browser, $"{kind} {byKeyboard}");
        Choose(browser, kind, byKeyboard);
        Make(browser, kind, byKeyboard, 0.2);
        if (kind == "scalePoint")
        {
            // Two positions first, whose values are typed; then a value by its place.
            if (!byKeyboard)
                Make(browser, kind, byKeyboard, 0.8);
            browser.Until(() => browser.HasFocus("[data-row=scale] .field input"), "the first value");
            browser.Ctrl("a");
            browser.Keys("2", Keys.Tab);
            browser.Ctrl("a");
            browser.Keys("12", Keys.Enter);
            Make(browser, kind, byKeyboard);
            browser.Until(() => browser.Count(".row-line") == 2, "the point's row");
        }
        var row = kind == "scalePoint" ? ".row-line:nth-of-type(2)" : ".row-line";
        if (byKeyboard && kind != "matching")
        {
            browser.Until(() => browser.HasFocus(".stage"), "the picture's focus");
            browser.Keys(Keys.ArrowRight, Keys.ArrowDown, Keys.Enter);
        }
        browser.Until(() => browser.HasFocus($"{row} .row-text"), "the cursor in the row");
        browser.Ctrl("a");
        browser.Keys(words, Keys.Tab);
        switch (kind)
        {
            case "infoSpot":
                Type(browser, ".row-details textarea", "It sounds in fog.");
                break;
            case "sortRegion":
                Focus(browser, ".add-distractor");
                browser.Keys(Keys.Enter);
                browser.Until(() => browser.HasFocus(".row-line:nth-of-type(2) .row-text"), "a label's row");
                browser.Keys("Wall chart", Keys.Tab);
                Focus(browser, "[data-name^='wants.']");
                browser.Keys(Keys.Space);
                break;
            case "matching":
                foreach (
                    var (name, text) in new[]
                    {
                        ("left.left-1", "One"),
                        ("right.right-1", "I"),
                        ("left.left-2", "Two"),
                        ("right.right-2", "II"),
                    }
                )
                    Type(browser, $"[data-name='item.{name}.text']", text);
                // A further partner of the second one.
                Focus(browser, "[data-name='belongs.left-2']");
                browser.Keys("a new one");
                Type(browser, "[data-name='item.right.right-3.text']", "A couple");
                break;
        }
        browser.SeeText("#save-state", "Saved");
        browser.Until(
            () => !browser.See("#proof-light").GetDomAttribute("class")!.Contains("light-blocks"),
            "nothing that keeps it from being published"
        );
        Focus(browser, ".top-actions a[href$='/try']");
        browser.Keys(Keys.Enter);
        browser.Click("#play-key");
        browser.SeeText("#outcome", "full marks");
    }

    [Fact]
    public void What_is_being_typed_outlasts_the_answers_that_come_meanwhile()
    {
        using var browser = demo.Open();
        Begin(browser, "Slowly typed");
        Choose(browser, "answerBox", byKeyboard: false);
        Make(browser, "answerBox", byKeyboard: false);
        browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the row");
        browser.Ctrl("a");
        browser.Keys("compass; ");
        // The row is drawn anew when it is pointed at.
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).MoveToElement(browser.See(".row-line")).Perform();
        browser.See(".row-line.pointed, .pointed .row-line");
        browser.Keys("the compass");
        Assert.Equal("compass; the compass", browser.See(".row-text").GetDomProperty("value"));
        browser.Keys(Keys.Tab);
        browser.SeeText("#save-state", "Saved");
        Assert.Equal("compass; the compass", browser.See(".row-text").GetDomProperty("value"));
        // Undone while the cursor is in the field, it shows what stands then.
        Focus(browser, ".row-text");
        browser.Ctrl("z");
        browser.Until(() => browser.See(".row-text").GetDomProperty("value") == "answer", "the answer it began with");
    }

    [Fact]
    public void The_demo_plays_its_keys_and_acts_blindly()
    {
        using var browser = demo.Open();
        browser.SignIn();
        // One of hidden zones, one of several panes, one with a lock.
        foreach (var id in (int[])[4, 8, 11])
        {
            browser.Go($"/activities/{id}/try");
            browser.Click("#play-key");
            browser.Until(
                () => browser.See("#outcome").Text is var says && (says.Contains("full marks") || says.Contains("Played to the end")),
                $"the key of activity {id} played"
            );
        }
        browser.Go("/activities/5/try");
        browser.Click("#play-blind");
        browser.SeeText("#outcome", "On average guessing earns");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Theory]
    [InlineData(false, "ltr")]
    [InlineData(true, "rtl")]
    public void The_workbench_with_everything_open_has_no_accessibility_violation(bool dark, string direction)
    {
        using var browser = demo.Open(dark: dark);
        browser.SignIn();
        foreach (var id in (int[])(dark ? [3, 9, 11] : [5, 8, 12]))
        {
            browser.Go($"/activities/{id}");
            browser.See(".row-line");
            browser.Script<object?>(
                "document.documentElement.dir = arguments[0]; document.querySelectorAll('details').forEach(d => { d.open = true })",
                direction
            );
            browser.Click(".row-line:last-child .row-kind button");
            browser.See(".row-details");
            browser.Click("#proof-light");
            Assert.True(browser.AxeViolations() is [], $"{id}: {string.Join('\n', browser.AxeViolations())}");
        }
        browser.Go("/activities/8/try");
        browser.See("#screen");
        Assert.Empty(browser.AxeViolations());
        browser.Go("/colleagues");
        Assert.Empty(browser.AxeViolations());
        browser.Go("/activities/8/history");
        Assert.Empty(browser.AxeViolations());
    }

    [Fact]
    public void A_labelling_activity_takes_two_interactions_for_each_label_and_eight_more()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var interactions = 0;
        void Do(Action action)
        {
            action();
            interactions++;
        }
        Do(() => browser.Fill("#title", "Twelve names"));
        Do(() => browser.Keys(Keys.Enter));
        browser.See(".get-picture");
        Do(() =>
            browser.Until(
                () =>
                {
                    browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Drawing);
                    return true;
                },
                "a file chooser"
            )
        );
        browser.See(".stage");
        for (var i = 0; i < 12; i++)
        {
            Do(() => browser.ClickAt(browser.Spot(".stage", 0.12 + i % 4 * 0.25, 0.1 + i / 4 * 0.15)));
            browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
            // Typing a word and Enter is one thing to do.
            Do(() => browser.Keys(i == 6 ? "A rather longer name" : $"Name {(char)('A' + i)}", Keys.Enter));
        }
        // All are as large as the longest name wants.
        Assert.Single(
            browser.Script<IReadOnlyCollection<object>>(
                "return [...new Set([...document.querySelectorAll('.zone-area')].map(a => a.getAttribute('width')))].filter(w => w > 170)"
            )
        );
        Assert.Equal(12, browser.Count(".zone-area"));
        browser.SeeText("#save-state", "Saved");
        Do(() => browser.Click(".top-actions .btn-primary"));
        Do(() => browser.Click("#give-anyone"));
        browser.See(".join-code");
        Assert.True(interactions <= 2 * 12 + 8, $"{interactions} interactions");
    }

    [Fact]
    public void A_list_is_pasted_and_a_click_gives_each_name_its_place()
    {
        using var browser = demo.Open();
        Begin(browser, "Pasted");
        browser.Click(".add-distractor");
        browser.Until(() => browser.HasFocus(".row-text"), "a row");
        void Paste(string text) =>
            browser.Script<object?>(
                "const d = new DataTransfer(); d.setData('text/plain', arguments[0]); d.setData('text/html', '<b>' + "
                    + "arguments[0] + '</b>'); document.activeElement.dispatchEvent(new "
                    + "ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))",
                text
            );
        Paste("Compass\n  Porthole\r\n\nحبل\nFog horn 🎺\n");
        browser.SeeText(".says", "A click puts Compass there");
        foreach (var next in (string[])["Porthole", "حبل", "Fog horn 🎺", "drop zone"])
        {
            browser.ClickAt(browser.Spot(".stage", 0.2 + 0.15 * browser.Count(".zone-box"), 0.2));
            browser.SeeText(".says", next);
        }
        Assert.Equal(4, browser.Count(".zone-box"));

        // Ten thousand lines are refused with a sentence, and nothing is lost.
        Focus(browser, ".row-text");
        Paste(string.Join('\n', Enumerable.Range(1, 10_000)));
        browser.SeeText(".notice-problem", "a picture holds up to 2000 labels. Nothing was added");
        Assert.Equal(4, browser.Count(".row-line"));
    }

    [Fact]
    public void Zones_are_selected_arranged_joined_by_lines_and_brought_back()
    {
        using var browser = demo.Open();
        Begin(browser, "Arranged");
        for (var i = 0; i < 3; i++)
        {
            browser.ClickAt(browser.Spot(".stage", 0.25 + 0.2 * i, 0.3 + 0.1 * i));
            browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
            browser.Keys($"Part {i + 1}", Keys.Enter);
        }
        // A zone that is held near the line of another one stands on it, and the line is seen.
        IReadOnlyList<long> Tops() =>
            [
                .. browser
                    .Script<IReadOnlyCollection<object>>(
                        "return [...document.querySelectorAll('.zone-box .zone-area')].map(a => Math.round(a.getAttribute('y')))"
                    )
                    .Cast<long>(),
            ];
        var (first, second) = (browser.Spot(".zone-box:nth-of-type(1) .zone-area"), browser.Spot(".zone-box:nth-of-type(2) .zone-area"));
        browser.Hold(second, (second.X + 20, first.Y + 12), (second.X + 10, first.Y + 3));
        browser.Until(() => browser.Count(".guides path") > 0, "a guide");
        browser.LetGo();
        browser.Until(() => Tops() is [var one, var two, _] && one == two, "the second in line with the first");
        Assert.Equal(0, browser.Count(".guides path"));
        Focus(browser, ".stage");
        browser.Ctrl("z");
        browser.Ctrl("a");
        browser.Until(() => browser.Count(".zone-box.selected") == 3, "all selected");
        var before = Tops();
        browser.Click(".at-selection [data-how=top]");
        browser.Until(() => Tops().Distinct().Count() == 1, "tops in line");
        Focus(browser, ".stage");
        browser.Ctrl("z");
        browser.Until(() => Tops().SequenceEqual(before), "where they were");
        browser.Click(".at-selection .at-some:last-of-type button:nth-last-child(2)");
        browser.Until(() => browser.Count(".leader-line") == 3, "three lines");
        browser.Click(".at-selection .at-some:last-of-type button:last-child");
        browser.SeeText("#save-state", "Saved");
        browser.Click(".row-line .row-kind button");
        browser.SeeText(".row-rules", "It is interchangeable with the others of group 1");
        browser.Go($"{browser.Path}/try/screen");
        browser.See(".bank .label");
        Assert.Equal(3, browser.Count(".leader-line"));
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void A_further_label_is_accepted_by_an_Alt_drop_and_its_credit_and_points_are_words_in_the_row()
    {
        using var browser = demo.Open();
        Begin(browser, "Further");
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.4));
        browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
        browser.Keys("Ship’s clock", Keys.Enter);
        browser.Click(".add-distractor");
        browser.Until(() => browser.HasFocus(".row-line:nth-of-type(2) .row-text"), "a second row");
        browser.Keys("Clock", Keys.Tab);
        browser.Until(() => browser.Count("#bench-bank .label") == 2, "two labels in the bank");
        browser.SeeText(".row-line:nth-of-type(2)", "distractor");
        var alt = new OpenQA.Selenium.Interactions.Actions(browser.Driver);
        alt.KeyDown(Keys.Alt).Perform();
        browser.Drag(
            browser.Spot("#bench-bank .label:nth-of-type(2)"),
            browser.Spot(".stage", 0.4, 0.5),
            browser.Spot(".zone-box .zone-area")
        );
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyUp(Keys.Alt).Perform();
        browser.SeeText(".row-details", "Also takes “Clock”");
        Assert.Equal(1, browser.Count(".row-line"));
        browser.SeeText(".row-rules", "“Clock” earns");
        // Half of the points, of which there are two.
        Type(browser, ".row-rules [data-path^='credit.']", "50");
        browser.Until(() => browser.Count(".row-rules .word-own") == 1, "a word of its own");
        Type(browser, ".row-rules [data-path=points]", "2");
        browser.Until(() => browser.Count(".row-rules .word-own") == 2, "two words of their own");
        // What is no number is not taken, and said.
        Type(browser, ".row-rules [data-path=points]", "many");
        browser.SeeText(".notice-problem", "“many” does not fit there");
        Assert.Equal("2", browser.See(".row-rules [data-path=points]").GetDomProperty("value"));
        browser.SeeText(".rules", "2 points in all");
        browser.Click(".row-rules button[data-path=points]");
        browser.SeeText(".rules", "1 point in all");
        browser.Until(() => browser.Count(".row-rules .word-own") == 1, "the points set back");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Another_picture_is_shown_with_the_zones_before_it_is_taken()
    {
        using var browser = demo.Open();
        Begin(browser, "Swapped");
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.9));
        browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
        browser.Keys("Skirting", Keys.Enter);
        browser.SeeText("#save-state", "Saved");
        string Shown() =>
            browser.See(".stage image, .stage img").GetDomAttribute("src") ?? browser.See(".stage image").GetDomAttribute("href")!;
        double Share() =>
            Convert.ToDouble(
                browser.Script<object>(
                    "const z = document.querySelector('.zone-box .zone-area').getBoundingClientRect(), s = "
                        + "document.querySelector('.stage').getBoundingClientRect(); return (z.y + z.height / 2 - s.y) / s.height"
                ),
                System.Globalization.CultureInfo.InvariantCulture
            );
        var (before, share) = (Shown(), Share());
        void Change() =>
            browser.Until(
                () =>
                {
                    browser
                        .Driver.FindElement(By.CssSelector(".change-picture input"))
                        .SendKeys(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"));
                    return true;
                },
                "a file chooser"
            );
        Change();
        browser.SeeText(".notice", "how everything lies on the new picture");
        browser.Until(() => Shown() != before, "the new picture");
        browser.Until(() => Math.Abs(Share() - share) < 0.02, "the zone stretched with the picture");
        browser.Click(".notice .btn-outline-primary");
        browser.Until(() => Shown() == before, "the old picture");
        Change();
        browser.Click("#use-picture");
        browser.Until(() => Shown() != before && browser.Count(".notice") == 0, "the new picture");
        browser.SeeText("#save-state", "Saved");
        Focus(browser, ".stage");
        browser.Ctrl("z");
        browser.Until(() => Shown() == before && Math.Abs(Share() - share) < 0.005, "the old picture and its zone");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void An_outline_is_drawn_bent_typed_and_made_a_box_that_turns()
    {
        using var browser = demo.Open();
        Begin(browser, "Outlined");
        var keys = new OpenQA.Selenium.Interactions.Actions(browser.Driver);
        keys.KeyDown(Keys.Shift).Perform();
        browser.Drag(
            browser.Spot(".stage", 0.2, 0.2),
            browser.Spot(".stage", 0.5, 0.22),
            browser.Spot(".stage", 0.6, 0.5),
            browser.Spot(".stage", 0.35, 0.7),
            browser.Spot(".stage", 0.2, 0.45),
            browser.Spot(".stage", 0.2, 0.21)
        );
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyUp(Keys.Shift).Perform();
        browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");
        browser.Keys("Wall chart", Keys.Tab);
        string Points() => browser.See("polygon.zone-area").GetDomAttribute("points")!;
        int Corners() => Points().Split(' ', StringSplitOptions.RemoveEmptyEntries).Length;
        var (drawn, count) = (Points(), Corners());
        Assert.InRange(count, 4, 9);
        browser.ClickAt(browser.Spot(".stage", 0.38, 0.45));
        var (x, y) = browser.Spot(".grip-vertex");
        browser.Drag((x, y), (x - 20, y - 10), (x - 40, y - 20));
        browser.Until(() => Points() != drawn && Corners() == count, "a corner moved");
        (x, y) = browser.Spot(".grip-edge");
        browser.Drag((x, y), (x, y - 10), (x, y - 25));
        browser.Until(() => Corners() == count + 1, "a corner more");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).MoveToElement(browser.See(".grip-vertex")).DoubleClick().Perform();
        browser.Until(() => Corners() == count, "a corner less");

        browser.Click(".row-line .row-kind button");
        browser.Click(".row-further");
        Type(browser, "[data-name='region.corners']", "100 100; 500 100; 300 400");
        browser.Until(() => Corners() == 3, "three corners");
        // An outline that crosses itself is none: what stood stays, and it is said.
        Type(browser, "[data-name='region.corners']", "100 100; 500 400; 500 100; 100 400");
        browser.SeeText(".notice-problem", "does not fit there");
        Assert.Equal(3, Corners());
        browser.Driver.FindElement(By.CssSelector("[data-name='region.shape'] option[value=rectangle]")).Click();
        browser.See("rect.zone-area");
        Type(browser, "[data-name='region.rotation']", "30");
        browser.Until(() => browser.See("rect.zone-area").GetDomAttribute("transform")?.StartsWith("rotate(30") == true, "a turned box");
        (x, y) = browser.Spot(".grip-turn");
        browser.Drag((x, y), (x + 30, y + 30), (x + 80, y + 80));
        browser.Until(
            () => browser.See("rect.zone-area").GetDomAttribute("transform") is { } turn && !turn.StartsWith("rotate(30"),
            "turned by hand"
        );

        // What a box with Alt touches is selected; the picture grows about its middle and fits again.
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Alt).Perform();
        browser.Drag(browser.Spot(".stage", 0.02, 0.02), browser.Spot(".stage", 0.3, 0.3), browser.Spot(".stage", 0.95, 0.9));
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyUp(Keys.Alt).Perform();
        browser.Until(() => browser.Count(".zone-box.selected") == 1, "the box selected");
        double Width() =>
            Convert.ToDouble(
                browser.Script<object>("return document.querySelector('.stage').getBoundingClientRect().width"),
                System.Globalization.CultureInfo.InvariantCulture
            );
        var fitted = Width();
        browser.Click(".says-zoom [aria-label=Larger]");
        browser.Until(() => Width() > 1.4 * fitted, "a larger picture");
        Focus(browser, ".stage");
        browser.Ctrl("d");
        browser.Until(() => browser.Count(".zone-box") == 2, "a copy");
        browser.Keys("0");
        browser.Until(() => Math.Abs(Width() - fitted) < 1, "the picture as it was");
        Assert.Empty(browser.ConsoleErrors());
    }
}
