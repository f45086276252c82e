namespace Fenster.Formats.Sounds;

/// <summary>
/// An MP3 with nothing but its frames: whatever tags other programs wrote before, between or behind them, which tell of names and
/// places, are left out. Frames are those of ISO/IEC 11172-3 and 13818-3, layer III. From memory.
/// </summary>
internal static class Mp3Cleaner
{
    private const int Header = 4;

    /// <summary>So many frames one after the other are a sound; fewer may be chance.</summary>
    private const int FewestFrames = 2;

    // In kilobits a second, by the four bits of a header.
    private static readonly int[] RatesOfOne = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 0];
    private static readonly int[] RatesOfTwo = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160, 0];
    private static readonly int[] Samples = [44_100, 48_000, 32_000, 0];

    /// <summary>The frames of the file; empty when it has too few to be a sound.</summary>
    public static byte[] Frames(ReadOnlySpan<byte> file)
    {
        using var frames = new MemoryStream(file.Length);
        var (count, at, end) = (0, 0, -1);
        while (at + Header <= file.Length)
        {
            var length = LengthOf(file[at..]);
            // One that another follows, or that follows another: two bytes alone may look like the beginning of one by chance.
            var isFrame = length > 0 && (at == end || (at + length + Header <= file.Length && LengthOf(file[(at + length)..]) > 0));
            if (!isFrame)
            {
                at++;
                continue;
            }
            // The last one may be cut off.
            var whole = Math.Min(length, file.Length - at);
            frames.Write(file.Slice(at, whole));
            count++;
            at = end = at + whole;
        }
        return count >= FewestFrames ? frames.ToArray() : [];
    }

    /// <summary>The bytes of the frame that begins here; 0 when none does.</summary>
    private static int LengthOf(ReadOnlySpan<byte> file)
    {
        if (file.Length < Header || file[0] != 0xFF || (file[1] & 0xE0) != 0xE0)
            return 0;
        var (version, layer) = (file[1] >> 3 & 3, file[1] >> 1 & 3);
        var (rate, samples) = (version == 3 ? RatesOfOne[file[2] >> 4] : RatesOfTwo[file[2] >> 4], Samples[file[2] >> 2 & 3]);
        if (version == 1 || layer != 1 || rate == 0 || samples == 0)
            return 0;
        samples >>= version switch
        {
            3 => 0,
            2 => 1,
            _ => 2,
        };
        return (version == 3 ? 144 : 72) * rate * 1000 / samples + (file[2] >> 1 & 1);
    }
}
