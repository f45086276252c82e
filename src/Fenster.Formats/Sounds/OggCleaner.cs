using System.Buffers.Binary;

namespace Fenster.Formats.Sounds;

/// <summary>
/// Blanks the comments of an Ogg file, which tell of names and places. Pages are those of RFC 3533, comments those of Vorbis I, section
/// 5, and RFC 7845 (Opus), section 5.2.
/// </summary>
internal static class OggCleaner
{
    private const int PageHeader = 27,
        Checksum = 22;

    /// <summary>In place: the texts become spaces, and the pages that they lie on get their checksums anew.</summary>
    /// <returns>Whether the file is made of whole pages.</returns>
    public static bool Blank(byte[] file)
    {
        // The bytes of each stream's second packet, which holds its comments, by where they lie in the file.
        var packets = new Dictionary<uint, int>();
        var comments = new Dictionary<uint, List<int>>();
        var pages = new List<(int Start, int Length, uint Stream)>();
        var at = 0;
        while (at < file.Length)
        {
            var page = file.AsSpan(at);
            if (page.Length < PageHeader || !page.StartsWith("OggS"u8) || page.Length < PageHeader + page[26])
                return false;
            var lacing = page.Slice(PageHeader, page[26]);
            var body = at + PageHeader + lacing.Length;
            var stream = BinaryPrimitives.ReadUInt32LittleEndian(page[14..]);
            var lies = body;
            foreach (var segment in lacing)
            {
                if (packets.GetValueOrDefault(stream) == 1)
                {
                    if (!comments.TryGetValue(stream, out var bytes))
                        comments[stream] = bytes = [];
                    bytes.AddRange(Enumerable.Range(lies, segment));
                }
                lies += segment;
                if (segment < 255)
                    packets[stream] = packets.GetValueOrDefault(stream) + 1;
            }
            if (lies > file.Length)
                return false;
            pages.Add((at, lies - at, stream));
            at = lies;
        }
        foreach (var bytes in comments.Values)
            BlankComments(file, bytes);
        foreach (var (start, length, stream) in pages)
            if (comments.TryGetValue(stream, out var bytes) && bytes.Count > 0 && start <= bytes[^1])
                Seal(file.AsSpan(start, length));
        return pages.Count > 0;
    }

    /// <summary>Every comment's text after its name and equals sign.</summary>
    /// <param name="packet">Where each byte of the packet lies in the file.</param>
    private static void BlankComments(byte[] file, List<int> packet)
    {
        bool Begins(ReadOnlySpan<byte> with)
        {
            for (var i = 0; i < with.Length; i++)
                if (i >= packet.Count || file[packet[i]] != with[i])
                    return false;
            return true;
        }
        var at =
            Begins("\u0003vorbis"u8) ? 7
            : Begins("OpusTags"u8) ? 8
            : int.MaxValue;
        long Number()
        {
            if (at > packet.Count - 4)
                return -1;
            var number = 0L;
            for (var i = 3; i >= 0; i--)
                number = number << 8 | file[packet[at + i]];
            at += 4;
            return number;
        }
        // Who wrote the program comes first, and stays.
        if (Number() is not (>= 0 and var vendor) || vendor > packet.Count - at)
            return;
        at += (int)vendor;
        for (var left = Number(); left > 0; left--)
        {
            if (Number() is not (>= 0 and var length) || length > packet.Count - at)
                return;
            var isText = false;
            for (var end = at + (int)length; at < end; at++)
            {
                if (isText)
                    file[packet[at]] = (byte)' ';
                isText |= file[packet[at]] == '=';
            }
        }
    }

    private static void Seal(Span<byte> page)
    {
        page.Slice(Checksum, 4).Clear();
        var crc = 0u;
        foreach (var part in page)
        {
            crc ^= (uint)part << 24;
            for (var bit = 0; bit < 8; bit++)
                crc = (crc & 0x80000000) != 0 ? crc << 1 ^ 0x04C11DB7 : crc << 1;
        }
        BinaryPrimitives.WriteUInt32LittleEndian(page[Checksum..], crc);
    }
}
