using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>A teacher reads what a class shows and puts a key right by hand.</summary>
[Collection("screens")]
public sealed class InsightTests(Demo demo)
{
    /// <summary>The course of forty's assignment of an activity.</summary>
    private async Task<long> CourseOf(long activity)
    {
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        var page = await visitor.Text($"/activities/{activity}/insight");
        return long.Parse(
            System.Text.RegularExpressions.Regex.Match(page, "\\?of=(\\d+)\"[^>]*><bdi>Day skippers").Groups[1].Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
    }

    [Theory]
    [InlineData(1280, 800)]
    [InlineData(360, 740)]
    public async Task What_is_pointed_at_in_the_ledger_shows_in_the_picture_and_layers_come_and_go(int width, int height)
    {
        using var browser = demo.Open(width, height);
        browser.SignIn();
        browser.Go($"/activities/2/insight?of={await CourseOf(2)}");
        browser.SeeText(".findings", "are taken for each other:");
        Assert.Empty(browser.AxeViolations());
        Assert.Equal(0L, browser.Script<long>("return Math.max(0, document.documentElement.scrollWidth - innerWidth)"));
        Assert.True(browser.Count(".drawing [data-layer=flows] path") > 0);
        browser.Click(".layers input[data-layer=flows]");
        Assert.False(browser.See(".drawing").FindElement(By.CssSelector("[data-layer=flows]")).Displayed);
        // By the keyboard: the link within the ledger's row points at the same.
        browser.Script<object?>("document.querySelector('#target-0-3 a').focus(); return null");
        browser.Until(() => browser.Count(".drawing g[data-target='3'].pointed") > 0, "the zone that the row tells of");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task A_region_is_redrawn_by_hand_and_what_comes_of_it_moves_with_it_until_it_is_applied_and_taken_back()
    {
        using var browser = demo.Open();
        browser.SignIn();
        var of = await CourseOf(4);
        browser.Go($"/activities/4/put-right?of={of}&target=0.4");
        browser.SeeText("#sentence", "No score changes.");
        Assert.False(browser.See("#do-it").Enabled);
        Assert.Empty(browser.AxeViolations());
        var before = browser.See("#mean-after").Text;
        // By its grip: a larger circle takes in the pins beside it.
        var grip = browser.Spot("circle.handle:not(.zone-area)");
        browser.Drag(grip, (grip.X + 16, grip.Y));
        browser.SeeText("#sentence", "of 40 scores change");
        Assert.NotEqual(before, browser.See("#mean-after").Text);
        var announced = browser.Script<string>(
            "return [...document.querySelectorAll('#moved tr')].map(row => row.children[0].textContent + ' ' + row.children[2].textContent.split(' ')[0]).sort().join('|')"
        );
        browser.See("#reason").SendKeys("Battens have ends.");
        browser.Click("#do-it");
        browser.SeeText("main", "Battens have ends.");
        browser.Click(".regrade details summary");
        Assert.Equal(
            announced,
            browser.Script<string>(
                "return [...document.querySelectorAll('.regrade:first-of-type tbody tr')].map(row => row.children[0].textContent + ' ' + row.children[2].textContent).sort().join('|')"
            )
        );
        Assert.Empty(browser.AxeViolations());
        browser.Click(".regrade .card-delete summary");
        browser.See(".regrade input[name=reason]").SendKeys("They were told otherwise.");
        browser.Click(".regrade .card-delete button");
        browser.SeeText("main", "Taken back since.");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task A_slack_is_typed_and_a_question_taken_out_by_the_keyboard_alone()
    {
        using var browser = demo.Open(360, 740);
        browser.SignIn();
        browser.Go($"/activities/4/put-right?of={await CourseOf(4)}&target=0.4");
        browser.SeeText("#sentence", "No score changes.");
        browser.See("#slack").SendKeys(Keys.Control + "a");
        browser.See("#slack").SendKeys("30");
        browser.SeeText("#sentence", "of 40 scores change");
        browser.See("#taken-out").SendKeys(Keys.Down + Keys.Down);
        browser.SeeText("#sentence", "scores change");
        Assert.Equal(0L, browser.Script<long>("return Math.max(0, document.documentElement.scrollWidth - innerWidth)"));
        Assert.Empty(browser.AxeViolations());
        browser.See("#slack").SendKeys(Keys.Control + "a");
        browser.See("#slack").SendKeys("-3");
        browser.SeeText("#trouble", "That can’t be");
        Assert.False(browser.See("#do-it").Enabled);
        Assert.Empty(browser.ConsoleErrors());
    }

    [Theory]
    [InlineData("/activities/2/insight", 360)]
    [InlineData("/activities/2/results", 360)]
    [InlineData("/activities/2/results/out", 1280)]
    [InlineData("/activities/2/results/record", 360)]
    [InlineData("/activities/8/insight", 1280)]
    [InlineData("/activities/3/insight", 360)]
    public async Task Pages_of_results_hold_what_they_show_at_any_width_and_in_the_dark(string path, int width)
    {
        using var browser = demo.Open(width, 740, dark: true);
        browser.SignIn();
        browser.Go($"{path}?of={await CourseOf(int.Parse(path.Split('/')[2], System.Globalization.CultureInfo.InvariantCulture))}");
        browser.See("h1");
        Assert.Equal(0L, browser.Script<long>("return Math.max(0, document.documentElement.scrollWidth - innerWidth)"));
        Assert.Empty(browser.AxeViolations());
        Assert.Empty(browser.ConsoleErrors());
    }
}
