using System.Text.Json;

namespace Fenster.Words.Tests;

public sealed class FixturesTests
{
    /// <summary>What the browser has to say alike: read by the scripts' own tests. Written anew by <c>./fenster contract</c>.</summary>
    [Fact]
    public void The_fixtures_are_what_the_server_says()
    {
        (string Name, (string, object)[] Slots)[] asked =
        [
            ("screen.putInto", [("label", "Mast (top)"), ("number", 3)]),
            ("screen.putInto", [("label", "صاري 2"), ("number", 3)]),
            .. ((decimal[])[0, 1, 2, 3, 11, 0.5m, 1.25m, 100, 1234]).Select(count =>
                ("rules.points", ((string, object)[])[("count", count)])
            ),
            ("result.score", [("score", 2.5m), ("count", 10)]),
        ];
        var now = JsonSerializer.Serialize(
            new[] { "en", "de", "fr", "es", "ar", "en-XA", "ar-XB" }
                .Select(Language.In)
                .Select(language => new
                {
                    Language = language.Tag,
                    Page = language.Json("list", "screen.putInto", "rules.points", "result.score"),
                    Said = asked.Select(sentence => new
                    {
                        sentence.Name,
                        Slots = sentence.Slots.ToDictionary(slot => slot.Item1, slot => slot.Item2),
                        Text = language.Say(sentence.Name, sentence.Slots),
                    }),
                    Listed = language.Listed(["a", "ب", "c"]),
                    WithAnd = language.ListedWithAnd(["a", "ب", "c"]),
                }),
            fixtureJson
        );
        var file = Path.Combine(House.Root(), "tests/Fenster.Scripts.Tests/language.json");
        if (Environment.GetEnvironmentVariable("FENSTER_CONTRACT") == "write")
            File.WriteAllText(file, now + "\n");
        Assert.Equal(now + "\n", File.ReadAllText(file));
    }

    private static readonly JsonSerializerOptions fixtureJson = new(JsonSerializerDefaults.Web) { WriteIndented = true, IndentSize = 1 };
}
