using System.Text.Json.Nodes;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

/// <summary>Spoils documents in many ways, from a fixed seed.</summary>
internal static class Spoiling
{
    /// <summary>Reads spoilt copies of a sound document. Each is read, or refused with a sentence; anything else fails.</summary>
    public static void EachGetsASentence(string document, Action<string> read)
    {
        var random = new Random(17);
        var refused = 0;
        for (var i = 0; i < 4000; i++)
        {
            var spoilt = i % 2 == 0 ? InItsCharacters(document, random) : InItsValues(document, random);
            try
            {
                read(spoilt);
            }
            catch (DocumentRefused refusal)
            {
                Assert.True(refusal.Message is { Length: > 10 } && refusal.Message.EndsWith('.'), refusal.Message);
                refused++;
            }
        }
        Assert.InRange(refused, 400, 3999);
    }

    private static string InItsCharacters(string document, Random random)
    {
        var spoilt = document.ToCharArray();
        for (var n = random.Next(1, 4); n > 0; n--)
            spoilt[random.Next(spoilt.Length)] = "{}[]\":,0-9eakx\\"[random.Next(15)];
        return new(spoilt, 0, random.Next(4) == 0 ? random.Next(spoilt.Length) : spoilt.Length);
    }

    private static readonly string[] Strange =
    [
        "null",
        "-1",
        "0",
        "1e300",
        "1e-300",
        "123456789012345678901234567890",
        "\"\"",
        "\"NaN\"",
        "\"\\u0000\"",
        "[]",
        "{}",
        "[null]",
        "[[[]]]",
        "true",
        "{\"kind\": \"moon\"}",
        "\"2026-13-45\"",
    ];

    private static string InItsValues(string document, Random random)
    {
        var root = JsonNode.Parse(document)!;
        for (var n = random.Next(1, 3); n > 0; n--)
        {
            var places = Places(root).ToList();
            var (parent, key) = places[random.Next(places.Count)];
            var value =
                random.Next(6) == 0
                    ? Places(root).ToList() is var others && others[random.Next(others.Count)] is var other
                        ? Get(other.Parent, other.Key)?.DeepClone()
                        : null
                    : JsonNode.Parse(Strange[random.Next(Strange.Length)]);
            if (parent is JsonObject fields)
            {
                if (random.Next(4) == 0)
                    fields.Remove((string)key);
                else
                    fields[(string)key] = value;
            }
            else if (parent is JsonArray items)
            {
                if (random.Next(4) == 0)
                    items.Add(items[(int)key]?.DeepClone());
                else
                    items[(int)key] = value;
            }
        }
        return root.ToJsonString();
    }

    private static JsonNode? Get(JsonNode parent, object key) => key is string name ? parent[name] : parent[(int)key];

    private static IEnumerable<(JsonNode Parent, object Key)> Places(JsonNode node) =>
        node switch
        {
            JsonObject fields => fields
                .ToList()
                .SelectMany(field => (field.Value is null ? [] : Places(field.Value)).Prepend((node, field.Key))),
            JsonArray items => Enumerable
                .Range(0, items.Count)
                .SelectMany(i => (items[i] is { } item ? Places(item) : []).Prepend((node, (object)i))),
            _ => [],
        };
}
