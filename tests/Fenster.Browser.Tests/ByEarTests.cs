using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>
/// A whole attempt as it is heard: what a screen reader gets of each screen from where the focus is, where each key leads, and what is
/// announced. docs/by-ear.md has it written down; with FENSTER_BY_EAR set, the test writes it anew.
/// </summary>
[Collection("screens")]
public sealed partial class ByEarTests(Demo demo)
{
    private static readonly string Page = Path.Combine(RunningFenster.Repository, "docs", "by-ear.md");

    [GeneratedRegex("(?<=- text “)[a-z]+ [a-z]+ [a-z]+ [a-z]+(?=”)")]
    private static partial Regex OwnWords { get; }

    [Fact]
    public async Task A_whole_attempt_by_ear_is_as_it_is_written_down()
    {
        var pane = new Pane
        {
            Id = "p",
            BankOrder = BankOrder.AsListed,
            Labels = [.. ((string[])["Mast", "Boom", "Keel"]).Select(name => new Label { Id = name, Text = name })],
            Targets =
            [
                .. ((string[])["Mast", "Boom"]).Select(
                    (name, i) =>
                        new DropZone
                        {
                            Id = $"z{i}",
                            Region = new Rectangle(100 + 400 * i, 100, 200, 80),
                            Accepts = [new(name)],
                        }
                ),
            ],
        };
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var picture = await teacher.Upload(
            await File.ReadAllBytesAsync(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"))
        );
        var hash = System.Text.Json.Nodes.JsonNode.Parse(await picture.Content.ReadAsStringAsync())!["hash"]!.GetValue<string>();
        var (_, code) = await teacher.Publish(
            ActivityDocument.Write(
                new Activity
                {
                    Title = "Two names",
                    Instructions = "Put each name where it belongs.",
                    Rules = Samples.Test,
                    Screen = new() { Leaving = Leaving.AskedTwice },
                    Panes = [pane with { Picture = new(hash, 1000, 750, "A boat from the side") }],
                }
            )
        );
        using var browser = demo.Open();
        var ear = new Ear(browser);
        browser.Go($"/do/{code}");
        browser.Until(() => browser.HasFocus("#name"), "the field for the name");
        ear.Screen("The page is opened");
        browser.Keys("Ann", Keys.Enter);
        browser.See("#begin");
        ear.Screen("“Ann” is typed, Enter");
        ear.Reach("#begin");
        browser.Keys(Keys.Enter);
        browser.See("#work[data-ready]");
        ear.Screen("Enter");
        ear.Listen();
        ear.Reach(".bank .label");
        ear.Press(Keys.Enter, "Enter picks it up", () => browser.HasFocus("[data-zone]"));
        ear.Press(Keys.Enter, "Enter puts it down", () => browser.HasFocus(".bank .label"));
        ear.Press(Keys.Enter, "Enter picks the next one up", () => browser.HasFocus("[data-zone]"));
        ear.Press(Keys.ArrowLeft, "Arrow left, to the zone that has one already", () => browser.HasFocus("[data-zone][data-index='0']"));
        ear.Press(Keys.Enter, "Enter puts it down there", () => browser.HasFocus(".bank .label"));
        browser.SeeText("#progress", "1 of 2 placed. Saved.");
        ear.Reach("#hand-in", back: true);
        ear.Press(Keys.Enter, "Enter", () => browser.Count("#review[open]") == 1);
        ear.Reach("#review-go");
        ear.Press(Keys.Enter, "Enter, with something open", () => browser.Count("#review-problem:not([hidden])") == 1);
        browser.Keys(Keys.Enter);
        browser.See(".work.done");
        browser.Until(() => browser.HasFocus("#progress"), "what came of it");
        ear.Screen("Enter once more");
        var heard = $"""
            # One attempt by ear

            A whole attempt by keyboard, as a screen reader hears it: names, roles and announcements alone, from the browser's accessibility tree. Two zones, three labels. `ByEarTests` does it in each run and holds what it hears against this page.

            {OwnWords.Replace(ear.Heard, "(four words)")}
            """;
        if (Environment.GetEnvironmentVariable("FENSTER_BY_EAR") is not null)
            await File.WriteAllTextAsync(Page, heard);
        Assert.Equal(await File.ReadAllTextAsync(Page), heard);
    }

    private sealed class Ear(Browser browser)
    {
        private readonly StringBuilder heard = new();

        public string Heard => $"{heard}".TrimEnd() + "\n";

        /// <summary>All of the screen, from its beginning, and where the focus is.</summary>
        public void Screen(string when)
        {
            heard.Append($"\n**{when}.** The focus is on {Focused()}. From there on is read:\n\n");
            var nodes = Nodes();
            var from = nodes.FindIndex(node => Equals(node.Id, FocusedId()));
            foreach (var node in nodes.Skip(Math.Max(0, from)))
                heard.Append($"- {node.Said}\n");
        }

        /// <summary>From now on what is announced is noted.</summary>
        public void Listen() =>
            browser.Script<object?>(
                """
                const heard = window.heard_ = []
                const alive = '[aria-live], [role=status], [role=alert]'
                new MutationObserver(changes => {
                  for (const { target } of changes) {
                    const region = (target.nodeType === 1 ? target : target.parentElement)?.closest(alive)
                    const words = region?.textContent.trim()
                    // What is stored is told in a line of its own, whenever it is.
                    if (words && !region.hidden && region.id !== 'progress' && heard.at(-1) !== words) heard.push(words)
                  }
                }).observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true, attributeFilter: ['hidden'] })
                return null
                """
            );

        /// <summary>Goes on by Tab until it is there.</summary>
        public void Reach(string css, bool back = false)
        {
            for (var times = 0; times < 40 && !browser.HasFocus(css); times++)
                if (back)
                    new OpenQA.Selenium.Interactions.Actions(browser.Driver)
                        .KeyDown(Keys.Shift)
                        .SendKeys(Keys.Tab)
                        .KeyUp(Keys.Shift)
                        .Perform();
                else
                    browser.Keys(Keys.Tab);
            Assert.True(browser.HasFocus(css), $"{css} is reached by Tab");
            heard.Append($"\n**{(back ? "Shift and Tab" : "Tab")}**, to {Focused()}.\n");
        }

        public void Press(string key, string how, Func<bool> until)
        {
            browser.Script<object?>("window.heard_.length = 0; return null");
            browser.Keys(key);
            browser.Until(until, how);
            // What is stored is answered; then nothing more comes.
            browser.Until(
                () => browser.Script<string>("return document.getElementById('work').dataset.link ?? 'saved'") == "saved",
                "stored"
            );
            var said = browser.Script<IReadOnlyCollection<object>>("return [...new Set(window.heard_)]");
            var dialog = Nodes().FirstOrDefault(node => node.Said.StartsWith("dialog", StringComparison.Ordinal));
            var opened =
                dialog is null || heard.ToString().Contains(dialog.Said, StringComparison.Ordinal) ? "" : $"Opened: {dialog.Said}. ";
            heard.Append(
                $"\n**{how}.** {opened}{string.Concat(said.Select(words => $"Announced: “{words}” "))}The focus is on {Focused()}.\n"
            );
        }

        private sealed record Node(object? Id, string Said);

        private object FocusedId()
        {
            var focused = (Dictionary<string, object>)browser.Call("Runtime.evaluate", ("expression", "document.activeElement"))["result"];
            return ((Dictionary<string, object>)browser.Call("DOM.describeNode", ("objectId", focused["objectId"]))["node"])[
                "backendNodeId"
            ];
        }

        private string Focused() => Nodes().FirstOrDefault(node => Equals(node.Id, FocusedId()))?.Said ?? "nothing";

        /// <summary>All that is there for a screen reader, in its order.</summary>
        private List<Node> Nodes()
        {
            static object? Value(object? property) => (property as Dictionary<string, object>)?.GetValueOrDefault("value");
            var nodes = ((IEnumerable<object>)browser.Call("Accessibility.getFullAXTree")["nodes"])
                .Cast<Dictionary<string, object>>()
                .DistinctBy(node => (string)node["nodeId"])
                .ToDictionary(node => (string)node["nodeId"]);
            var found = new List<Node>();
            void Walk(Dictionary<string, object> node)
            {
                var (role, name) = (
                    Value(node.GetValueOrDefault("role")) as string ?? "",
                    Value(node.GetValueOrDefault("name")) as string ?? ""
                );
                var description = Value(node.GetValueOrDefault("description")) as string ?? "";
                var isSaid = node.GetValueOrDefault("ignored") is not true;
                var isWhole = role is "heading" or "button" or "textbox" or "image" or "link" or "status";
                if (isSaid && (isWhole || role is "StaticText" or "dialog" or "alert"))
                {
                    var words = role == "status" && name == "" ? Text(node) : name;
                    var more = description == "" || description == name ? "" : $", “{description}”";
                    if (words != "" || role == "textbox")
                        found.Add(
                            new(node.GetValueOrDefault("backendDOMNodeId"), $"{(role == "StaticText" ? "text" : role)} “{words}”{more}")
                        );
                }
                if (isSaid && isWhole)
                    return;
                foreach (var child in Children(node))
                    Walk(child);
            }
            IEnumerable<Dictionary<string, object>> Children(Dictionary<string, object> node) =>
                ((IEnumerable<object>?)node.GetValueOrDefault("childIds") ?? [])
                    .Select(child => nodes.GetValueOrDefault((string)child))
                    .OfType<Dictionary<string, object>>();
            string Text(Dictionary<string, object> node) =>
                Value(node.GetValueOrDefault("role")) as string == "StaticText"
                    ? Value(node.GetValueOrDefault("name")) as string ?? ""
                    : string.Join(' ', Children(node).Select(Text).Where(words => words.Trim() != "")).Trim();
            Walk(nodes.Values.First(node => !node.ContainsKey("parentId")));
            return found;
        }
    }
}
