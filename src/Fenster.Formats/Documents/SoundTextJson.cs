using System.Buffers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using Fenster.Core.Model;

namespace Fenster.Formats.Documents;

/// <summary>Text in JSON as <see cref="SoundText"/> has it: whatever a device or a file says, no other text comes in, nor out of what was stored.</summary>
public sealed partial class SoundTextJson : JsonConverter<string>
{
    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.String)
            throw new JsonException();
        try
        {
            return SoundText.Of(reader.GetString()!);
        }
        catch (InvalidOperationException)
        {
            return Mended(reader.HasValueSequence ? reader.ValueSequence.ToArray() : reader.ValueSpan);
        }
    }

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteStringValue(value);

    public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        try
        {
            return SoundText.Of(reader.GetString()!);
        }
        catch (InvalidOperationException)
        {
            throw new JsonException();
        }
    }

    public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
        writer.WritePropertyName(value);

    /// <summary>What the reader can't make text of, such as the half of a pair, written as an escape, without it.</summary>
    private static string Mended(ReadOnlySpan<byte> written)
    {
        var whole = HalfOfPair().Replace(Encoding.UTF8.GetString(written), match => match.Length == 6 ? "" : match.Value);
        return SoundText.Of(JsonSerializer.Deserialize<string>($"\"{whole}\"")!);
    }

    // Whatever else is escaped is taken along, so that no half is seen in what stands behind a backslash of its own.
    [GeneratedRegex(
        @"\\u[dD][89abAB][0-9a-fA-F]{2}\\u[dD][c-fC-F][0-9a-fA-F]{2}|\\u[dD][89a-fA-F][0-9a-fA-F]{2}|\\\\",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex HalfOfPair();
}
