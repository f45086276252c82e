using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>Words of rules as the groups of <see cref="Rules"/>, with only the words that are named.</summary>
internal sealed class RuleWordsJson : JsonConverter<RuleWords>
{
    /// <summary>Each word: its group and name, how it is read into the words, and what it is when it is named.</summary>
    private sealed record Field(
        string Group,
        string Name,
        Func<RuleWords, JsonNode?, RuleWords> With,
        Func<RuleWords, (bool IsNamed, JsonNode? Value)> Of
    );

    private static Field Of<T>(string group, string name, Func<RuleWords, Word<T>> get, Func<RuleWords, T, RuleWords> set) =>
        new(
            group,
            name,
            (words, node) => set(words, Read<T>(node)),
            words => (get(words).IsNamed, JsonSerializer.SerializeToNode(get(words).Value, DocumentJson.Options))
        );

    private static T Read<T>(JsonNode? node) =>
        node is null && default(T) is not null ? throw new JsonException() : node.Deserialize<T>(DocumentJson.Options)!;

    private static readonly Field[] Fields =
    [
        Of("check", "checks", words => words.Checks, (words, value) => words with { Checks = value }),
        Of("check", "wrong", words => words.Wrong, (words, value) => words with { Wrong = value }),
        Of("check", "right", words => words.Right, (words, value) => words with { Right = value }),
        Of("reveal", "marks", words => words.Marks, (words, value) => words with { Marks = value }),
        Of("reveal", "score", words => words.ScoreShows, (words, value) => words with { ScoreShows = value }),
        Of("reveal", "feedback", words => words.Feedback, (words, value) => words with { Feedback = value }),
        Of("reveal", "key", words => words.Key, (words, value) => words with { Key = value }),
        Of("reveal", "explanation", words => words.Explanation, (words, value) => words with { Explanation = value }),
        Of("score", "manner", words => words.Manner, (words, value) => words with { Manner = value }),
        Of("score", "wrongCost", words => words.WrongCost, (words, value) => words with { WrongCost = value }),
        Of("score", "tryCost", words => words.TryCost, (words, value) => words with { TryCost = value }),
        Of("score", "maximumGrade", words => words.MaximumGrade, (words, value) => words with { MaximumGrade = value }),
        Of("score", "passMark", words => words.PassMark, (words, value) => words with { PassMark = value }),
    ];

    public override RuleWords Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (JsonNode.Parse(ref reader) is not JsonObject groups)
            throw new JsonException();
        return Fields.Aggregate(new RuleWords(), (words, field) => groups[field.Group] switch
            {
                null => words,
                JsonObject group => group.TryGetPropertyValue(field.Name, out var value) ? field.With(words, value) : words,
                _ => throw new JsonException(),
            });
    }

    public override void Write(Utf8JsonWriter writer, RuleWords value, JsonSerializerOptions options)
    {
        var groups = new JsonObject();
        foreach (var field in Fields)
        {
            var (isNamed, word) = field.Of(value);
            if (!isNamed)
                continue;
            if (groups[field.Group] is not JsonObject group)
                groups[field.Group] = group = [];
            group[field.Name] = word;
        }
        groups.WriteTo(writer, options);
    }
}
