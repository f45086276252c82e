using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using Fenster.Core.Model;
using SkiaSharp;

namespace Fenster.Formats.Pictures;

/// <summary>One stored size of a picture.</summary>
/// <param name="Width">In pixels.</param>
/// <param name="Extension">Without a dot: <c>jpg</c>, <c>webp</c>, <c>gif</c> or <c>svg</c>.</param>
public sealed record PictureFile(int Width, string Extension, byte[] Bytes);

/// <summary>A picture made ready to be stored: upright, without metadata, in the sizes that screens need.</summary>
/// <param name="Hash">SHA-256 of the bytes that were given, 64 lower-case hexadecimal digits.</param>
/// <param name="Width">Of the largest size, in pixels, upright.</param>
/// <param name="Files">From the smallest to the largest.</param>
public sealed record PreparedPicture(string Hash, int Width, int Height, ImmutableArray<PictureFile> Files);

/// <summary>A file that can't become a picture. The message is a sentence for the teacher.</summary>
public sealed class PictureRefused(Said said) : SaidException(said);

/// <summary>Takes pictures in: JPEG, PNG, GIF, WebP and SVG, told apart by their content.</summary>
public static class PictureReader
{
    public const int MostBytes = 50 * 1024 * 1024;
    public const long MostPixels = 40_000_000;

    /// <summary>Widths in pixels that a wider picture is also stored in.</summary>
    public static readonly ImmutableArray<int> ScreenWidths = [480, 960, 1920];

    /// <summary>Larger pictures are scaled down to this on their longer side; more than any screen shows.</summary>
    private const int LongestSide = 4096;

    /// <summary>A GIF that moves keeps moving up to this size; a larger one shows its first frame.</summary>
    private const int MostMovingBytes = 3 * 1024 * 1024;

    /// <summary>Up to this many pixels a drawing is kept without loss.</summary>
    private const int MostLosslessPixels = 4_000_000;

    /// <summary>Reads a picture of any supported kind. Nothing is decoded before its size is known to be within bounds.</summary>
    /// <exception cref="PictureRefused">The bytes are no such picture, cut off, too large or too many pixels.</exception>
    public static PreparedPicture Read(byte[] bytes)
    {
        if (bytes.Length == 0)
            throw new PictureRefused(new("file.empty"));
        if (bytes.Length > MostBytes)
            throw new PictureRefused(new("picture.tooManyBytes", ("size", Megabytes(bytes.Length)), ("most", Megabytes(MostBytes))));

        if (IsSvg(bytes))
        {
            var drawing = SvgCleaner.Clean(bytes);
            return new(HashOf(bytes), drawing.Width, drawing.Height, [new(drawing.Width, "svg", drawing.Bytes)]);
        }

        using var data = SKData.CreateCopy(bytes);
        using var codec = Open(data, bytes);
        if (
            codec.EncodedFormat == SKEncodedImageFormat.Gif
            && codec.FrameCount > 1
            && bytes.Length <= MostMovingBytes
            && GifCleaner.Clean(bytes) is { } moving
        )
        {
            // Decoded once, so that a damaged file is told.
            using (Decode(codec)) { }
            return new(HashOf(bytes), codec.Info.Width, codec.Info.Height, [new(codec.Info.Width, "gif", moving)]);
        }

        // The whole is let go before anything is encoded, which wants room of its own.
        using var largest = Upright(Fit(Decode(codec)), codec.EncodedOrigin);
        var opaque = codec.Info.AlphaType == SKAlphaType.Opaque;
        var photograph = opaque && codec.EncodedFormat is SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp;
        return new(
            HashOf(bytes),
            largest.Width,
            largest.Height,
            [
                .. ScreenWidths.Where(width => width < largest.Width).Select(width => Encode(largest, width, photograph)),
                Encode(largest, largest.Width, photograph),
            ]
        );
    }

    /// <summary>A picture whose kind and size are known to be within bounds; nothing of it is decoded.</summary>
    private static SKCodec Open(SKData data, byte[] bytes)
    {
        var codec = SKCodec.Create(data);
        if (
            codec is null
            || codec.EncodedFormat
                is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Gif or SKEncodedImageFormat.Webp)
        )
            throw new PictureRefused(NotReadable(bytes));
        var pixels = (long)codec.Info.Width * codec.Info.Height;
        if (pixels > MostPixels)
            throw new PictureRefused(
                new("picture.tooManyPixels", ("width", codec.Info.Width), ("height", codec.Info.Height), ("most", MostPixels / 1_000_000))
            );
        return codec;
    }

    /// <summary>Height in pixels of a picture that becomes a label; a lower one keeps its own.</summary>
    public const int LabelHeight = 320;

    /// <summary>
    /// Reads a picture that becomes a label: blank edges, transparent or of one colour all around, are cut off, and it is
    /// scaled to the height that all labels have. A drawing stays as it is.
    /// </summary>
    /// <exception cref="PictureRefused">As for <see cref="Read"/>.</exception>
    public static PreparedPicture ReadLabel(byte[] bytes)
    {
        if (bytes.Length is 0 or > MostBytes || IsSvg(bytes))
            return Read(bytes);
        using var data = SKData.CreateCopy(bytes);
        using var codec = Open(data, bytes);
        if (codec.EncodedFormat == SKEncodedImageFormat.Gif && Read(bytes) is { Files: [{ Extension: "gif" }] } moving)
            return moving;
        using var bitmap = Upright(Fit(Decode(codec)), codec.EncodedOrigin);
        var inked = Inked(bitmap);
        using var trimmed = new SKBitmap();
        if (!bitmap.ExtractSubset(trimmed, inked))
            throw new PictureRefused(new("picture.notReady"));
        var height = Math.Min(LabelHeight, trimmed.Height);
        var width = Math.Clamp((int)Math.Round((double)trimmed.Width * height / trimmed.Height), 1, 4 * LabelHeight);
        using var scaled = width == trimmed.Width && height == trimmed.Height ? trimmed.Copy() : Resize(trimmed, width, height);
        // A label of its own, also where the same file is a picture elsewhere.
        return new(HashOf([.. "label"u8, .. bytes]), width, height, [Encode(scaled, width, photograph: false)]);
    }

    /// <summary>The smallest box around what differs from the blank edge; the whole when nothing does.</summary>
    private static SKRectI Inked(SKBitmap bitmap)
    {
        const int Faint = 12,
            Channels = 4;
        var pixels = bitmap.GetPixelSpan();
        var blank = pixels[..Channels];
        var box = new SKRectI(bitmap.Width, bitmap.Height, 0, 0);
        for (var y = 0; y < bitmap.Height; y++)
        {
            for (var x = 0; x < bitmap.Width; x++)
            {
                // Colours are multiplied by their opacity, so that all that is transparent is alike.
                var (at, off) = (y * bitmap.RowBytes + x * Channels, 0);
                for (var channel = 0; channel < Channels; channel++)
                    off += Math.Abs(pixels[at + channel] - blank[channel]);
                if (off > Faint)
                    box = new(Math.Min(box.Left, x), Math.Min(box.Top, y), Math.Max(box.Right, x + 1), Math.Max(box.Bottom, y + 1));
            }
        }
        return box.Width > 0 && box.Height > 0 ? box : new(0, 0, bitmap.Width, bitmap.Height);
    }

    private static string HashOf(byte[] bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    private static bool IsSvg(ReadOnlySpan<byte> bytes)
    {
        var start = Encoding.UTF8.GetString(bytes[..Math.Min(bytes.Length, 4000)]).TrimStart('\uFEFF', ' ', '\t', '\r', '\n');
        return start.StartsWith('<')
            && start.Contains("<svg", StringComparison.OrdinalIgnoreCase)
            && !start.Contains("<html", StringComparison.OrdinalIgnoreCase);
    }

    private static SKBitmap Decode(SKCodec codec)
    {
        // A photograph that is larger than what is kept is decoded in a smaller size, where its format has one that is still large enough.
        var size = codec.GetScaledDimensions(Math.Min(1, (float)LongestSide / Math.Max(codec.Info.Width, codec.Info.Height)));
        if (Math.Max(size.Width, size.Height) < LongestSide)
            size = codec.Info.Size;
        var info = new SKImageInfo(
            size.Width,
            size.Height,
            SKColorType.Rgba8888,
            codec.Info.AlphaType == SKAlphaType.Opaque ? SKAlphaType.Opaque : SKAlphaType.Premul,
            SKColorSpace.CreateSrgb()
        );
        var bitmap = new SKBitmap();
        if (!bitmap.TryAllocPixels(info))
            throw new PictureRefused(new("picture.tooLargeNow"));
        var result = codec.GetPixels(info, bitmap.GetPixels());
        if (result == SKCodecResult.Success)
            return bitmap;
        bitmap.Dispose();
        throw new PictureRefused(result == SKCodecResult.IncompleteInput ? new("picture.cutOff") : new("picture.damaged"));
    }

    /// <summary>The bitmap turned as its EXIF orientation says. Takes over the bitmap.</summary>
    private static SKBitmap Upright(SKBitmap bitmap, SKEncodedOrigin origin)
    {
        if (origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default)
            return bitmap;
        var (w, h) = (bitmap.Width, bitmap.Height);
        // Column vectors of the eight orientations of EXIF 2.32, tag 0x0112.
        var matrix = origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
            _ => SKMatrix.Identity,
        };
        using (bitmap)
        {
            var turned = origin >= SKEncodedOrigin.LeftTop;
            var upright = new SKBitmap(bitmap.Info.WithSize(turned ? h : w, turned ? w : h));
            using var canvas = new SKCanvas(upright);
            canvas.SetMatrix(matrix);
            canvas.DrawBitmap(bitmap, 0, 0, SKSamplingOptions.Default);
            return upright;
        }
    }

    /// <summary>The bitmap no larger than is kept. Takes over the bitmap.</summary>
    private static SKBitmap Fit(SKBitmap bitmap)
    {
        var longest = Math.Max(bitmap.Width, bitmap.Height);
        if (longest <= LongestSide)
            return bitmap;
        using (bitmap)
            return Resize(
                bitmap,
                Math.Max(1, (int)Math.Round((double)bitmap.Width * LongestSide / longest)),
                Math.Max(1, (int)Math.Round((double)bitmap.Height * LongestSide / longest))
            );
    }

    private static SKBitmap Resize(SKBitmap bitmap, int width, int height) =>
        // Down to half its size the pixels beside each other are enough; smaller copies of the whole would want room of their own.
        bitmap.Resize(
            bitmap.Info.WithSize(width, height),
            2 * width >= bitmap.Width && 2 * height >= bitmap.Height
                ? new SKSamplingOptions(SKFilterMode.Linear)
                : new(SKFilterMode.Linear, SKMipmapMode.Linear)
        ) ?? throw new PictureRefused(new("picture.tooLargeNow"));

    private static PictureFile Encode(SKBitmap bitmap, int width, bool photograph)
    {
        var scaled =
            width == bitmap.Width
                ? bitmap
                : Resize(bitmap, width, Math.Max(1, (int)Math.Round((double)bitmap.Height * width / bitmap.Width)));
        try
        {
            using var pixmap = scaled.PeekPixels();
            var lossless = (long)scaled.Width * scaled.Height <= MostLosslessPixels;
            using var encoded = photograph
                ? pixmap.Encode(new SKJpegEncoderOptions(88))
                : pixmap.Encode(
                    new SKWebpEncoderOptions(
                        lossless ? SKWebpEncoderCompression.Lossless : SKWebpEncoderCompression.Lossy,
                        lossless ? 30 : 92
                    )
                );
            if (encoded is null)
                throw new PictureRefused(new("picture.notReady"));
            return new(width, photograph ? "jpg" : "webp", encoded.ToArray());
        }
        finally
        {
            if (!ReferenceEquals(scaled, bitmap))
                scaled.Dispose();
        }
    }

    private static Said NotReadable(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > 12 && bytes[4..8].SequenceEqual("ftyp"u8))
            return Encoding.ASCII.GetString(bytes[8..12]) switch
            {
                "heic" or "heix" or "mif1" => new("picture.heic"),
                "avif" => new("picture.avif"),
                _ => new("picture.video"),
            };
        if (bytes.StartsWith("BM"u8))
            return new("picture.bmp");
        if (bytes.StartsWith("PK\u0003\u0004"u8))
            return new("picture.office");
        if (bytes.StartsWith("II*\0"u8) || bytes.StartsWith("MM\0*"u8))
            return new("picture.tiff");
        if (bytes.StartsWith("%PDF"u8))
            return new("picture.pdf");
        var start = Encoding.UTF8.GetString(bytes[..Math.Min(bytes.Length, 400)]);
        if (start.TrimStart().StartsWith('<'))
            return new("picture.webPage");
        return new("picture.unknown");
    }

    private static int Megabytes(long bytes) => (int)Math.Ceiling(bytes / (1024.0 * 1024));
}
