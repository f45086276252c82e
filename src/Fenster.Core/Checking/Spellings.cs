using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Typed words against accepted spellings.</summary>
public static class Spellings
{
    /// <summary>The accepted spellings as they are compared, folded once for all that is typed.</summary>
    private static readonly ConditionalWeakTable<TypedText, (SlipPattern Text, decimal Credit)[]> Folded = [];

    /// <summary>The credit of what was typed, from 0 to 1: an exact match before a forgiven one, and then the better one.</summary>
    public static decimal Credit(string typed, TypedText answer)
    {
        var given = Fold(typed, answer.Rules);
        if (given.Length == 0 || given.Length > TypedText.LongestText * 2)
            return 0;
        var folded = Folded.GetValue(answer, accepted =>
            [.. accepted.Spellings.Select(spelling => (new SlipPattern(Fold(spelling.Text, accepted.Rules)), spelling.Credit))]
        );
        var exact = 0m;
        foreach (var (text, credit) in folded)
            if (text.Text == given)
                exact = Math.Max(exact, credit);
        if (exact > 0 || !answer.Rules.ForgiveSlips)
            return exact;
        var forgiven = 0m;
        foreach (var (text, credit) in folded)
            if (credit > forgiven && IsForgiven(given, text))
                forgiven = credit;
        return forgiven;
    }

    /// <summary>
    /// A text as it is compared: in Unicode's NFKC, trimmed, with runs of white space made one space, and without what
    /// the rules ignore. Of ignored punctuation hyphens and dashes count as a blank.
    /// </summary>
    public static string Fold(string text, SpellingRules rules)
    {
        if (Ascii.IsValid(text))
            return FoldAscii(text, rules);
        // Compatibility forms take some apostrophes apart, so these go before.
        if (rules.IgnorePunctuation)
            text = string.Concat(text.Where(character => !IsApostrophe(character)));
        var folded = new StringBuilder();
        foreach (var rune in SoundText.Normalized(text, NormalizationForm.FormKD).EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            if (rules.IgnoreAccents && category is UnicodeCategory.NonSpacingMark)
                continue;
            if (rules.IgnorePunctuation && IsHyphen(rune.Value, category))
                folded.Append(' ');
            else if (rules.IgnorePunctuation && (IsPunctuation(category) || (rune.IsBmp && IsApostrophe((char)rune.Value))))
                continue;
            else if (rules.IgnoreCapitals)
                folded.Append(FoldCase(rune));
            else
                folded.Append(rune);
        }
        return string.Join(
            ' ',
            SoundText.Normalized(folded.ToString(), NormalizationForm.FormKC).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
        );
    }

    /// <summary>The same for a text of ASCII characters only, which are their own compatibility form.</summary>
    private static string FoldAscii(string text, SpellingRules rules)
    {
        const int Short = 256;
        var folded = text.Length <= Short ? stackalloc char[Short] : new char[text.Length];
        var (length, isBlankDue) = (0, false);
        foreach (var character in text)
        {
            if (char.IsWhiteSpace(character) || (rules.IgnorePunctuation && character == '-'))
                isBlankDue = length > 0;
            else if (!rules.IgnorePunctuation || !(IsApostrophe(character) || IsPunctuation(char.GetUnicodeCategory(character))))
            {
                if (isBlankDue)
                    folded[length++] = ' ';
                isBlankDue = false;
                folded[length++] = rules.IgnoreCapitals ? char.ToLowerInvariant(character) : character;
            }
        }
        return new(folded[..length]);
    }

    /// <summary>Every kind of hyphen and dash, and the minus sign.</summary>
    private static bool IsHyphen(int value, UnicodeCategory category) => category == UnicodeCategory.DashPunctuation || value is 0x2212;

    /// <summary>
    /// Apostrophes, primes, backticks, acute accents that stand alone, the modifier letters that are written for them, quotation
    /// marks of all kinds, and the soft hyphen, which nobody sees.
    /// </summary>
    private static bool IsApostrophe(char character) =>
        character
            is '\''
                or '"'
                or '`'
                or '\u00B4'
                or '\u00AD'
                or '\u00AB'
                or '\u00BB'
                or '\uFF07'
                or '\uFF02'
                or '\uFF40'
                or '\uA78B'
                or '\uA78C'
                or (>= '\u02B9' and <= '\u02BF')
                or '\u02C8'
                or '\u02CA'
                or '\u02CB'
                or '\u02EE'
                or '\u055A'
                or '\u05F3'
                or '\u05F4'
                or '\u07F4'
                or '\u07F5'
                or (>= '\u2018' and <= '\u201F')
                or (>= '\u2032' and <= '\u203A' and not ('\u2038' or '\u203B'))
                or '\u2057'
                or (>= '\u300C' and <= '\u300F')
                or (>= '\u301D' and <= '\u301F');

    /// <summary>
    /// Full case folding of a rune that stands decomposed. Source: CaseFolding.txt of Unicode; decomposition leaves of
    /// its full mappings only those of sharp s, and of its common ones the iota below, the final sigma and the long s
    /// need naming, since lower case alone keeps them apart. From memory.
    /// </summary>
    private static string FoldCase(Rune rune) =>
        rune.Value switch
        {
            0x00DF or 0x1E9E => "ss",
            0x0345 => "\u03B9",
            0x03C2 => "\u03C3",
            _ => Rune.ToLowerInvariant(rune).ToString(),
        };

    private static bool IsPunctuation(UnicodeCategory category) =>
        category
            is UnicodeCategory.ConnectorPunctuation
                or UnicodeCategory.DashPunctuation
                or UnicodeCategory.OpenPunctuation
                or UnicodeCategory.ClosePunctuation
                or UnicodeCategory.InitialQuotePunctuation
                or UnicodeCategory.FinalQuotePunctuation
                or UnicodeCategory.OtherPunctuation;

    private static bool IsForgiven(string given, SlipPattern accepted)
    {
        if (accepted.Length <= 3)
            return false;
        var slips = (accepted.Length + 7) / 8;
        return Math.Abs(given.Length - accepted.Text.Length) <= 2 * slips && accepted.IsWithin(given, slips);
    }

    /// <summary>Whether the distance of two different texts is 1, told from where they begin to differ.</summary>
    public static bool IsOneSlip(string from, string to)
    {
        if (from.Length > to.Length)
            (from, to) = (to, from);
        if (to.Length - from.Length > 1)
            return false;
        var start = from.AsSpan().CommonPrefixLength(to);
        if (start == to.Length)
            return false;
        var rest = from.AsSpan(start);
        var other = to.AsSpan(start);
        if (rest.Length < other.Length)
            return rest.SequenceEqual(other[1..]);
        return rest[1..].SequenceEqual(other[1..])
            || (rest.Length > 1 && rest[0] == other[1] && rest[1] == other[0] && rest[2..].SequenceEqual(other[2..]));
    }
}
