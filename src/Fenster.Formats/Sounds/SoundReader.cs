using System.Buffers.Binary;
using System.Security.Cryptography;
using Fenster.Core.Model;

namespace Fenster.Formats.Sounds;

/// <summary>A sound, a video or captions made ready to be stored: without what other programs wrote beside it.</summary>
/// <param name="Hash">SHA-256 of the bytes that were given, 64 lower-case hexadecimal digits.</param>
/// <param name="Extension">Without a dot: <c>mp3</c>, <c>ogg</c>, <c>wav</c>, <c>m4a</c>, <c>mp4</c>, <c>webm</c> or <c>vtt</c>.</param>
public sealed record PreparedSound(string Hash, string Extension, byte[] Bytes);

/// <summary>A file that can't become a sound. The message is a sentence for the teacher.</summary>
public sealed class SoundRefused(Said said) : SaidException(said);

/// <summary>Takes sounds in: MP3, Ogg, WAV, M4A and WebM, told apart by their content.</summary>
public static class SoundReader
{
    public const int MostBytes = 20 * 1024 * 1024;

    /// <param name="bytes">Taken over: they may be changed.</param>
    /// <exception cref="SoundRefused">The bytes are no such sound, cut off, or too large.</exception>
    public static PreparedSound Read(byte[] bytes)
    {
        if (bytes.Length == 0)
            throw new SoundRefused(new("file.empty"));
        if (bytes.Length > MostBytes)
            throw new SoundRefused(new("sound.tooLarge", ("most", MostBytes / (1024 * 1024))));
        var hash = HashOf(bytes);
        var (extension, clean) = Kind(bytes) switch
        {
            "mp3" => ("mp3", WithoutTags(bytes)),
            "wav" => ("wav", OnlyWave(bytes)),
            "m4a" => ("m4a", WithoutUserData(bytes)),
            "webm" => ("webm", WithoutWords(bytes)),
            "ogg" => ("ogg", OggCleaner.Blank(bytes) && IsOggSound(bytes) ? bytes : throw new SoundRefused(new("sound.damaged"))),
            _ => throw new SoundRefused(new("sound.unknown")),
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
            throw new SoundRefused(new("file.empty"));
        if (bytes.Length > MostVideoBytes)
            throw new SoundRefused(new("sound.videoTooLarge", ("most", MostVideoBytes / (1024 * 1024))));
        var hash = HashOf(bytes);
        var (extension, clean) = Kind(bytes) switch
        {
            "m4a" => ("mp4", WithoutUserData(bytes)),
            "webm" => ("webm", WithoutWords(bytes)),
            _ => throw new SoundRefused(new("sound.unknownVideo")),
        };
        return new(hash, extension, clean);
    }

    /// <summary>Whether the first packet of an Ogg file is that of a sound: Vorbis, Opus, FLAC or Speex.</summary>
    private static bool IsOggSound(ReadOnlySpan<byte> file)
    {
        var packet = file[Math.Min(file.Length, 27 + file[26])..];
        return packet.StartsWith("\u0001vorbis"u8)
            || packet.StartsWith("OpusHead"u8)
            || packet.StartsWith("\u007FFLAC"u8)
            || packet.StartsWith("Speex   "u8);
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

    /// <summary>An MP3 without the tags that tell of names and places.</summary>
    private static byte[] WithoutTags(byte[] bytes)
    {
        // ID3v2, whose pictures may look like frames: its length in four bytes of seven bits.
        var start = bytes.AsSpan().StartsWith("ID3"u8)
            ? Math.Min(bytes.Length, 10 + (bytes[6] << 21 | bytes[7] << 14 | bytes[8] << 7 | bytes[9]))
            : 0;
        return Mp3Cleaner.Frames(bytes.AsSpan(start)) is { Length: > 0 } frames
            ? frames
            : throw new SoundRefused(new("sound.onlyDescription"));
    }

    /// <summary>A WAV with nothing but its format and its samples.</summary>
    private static byte[] OnlyWave(byte[] bytes)
    {
        using var clean = new MemoryStream();
        clean.Write("RIFF\0\0\0\0WAVE"u8);
        var (hasFormat, hasSamples) = (false, false);
        var at = 12;
        while (bytes.Length - at >= 8)
        {
            var chunk = bytes.AsSpan(at);
            var length = BinaryPrimitives.ReadUInt32LittleEndian(chunk[4..]);
            if (length > chunk.Length - 8)
                throw new SoundRefused(new("sound.cutOff"));
            // A chunk of odd length has a byte behind it that counts for nothing.
            var whole = chunk[..Math.Min(chunk.Length, 8 + (int)length + (int)(length & 1))];
            var isSamples = chunk.StartsWith("data"u8);
            if (chunk.StartsWith("fmt "u8) && !IsFormat(whole[8..]))
                throw new SoundRefused(new("sound.unknown"));
            hasFormat |= chunk.StartsWith("fmt "u8);
            if (isSamples || chunk.StartsWith("fmt "u8) || chunk.StartsWith("fact"u8))
                clean.Write(whole);
            hasSamples |= isSamples && length > 0;
            at += whole.Length;
        }
        if (!hasFormat || !hasSamples)
            throw new SoundRefused(new("sound.none"));
        var file = clean.ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(file.AsSpan(4), (uint)file.Length - 8);
        return file;
    }

    /// <summary>Whether a format is of samples that are known: integers, floats, A-law, µ-law or the extensible form.</summary>
    private static bool IsFormat(ReadOnlySpan<byte> format) =>
        format.Length >= 16
        && BinaryPrimitives.ReadUInt16LittleEndian(format) is 1 or 3 or 6 or 7 or 0xFFFE
        && BinaryPrimitives.ReadUInt16LittleEndian(format[2..]) is >= 1 and <= 16
        && BinaryPrimitives.ReadUInt32LittleEndian(format[4..]) is >= 1000 and <= 400_000;

    private static byte[] WithoutWords(byte[] bytes)
    {
        // The number of a segment, in which all that is heard or seen lies.
        if (bytes.AsSpan().IndexOf((ReadOnlySpan<byte>)[0x18, 0x53, 0x80, 0x67]) < 0)
            throw new SoundRefused(new("sound.damaged"));
        WebMCleaner.Blank(bytes);
        return bytes;
    }

    /// <summary>
    /// An M4A whose user data, such as the place where it was recorded, is blanked in place: everything else stays where
    /// the file's tables say that it is.
    /// </summary>
    private static byte[] WithoutUserData(byte[] bytes)
    {
        var (hasIndex, hasContent) = (false, false);
        Blank(bytes, 0, bytes.Length, depth: 0);
        return hasIndex && hasContent ? bytes : throw new SoundRefused(new("sound.nothing"));

        void Blank(byte[] file, int start, int end, int depth)
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
                    throw new SoundRefused(new("sound.damaged"));
                var type = file.AsSpan(at + 4, 4);
                hasIndex |= type.SequenceEqual("moov"u8);
                hasContent |= type.SequenceEqual("mdat"u8) || type.SequenceEqual("moof"u8);
                if (type.SequenceEqual("udta"u8) || type.SequenceEqual("meta"u8) || type.SequenceEqual("uuid"u8))
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
