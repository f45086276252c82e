using System.Buffers.Binary;
using System.Security.Cryptography;

namespace Fenster.Formats.Sounds;

/// <summary>A sound, a video or captions made ready to be stored: without what other programs wrote beside it.</summary>
/// <param name="Hash">SHA-256 of the bytes that were given, 64 lower-case hexadecimal digits.</param>
/// <param name="Extension">Without a dot: <c>mp3</c>, <c>ogg</c>, <c>wav</c>, <c>m4a</c>, <c>mp4</c>, <c>webm</c> or <c>vtt</c>.</param>
public sealed record PreparedSound(string Hash, string Extension, byte[] Bytes);

/// <summary>A file that can't become a sound. The message is a sentence for the teacher.</summary>
public sealed class SoundRefused(string message) : Exception(message);

/// <summary>Takes sounds in: MP3, Ogg, WAV, M4A and WebM, told apart by their content.</summary>
public static class SoundReader
{
    public const int MostBytes = 20 * 1024 * 1024;

    private const string WayOut = "Fenster takes MP3, OGG, WAV, M4A and WebM sounds.";

    /// <param name="bytes">Taken over: they may be changed.</param>
    /// <exception cref="SoundRefused">The bytes are no such sound, cut off, or too large.</exception>
    public static PreparedSound Read(byte[] bytes)
    {
        if (bytes.Length == 0)
            throw new SoundRefused("The file is empty. Choose another one.");
        if (bytes.Length > MostBytes)
            throw new SoundRefused(
                $"The file is larger than {MostBytes / (1024 * 1024)} MB, the most a sound may have. Cut it shorter and try again."
            );
        var hash = HashOf(bytes);
        var (extension, clean) = Kind(bytes) switch
        {
            "mp3" => ("mp3", WithoutTags(bytes)),
            "wav" => ("wav", OnlyWave(bytes)),
            "m4a" => ("m4a", WithoutUserData(bytes)),
            "webm" => ("webm", WithoutWords(bytes)),
            "ogg" => (
                "ogg",
                OggCleaner.Blank(bytes)
                    ? bytes
                    : throw new SoundRefused("The sound is cut off or damaged. Copy it again from where it came.")
            ),
            _ => throw new SoundRefused($"This is not a sound that Fenster can read, or it is damaged. {WayOut}"),
        };
        return new(hash, extension, clean);
    }

    public const int MostVideoBytes = 200 * 1024 * 1024;

    /// <summary>Takes videos in: MP4 and WebM, told apart by their content.</summary>
    /// <param name="bytes">Taken over: they may be changed.</param>
    /// <exception cref="SoundRefused">The bytes are no such video, cut off, or too large.</exception>
    public static PreparedSound ReadVideo(byte[] bytes)
    {
        if (bytes.Length == 0)
            throw new SoundRefused("The file is empty. Choose another one.");
        if (bytes.Length > MostVideoBytes)
            throw new SoundRefused(
                $"The file is larger than {MostVideoBytes / (1024 * 1024)} MB, the most a video may have. Cut it shorter and try again."
            );
        var hash = HashOf(bytes);
        var (extension, clean) = Kind(bytes) switch
        {
            "m4a" => ("mp4", WithoutUserData(bytes)),
            "webm" => ("webm", WithoutWords(bytes)),
            _ => throw new SoundRefused("This is not a video that Fenster can read, or it is damaged. Fenster takes MP4 and WebM videos."),
        };
        return new(hash, extension, clean);
    }

    private static string HashOf(byte[] bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    private static string? Kind(ReadOnlySpan<byte> bytes) =>
        bytes switch
        {
            _ when bytes.Length < 16 => null,
            _ when bytes.StartsWith("ID3"u8) || (bytes[0] == 0xFF && (bytes[1] & 0xE6) is 0xE2) => "mp3",
            _ when bytes.StartsWith("OggS"u8) => "ogg",
            _ when bytes.StartsWith("RIFF"u8) && bytes[8..12].SequenceEqual("WAVE"u8) => "wav",
            _ when bytes[4..8].SequenceEqual("ftyp"u8) && !bytes[8..12].SequenceEqual("heic"u8) => "m4a",
            _ when bytes.StartsWith((ReadOnlySpan<byte>)[0x1A, 0x45, 0xDF, 0xA3]) => "webm",
            _ => null,
        };

    /// <summary>Without the ID3 tags before and behind an MP3, which tell of names and places.</summary>
    private static byte[] WithoutTags(byte[] bytes)
    {
        var (start, end) = (0, bytes.Length);
        // ID3v2: its length in four bytes of seven bits.
        if (bytes.AsSpan().StartsWith("ID3"u8))
            start = Math.Min(end, 10 + (bytes[6] << 21 | bytes[7] << 14 | bytes[8] << 7 | bytes[9]));
        if (end - start > 128 && bytes.AsSpan(end - 128).StartsWith("TAG"u8))
            end -= 128;
        return end - start > 100
            ? bytes[start..end]
            : throw new SoundRefused("There is no sound in this file, only its description. Choose another one.");
    }

    /// <summary>A WAV with nothing but its format and its samples.</summary>
    private static byte[] OnlyWave(byte[] bytes)
    {
        using var clean = new MemoryStream();
        clean.Write("RIFF\0\0\0\0WAVE"u8);
        var hasSamples = false;
        var at = 12;
        while (bytes.Length - at >= 8)
        {
            var chunk = bytes.AsSpan(at);
            var length = BinaryPrimitives.ReadUInt32LittleEndian(chunk[4..]);
            if (length > chunk.Length - 8)
                throw new SoundRefused("The sound is cut off: the file ends too early. Copy it again from where it came.");
            // A chunk of odd length has a byte behind it that counts for nothing.
            var whole = chunk[..Math.Min(chunk.Length, 8 + (int)length + (int)(length & 1))];
            var isSamples = chunk.StartsWith("data"u8);
            if (isSamples || chunk.StartsWith("fmt "u8) || chunk.StartsWith("fact"u8))
                clean.Write(whole);
            hasSamples |= isSamples;
            at += whole.Length;
        }
        if (!hasSamples)
            throw new SoundRefused("There is no sound in this file. Choose another one.");
        var file = clean.ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(file.AsSpan(4), (uint)file.Length - 8);
        return file;
    }

    private static byte[] WithoutWords(byte[] bytes)
    {
        WebMCleaner.Blank(bytes);
        return bytes;
    }

    /// <summary>
    /// An M4A whose user data, such as the place where it was recorded, is blanked in place: everything else stays where
    /// the file's tables say that it is.
    /// </summary>
    private static byte[] WithoutUserData(byte[] bytes)
    {
        Blank(bytes, 0, bytes.Length, depth: 0);
        return bytes;

        static void Blank(byte[] file, int start, int end, int depth)
        {
            var at = start;
            while (end - at >= 8)
            {
                ulong length = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(at));
                if (length == 0)
                    length = (ulong)(end - at);
                if (length == 1 && end - at >= 16)
                    length = BinaryPrimitives.ReadUInt64BigEndian(file.AsSpan(at + 8));
                if (length < 8 || length > (ulong)(end - at))
                    throw new SoundRefused("The sound is cut off or damaged. Copy it again from where it came.");
                var type = file.AsSpan(at + 4, 4);
                if (type.SequenceEqual("udta"u8) || type.SequenceEqual("meta"u8))
                {
                    "free"u8.CopyTo(type);
                    file.AsSpan(at + 8, (int)length - 8).Clear();
                }
                else if (depth < 4 && (type.SequenceEqual("moov"u8) || type.SequenceEqual("trak"u8)))
                {
                    Blank(file, at + 8, at + (int)length, depth + 1);
                }
                at += (int)length;
            }
        }
    }
}
