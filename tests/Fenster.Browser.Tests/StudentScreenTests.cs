using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>How the student's screen uses its room, and the ways of working on it.</summary>
[Collection("screens")]
public sealed class StudentScreenTests(Demo demo)
{
    private async Task<string> Publish(Fenster.Core.Model.Activity activity)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        return (await teacher.Publish(ActivityDocument.Write(activity))).Code;
    }

    private async Task<Fenster.Core.Model.Activity> Sample(int zones, Rules? rules = null)
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var picture = await teacher.Upload(
            await File.ReadAllBytesAsync(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"))
        );
        var hash = System.Text.Json.Nodes.JsonNode.Parse(await picture.Content.ReadAsStringAsync())!["hash"]!.GetValue<string>();
        return ActivityDocument.Read(Samples.Document(zones, hash, rules));
    }

    private static void Join(Browser browser, string code, string name)
    {
        browser.Go($"/do/{code}");
        browser.Enter(name);
        browser.See("#work[data-ready]");
    }

    private static double Measure(Browser browser, string script) =>
        Convert.ToDouble(browser.Script<object>($"return {script}"), System.Globalization.CultureInfo.InvariantCulture);

    [Fact]
    public async Task Picture_and_labels_fit_every_screen_and_no_word_is_cut_without_a_sign()
    {
        using var browser = demo.Open();
        foreach (var count in (int[])[5, 12, 40])
        {
            var sample = await Sample(count);
            // A long word, and one of several words.
            var pane = sample.Panes[0];
            var labels = pane
                .Labels.SetItem(0, pane.Labels[0] with { Text = "Donaudampfschifffahrtsgesellschaftskapitän" })
                .SetItem(1, pane.Labels[1] with { Text = "the outer wall of the old harbour" });
            Join(browser, await Publish(sample with { Panes = [pane with { Labels = labels }] }), $"Fits {count}");
            foreach (
                var (width, height) in ((int, int)[])[(360, 640), (360, 740), (768, 1024), (1024, 768), (1280, 800), (740, 360), (640, 400)]
            )
            {
                browser.Cdp(
                    "Emulation.setDeviceMetricsOverride",
                    ("width", width),
                    ("height", height),
                    ("deviceScaleFactor", 1),
                    ("mobile", false)
                );
                browser.Script<object?>("document.querySelector('#work').classList.add('folded'); return null");
                var what = $"{count} labels at {width}×{height}";
                browser.Until(
                    () =>
                        (bool)
                            browser.Script<object>(
                                "return innerWidth === arguments[0] && document.documentElement.scrollWidth <= innerWidth",
                                width
                            ),
                    $"{what}: nothing wider than the screen"
                );
                // All of the picture shows, and as much of it as the screen allows.
                browser.Until(
                    () =>
                        (bool)
                            browser.Script<object>(
                                """
                                const [stage, frame] = ['.stage', '.mat-frame'].map(css => document.querySelector(css).getBoundingClientRect())
                                return stage.left >= frame.left - 1 && stage.right <= frame.right + 1 && stage.top >= frame.top - 1
                                  && stage.bottom <= frame.bottom + 1 && stage.width > 0
                                """
                            ),
                    $"{what}: the picture in its frame"
                );
                if (width < height)
                    Assert.True(
                        Measure(browser, "document.querySelector('.stage').offsetWidth") >= width - 16
                            || Measure(browser, "document.querySelector('.stage').offsetHeight") >= 0.55 * height,
                        $"{what}: full width, or more than half of the height"
                    );
                if (width < 900)
                    Assert.InRange(Measure(browser, "document.querySelector('.work-top').offsetHeight"), 44, 62);
                // A label that lies over the edge of the bank has a shadow that says so.
                Assert.Equal(
                    "",
                    browser.Script<string>(
                        """
                        const bank = document.querySelector('.bank'), box = bank.getBoundingClientRect()
                        return [...bank.querySelectorAll('.label')].filter(label => {
                          const { left, right, top, bottom } = label.getBoundingClientRect()
                          const before = left < box.left - 1 || top < box.top - 1, after = right > box.right + 1 || bottom > box.bottom + 1
                          return (before && !bank.classList.contains('more-before')) || (after && !bank.classList.contains('more-after'))
                        }).map(label => label.textContent).join()
                        """
                    )
                );
                // Nothing that is pressed is smaller than a fingertip.
                Assert.Equal(
                    "",
                    browser.Script<string>(
                        """
                        return [...document.querySelectorAll('.work-bar button, .tools button, .bank .label')]
                          .filter(button => button.offsetParent && (button.offsetHeight < 44 || button.offsetWidth < 40))
                          .map(button => `${button.id || button.textContent} ${button.offsetWidth}×${button.offsetHeight}`).join()
                        """
                    )
                );
            }
        }
    }

    [Fact]
    public async Task On_a_phone_twelve_labels_take_two_taps_each_and_three_more()
    {
        using var browser = demo.Open(360, 740, phone: true);
        browser.Go(await demo.JoinPath(2));
        browser.Enter("Taps");
        browser.See("#work[data-ready]");
        var taps = 0;
        void Tap((int X, int Y) spot)
        {
            browser.Tap(spot);
            taps++;
        }
        for (var i = 1; i <= 12; i++)
        {
            Tap(browser.Spot(".bank-labels .label"));
            // Places that are smaller than a fingertip are shown larger.
            browser.Until(() => browser.Count(".fingertip") == 12, "large places");
            Assert.True(Measure(browser, "Math.min(...[...document.querySelectorAll('.fingertip')].map(e => e.offsetHeight))") >= 44);
            Tap(browser.Spot($".fingertip:nth-of-type({i})"));
            browser.SeeText("#progress", $"{i} of 12 placed.");
        }
        browser.See("#work[data-link='saved']");
        Tap(browser.Spot("#hand-in"));
        browser.See("#review[open]");
        Tap(browser.Spot("#review-go"));
        browser.SeeText("#progress", "of 12 points");
        Assert.InRange(taps, 24, 12 * 2 + 6);
    }

    [Fact]
    public async Task One_at_a_time_by_keyboard_does_the_same_as_the_whole_picture()
    {
        var code = await Publish(await Sample(3));
        using var browser = demo.Open(360, 740);
        Join(browser, code, "Singly");
        browser.Script<object?>("document.getElementById('singly').focus(); return null");
        browser.Keys(Keys.Enter);
        browser.Until(() => browser.HasFocus(".singly-name"), "the name of the place");
        for (var i = 1; i <= 3; i++)
        {
            browser.SeeText(".singly-name", $"{i} of 3: Zone {i}");
            // To the first choice that is not chosen, by Tab alone: the way back to the whole picture comes before.
            for (var steps = 0; steps < 10 && !browser.HasFocus(".singly-choices [aria-pressed=false]"); steps++)
                browser.Keys(Keys.Tab);
            browser.Keys(Keys.Enter);
            browser.SeeText("#progress", $"{i} of 3 placed.");
            browser.Until(() => browser.HasFocus(".singly-choices [aria-pressed=true]"), "the focus where it was");
            Assert.Empty(browser.AxeViolations());
            for (var steps = 0; steps < 10 && !browser.HasFocus(".singly-foot .btn-primary"); steps++)
                browser.Keys(Keys.Tab);
            browser.Keys(Keys.Enter);
        }
        browser.Keys(Keys.Escape);
        browser.Until(() => browser.HasFocus("#singly"), "the focus on the way in");
        Assert.Equal(3, browser.Count(".label.placed"));
    }

    [Fact]
    public async Task A_card_stands_beside_its_spot_and_gives_the_focus_back()
    {
        using var browser = demo.Open();
        browser.Go(await demo.JoinPath(5));
        browser.Enter("Cards");
        browser.See("#work[data-ready]");
        foreach (var (width, height) in ((int, int)[])[(1280, 800), (740, 360), (360, 740)])
        {
            browser.Cdp(
                "Emulation.setDeviceMetricsOverride",
                ("width", width),
                ("height", height),
                ("deviceScaleFactor", 1),
                ("mobile", false)
            );
            var spots = browser
                .Script<string>("return [...document.querySelectorAll('.spot')].map(spot => spot.dataset.target).join()")
                .Split(',');
            Assert.Equal(5, spots.Length);
            foreach (var spot in spots)
            {
                browser.ClickAt(browser.Spot($".spot[data-target={spot}]"));
                browser.See("#card[open]");
                Assert.True(
                    (bool)
                        browser.Script<object>(
                            """
                            const spot = document.querySelector(`.spot[data-target=${arguments[0]}]`).getBoundingClientRect()
                            const card = document.getElementById('card').getBoundingClientRect()
                            const middle = { x: spot.x + spot.width / 2, y: spot.y + spot.height / 2 }
                            return card.right <= innerWidth + 1 && card.bottom <= innerHeight + 1 && card.top >= -1
                              && !(middle.x > card.left && middle.x < card.right && middle.y > card.top && middle.y < card.bottom)
                            """,
                            spot
                        ),
                    $"card {spot} beside its spot at {width}×{height}"
                );
                browser.Keys(Keys.Escape);
                browser.Until(() => browser.Count("#card[open]") == 0 && browser.HasFocus(".spot"), "the card closed");
            }
        }
    }

    [Fact]
    public async Task What_was_opened_opens_again_without_a_server_and_is_handed_in_when_it_is_back()
    {
        using var own = new RunningFenster();
        string code;
        using (var teacher = await new Visitor(own.Address).SignIn())
            code = (await teacher.Publish(Samples.Document(4))).Code;
        using var browser = new Browser(own.Address);
        Join(browser, code, "Offline");
        Place(1);
        browser.SeeText("#progress", "1 of 4 placed. Saved.");
        // Once more, so that the page has brought open work along.
        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "1 of 4 placed.");
        UntilKept(
            "what is needed without a connection",
            """
            const scripts = await (await fetch('/do/scripts')).json()
            const kept = (await shelf.keys()).map(({ url }) => url)
            return [location.pathname, '/now', '?again=true', ...scripts].every(end => kept.some(url => url.endsWith(end)))
            """
        );
        own.Kill();
        Place(2);
        browser.SeeText("#progress", "2 of 4 placed. Offline, kept on this device.");
        // Closed, and opened again, as when the browser was shut meanwhile.
        browser.Script<object?>("sessionStorage.clear(); return null");
        browser.Driver.Navigate().Refresh();
        browser.Click("[data-act=same]");
        browser.SeeText("#progress", "2 of 4 placed. Offline, kept on this device.");
        Place(3);
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.SeeText("#trouble", "handed in by itself");
        own.Restart();
        browser.SeeText("#progress", "3 of 4 points");
        // Without a server it is the result that opens, not the work that a page brought along before.
        UntilKept(
            "the result",
            "return (await (await shelf.match(`${location.pathname}/now`))?.text())?.includes('&quot;open&quot;:false') ?? false"
        );
        own.Kill();
        browser.Driver.Navigate().Refresh();
        browser.SeeText("#progress", "3 of 4 points");

        void UntilKept(string what, string isKept) =>
            browser.Until(
                () =>
                    (bool)
                        browser.ScriptAsync(
                            $"const keeps = async shelf => {{ {isKept} }}; caches.open('fenster-pages').then(keeps).then(arguments[arguments.length - 1])"
                        ),
                $"{what} kept"
            );

        void Place(int number)
        {
            browser.ClickAt(browser.Spot(LabelOf(browser, number)));
            browser.ClickAt(browser.Spot($"[data-zone=z{number}].zone-button"));
        }
    }

    private static string LabelOf(Browser browser, int number)
    {
        browser.See(".bank .label");
        return $".bank [data-label={browser.Script<string>("return [...document.querySelectorAll('.bank .label')].find(l => l.textContent === arguments[0]).dataset.label", $"Part {number}")}]";
    }

    [Fact]
    public async Task The_key_shows_beside_what_was_put_instead_and_a_cheer_and_aids_are_where_the_teacher_wants_them()
    {
        var sample = await Sample(3, Samples.Practice);
        var code = await Publish(
            sample with
            {
                Screen = new()
                {
                    Cheers = true,
                    Aids = [Aid.Calculator, Aid.Ruler, Aid.Magnifier],
                    Leaving = Leaving.AskedTwice,
                },
            }
        );
        using var browser = demo.Open();
        Join(browser, code, "Beside");
        // By keys: twelve times three and a half.
        browser.Click("#tools .icon-calculator");
        browser.Click(".calculator .btn");
        browser.Keys("C", "1", "2", "*", "3", ".", "5", Keys.Enter);
        browser.SeeText(".calculator output", "42");
        browser.Click("#tools .icon-ruler");
        browser.See(".stage .ruler");
        Assert.Empty(browser.AxeViolations());
        browser.Click("#tools .icon-ruler");
        browser.Click("#tools .icon-calculator");
        Assert.Equal("true", browser.See("#sound").GetDomAttribute("aria-pressed"));

        foreach (var (label, zone) in ((int, int)[])[(1, 1), (3, 2)])
        {
            browser.ClickAt(browser.Spot(LabelOf(browser, label)));
            browser.ClickAt(browser.Spot($"[data-zone=z{zone}].zone-button"));
        }
        browser.SeeText("#progress", "2 of 3 placed. Saved.");
        browser.Click("#hand-in");
        browser.See(".review-open");
        browser.Click("#review-go");
        browser.SeeText("#review-problem", "Really hand it in");
        browser.Click("#review-go");
        browser.SeeText("#progress", "1 of 3 points");
        browser.Click(".result .btn");
        browser.Until(
            () =>
                browser
                    .Script<string>("return [...document.querySelectorAll('[data-zone=z2].label')].map(l => l.textContent).join()")
                    .StartsWith("Part 3"),
            "both labels of the second zone"
        );
        Assert.Equal(1, browser.Count(".label.instead"));
        Assert.Equal(3, browser.Count(".label.of-key"));
    }

    [Fact]
    public async Task Wheel_double_tap_and_two_fingers_zoom_and_one_tap_shows_all_of_it()
    {
        using var browser = demo.Open(360, 740, phone: true);
        Join(browser, Path.GetFileName(await demo.JoinPath(4)), "Zooms");
        var whole = Width();
        var (x, y) = browser.Spot(".stage");
        browser.Cdp("Input.dispatchMouseEvent", ("type", "mouseWheel"), ("x", x), ("y", y), ("deltaX", 0), ("deltaY", -400));
        browser.Until(() => Width() > whole * 1.5, "nearer by the wheel");
        Fit();
        browser.DoubleTap((x, y));
        browser.Until(() => Width() > whole * 2, "nearer by a double tap");
        browser.DoubleTap((x, y));
        browser.Until(() => Math.Abs(Width() - whole) < 1, "all of it by another");
        Touch("touchStart", 20);
        Touch("touchMove", 40);
        Touch("touchMove", 60);
        Touch("touchEnd");
        browser.Until(() => Width() > whole * 2, "nearer by two fingers");
        Fit();
        Assert.Equal(0, browser.Count(".pin"));

        double Width() => Measure(browser, "document.querySelector('.stage').getBoundingClientRect().width");
        void Fit()
        {
            browser.Click("#zoom button[value='0']");
            browser.Until(() => Math.Abs(Width() - whole) < 1, "all of it");
        }
        void Touch(string type, params int[] apart) =>
            browser.Cdp(
                "Input.dispatchTouchEvent",
                ("type", type),
                (
                    "touchPoints",
                    apart
                        .SelectMany(far => (int[])[-far, far])
                        .Select(
                            (far, id) =>
                                (object)
                                    new Dictionary<string, object>
                                    {
                                        ["x"] = x + far,
                                        ["y"] = y,
                                        ["id"] = id,
                                    }
                        )
                        .ToArray()
                )
            );
    }

    [Fact]
    public async Task A_loupe_shows_what_lies_under_the_finger_that_holds_a_pin()
    {
        using var browser = demo.Open(360, 740, phone: true);
        Join(browser, Path.GetFileName(await demo.JoinPath(4)), "Loupe");
        var from = browser.Spot(".bank .label");
        var to = browser.Spot(".stage", 0.3, 0.6);
        static object[] Points((int X, int Y) spot) => [new Dictionary<string, object> { ["x"] = spot.X, ["y"] = spot.Y }];
        browser.Cdp("Input.dispatchTouchEvent", ("type", "touchStart"), ("touchPoints", Points(from)));
        foreach (var step in ((int, int)[])[(from.X, from.Y - 20), (to.X, to.Y - 5), to])
            browser.Cdp("Input.dispatchTouchEvent", ("type", "touchMove"), ("touchPoints", Points(step)));
        browser.See(".loupe");
        // Beside the finger, and on the screen.
        Assert.True(
            browser.Script<bool>(
                """
                const { left, right, top, bottom } = document.querySelector('.loupe').getBoundingClientRect()
                const [x, y] = arguments
                return left >= 0 && right <= innerWidth && top >= 0 && (x < left || x > right || y < top || y > bottom)
                """,
                to.X,
                to.Y
            )
        );
        browser.Cdp("Input.dispatchTouchEvent", ("type", "touchEnd"), ("touchPoints", Array.Empty<object>()));
        browser.Until(() => browser.Count(".loupe") == 0 && browser.Count(".pin") == 1, "the pin, and no loupe");
    }

    [Fact]
    public async Task A_scale_is_read_out_and_takes_a_typed_value_and_a_region_counts()
    {
        using var browser = demo.Open();
        Join(browser, Path.GetFileName(await demo.JoinPath(15)), "Reads out");
        browser.ClickAt(browser.Spot(".stage .label"));
        browser.See(".read-out");
        browser.Fill(".read-out input", "1852");
        browser.Click(".read-out button");
        browser.Until(() => browser.Script<string>("return document.getElementById('say').textContent").Contains("1852"), "the value");
        Assert.Equal(0, browser.Count(".read-out"));
        Join(browser, Path.GetFileName(await demo.JoinPath(9)), "Counts");
        browser.SeeText(".tally", "Total 0");
        browser.Drag(browser.Spot(".bank .label"), browser.Spot(".sort-region", 0.3, 0.5), browser.Spot(".sort-region", 0.5, 0.5));
        browser.Until(() => browser.Driver.FindElement(By.CssSelector(".tally")).Text is not "Total 0", "what lies there, added");
        Assert.Contains("Total ", browser.Script<string>("return document.getElementById('say').textContent"));
    }

    [Fact]
    public async Task By_finger_a_label_is_added_where_another_lies_and_what_a_region_comes_to_stands_clear()
    {
        using var browser = demo.Open(360, 740, phone: true);
        Join(browser, Path.GetFileName(await demo.JoinPath(9)), "Adds");
        for (var label = 0; label < 2; label++)
        {
            browser.Tap(browser.Spot(".bank .label"));
            browser.See(".bank .label.in-hand, .work.holding");
            browser.Tap(label == 0 ? browser.Spot(".tally", 0.5, 1.5) : browser.Spot(".pin-flat .label"));
            browser.Until(() => browser.Count(".pin-flat") == label + 1, $"{label + 1} labels in the region");
        }
        Assert.Equal(
            "",
            browser.Script<string>(
                """
                const sum = document.querySelector('.tally').getBoundingClientRect()
                return [...document.querySelectorAll('.pin-flat .label')].filter(label => {
                  const box = label.getBoundingClientRect()
                  return box.left < sum.right && box.right > sum.left && box.top < sum.bottom && box.bottom > sum.top
                }).map(label => label.textContent).join()
                """
            )
        );
        browser.Click("#hand-in");
        browser.SeeText("#review-text", "still in the bank");
        Assert.DoesNotContain("Everything is answered", browser.See("#review-text").Text);
    }

    [Fact]
    public async Task On_a_second_device_it_is_said_that_work_goes_on_there_and_on_the_first_how_to_come_back()
    {
        var code = await Publish(await Sample(3));
        using var first = demo.Open(360, 740, phone: true);
        first.Go($"/do/{code}");
        first.Fill("#name", "Two devices");
        first.Click("button.btn-primary");
        var words = first.Until(() => first.Driver.FindElement(By.CssSelector(".two-words")).Text, "the words");
        first.Click("#begin");
        first.See("#work[data-ready]");
        first.Tap(first.Spot(".bank .label"));
        first.Tap(first.Spot("[data-zone]"));
        first.SeeText("#progress", "1 of 3 placed. Saved.");
        using var second = demo.Open(360, 740, phone: true);
        second.Go($"/do/{code}");
        second.Fill("#name", "Two devices");
        second.Click("button.btn-primary");
        second.Fill("input[name=word]", words);
        second.Click("form:has(input[name=word]) button.btn-primary");
        second.See("#work[data-ready]");
        second.SeeText(".taken-over", "You go on here.");
        first.Tap(first.Spot(".bank .label"));
        first.Tap(first.Spot("[data-zone]:last-of-type"));
        first.SeeText("#trouble", "you need your words for it");
    }

    [Fact]
    public async Task What_has_to_be_done_is_named_and_asked_about_and_what_was_found_is_listed()
    {
        using var browser = demo.Open(360, 740, phone: true);
        Join(browser, Path.GetFileName(await demo.JoinPath(12)), "Has to");
        browser.Click("#hand-in");
        browser.SeeText("#review-text", "1 thing has to be done that is still open.");
        browser.SeeText(".review-open li:first-child", "has to be done");
        browser.Click("#review-go");
        browser.SeeText("#review-problem", "Really hand it in");
        browser.Click("#review-back");
        browser.Fill("[data-target] textarea[aria-label='Why there?']", "Good holding ground.");
        // Its own pins: a tap takes no label, since there are others; so by the bank.
        browser.Click(".bank .marker");
        browser.Tap(browser.Spot(".stage", 0.6, 0.3));
        browser.See(".stage .label.marker, .stage .pin");
        browser.Click("#hand-in");
        browser.Until(() => !browser.Driver.FindElement(By.Id("review-text")).Text.Contains("has to be done"), "nothing has to be done");
        browser.Click("#review-go");
        browser.See(".work.done");
        Join(browser, Path.GetFileName(await demo.JoinPath(11)), "Finds");
        Assert.Equal(0, browser.Count(".found-list:not([hidden])"));
        browser.Tap(browser.Spot(".stage", 0.876, 0.356));
        browser.SeeText(".found-list", "A slip of paper between the books");
        Assert.Empty(browser.AxeViolations());
    }
}
