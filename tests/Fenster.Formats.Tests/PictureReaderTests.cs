using System.Text;
using Fenster.Formats.Pictures;
using Fenster.Testing;
using SkiaSharp;

namespace Fenster.Formats.Tests;

public sealed class PictureReaderTests
{
    /// <summary>A picture with a red left half and a blue right half.</summary>
    internal static byte[] TwoHalves(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.Blue);
            canvas.DrawRect(0, 0, width / 2f, height, new SKPaint { Color = SKColors.Red });
        }
        using var data = bitmap.Encode(format, 95);
        return data.ToArray();
    }

    private static SKColor Pixel(PictureFile file, double x, double y)
    {
        using var bitmap = SKBitmap.Decode(file.Bytes);
        return bitmap.GetPixel((int)(x * (bitmap.Width - 1)), (int)(y * (bitmap.Height - 1)));
    }

    private static bool IsRed(SKColor colour) => colour is { Red: > 200, Blue: < 60 };

    [Theory]
    [InlineData(SKEncodedImageFormat.Jpeg, "jpg")]
    [InlineData(SKEncodedImageFormat.Png, "webp")]
    [InlineData(SKEncodedImageFormat.Webp, "jpg")]
    public void A_picture_is_stored_in_the_sizes_that_screens_need(SKEncodedImageFormat format, string extension)
    {
        var picture = PictureReader.Read(TwoHalves(1200, 800, format));
        Assert.Equal((1200, 800), (picture.Width, picture.Height));
        Assert.Equal([480, 960, 1200], picture.Files.Select(file => file.Width));
        Assert.All(picture.Files, file =>
        {
            Assert.Equal(extension, file.Extension);
            Assert.True(IsRed(Pixel(file, 0.1, 0.5)));
            Assert.False(IsRed(Pixel(file, 0.9, 0.5)));
        });
    }

    [Fact]
    public void A_gif_is_read()
    {
        // A GIF of one red pixel, by the letter of GIF89a.
        byte[] gif = [.. "GIF89a"u8, 1, 0, 1, 0, 0x80, 0, 0, 255, 0, 0, 0, 0, 0, 0x2C, 0, 0, 0, 0, 1, 0, 1, 0, 0, 2, 2, 0x44, 1, 0, 0x3B];
        Assert.True(IsRed(Pixel(PictureReader.Read(gif).Files[0], 0, 0)));
    }

    [Theory]
    // EXIF 2.32, tag 0x0112: where the red left half of the stored rows comes to lie when the picture stands upright.
    [InlineData(1, 0.1, 0.5)]
    [InlineData(2, 0.9, 0.5)]
    [InlineData(3, 0.9, 0.5)]
    [InlineData(4, 0.1, 0.5)]
    [InlineData(5, 0.5, 0.1)]
    [InlineData(6, 0.5, 0.1)]
    [InlineData(7, 0.5, 0.9)]
    [InlineData(8, 0.5, 0.9)]
    public void A_photograph_is_turned_upright(byte orientation, double x, double y)
    {
        var picture = PictureReader.Read(WithOrientation(TwoHalves(120, 80, SKEncodedImageFormat.Jpeg), orientation));
        Assert.Equal(orientation >= 5 ? (80, 120) : (120, 80), (picture.Width, picture.Height));
        Assert.True(IsRed(Pixel(picture.Files[^1], x, y)));
        Assert.False(IsRed(Pixel(picture.Files[^1], 1 - x, 1 - y)));
    }

    /// <summary>A JPEG with an EXIF segment that holds an orientation and a description.</summary>
    internal static byte[] WithOrientation(byte[] jpeg, byte orientation)
    {
        byte[] tiff =
        [
            .. "MM"u8,
            0,
            42,
            0,
            0,
            0,
            8,
            0,
            2,
            0x01,
            0x0E,
            0,
            2,
            0,
            0,
            0,
            12,
            0,
            0,
            0,
            38,
            0x01,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            orientation,
            0,
            0,
            0,
            0,
            0,
            0,
            .. "secret place"u8,
        ];
        byte[] exif = [.. "Exif\0\0"u8, .. tiff];
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)((exif.Length + 2) >> 8), (byte)(exif.Length + 2), .. exif, .. jpeg[2..]];
    }

    [Fact]
    public void Metadata_is_gone_from_every_stored_size()
    {
        var picture = PictureReader.Read(WithOrientation(TwoHalves(1200, 800, SKEncodedImageFormat.Jpeg), 6));
        Assert.All(picture.Files, file => Assert.DoesNotContain("secret place", Encoding.Latin1.GetString(file.Bytes)));
    }

    [Fact]
    public void A_huge_picture_is_scaled_to_what_screens_can_show()
    {
        var picture = PictureReader.Read(TwoHalves(6000, 100, SKEncodedImageFormat.Png));
        Assert.Equal((4096, 68), (picture.Width, picture.Height));
    }

    [Fact]
    public void A_small_file_of_too_many_pixels_is_refused_before_it_is_decoded()
    {
        var before = GC.GetTotalAllocatedBytes();
        var refused = Assert.Throws<PictureRefused>(() => PictureReader.Read(OddFiles.Png(30_000, 30_000, isWhole: false)));
        Assert.Contains("30000 × 30000 pixels", refused.Sentence);
        Assert.InRange(GC.GetTotalAllocatedBytes() - before, 0, 20_000_000);
    }

    public static TheoryData<string, byte[]> NoPictures =>
        new()
        {
            { "empty", [] },
            { "web page", "<!DOCTYPE html><html><script>alert(1)</script></html>"u8.ToArray() },
            { "TIFF", [.. "II*\0"u8, 0, 0, 0, 0] },
            { "PDF", "%PDF-1.7 and so on"u8.ToArray() },
            { "AVIF", [0, 0, 0, 24, .. "ftypavif"u8, 0, 0, 0, 0] },
            { "video", [0, 0, 0, 24, .. "ftypisom"u8, 0, 0, 0, 0] },
            { "BMP", [.. "BM"u8, 0, 0, 0, 0, 0, 0] },
            { "office document", [.. "PK\u0003\u0004"u8, 0, 0, 0, 0] },
            { "HEIC", [0, 0, 0, 24, .. "ftypheic"u8, 0, 0, 0, 0] },
            { "not a picture", "Just some words."u8.ToArray() },
            { "not a picture", [0x89, 0x50, 0x4E, 0x47] },
            { "cut off", Half(TwoHalves(400, 300, SKEncodedImageFormat.Jpeg)) },
            { "cut off", Half(TwoHalves(400, 300, SKEncodedImageFormat.Png)) },
        };

    private static byte[] Half(byte[] bytes) => bytes[..(bytes.Length / 2)];

    [Theory, MemberData(nameof(NoPictures))]
    public void What_is_no_picture_gets_a_clear_sentence(string words, byte[] bytes) =>
        Assert.Contains(words, Assert.Throws<PictureRefused>(() => PictureReader.Read(bytes)).Sentence);

    [Fact]
    public void More_than_fifty_megabytes_are_refused_unread() =>
        Assert.Contains(
            "up to 50 MB",
            Assert.Throws<PictureRefused>(() => PictureReader.Read(new byte[PictureReader.MostBytes + 1])).Sentence
        );

    [Fact]
    public void Spoilt_pictures_never_do_worse_than_a_sentence()
    {
        var random = new Random(23);
        byte[][] samples =
        [
            TwoHalves(60, 40, SKEncodedImageFormat.Jpeg),
            TwoHalves(60, 40, SKEncodedImageFormat.Png),
            TwoHalves(60, 40, SKEncodedImageFormat.Webp),
        ];
        for (var i = 0; i < 300; i++)
        {
            var bytes = (byte[])samples[i % 3].Clone();
            for (var n = 0; n < 6; n++)
                bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
            try
            {
                Assert.True(PictureReader.Read(bytes).Width > 0);
            }
            catch (PictureRefused refused)
            {
                Assert.NotEmpty(refused.Sentence);
            }
        }
    }
}
