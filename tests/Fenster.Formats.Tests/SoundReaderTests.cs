using System.Buffers.Binary;
using System.Text;
using Fenster.Formats.Sounds;

namespace Fenster.Formats.Tests;

public sealed class SoundReaderTests
{
    private const string Secret = "recorded at home";

    private static byte[] Chunk(string type, byte[] body)
    {
        var length = new byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(length, body.Length);
        return [.. Encoding.ASCII.GetBytes(type), .. length, .. body];
    }

    /// <summary>A tenth of a second of a tone, with a comment in its file.</summary>
    internal static byte[] Wave()
    {
        byte[] format = [1, 0, 1, 0, 0x40, 0x1F, 0, 0, 0x80, 0x3E, 0, 0, 2, 0, 16, 0];
        var samples = new byte[1600];
        for (var i = 0; i < 800; i++) BinaryPrimitives.WriteInt16LittleEndian(samples.AsSpan(2 * i), (short)(8000 * Math.Sin(i * 0.35)));
        byte[] inside = [.. "WAVE"u8, .. Chunk("fmt ", format), .. Chunk("LIST", Encoding.ASCII.GetBytes(Secret)), .. Chunk("data", samples)];
        return Chunk("RIFF", inside);
    }

    private static byte[] Atom(string type, byte[] body)
    {
        var length = new byte[4];
        BinaryPrimitives.WriteInt32BigEndian(length, body.Length + 8);
        return [.. length, .. Encoding.ASCII.GetBytes(type), .. body];
    }

    public static TheoryData<string, byte[]> Sounds => new()
    {
        { "wav", Wave() },
        { "mp3", [.. "ID3"u8, 4, 0, 0, 0, 0, 0, (byte)Secret.Length, .. Encoding.ASCII.GetBytes(Secret), 0xFF, 0xFB, .. new byte[400], .. "TAG"u8, .. Encoding.ASCII.GetBytes(Secret.PadRight(125))] },
        { "ogg", [.. "OggS"u8, .. new byte[100]] },
        { "webm", [0x1A, 0x45, 0xDF, 0xA3, .. new byte[100]] },
        { "m4a", [.. Atom("ftyp", "M4A isom"u8.ToArray()), .. Atom("moov", [.. Atom("mvhd", new byte[20]), .. Atom("udta", Encoding.ASCII.GetBytes(Secret))]), .. Atom("mdat", new byte[60])] },
    };

    [Theory, MemberData(nameof(Sounds))]
    public void A_sound_is_told_by_its_content_and_loses_what_others_wrote_beside_it(string extension, byte[] bytes)
    {
        var sound = SoundReader.Read(bytes);
        Assert.Equal(extension, sound.Extension);
        Assert.DoesNotContain(Secret, Encoding.Latin1.GetString(sound.Bytes));
        Assert.Equal(extension, SoundReader.Read(sound.Bytes).Extension);
    }

    [Fact]
    public void The_samples_of_a_wave_stay_and_its_length_is_right()
    {
        var clean = SoundReader.Read(Wave()).Bytes;
        Assert.Equal(clean.Length - 8, BinaryPrimitives.ReadInt32LittleEndian(clean.AsSpan(4)));
        Assert.Equal(Wave()[^1600..], clean[^1600..]);
    }

    [Fact]
    public void Blanked_user_data_leaves_everything_else_in_its_place()
    {
        var bytes = (byte[])((object[])Sounds.Last())[1];
        var clean = SoundReader.Read(bytes).Bytes;
        Assert.Equal(bytes.Length, clean.Length);
        Assert.Equal(bytes[^60..], clean[^60..]);
    }

    public static TheoryData<string, byte[]> NoSounds => new()
    {
        { "empty", [] },
        { "not a sound", "Just some words, and many of them."u8.ToArray() },
        { "not a sound", [0x89, .. "PNG\r\n\u001a\n"u8, .. new byte[40]] },
        { "not a sound", [0, 0, 0, 24, .. "ftypheic"u8, .. new byte[40]] },
        { "cut off", Wave()[..900] },
        { "no sound in this file", Chunk("RIFF", [.. "WAVE"u8, .. Chunk("LIST", new byte[40])]) },
        { "only its description", [.. "ID3"u8, 4, 0, 0, 0, 0, 7, 127, .. new byte[50]] },
        { "cut off or damaged", [.. Atom("ftyp", "M4A isom"u8.ToArray()), 0, 0, 0, 1, .. "moov"u8, 0x7F, 0xFF, 0xFF, 0xFF, 0xFF, 0xFF, 0xFF, 0xF0, .. new byte[40]] },
        { "cut off or damaged", [.. Atom("ftyp", "M4A isom"u8.ToArray()), 0x7F, 0, 0, 0, .. "moov"u8] },
    };

    [Theory, MemberData(nameof(NoSounds))]
    public void What_is_no_sound_gets_a_sentence(string words, byte[] bytes) =>
        Assert.Contains(words, Assert.Throws<SoundRefused>(() => SoundReader.Read(bytes)).Message);

    [Fact]
    public void More_than_twenty_megabytes_are_refused_unread() =>
        Assert.Contains("20 MB", Assert.Throws<SoundRefused>(() => SoundReader.Read(new byte[SoundReader.MostBytes + 1])).Message);

    [Fact]
    public void Spoilt_sounds_never_do_worse_than_a_sentence()
    {
        var random = new Random(29);
        var samples = Sounds.Select(row => (byte[])((object[])row)[1]).ToList();
        for (var i = 0; i < 3000; i++)
        {
            var bytes = (byte[])samples[i % samples.Count].Clone();
            for (var n = 0; n < 4; n++) bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
            try
            {
                Assert.NotEmpty(SoundReader.Read(bytes[..random.Next(1, bytes.Length + 1)]).Bytes);
            }
            catch (SoundRefused refused)
            {
                Assert.EndsWith(".", refused.Message);
            }
        }
    }
}
