using System.Collections.Immutable;
using System.Globalization;

namespace Fenster.Words;

/// <summary>
/// The plural category of a number, by rules as Unicode's CLDR writes them. Source: Unicode Technical Standard 35, part 3, "Language
/// Plural Rules".
/// </summary>
/// <remarks>A rule is <c>or</c> of <c>and</c> of relations such as <c>n % 100 = 3..10</c> or <c>v != 0</c>.</remarks>
public sealed class PluralRules
{
    private readonly ImmutableArray<(string Category, Condition Condition)> rules;

    /// <param name="rules">By category, without that of <c>other</c>; samples behind an <c>@</c> are left out.</param>
    /// <exception cref="FormatException">A rule can't be read.</exception>
    public PluralRules(IEnumerable<KeyValuePair<string, string>> rules) =>
        this.rules = [.. rules.Select(rule => (rule.Key, Condition.Parse(rule.Value)))];

    /// <summary>Such as <c>one</c>; <c>other</c> where no rule holds.</summary>
    public string Of(decimal number) => Of(number.ToString("0.############", CultureInfo.InvariantCulture));

    /// <param name="number">Its source form: digits, decimals that show, and an exponent of ten as in <c>1.2c6</c>.</param>
    public string Of(string number)
    {
        var operands = new Operands(number);
        return rules.FirstOrDefault(rule => rule.Condition.Holds(operands), ("other", null!)).Category;
    }

    /// <summary>What a rule asks of a number.</summary>
    private sealed class Operands
    {
        private readonly decimal n;
        private readonly int exponent;
        private readonly string decimals;

        public Operands(string number)
        {
            var parts = number.TrimStart('-').Split('c', 'e');
            exponent = parts.Length > 1 ? int.Parse(parts[1], CultureInfo.InvariantCulture) : 0;
            var digits = parts[0].Split('.');
            // Moving the sign of the decimals by the exponent keeps those that show.
            var fraction = digits.Length > 1 ? digits[1] : "";
            var whole = digits[0] + fraction[..Math.Min(exponent, fraction.Length)].PadRight(exponent, '0');
            decimals = fraction[Math.Min(exponent, fraction.Length)..];
            n = decimal.Parse(decimals == "" ? whole : $"{whole}.{decimals}", CultureInfo.InvariantCulture);
        }

        public decimal Of(char operand) =>
            operand switch
            {
                'n' => n,
                'i' => Math.Truncate(n),
                'v' => decimals.Length,
                'w' => decimals.TrimEnd('0').Length,
                'f' => Whole(decimals),
                't' => Whole(decimals.TrimEnd('0')),
                'c' or 'e' => exponent,
                _ => throw new FormatException($"A plural rule asks for '{operand}', which is not known."),
            };

        private static decimal Whole(string digits) => digits == "" ? 0 : decimal.Parse(digits, CultureInfo.InvariantCulture);
    }

    private sealed record Condition(ImmutableArray<ImmutableArray<Relation>> AnyOf)
    {
        public bool Holds(Operands operands) => AnyOf.Any(all => all.All(relation => relation.Holds(operands)));

        public static Condition Parse(string rule) =>
            new([
                .. rule.Split('@')[0]
                    .Split(" or ")
                    .Select(all => all.Split(" and ").Select(relation => Relation.Parse(relation.Trim())).ToImmutableArray()),
            ]);
    }

    /// <param name="Modulo">0 for none.</param>
    private sealed record Relation(char Operand, decimal Modulo, bool IsNot, ImmutableArray<(decimal From, decimal To)> Ranges)
    {
        public bool Holds(Operands operands)
        {
            var value = operands.Of(Operand);
            if (Modulo != 0)
                value %= Modulo;
            // A range holds whole numbers only.
            return Ranges.Any(range => value == Math.Truncate(value) && value >= range.From && value <= range.To) != IsNot;
        }

        public static Relation Parse(string relation)
        {
            var isNot = relation.Contains("!=", StringComparison.Ordinal);
            if (relation.Split(isNot ? "!=" : "=") is not [var left, var right] || left.Trim() is not [var operand, ..])
                throw new FormatException($"The plural rule '{relation}' can't be read.");
            var modulo = left.Split('%') is [_, var by] ? decimal.Parse(by, CultureInfo.InvariantCulture) : 0;
            return new(
                operand,
                modulo,
                isNot,
                [
                    .. right
                        .Split(',')
                        .Select(range => range.Split(".."))
                        .Select(ends =>
                            (decimal.Parse(ends[0], CultureInfo.InvariantCulture), decimal.Parse(ends[^1], CultureInfo.InvariantCulture))
                        ),
                ]
            );
        }
    }
}
