using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Formats.Documents;

/// <summary>One student's responses in a file of them.</summary>
/// <param name="Id">Anything that tells the responses of a file apart.</param>
/// <param name="Panes">By pane id; a pane without one is taken as untouched.</param>
/// <param name="Awards">By pane id; null for none.</param>
public sealed record StudentResponses(
    string Id,
    ImmutableDictionary<string, Response> Panes,
    ImmutableDictionary<string, ImmutableArray<Award>>? Awards = null
);

/// <summary>A file of responses: an object with the version and a list.</summary>
public static class ResponsesDocument
{
    /// <exception cref="DocumentRefused">The text is not a file of responses; the message names the place.</exception>
    public static ImmutableArray<StudentResponses> Read(string json) => [.. ReadEach(new MemoryStream(Encoding.UTF8.GetBytes(json)))];

    /// <summary>
    /// Reads one student's responses after the other, so that a file may be longer than there is room for. Whether the file is one of
    /// responses is known when the last one is read.
    /// </summary>
    /// <param name="stream">In UTF-8.</param>
    /// <inheritdoc cref="Read"/>
    public static IEnumerable<StudentResponses> ReadEach(Stream stream)
    {
        var reader = new ResponsesReader(stream);
        while (reader.Next() is { } next)
            yield return next;
    }
}

/// <summary>What all documents have in common: JSON with a version, and no gaps in lists.</summary>
internal static class DocumentReading
{
    public const string VersionField = "fenster";
    public const int Version = 1;

    /// <param name="what">What it should be, for the sentence: <c>an activity</c>.</param>
    public static T Read<T>(string json, string what) => Read<T>(json, what, RequireVersion);

    /// <summary>Reads what is a part of a document, and so has no version of its own.</summary>
    /// <inheritdoc cref="Read{T}(string, string)"/>
    public static T ReadPart<T>(string json, string what) => Read<T>(json, what, (_, _) => { });

    private static T Read<T>(string json, string what, Action<JsonElement, string> require) => Guarded(what, "", () =>
        {
            using var parsed = JsonDocument.Parse(json, AsStrict);
            var document = parsed.RootElement;
            if (document.ValueKind != JsonValueKind.Object)
                throw NoObject(what);
            require(document, what);
            return From<T>(document, what, "$");
        });

    /// <summary>Reads one thing of a document that is read piece by piece.</summary>
    /// <param name="path">Where it stands.</param>
    public static T ReadPiece<T>(ReadOnlyMemory<byte> json, string what, string path) => Guarded(what, path, () =>
        {
            using var parsed = JsonDocument.Parse(json, AsStrict);
            return From<T>(parsed.RootElement, what, path);
        });

    private static T From<T>(JsonElement element, string what, string path)
    {
        if (element.ValueKind is JsonValueKind.Object or JsonValueKind.Array && GapIn(element) is { } gap)
            throw new DocumentRefused($"{path}{gap}", $"This is not readable as {what}: there is nothing at '{path}{gap}'.");
        return element.Deserialize<T>(DocumentJson.Options) ?? throw new DocumentRefused("", $"This is not {what}: it is empty.");
    }

    /// <summary>Answers with a sentence where something can't be read.</summary>
    /// <param name="path">Where what is read stands in the document; empty for all of it.</param>
    public static T Guarded<T>(string what, string path, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (JsonException exception)
        {
            var at = path == "" || exception.Path is not ['$', .. var rest] ? exception.Path ?? path : path + rest;
            throw new DocumentRefused(at, $"This is not readable as {what}, near '{(at == "" ? "the beginning" : at)}'.");
        }
        catch (Exception exception)
            when (exception is InvalidOperationException or ArgumentException or FormatException or NotSupportedException)
        {
            // The reader's answers to doubled names and to kinds that are missing or not known.
            throw new DocumentRefused("", $"This is not readable as {what}: a name stands in it twice, or a kind is missing or not known.");
        }
    }

    private static readonly JsonDocumentOptions AsStrict = new() { MaxDepth = DocumentJson.MaximumDepth, AllowDuplicateProperties = false };

    public static DocumentRefused NoObject(string what) => new("", $"This is not {what}: it is not a JSON object.");

    private static void RequireVersion(JsonElement document, string what) =>
        RequireVersion(
            document.TryGetProperty(VersionField, out var value)
            && value.ValueKind == JsonValueKind.Number
            && value.TryGetInt32(out var version)
                ? version
                : null,
            what
        );

    /// <param name="version">Null where none stands.</param>
    public static void RequireVersion(int? version, string what)
    {
        if (version is null)
            throw new DocumentRefused(VersionField, $"This is not {what}: the field '{VersionField}' with the version is missing.");
        if (version != Version)
            throw new DocumentRefused(VersionField, $"This document is of version {version}; this Fenster reads version {Version}.");
    }

    /// <summary>Where a list holds nothing in the place of a thing; null when none does. The reader alone would let that pass.</summary>
    private static string? GapIn(JsonElement node)
    {
        if (node.ValueKind == JsonValueKind.Object)
        {
            foreach (var field in node.EnumerateObject())
                if (field.Value.ValueKind is JsonValueKind.Object or JsonValueKind.Array && GapIn(field.Value) is { } gap)
                    return $".{field.Name}{gap}";
        }
        else
        {
            var i = 0;
            foreach (var item in node.EnumerateArray())
            {
                if (item.ValueKind == JsonValueKind.Null)
                    return $"[{i}]";
                if (item.ValueKind is JsonValueKind.Object or JsonValueKind.Array && GapIn(item) is { } gap)
                    return $"[{i}]{gap}";
                i++;
            }
        }
        return null;
    }
}
