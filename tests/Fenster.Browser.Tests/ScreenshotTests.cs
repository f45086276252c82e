using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>
/// One picture of each main view, from the demo data: in the folder that FENSTER_SHOTS names, or else in one that is
/// thrown away, to see that every view opens.
/// </summary>
[Trait("Category", "Screenshots")]
[Collection("screens")]
public sealed class ScreenshotTests(Demo demo) : IDisposable
{
    private readonly string? kept = Environment.GetEnvironmentVariable("FENSTER_SHOTS");
    private readonly string thrownAway = Directory.CreateTempSubdirectory("fenster-shots-").FullName;

    public void Dispose() => Directory.Delete(thrownAway, recursive: true);

    private void Shoot(Browser browser, string name)
    {
        var file = Path.Combine(kept ?? thrownAway, $"{name}.png");
        browser.Shoot(file);
        Assert.True(new FileInfo(file).Length > 5000, $"{name} is nearly empty");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Teachers_views()
    {
        using var browser = demo.Open();
        browser.SignIn();
        Shoot(browser, "activities");
        browser.Go("/activities/1");
        browser.Until(() => browser.Count(".zone-box") == 5, "the zones");
        browser.Click(".row-line:nth-child(2) .row-text");
        Shoot(browser, "workbench");
        browser.Go("/activities/1/picture");
        browser.See(".easel-picture image");
        browser.Until(() => browser.Count("#library .shelf-picture") > 40, "the library");
        Shoot(browser, "picture-room");
        browser.Go("/activities/2/share");
        browser.See(".join-code");
        Shoot(browser, "share");
        browser.Go("/activities/2/results?of=2");
        browser.See(".results");
        Shoot(browser, "results");
        browser.Go("/activities/2/insight?of=2");
        browser.See(".drawing [data-layer=flows] path");
        browser.Script<object?>("document.querySelector('.findings').scrollIntoView()");
        Shoot(browser, "insight");
        browser.Go("/activities/4/put-right?of=4&target=0.4");
        browser.SeeText("#sentence", "No score changes.");
        var grip = browser.Spot("circle.handle:not(.zone-area)");
        browser.Drag(grip, (grip.X + 14, grip.Y));
        browser.SeeText("#sentence", "scores change");
        Shoot(browser, "put-right");
        browser.Go("/activities/2/results?of=2");
        browser.Driver.FindElement(OpenQA.Selenium.By.CssSelector("a[href*='/wall?']")).Click();
        browser.Until(() => browser.Count(".tile .stage .label") > 20, "the class on the wall");
        Shoot(browser, "wall");
        browser.Go("/activities/2/board");
        browser.See("#board-screen[data-ready]");
        for (var i = 0; i < 7; i++)
            browser.Keys(OpenQA.Selenium.Keys.PageDown);
        Shoot(browser, "board");
        browser.Go("/activities/18/game");
        browser.See("#game[data-ready]");
        foreach (var (spot, team) in new[] { (0, "1"), (6, "2"), (9, "2") })
        {
            browser.Click($"[data-spot='{spot}']");
            browser.Keys(team, OpenQA.Selenium.Keys.Escape);
        }
        Shoot(browser, "game");
        browser.Go($"/activities/16/gallery?of={demo.AssignmentOf(16)}");
        browser.See(".piece .own-number");
        Shoot(browser, "gallery");
        browser.Go("/activities/12/results");
        browser.Click(".results tbody tr:first-child a");
        browser.See(".one-panes .label, .one-panes .answer-box");
        Shoot(browser, "one-student");
    }

    [Fact]
    public void Teachers_views_on_a_phone()
    {
        using var browser = demo.Open(360, 740, phone: true);
        browser.SignIn();
        browser.Go("/activities/1");
        browser.Until(() => browser.Count(".zone-box") == 5, "the zones");
        Shoot(browser, "workbench-phone");
    }

    /// <summary>A student's answers from the top of the picture down, two of them mixed up and two missing.</summary>
    private static readonly string[] Answers =
    [
        "Burgee",
        "Mast",
        "Mainsail",
        "Forestay",
        "Boom",
        "Jib",
        "Mainsheet",
        "Tiller",
        "Kicking strap",
        "Hull",
    ];

    private async Task Work(string name, string suffix, int width, int height, bool phone)
    {
        using var browser = demo.Open(width, height, phone);
        browser.Go(await demo.JoinPath(2));
        browser.See("#name");
        browser.Enter(name);
        browser.See(".bank .label");
        foreach (var (answer, i) in Answers.Select((answer, i) => (answer, i + 1)))
        {
            var label = browser.Script<string>(
                "return [...document.querySelectorAll('.bank .label')].find(l => l.textContent === arguments[0]).dataset.label",
                answer
            );
            browser.ClickAt(browser.Spot($".bank [data-label={label}]"));
            browser.See(".holding");
            // On a phone the places are shown larger while a label is in the hand.
            browser.ClickAt(browser.Spot(phone ? $".fingertip:nth-of-type({i})" : $"[data-zone=z{i}].zone-button"));
            browser.SeeText("#progress", $"{i} of 12 placed. Saved.");
        }
        Shoot(browser, $"student{suffix}");
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.See(".marked-list");
        browser.Until(() => browser.Count("#review[open]") == 0, "the dialog closed");
        if (!phone)
            Shoot(browser, "result");
    }

    [Fact]
    public Task Students_views_on_a_laptop() => Work("Tamsin Ferro", "", 1280, 800, phone: false);

    [Fact]
    public async Task Other_kinds_on_students_screens()
    {
        foreach (
            var (activity, name, phone) in new[]
            {
                (3, "student-matching", false),
                (17, "student-making", false),
                (17, "student-making-phone", true),
            }
        )
        {
            using var browser = phone ? demo.Open(360, 740, phone: true) : demo.Open();
            browser.Go(await demo.JoinPath(activity));
            browser.Enter(phone ? "Idris Calloway" : "Petra Vance");
            if (activity == 17)
            {
                foreach (var (x, y, title) in new[] { (0.62, 0.66, "Under the north shore"), (0.4, 0.5, "Off the wreck") })
                {
                    browser.ClickAt(browser.Spot(".making-picture .stage", x, y));
                    browser.See(".making-editor");
                    browser.Fill("[data-field=title]", title);
                    browser.Script<object?>("document.activeElement.blur(); return null");
                }
                browser.SeeText(".making-aims", "1 more spot is needed.");
                browser.Script<object?>("document.querySelector('.making').scrollTo(0, 0); return null");
            }
            else
            {
                for (var i = 1; i <= 3; i++)
                {
                    browser.Click($".matching-left li:nth-child({i}) button");
                    browser.Click($".matching-right li:nth-child({i + 1}) button");
                }
                browser.SeeText("#progress", "3 of 4 done. Saved.");
            }
            Shoot(browser, name);
        }
    }

    [Fact]
    public Task Students_views_on_a_phone() => Work("Idris Calloway", "-phone", 360, 740, phone: true);
}
