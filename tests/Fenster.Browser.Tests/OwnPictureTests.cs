using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>Students make a picture of their own: by finger on a phone, and by keyboard alone with the names that a screen reader says.</summary>
[Collection("screens")]
public sealed class OwnPictureTests(Demo demo)
{
    private static readonly string Photograph = System.IO.Path.Combine(
        RunningFenster.Repository,
        "demo",
        "sailing-school",
        "pictures",
        "harbour-entrance.jpg"
    );

    /// <summary>As a member whose words are on the slips.</summary>
    private async Task Enter(Browser student, string name)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var of = await teacher.AssignmentOf(16);
        var slips = System.Text.RegularExpressions.Regex.Replace(await teacher.Text($"/activities/16/share/{of}/slips"), "<[^>]+>", "\n");
        var lines = slips.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        var slip = lines.SkipWhile(line => line != name).ToList();
        string First(string pattern) => slip.First(line => System.Text.RegularExpressions.Regex.IsMatch(line, pattern));
        student.Go($"/do/{First("^[A-Z0-9]{6}$")}");
        student.See("form[data-handler=Join] input[name=word]").SendKeys(First("^[a-z]+( [a-z]+)+$"));
        student.Click("form[data-handler=Join] button");
        student.SeeText(".who-name", name);
        student.Click("form[data-handler=Join] button");
        student.Click("[data-handler=Begin] button");
        student.See("#work[data-ready]");
    }

    private static void Write(Browser student, string title)
    {
        student.Fill("[data-field=title]", title);
        student.Fill("[data-field=source]", "My own eyes");
        student.Click(".making-acts .btn-primary");
        student.Until(() => student.Count(".making-editor") == 0, "the spot written");
    }

    [Fact]
    public async Task On_a_phone_a_photograph_becomes_a_picture_with_spots_that_is_handed_in_and_seen_by_the_teacher()
    {
        using var student = demo.Open(360, 740, phone: true);
        await Enter(student, "Pavel Whitcombe");
        Assert.Empty(student.AxeViolations());
        student.SeeText(".making-aims", "There is no picture yet.");
        student.Driver.FindElement(By.CssSelector("#making input[type=file]")).SendKeys(Photograph);
        student.See(".making-picture .stage");
        for (var i = 0; i < 3; i++)
        {
            student.Tap(student.Spot(".making-picture .stage", 0.2 + 0.3 * i, 0.6));
            student.See(".making-editor");
            Write(student, $"Mark {i + 1}");
        }
        Assert.Equal(3, student.Count(".own-number"));
        student.Fill("[data-field=alt]", "A harbour with two towers.");
        student.Script<object?>("document.activeElement.blur(); return null");
        student.SeeText(".making-aims", "Nothing is missing.");
        Assert.Empty(student.AxeViolations());
        Assert.Equal(360, student.Script<long>("return document.documentElement.scrollWidth"));
        // A spot is moved by a finger.
        student.Script<object?>("document.querySelector('.making').scrollTo(0, 0); return null");
        var before = student.Spot(".own-number");
        student.Swipe(before, (before.X + 30, before.Y - 20), (before.X + 60, before.Y - 40));
        student.Until(() => Math.Abs(student.Spot(".own-number").X - before.X - 60) < 4, "the spot moved");
        Assert.Equal(0, student.Count(".making-editor"));
        // As others will see it.
        student.Click(".making-tools .btn-outline-primary");
        student.SeeText(".making-look", "Mark 2");
        student.SeeText(".making-look", "From: My own eyes");
        Assert.Empty(student.AxeViolations());
        student.Click(".making-look > .btn");
        student.Click("#hand-in");
        student.Click("#review-go");
        student.See(".as-result .own-list");

        using var teacher = demo.Open();
        teacher.SignIn();
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        teacher.Go($"/activities/16/gallery?of={await visitor.AssignmentOf(16)}");
        teacher.SeeText("#open", "Pavel Whitcombe");
        Assert.Empty(teacher.AxeViolations());
        // What came after the gallery was opened is in it by the teacher's word alone.
        student.Click("[data-act=gallery]");
        student.See(".gallery .own-number");
        Assert.DoesNotContain("Mark 2", student.See("#gallery").Text);
        Assert.Empty(student.AxeViolations());
        Assert.Empty(student.ConsoleErrors().Concat(teacher.ConsoleErrors()));
    }

    [Fact]
    public async Task By_keyboard_alone_questions_are_answered_by_spots_on_a_chart()
    {
        using var student = demo.Open();
        student.Go(await demo.JoinPath(17));
        student.Enter("Keyboard");
        string Focused() =>
            student.Script<string>(
                "const at = document.activeElement; return at.getAttribute('aria-label') ?? at.labels?.[0]?.innerText ?? at.innerText"
            );
        void TabTo(string name)
        {
            for (var tabs = 0; tabs < 40 && !Focused().StartsWith(name, StringComparison.Ordinal); tabs++)
                student.Keys(OpenQA.Selenium.Keys.Tab);
            Assert.StartsWith(name, Focused());
        }
        for (var i = 0; i < 3; i++)
        {
            TabTo("Put a spot");
            student.Keys(OpenQA.Selenium.Keys.Enter);
            // The first field has the focus: which question it answers, chosen already; then the title.
            student.See(".making-editor");
            TabTo("Title");
            student.Keys($"Place {i + 1}");
            TabTo("Done");
            student.Keys(OpenQA.Selenium.Keys.Enter);
            student.Until(() => student.Count(".making-editor") == 0, "the spot written");
        }
        student.SeeText(".making-aims", "Nothing is missing.");
        Assert.Equal(3, student.Count(".making-questions .answered"));
        // Its number is moved by arrows, and told where it is.
        student.Script<object?>("document.querySelector('.own-number').focus(); return null");
        Assert.StartsWith("Spot 1: Place 1", Focused());
        var before = student.Script<string>("return document.querySelector('.own-number').style.left");
        student.Keys(OpenQA.Selenium.Keys.ArrowRight, OpenQA.Selenium.Keys.ArrowDown);
        student.SeeText("#say", "from the");
        Assert.NotEqual(before, student.Script<string>("return document.querySelector('.own-number').style.left"));
        student.Keys(OpenQA.Selenium.Keys.Delete);
        student.Until(() => student.Count(".own-number") == 2, "one spot less");
        student.SeeText(".making-aims", "1 more spot is needed.");
        Assert.Empty(student.AxeViolations());
        Assert.Empty(student.ConsoleErrors());
    }

    [Fact]
    public async Task What_was_typed_a_moment_before_its_spot_is_dragged_stays()
    {
        using var student = demo.Open();
        student.Go(await demo.JoinPath(17));
        student.Enter("Dragging");
        student.Click(".making-add");
        student.See("[data-field=title]").SendKeys("Light tower");
        var before = student.Spot(".own-number");
        var (x, y) = student.Spot(".stage", 0.62, 0.6);
        student.Drag(before, (before.X + 40, before.Y + 30), (x, y));
        // The picture grows when the line of signs goes with the field: where the spot lies is a share of the picture.
        student.Until(() => Math.Abs(student.Spot(".own-number").X - Across(0.62)) < 8, "the spot moved");
        student.SeeText(".making-spot", "Light tower");
        student.Driver.Navigate().Refresh();
        student.SeeText(".making-spot", "Light tower");
        Assert.Empty(student.ConsoleErrors());

        int Across(double share) => student.Spot(".stage", share).X;
    }

    [Fact]
    public async Task A_line_that_breaks_while_a_photograph_is_sent_goes_on_and_it_can_be_cancelled()
    {
        using var student = demo.Open();
        await Enter(student, "Rosalind Achebe");
        student.Offline(true);
        student.Driver.FindElement(By.CssSelector("#making input[type=file]")).SendKeys(Photograph);
        student.SeeText(".making-progress", "The line broke; it goes on by itself.");
        student.Offline(false);
        student.See(".making-picture .stage");
        student.Offline(true);
        student.Driver.FindElement(By.CssSelector(".making-again input[type=file]")).SendKeys(Photograph);
        student.SeeText(".making-progress", "The line broke");
        student.Click(".making-progress .btn");
        student.Offline(false);
        student.Until(() => student.Count(".making-progress") == 0, "given up");
        // The picture that was there before still is.
        student.See(".making-picture .stage");
        Assert.Equal(0, student.Count("#making .problem"));
    }

    [Fact]
    public void A_teacher_asks_for_pictures_and_says_how_many_spots_and_whether_with_sources()
    {
        using var browser = demo.Open();
        browser.SignIn();
        browser.Go("/activities");
        browser.Fill("#title", "Our street");
        browser.Click(".new-activity button");
        browser.Driver.FindElement(By.CssSelector(".get-picture button[title*='Each student']")).Click();
        browser.See(".own-bench");
        browser.Fill(".row-text", "Show your street");
        browser.See(".row-rules");
        browser.Script<object?>(
            """
            for (const [name, value] of [['fewest', '7'], ['needsSources', 'true']]) {
              const word = [...document.querySelectorAll('.row-rules input, .row-rules select')].find(word => word.dataset.path === name)
              word.value = value
              word.dispatchEvent(new Event('change', { bubbles: true }))
            }
            return null
            """
        );
        browser.Fill(".row-details textarea[data-name=criteria]", "Names the houses = 2");
        browser.Until(
            () =>
                browser.Draft() is var draft
                && draft.Contains("\"fewest\":7", StringComparison.Ordinal)
                && draft.Contains("\"needsSources\":true", StringComparison.Ordinal)
                && draft.Contains("Names the houses", StringComparison.Ordinal),
            "what was said of it, stored"
        );
        // Nothing else lies on this pane.
        Assert.Equal(
            0,
            browser.Script<long>("return [...document.querySelectorAll('.ledger-adds')].filter(adds => adds.checkVisibility()).length")
        );
        Assert.Empty(browser.AxeViolations());
        Assert.Empty(browser.ConsoleErrors());
    }
}
