using System.Globalization;
using Fenster.Testing;
using Fenster.Words;
using OpenQA.Selenium;

namespace Fenster.Bench;

/// <summary>
/// A whole attempt at each activity of the demo, one place after the other, in three ways: by the accessibility tree alone (roles and
/// names, as a screen reader gets them, with no look at the picture), by the keyboard alone, and by touch at 360 pixels. What is pressed
/// is found by role and name in all of them.
/// </summary>
internal static class Walks
{
    private enum Way
    {
        Tree,
        Keyboard,
        Touch,
    }

    /// <summary>So many things of a picture are walked through; more would be the same once more.</summary>
    private const int MostThings = 30;

    public static async Task<int> Run(IReadOnlyList<string> only)
    {
        using var fenster = new RunningFenster();
        var ways = new List<(int Activity, string Link)>();
        using (var teacher = await new Visitor(fenster.Address).SignIn())
            for (var activity = 1; activity <= 15; activity++)
                if (only.Count == 0 || only.Contains($"{activity}"))
                    ways.Add((activity, await teacher.JoinPath(activity)));
        var stuck = 0;
        foreach (var way in Enum.GetValues<Way>())
        {
            using var browser = new Browser(fenster.Address, width: 360, height: 740, phone: way == Way.Touch);
            foreach (var (activity, link) in ways)
            {
                string outcome;
                try
                {
                    outcome = new Walk(browser, way).Through(link, $"{way} {activity}");
                }
                catch (Exception exception) when (exception is WebDriverException or InvalidOperationException)
                {
                    outcome = $"STUCK: {exception.Message.Split('\n')[0]}";
                    stuck++;
                }
                Console.WriteLine($"{way, -9} {activity, 2}  {outcome}");
            }
        }
        return stuck == 0 ? 0 : 1;
    }

    /// <summary>Something that can be pressed or typed into, as a screen reader gets it.</summary>
    /// <param name="Id">By which the browser knows it.</param>
    private sealed record Thing(string Role, string Name, bool IsPressed, bool IsChecked, bool IsDisabled, object Id);

    private sealed class Walk(Browser browser, Way way)
    {
        private int presses;

        /// <summary>That the screen speaks, by whose sentences things are told.</summary>
        private Language language = Language.In("en");

        private bool Is(Thing thing, string sentence) => thing.Role == "button" && thing.Name == language.Say(sentence);

        public string Through(string link, string name)
        {
            browser.Go(link);
            browser.See("#stage :is(input[name=name], [data-act=other], #work)");
            if (browser.Count("[data-act=other]") > 0)
                browser.Click("[data-act=other]");
            browser.Enter(name);
            browser.See("#work[data-ready]");
            presses = 0;
            language = Language.In(browser.Script<string>("return document.documentElement.lang"));
            var (panes, done) = (0, 0);
            do
            {
                panes++;
                Press(All().First(thing => Is(thing, "page.singly")));
                browser.See(".singly:not([hidden]) .singly-name");
                done += Things();
            } while (Next());
            if (All().FirstOrDefault(thing => Is(thing, "page.handIn")) is not { } handIn)
                return $"{panes} pictures, {done} things, {presses} presses, nothing to hand in";
            Press(handIn);
            browser.See("#review[open]");
            for (var times = 0; times < 2 && browser.Count("#review[open]") > 0; times++)
            {
                Press(All().Last(thing => Is(thing, "page.handIn")));
                Wait(() => browser.Count("#review[open]") == 0 || browser.Count("#review-problem:not([hidden])") > 0);
            }
            browser.See(".work.done");
            return $"{panes} pictures, {done} things, {presses} presses, handed in";
        }

        /// <summary>Goes through the things of a pane, and back to the whole picture.</summary>
        private int Things()
        {
            var done = 0;
            var first = "";
            for (var n = 0; n < MostThings; n++)
            {
                var all = All();
                var heading = all.LastOrDefault(thing => thing.Role == "heading")?.Name ?? "";
                if (heading == first)
                    break;
                if (first == "")
                    first = heading;
                done += Do(all) ? 1 : 0;
                if (All().LastOrDefault(thing => Is(thing, "singly.next") || Is(thing, "singly.skip")) is not { } next)
                    break;
                Press(next);
                Wait(() => All().LastOrDefault(thing => thing.Role == "heading")?.Name != heading);
            }
            Press(All().First(thing => Is(thing, "singly.whole")));
            Wait(() => browser.Count(".singly:not([hidden])") == 0);
            return done;
        }

        /// <summary>Does what there is to do at the thing that is shown. It does not know what is right.</summary>
        private bool Do(IReadOnlyList<Thing> all)
        {
            var here = all.SkipWhile(thing => !Is(thing, "singly.whole")).Skip(1).ToList();
            if (here.FirstOrDefault(thing => thing.Role == "textbox") is { } field)
            {
                Press(field);
                // By the keys of a keyboard, or of a screen.
                browser.Keys("1", "2", Keys.Tab);
                return true;
            }
            if (here.FirstOrDefault(thing => thing is { Role: "radio" or "checkbox", IsChecked: false, IsDisabled: false }) is { } option)
                return Press(option);
            string[] ways =
            [
                "singly.back",
                "singly.next",
                "singly.skip",
                "singly.hear",
                "cards.tryCode",
                "singly.searchHere",
                "singly.farther",
            ];
            if (here.FirstOrDefault(thing => Is(thing, "singly.putHere")) is { } put)
                return Press(put);
            if (here.FirstOrDefault(thing => Is(thing, "singly.searchHere")) is { } search)
                return Press(search);
            return here.FirstOrDefault(thing =>
                    thing is { Role: "button", IsPressed: false, IsDisabled: false }
                    // A player's own buttons are the browser's.
                    && IsOfThePage(thing)
                    && !ways.Any(name => Is(thing, name))
                    && !thing.Name.StartsWith(language.Say("singly.nearer"), StringComparison.Ordinal)
                    && !thing.Name.StartsWith(language.Say("singly.takeBack", ("label", "")).Trim(), StringComparison.Ordinal)
                )
                    is { } choice
                && Press(choice);
        }

        private bool Next()
        {
            if (browser.Count(".pane-lattice:not([hidden])") == 0)
                return false;
            var before = browser.Script<string>("return document.querySelector('.pane-cell[aria-current]').textContent");
            Press(All().First(thing => Is(thing, "screen.after")));
            return browser.Script<string>("return document.querySelector('.pane-cell[aria-current]').textContent") != before;
        }

        private bool Press(Thing thing)
        {
            presses++;
            if (way == Way.Tree)
            {
                // As a screen reader's own command does it.
                browser.Call("DOM.focus", ("backendNodeId", thing.Id));
                if (thing.Role is "button" or "radio" or "checkbox")
                    browser.Keys(thing.Role == "button" ? Keys.Enter : Keys.Space);
            }
            else if (way == Way.Keyboard)
            {
                for (var steps = 0; !IsFocused(thing); steps++)
                {
                    if (steps > 200)
                        throw new InvalidOperationException($"No Tab leads to the {thing.Role} “{thing.Name}”.");
                    browser.Keys(Keys.Tab);
                }
                if (thing.Role is "button" or "radio" or "checkbox")
                    browser.Keys(thing.Role == "button" ? Keys.Enter : Keys.Space);
            }
            else
            {
                browser.Call("DOM.scrollIntoViewIfNeeded", ("backendNodeId", thing.Id));
                var model = (Dictionary<string, object>)browser.Call("DOM.getBoxModel", ("backendNodeId", thing.Id))["model"];
                var corners = ((IEnumerable<object>)model["border"])
                    .Select(value => Convert.ToDouble(value, CultureInfo.InvariantCulture))
                    .ToList();
                browser.Tap(((int)((corners[0] + corners[4]) / 2), (int)((corners[1] + corners[5]) / 2)));
            }
            return true;
        }

        private bool IsOfThePage(Thing thing) =>
            ((Dictionary<string, object>)browser.Call("DOM.describeNode", ("backendNodeId", thing.Id))["node"])["nodeName"] is "BUTTON";

        private bool IsFocused(Thing thing)
        {
            var node = (Dictionary<string, object>)browser.Call("DOM.describeNode", ("backendNodeId", thing.Id))["node"];
            var focused = (Dictionary<string, object>)browser.Call("Runtime.evaluate", ("expression", "document.activeElement"))["result"];
            var active = (Dictionary<string, object>)browser.Call("DOM.describeNode", ("objectId", focused["objectId"]))["node"];
            // One of a group of choices has the focus for all of them; arrows go on from it.
            return Equals(node["backendNodeId"], active["backendNodeId"]);
        }

        /// <summary>All that is there for a screen reader, in its order.</summary>
        private List<Thing> All()
        {
            var nodes = ((IEnumerable<object>)browser.Call("Accessibility.getFullAXTree")["nodes"])
                .Cast<Dictionary<string, object>>()
                .DistinctBy(node => (string)node["nodeId"])
                .ToDictionary(node => (string)node["nodeId"]);
            var (found, root) = (new List<Thing>(), nodes.Values.First(node => !node.ContainsKey("parentId")));
            void Walk(Dictionary<string, object> node)
            {
                if (Read(node) is { } thing)
                    found.Add(thing);
                foreach (var child in (IEnumerable<object>?)node.GetValueOrDefault("childIds") ?? [])
                    if (nodes.TryGetValue((string)child, out var known))
                        Walk(known);
            }
            Walk(root);
            return found;
        }

        private static Thing? Read(Dictionary<string, object> node)
        {
            static object? Value(object? property) => (property as Dictionary<string, object>)?.GetValueOrDefault("value");
            if (node.TryGetValue("ignored", out var ignored) && ignored is true)
                return null;
            var role = Value(node.GetValueOrDefault("role")) as string ?? "";
            if (
                role is not ("button" or "textbox" or "radio" or "checkbox" or "heading")
                || !node.TryGetValue("backendDOMNodeId", out var id)
            )
                return null;
            var properties = ((IEnumerable<object>?)node.GetValueOrDefault("properties") ?? [])
                .Cast<Dictionary<string, object>>()
                .ToDictionary(property => (string)property["name"], property => Value(property.GetValueOrDefault("value")));
            return new(
                role,
                Value(node.GetValueOrDefault("name")) as string ?? "",
                properties.GetValueOrDefault("pressed") as string == "true",
                properties.GetValueOrDefault("checked") as string == "true",
                properties.GetValueOrDefault("disabled") is true,
                id
            );
        }

        private void Wait(Func<bool> condition) => browser.Until(condition, "the screen");
    }
}
