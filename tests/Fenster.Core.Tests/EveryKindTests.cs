using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using FsCheck.Xunit;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>What holds for every kind of target at once, whatever a student does.</summary>
public sealed class EveryKindTests
{
    private static readonly Pane Pane = ProofTests.EveryKind;
    private static readonly Response Key = Keys.Of(Pane);

    /// <summary>Single steps: the key's, each alone, and wrong ones.</summary>
    private static IEnumerable<(Func<Response, bool> IsNew, Func<Response, Response> Do)> KeySteps()
    {
        foreach (var placement in Key.Placements)
            yield return (
                r => r.Placements.All(p => p.Zone != placement.Zone && (p.Label, p.Copy) != (placement.Label, placement.Copy)),
                r => r with { Placements = r.Placements.Add(placement) }
            );
        // A total that is half done is wrong by the rules, so that its labels are put down together.
        var bags = Key.Pins.Where(IsBag).ToImmutableArray();
        yield return (r => !r.Pins.Any(IsBag), r => r with { Pins = r.Pins.AddRange(bags) });
        foreach (var pin in Key.Pins.Except(bags))
            yield return (r => r.Pins.All(p => (p.Label, p.Copy) != (pin.Label, pin.Copy)), r => r with { Pins = r.Pins.Add(pin) });
        foreach (var (id, points) in Key.Marks)
        {
            foreach (var point in points)
                yield return (
                    r => r.Marks.GetValueOrDefault(id, []) is var there && there.Length < points.Length && !there.Contains(point),
                    r => r with { Marks = r.Marks.SetItem(id, r.Marks.GetValueOrDefault(id, []).Add(point)) }
                );
        }
        foreach (var (id, text) in Key.Texts)
            yield return (r => !r.Texts.ContainsKey(id), r => r with { Texts = r.Texts.SetItem(id, text) });
        foreach (var (id, picks) in Key.Picks)
            yield return (r => !r.Picks.ContainsKey(id), r => r with { Picks = r.Picks.SetItem(id, picks) });
        foreach (var (id, links) in Key.Links)
        {
            foreach (var link in links)
                yield return (
                    r => !r.Links.GetValueOrDefault(id, []).Contains(link),
                    r => r with { Links = r.Links.SetItem(id, r.Links.GetValueOrDefault(id, []).Add(link)) }
                );
        }
        foreach (var (id, codes) in Key.Codes)
            yield return (r => true, r => r with { Codes = r.Codes.SetItem(id, r.Codes.GetValueOrDefault(id, []).AddRange(codes)) });
    }

    private static bool IsBag(Pin pin) => pin.Label.StartsWith("bag", StringComparison.Ordinal);

    /// <summary>Blind work with some of the key's steps, from a seed.</summary>
    private static Response RandomResponse(Random random)
    {
        var response = Core.Model.Response.Empty with
        {
            Texts =
                random.Next(2) == 0
                    ? ImmutableDictionary<string, string>.Empty
                    : ImmutableDictionary<string, string>.Empty.Add("words", "spar").Add("number", "7"),
            Marks =
                random.Next(2) == 0
                    ? Core.Model.Response.Empty.Marks
                    : Core.Model.Response.Empty.Marks.Add("spots", [new(random.Next(1000), random.Next(700))]),
            Codes = Core.Model.Response.Empty.Codes.Add("lock", ["1805"]),
        };
        foreach (var label in Pane.Labels.OrderBy(_ => random.Next()).Take(random.Next(4)))
            response = response with { Pins = response.Pins.Add(new(label.Id, 0, new(random.Next(1000), random.Next(700)))) };
        foreach (var step in KeySteps())
            if (random.Next(3) == 0 && step.IsNew(response))
                response = step.Do(response);
        return response;
    }

    private static decimal Score(Response response, ScoreRules? rules = null) =>
        Scorer.Score(Pane, response, Checker.Check(Pane, response), rules ?? new() { WrongCost = 0.25m }).Score;

    [Property]
    public bool A_score_stays_between_nothing_and_everything(int seed) =>
        Score(RandomResponse(new(seed))) is var score && score >= 0 && score <= Pane.PossiblePoints;

    [Fact]
    public void The_key_earns_everything_and_an_empty_response_nothing()
    {
        Assert.Equal(Pane.PossiblePoints - Waiting, Score(Key));
        Assert.Equal(0, Score(Core.Model.Response.Empty));
        Assert.Equal(0, Score(Core.Model.Response.Empty, new() { Manner = ScoreManner.AllOrNothing }));
    }

    private static decimal Waiting => Pane.Targets.OfType<OpenNote>().Sum(note => note.Points);

    [Property]
    public bool One_more_right_action_of_any_kind_never_lowers_the_score(int seed)
    {
        var response = RandomResponse(new(seed));
        return KeySteps().Where(step => step.IsNew(response)).All(step => Score(step.Do(response)) >= Score(response));
    }

    [Property]
    public bool The_order_of_the_response_changes_nothing(int seed)
    {
        var random = new Random(seed);
        var response = RandomResponse(random);
        var other = response with
        {
            Placements = [.. response.Placements.OrderBy(_ => random.Next())],
            Pins = [.. response.Pins.OrderBy(_ => random.Next())],
            Marks = response.Marks.ToImmutableDictionary(
                mark => mark.Key,
                mark => mark.Value.OrderBy(_ => random.Next()).ToImmutableArray()
            ),
            Links = response.Links.ToImmutableDictionary(
                links => links.Key,
                links => links.Value.OrderBy(_ => random.Next()).ToImmutableArray()
            ),
        };
        return Score(response) == Score(other) && Checker.Check(Pane, response).Targets.SequenceEqual(Checker.Check(Pane, other).Targets);
    }

    /// <summary>The same pane with another key in every target.</summary>
    private static Target OtherKey(Target target) =>
        target switch
        {
            Zone zone => zone with { Accepts = [new("E")], Group = null },
            Hotspots spots => spots with { Spots = [.. spots.Spots.Select(_ => new Spot(new Core.Geometry.Circle(new(900, 40), 9)))] },
            AnswerBox { Answer: TypedText } box => box with { Answer = new TypedText([new("other")]) },
            AnswerBox box => box with { Answer = new TypedNumber(77) },
            QuestionPoint { Question: ChoiceQuestion choice } point => point with
            {
                Question = choice with { Options = [.. choice.Options.Select((option, i) => option with { IsRight = i == 2 })] },
            },
            QuestionPoint { Question: TypedQuestion typed } point => point with
            {
                Question = typed with { Answer = new TypedText([new("other")]) },
            },
            Lock @lock => @lock with { Code = new([new("0000")]) },
            ScalePoint point => point with { X = point.X + 1, Y = 1 },
            Matching matching => matching with { Pairs = [new(matching.Left[0].Id, matching.Right[^1].Id)] },
            SortRegion region => region with { Want = new WantTotal(3, 4) },
            _ => target,
        } with
        {
            Feedback = new("Other", "Other"),
            Explanation = "Other",
        };

    [Property]
    public bool No_view_before_the_moment_differs_when_only_the_key_differs(int seed)
    {
        var response = RandomResponse(new(seed)) with { Codes = Core.Model.Response.Empty.Codes };
        var other = Pane with { Targets = [.. Pane.Targets.Select(OtherKey)], Explanation = "Other" };
        string Json(Pane pane) =>
            JsonSerializer.Serialize(StudentView.At(Moment.LastTry, new Seat(Activity(pane), seed), On(pane, response)));
        return Json(Pane) == Json(other)
            && !Pane.Targets.Zip(other.Targets).Any(pair => pair.First is not (OpenNote or InfoSpot) && pair.First == pair.Second);
    }
}
