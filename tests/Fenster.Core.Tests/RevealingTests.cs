using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Words;
using FsCheck.Xunit;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

public sealed class RevealingTests
{
    private static readonly RuleSentences InEnglish = new(Language.English);

    private static readonly Pane Three = Pane(Labels("A B C D"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"));

    private static StudentView View(Moment moment, RevealRules? rules = null, string placements = "A1 B3") =>
        StudentView.At(moment, new Seat(Activity(Three, reveal: rules), seed: 4), On(Three, Response(placements)));

    [Theory]
    [InlineData(Moment.Placed, false)]
    [InlineData(Moment.Checked, false)]
    [InlineData(Moment.LastTry, false)]
    [InlineData(Moment.HandedIn, true)]
    [InlineData(Moment.Released, true)]
    public void Marks_score_and_key_are_there_from_their_moment_on(Moment moment, bool visible)
    {
        var view = View(moment, new() { Key = Moment.HandedIn });
        Assert.Equal(visible, view.Work.Score is not null);
        Assert.Equal(visible, view.Work.Panes[0]!.Marks is not null);
        Assert.Equal(visible, view.Work.Panes[0]!.Key is not null);
    }

    [Fact]
    public void Each_thing_has_its_own_moment()
    {
        var view = View(
            Moment.HandedIn,
            new()
            {
                Marks = Moment.Placed,
                Score = Moment.Released,
                Key = Moment.Never,
            }
        );
        Assert.NotNull(view.Work.Panes[0]!.Marks);
        Assert.Null(view.Work.Score);
        Assert.Null(view.Work.Panes[0]!.Key);
    }

    [Fact]
    public void What_is_never_revealed_is_not_there_at_any_moment()
    {
        var never = new RevealRules
        {
            Marks = Moment.Never,
            Score = Moment.Never,
            Key = Moment.Never,
        };
        foreach (var moment in Enum.GetValues<Moment>())
            Assert.True(View(moment, never).Work is { Score: null, Panes: [{ Marks: null, Key: null }] });
    }

    [Property]
    public bool No_view_before_the_moment_differs_when_only_the_key_differs(int seed)
    {
        var (pane, response) = RandomWork.Make(seed);
        var zones = pane.Targets.OfType<DropZone>().ToList();
        var other = pane with { Targets = [.. zones.Select((zone, i) => zone with { Accepts = zones[(i + 1) % zones.Count].Accepts })] };
        return Json(pane) == Json(other);

        string Json(Pane p) => JsonSerializer.Serialize(StudentView.At(Moment.LastTry, new Seat(Activity(p), seed), On(p, response)));
    }

    [Fact]
    public void Names_and_order_of_labels_follow_the_seed_and_not_the_key()
    {
        var orders = Enumerable
            .Range(0, 200)
            .Select(seed => string.Concat(Aliases.For(Three, seed).Labels.Select(l => l.Label.Id)))
            .ToList();
        Assert.Equal(24, orders.Distinct().Count());
        Assert.Equal(["l1", "l2", "l3", "l4"], Aliases.For(Three, 1).Labels.Select(l => l.Alias));
    }

    [Fact]
    public void Zones_are_named_from_top_to_bottom_and_from_left_to_right()
    {
        DropZone At(string id, double x, double y) => Zone(1, "A") with { Id = id, Region = new Core.Geometry.Rectangle(x, y, 10, 10) };
        var pane = Pane(Labels("A"), At("third", 500, 300), At("first", 100, 20), At("second", 10, 300));
        Assert.Equal(["first", "second", "third"], Aliases.For(pane, 9).Zones.Select(z => z.Zone.Id));
    }

    [Fact]
    public void A_bank_in_order_keeps_the_order_and_an_alphabetical_one_sorts()
    {
        var pane = Pane([new() { Id = "x", Text = "Rudder" }, new() { Id = "y", Text = "Boom" }, new() { Id = "z", Text = "mast" }]);
        Assert.Equal(["x", "y", "z"], Aliases.For(pane with { BankOrder = BankOrder.AsListed }, 3).Labels.Select(l => l.Label.Id));
        Assert.Equal(["y", "z", "x"], Aliases.For(pane with { BankOrder = BankOrder.Alphabetical }, 3).Labels.Select(l => l.Label.Id));
    }

    [Fact]
    public void A_move_in_a_students_names_means_the_panes_own_ids()
    {
        var aliases = Aliases.For(Three, 4);
        var move = aliases.Resolve(new PutDown("l2", 0, "z3"), out _);
        Assert.Equal(new PutDown(aliases.Labels[1].Label.Id, 0, "3"), move);
        Assert.Null(aliases.Resolve(new PutDown("A", 0, "z1"), out var why));
        Assert.Equal(Refused.NoSuchLabel, why!.Why);
        Assert.Null(aliases.Resolve(new TakeBack("l9", 0), out _));
    }

    [Fact]
    public void A_shuffle_is_the_same_for_the_same_seed_and_fair_over_many()
    {
        Assert.Equal(Shuffle.Of("abcdef", 42).AsEnumerable(), Shuffle.Of("abcdef", 42));
        // Each letter stands first one time in four, within five standard deviations.
        var firsts = Enumerable.Range(0, 4000).GroupBy(seed => Shuffle.Of("abcd", seed)[0]).ToDictionary(g => g.Key, g => g.Count());
        Assert.All(firsts.Values, count => Assert.InRange(count, 1000 - 137, 1000 + 137));
    }

    [Fact]
    public void The_sentences_say_what_the_rules_are()
    {
        var rules = new ScoreRules
        {
            WrongCost = 0.25m,
            MaximumGrade = 10,
            PassMark = 6,
        };
        var activity = Activity(Three, rules, new() { Score = Moment.Placed, Key = Moment.Never });
        Assert.Equal(
            "It is marked. Each zone is worth 1 point, 3 points in all. Each counts on its own. Each wrong one costs "
                + "0.25 points. Each further try costs nothing. The best grade is 10. The pass mark is 6.",
            InEnglish.Score(activity)
        );
        Assert.Equal(
            "Right and wrong show after handing in. The score shows as soon as a label is put down. The right places show never.",
            InEnglish.Reveal(activity)
        );
        Assert.EndsWith("Each zone takes one label. Each label is checked as soon as it is put down.", InEnglish.Check(activity));
        Assert.Equal(
            "A label counts when it lies in its zone. Each label can be used once. Each "
                + "zone takes one label. Students have no check before handing in.",
            InEnglish.Check(Activity(Three))
        );
    }

    [Fact]
    public void The_sentences_tell_what_a_check_does_and_what_else_is_shown()
    {
        var activity = Activity(Three with { Explanation = "Because." }) with
        {
            Rules = new()
            {
                Check = new(2, WrongLabels.GoBack, RightLabels.HeldFast),
                Reveal = new() { Marks = Moment.Checked, Explanation = Moment.Closed },
            },
            ScoreBands = [new(0, "Once more.")],
        };
        Assert.EndsWith(
            "Students have 2 checks before handing in. A label that was found wrong goes "
                + "back to the bank. A label that was found right stays where it is.",
            InEnglish.Check(activity)
        );
        Assert.Equal(
            "Right and wrong show after each check. The score shows after handing in. The right places show once the "
                + "activity has closed. Your teacher’s feedback shows after handing in. Explanations show once the activity has closed.",
            InEnglish.Reveal(activity)
        );
        // Shortened, what shows at the same time stands together.
        Assert.EndsWith(
            "Right and wrong show after each check. The score and your teacher’s feedback show after "
                + "handing in. The right places and explanations show once the activity has closed.",
            InEnglish.Short(activity)
        );
        // Where right and wrong are not seen before handing in, a check does nothing to labels.
        Assert.EndsWith("2 checks before handing in.", InEnglish.Check(activity with { Rules = activity.Rules with { Reveal = new() } }));
    }

    private static string Told(DescriptionFor? descriptions, Moment moment, bool isSound = true)
    {
        var media = new string('a', 64);
        var matching = new Matching
        {
            Id = "m",
            Left = [new("1", "One"), new("2", "Two")],
            Right =
            [
                new("3", "planted: one blast", isSound ? new SoundFace(media) : new PictureFace(media, 9, 9)),
                new("4", "planted: two blasts", isSound ? new SoundFace(media) : new PictureFace(media, 9, 9)),
            ],
            Pairs = [new("1", "3"), new("2", "4")],
            Descriptions = descriptions,
        };
        var activity = Activity(new Pane { Id = "p", Targets = [matching] }, reveal: new() { Key = Moment.HandedIn });
        var view = StudentView.At(moment, new Seat(activity, seed: 4), ImmutableDictionary<string, Response>.Empty);
        var seen = Assert.IsType<TargetView.Linking>(Assert.Single(view.Panes[0].Targets));
        var key = view.Work.Panes[0]!.Key?.Others.Select(other => other.Text) ?? [];
        return string.Join(
            '|',
            seen.Left.Concat(seen.Right).Select(item => item.Number is { } number ? $"Number {number}" : item.Text).Concat(key)
        );
    }

    [Fact]
    public void What_a_matched_sound_is_described_as_is_kept_back_until_the_key_shows()
    {
        Assert.DoesNotContain("planted", Told(null, Moment.Placed));
        Assert.Contains("Number 1", Told(null, Moment.Placed));
        Assert.Contains("Number 2", Told(null, Moment.Placed));
        Assert.Contains("planted: one blast", Told(null, Moment.HandedIn));
        Assert.Contains("planted: one blast", Told(DescriptionFor.Students, Moment.Placed));
        // What a picture shows is told to who can't see it, unless the teacher keeps it back.
        Assert.Contains("planted: one blast", Told(null, Moment.Placed, isSound: false));
        Assert.DoesNotContain("planted", Told(DescriptionFor.Teachers, Moment.Placed, isSound: false));
    }

    [Theory]
    [InlineData(false, null, true)]
    [InlineData(true, null, false)]
    [InlineData(true, DescriptionFor.Teachers, true)]
    [InlineData(false, DescriptionFor.Students, false)]
    public void What_a_label_of_a_picture_or_sound_is_described_as_is_told_with_the_key_where_it_is_kept_back(
        bool isPicture,
        DescriptionFor? description,
        bool isKept
    )
    {
        var media = new string('a', 64);
        Label Shown(string id, string text) =>
            new()
            {
                Id = id,
                Text = text,
                Face = isPicture ? new PictureFace(media, 9, 9) : new SoundFace(media),
                Description = description,
            };
        var pane = Three with
        {
            Labels = [Shown("A", "planted z"), Shown("B", "planted b"), .. Three.Labels[2..]],
            BankOrder = BankOrder.Alphabetical,
        };
        StudentView At(Moment moment) =>
            StudentView.At(moment, new Seat(Activity(pane, reveal: new() { Key = Moment.HandedIn }), seed: 4), On(pane, Response("A1 B3")));

        var before = At(Moment.Placed);
        Assert.Equal(isKept, !JsonSerializer.Serialize(before).Contains("planted", StringComparison.Ordinal));
        var texts = before.Panes[0].Labels.Select(label => label.Text).ToList();
        // By the alphabet goes only what may be read; what is kept back comes after it.
        Assert.Equal(isKept ? ["Label C", "Label D"] : ["Label C", "Label D", "planted b", "planted z"], texts.Take(isKept ? 2 : 4));
        Assert.Equal(isKept, before.Panes[0].Labels.Any(label => label.Number == 3 && label.Text == ""));
        var key = At(Moment.HandedIn).Work.Panes[0]!.Key!;
        Assert.Equal(isKept ? ["planted b", "planted z"] : [], key.Described.Select(label => label.Text).Order());
    }
}
