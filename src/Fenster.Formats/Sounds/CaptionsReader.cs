using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Model;

namespace Fenster.Formats.Sounds;

/// <summary>
/// Takes captions in: WebVTT, of which the cues stay. Notes, styles and regions go, since they can carry anything.
/// Source: WebVTT, the Web Video Text Tracks Format (W3C), section 4.
/// </summary>
public static partial class CaptionsReader
{
    public const int MostBytes = 1024 * 1024;

    [GeneratedRegex(@"^(\d{2,}:)?[0-5]\d:[0-5]\d\.\d{3}\s+-->\s+(\d{2,}:)?[0-5]\d:[0-5]\d\.\d{3}(\s|$)")]
    private static partial Regex Timing { get; }

    /// <exception cref="SoundRefused">The bytes are no WebVTT with at least one cue, or too many.</exception>
    public static PreparedSound Read(byte[] bytes)
    {
        if (bytes.Length > MostBytes)
            throw new SoundRefused(new("sound.captionsBytes", ("most", MostBytes / (1024 * 1024))));
        string text;
        try
        {
            text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            throw new SoundRefused(new("sound.captionsUtf8"));
        }
        text = SoundText.Of(text).TrimStart('\uFEFF').ReplaceLineEndings("\n");
        var blocks = text.Split("\n\n", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (blocks.Length == 0 || !blocks[0].StartsWith("WEBVTT", StringComparison.Ordinal))
            throw new SoundRefused(new("sound.captionsKind"));
        // A cue may have a name in the line before its times.
        var cues = blocks.Where(block => block.Split('\n').Take(2).Any(line => Timing.IsMatch(line))).ToList();
        if (cues.Count == 0)
            throw new SoundRefused(new("sound.captionsNone"));
        return new(
            Convert.ToHexStringLower(SHA256.HashData(bytes)),
            "vtt",
            Encoding.UTF8.GetBytes($"WEBVTT\n\n{string.Join("\n\n", cues)}\n")
        );
    }
}
