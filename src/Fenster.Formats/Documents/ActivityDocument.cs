using System.Text;
using System.Text.Json;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>An activity as one JSON document. The field <c>fenster</c> holds the version of the format.</summary>
public static class ActivityDocument
{
    public static string Write(Activity activity) =>
        $"{{\"{DocumentReading.VersionField}\":{DocumentReading.Version},{JsonSerializer.Serialize(activity, DocumentJson.Options).AsSpan(1)}";

    /// <summary>An activity that was made from a document, with the fields of that document that this version does not know.</summary>
    /// <param name="document">What the activity was read from, before it was changed; a sound document.</param>
    public static string Write(Activity activity, string document) => Write(Write(activity), document, known: Write(Read(document)));

    /// <summary>The activity of a document, with the document as this version writes it, unknown fields kept.</summary>
    /// <inheritdoc cref="Read"/>
    public static (Activity Activity, string Document) ReadAndWrite(string json)
    {
        var activity = Read(json);
        var written = Write(activity);
        return (activity, Write(written, json, known: written));
    }

    private static string Write(string written, string document, string known)
    {
        if (!HasUnknown(document, known))
            return written;
        var fields = DocumentReading.Parse(written, What);
        UnknownFields.Keep(from: DocumentReading.Parse(document, What), known: DocumentReading.Parse(known, What), to: fields);
        return fields.ToJsonString(DocumentJson.Options);
    }

    private static bool HasUnknown(string document, string known)
    {
        using var from = JsonDocument.Parse(document);
        using var to = JsonDocument.Parse(known);
        return UnknownFields.AreIn(from.RootElement, to.RootElement);
    }

    private const string What = "an activity";

    /// <summary>The most bytes of a document, as UTF-8.</summary>
    public const int MostBytes = 8 * 1024 * 1024;

    /// <summary>Reads an activity that may have become degenerate by later rules, for a look at its parts only.</summary>
    /// <exception cref="DocumentRefused">The text is not JSON, not an activity, or of another version.</exception>
    public static Activity ReadUnchecked(string json)
    {
        var activity = DocumentReading.Read<Activity>(json, What);
        return activity with { Instructions = WritingCleaner.Clean(activity.Instructions) };
    }

    /// <summary>Reads an activity.</summary>
    /// <exception cref="DocumentRefused">
    /// The text is not JSON, not an activity, of another version, or degenerate; the message names the place.
    /// </exception>
    public static Activity Read(string json)
    {
        var activity = ReadUnchecked(json);
        if (Soundness.Faults(activity) is [var fault, ..])
            throw new DocumentRefused(fault.Where, fault.Sentence);
        if (Encoding.UTF8.GetByteCount(json) > MostBytes)
            throw new DocumentRefused(
                "",
                $"The activity is too large: it holds up to {MostBytes / (1024 * 1024)} MB of text and places. Make two of it."
            );
        return activity;
    }
}

/// <summary>A document that can't be read. The message is a sentence for a person.</summary>
/// <param name="where">Path in the document; empty for the whole.</param>
public sealed class DocumentRefused(string where, string message) : Exception(message)
{
    public string Where { get; } = where;
}
