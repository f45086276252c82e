using System.Text.Json;
using System.Text.Json.Nodes;

namespace Fenster.Formats.Documents;

/// <summary>Fields of a document that this version does not know are not its to drop: a later version may have written them.</summary>
internal static class UnknownFields
{
    /// <summary>A document with the fields that an older one had and that were not known when that was read.</summary>
    /// <param name="from">The older document as it was written, as JSON.</param>
    /// <param name="known">The same, read and written again.</param>
    /// <param name="to">The new document.</param>
    public static string Keep(string from, string known, string to)
    {
        using (var before = JsonDocument.Parse(from))
        using (var after = JsonDocument.Parse(known))
            if (!AreIn(before.RootElement, after.RootElement))
                return to;
        var fields = JsonNode.Parse(to);
        Keep(from: JsonNode.Parse(from), known: JsonNode.Parse(known), to: fields);
        return fields!.ToJsonString(DocumentJson.Options);
    }

    /// <summary>Whether a document has fields that were not known when it was read. Mostly there are none, and this is soon seen.</summary>
    /// <param name="known">The same, read and written again.</param>
    private static bool AreIn(JsonElement document, JsonElement known)
    {
        if (document.ValueKind == JsonValueKind.Object && known.ValueKind == JsonValueKind.Object)
        {
            foreach (var field in document.EnumerateObject())
                if (!known.TryGetProperty(field.Name, out var value) || AreIn(field.Value, value))
                    return true;
        }
        else if (document.ValueKind == JsonValueKind.Array && known.ValueKind == JsonValueKind.Array)
        {
            // Lists are written as long as they were read.
            foreach (var (item, value) in document.EnumerateArray().Zip(known.EnumerateArray()))
                if (AreIn(item, value))
                    return true;
        }
        return false;
    }

    /// <summary>Adds to a document the fields that an older one had and that were not known when it was read.</summary>
    /// <param name="from">The older document as it was written.</param>
    /// <param name="known">The same, read and written again: what is missing in it is not known.</param>
    /// <param name="to">The new document. Its things are those of the older one that have the same id, or stand at the same place in a
    /// list without ids.</param>
    private static void Keep(JsonNode? from, JsonNode? known, JsonNode? to)
    {
        if (from is JsonObject fields && known is JsonObject knownFields && to is JsonObject target)
        {
            foreach (var (name, value) in fields)
                if (!knownFields.TryGetPropertyValue(name, out var knownValue))
                    target.TryAdd(name, value?.DeepClone());
                else if (target.TryGetPropertyValue(name, out var newValue))
                    Keep(value, knownValue, newValue);
        }
        else if (from is JsonArray items && known is JsonArray knownItems && to is JsonArray targets && items.Count == knownItems.Count)
        {
            var byId = targets
                .OfType<JsonObject>()
                .Where(item => IdOf(item) is not null)
                .DistinctBy(IdOf)
                .ToDictionary(item => IdOf(item)!);
            for (var i = 0; i < items.Count; i++)
            {
                var counterpart =
                    IdOf(items[i]) is { } id ? byId.GetValueOrDefault(id)
                    : i < targets.Count && items.Count == targets.Count ? targets[i]
                    : null;
                Keep(items[i], knownItems[i], counterpart);
            }
        }
    }

    private static string? IdOf(JsonNode? node) =>
        node is JsonObject item && item["id"] is JsonValue value && value.TryGetValue(out string? id) ? id : null;
}
