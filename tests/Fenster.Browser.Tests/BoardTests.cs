using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>An activity on the board before a class, and as a game of teams.</summary>
[Collection("screens")]
public sealed class BoardTests(Demo demo)
{
    private static readonly string[] KeysOfAClicker = [OpenQA.Selenium.Keys.PageDown, OpenQA.Selenium.Keys.PageUp];

    /// <param name="words">By which it is found among what other tests have made.</param>
    private static void Open(Browser browser, int activity, string words)
    {
        browser.SignIn();
        browser.Go($"/activities?words={words}");
        // In one click from there.
        browser.Click($".card-pane a[href='/activities/{activity}/board']");
        browser.See("#board-screen[data-ready]");
    }

    private static int Held(Browser browser) => browser.Count(".stage .label.held");

    [Fact]
    public void By_keys_alone_spots_are_asked_and_revealed_and_each_step_is_taken_back()
    {
        using var browser = demo.Open();
        Open(browser, 2, "dinghy");
        Assert.Equal(12, browser.Count(".board-number"));
        Assert.Empty(browser.AxeViolations());
        var (forward, back) = (KeysOfAClicker[0], KeysOfAClicker[1]);
        browser.Keys(forward);
        browser.SeeText("#caption", "What belongs here?");
        Assert.Equal(0, Held(browser));
        browser.Keys(forward);
        browser.SeeText("#caption", "Burgee");
        Assert.Equal(1, Held(browser));
        // The next is asked, another is called by its number, and revealed.
        browser.Keys(forward, "1", "2");
        browser.SeeText(".caption-number", "12");
        browser.Keys("r");
        browser.SeeText("#left", "10 left to reveal");
        browser.Keys("a");
        browser.SeeText("#left", "0 left to reveal");
        Assert.Equal(12, Held(browser));
        browser.Keys(back);
        browser.SeeText("#left", "10 left to reveal");
        for (var steps = 0; steps < 6; steps++)
            browser.Keys("u");
        browser.SeeText("#left", "12 left to reveal");
        Assert.Equal(0, Held(browser));
        Assert.Equal("true", browser.See("#undo").GetAttribute("aria-disabled"));
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Several_fingers_lay_labels_at_once_and_what_is_revealed_stays()
    {
        using var browser = demo.Open();
        Open(browser, 2, "dinghy");
        // Letters for the last row.
        Assert.True(
            browser.Script<double>("return parseFloat(getComputedStyle(document.querySelector('.board-side .label')).fontSize)") >= 28,
            "labels of the bank"
        );
        var labels = ((string[])["Tiller", "Jib"]).Select(text =>
            browser.Script<string>(
                "return [...document.querySelectorAll('.bank-labels .label')].find(label => label.textContent.trim() === arguments[0]).dataset.label",
                text
            )
        );
        var from = labels.Select(label => browser.Spot($".bank-labels [data-label='{label}']")).ToArray();
        var to = new[] { browser.Spot("[data-index='2']"), browser.Spot("[data-index='5']") };
        static object[] Points(IEnumerable<(int X, int Y)> spots) =>
            [
                .. spots.Select(
                    (spot, finger) =>
                        new Dictionary<string, object>
                        {
                            ["x"] = spot.X,
                            ["y"] = spot.Y,
                            ["id"] = finger,
                        }
                ),
            ];
        browser.Cdp("Input.dispatchTouchEvent", ("type", "touchStart"), ("touchPoints", Points(from)));
        foreach (var share in (double[])[0.3, 0.7, 1])
            browser.Cdp(
                "Input.dispatchTouchEvent",
                ("type", "touchMove"),
                ("touchPoints", Points(from.Zip(to, (a, b) => ((int)(a.X + (b.X - a.X) * share), (int)(a.Y + (b.Y - a.Y) * share)))))
            );
        Assert.Equal(2, browser.Count(".ghost"));
        browser.Cdp("Input.dispatchTouchEvent", ("type", "touchEnd"), ("touchPoints", Array.Empty<object>()));
        browser.Until(() => browser.Count(".stage .label.placed") == 2, "two labels");
        Assert.Equal(0, Held(browser));
        // A tap on one and then on its place does it too.
        browser.ClickAt(browser.Spot(".bank-labels li:first-child .label"));
        browser.ClickAt(browser.Spot("[data-index='7']"));
        browser.Until(() => browser.Count(".stage .label.placed") == 3, "three labels");
        // What is revealed takes its place, and can't be carried away.
        browser.Keys("3", "r");
        browser.Until(() => Held(browser) == 1, "the third, revealed");
        var held = browser.Spot(".stage .label.held");
        browser.Drag(held, (held.X, held.Y - 60), browser.Spot(".board-side .bank-labels"));
        Assert.Equal(1, Held(browser));
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task How_the_class_answered_stands_beside_each_question_without_names()
    {
        using var browser = demo.Open();
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        Open(browser, 1, "coming");
        browser.Script<object?>(
            "const of = document.getElementById('of'); of.value = arguments[0]; of.dispatchEvent(new Event('change')); return null",
            $"{await visitor.AssignmentOf(1)}"
        );
        browser.SeeText("#answers", "have begun");
        browser.Keys("1");
        browser.See(".answers-list li");
        Assert.Equal(0, browser.Count(".answers-list .is-right"));
        browser.Keys("r");
        browser.See(".answers-list .is-right");
        Assert.Empty(browser.AxeViolations());
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Teams_play_for_points_which_this_device_remembers_until_they_are_cleared()
    {
        using var browser = demo.Open();
        Open(browser, 18, "rules");
        browser.Click("a[href='/activities/18/game']");
        browser.See("#game[data-ready]");
        Assert.Equal(20, browser.Count(".game-spot"));
        Assert.Empty(browser.AxeViolations());
        browser.Click("[data-spot='16']");
        browser.SeeText("#card", "For 500 points");
        Assert.DoesNotContain("not under command", browser.See("#card").Text);
        Assert.Empty(browser.AxeViolations());
        browser.Keys("r");
        browser.SeeText("#card", "not under command");
        browser.Keys("2");
        browser.SeeText(".team:nth-child(2) .team-score", "500");
        browser.Keys(OpenQA.Selenium.Keys.Escape);
        Assert.Contains("opened", browser.See("[data-spot='16']").GetAttribute("class"));
        for (var more = 0; more < 6; more++)
            browser.Click("#add");
        Assert.Equal(6, browser.Count(".team"));
        // Closed and opened again, it goes on.
        browser.Go("/activities/18/game");
        browser.See("#game[data-ready]");
        browser.SeeText(".team:nth-child(2) .team-score", "500");
        browser.SeeText("#left", "19 to open");
        browser.Click("#undo");
        browser.SeeText(".team:nth-child(2) .team-score", "0");
        browser.Click("#undo");
        browser.SeeText("#left", "20 to open");
        browser.Click("[data-spot='0']");
        browser.Keys(OpenQA.Selenium.Keys.Escape);
        browser.Click("#clear");
        browser.Click("#clear-dialog .btn-danger");
        browser.SeeText("#left", "20 to open");
        Assert.Empty(browser.ConsoleErrors());
    }
}
