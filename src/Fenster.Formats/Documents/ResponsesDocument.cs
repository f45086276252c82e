using System.Collections.Immutable;
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
    private sealed record Document(ImmutableArray<StudentResponses> Responses);

    /// <exception cref="DocumentRefused">The text is not a file of responses; the message names the place.</exception>
    public static ImmutableArray<StudentResponses> Read(string json) =>
        DocumentReading.Read<Document>(json, "a file of responses").Responses;
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

    private static T Read<T>(string json, string what, Action<JsonElement, string> require)
    {
        try
        {
            using var parsed = JsonDocument.Parse(json, AsStrict);
            var document = parsed.RootElement;
            if (document.ValueKind != JsonValueKind.Object)
                throw NoObject(what);
            require(document, what);
            if (GapIn(document) is { } gap)
                throw new DocumentRefused($"${gap}", $"This is not readable as {what}: there is nothing at '${gap}'.");
            return document.Deserialize<T>(DocumentJson.Options) ?? throw new DocumentRefused("", $"This is not {what}: it is empty.");
        }
        catch (JsonException exception)
        {
            throw new DocumentRefused(exception.Path ?? "", $"This is not readable as {what}, near '{exception.Path ?? "the beginning"}'.");
        }
        catch (Exception exception)
            when (exception is InvalidOperationException or ArgumentException or FormatException or NotSupportedException)
        {
            // The reader's answers to doubled names and to kinds that are missing or not known.
            throw new DocumentRefused("", $"This is not readable as {what}: a name stands in it twice, or a kind is missing or not known.");
        }
    }

    private static readonly JsonDocumentOptions AsStrict = new() { MaxDepth = DocumentJson.MaximumDepth, AllowDuplicateProperties = false };

    private static DocumentRefused NoObject(string what) => new("", $"This is not {what}: it is not a JSON object.");

    private static void RequireVersion(JsonElement document, string what)
    {
        if (
            !document.TryGetProperty(VersionField, out var value)
            || value.ValueKind != JsonValueKind.Number
            || !value.TryGetInt32(out var version)
        )
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
