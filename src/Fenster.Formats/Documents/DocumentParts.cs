using System.Collections.Immutable;
using System.Text;
using System.Text.Json;

namespace Fenster.Formats.Documents;

/// <summary>A document of an activity taken apart, so that a pane that stays as it is need be neither sent nor read nor written.</summary>
/// <param name="Before">The document up to where its list of panes begins.</param>
/// <param name="Panes">Each pane as JSON, or whatever stands for it in the list.</param>
/// <param name="After">The document from where its list of panes ends.</param>
public sealed record DocumentParts(string Before, ImmutableArray<string> Panes, string After)
{
    /// <summary>The document without panes.</summary>
    public string Head => $"{Before}[]{After}";

    public string Whole => $"{Before}[{string.Join(',', Panes)}]{After}";

    /// <exception cref="DocumentRefused">The text is not a JSON object with a list of panes.</exception>
    public static DocumentParts Of(string document)
    {
        try
        {
            return Read(Encoding.UTF8.GetBytes(document)) ?? throw NotReadable();
        }
        catch (JsonException)
        {
            throw NotReadable();
        }
    }

    /// <param name="name">Of the pane, as JSON.</param>
    public static DocumentRefused NoSuchPane(string name) => new("panes", $"The activity has no pane {name}.");

    private static DocumentRefused NotReadable() => new("panes", "This is not readable as an activity: it has no list of panes.");

    private static DocumentParts? Read(ReadOnlySpan<byte> bytes)
    {
        var reader = new Utf8JsonReader(bytes, new JsonReaderOptions { MaxDepth = DocumentJson.MaximumDepth });
        if (!reader.Read() || reader.TokenType != JsonTokenType.StartObject)
            return null;
        DocumentParts? found = null;
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var isPanes = reader.ValueTextEquals("panes");
            reader.Read();
            var start = (int)reader.TokenStartIndex;
            if (isPanes && reader.TokenType == JsonTokenType.StartArray)
                found = new(Text(bytes[..start]), [.. Items(bytes, ref reader)], Text(bytes[(int)reader.BytesConsumed..]));
            else
                reader.Skip();
        }
        return found;
    }

    private static List<string> Items(ReadOnlySpan<byte> bytes, ref Utf8JsonReader reader)
    {
        var items = new List<string>();
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
        {
            var start = (int)reader.TokenStartIndex;
            reader.Skip();
            items.Add(Text(bytes[start..(int)reader.BytesConsumed]));
        }
        return items;
    }

    private static string Text(ReadOnlySpan<byte> bytes) => Encoding.UTF8.GetString(bytes);
}
