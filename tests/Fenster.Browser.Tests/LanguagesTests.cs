using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>
/// A whole attempt and a whole build in languages that are there for looking at layouts: one with longer words, one mirrored. What is
/// not said in them was forgotten; what does not fit in them does not fit in others.
/// </summary>
[Collection("screens")]
public sealed class LanguagesTests(Demo demo)
{
    private const string Accented = "en-XA";
    private const string Mirrored = "ar-XB";

    /// <summary>A document whose students read its language.</summary>
    private static string In(string language, string document)
    {
        var node = JsonNode.Parse(document)!;
        node["language"] = language;
        node["direction"] = language.StartsWith("ar", StringComparison.Ordinal) ? "rightToLeft" : "leftToRight";
        return node.ToJsonString();
    }

    private async Task<string> Publish(string language)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var picture = await teacher.Upload(
            await File.ReadAllBytesAsync(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"))
        );
        var hash = JsonNode.Parse(await picture.Content.ReadAsStringAsync())!["hash"]!.GetValue<string>();
        return (await teacher.Publish(In(language, Samples.Document(4, hash, Samples.Practice)))).Code;
    }

    private static void IsFit(Browser browser, string where) =>
        Assert.True(browser.CutOrCovered() is [], $"{where}: {string.Join("; ", browser.CutOrCovered())}");

    /// <summary>No word of English is left on the page, but those of the activity and those in brackets.</summary>
    private static void IsSaid(Browser browser, string language, params string[] own)
    {
        var words = browser.Script<IReadOnlyCollection<object>>(
            """
            const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
            const words = []
            while (walker.nextNode()) {
              const { data, parentElement } = walker.currentNode
              if (/[a-z]{3}/i.test(data) && parentElement.checkVisibility() && !parentElement.closest('option, script, style, datalist')) words.push(data.trim())
            }
            return words
            """
        );
        Assert.Equal([], words.Select(word => $"{word}").Where(word => !IsDressed(language, word) && !own.Any(word.Contains)));
    }

    private static bool IsDressed(string language, string word) =>
        language == Accented ? word.Contains('~', StringComparison.Ordinal) : word.Contains('\u202E', StringComparison.Ordinal);

    [Theory]
    [InlineData(Accented, 1280, 800, false)]
    [InlineData(Accented, 360, 740, true)]
    [InlineData(Mirrored, 1280, 800, false)]
    [InlineData(Mirrored, 360, 740, true)]
    public async Task A_whole_attempt_is_said_in_the_activitys_language_and_fits(string language, int width, int height, bool phone)
    {
        var code = await Publish(language);
        using var browser = demo.Open(width, height, phone);
        browser.Go($"/join/{code}");
        browser.See("#name");
        IsFit(browser, "joining");
        browser.Fill("#name", "Pat");
        browser.Click("button.btn-primary");
        browser.See("#begin");
        IsFit(browser, "before the start");
        browser.Click("#begin");
        browser.See(".bank .label");
        Assert.Equal(language == Mirrored ? "rtl" : "ltr", browser.Script<string>("return document.documentElement.dir"));
        IsSaid(browser, language, "Part ", "Pat", "Parts of something");
        IsFit(browser, "working");
        browser.ClickAt(browser.Spot(".bank .label"));
        browser.ClickAt(browser.Spot("[data-zone=z1].zone-button"));
        browser.Until(() => browser.Count(".label.placed") == 1, "a placed label");
        browser.Click("#check");
        browser.Until(() => browser.Count(".badge-mark") > 0, "marks");
        IsFit(browser, "checked");
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
        browser.Click("#hand-in");
        browser.See("#review-go");
        IsFit(browser, "handing in");
        browser.Click("#review-go");
        browser.See(".marked-list");
        IsSaid(browser, language, "Part ", "Pat", "Parts of something", "planted");
        IsFit(browser, "handed in");
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
    }

    [Theory]
    [InlineData(Accented, 1280, 800)]
    [InlineData(Accented, 360, 740)]
    [InlineData(Mirrored, 1280, 800)]
    [InlineData(Mirrored, 360, 740)]
    public void A_whole_build_is_said_in_the_teachers_language_and_fits(string language, int width, int height)
    {
        using var browser = demo.Open(width, height);
        browser.Reads(language);
        browser.SignIn();
        IsFit(browser, "activities");
        foreach (
            var (path, see) in ((string, string)[])
                [
                    ("/account", "#zone"),
                    ("/colleagues", ".versions"),
                    ("/deleted", "h1"),
                    ("/activities/2/share", ".join-code"),
                    ("/classes", ".class-list"),
                    ("/classes/1", ".member-list"),
                    ("/classes/1?needs=true", ".member-form"),
                ]
        )
        {
            browser.Go(path);
            browser.See(see);
            IsFit(browser, path);
        }
        browser.Go("/activities/1/results");
        browser.See(".results");
        IsFit(browser, "results");

        browser.Go("/activities");
        browser.Fill("#title", "Pseudo");
        browser.Click(".new-activity .btn-primary");
        browser.See("#picture-file + *, .get-picture");
        IsFit(browser, "an empty workbench");
        browser
            .Driver.FindElement(OpenQA.Selenium.By.Id("picture-file"))
            .SendKeys(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"));
        browser.See(".stage-picture");
        foreach (var (across, down, name) in ((double, double, string)[])[(0.3, 0.3, "North"), (0.6, 0.3, "East"), (0.4, 0.7, "South")])
        {
            browser.ClickAt(browser.Spot(".stage-picture", across, down));
            browser.Until(() => browser.HasFocus(".row-text"), "the new row");
            browser.Keys(name, OpenQA.Selenium.Keys.Enter);
        }
        browser.Until(() => browser.Count(".row-line") == 3, "three rows");
        browser.Until(
            () => !browser.Script<bool>("return /~?Saving|Șaving/.test(document.getElementById('save-state').textContent)"),
            "saved"
        );
        Assert.Equal([], browser.ConsoleErrors());
        IsSaid(browser, language, "North", "East", "South", "Pseudo", "Fenster");
        IsFit(browser, "the workbench");
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
        browser.Click(".row-line:nth-of-type(1) .row-kind button");
        browser.See(".row-details");
        IsFit(browser, "an open row");
    }

    [Fact]
    public async Task In_Arabic_every_button_is_Arabic_and_the_picture_is_not_mirrored()
    {
        using var browser = demo.Open();
        browser.Go(await demo.JoinPath(13));
        browser.Fill("#name", "سلمى");
        browser.Click("button.btn-primary");
        browser.SeeText(".rules-brief", "النقاط");
        browser.Click("#begin");
        browser.See(".bank .label");
        Assert.Equal("ar", browser.Script<string>("return document.documentElement.lang"));
        Assert.Equal("rtl", browser.Script<string>("return document.documentElement.dir"));
        Assert.DoesNotMatch("[A-Za-z]{2}", browser.See(".work-top").Text);
        browser.SeeText("#hand-in", "تسليم");
        // The first label stands at the right, and what lies at the picture's left stays there.
        Assert.True(browser.Spot(".bank-labels li:first-child .label").X > browser.Spot(".bank-labels li:nth-child(2) .label").X);
        Assert.Equal("none", browser.Script<string>("return getComputedStyle(document.querySelector('.stage-picture')).transform"));
        Assert.True(
            browser.Script<bool>(
                """
                const { left, right } = document.querySelector('.stage-picture').getBoundingClientRect()
                const middle = document.querySelector('[data-index="0"].zone-button').getBoundingClientRect().left
                return middle < left + (right - left) / 4
                """
            )
        );
        Assert.True(browser.AxeViolations() is [], string.Join('\n', browser.AxeViolations()));
        browser.Click("#hand-in");
        browser.SeeText("#review-text", "فارغة");
    }

    [Fact]
    public void A_teacher_chooses_German_and_every_screen_and_the_rules_that_can_be_clicked_are_German()
    {
        using var browser = demo.Open();
        browser.Reads("de-AT,de;q=0.8,en;q=0.5");
        browser.SignIn();
        browser.SeeText("h1", "Aufgaben");
        browser.Go("/activities/2");
        browser.SeeText(".rules", "Richtig und falsch sind");
        browser.SeeText(".rules", "nach der Abgabe");
        browser.SeeText("#proof-light", "Prüfbericht");
        Assert.Equal("de", browser.Script<string>("return document.documentElement.lang"));
        browser.Go("/activities/2/try/screen");
        // The student's screen is in the activity's language.
        browser.SeeText("#hand-in", "Hand in");
    }
}
