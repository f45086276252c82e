using System.Buffers.Binary;
using System.Numerics;

namespace Fenster.Formats.Sounds;

/// <summary>
/// Blanks what a WebM file tells of people and places. Elements and their numbers are those of RFC 8794 (EBML) and RFC 9559 (Matroska).
/// </summary>
internal static class WebMCleaner
{
    private const uint Segment = 0x18538067,
        Info = 0x1549A966,
        Tags = 0x1254C367,
        Attachments = 0x1941A469,
        Title = 0x7BA9,
        Date = 0x4461;

    private const byte Void = 0xEC;

    /// <summary>
    /// In place: an element that goes becomes an empty one of the same length, so that all else stays where the file's
    /// tables say that it is. A file that is cut off is read as far as it goes.
    /// </summary>
    public static void Blank(Span<byte> file)
    {
        var at = 0;
        while (at < file.Length)
        {
            if (ReadHeader(file[at..]) is not var (id, length, header))
                return;
            var isOpen = length is null || id is Segment or Info;
            if (id is Tags or Attachments or Title or Date && length is { } known)
            {
                if (known > (ulong)(file.Length - at - header))
                    return;
                BecomeVoid(file.Slice(at, header + (int)known));
            }
            // What is open to its end, or holds more, is entered; all else is passed over.
            var step = (ulong)header + (isOpen ? 0 : length!.Value);
            if (step > (ulong)(file.Length - at))
                return;
            at += (int)step;
        }
    }

    /// <summary>An element's id, with its marker bits, and the length of what is in it; null for a length that is not known.</summary>
    private static (uint Id, ulong? Length, int Header)? ReadHeader(ReadOnlySpan<byte> file)
    {
        var idLength = LengthOf(file[0]);
        if (idLength > 4 || file.Length <= idLength)
            return null;
        uint id = 0;
        foreach (var part in file[..idLength])
            id = id << 8 | part;
        var sizeLength = LengthOf(file[idLength]);
        if (sizeLength > 8 || file.Length < idLength + sizeLength)
            return null;
        var size = (ulong)file[idLength] & (0xFFUL >> sizeLength);
        foreach (var part in file.Slice(idLength + 1, sizeLength - 1))
            size = size << 8 | part;
        var isUnknown = size == (1UL << 7 * sizeLength) - 1;
        return (id, isUnknown ? null : size, idLength + sizeLength);
    }

    /// <summary>How many bytes a number has by its first one; 9 for none.</summary>
    private static int LengthOf(byte first) => BitOperations.LeadingZeroCount((uint)first) - 24 + 1;

    private static void BecomeVoid(Span<byte> element)
    {
        element.Clear();
        element[0] = Void;
        // Its length in as many bytes as there is room for, up to eight.
        var sizeLength = Math.Min(8, element.Length - 1);
        Span<byte> size = stackalloc byte[8];
        BinaryPrimitives.WriteUInt64BigEndian(size, (ulong)(uint)(element.Length - 1 - sizeLength) | (1UL << (7 * sizeLength)));
        size[^sizeLength..].CopyTo(element[1..]);
    }
}
