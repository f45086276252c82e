using System.Buffers.Binary;
using System.Text;
using Fenster.Formats.Sounds;
using Fenster.Testing;

namespace Fenster.Formats.Tests;

public sealed class SoundReaderTests
{
    private const string Secret = "recorded at home";

    // Made with a general-purpose converter: a short tone with a title, and of the second a comment too.
    private const string Ogg =
        "T2dnUwACAAAAAAAAAAAb33aOAAAAACINxSgBE09wdXNIZWFkAQE4AUAfAAAAAABPZ2dTAAAAAAAAAAAAABvfdo4BAAAAkwSqsQFYT3B1c1RhZ3MNAAAATGF2ZjU5LjI3LjEwMAIAAAAdAAAAZW5jb2Rlcj1MYXZjNTkuMzcuMTAwIGxpYm9wdXMWAAAAdGl0bGU9cmVjb3JkZWQgYXQgaG9tZU9nZ1MABFgdAAAAAAAAG992jgIAAADpF4eyCBgTFBMRFRETCIKIkCsPH5dYUPdI3htz3N/TKidZlDk1CKNA6AM8NKJCk/Crnndf+DM/OAidX7B3MqpeTa+RBE+WbfiWiinoCJ1fsHcyqly1ZDTK4DgBfaVN3AidX7B3MqpWm5nS70BrY5x+CJ1zoD3q5puxFRc2UmSZuMeWeYOACJ1fsHcyqlZPoD4T+GymHIAInbCxgTgAa+XbuAAXLyepksC0";
    private const string WebM =
        "GkXfo59ChoEBQveBAULygQRC84EIQoKEd2VibUKHgQRChYECGFOAZwEAAAAAAALsEU2bdLpNu4tTq4QVSalmU6yBoU27i1OrhBZUrmtTrIHrTbuMU6uEElTDZ1OsggFVTbuMU6uEHFO7a1OsggLW7AEAAAAAAABZAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAVSalmxSrXsYMPQkB7qZByZWNvcmRlZCBhdCBob21lTYCNTGF2ZjU5LjI3LjEwMFdBjUxhdmY1OS4yNy4xMDBEiYhAY8AAAAAAABZUrmvlrgEAAAAAAABc14EBc8WIYSkKTKl0rlScgQAitZyDdW5kiIEAhoZBX09QVVNWqoMQh8VWu4QExLQAg4EC4ZGfgQG1iEC/QAAAAAAAYmSBEGOik09wdXNIZWFkAQE4AUAfAAAAAAASVMNnQJ5zc8BjwIBnyJ1Fo4dDT01NRU5URIeQcmVjb3JkZWQgYXQgaG9tZWfImkWjh0VOQ09ERVJEh41MYXZmNTkuMjcuMTAwc3PYY8CLY8WIYSkKTKl0rlRnyKJFo4dFTkNPREVSRIeVTGF2YzU5LjM3LjEwMCBsaWJvcHVzZ8iiRaOIRFVSQVRJT05Eh5QwMDowMDowMC4xNTgwMDAwMDAAAB9DtnVA1+eBAKOcgQAAgAiCiJArDx+XWFD3SN4bc9zf0yonWZQ5NaOXgQAVgAijQOgDPDSiQpPwq553X/gzPzijmIEAKYAInV+wdzKqXk2vkQRPlm34loop6KOXgQA9gAidX7B3MqpctWQ0yuA4AX2lTdyjlYEAUYAInV+wdzKqVpuZ0u9Aa2OcfqOZgQBlgAidc6A96uabsRUXNlJkmbjHlnmDgKOVgQB5gAidX7B3MqpWT6A+E/hsphyAoJ+hl4EAjQAInbCxgTgAa+XbuAAXLyepksC0daKDNWfgHFO7a5G7j7OBALeK94EB8YIB+fCBAw==";

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
        for (var i = 0; i < 800; i++)
            BinaryPrimitives.WriteInt16LittleEndian(samples.AsSpan(2 * i), (short)(8000 * Math.Sin(i * 0.35)));
        byte[] inside =
        [
            .. "WAVE"u8,
            .. Chunk("fmt ", format),
            .. Chunk("LIST", Encoding.ASCII.GetBytes(Secret)),
            .. Chunk("data", samples),
        ];
        return Chunk("RIFF", inside);
    }

    /// <summary>Frames of an MP3: MPEG 1, layer III, 128 kilobits and 44 100 samples a second, of 417 bytes each.</summary>
    private static byte[] Frames(int count) =>
        [.. Enumerable.Range(0, count).SelectMany(_ => (byte[])[0xFF, 0xFB, 0x90, 0, .. new byte[413]])];

    private static byte[] Ape(string words)
    {
        byte[] Edge(uint flags) =>
            [
                .. "APETAGEX"u8,
                0xD0,
                7,
                0,
                0,
                (byte)(words.Length + 32),
                0,
                0,
                0,
                1,
                0,
                0,
                0,
                .. BitConverter.GetBytes(flags),
                .. new byte[8],
            ];
        return [.. Edge(0xA0000000), .. Encoding.ASCII.GetBytes(words), .. Edge(0x80000000)];
    }

    private static byte[] Atom(string type, byte[] body)
    {
        var length = new byte[4];
        BinaryPrimitives.WriteInt32BigEndian(length, body.Length + 8);
        return [.. length, .. Encoding.ASCII.GetBytes(type), .. body];
    }

    public static TheoryData<string, byte[]> Nonsense =>
        new()
        {
            { "an MP3's first bytes", [0xFF, 0xFB, 0x90, 0, .. Enumerable.Range(0, 4000).Select(i => (byte)(i * 7))] },
            { "an ID3 tag", [.. "ID3"u8, 4, 0, 0, 0, 0, 0, 9, .. Encoding.ASCII.GetBytes(new string('x', 4000))] },
            { "a wave without a format", Chunk("RIFF", [.. "WAVE"u8, .. Chunk("data", new byte[100])]) },
            { "a wave of no known samples", Chunk("RIFF", [.. "WAVE"u8, .. Chunk("fmt ", new byte[16]), .. Chunk("data", new byte[100])]) },
            { "an M4A without content", Atom("ftyp", "M4A isom"u8.ToArray()) },
            { "a WebM's first bytes", [0x1A, 0x45, 0xDF, 0xA3, .. new byte[200]] },
            { "an Ogg page of something else", [.. Convert.FromBase64String(Ogg)[..28], .. "NotASound"u8, .. new byte[200]] },
        };

    [Theory, MemberData(nameof(Nonsense))]
    public void What_only_begins_like_a_sound_is_none(string what, byte[] bytes)
    {
        var refused = Assert.Throws<SoundRefused>(() => SoundReader.Read(bytes));
        Assert.True(refused.Sentence.EndsWith('.'), what);
    }

    public static TheoryData<string, byte[]> Sounds =>
        new()
        {
            { "wav", Wave() },
            {
                "mp3",
                [
                    .. "ID3"u8,
                    4,
                    0,
                    0,
                    0,
                    0,
                    0,
                    (byte)Secret.Length,
                    .. Encoding.ASCII.GetBytes(Secret),
                    .. Frames(3),
                    // An APE tag as some programs write it, with its header and its footer.
                    .. Ape(Secret),
                    .. "TAG"u8,
                    .. Encoding.ASCII.GetBytes(Secret.PadRight(125)),
                ]
            },
            { "ogg", Convert.FromBase64String(Ogg) },
            { "webm", Convert.FromBase64String(WebM) },
            {
                "m4a",
                [
                    .. Atom("ftyp", "M4A isom"u8.ToArray()),
                    .. Atom(
                        "moov",
                        [
                            .. Atom("mvhd", new byte[20]),
                            .. Atom("udta", Encoding.ASCII.GetBytes(Secret)),
                            .. Atom("uuid", Encoding.ASCII.GetBytes(Secret)),
                        ]
                    ),
                    .. Atom("uuid", Encoding.ASCII.GetBytes($"an identifier of 16 {Secret}")),
                    .. Atom("mdat", new byte[60]),
                ]
            },
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
        var bytes = Sounds.Last().Data.Item2;
        var clean = SoundReader.Read([.. bytes]).Bytes;
        Assert.Equal(bytes.Length, clean.Length);
        Assert.Equal(bytes[^60..], clean[^60..]);
    }

    /// <summary>
    /// Worked out from the blanked page by a program of another kind, and found right by a general-purpose checker of Ogg files.
    /// </summary>
    private const uint BlankedChecksum = 3400152252;

    [Fact]
    public void A_blanked_page_has_the_checksum_that_others_give_it()
    {
        var clean = SoundReader.Read(Convert.FromBase64String(Ogg)).Bytes;
        var again = SoundReader.Read([.. clean]).Bytes;
        Assert.Equal(clean, again);
        Assert.Contains($"title={new string(' ', Secret.Length)}", Encoding.Latin1.GetString(clean));
        Assert.Equal(BlankedChecksum, BinaryPrimitives.ReadUInt32LittleEndian(clean.AsSpan(clean.AsSpan().IndexOf("OpusTags"u8) - 6)));
    }

    [Fact]
    public void An_element_that_goes_leaves_everything_behind_it_in_its_place()
    {
        var bytes = Convert.FromBase64String(WebM);
        var clean = SoundReader.Read([.. bytes]).Bytes;
        Assert.Equal(bytes.Length, clean.Length);
        var tracks = bytes.AsSpan().IndexOf((byte[])[0x16, 0x54, 0xAE, 0x6B]);
        Assert.Equal(bytes[tracks..(tracks + 60)], clean[tracks..(tracks + 60)]);
        Assert.DoesNotContain("COMMENT", Encoding.Latin1.GetString(clean));
    }

    public static TheoryData<string, byte[]> NoSounds =>
        new()
        {
            { "empty", [] },
            { "not a sound", "Just some words, and many of them."u8.ToArray() },
            { "not a sound", [0x89, .. "PNG\r\n\u001a\n"u8, .. new byte[40]] },
            { "not a sound", [0, 0, 0, 24, .. "ftypheic"u8, .. new byte[40]] },
            { "cut off", Wave()[..900] },
            { "no sound in this file", Chunk("RIFF", [.. "WAVE"u8, .. Chunk("LIST", new byte[40])]) },
            { "only its description", [.. "ID3"u8, 4, 0, 0, 0, 0, 7, 127, .. new byte[50]] },
            {
                "cut off or damaged",
                [
                    .. Atom("ftyp", "M4A isom"u8.ToArray()),
                    0,
                    0,
                    0,
                    1,
                    .. "moov"u8,
                    0x7F,
                    0xFF,
                    0xFF,
                    0xFF,
                    0xFF,
                    0xFF,
                    0xFF,
                    0xF0,
                    .. new byte[40],
                ]
            },
            { "cut off or damaged", [.. Atom("ftyp", "M4A isom"u8.ToArray()), 0x7F, 0, 0, 0, .. "moov"u8] },
        };

    [Theory, MemberData(nameof(NoSounds))]
    public void What_is_no_sound_gets_a_sentence(string words, byte[] bytes) =>
        Assert.Contains(words, Assert.Throws<SoundRefused>(() => SoundReader.Read(bytes)).Sentence);

    [Fact]
    public void More_than_twenty_megabytes_are_refused_unread() =>
        Assert.Contains("20 MB", Assert.Throws<SoundRefused>(() => SoundReader.Read(new byte[SoundReader.MostBytes + 1])).Sentence);

    [Fact]
    public void Spoilt_sounds_never_do_worse_than_a_sentence()
    {
        var random = new Random(29);
        var samples = Sounds.Select(row => row.Data.Item2).ToList();
        for (var i = 0; i < 3000; i++)
        {
            var bytes = (byte[])samples[i % samples.Count].Clone();
            for (var n = 0; n < 4; n++)
                bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
            try
            {
                Assert.NotEmpty(SoundReader.Read(bytes[..random.Next(1, bytes.Length + 1)]).Bytes);
            }
            catch (SoundRefused refused)
            {
                Assert.EndsWith(".", refused.Sentence);
            }
        }
    }
}
