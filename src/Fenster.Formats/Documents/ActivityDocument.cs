using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>An activity as one JSON document. The field <c>fenster</c> holds the version of the format.</summary>
public static class ActivityDocument
{
    public static string Write(Activity activity)
    {
        var document = new JsonObject { [DocumentReading.VersionField] = DocumentReading.Version };
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
        var activity = DocumentReading.Read<Activity>(json, "an activity");
        if (Soundness.Faults(activity) is [var fault, ..]) throw new DocumentRefused(fault.Where, fault.Sentence);
        return activity;
    }
}

/// <summary>A document that can't be read. The message is a sentence for a person.</summary>
/// <param name="where">Path in the document; empty for the whole.</param>
public sealed class DocumentRefused(string where, string message) : Exception(message)
{
    public string Where { get; } = where;
}
