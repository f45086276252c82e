using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Typed numbers against an answer with tolerance and units.</summary>
public static partial class Numbers
{
    private const int LongestText = 200;

    /// <summary>Powers of a number other than ten that are worked out.</summary>
    private const int LargestPower = 30;

    /// <summary>
    /// What nobody types stands for U+066B and U+066C, for the beginning of a superscript, and for that and the end of a vulgar fraction.
    /// </summary>
    private const char Point = '\uE000',
        Group = '\uE001',
        Raise = '\uE002',
        Fraction = '\uE003',
        FractionEnds = '\uE004';

    [GeneratedRegex(
        @"^(?<sign>[+-]?) ?(?<number>\d[\d.,' \uE000\uE001]*|[.,\uE000]\d+)?(?:\uE003(?<fraction>\d+/\d+)\uE004)?"
            + @"(?:\uE002(?<raised>[+-]?\d{1,3}))?"
            + @"(?:(?:[eE]| ?[x*] ?10\^?)(?<power>[+-]?\d{1,3}))?(?<unit>.*)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Shape();

    /// <summary>
    /// Whether a typed number is right: it lies within the absolute or the relative tolerance. A number that can be
    /// read in two ways, such as 1,234, is right when one of them is.
    /// </summary>
    public static bool IsRight(string typed, TypedNumber answer) =>
        Readings(typed, answer.Units, answer.IgnoreUnitCapitals)
            .Any(value =>
            {
                var off = (value - answer.Value).Abs();
                return off <= answer.Within || off <= answer.WithinShare * answer.Value.Abs();
            });

    /// <summary>What a text may mean as a number, in the first unit; empty when it is none.</summary>
    /// <param name="units">Units that may follow; a unit that is not among them makes the text no number.</param>
    /// <param name="ignoreCapitals">Whether mW may stand for MW.</param>
    public static IEnumerable<ExactNumber> Readings(string typed, IReadOnlyList<MeasureUnit> units, bool ignoreCapitals = false)
    {
        if (typed.Length > LongestText || Plain(typed.Trim()) is not { } plain || Shape().Match(plain) is not { Success: true } match)
            return [];
        var (number, fraction) = (match.Groups["number"].Value.TrimEnd(), match.Groups["fraction"].Value);
        if (number == "" && fraction == "")
            return [];
        if (FactorOf(match.Groups["unit"].Value.Trim(), units, ignoreCapitals) is not { } factor)
            return [];

        var (power, raised) = (match.Groups["power"].Value, match.Groups["raised"]);
        return (number == "" ? ["0"] : Ways(number))
            // A number that has decimals has no fraction too.
            .Where(way => fraction == "" || !way.Contains('.'))
            .Select(way => ExactNumber.Parse(way))
            .OfType<ExactNumber>()
            // The unit comes first where it can: a third of a minute is twenty seconds, which is a decimal number.
            .Select(value =>
                !raised.Success ? With(fraction, value * factor, factor)
                : Raised(With(fraction, value, 1m), int.Parse(raised.Value, CultureInfo.InvariantCulture)) is { } much ? much * factor
                : (ExactNumber?)null
            )
            .OfType<ExactNumber>()
            .Select(value => power == "" ? value : value * ExactNumber.Parse($"1e{power}")!.Value)
            .Select(value => match.Groups["sign"].Value == "-" ? ExactNumber.Zero - value : value);
    }

    private static ExactNumber? FactorOf(string unit, IReadOnlyList<MeasureUnit> units, bool ignoreCapitals)
    {
        if (unit == "")
            return 1m;
        var comparison = ignoreCapitals ? StringComparison.OrdinalIgnoreCase : StringComparison.Ordinal;
        return units.FirstOrDefault(known => string.Equals(Folded(known.Name), Folded(unit), comparison))?.Factor;
    }

    private static string Folded(string unit) => SoundText.Normalized(unit.Trim(), NormalizationForm.FormKC);

    /// <summary>
    /// The text with ASCII digits and signs, superscripts and vulgar fractions told apart from them; null when digits of two scripts
    /// stand in the number.
    /// </summary>
    private static string? Plain(string typed)
    {
        var plain = new StringBuilder(typed.Length);
        int? zero = null;
        var isRaised = false;
        var isNumber = true;
        foreach (var rune in typed.EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            if (category == UnicodeCategory.PrivateUse)
                return null;
            isNumber = isNumber && !(Rune.IsLetter(rune) && rune.Value is not ('e' or 'E' or 'x' or 'X'));
            if (isNumber && Superscript(rune) is { } raised)
            {
                if (!isRaised && !EndsInTen(plain))
                    plain.Append(Raise);
                isRaised = true;
                plain.Append(raised);
                continue;
            }
            isRaised = false;
            if (isNumber && category == UnicodeCategory.DecimalDigitNumber)
            {
                var digit = (int)Rune.GetNumericValue(rune);
                if (zero is { } known && known != rune.Value - digit)
                    return null;
                zero = rune.Value - digit;
                plain.Append((char)('0' + digit));
            }
            else if (
                isNumber
                && category == UnicodeCategory.OtherNumber
                && SoundText.Normalized(rune.ToString(), NormalizationForm.FormKD) is var parts
                && parts.Contains('\u2044')
            )
            {
                plain.Append(Fraction).Append(parts.Replace('\u2044', '/')).Append(FractionEnds);
            }
            else
            {
                plain.Append(Sign(rune, category));
            }
        }
        return Blanks().Replace(plain.ToString(), " ");
    }

    [GeneratedRegex(" {2,}", RegexOptions.CultureInvariant)]
    private static partial Regex Blanks();

    /// <summary>Whether what was read so far ends in a power of ten's <c>×10</c>, whose superscript is its exponent.</summary>
    private static bool EndsInTen(StringBuilder plain) => plain.Length >= 4 && plain.ToString() is var text && TimesTen().IsMatch(text);

    [GeneratedRegex(@"[\d.,] ?[x*] ?10$", RegexOptions.CultureInvariant)]
    private static partial Regex TimesTen();

    private static char? Superscript(Rune rune) =>
        rune.Value switch
        {
            0x00B9 => '1',
            0x00B2 => '2',
            0x00B3 => '3',
            0x2070 or (>= 0x2074 and <= 0x2079) => (char)('0' + rune.Value - 0x2070),
            0x207A => '+',
            0x207B => '-',
            _ => null,
        };

    private static string Sign(Rune rune, UnicodeCategory category) =>
        rune.Value switch
        {
            0x2212 or 0x2013 or 0xFE63 or 0xFF0D => "-",
            0xFF0B => "+",
            0x00D7 => "x",
            0x00B7 or 0x22C5 => "*",
            0x2019 => "'",
            0x066B => $"{Point}",
            0x066C => $"{Group}",
            _ when category == UnicodeCategory.SpaceSeparator => " ",
            _ => SoundText.Normalized(rune.ToString(), NormalizationForm.FormKC),
        };

    /// <summary>A number with a vulgar fraction of a unit added; the number itself without one.</summary>
    /// <param name="fraction">As <c>1/3</c>; empty for none. One over nothing adds nothing.</param>
    private static ExactNumber With(string fraction, ExactNumber number, ExactNumber unit) =>
        fraction.Split('/') is [var over, var under]
        && int.Parse(over, CultureInfo.InvariantCulture) is var parts
        && int.Parse(under, CultureInfo.InvariantCulture) is > 0 and var of
            ? number + (unit * (decimal)parts).Over(of)
            : number;

    /// <summary>A power; null for one that is too large, or below zero of anything but ten.</summary>
    private static ExactNumber? Raised(ExactNumber value, int power)
    {
        if (value == 10m)
            return ExactNumber.Parse($"1e{power}");
        if (power is < 0 or > LargestPower)
            return null;
        ExactNumber raised = 1m;
        for (var i = 0; i < power; i++)
            raised *= value;
        return raised;
    }

    /// <summary>The number with a point and without thousands separators, in each way it can be read.</summary>
    private static IEnumerable<string> Ways(string number)
    {
        var signs = number.Where(c => !char.IsAsciiDigit(c)).ToArray();
        if (signs.Length == 0)
            return [number];
        var ways = new List<string>();
        var last = signs[^1];
        // Its last sign is the decimal one.
        if (last is '.' or ',' or Point && signs.Count(sign => sign == last) == 1)
        {
            var whole = number[..number.LastIndexOf(last)];
            var fraction = number[(number.LastIndexOf(last) + 1)..];
            if (signs.Length == 1)
                ways.Add($"{whole}.{fraction}");
            else if (IsGrouped(whole, signs[0], last))
                ways.Add($"{whole.Replace($"{signs[0]}", "")}.{fraction}");
        }
        // All of its signs part groups.
        if (IsGrouped(number, signs[0], null))
            ways.Add(number.Replace($"{signs[0]}", ""));
        return ways.Distinct();
    }

    /// <summary>Groups of three throughout, or of two and then three, parted by one sign.</summary>
    /// <param name="point">The decimal sign behind them; null for none.</param>
    private static bool IsGrouped(string digits, char sign, char? point)
    {
        if (sign == Point || (sign == Group && point is not (null or Point)) || (point == Point && sign is '.' or ','))
            return false;
        if (
            digits.Split(sign) is not [{ Length: >= 1 and <= 3 } first, .. { Length: > 0 } rest]
            || first[0] == '0'
            || !digits.Where(c => c != sign).All(char.IsAsciiDigit)
        )
            return false;
        var isIndian =
            sign == ','
            && point is null or '.'
            && rest.Length > 1
            && first.Length <= 2
            && rest[..^1].All(group => group.Length == 2)
            && rest[^1].Length == 3;
        return isIndian || rest.All(group => group.Length == 3);
    }
}
