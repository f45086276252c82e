using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>A student's responses as JSON: an object of one response for each pane id.</summary>
public static class ResponseDocument
{
    public static readonly ImmutableDictionary<string, Response> Empty = ImmutableDictionary<string, Response>.Empty;

    public static string Write(ImmutableDictionary<string, Response> responses) =>
        JsonSerializer.Serialize(responses, DocumentJson.Options);

    /// <exception cref="JsonException">The text was not written by <see cref="Write"/>.</exception>
    public static ImmutableDictionary<string, Response> Read(string json) =>
        JsonSerializer.Deserialize<ImmutableDictionary<string, Response>>(json, DocumentJson.Options) ?? Empty;
}
