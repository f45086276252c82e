using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>An activity as one JSON document. The field <c>fenster</c> holds the version of the format.</summary>
public static class ActivityDocument
{
    public const int Version = 1;

    private const string VersionField = "fenster";

    public static string Write(Activity activity)
    {
        var document = new JsonObject { [VersionField] = Version };
        var fields = JsonSerializer.SerializeToNode(activity, DocumentJson.Options)!.AsObject();
        foreach (var (name, value) in fields.ToList())
        {
            fields.Remove(name);
            document[name] = value;
        }
        return document.ToJsonString(DocumentJson.Options);
    }

    /// <summary>Reads an activity.</summary>
    /// <exception cref="DocumentRefused">
    /// The text is not JSON, not an activity, of another version, or degenerate; the message names the place.
    /// </exception>
    public static Activity Read(string json)
    {
        Activity activity;
        try
        {
            var document = JsonNode.Parse(json, documentOptions: new() { MaxDepth = DocumentJson.MaximumDepth }) as JsonObject
                ?? throw new DocumentRefused("", "This is not an activity: it is not a JSON object.");
            RequireVersion(document);
            RequireNoGaps(document, "$");
            activity = document.Deserialize<Activity>(DocumentJson.Options)
                ?? throw new DocumentRefused("", "This is not an activity: it is empty.");
        }
        catch (JsonException exception)
        {
            throw new DocumentRefused(exception.Path ?? "", $"This is not a readable activity, near '{exception.Path ?? "the beginning"}'.");
        }
        catch (Exception exception) when (exception is InvalidOperationException or ArgumentException or FormatException or NotSupportedException)
        {
            // The reader's answers to doubled names and to kinds that are missing or not known.
            throw new DocumentRefused("", "This is not a readable activity: a name stands in it twice, or a kind is missing or not known.");
        }

        if (Soundness.Faults(activity) is [var fault, ..]) throw new DocumentRefused(fault.Where, fault.Sentence);
        return activity;
    }

    /// <summary>Lists hold things; the reader alone would let nothing pass as a thing.</summary>
    private static void RequireNoGaps(JsonNode? node, string where)
    {
        if (node is JsonObject fields)
        {
            foreach (var (name, value) in fields) RequireNoGaps(value, $"{where}.{name}");
        }
        else if (node is JsonArray items)
        {
            for (var i = 0; i < items.Count; i++)
            {
                if (items[i] is null) throw new DocumentRefused($"{where}[{i}]", $"This is not a readable activity: there is nothing at '{where}[{i}]'.");
                RequireNoGaps(items[i], $"{where}[{i}]");
            }
        }
    }

    private static void RequireVersion(JsonObject document)
    {
        if (document[VersionField] is not JsonValue value || !value.TryGetValue(out int version))
            throw new DocumentRefused(VersionField, $"This is not an activity: the field '{VersionField}' with the version is missing.");
        if (version != Version)
            throw new DocumentRefused(VersionField, $"This activity is of version {version}; this Fenster reads version {Version}.");
    }
}

/// <summary>A document that can't be read. The message is a sentence for a person.</summary>
/// <param name="where">Path in the document; empty for the whole.</param>
public sealed class DocumentRefused(string where, string message) : Exception(message)
{
    public string Where { get; } = where;
}
