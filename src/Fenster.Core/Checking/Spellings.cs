using System.Globalization;
using System.Text;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Typed words against accepted spellings.</summary>
public static class Spellings
{
    /// <summary>The credit of what was typed, from 0 to 1: an exact match before a forgiven one, and then the better one.</summary>
    public static decimal Credit(string typed, TypedText answer)
    {
        var given = Fold(typed, answer.Rules);
        if (given.Length == 0 || given.Length > TypedText.LongestText * 2) return 0;
        var folded = answer.Spellings.Select(spelling => (Text: Fold(spelling.Text, answer.Rules), spelling.Credit)).ToList();
        var exact = folded.Where(spelling => spelling.Text == given).Select(spelling => spelling.Credit).DefaultIfEmpty(0).Max();
        if (exact > 0 || !answer.Rules.ForgiveSlips) return exact;
        return folded.Where(spelling => IsForgiven(given, spelling.Text)).Select(spelling => spelling.Credit).DefaultIfEmpty(0).Max();
    }

    /// <summary>
    /// A text as it is compared: in Unicode's NFKC, trimmed, with runs of white space made one space, and without what
    /// the rules ignore.
    /// </summary>
    public static string Fold(string text, SpellingRules rules)
    {
        var folded = new StringBuilder();
        foreach (var rune in text.Normalize(NormalizationForm.FormKD).EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            if (rules.IgnoreAccents && category is UnicodeCategory.NonSpacingMark) continue;
            if (rules.IgnorePunctuation && IsPunctuation(category)) continue;
            if (rules.IgnoreCapitals) folded.Append(FoldCase(rune));
            else folded.Append(rune);
        }
        return string.Join(' ', folded.ToString().Normalize(NormalizationForm.FormKC).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
    }

    /// <summary>
    /// Full case folding of a rune that stands decomposed. Source: CaseFolding.txt of Unicode; decomposition leaves of
    /// its full mappings only those of sharp s, and of its common ones the iota below, the final sigma and the long s
    /// need naming, since lower case alone keeps them apart. From memory.
    /// </summary>
    private static string FoldCase(Rune rune) => rune.Value switch
    {
        0x00DF or 0x1E9E => "ss",
        0x0345 => "\u03B9",
        0x03C2 => "\u03C3",
        _ => Rune.ToLowerInvariant(rune).ToString(),
    };

    private static bool IsPunctuation(UnicodeCategory category) => category is
        UnicodeCategory.ConnectorPunctuation or UnicodeCategory.DashPunctuation or UnicodeCategory.OpenPunctuation or
        UnicodeCategory.ClosePunctuation or UnicodeCategory.InitialQuotePunctuation or UnicodeCategory.FinalQuotePunctuation or
        UnicodeCategory.OtherPunctuation;

    private static bool IsForgiven(string given, string accepted)
    {
        var length = accepted.EnumerateRunes().Count();
        if (length <= 3) return false;
        var slips = (length + 7) / 8;
        return Math.Abs(given.Length - accepted.Length) <= 2 * slips && Distance(given, accepted) <= slips;
    }

    /// <summary>Whether the distance of two different texts is 1, told from where they begin and stop to differ.</summary>
    public static bool IsOneSlip(string from, string to)
    {
        if (Math.Abs(from.Length - to.Length) > 1) return false;
        var start = from.AsSpan().CommonPrefixLength(to);
        var (fromEnd, toEnd) = (from.Length, to.Length);
        while (fromEnd > start && toEnd > start && from[fromEnd - 1] == to[toEnd - 1]) (fromEnd, toEnd) = (fromEnd - 1, toEnd - 1);
        var (fromLength, toLength) = (fromEnd - start, toEnd - start);
        if (fromLength <= 1 && toLength <= 1) return fromLength + toLength > 0;
        return fromLength == 2 && toLength == 2 && from[start] == to[start + 1] && from[start + 1] == to[start];
    }

    /// <summary>
    /// Optimal string alignment distance, in characters: insertions, deletions, exchanges, and swaps of two neighbours,
    /// none of them touched twice. Source: the restricted form of Damerau's distance (1964).
    /// </summary>
    public static int Distance(string from, string to)
    {
        var (a, b) = (from.EnumerateRunes().ToArray(), to.EnumerateRunes().ToArray());
        var rows = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++) rows[i, 0] = i;
        for (var j = 0; j <= b.Length; j++) rows[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
            for (var j = 1; j <= b.Length; j++)
            {
                var exchange = rows[i - 1, j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1);
                rows[i, j] = Math.Min(exchange, Math.Min(rows[i - 1, j], rows[i, j - 1]) + 1);
                if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                    rows[i, j] = Math.Min(rows[i, j], rows[i - 2, j - 2] + 1);
            }
        return rows[a.Length, b.Length];
    }
}
