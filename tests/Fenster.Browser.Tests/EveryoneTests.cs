using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>What axe-core finds on every screen, in both themes: nothing.</summary>
[Collection("screens")]
public sealed class EveryoneTests(Demo demo)
{
    [Fact]
    public void No_screen_has_an_accessibility_violation()
    {
        using var browser = demo.Open();
        void Look(string path, string see)
        {
            browser.Go(path);
            browser.See(see);
            Check(path);
        }

        void Check(string where)
        {
            foreach (var dark in (bool[])[false, true])
            {
                browser.Darken(dark);
                var found = browser.AxeViolations();
                Assert.True(found is [], $"{where}, {(dark ? "dark" : "light")}: {string.Join('\n', found)}");
            }
            browser.Darken(false);
        }

        Look("/", "#code");
        Look("/join/nothing", ".problem");
        Look("/sign-in", "#Email");
        browser.SignIn();
        Look("/activities", ".cards");
        Look("/activities/1", ".zone-box");
        Look("/activities/1/share", ".join-code");
        var link = browser.See(".way-in-link a").Text;
        Look("/activities/2/share", ".way-in .qr");
        var given = browser.Script<string>("return document.querySelector('[data-to=class]').dataset.assignment");
        foreach (var page in (string[])["students", "project", "sheet", "slips"])
            Look($"/activities/2/share/{given}/{page}", "h1");
        Look("/outbox", ".letter");
        Look("/school-shelf", ".cards .card-pane");
        Look("/classes", ".class-list");
        Look("/classes/1", ".member-list");
        Look("/classes/1?needs=true", ".member-form");
        Look("/activities?which=Archived", ".empty");
        Look("/activities/1/results", ".results");
        browser.Click(".results tbody a");
        browser.See(".placed");
        Check("one result");
        Look("/activities/1/try/screen", ".bank .label");
        Look("/activities/1/board", "#board-screen[data-ready]");
        Look("/activities/18/game", "#game[data-ready]");
        Look("/activities/16", ".own-bench");
        Look($"/activities/16/gallery?of={demo.AssignmentOf(16)}", ".piece .own-numbers");
        Look("/activities/16/try/screen", ".making-ways");
        Look("/nowhere", "h1");

        browser.Driver.Navigate().GoToUrl(link);
        browser.See("#name");
        Check("the way in");
        browser.Enter("Everyone");
        browser.See(".bank .label");
        Check("the work");
        browser.Click("#hand-in");
        browser.See("#review-go");
        Check("the last look");
        browser.Click("#review-go");
        browser.See(".marked-list");
        Check("the result");
    }
}
