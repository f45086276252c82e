namespace Fenster.Formats.Pictures;

/// <summary>
/// Takes comments and other programs' data out of a GIF and keeps what moves: its frames, their timing and how often they
/// repeat. Source: the GIF89a specification (1990), with the repeat block that browsers know.
/// </summary>
internal static class GifCleaner
{
    /// <summary>The cleaned file; null when it is not whole.</summary>
    public static byte[]? Clean(ReadOnlySpan<byte> gif)
    {
        if (gif.Length < 14)
            return null;
        using var clean = new MemoryStream();
        var at = 13 + TableSize(gif[10]);
        if (at > gif.Length)
            return null;
        clean.Write(gif[..at]);
        while (at < gif.Length)
        {
            switch (gif[at])
            {
                case 0x3B:
                    clean.WriteByte(0x3B);
                    return clean.ToArray();
                case 0x2C when at + 10 < gif.Length:
                    var end = SkipBlocks(gif, at + 10 + TableSize(gif[at + 9]) + 1);
                    if (end < 0)
                        return null;
                    clean.Write(gif[at..end]);
                    at = end;
                    break;
                case 0x21 when at + 2 < gif.Length:
                    var after = SkipBlocks(gif, at + 2);
                    if (after < 0)
                        return null;
                    var isTiming = gif[at + 1] == 0xF9;
                    var isRepeat = gif[at + 1] == 0xFF && gif[at..after].IndexOf("NETSCAPE2.0"u8) == 3;
                    if (isTiming || isRepeat)
                        clean.Write(gif[at..after]);
                    at = after;
                    break;
                default:
                    return null;
            }
        }
        return null;
    }

    /// <summary>Bytes of a colour table by the flags that tell of it.</summary>
    private static int TableSize(byte flags) => (flags & 0x80) == 0 ? 0 : 3 << ((flags & 7) + 1);

    /// <summary>Where a chain of data blocks ends; −1 when it does not.</summary>
    private static int SkipBlocks(ReadOnlySpan<byte> gif, int at)
    {
        while (at < gif.Length)
        {
            if (gif[at] == 0)
                return at + 1;
            at += gif[at] + 1;
        }
        return -1;
    }
}
