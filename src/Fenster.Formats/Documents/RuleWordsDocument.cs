using System.Text.Json;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>Words of rules by themselves, in the form that a pane of an activity document has them.</summary>
public static class RuleWordsDocument
{
    public static string Write(RuleWords words) => JsonSerializer.Serialize(words, DocumentJson.Options);

    /// <exception cref="JsonException">The text is none.</exception>
    public static RuleWords Read(string json) => JsonSerializer.Deserialize<RuleWords>(json, DocumentJson.Options)!;
}
