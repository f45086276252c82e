using System.IO.Compression;
using System.Text;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Testing;

namespace Fenster.Formats.Tests;

/// <summary>Formatted words, captions, videos, what boards bring along, and activities as single files.</summary>
public sealed class WritingAndBundleTests
{
    [Theory]
    [InlineData("Plain words, 2 > 1.", "Plain words, 2 > 1.")]
    [InlineData("<p class=\"ql-align-center\">Do <strong>this</strong>.</p>", "<p class=\"ql-align-center\">Do <strong>this</strong>.</p>")]
    [InlineData("<p onclick=\"x()\" style=\"color:red\" class=\"evil paper-sky\">A</p>", "<p class=\"paper-sky\">A</p>")]
    [InlineData("<script>alert(1)</script><p>A</p>", "<p>A</p>")]
    [InlineData("<img src=x onerror=alert(1)>A", "A")]
    [InlineData("<a href=\"javascript:alert(1)\">A</a>", "A")]
    [InlineData("<svg><script>alert(1)</script></svg><p>A</p>", "<p>A</p>")]
    [InlineData("<iframe src=\"https://tideford.example\">x</iframe><ol><li>A</li></ol>", "<ol><li>A</li></ol>")]
    [InlineData("<style>@import 'x'</style><em>A</em>", "<em>A</em>")]
    public void Only_what_formats_words_stays(string written, string clean)
    {
        Assert.Equal(clean, WritingCleaner.Clean(written));
        var activity = ActivityDocument.Read(ActivityDocument.Write(new Activity { Title = "T", Instructions = written }));
        Assert.Equal(clean, activity.Instructions);
    }

    [Fact]
    public void Captions_keep_their_cues_and_nothing_else()
    {
        var captions =
            "\uFEFFWEBVTT - by somebody\r\n\r\nSTYLE\r\n::cue { background: url(https://tideford.example/x) "
            + "}\r\n\r\nNOTE where I live\r\n\r\nfirst\r\n00:01.000 --> 00:04.500 align:start\r\nHello\r\n\r\n01:00:05.000 --> 01:00:06.000\r\nمرحبا\r\n";
        var kept = Encoding.UTF8.GetString(CaptionsReader.Read(Encoding.UTF8.GetBytes(captions)).Bytes);
        Assert.Equal("WEBVTT\n\nfirst\n00:01.000 --> 00:04.500 align:start\nHello\n\n01:00:05.000 --> 01:00:06.000\nمرحبا\n", kept);
    }

    [Theory]
    [InlineData("")]
    [InlineData("1\n00:00:01,000 --> 00:00:02,000\nHello")]
    [InlineData("WEBVTT\n\nNOTE nothing")]
    [InlineData("WEBVTT\n\n00:61.000 --> 00:62.000\nNo such second")]
    public void What_is_no_captions_gets_a_sentence(string text) =>
        Assert.EndsWith(".", Assert.Throws<SoundRefused>(() => CaptionsReader.Read(Encoding.UTF8.GetBytes(text))).Sentence);

    [Fact]
    public void A_video_is_told_by_its_content_and_loses_where_it_was_filmed()
    {
        byte[] Box(string type, params byte[] content) =>
            [
                .. BitConverter.GetBytes(System.Buffers.Binary.BinaryPrimitives.ReverseEndianness(8 + content.Length)),
                .. Encoding.ASCII.GetBytes(type),
                .. content,
            ];
        byte[] film =
        [
            .. Box("ftyp", "isom\0\0\0\0"u8.ToArray()),
            .. Box("moov", Box("udta", "+51.5-000.1/"u8.ToArray())),
            .. Box("mdat", 1, 2, 3),
        ];
        var video = SoundReader.ReadVideo(film);
        Assert.Equal("mp4", video.Extension);
        Assert.DoesNotContain("+51.5", Encoding.Latin1.GetString(video.Bytes));
        Assert.Equal(film.Length, video.Bytes.Length);
        foreach (
            var bad in (byte[][])
                [
                    [],
                    [1, 2, 3],
                    Encoding.ASCII.GetBytes("RIFF\0\0\0\0WAVEfmt "),
                    film[..(film.Length - 2)],
                ]
        )
            Assert.EndsWith(".", Assert.Throws<SoundRefused>(() => SoundReader.ReadVideo(bad)).Sentence);
    }

    [Fact]
    public void A_board_brings_its_scale_or_its_regions()
    {
        var (line, _) = Boards.Ready(new("numberLine", 0, 12, 1));
        // The first and the last mark of the drawn line, which is 1600 pixels wide.
        Assert.Equal(new Point(62.5, 125), line!.PointAt(0, 0));
        Assert.Equal(6, line.ValueAt(new(500, 125)).X, 9);
        var (axes, _) = Boards.Ready(new("axes", -5, 5, 1));
        Assert.Equal(-5, axes!.ValueAt(new(300 * 0.625, 1100 * 0.625)).X, 9);
        Assert.Equal(5, axes.ValueAt(new(300 * 0.625, 100 * 0.625)).Y, 9);
        var (_, circles) = Boards.Ready(new("circles", Names: ["Fish", "Bird", "Both"]));
        Assert.Equal(["Fish", "Bird", "Both"], circles.Select(region => region.Prompt));
        var (_, columns) = Boards.Ready(new("table", Names: ["A", "B", "C", "D"]));
        Assert.Equal(4, columns.Length);
        // Columns lie side by side within the board of 1000 by 625.
        Assert.All(columns.Cast<SortRegion>(), column =>
            Assert.True(column.Region.Bounds is { Left: >= 0, Right: <= 1000, Bottom: <= 625 })
        );
        Assert.Empty(
            Soundness.Faults(
                new Activity
                {
                    Title = "T",
                    Panes =
                    [
                        new Pane
                        {
                            Id = "p",
                            Scale = axes,
                            Targets = columns,
                        },
                    ],
                }
            )
        );
        Assert.Equal((null, 0), (Boards.Ready(new("squared")).Scale, Boards.Ready(new("squared")).Regions.Length));
    }

    [Fact]
    public void A_bundle_comes_back_as_it_went_and_its_files_can_be_renamed()
    {
        var hash = new string('a', 64);
        var bundle = new Bundle($$"""{"media":"{{hash}}"}""", [new(hash, "png", [1, 2, 3])]);
        using var stream = new MemoryStream();
        bundle.Write(stream);
        using var back = new BundleReader(stream);
        Assert.Equal(bundle.Document, back.Document);
        Assert.Equal([1, 2, 3], back.File(Assert.Single(back.Hashes)).Bytes);
        Assert.Equal([hash], Bundle.HashesIn(back.Document));
        Assert.Equal("""{"media":"new"}""", Bundle.Renamed(back.Document, new Dictionary<string, string> { [hash] = "new" }));
    }

    private static byte[] Zip(params (string Name, byte[] Bytes)[] entries)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, bytes) in entries)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }
        return stream.ToArray();
    }

    [Fact]
    public void A_hostile_bundle_gets_a_sentence_and_names_are_never_paths()
    {
        static BundleReader Open(byte[] bytes) => new(new MemoryStream(bytes));
        Assert.EndsWith(".", Assert.Throws<BundleRefused>(() => Open([1, 2, 3])).Sentence);
        Assert.Contains("activity.json", Assert.Throws<BundleRefused>(() => Open(Zip(("other.txt", [1])))).Sentence);
        Assert.Contains(
            "up to 1000",
            Assert.Throws<BundleRefused>(() => Open(Zip([.. Enumerable.Range(0, 1001).Select(i => ($"f{i}", new byte[] { 1 }))]))).Sentence
        );
        using var escaping = Open(
            Zip(("activity.json", "{}"u8.ToArray()), ("../../etc/passwd", [1]), ("media/../x.png", [1]), ("media/abc.png", [1]))
        );
        Assert.Empty(escaping.Hashes);
        // Unpacks to more than half a gigabyte from half a megabyte, of which memory never holds more than one file.
        using var bomb = Open(
            Zip([
                ("activity.json", "{}"u8.ToArray()),
                .. Enumerable.Range(0, 6).Select(i => ($"media/{new string((char)('0' + i), 64)}.png", new byte[100 * 1024 * 1024])),
            ])
        );
        Assert.Contains(
            "unpacks to more than",
            Assert.Throws<BundleRefused>(() => bomb.Hashes.ToList().ForEach(hash => bomb.File(hash))).Sentence
        );
        Assert.Contains(
            "more than 8 MB",
            Assert.Throws<BundleRefused>(() => Open(Zip(("activity.json", new byte[9 * 1024 * 1024])))).Sentence
        );
        using var huge = Open(Zip(("activity.json", "{}"u8.ToArray()), ($"media/{new string('a', 64)}.mp4", new byte[201 * 1024 * 1024])));
        Assert.Contains("more than 200 MB", Assert.Throws<BundleRefused>(() => huge.File(new string('a', 64))).Sentence);
    }
}
