using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Scoring;
using Finding = Fenster.Core.Insight.Finding;

namespace Fenster.Core.Tests;

/// <summary>
/// The rules that make findings, on made-up classes of which the truth is known: two hundred seeded classes for each thing that can be
/// wrong, and as many in which nothing is. docs/insight.md has the table.
/// </summary>
public sealed class FindingTests
{
    private const int Classes = 200;

    private static readonly string[] Names = [.. Enumerable.Range(0, 12).Select(i => $"{(char)('A' + i)}")];

    /// <summary>Twelve zones, each with its own label, and two labels more.</summary>
    private static readonly Pane Shown = new()
    {
        Id = "p",
        Labels = [.. Names.Append("X").Append("Y").Select(name => new Label { Id = name, Text = name })],
        Targets =
        [
            .. Names.Select(
                (name, i) =>
                    new DropZone
                    {
                        Id = $"z{name}",
                        Region = new Rectangle(20 + i * 80, 40, 60, 40),
                        Accepts = [new(name)],
                    }
            ),
        ],
    };

    /// <summary>Twelve hidden zones of a radius of 40 pu.</summary>
    private static readonly Pane Hidden = Shown with
    {
        Targets =
        [
            .. Names.Select(
                (name, i) =>
                    new HiddenZone
                    {
                        Id = $"z{name}",
                        Region = new Circle(new(100 + i % 4 * 250, 120 + i / 4 * 240), 40),
                        Accepts = [new(name)],
                    }
            ),
        ],
    };

    /// <summary>What a student means by a label: the index of a zone, or wherever there is room; null to leave it out.</summary>
    /// <param name="ability">Of a standard normal distribution.</param>
    private delegate int? Choice(Random random, double ability, int label);

    /// <summary>The model of Rasch (1960): the chance to know a label grows with ability less difficulty, as the logistic function of it.</summary>
    private static bool Knows(Random random, double ability, int label) =>
        random.NextDouble() < 1 / (1 + Math.Exp(-1.5 * (ability - (label % 4 - 2.2) * 0.6)));

    /// <summary>Wherever there is room: the student does not know.</summary>
    private const int Wherever = -1;

    private static int? Clean(Random random, double ability, int label) =>
        Knows(random, ability, label) ? label
        : random.Next(20) == 0 ? null
        : Wherever;

    private static Response Answer(Pane pane, Random random, double ability, Choice choice, Func<Random, int, int, Point>? at = null)
    {
        var meant = Enumerable.Range(0, Names.Length).Select(label => (label, zone: choice(random, ability, label))).ToList();
        if (pane.Targets[0] is HiddenZone)
            return new()
            {
                Pins =
                [
                    .. meant
                        .Where(put => put.zone is not null)
                        .Select(put => new Pin(Names[put.label], 0, at!(random, put.label, put.zone!.Value))),
                ],
            };
        // What is known goes to its place first; the rest goes to what is left, in any order.
        var known = meant.Where(put => put.zone >= 0).DistinctBy(put => put.zone).ToList();
        var free = Enumerable.Range(0, Names.Length).Except(known.Select(put => put.zone!.Value)).ToArray();
        random.Shuffle(free);
        return new()
        {
            Placements =
            [
                .. known
                    .Concat(meant.Where(put => put.zone == Wherever).Zip(free, (put, zone) => (put.label, zone: (int?)zone)))
                    .Select(put => new Placement(Names[put.label], 0, pane.Targets[put.zone!.Value].Id)),
            ],
        };
    }

    /// <summary>Inside the zone that is meant; or for a wrong one somewhere on the picture.</summary>
    private static Point Anywhere(Random random, int label, int zone) =>
        zone == label
            ? new(100 + label % 4 * 250 + random.Next(-25, 26), 120 + label / 4 * 240 + random.Next(-25, 26))
            : new(random.Next(1000), random.Next(750));

    /// <summary>In how many of the classes a finding is made that is looked for.</summary>
    private static int Found(
        Pane pane,
        int size,
        Choice choice,
        Func<Finding, bool> isIt,
        Func<Random, int, int, Point>? at = null,
        bool guesses = false
    )
    {
        var activity = new Activity { Title = "T", Panes = [pane] };
        var guess = guesses ? (double?)Guessing.Of(pane, activity.Rules.Score).Share : null;
        return Enumerable
            .Range(0, Classes)
            .AsParallel()
            .Count(seed =>
            {
                var random = new Random(1000 + seed);
                var responses = Enumerable
                    .Range(0, size)
                    .Select(_ =>
                    {
                        // Box and Muller's normal numbers.
                        var ability = Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
                        return ImmutableDictionary<string, Response>.Empty.Add("p", Answer(pane, random, ability, choice, at));
                    })
                    .ToList();
                var insight = ActivityInsight.Of(activity, [.. responses.Select(response => new Work(response))]);
                return Finding.In(activity, insight, responses, guess).Any(isIt);
            });
    }

    private static bool IsAt(Finding finding, int label) => finding.Target?.Id == $"z{Names[label]}";

    [Theory]
    [InlineData(24, false)]
    [InlineData(40, false)]
    [InlineData(200, false)]
    [InlineData(40, true)]
    public void A_class_in_which_nothing_is_wrong_is_told_nothing(int size, bool isHidden) =>
        Assert.InRange(Found(isHidden ? Hidden : Shown, size, Clean, _ => true, Anywhere, guesses: true), 0, Classes / 20);

    [Theory]
    [InlineData(24)]
    [InlineData(40)]
    public void A_key_that_is_wrong_for_one_label_is_found(int size) =>
        // The key has the distractor Y at a zone where C belongs.
        Assert.InRange(
            Found(
                Shown with
                {
                    Targets = Shown.Targets.SetItem(2, (DropZone)Shown.Targets[2] with { Accepts = [new("Y")] }),
                },
                size,
                Clean,
                finding => finding is Finding.KeyDoubt && IsAt(finding, 2)
            ),
            Classes * 95 / 100,
            Classes
        );

    [Fact]
    public void A_class_that_guesses_is_found() =>
        Assert.InRange(
            Found(
                Shown,
                24,
                (random, _, label) => (label * 5 + random.Next(Names.Length)) % Names.Length,
                finding => finding is Finding.Guessed,
                guesses: true
            ),
            Classes * 95 / 100,
            Classes
        );

    [Theory]
    [InlineData(24)]
    [InlineData(40)]
    public void A_zone_that_is_too_small_is_found(int size) =>
        // Who knows B points 5 to 18 pu outside of its circle half the time.
        Assert.InRange(
            Found(
                Hidden,
                size,
                (random, ability, label) => label == 1 ? 1 : Clean(random, ability, label),
                finding => finding is Finding.TooSmall && IsAt(finding, 1),
                (random, label, zone) =>
                    label == 1 && random.Next(2) == 0 ? new(100 + 250 + 45 + random.Next(14), 120) : Anywhere(random, label, zone)
            ),
            Classes * 95 / 100,
            Classes
        );

    [Theory]
    [InlineData(24)]
    [InlineData(40)]
    public void Two_labels_that_are_taken_for_each_other_are_found(int size) =>
        // Half of the class has them the wrong way round.
        Assert.InRange(
            Found(Shown, size, Swapping(), finding =>
                finding is Finding.MixedUp mixed && IsAt(mixed, 4) && mixed.Other.Id == $"z{Names[5]}"
            ),
            Classes * 95 / 100,
            Classes
        );

    private static Choice Swapping()
    {
        var swaps = new ThreadLocal<bool>();
        return (random, ability, label) =>
        {
            if (label == 0)
                swaps.Value = random.Next(2) == 0;
            return label is 4 or 5 && swaps.Value ? 9 - label
                : label is 4 or 5 ? label
                : Clean(random, ability, label);
        };
    }

    [Theory]
    [InlineData(60)]
    [InlineData(100)]
    public void What_the_best_get_wrong_is_found(int size) =>
        // Of the better half nineteen in twenty leave it open, of the others one in twenty.
        Assert.InRange(
            Found(
                Shown,
                size,
                (random, ability, label) =>
                    label != 7 ? Clean(random, ability, label)
                    : random.NextDouble() < (ability > 0 ? 0.95 : 0.05) ? null
                    : label,
                finding => finding is Finding.BestMiss && IsAt(finding, 7)
            ),
            Classes * 95 / 100,
            Classes
        );

    [Fact]
    public void Fewer_than_ten_carry_no_finding() => Assert.Equal(0, Found(Shown, 9, Swapping(), _ => true, guesses: true));

    [Fact]
    public void What_cannot_be_reckoned_finds_nothing_and_breaks_nothing()
    {
        var activity = new Activity { Title = "T", Panes = [ProofTests.EveryKind] };
        foreach (var size in (int[])[0, 1, 12])
        foreach (var response in (Response[])[Response.Empty, ProofTests.KeyAnswers])
        {
            var responses = Enumerable
                .Repeat(ImmutableDictionary<string, Response>.Empty.Add(ProofTests.EveryKind.Id, response), size)
                .ToList();
            var insight = ActivityInsight.Of(activity, [.. responses.Select(each => new Work(each))]);
            var findings = Finding.In(activity, insight, responses, 0.1);
            Assert.All(findings, finding => Assert.True(finding is Finding.Hardly or Finding.LeftOut or Finding.Guessed, $"{finding}"));
        }
    }
}
