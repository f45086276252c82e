using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>A student from the join code to the result: by mouse, by finger and by keyboard.</summary>
[Collection("targets")]
public sealed class StudentWorksTests(Demo demo)
{
    private static readonly string[] Answers = ["Mast", "Burgee", "Rudder"];

    private async Task<string> Publish(int zones = 4, Core.Model.Rules? rules = null)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var picture = await teacher.Upload(
            await File.ReadAllBytesAsync(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"))
        );
        var hash = System.Text.Json.Nodes.JsonNode.Parse(await picture.Content.ReadAsStringAsync())!["hash"]!.GetValue<string>();
        return (await teacher.Publish(Samples.Document(zones, hash, rules))).Code;
    }

    private static void Join(Browser browser, string code, string name)
    {
        browser.Go("/");
        browser.Fill("#code", code.ToLowerInvariant());
        browser.Keys(Keys.Enter);
        browser.Fill("#name", name);
        browser.Keys(Keys.Enter);
        browser.See("#begin");
        // What there is to know comes before the button.
        browser.Until(() => browser.HasFocus("h1"), "the beginning of what there is to read");
        browser.Keys(Keys.Tab, Keys.Enter);
        browser.See(".bank .label");
    }

    /// <summary>A bank label by the number in its text, which is the number of its zone.</summary>
    private static string Label(Browser browser, int number) =>
        browser.Until(
            () =>
                browser.Script<string?>(
                    "return [...document.querySelectorAll('.bank .label')].find(l => l.textContent === arguments[0])?.dataset.label",
                    $"Part {number}"
                ),
            $"label {number}"
        )
            is var id
            ? $".bank [data-label={id}]"
            : "";

    private static void HandIn(Browser browser, string score)
    {
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.SeeText("#progress", score);
        browser.See(".marked-list");
    }

    [Fact]
    public async Task A_check_shows_what_is_right_holds_it_and_sends_the_rest_back()
    {
        var code = await Publish(3, Samples.Practice);
        using var browser = demo.Open();
        Join(browser, code, "Checker");
        var (right, wrong) = (Label(browser, 1), Label(browser, 3));
        foreach (var (label, zone) in ((string, string)[])[(right, "z1"), (wrong, "z2")])
        {
            browser.ClickAt(browser.Spot(label));
            browser.ClickAt(browser.Spot($"[data-zone={zone}].zone-button"));
        }
        browser.SeeText("#progress", "2 of 3 placed. Saved.");
        browser.SeeText("#check", "Check (2 left)");
        browser.Click("#check");
        browser.SeeText("#progress", "1 of 3 placed. 1 right, 1 wrong and back in the bank. Saved.");
        browser.SeeText("#notes", "yes, part 1");
        browser.See(".label.placed.held.verdict-right[data-zone=z1]");
        browser.See(wrong);

        // What is held can neither be picked up nor pushed out; what came later shows nothing before the next check.
        browser.Drag(browser.Spot(".label.placed[data-zone=z1]"), browser.Spot("#mat"), browser.Spot(".bank"));
        browser.See(".label.placed.held[data-zone=z1]");
        browser.ClickAt(browser.Spot(wrong));
        browser.ClickAt(browser.Spot("[data-zone=z3].zone-button"));
        browser.SeeText("#progress", "2 of 3 placed. 1 right, 0 wrong. Saved.");
        browser.Click("#check");
        browser.SeeText("#progress", "2 of 3 placed. 2 right, 0 wrong. Saved.");
        browser.Until(() => !browser.Driver.FindElement(By.CssSelector("#check")).Displayed, "no check is left");
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.SeeText("#progress", "2 of 3 points");
        browser.SeeText("#notes", "because it is part 2");
    }

    [Fact]
    public async Task By_mouse_labels_are_dragged_and_every_placement_is_stored_before_the_line_says_so()
    {
        var code = await Publish();
        using var browser = demo.Open();
        Join(browser, code, "Mouse");
        for (var i = 1; i <= 4; i++)
        {
            browser.Drag(browser.Spot(Label(browser, i)), browser.Spot("#mat"), browser.Spot($"[data-zone=z{i}].zone-button"));
            browser.SeeText("#progress", $"{i} of 4 placed. Saved.");
        }
        browser.SeeText(".bank", "Every label is on the picture");

        // Back to the bank, and in again by click and click.
        browser.Drag(browser.Spot(".label.placed[data-zone=z4]"), browser.Spot("#mat", 0.5, 0.8), browser.Spot(".bank"));
        browser.SeeText("#progress", "3 of 4 placed. Saved.");
        browser.ClickAt(browser.Spot(Label(browser, 4)));
        browser.ClickAt(browser.Spot("[data-zone=z4].zone-button"));
        browser.SeeText("#progress", "4 of 4 placed. Saved.");

        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "4 of 4 placed. Saved.");
        HandIn(browser, "4 of 4 points");
        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "4 of 4 points");
        Assert.Equal(4, browser.Count(".label.placed .badge-right"));
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task By_finger_labels_are_tapped_or_dragged_on_a_phone()
    {
        var code = await Publish();
        using var browser = demo.Open(360, 740, phone: true);
        Join(browser, code, "Finger");
        browser.Tap(browser.Spot(Label(browser, 1)));
        browser.See(".holding");
        browser.Tap(browser.Spot("[data-zone=z1].zone-button"));
        browser.SeeText("#progress", "1 of 4 placed. Saved.");

        // The label is held above the finger, so the finger ends below the zone.
        var from = browser.Spot(Label(browser, 2));
        var to = browser.Spot("[data-zone=z2].zone-button");
        browser.Swipe(from, (from.X, from.Y - 40), (to.X, to.Y + 80), (to.X, to.Y + 34));
        browser.SeeText("#progress", "2 of 4 placed. Saved.");

        browser.Tap(browser.Spot(Label(browser, 4)));
        browser.Tap(browser.Spot("[data-zone=z3].zone-button"));
        browser.SeeText("#progress", "3 of 4 placed. Saved.");
        Assert.True(
            browser.Script<bool>(
                "return document.documentElement.scrollHeight <= innerHeight && document.documentElement.scrollWidth <= innerWidth"
            )
        );

        browser.Tap(browser.Spot("#hand-in"));
        browser.SeeText("#review-text", "One zone is still empty");
        browser.Tap(browser.Spot("#review-go"));
        browser.SeeText("#progress", "2 of 4 points");
        Assert.Equal(
            (2, 1, 1),
            (
                browser.Count(".label.placed .badge-right"),
                browser.Count(".label.placed .badge-wrong"),
                browser.Count(".zone-button .badge-missed")
            )
        );
        browser.SeeText(".marked-list", "Part 3 belongs here");
    }

    [Fact]
    public async Task By_keyboard_alone_labels_are_picked_walked_and_put_down()
    {
        var code = await Publish();
        using var browser = demo.Open();
        Join(browser, code, "Keyboard");
        void TabTo(string css)
        {
            for (var i = 0; i < 40 && !browser.HasFocus(css); i++)
                browser.Keys(Keys.Tab);
            Assert.True(browser.HasFocus(css));
        }

        TabTo(Label(browser, 3));
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus("[data-zone=z1].zone-button"), "the first empty zone");
        browser.Keys(Keys.ArrowRight, Keys.ArrowRight);
        browser.Until(() => browser.HasFocus("[data-zone=z3].zone-button"), "the third zone");
        browser.Keys(Keys.Enter);
        browser.SeeText("#progress", "1 of 4 placed. Saved.");
        Assert.Contains("put into zone 3", browser.Driver.FindElement(By.Id("say")).GetDomProperty("textContent"));

        // Picked by mistake, and put back.
        browser.Until(() => browser.HasFocus(".bank .label"), "the bank again");
        browser.Keys(Keys.Enter);
        browser.See(".holding");
        browser.Keys(Keys.Escape);
        browser.Until(() => browser.Count(".holding") == 0, "the hand empty");

        // From one zone to another, then out of it.
        browser.Script<object?>("document.querySelector('[data-zone=z3].zone-button').focus()");
        Assert.Contains("Part 3", browser.Driver.SwitchTo().ActiveElement().GetDomAttribute("aria-label"));
        browser.Keys(Keys.Delete);
        browser.SeeText("#progress", "0 of 4 placed. Saved.");

        for (var i = 1; i <= 4; i++)
        {
            TabTo(Label(browser, i));
            browser.Keys(Keys.Enter);
            browser.Until(() => browser.HasFocus($"[data-zone=z{i}].zone-button"), $"zone {i}");
            browser.Keys(Keys.Enter);
            browser.SeeText("#progress", $"{i} of 4 placed. Saved.");
        }
        TabTo("#hand-in");
        browser.Keys(Keys.Enter);
        browser.See("#review");
        TabTo("#review-go");
        browser.Keys(Keys.Enter);
        browser.SeeText("#progress", "4 of 4 points");
    }

    [Fact]
    public async Task Offline_placements_are_kept_on_the_device_and_sent_when_the_tab_comes_back()
    {
        var code = await Publish();
        using var browser = demo.Open();
        Join(browser, code, "Offline");
        browser.Offline(true);
        browser.ClickAt(browser.Spot(Label(browser, 2)));
        browser.ClickAt(browser.Spot("[data-zone=z2].zone-button"));
        browser.SeeText("#progress", "1 of 4 placed. Offline, kept on this device.");
        browser.Offline(false);
        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "1 of 4 placed. Saved.");
        Assert.Null(browser.Script<string?>("return Object.keys(localStorage).find(key => /^attempt-[0-9a-f]+$/.test(key))"));
    }

    [Fact]
    public async Task The_server_dies_and_comes_back_and_the_student_goes_on()
    {
        using var own = new RunningFenster();
        string code;
        using (var teacher = await new Visitor(own.Address).SignIn())
            code = (await teacher.Publish(Samples.Document(4))).Code;
        using var browser = new Browser(own.Address);
        Join(browser, code, "Steady");
        browser.ClickAt(browser.Spot(Label(browser, 1)));
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.SeeText("#progress", "1 of 4 placed. Saved.");
        own.Kill();
        browser.ClickAt(browser.Spot(Label(browser, 2)));
        browser.ClickAt(browser.Spot("[data-zone=z2].zone-button"));
        browser.SeeText("#progress", "Offline, kept on this device.");
        own.Restart();
        browser.SeeText("#progress", "2 of 4 placed. Saved.");
    }

    [Fact]
    public async Task A_teacher_sees_who_handed_in_and_one_students_picture()
    {
        var code = await Publish();
        using (var browser = demo.Open())
        {
            Join(browser, code, "Seen");
            browser.ClickAt(browser.Spot(Label(browser, 1)));
            browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
            browser.SeeText("#progress", "Saved.");
            HandIn(browser, "1 of 4 points");
        }
        using var teacher = demo.Open();
        teacher.SignIn();
        teacher.Click(".card-going a");
        teacher.SeeText(".results", "1 of 4");
        teacher.Click(".results tbody a");
        teacher.SeeText(".results-sum", "1 of 4 points");
        Assert.Equal((1, 3), (teacher.Count(".label.placed .badge-right"), teacher.Count(".zone-button .badge-missed")));
    }

    [Fact]
    public async Task A_second_attempt_begins_on_the_same_page_and_shows_its_time()
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        await teacher.Set(id, "limit", "20");
        await teacher.Set(id, "attempts", "2");
        using var browser = demo.Open();
        Join(browser, code, "Twice");
        browser.SeeText("#clock", "20 minutes left");
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.SeeText(".work-next", "Attempt 1 of 2.");
        browser.Click("#again");
        browser.See(".bank .label");
        browser.SeeText("#clock", "20 minutes left");
        browser.ClickAt(browser.Spot(".bank .label"));
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.SeeText("#progress", "1 of 3 placed. Saved.");
        Assert.Equal([], browser.ConsoleErrors());
        // Opened anew after the tab was closed, it asks who sits here.
        browser.Script<object?>("sessionStorage.clear()");
        browser.Driver.Navigate().Refresh();
        browser.SeeText("[data-act=same]", "Go on as Twice");
        browser.Click("[data-act=same]");
        browser.SeeText("#progress", "1 of 3 placed.");
    }

    [Fact]
    public async Task A_page_that_brings_the_work_along_asks_for_nothing_and_shows_it_to_its_own_device_alone()
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var (_, code) = await teacher.Publish(Samples.Document(3));
        using var browser = demo.Open();
        Join(browser, code, "Along");
        browser.ClickAt(browser.Spot(Label(browser, 1)));
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.SeeText("#progress", "1 of 3 placed. Saved.");
        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "1 of 3 placed.");
        browser.SeeText(".work-who", "Along");
        var asked = browser.Script<bool>(
            """
            const ready = performance.getEntriesByName('ready')[0].startTime
            return performance.getEntriesByType('resource').some(entry => entry.name.includes('/now') && entry.startTime < ready)
            """
        );
        Assert.False(asked);
        Assert.Equal(0, browser.Count("#along"));
        // It goes on from there.
        browser.ClickAt(browser.Spot(Label(browser, 2)));
        browser.ClickAt(browser.Spot("[data-zone=z2].zone-button"));
        browser.SeeText("#progress", "2 of 3 placed. Saved.");
        // A device that has become another's by now shows what is theirs.
        var other = new Visitor(demo.Fenster.Address);
        await other.Join(code, "Other");
        browser.Script<object?>($"localStorage.setItem('fenster-device-{code}', '{other.SecretFor(code)}')");
        browser.Driver.Navigate().Refresh();
        browser.SeeText(".work-who", "Other");
        browser.SeeText("#progress", "0 of 3 placed.");
        // And the page follows it.
        browser.Driver.Navigate().Refresh();
        browser.SeeText(".work-who", "Other");
        Assert.Equal([], browser.ConsoleErrors());
    }
}
