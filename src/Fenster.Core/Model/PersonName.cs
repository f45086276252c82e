using System.Globalization;
using System.Text;

namespace Fenster.Core.Model;

/// <summary>Why a name can't be shown as it was typed.</summary>
public enum NameFault
{
    Empty,
    TooLong,

    /// <summary>It has characters that can't be shown, or more marks on one letter than anybody can read.</summary>
    Unreadable,

    /// <summary>It mixes letters of alphabets that look alike, so that it could pass for somebody else's.</summary>
    MixedAlphabets,
}

/// <summary>Names of students, as they are shown and as they are told apart.</summary>
public static class PersonName
{
    public const int Longest = 60;
    private const int MostMarks = 4;

    /// <summary>The name without what nobody sees: directions, joiners beside blanks, doubled blanks; and what is wrong with it.</summary>
    /// <returns>The fault is null when the name can be used.</returns>
    public static (string Name, NameFault? Fault) Tidy(string? typed)
    {
        var plain = new StringBuilder();
        foreach (var rune in SoundText.Normalized(typed ?? "", NormalizationForm.FormC).EnumerateRunes())
            if (Rune.IsWhiteSpace(rune) || rune.Value is 0x115F or 0x1160 or 0x3164 or 0xFFA0 or 0x2800)
                plain.Append(' ');
            else if (Rune.GetUnicodeCategory(rune) != UnicodeCategory.Format || rune.Value is 0x200C or 0x200D)
                plain.Append(rune);
        var name = string.Join(' ', plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries)).Trim('\u200C', '\u200D');
        return (name, FaultOf(name));
    }

    private static NameFault? FaultOf(string name)
    {
        var runes = name.EnumerateRunes().ToList();
        if (!runes.Any(Rune.IsLetterOrDigit) && !runes.Any(rune => Rune.GetUnicodeCategory(rune) == UnicodeCategory.OtherSymbol))
            return NameFault.Empty;
        if (name.Length > Longest)
            return NameFault.TooLong;
        var marks = 0;
        foreach (var rune in runes)
        {
            var category = Rune.GetUnicodeCategory(rune);
            marks = category is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark ? marks + 1 : 0;
            var isShown =
                category
                is not (
                    UnicodeCategory.Control
                    or UnicodeCategory.PrivateUse
                    or UnicodeCategory.OtherNotAssigned
                    or UnicodeCategory.Surrogate
                );
            if (marks > MostMarks || !isShown || rune.Value == 0xFFFD)
                return NameFault.Unreadable;
        }
        return name.Split(' ').Any(MixesAlphabets) ? NameFault.MixedAlphabets : null;
    }

    private static bool MixesAlphabets(string word) =>
        word.EnumerateRunes().Where(Rune.IsLetter).Select(AlphabetOf).Where(alphabet => alphabet != "").Distinct().Count() > 1;

    /// <summary>One of the alphabets whose letters look alike; empty for any other.</summary>
    private static string AlphabetOf(Rune letter) =>
        letter.Value switch
        {
            (>= 0x41 and <= 0x7A) or (>= 0xC0 and <= 0x24F) or (>= 0x1E00 and <= 0x1EFF) => "Latin",
            (>= 0x370 and <= 0x3FF) or (>= 0x1F00 and <= 0x1FFF) => "Greek",
            >= 0x400 and <= 0x52F => "Cyrillic",
            >= 0x530 and <= 0x58F => "Armenian",
            >= 0x13A0 and <= 0x13FF => "Cherokee",
            _ => "",
        };

    // Capitals and small letters that look like a Latin one, from the commonest of Unicode's confusables (UTS 39). From memory.
    private const string Alike = "АВЕЅЗІЈКМНОРСТУХаеѕіјорсухһԁԛԝΑΒΕΖΗΙΚΜΝΟΡΤΥΧονρτυικҮүӀ";
    private const string Latin = "ABESЗIJKMHOPCTYXaesijopcyxhdqwABEZHIKMNOPTYXovptuikYyI";

    /// <summary>
    /// What names have in common that a reader can't tell apart: capitals, blanks, forms of one letter, and letters that look alike.
    /// </summary>
    public static string Fold(string name)
    {
        var folded = new StringBuilder();
        foreach (var character in SoundText.Normalized(Tidy(name).Name, NormalizationForm.FormKC))
            folded.Append(Alike.IndexOf(character) is >= 0 and var i ? Latin[i] : character);
        return folded.ToString().ToUpperInvariant();
    }
}
