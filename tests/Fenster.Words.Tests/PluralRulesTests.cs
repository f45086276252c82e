using System.Globalization;
using System.Text.Json;

namespace Fenster.Words.Tests;

/// <summary>
/// Against the plural rules of Unicode CLDR and the samples that stand in them. Source: <c>supplemental/plurals.json</c> of the package
/// cldr-core (Unicode licence).
/// </summary>
public sealed class PluralRulesTests
{
    private static readonly JsonElement Cldr = JsonDocument
        .Parse(File.ReadAllText(Path.Combine(House.Root(), "node_modules/cldr-core/supplemental/plurals.json")))
        .RootElement.GetProperty("supplemental")
        .GetProperty("plurals-type-cardinal");

    private static Dictionary<string, string> RulesOf(JsonElement language) =>
        language.EnumerateObject().ToDictionary(rule => rule.Name["pluralRule-count-".Length..], rule => rule.Value.GetString()!);

    private static string WithoutSamples(string rule) => rule.Split('@')[0].Trim();

    [Fact]
    public void Each_sample_of_each_language_falls_into_its_category()
    {
        var samples = 0;
        foreach (var language in Cldr.EnumerateObject())
        {
            var rules = RulesOf(language.Value);
            var plurals = new PluralRules(rules.Where(rule => rule.Key != "other"));
            foreach (var (category, rule) in rules)
            foreach (var sample in rule.Split('@').Skip(1).SelectMany(Samples))
            {
                Assert.True(plurals.Of(sample) == category, $"{language.Name}: {sample} is {plurals.Of(sample)}, not {category}");
                samples++;
            }
        }
        Assert.True(samples > 5000, $"Only {samples} samples were found.");
    }

    /// <param name="samples">Such as <c>integer 2~4, 22, 1c6, …</c>; of a range both ends are taken, which are alike.</param>
    private static IEnumerable<string> Samples(string samples) =>
        samples[samples.IndexOf(' ', StringComparison.Ordinal)..]
            .Split([',', '~'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Where(sample => sample != "…");

    [Fact]
    public void The_rules_in_our_files_are_those_of_the_same_language()
    {
        foreach (var language in House.Languages)
        {
            var ours = language
                .GetProperty("language")
                .GetProperty("plurals")
                .EnumerateObject()
                .ToDictionary(rule => rule.Name, rule => rule.Value.GetString()!);
            var theirs = RulesOf(Cldr.GetProperty(language.Code())).Where(rule => rule.Key != "other");
            Assert.Equal(theirs.Select(rule => (rule.Key, WithoutSamples(rule.Value))), ours.Select(rule => (rule.Key, rule.Value)));
        }
    }

    [Theory]
    [InlineData("en", "1", "one")]
    [InlineData("en", "0.5", "other")]
    [InlineData("fr", "0.5", "one")]
    [InlineData("ar", "2", "two")]
    [InlineData("ar", "11", "many")]
    public void A_number_is_counted_as_it_is_written(string language, string number, string category)
    {
        var rules = RulesOf(Cldr.GetProperty(language)).Where(rule => rule.Key != "other");
        Assert.Equal(category, new PluralRules(rules).Of(decimal.Parse(number, CultureInfo.InvariantCulture)));
    }

    [Theory]
    [InlineData("q = 1")]
    [InlineData("n")]
    public void A_rule_that_can_not_be_read_is_refused(string rule) =>
        Assert.Throws<FormatException>(() => new PluralRules([KeyValuePair.Create("one", rule)]).Of(1));
}
