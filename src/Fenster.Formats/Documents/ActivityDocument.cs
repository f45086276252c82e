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
    public static string Write(Activity activity, string document) =>
        UnknownFields.Keep(from: document, known: Write(Read(document)), to: Write(activity));

    /// <summary>The activity of a document, with the document as this version writes it, unknown fields kept.</summary>
    /// <inheritdoc cref="Read"/>
    public static (Activity Activity, string Document) ReadAndWrite(string json)
    {
        var activity = Read(json);
        var written = Write(activity);
        return (activity, UnknownFields.Keep(from: json, known: written, to: written));
    }

    /// <summary>The same of one pane; whether it is sound is seen in its activity.</summary>
    /// <exception cref="DocumentRefused">The text is not JSON, or not a pane.</exception>
    public static (Pane Pane, string Document) ReadAndWritePane(string json)
    {
        var pane = DocumentReading.ReadPart<Pane>(json, "a pane of an activity");
        var written = JsonSerializer.Serialize(pane, DocumentJson.Options);
        return (pane, UnknownFields.Keep(from: json, known: written, to: written));
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
        Require(activity, Encoding.UTF8.GetByteCount(json));
        return activity;
    }

    /// <exception cref="DocumentRefused">The activity is degenerate, or its document too large.</exception>
    /// <param name="bytes">Of its document, as UTF-8.</param>
    public static void Require(Activity activity, long bytes)
    {
        if (Soundness.Faults(activity) is [var fault, ..])
            throw new DocumentRefused(fault.Where, fault.Sentence);
        if (bytes > MostBytes)
            throw new DocumentRefused(
                "",
                $"The activity is too large: it holds up to {MostBytes / (1024 * 1024)} MB of text and places. Make two of it."
            );
    }
}

/// <summary>A document that can't be read. The message is a sentence for a person.</summary>
/// <param name="where">Path in the document; empty for the whole.</param>
public sealed class DocumentRefused(string where, string message) : Exception(message)
{
    public string Where { get; } = where;
}
