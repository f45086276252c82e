using System.Buffers.Binary;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Testing;
using SkiaSharp;

namespace Fenster.Web.Tests;

/// <summary>
/// Odd and hostile files sent to a running server, several at once: each becomes a picture or gets a sentence, and the server stays
/// small and whole.
/// </summary>
public sealed partial class OddUploadsTests
{
    /// <summary>Bytes of memory that the server may ever hold.</summary>
    private const long MostMemory = 500L * 1024 * 1024;

    private static IEnumerable<(string Name, string Path, byte[] Bytes)> Corpus()
    {
        var photograph = Photograph(7300, 5470);
        yield return ("a photograph of 40 megapixels, lying on its side", "/pictures", Sideways(photograph));
        yield return ("the same, cut off", "/pictures", photograph[..(photograph.Length / 2)]);
        yield return ("a picture of 40 megapixels that is hardly a file", "/pictures", OddFiles.Png(6300, 6300, isWhole: true));
        yield return ("the same as a label", "/pictures?label=true", OddFiles.Png(6300, 6300, isWhole: true));
        yield return ("a picture of 900 megapixels", "/pictures", OddFiles.Png(30_000, 30_000, isWhole: false));
        yield return ("a picture that ends where it begins", "/pictures", OddFiles.Png(3000, 3000, isWhole: false));
        yield return ("a moving picture of 4295 megapixels", "/pictures", Gif(65_535, 65_535, frames: 2));
        yield return ("a moving picture of 5000 large frames", "/pictures", Gif(5000, 5000, frames: 5000));
        yield return (
            "a drawing that uses itself a hundred million times",
            "/pictures",
            Drawing(
                string.Concat(
                    Enumerable
                        .Range(1, 8)
                        .Select(i => $"<g id='n{i}'>{string.Concat(Enumerable.Repeat($"<use href='#n{i - 1}'/>", 10))}</g>")
                ) + "<circle id='n0' r='1'/>"
            )
        );
        yield return (
            "a drawing with a picture of 900 megapixels in it",
            "/pictures",
            Drawing(
                "<image width='9' height='9' "
                    + $"href='data:image/png;base64,{Convert.ToBase64String(OddFiles.Png(30_000, 30_000, isWhole: false))}'/><circle r='3'/>"
            )
        );
        yield return (
            "a drawing of entities",
            "/pictures",
            [.. "<!DOCTYPE svg [<!ENTITY a 'aaaa'><!ENTITY b '&a;&a;&a;'>]>"u8, .. Drawing("<text>&b;</text>")]
        );
        yield return ("a drawing of ten million brackets", "/pictures", Encoding.UTF8.GetBytes(new string('<', 10_000_000)));
        yield return ("nothing", "/pictures", []);
        yield return ("one byte", "/pictures", [0xFF]);
        yield return ("words", "/pictures", "Just some words."u8.ToArray());
        yield return ("a PDF", "/pictures", "%PDF-1.7 and so on"u8.ToArray());
        yield return ("a photograph whose metadata is nonsense", "/pictures", Sideways(Photograph(300, 200), orientation: 77));
        yield return ("a picture with a web page behind it", "/pictures", [.. Photograph(300, 200), .. "<script>alert(1)</script>"u8]);
        yield return ("a picture as a sound", "/sounds", Photograph(300, 200));
        yield return ("a sound of a length that no file has", "/sounds", [.. "RIFF\0\0\0\0WAVEdata"u8, 0xFF, 0xFF, 0xFF, 0xFF, 1, 2, 3]);
        yield return ("more than a picture may have", "/pictures", new byte[51 * 1024 * 1024]);
        yield return (
            "as large a video as there may be",
            "/videos",
            [.. new byte[] { 0, 0, 0, 16 }, .. "ftypisom\0\0\0\0"u8, .. Box("mdat", 200 * 1024 * 1024 - 16)]
        );
        yield return (
            "a video of parts that don't fit",
            "/videos",
            [.. new byte[] { 0, 0, 0, 16 }, .. "ftypisom\0\0\0\0"u8, 0x7F, 0xFF, 0xFF, 0xFF, .. "moov"u8, 0, 0]
        );
        yield return ("captions of noise", "/captions", [.. "WEBVTT\n\n"u8, 0xFF, 0xFE, 0xFD, .. "-->-->"u8]);
    }

    [Fact]
    public async Task Each_becomes_a_picture_or_gets_a_sentence_in_little_memory_and_nothing_is_left_half_done()
    {
        using var server = new RunningFenster(demo: false);
        using var teacher = new Visitor(server.Address);
        await teacher.Get("/first-run");
        await teacher.Post(
            "/first-run",
            ("Words", server.FirstWords),
            ("Name", "T"),
            ("Email", "t@school.example"),
            ("Password", "long enough")
        );
        await Parallel.ForEachAsync(Corpus(), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (file, _) =>
        {
            var answer = await teacher.PostAsScript(file.Path, new ByteArrayContent(file.Bytes));
            var body = await answer.Content.ReadAsStringAsync();
            Assert.True(
                answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.UnprocessableEntity,
                $"{file.Name}: {answer.StatusCode} {body}"
            );
            if (answer.StatusCode == HttpStatusCode.OK)
                return;
            Assert.True(
                JsonSerializer.Deserialize<JsonElement>(body).GetProperty("error").GetString()!.EndsWith('.'),
                $"{file.Name}: {body}"
            );
        });
        Assert.InRange(server.PeakMemory, 0, MostMemory);
        Assert.All(Directory.EnumerateFiles(Path.Combine(server.Data, "media"), "*", SearchOption.AllDirectories), file =>
            Assert.Matches(WholeFile(), Path.GetFileName(file))
        );
        Assert.Equal(HttpStatusCode.OK, (await teacher.Get("/activities")).StatusCode);
    }

    [GeneratedRegex(@"^(original|\d+\.[a-z0-9]+)$")]
    private static partial Regex WholeFile();

    private static byte[] Photograph(int width, int height)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        using (var canvas = new SKCanvas(bitmap))
        using (var paint = new SKPaint { Shader = SKShader.CreatePerlinNoiseTurbulence(0.02f, 0.03f, 2, 7) })
        {
            canvas.Clear(SKColors.SlateGray);
            canvas.DrawRect(0, 0, Math.Min(width, 1500), Math.Min(height, 1500), paint);
        }
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 85);
        return data.ToArray();
    }

    /// <summary>With an EXIF segment (EXIF 2.32, tag 0x0112) that says which way is up.</summary>
    private static byte[] Sideways(byte[] jpeg, byte orientation = 6)
    {
        byte[] exif = [.. "Exif\0\0MM"u8, 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0, 0, 0, 0, 0];
        return [.. jpeg[..2], 0xFF, 0xE1, 0, (byte)(exif.Length + 2), .. exif, .. jpeg[2..]];
    }

    /// <summary>A GIF, by the letter of GIF89a, whose frames are a pixel each on a canvas of any size.</summary>
    private static byte[] Gif(ushort width, ushort height, int frames)
    {
        byte[] frame = [0x21, 0xF9, 4, 0, 1, 0, 0, 0, 0x2C, 0, 0, 0, 0, 1, 0, 1, 0, 0, 2, 2, 0x44, 1, 0];
        return
        [
            .. "GIF89a"u8,
            (byte)width,
            (byte)(width >> 8),
            (byte)height,
            (byte)(height >> 8),
            0x80,
            0,
            0,
            255,
            0,
            0,
            0,
            0,
            0,
            .. Enumerable.Repeat(frame, frames).SelectMany(bytes => bytes),
            0x3B,
        ];
    }

    private static byte[] Drawing(string inside) =>
        Encoding.UTF8.GetBytes($"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 50'>{inside}</svg>");

    /// <summary>A part of an MP4 file: its length, its name, and zeros.</summary>
    private static byte[] Box(string type, int length)
    {
        var box = new byte[length];
        BinaryPrimitives.WriteInt32BigEndian(box, length);
        Encoding.ASCII.GetBytes(type).CopyTo(box, 4);
        return box;
    }
}
