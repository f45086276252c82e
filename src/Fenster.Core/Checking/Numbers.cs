using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Typed numbers against an answer with tolerance and units.</summary>
public static partial class Numbers
{
    private const int LongestText = 200;

    [GeneratedRegex(@"^(?<sign>[+-]?)(?<number>\d[\d.,' ]*|[.,]\d+)(?:(?:[eE]|[x*]10\^?)(?<power>[+-]?\d{1,3}))?(?<unit>.*)$", RegexOptions.CultureInvariant)]
    private static partial Regex Shape();

    /// <summary>
    /// Whether a typed number is right: it lies within the absolute or the relative tolerance. A number that can be
    /// read in two ways, such as 1,234, is right when one of them is.
    /// </summary>
    public static bool IsRight(string typed, TypedNumber answer) => Readings(typed, answer.Units).Any(value =>
    {
        var off = (value - answer.Value).Abs();
        return off <= answer.Within || off <= answer.WithinShare * answer.Value.Abs();
    });

    /// <summary>What a text may mean as a number, in the first unit; empty when it is none.</summary>
    /// <param name="units">Units that may follow; a unit that is not among them makes the text no number.</param>
    public static IEnumerable<ExactNumber> Readings(string typed, IReadOnlyList<MeasureUnit> units)
    {
        if (typed.Length > LongestText) return [];
        var tidy = new StringBuilder(typed.Trim().Normalize(NormalizationForm.FormKC))
            .Replace('\u2212', '-').Replace('\u2013', '-').Replace('\u00D7', 'x').Replace('\u00B7', '*').Replace('\u2019', '\'')
            .Replace("x 10", "x10").Replace(" x10", "x10").Replace("* 10", "*10").Replace(" *10", "*10").ToString();
        if (Shape().Match(tidy) is not { Success: true } match) return [];

        var unit = match.Groups["unit"].Value.Trim();
        var number = match.Groups["number"].Value.Trim();
        ExactNumber factor = 1m;
        if (unit.Length > 0)
        {
            if (units.FirstOrDefault(known => known.Name.Trim().Normalize(NormalizationForm.FormKC) == unit) is not { } found) return [];
            factor = found.Factor;
        }
        var power = match.Groups["power"].Value;
        return Plain(number)
            .Select(plain => ExactNumber.Parse($"{match.Groups["sign"].Value}{plain}{(power.Length > 0 ? $"e{power}" : "")}"))
            .OfType<ExactNumber>()
            .Select(value => value * factor);
    }

    /// <summary>The number with a point and without thousands separators, in each way it can be read.</summary>
    private static IEnumerable<string> Plain(string number)
    {
        var marks = number.Where(c => !char.IsAsciiDigit(c)).Distinct().ToArray();
        switch (marks)
        {
            case []:
                return [number];
            case [var mark]:
                var thousands = number.Count(c => c == mark) >= 1 && Grouped(number, mark) ? number.Replace($"{mark}", "") : null;
                var fraction = mark is '.' or ',' && number.Count(c => c == mark) == 1 ? number.Replace(mark, '.') : null;
                return new[] { fraction, thousands }.OfType<string>().Distinct();
            case [var group, ('.' or ',') and var point] when number.Count(c => c == point) == 1 && Grouped(number[..number.IndexOf(point)], group):
                return [number.Replace($"{group}", "").Replace(point, '.')];
            default:
                return [];
        }
    }

    private static bool Grouped(string digits, char mark) =>
        digits.Split(mark) is [{ Length: >= 1 and <= 3 } first, .. var rest] && first[0] != '0' && rest.Length > 0 && rest.All(part => part.Length == 3);
}
