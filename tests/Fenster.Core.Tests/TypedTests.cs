using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Tests;

/// <summary>Typed words and numbers.</summary>
public sealed class TypedTests
{
    private static decimal Credit(string typed, string accepted, SpellingRules rules) =>
        Spellings.Credit(typed, new TypedText([new(accepted)]) { Rules = rules });

    [Theory]
    [InlineData("  Kicking   strap ", "Kicking strap", true)]
    [InlineData("kicking strap", "Kicking strap", false)]
    [InlineData("\uFB01le", "file", true)]
    [InlineData("\u212Bngstrom", "Ångstrom", true)]
    [InlineData("A\u030Angstrom", "Ångstrom", true)]
    [InlineData("", "Boom", false)]
    public void Both_sides_are_compared_in_unicodes_own_form_and_without_needless_blanks(string typed, string accepted, bool right) =>
        Assert.Equal(right ? 1 : 0, Credit(typed, accepted, new(IgnoreCapitals: false)));

    /// <summary>Pairs that CaseFolding.txt and chapter 5.18 of the Unicode standard name; from memory.</summary>
    [Theory]
    [InlineData("STRASSE", "Straße")]
    [InlineData("ΣΊΣΥΦΟΣ", "Σίσυφος")]
    [InlineData("ǅ", "ǆ")]
    [InlineData("ŒUVRE", "œuvre")]
    [InlineData("ſail", "SAIL")]
    public void Capitals_are_ignored_by_full_case_folding(string typed, string accepted) => Assert.Equal(1, Credit(typed, accepted, new()));

    [Theory]
    [InlineData("gouvernail d'etai", "gouvernail d’étai", 1)]
    [InlineData("self tacking", "self-tacking", 1)]
    [InlineData("selftacking", "self-tacking", 0)]
    public void Accents_and_punctuation_are_ignored_by_choice(string typed, string accepted, int credit)
    {
        Assert.Equal(credit, Credit(typed, accepted, new(IgnoreAccents: true, IgnorePunctuation: true)));
        Assert.Equal(0, Credit(typed, accepted, new()));
    }

    [Theory]
    [InlineData("mainsial", "mainsail", 1)]
    [InlineData("mainsl", "mainsail", 0)]
    [InlineData("jeb", "jib", 0)]
    [InlineData("bom", "boom", 1)]
    [InlineData("centrebaord", "centreboard", 1)]
    [InlineData("cntrebaord", "centreboard", 1)]
    [InlineData("cntrebaor", "centreboard", 0)]
    public void Slips_are_forgiven_one_for_each_eight_characters_begun_and_none_in_short_words(string typed, string accepted, int credit) =>
        Assert.Equal(credit, Credit(typed, accepted, new(ForgiveSlips: true)));

    [Fact]
    public void An_exact_match_counts_before_a_forgiven_one()
    {
        var answer = new TypedText([new("starboard", 1), new("starbord", 0.5m)]) { Rules = new(ForgiveSlips: true) };
        Assert.Equal(0.5m, Spellings.Credit("starbord", answer));
        Assert.Equal(1m, Spellings.Credit("starboardd", answer));
    }

    /// <summary>
    /// Published pairs, from memory: the first from Levenshtein's best-known example, the third tells the restricted distance from the
    /// unrestricted one, which is 2.
    /// </summary>
    [Theory]
    [InlineData("kitten", "sitting", 3)]
    [InlineData("ab", "ba", 1)]
    [InlineData("ca", "abc", 3)]
    [InlineData("", "abc", 3)]
    [InlineData("flaw", "lawn", 2)]
    public void The_distance_is_that_of_optimal_string_alignment(string from, string to, int distance)
    {
        Assert.Equal(distance, new SlipPattern(from).Distance(to));
        Assert.Equal(distance, new SlipPattern(to).Distance(from));
    }

    [Fact]
    public void One_slip_is_a_distance_of_one()
    {
        var random = new Random(61);
        string Word() => new([.. Enumerable.Range(0, random.Next(0, 5)).Select(_ => "ab"[random.Next(2)])]);
        for (var i = 0; i < 5000; i++)
        {
            var (from, to) = (Word(), Word());
            Assert.Equal(new SlipPattern(from).Distance(to) == 1, Spellings.IsOneSlip(from, to));
        }
    }

    private static readonly TypedNumber Height = new(2.5m) { Within = 0.1m, Units = [new("m", 1m), new("cm", 0.01m), new("km", 1000m)] };

    [Theory]
    [InlineData("2.5", true)]
    [InlineData("2,5", true)]
    [InlineData("+2.6", true)]
    [InlineData("2.4 m", true)]
    [InlineData("2.61", false)]
    [InlineData("250cm", true)]
    [InlineData("0.0025 km", true)]
    [InlineData("25e-1", true)]
    [InlineData("0.25 × 10^1 m", true)]
    [InlineData("\u22122.5", false)]
    [InlineData("2.5 ft", false)]
    [InlineData("two and a half", false)]
    [InlineData("2.5.5", false)]
    [InlineData("", false)]
    public void A_number_is_right_within_its_tolerance_in_any_of_its_units(string typed, bool right) =>
        Assert.Equal(right, Numbers.IsRight(typed, Height));

    [Theory]
    [InlineData("1,234", "1234", true)]
    [InlineData("1,234", "1.234", true)]
    [InlineData("1 234 567", "1234567", true)]
    [InlineData("1.234.567,5", "1234567.5", true)]
    [InlineData("1,234,567.5", "1234567.5", true)]
    [InlineData("1'234", "1234", true)]
    [InlineData("12,34", "1234", false)]
    [InlineData("0,123", "123", false)]
    [InlineData("1,2345,678", "12345678", false)]
    public void Thousands_may_be_separated_and_a_doubtful_mark_counts_for_the_student(string typed, string value, bool right) =>
        Assert.Equal(right, Numbers.IsRight(typed, new TypedNumber(ExactNumber.Parse(value)!.Value)));

    [Fact]
    public void A_relative_tolerance_is_a_share_of_the_answer()
    {
        var planck = new TypedNumber(ExactNumber.Parse("6.62607015e-34")!.Value) { WithinShare = 0.01m };
        Assert.True(Numbers.IsRight("6.63e-34", planck));
        Assert.False(Numbers.IsRight("6.7e-34", planck));
        Assert.False(Numbers.IsRight("0", planck));
    }

    [Theory]
    [InlineData("12.50", "12.5")]
    [InlineData("-0.001", "-0.001")]
    [InlineData("1200", "1200")]
    [InlineData("0", "0")]
    [InlineData("-0.0", "0")]
    [InlineData("5e40", "5e40")]
    [InlineData("1e-30", "1e-30")]
    public void An_exact_number_is_written_as_json_writes_it(string text, string written)
    {
        Assert.Equal(written, ExactNumber.Parse(text)!.Value.ToString());
        Assert.Equal(ExactNumber.Parse(text), ExactNumber.Parse(written));
    }

    [Theory]
    [InlineData("")]
    [InlineData("1e999")]
    [InlineData("1e")]
    [InlineData(".")]
    [InlineData("1.2.3")]
    [InlineData("NaN")]
    public void What_is_no_number_is_none(string text) => Assert.Null(ExactNumber.Parse(text));

    [Fact]
    public void Exact_numbers_neither_round_nor_forget()
    {
        ExactNumber a = 2.6m,
            b = 2.5m;
        Assert.Equal((ExactNumber)0.1m, a - b);
        Assert.True(a > b && b < a && a >= b && b <= a);
        Assert.Equal((ExactNumber)6.5m, a * b);
    }

    [Fact]
    public void Slips_of_long_texts_are_counted_as_a_table_counts_them()
    {
        var random = new Random(64);
        string Word(int length, string letters) =>
            string.Concat(Enumerable.Range(0, length).Select(_ => letters[random.Next(letters.Length)]));
        for (var i = 0; i < 400; i++)
        {
            var from = Word(random.Next(1, 200), i % 2 == 0 ? "ab" : "abcdefé");
            var changed = from.ToList();
            for (var n = random.Next(30); n > 0; n--)
                switch (random.Next(4))
                {
                    case 0 when changed.Count > 0:
                        changed.RemoveAt(random.Next(changed.Count));
                        break;
                    case 1:
                        changed.Insert(random.Next(changed.Count + 1), 'b');
                        break;
                    case 2 when changed.Count > 1:
                        var at = random.Next(changed.Count - 1);
                        (changed[at], changed[at + 1]) = (changed[at + 1], changed[at]);
                        break;
                    case var _ when changed.Count > 0:
                        changed[random.Next(changed.Count)] = 'a';
                        break;
                }
            var to = i % 5 == 0 ? Word(random.Next(150), "abc") : string.Concat(changed);
            var (distance, pattern) = (ByTable(from, to), new SlipPattern(from));
            Assert.Equal(distance, pattern.Distance(to));
            Assert.True(pattern.IsWithin(to, distance));
            Assert.False(distance > 0 && pattern.IsWithin(to, distance - 1));
        }
    }

    private static int ByTable(string a, string b)
    {
        var rows = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
            rows[i, 0] = i;
        for (var j = 0; j <= b.Length; j++)
            rows[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
        for (var j = 1; j <= b.Length; j++)
        {
            rows[i, j] = Math.Min(rows[i - 1, j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1), Math.Min(rows[i - 1, j], rows[i, j - 1]) + 1);
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                rows[i, j] = Math.Min(rows[i, j], rows[i - 2, j - 2] + 1);
        }
        return rows[a.Length, b.Length];
    }
}
