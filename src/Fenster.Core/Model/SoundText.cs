using System.Buffers;
using System.Text;

namespace Fenster.Core.Model;

/// <summary>
/// Text that everything which handles text can take. Unicode knows code points that are no characters (its "noncharacters", such as
/// U+FFFE) and halves of pairs that mean nothing alone; what normalises text refuses both, and databases and tables stumble over control
/// characters. So they are left out where text comes in. Source: The Unicode Standard, sections 23.7 (noncharacters), 3.8 (surrogates)
/// and 23.1 (control codes).
/// </summary>
public static class SoundText
{
    /// <summary>Characters that a text may need a second look for: controls, halves of pairs, and noncharacters.</summary>
    private static readonly SearchValues<char> Doubtful = SearchValues.Create([
        .. Enumerable.Range(0, 0x10000).Select(value => (char)value).Where(IsDoubtful),
    ]);

    private static bool IsDoubtful(char character) =>
        char.IsSurrogate(character)
        || (char.IsControl(character) && character is not ('\t' or '\n' or '\r'))
        || character is (>= '\uFDD0' and <= '\uFDEF') or >= '\uFFFE';

    /// <summary>The text without noncharacters, halves of pairs and controls other than tab and line ends. All else stays as it is.</summary>
    public static string Of(string text) => Of(text, IsSound);

    /// <summary>The same with the controls that stand in it, for who refuses these.</summary>
    public static string WithControls(string text) => Of(text, rune => IsSound(rune) || Rune.IsControl(rune));

    private static string Of(string text, Func<Rune, bool> stays)
    {
        if (text.AsSpan().IndexOfAny(Doubtful) is not (>= 0 and var first))
            return text;
        var sound = new StringBuilder(text.Length).Append(text, 0, first);
        var rest = text.AsSpan(first);
        while (rest.Length > 0)
        {
            var isPairOrLetter = Rune.DecodeFromUtf16(rest, out var rune, out var length) == OperationStatus.Done;
            if (isPairOrLetter && stays(rune))
                sound.Append(rest[..length]);
            rest = rest[length..];
        }
        return sound.ToString();
    }

    /// <summary>The beginning of a sound text, at most so many characters: no pair is cut in two.</summary>
    public static string Beginning(string text, int most) =>
        text.Length <= most ? text
        : char.IsHighSurrogate(text[Math.Max(0, most - 1)]) ? text[..Math.Max(0, most - 1)]
        : text[..most];

    // The last two of each plane are noncharacters.
    private static bool IsSound(Rune rune) => (rune.IsBmp ? !IsDoubtful((char)rune.Value) : (rune.Value & 0xFFFE) != 0xFFFE);

    /// <summary>
    /// The text in a form of Unicode's normalisation, whatever stands in it: what has none is left out, controls stay.
    /// </summary>
    public static string Normalized(string text, NormalizationForm form) => WithControls(text).Normalize(form);
}
