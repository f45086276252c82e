using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Tests;

/// <summary>Reads the worked examples out of docs/scoring.md and runs them.</summary>
public sealed partial class ScoringPageTests
{
    private static string Page()
    {
        for (var folder = new DirectoryInfo(AppContext.BaseDirectory); folder is not null; folder = folder.Parent)
            if (File.Exists(Path.Combine(folder.FullName, "docs", "scoring.md")))
                return File.ReadAllText(Path.Combine(folder.FullName, "docs", "scoring.md"));
        throw new FileNotFoundException("docs/scoring.md is in no folder above the program.");
    }

    public static TheoryData<string> Examples => [.. Fenced().Matches(Page()).Select(match => match.Groups[1].Value)];

    [GeneratedRegex("```example\n(.*?)```", RegexOptions.Singleline)]
    private static partial Regex Fenced();

    [Fact]
    public void The_page_has_its_examples() => Assert.True(Examples.Count >= 30);

    [Fact]
    public void Of_several_attempts_it_says_which_counts()
    {
        var told = Page().Split("## Several attempts")[1];
        foreach (var (policy, grade) in Policies().Matches(told).Select(match => (match.Groups[1].Value, match.Groups[2].Value)))
        {
            var grades = Grades().Match(told).Groups[1].Value.Split(", ").Select(text => decimal.Parse(text, CultureInfo.InvariantCulture));
            var counted = Giving.Counting.Counted([.. grades], each => each, Enum.Parse<AttemptPolicy>(policy, ignoreCase: true));
            Assert.Equal(
                grade,
                StudentScore
                    .Of([.. counted.Select(each => new StudentScore(each, 10, Math.Round(each, 2), 10, each, false))])
                    .Grade.ToString("0.00", CultureInfo.InvariantCulture)
            );
        }
        Assert.Equal(4, Policies().Count(told));
    }

    [GeneratedRegex(@"Grades of ([\d., ]+\d)")]
    private static partial Regex Grades();

    [GeneratedRegex(@"\b(best|latest|first|mean): (\d\.\d\d)")]
    private static partial Regex Policies();

    [Theory, MemberData(nameof(Examples))]
    public void What_the_page_says_is_what_the_program_does(string example)
    {
        var worked = new WorkedExample(example);
        var (pane, response) = (worked.Pane, worked.Response);
        string Field(string name, string usual = "") => worked.Field(name, usual);
        bool Has(string name) => worked.Field(name) != "";
        decimal Number(string name) => decimal.Parse(Field(name, "0"), CultureInfo.InvariantCulture);

        var rules = new ScoreRules
        {
            WrongCost = Number("wrong cost"),
            TryCost = Number("try cost"),
            Manner = Field("manner") == "all or nothing" ? ScoreManner.AllOrNothing : ScoreManner.EachOnItsOwn,
            MaximumGrade = Has("maximum grade") ? Number("maximum grade") : null,
            PassMark = Has("pass mark") ? Number("pass mark") : null,
        };
        ImmutableArray<Award> awards =
        [
            .. Field("awarded")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(award => award.Split('='))
                .Select(award => new Award(
                    award[0],
                    decimal.Parse(award[1], CultureInfo.InvariantCulture),
                    "a teacher",
                    DateTimeOffset.UnixEpoch
                )),
        ];
        var score = Scorer.Score(
            Build.Activity(pane, rules),
            Build.On(pane, response),
            ImmutableDictionary<string, ImmutableArray<Award>>.Empty.Add(pane.Id, awards)
        );
        var marks = Checker.Check(pane, response, rules, awards);

        Assert.Equal(Field("score"), string.Create(CultureInfo.InvariantCulture, $"{score.Score:0.####} of {score.Possible:0.####}"));
        Assert.Equal(Field("so far", "no"), score.IsSoFar ? "yes" : "no");
        if (Has("verdicts"))
            Assert.Equal(Field("verdicts"), string.Join(' ', marks.Placements.Select(mark => mark.Verdict)));
        if (Has("pin verdicts"))
            Assert.Equal(Field("pin verdicts"), string.Join(' ', marks.Pins.Select(mark => mark.Verdict)));
        if (Has("wrong actions"))
            Assert.Equal(Number("wrong actions"), marks.WrongActions);
        if (Has("grade"))
            Assert.Equal(
                Field("grade"),
                $"{score.Grade.ToString("0.00", CultureInfo.InvariantCulture)}{score.Passed switch { true => " passed", false => " not passed", null => "" }}"
            );
    }
}
