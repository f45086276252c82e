using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>A teacher in the workbench, from an empty title to a published activity.</summary>
[Collection("screens")]
public sealed class TeacherBuildsTests(Demo demo)
{
    private static readonly string Photograph = Path.Combine(
        RunningFenster.Repository,
        "demo/sailing-school/pictures/harbour-entrance.jpg"
    );

    private static void Begin(Browser browser, string title)
    {
        browser.SignIn();
        browser.Fill("#title", title);
        browser.Keys(Keys.Enter);
        browser.See(".get-picture");
        browser.Until(
            () =>
            {
                browser.Driver.FindElement(By.Id("picture-file")).SendKeys(Photograph);
                return true;
            },
            "a file chooser"
        );
        browser.See(".stage");
    }

    private static void WaitForRow(Browser browser) => browser.Until(() => browser.HasFocus(".row-text"), "the cursor in the ledger");

    private static void WaitForSave(Browser browser) => browser.SeeText("#save-state", "Saved");

    [Fact]
    public void Five_labels_are_placed_by_mouse_and_published()
    {
        using var browser = demo.Open();
        Begin(browser, "The harbour");
        string[] labels = ["Lighthouse", "Pier", "Boat", "Buoy", "Town"];
        for (var i = 0; i < labels.Length; i++)
        {
            browser.ClickAt(browser.Spot(".stage", 0.15 + 0.17 * i, 0.2 + 0.12 * i));
            WaitForRow(browser);
            browser.Keys(labels[i], Keys.Enter);
        }
        browser.Click(".add-distractor");
        WaitForRow(browser);
        browser.Keys("Crane");
        browser.SeeText(".ledger-count", "5 zones, 1 distractor");
        WaitForSave(browser);
        browser.Click(".top-actions .btn-primary");
        browser.Click("#give-anyone");
        Assert.Matches("^[A-Z0-9]{6}$", browser.See(".join-code").Text);
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Three_labels_are_placed_by_keyboard_alone()
    {
        using var browser = demo.Open();
        Begin(browser, "By keyboard");
        browser.Driver.FindElement(By.CssSelector(".stage")).SendKeys("");
        browser.Until(
            () =>
            {
                browser.Script<object?>("document.querySelector('.stage').focus()");
                return browser.HasFocus(".stage");
            },
            "the picture's focus"
        );
        foreach (var label in (string[])["One", "Two", "Three"])
        {
            browser.Keys(Keys.Enter);
            browser.Until(() => browser.Count(".zone-box.selected") == 1, "a new zone");
            browser.Keys(Keys.ArrowRight, Keys.ArrowDown, "]", Keys.Enter);
            WaitForRow(browser);
            browser.Keys(label, Keys.Enter);
            browser.Until(() => browser.HasFocus(".stage"), "the picture's focus");
        }
        browser.SeeText(".ledger-count", "3 zones");
        WaitForSave(browser);
        browser.Driver.Navigate().Refresh();
        browser.Until(() => browser.Count(".zone-box") == 3, "three zones after coming back");
        Assert.Equal(
            ["One", "Two", "Three"],
            browser.Driver.FindElements(By.CssSelector(".row-text")).Select(input => input.GetDomProperty("value"))
        );
    }

    private static (double X, double Y, double Width, double Height) Zone(Browser browser)
    {
        double Number(string name) =>
            double.Parse(
                browser.Driver.FindElement(By.CssSelector(".zone-box .zone-area")).GetDomAttribute(name)!,
                System.Globalization.CultureInfo.InvariantCulture
            );
        return (Number("x"), Number("y"), Number("width"), Number("height"));
    }

    [Fact]
    public void A_zone_is_drawn_moved_resized_renamed_deleted_and_brought_back()
    {
        using var browser = demo.Open();
        Begin(browser, "Gestures");
        browser.Drag(browser.Spot(".stage", 0.2, 0.2), browser.Spot(".stage", 0.3, 0.3), browser.Spot(".stage", 0.4, 0.4));
        WaitForRow(browser);
        browser.Keys("Mole", Keys.Enter);
        var drawn = Zone(browser);
        Assert.InRange(drawn.Width, 190, 210);

        browser.Drag(browser.Spot(".stage", 0.3, 0.3), browser.Spot(".stage", 0.4, 0.45), browser.Spot(".stage", 0.5, 0.6));
        browser.Until(() => Zone(browser).X > drawn.X + 150, "the zone moved");
        Assert.Equal(drawn.Width, Zone(browser).Width);

        var (right, bottom) = browser.Spot(".grip-se");
        browser.Drag((right, bottom), (right + 40, bottom + 20), (right + 80, bottom + 40));
        browser.Until(() => Zone(browser).Width > drawn.Width + 50, "the zone grew");

        browser.Drag(browser.Spot(".stage", 0.5, 0.6), browser.Spot(".stage", 0.9, 0.9), (1279, 799));
        browser.Until(() => Zone(browser) is var zone && Math.Abs(zone.X + zone.Width - 1000) < 0.1, "the zone kept on the picture");

        browser.Fill(".row-text", "Pier");
        browser.Until(() => browser.See(".zone-word").Text == "Pier", "the new name on the picture");
        browser.Click(".row-delete");
        browser.Until(() => browser.Count(".zone-box") == 0, "the zone gone");
        browser.Click("[aria-label=Undo]");
        browser.Until(() => browser.Count(".zone-box") == 1 && browser.See(".zone-word").Text == "Pier", "the zone back");
        browser.Click("[aria-label=Redo]");
        browser.Until(() => browser.Count(".zone-box") == 0, "the zone gone again");
        WaitForSave(browser);
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Instructions_are_written_with_emphasis_and_a_formula_as_students_then_read_them()
    {
        using var browser = demo.Open();
        Begin(browser, "Instructions");
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        WaitForRow(browser);
        browser.Keys("Pier", Keys.Enter);
        browser.Click(".ql-editor");
        browser.Until(() => browser.HasFocus(".ql-editor"), "the editor");
        browser.Keys("Put ");
        browser.Ctrl("b");
        browser.Keys("each");
        browser.Ctrl("b");
        browser.Keys(" name: $a^2$", Keys.Enter, "<script>alert(1)</script>");
        WaitForSave(browser);
        browser.Until(() => browser.Draft().Contains("alert"), "the draft to hold it");
        browser.Go($"{browser.Path}/try/screen");
        browser.See(".work-instructions .formula math");
        Assert.Equal("each", browser.See(".work-instructions strong").Text);
        // What reads like a program is words.
        browser.SeeText(".work-instructions", "<script>alert(1)</script>");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void Hotspots_clicked_one_after_the_other_are_one_question_and_Enter_begins_the_next()
    {
        using var browser = demo.Open();
        Begin(browser, "Hotspots");
        browser.Driver.FindElement(By.CssSelector("#tool option[value=hotspots]")).Click();
        browser.ClickAt(browser.Spot(".stage", 0.2, 0.3));
        WaitForRow(browser);
        browser.SeeText(".says-hint", "one more place for the row that is selected");
        browser.ClickAt(browser.Spot(".stage", 0.4, 0.3));
        browser.Until(() => browser.Count("[data-shape]") == 2, "a second place");
        Assert.Equal(1, browser.Count(".row-line"));
        browser.Keys("Mark both marks", Keys.Enter);
        browser.ClickAt(browser.Spot(".stage", 0.7, 0.3));
        browser.Until(() => browser.Count(".row-line") == 2, "a second question");
        WaitForSave(browser);
        // The exact place of each can be read and typed.
        browser.Click(".row-line .row-kind button");
        browser.SeeText(".row-rules", "all 2 places");
        browser.Click(".row-further");
        browser.Fill("[data-name='spot.1.x']", "333");
        browser.Keys(Keys.Tab);
        browser.Until(
            () =>
                browser.Script<bool>(
                    "return [...document.querySelectorAll('[data-shape] circle')].some(c => c.getAttribute('cx') === '333')"
                ),
            "the place moved"
        );
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void A_round_zone_is_drawn_when_the_sentence_says_so()
    {
        using var browser = demo.Open();
        Begin(browser, "Round");
        browser.See("#shape").SendKeys("as a circle");
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        browser.See("circle.zone-area");
    }

    [Fact]
    public void Two_labels_alike_are_pointed_out_and_made_one_with_a_click()
    {
        using var browser = demo.Open();
        Begin(browser, "Alike");
        for (var i = 0; i < 2; i++)
        {
            browser.ClickAt(browser.Spot(".stage", 0.3 + 0.4 * i, 0.5));
            WaitForRow(browser);
            browser.Keys("Buoy", Keys.Enter);
        }
        browser.SeeText(".row-main .finding", "can't tell the two apart");
        browser.Click(".row-main .finding button");
        browser.SeeText(".bank-labels", "Buoy × 2");
        browser.Until(() => browser.Count(".row-main .finding") == 0, "the finding gone");
    }

    [Fact]
    public void A_second_window_is_told_and_the_teacher_chooses()
    {
        using var browser = demo.Open();
        Begin(browser, "Two windows");
        WaitForSave(browser);
        using var other = demo.Open();
        other.SignIn();
        other.Go(browser.Path);
        other.See(".stage");
        other.ClickAt(other.Spot(".stage", 0.3, 0.3));
        WaitForRow(other);
        other.Keys("Theirs");
        WaitForSave(other);

        browser.ClickAt(browser.Spot(".stage", 0.6, 0.6));
        WaitForRow(browser);
        browser.Keys("Mine");
        browser.SeeText(".notice", "changed in another window");
        browser.Click(".notice .btn-outline-primary");
        browser.Until(() => browser.See(".row-text").GetDomProperty("value") == "Theirs", "what the other window stored");
        WaitForSave(browser);
    }

    [Fact]
    public void Work_done_offline_is_kept_on_the_device_and_saved_later()
    {
        using var browser = demo.Open();
        Begin(browser, "Offline");
        WaitForSave(browser);
        browser.Offline(true);
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        WaitForRow(browser);
        browser.Keys("Kept");
        browser.SeeText("#save-state", "kept on this device");
        browser.Offline(false);
        browser.Driver.Navigate().Refresh();
        browser.Until(() => browser.See(".row-text").GetDomProperty("value") == "Kept", "the label after a reload");
        WaitForSave(browser);
    }

    [Fact]
    public void A_page_that_a_save_has_outrun_is_loaded_again()
    {
        using var browser = demo.Open();
        Begin(browser, "Outrun");
        WaitForSave(browser);
        // As when the answer to a save arrives after the page that is to follow was sent.
        browser.Script<object?>("sessionStorage.setItem(`draft-${location.pathname.split('/')[2]}`, 1000)");
        var path = browser.Path;
        browser.Go("/activities");
        browser.Go(path);
        browser.Until(
            () => browser.Script<bool>("return performance.getEntriesByType('navigation')[0].type === 'reload'"),
            "the page loaded again"
        );
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        WaitForRow(browser);
        browser.Keys("Mole");
        browser.Until(
            () => browser.Script<bool>("return Number(sessionStorage.getItem(`draft-${location.pathname.split('/')[2]}`)) > 1"),
            "a save"
        );
        Assert.True(browser.Script<bool>("return Number(sessionStorage.getItem(`draft-${location.pathname.split('/')[2]}`)) < 1000"));
    }

    [Fact]
    public void A_crash_of_the_server_and_then_of_the_browser_loses_nothing()
    {
        using var own = new RunningFenster();
        var browser = new Browser(own.Address);
        Begin(browser, "Crashed");
        browser.ClickAt(browser.Spot(".stage", 0.5, 0.5));
        WaitForRow(browser);
        browser.Keys("Mole");
        WaitForSave(browser);
        own.Kill();
        browser.Keys(" and pier");
        browser.SeeText("#save-state", "kept on this device");
        own.Restart();
        WaitForSave(browser);
        var path = browser.Path;
        browser.Crash();
        using var next = new Browser(own.Address);
        next.SignIn();
        next.Go(path);
        next.Until(() => next.See(".row-text").GetDomProperty("value") == "Mole and pier", "what was typed before both crashes");
    }

    [Fact]
    public void A_pasted_picture_is_taken_and_a_bad_one_gets_a_sentence()
    {
        using var browser = demo.Open();
        browser.SignIn();
        browser.Fill("#title", "Pasted");
        browser.Keys(Keys.Enter);
        browser.See(".get-picture");
        const string paste = """
            const data = new DataTransfer()
            data.items.add(new File([arguments[0] ? Uint8Array.from(atob(arguments[0]), c => c.charCodeAt(0)) : 'words'], 'clip.png', { type: 'image/png' }))
            document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
            """;
        browser.Script<object?>(paste, "");
        browser.SeeText(".notice-problem", "not a picture that Fenster can read");
        browser.Script<object?>(paste, "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");
        browser.See(".stage");
        browser.SeeText(".notice-problem", "only 1 pixels wide");
    }

    [Fact]
    public void A_picture_dropped_onto_the_page_is_taken()
    {
        using var browser = demo.Open();
        browser.SignIn();
        browser.Fill("#title", "Dropped");
        browser.Keys(Keys.Enter);
        browser.See(".get-picture");
        const string drop = """
            const data = new DataTransfer()
            data.items.add(new File([Uint8Array.from(atob(arguments[0]), c => c.charCodeAt(0))], 'harbour.jpg', { type: 'image/jpeg' }))
            for (const kind of ['dragover', 'drop'])
              document.querySelector('.get-picture').dispatchEvent(new DragEvent(kind, { dataTransfer: data, bubbles: true, cancelable: true }))
            """;
        browser.Script<object?>(drop, Convert.ToBase64String(File.ReadAllBytes(Photograph)));
        browser.See(".stage");
        WaitForSave(browser);
        Assert.Equal(0, browser.Count(".dropping"));
    }

    [Fact]
    public void A_file_that_is_dropped_anywhere_on_the_list_is_taken_in_at_once()
    {
        using var browser = demo.Open();
        browser.SignIn();
        browser.Script<object?>(
            """
            const request = new XMLHttpRequest()
            request.open('GET', '/activities/2/bundle', false)
            request.overrideMimeType('text/plain; charset=x-user-defined')
            request.send()
            const bytes = Uint8Array.from(request.responseText, c => c.charCodeAt(0) & 255)
            const data = new DataTransfer()
            data.items.add(new File([bytes], 'dinghy.zip', { type: 'application/zip' }))
            document.querySelector('.cards').dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
            """
        );
        browser.Until(() => browser.Path.StartsWith("/activities/", StringComparison.Ordinal), "the workbench of what was taken in");
        browser.Until(() => browser.Count(".row-line") == 12, "its twelve rows");
    }
}
