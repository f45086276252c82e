using System.Text;
using System.Text.Json;

namespace Fenster.Formats.Documents;

/// <summary>Reads a file of responses piece by piece, and keeps no more of it than one student's responses.</summary>
/// <param name="stream">In UTF-8.</param>
internal sealed class ResponsesReader(Stream stream)
{
    private const string What = "a file of responses";
    private const string ListField = "responses";

    private byte[] buffer = new byte[64 * 1024];
    private int start;
    private int length;
    private bool isAll;
    private JsonReaderState state = new(new() { MaxDepth = DocumentJson.MaximumDepth });

    private Where where = Where.Before;
    private int number;
    private bool hasList;
    private bool hasVersion;
    private int? version;

    private enum Where
    {
        Before,
        Outside,
        InList,
        After,
    }

    /// <summary>The next student's responses; null after the last.</summary>
    /// <exception cref="DocumentRefused">It is not a file of responses.</exception>
    public StudentResponses? Next() => DocumentReading.Guarded(What, "", () =>
        {
            while (where != Where.After)
            {
                if (TryStep(out var piece, out var needsMore) && piece is { } range)
                {
                    var path = $"$.{ListField}[{number++}]";
                    if (buffer.AsSpan(range).SequenceEqual("null"u8))
                        throw new DocumentRefused(path, $"This is not readable as {What}: there is nothing at '{path}'.");
                    return DocumentReading.ReadPiece<StudentResponses>(buffer.AsMemory(range), What, path);
                }
                if (needsMore)
                    ReadMore();
            }
            DocumentReading.RequireVersion(version, What);
            if (!hasList)
                throw new JsonException();
            return null;
        });

    /// <summary>Goes on by one thing: a field that is not the list, or a student's responses.</summary>
    /// <param name="piece">Where in the buffer the responses stand; null where it was something else.</param>
    /// <param name="needsMore">Whether it can't, since what it needs is not read yet.</param>
    private bool TryStep(out Range? piece, out bool needsMore)
    {
        piece = null;
        needsMore = true;
        var reader = new Utf8JsonReader(buffer.AsSpan(start, length), isAll, state);
        if (!reader.Read())
            return false;
        switch (where)
        {
            case Where.Before:
                if (reader.TokenType != JsonTokenType.StartObject)
                    throw DocumentReading.NoObject(What);
                where = Where.Outside;
                break;
            case Where.Outside when reader.TokenType == JsonTokenType.EndObject:
                // Nothing may follow.
                if (!isAll)
                    return false;
                if (reader.Read())
                    throw new JsonException();
                where = Where.After;
                break;
            case Where.Outside when reader.ValueTextEquals(ListField):
                if (!reader.Read())
                    return false;
                if (hasList)
                    throw new ArgumentException(ListField);
                if (reader.TokenType != JsonTokenType.StartArray)
                    throw new JsonException(null, $"$.{ListField}", null, null);
                (hasList, where) = (true, Where.InList);
                break;
            case Where.Outside:
                var isVersion = reader.ValueTextEquals(DocumentReading.VersionField);
                if (!reader.Read() || !reader.TrySkip())
                    return false;
                if (isVersion && hasVersion)
                    throw new ArgumentException(DocumentReading.VersionField);
                if (isVersion)
                    (hasVersion, version) = (
                        true,
                        reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out var told) ? told : null
                    );
                break;
            case Where.InList when reader.TokenType == JsonTokenType.EndArray:
                where = Where.Outside;
                break;
            case Where.InList:
                var from = (int)reader.TokenStartIndex;
                if (!reader.TrySkip())
                    return false;
                piece = (start + from)..(start + (int)reader.BytesConsumed);
                break;
            default:
                throw new InvalidOperationException($"Nothing is read {where}.");
        }
        state = reader.CurrentState;
        (start, length) = (start + (int)reader.BytesConsumed, length - (int)reader.BytesConsumed);
        needsMore = false;
        return true;
    }

    /// <summary>
    /// Fills the buffer, and doubles it where it is full: what a piece begins with is looked at again each time, and so no more than
    /// twice in all.
    /// </summary>
    private void ReadMore()
    {
        buffer.AsSpan(start, length).CopyTo(buffer);
        start = 0;
        if (length == buffer.Length)
            Array.Resize(ref buffer, buffer.Length * 2);
        var more = stream.ReadAtLeast(buffer.AsSpan(length), buffer.Length - length, throwOnEndOfStream: false);
        isAll = more < buffer.Length - length;
        length += more;
        if (where == Where.Before && buffer.AsSpan(0, length).StartsWith(Encoding.UTF8.Preamble))
            (start, length) = (Encoding.UTF8.Preamble.Length, length - Encoding.UTF8.Preamble.Length);
    }
}
