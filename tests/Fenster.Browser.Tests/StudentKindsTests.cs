using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>A student at every kind of target: by mouse, by finger and by keyboard alone.</summary>
[Collection("targets")]
public sealed class StudentKindsTests(Demo demo)
{
    private async Task Open(Browser browser, int activity, string name)
    {
        browser.Go(await demo.JoinPath(activity));
        browser.Enter(name);
        browser.See("#work[data-ready]");
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

    private static string Tiller(Browser browser) =>
        browser.Script<string>(
            "return '[data-label=' + [...document.querySelectorAll('.bank "
                + ".label')].find(l => l.textContent.includes('Tiller')).dataset.label + ']'"
        );

    [Fact]
    public async Task By_mouse_a_pin_is_put_down_moved_checked_and_taken_back()
    {
        using var browser = demo.Open();
        await Open(browser, 4, "Mouse");
        var label = Tiller(browser);
        browser.Drag(browser.Spot($".bank {label}"), browser.Spot(".stage", 0.6, 0.6), browser.Spot(".stage", 0.28, 0.68));
        browser.SeeText("#progress", "1 label on the picture. Saved.");
        browser.Click("#check");
        browser.SeeText("#progress", "1 right, 0 wrong");
        // Moved off its place it is wrong at the next check.
        browser.Drag(browser.Spot($".pin {label}"), browser.Spot(".stage", 0.5, 0.3), browser.Spot(".stage", 0.6, 0.9));
        browser.SeeText("#progress", "Saved.");
        browser.Click("#check");
        browser.SeeText("#progress", "0 right, 1 wrong");
        browser.Driver.Navigate().Refresh();
        browser.See($".pin {label}.verdict-wrong");
        browser.Drag(browser.Spot($".pin {label}"), browser.Spot(".stage", 0.9, 0.5), browser.Spot(".bank", 0.5, 0.9));
        browser.See($".bank {label}");
        browser.SeeText("#progress", "0 labels on the picture");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task By_finger_spots_are_marked_lists_matched_and_a_concealed_slip_is_found()
    {
        using var browser = demo.Open(360, 740, phone: true);
        await Open(browser, 7, "Finger");
        // With a single thing to mark, a tap on the picture marks.
        browser.Tap(browser.Spot(".stage", 0.166, 0.766));
        browser.SeeText("#progress", "1 of 4 done.");
        browser.Tap(browser.Spot(".bank .marker"));
        browser.See(".holding");
        browser.Tap(browser.Spot(".stage", 0.5, 0.8));
        browser.SeeText("#progress", "2 of 4 done.");
        browser.See("#work[data-link='saved']");
        browser.Tap(browser.Spot(".pane-step[aria-label='Next picture']"));
        browser.SeeText("#progress", "0 of 2 done.");

        await Open(browser, 3, "Finger");
        // What a sound is described as is the teacher's; the class knows it by a number, so that it is found by its file here.
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var sounds = JsonNode.Parse(await teacher.Text("/activities/3?handler=Draft"))!["document"]!["panes"]![0]!["targets"]![0]!["left"]!
            .AsArray()
            .ToDictionary(item => (string)item!["text"]!, item => (string)item!["face"]!["media"]!);
        Assert.Equal(0, browser.Count(".matchings [aria-label*='blast']"));
        Assert.Equal(4, browser.Count("[data-side=left][aria-label^='Sound ']"));
        foreach (var (left, right) in new[] { ("One short", "starboard"), ("Two short", "to port") })
        {
            foreach (var (side, words) in new[] { ("left", sounds.First(sound => sound.Key.StartsWith(left)).Value), ("right", right) })
            {
                var item = browser.Script<string>(
                    """
                    const view = JSON.parse(document.querySelector('[data-view]').dataset.view)
                    const items = view.panes.flatMap(pane => pane.targets).flatMap(target => target[arguments[0]] ?? [])
                    return items.find(item => item.face?.media === arguments[1] || item.text.includes(arguments[1])).id
                    """,
                    side,
                    words
                );
                browser.Tap(browser.Spot($"[data-side={side}][data-item={item}]"));
                // What it is about folds away after the first touch.
                browser.See(".folded");
            }
        }
        browser.SeeText("#progress", "2 of 4 done.");
        browser.See("#work[data-link='saved']");
        browser.Tap(browser.Spot("#check"));
        browser.Until(() => browser.Count(".ribbon-right") == 2, "two right ribbons");

        await Open(browser, 11, "Finger");
        Assert.Equal(0, browser.Count("[aria-label*='slip of paper']"));
        browser.Tap(browser.Spot(".stage", 0.876, 0.32));
        browser.SeeText("#card", "Year, course, blasts");
        browser.Tap(browser.Spot("#card .card-close"));
        browser.See(".spot[aria-label*='slip of paper']");
        // The lock says so when a code does not open it, and shows what is inside when one does.
        browser.Tap(browser.Spot(".spot-locked"));
        browser.See("#card[open] input").SendKeys("12 34" + Keys.Enter);
        browser.SeeText("#card .card-says", "“12 34” does not open it");
        browser.See("#card[open] input").SendKeys(Keys.Control + "a" + Keys.Null + "17 42 3" + Keys.Enter);
        browser.SeeText("#card", "A log book, and a question.");
        browser.Tap(browser.Spot("#card .card-close"));
        browser.See(".spot-choosing");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task By_keyboard_alone_pins_boxes_questions_and_links_are_answered()
    {
        using var browser = demo.Open();
        await Open(browser, 8, "Keys");
        // Reading the tide: a label is picked, the cross is moved, Enter puts it down.
        Focus(browser, ".bank .label");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus(".crosshair"), "the cross");
        browser.Keys(Keys.ArrowLeft, Keys.ArrowUp, Keys.ArrowUp, Keys.Enter);
        browser.SeeText("#progress", "1 label on the picture. Saved.");
        Focus(browser, ".answer-field");
        browser.Keys("4.4 m", Keys.Tab);
        browser.SeeText("#progress", "1 of 1 done.");
        // Picked up again from where it lies, and put back.
        Focus(browser, ".pin .label");
        browser.Keys(Keys.Delete);
        browser.Until(() => browser.Count(".pin") == 0, "the label back");
        Focus(browser, ".pane-cell[aria-label^='Picture 2']");
        browser.Keys(Keys.Enter);
        browser.SeeText("#progress", "0 of 2 done.");
        Focus(browser, ".bank .marker");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus(".crosshair"), "the cross");
        browser.Keys(Keys.Enter);
        browser.SeeText("#progress", "1 of 2 done. Saved.");

        await Open(browser, 5, "Keys");
        Focus(browser, ".spot-choosing");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus("#card input"), "the first option");
        browser.Keys(Keys.Space, Keys.Escape);
        browser.SeeText("#progress", "1 of 5 done. Saved.");
        Focus(browser, ".spot-answering");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus("#card input"), "the field");
        browser.Keys("225", Keys.Enter);
        browser.SeeText("#progress", "2 of 5 done. Saved.");

        await Open(browser, 3, "Keys");
        Focus(browser, "[data-side=left]");
        browser.Keys(Keys.Enter);
        Focus(browser, "[data-side=right]");
        browser.Keys(Keys.Enter);
        browser.SeeText("#progress", "1 of 4 done. Saved.");
        browser.Until(() => browser.Count(".ribbon") == 1, "a ribbon");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public async Task What_a_student_types_or_presses_outlasts_the_answer_to_what_came_before()
    {
        using var browser = demo.Open();
        await Open(browser, 6, "Quick");
        browser.Slow(400);
        Focus(browser, ".answer-field");
        browser.Keys("north", Keys.Tab, "no");
        browser.SeeText("#progress", "done. Saved.");
        browser.Keys("where");
        Assert.Equal("nowhere", browser.Script<string>("return document.activeElement.value"));
        // In a card, what is typed and not finished is kept too.
        browser.Slow(0);
        await Open(browser, 5, "Quick");
        browser.Click(".spot-answering");
        browser.Until(() => browser.HasFocus("#card input"), "the field");
        browser.Keys("225");
        browser.SeeText("#progress", "1 of 5 done. Saved.");
        Assert.True(browser.HasFocus("#card input"));

        await Open(browser, 3, "Quick");
        browser.Slow(400);
        browser.Click(".matching-left li:nth-child(1) button");
        browser.Click(".matching-right li:nth-child(1) button");
        browser.Hold(browser.Spot(".matching-left li:nth-child(2) button"));
        browser.SeeText("#progress", "1 of 4 done. Saved.");
        browser.LetGo();
        browser.Until(() => browser.Count(".matching-left li:nth-child(2) button[aria-pressed=true]") == 1, "the card chosen");
        Assert.Empty(browser.ConsoleErrors());
    }

    [Fact]
    public void A_teacher_records_a_sound_and_a_student_hears_it_from_second_to_second()
    {
        using var browser = demo.Open();
        browser.SignIn();
        browser.Fill("#title", "Recorded");
        browser.Driver.FindElement(By.CssSelector("#from option[value=explore]")).Click();
        browser.Click(".new-activity button");
        browser.See(".zone-spot");
        browser.Click(".row-line .row-kind button");
        browser.Click(".row-details [data-name=face] + button, .row-details .field-file button[data-name=face]");
        browser.See(".recording meter");
        // The level moves, and the time runs.
        browser.Until(
            () => browser.Script<bool>("return [...document.querySelectorAll('.recording meter')].some(m => m.value > 5)"),
            "a level"
        );
        browser.Until(
            () =>
                browser.Script<bool>(
                    "return [...document.querySelectorAll('.recording span')].some(s => /^0:0[1-9]$/.test(s.textContent))"
                ),
            "a second"
        );
        browser.Click(".recording button");
        browser.Until(() => browser.Count(".row-details [data-name='face.from']") == 1, "the sound's fields");
        browser.Fill("[data-name='face.from']", "0.2");
        browser.Keys(Keys.Tab);
        browser.Fill("[data-name='face.to']", "0.8");
        browser.Keys(Keys.Tab);
        browser.SeeText("#save-state", "Saved");
        var draft = JsonSerializer.Deserialize<JsonElement>(browser.Draft());
        var face = draft.GetProperty("document").GetProperty("panes")[0].GetProperty("targets")[0].GetProperty("face");
        Assert.Equal(
            ("sound", 0.2, 0.8),
            (face.GetProperty("kind").GetString(), face.GetProperty("from").GetDouble(), face.GetProperty("to").GetDouble())
        );

        browser.Go($"{browser.Path}/try/screen");
        browser.Click(".spot-telling");
        Assert.EndsWith("/0#t=0.2,0.8", browser.See("#card audio").GetDomAttribute("src"));
        browser.Until(
            () => browser.Script<bool>("return document.querySelector('#card audio').readyState >= 1"),
            "the recording read by the browser"
        );
        Assert.Empty(browser.ConsoleErrors());
    }
}
