using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using FsCheck.Xunit;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>Pictures that students make: the moves, what is refused, what is lacking, and how they are marked.</summary>
public sealed class OwnPictureTests
{
    private static readonly string File = new('c', 64);

    private static readonly OwnImage Photograph = new(File, 1000, 500, "A quay.");

    private static Pane With(OwnPicture own, Picture? picture = null) =>
        new()
        {
            Id = "pane",
            Picture = picture,
            Targets = [own],
        };

    private static readonly OwnPicture Brought = new()
    {
        Id = "own",
        Points = 10,
        Fewest = 2,
        NeedsSources = true,
        Questions = ["Where is it shallow?"],
    };

    private static OwnSpot Spot(string id, double x = 100, double y = 100, string title = "", string source = "", int? question = null) =>
        new(id, new(x, y), question) { Title = title, Source = source };

    private static Response Made(params Move[] moves) => moves.Aggregate(Core.Model.Response.Empty, Moves.Apply);

    [Fact]
    public void Spots_are_put_changed_and_taken_and_stay_when_the_picture_goes()
    {
        var response = Made(
            new BringPicture("own", Photograph),
            new PutSpot("own", Spot("a", title: "Mast")),
            new PutSpot("own", Spot("b")),
            new PutSpot("own", Spot("a", title: "Mainmast")),
            new TakeSpot("own", "b")
        );
        Assert.Equal(["Mainmast"], response.Own["own"].Spots.Select(spot => spot.Title));
        Assert.Equal(1, response.Answers);
        var without = Moves.Apply(response, new BringPicture("own", null));
        Assert.Equal("a", Assert.Single(without.Own["own"].Spots).Id);
        Assert.Equal("making.lacksPicture", OwnReadiness.Lacks(Brought, without.Own["own"]).First().Name);
        // Nothing is left of work that was taken back whole.
        Assert.Empty(Moves.Apply(without, new TakeSpot("own", "a")).Own);
    }

    [Fact]
    public void On_another_picture_the_spots_lie_where_it_has_room()
    {
        var response = Made(
            new BringPicture("own", new(File, 1000, 2000)),
            new PutSpot("own", Spot("low", 900, 1900)),
            new BringPicture("own", Photograph)
        );
        Assert.Equal(new Point(900, 500), response.Own["own"].Spots[0].At);
    }

    [Fact]
    public void What_is_lacking_is_told_until_nothing_is()
    {
        static IEnumerable<string> Lacking(OwnPicture target, Response response) =>
            OwnReadiness.Lacks(target, response.Own.GetValueOrDefault("own", OwnWork.Empty)).Select(said => said.ToString());

        Assert.Equal(
            ["making.lacksPicture", "making.lacksSpots count=2", "making.lacksAnswers count=1"],
            Lacking(Brought, Core.Model.Response.Empty)
        );
        var begun = Made(new BringPicture("own", Photograph with { AltText = "" }), new PutSpot("own", Spot("a")));
        Assert.Equal(
            [
                "making.lacksAltText",
                "making.lacksSpots count=1",
                "making.lacksAnswers count=1",
                "making.lacksWords count=1",
                "making.lacksSources count=1",
            ],
            Lacking(Brought, begun)
        );
        var whole = Made(
            new BringPicture("own", Photograph),
            new PutSpot("own", Spot("a", title: "Bar", source: "The chart", question: 0)),
            new PutSpot("own", Spot("b", title: "Quay", source: "My own eyes"))
        );
        Assert.Empty(Lacking(Brought, whole));
        Assert.False(LeftOpen.IsOpen(Brought, whole));
        Assert.True(LeftOpen.IsOpen(Brought, begun));
        // The teacher's picture needs no describing by students.
        Assert.Empty(
            Lacking(
                new()
                {
                    Id = "own",
                    Whose = PictureFrom.Teacher,
                    Fewest = 0,
                },
                Core.Model.Response.Empty
            )
        );
    }

    [Fact]
    public void What_does_not_fit_is_refused()
    {
        var pane = With(Brought);
        var response = Made(new BringPicture("own", Photograph));
        Refused? Why(Move move) => MoveRules.Fit(pane, response, move)?.Why;
        PutSpot Put(Func<OwnSpot, OwnSpot> change) => new("own", change(Spot("a")));

        Assert.Null(Why(Put(spot => spot with { Link = "https://www.w3.org/", Face = new SoundFace(File) })));
        Assert.Equal(Refused.OffThePicture, Why(Put(spot => spot with { At = new(100, 501) })));
        Assert.Equal(Refused.OffThePicture, Why(Put(spot => spot with { At = new(double.NaN, 1) })));
        Assert.Equal(Refused.TextTooLong, Why(Put(spot => spot with { Title = new('x', 201) })));
        Assert.Equal(Refused.TextTooLong, Why(Put(spot => spot with { Text = new('x', 3001) })));
        Assert.Equal(Refused.SourceTooLong, Why(Put(spot => spot with { Source = new('x', 5000) })));
        Assert.Equal(Refused.LinkNotPublic, Why(Put(spot => spot with { Link = "javascript:alert(1)" })));
        Assert.Equal(Refused.NotYourPicture, Why(Put(spot => spot with { Face = new VideoFace(File, 9, 9) })));
        Assert.Equal(Refused.NotYourPicture, Why(Put(spot => spot with { Face = new SoundFace("../../etc") })));
        Assert.Equal(Refused.NoSuchSpot, Why(Put(spot => spot with { Question = 1 })));
        Assert.Equal(Refused.NoSuchSpot, Why(Put(spot => spot with { Id = "" })));
        Assert.Equal(Refused.NoSuchSpot, Why(Put(spot => spot with { Title = null! })));
        Assert.Equal(Refused.NoSuchPlace, Why(new PutSpot("other", Spot("a"))));
        Assert.Equal(Refused.NotYourPicture, Why(new BringPicture("own", Photograph with { Media = "logo.png" })));
        Assert.Equal(Refused.NotYourPicture, Why(new BringPicture("own", Photograph with { Height = 0 })));
        var full = Made([.. Enumerable.Range(0, Limits.MostOwnSpots).Select(i => (Move)new PutSpot("own", Spot($"{i}")))]);
        Assert.Equal(Refused.TooManySpots, MoveRules.Fit(pane, full, new PutSpot("own", Spot("more")))!.Why);
        // One that is there is changed all the same.
        Assert.Null(MoveRules.Fit(pane, full, new PutSpot("own", Spot("7", title: "Changed"))));
        // On the teacher's picture none is brought.
        var given = With(Brought with { Whose = PictureFrom.Teacher }, new Picture(File, 1000, 700));
        Assert.Equal(Refused.NothingToMake, MoveRules.Fit(given, Core.Model.Response.Empty, new BringPicture("own", Photograph))!.Why);
        Assert.Equal(Refused.OffThePicture, MoveRules.Fit(given, Core.Model.Response.Empty, new PutSpot("own", Spot("a", 10, 701)))!.Why);
    }

    [Fact]
    public void A_person_marks_it()
    {
        var pane = With(Brought);
        var response = Made(new PutSpot("own", Spot("a", title: "Bar")));
        Assert.Equal(TargetState.Waiting, Assert.Single(Checker.Check(pane, response).Targets).State);
        Assert.Equal(TargetState.Missed, Assert.Single(Checker.Check(pane, Core.Model.Response.Empty).Targets).State);
        var award = new Award("own", 0.75m, "T", default);
        var score = Scorer.Score(
            Activity(pane),
            On(pane, response),
            ImmutableDictionary<string, ImmutableArray<Award>>.Empty.Add("pane", [award])
        );
        Assert.Equal((7.5m, false), (score.Score, score.IsSoFar));
        Assert.True(Scorer.Score(Activity(pane), On(pane, response)).IsSoFar);
        // Nothing is earned by guessing, and the key earns what a person has not decided.
        Assert.Equal(0, Guessing.Of(pane, new ScoreRules()).Points);
        Assert.DoesNotContain(Proof.Read(pane, new ScoreRules()), finding => finding.Weight == Weight.Error);
    }

    [Fact]
    public void Nothing_else_lies_on_its_pane_and_a_picture_has_to_be_there_only_where_it_is_the_teachers()
    {
        static IReadOnlyList<Fault> Faults(Pane pane) => Soundness.Faults(Activity(pane));
        Assert.Empty(Faults(With(Brought)));
        Assert.Empty(Readiness.Obstacles(Activity(With(Brought))));
        Assert.NotEmpty(Readiness.Obstacles(Activity(With(Brought with { Whose = PictureFrom.Teacher }))));
        Assert.Contains("nothing else", Assert.Single(Faults(With(Brought) with { Labels = [.. Labels("A")] })).Sentence);
        Assert.NotEmpty(Faults(With(Brought with { Fewest = Limits.MostOwnSpots + 1 })));
        Assert.NotEmpty(Faults(With(Brought with { Questions = [" "] })));
        Assert.NotEmpty(Faults(With(Brought with { Criteria = [new("Depth", 0)] })));
    }

    private static Response Random(Random random)
    {
        var pane = With(Brought);
        var response = Core.Model.Response.Empty;
        for (var i = random.Next(12); i >= 0; i--)
        {
            Move move = random.Next(4) switch
            {
                0 => new BringPicture("own", random.Next(3) == 0 ? null : Photograph with { AltText = $"{random.Next(3)}" }),
                1 => new TakeSpot("own", $"s{random.Next(4)}"),
                _ => new PutSpot(
                    "own",
                    Spot(
                        $"s{random.Next(4)}",
                        random.Next(1000),
                        random.Next(500),
                        $"{random.Next(9)}",
                        question: random.Next(2) == 0 ? 0 : null
                    )
                ),
            };
            if (MoveRules.Fit(pane, response, move) is null)
                response = Moves.Apply(response, move);
        }
        return response;
    }

    [Property]
    public bool Taken_apart_into_moves_it_is_the_same_work_again(int seed)
    {
        var (pane, response) = (With(Brought), Random(new(seed)));
        var again = Core.Model.Response.Empty;
        foreach (var move in MovesOf.Response(pane, response))
        {
            if (MoveRules.Fit(pane, again, move) is not null)
                return false;
            again = Moves.Apply(again, move);
        }
        return again.IsSameWork(response) && ResponseSoundness.Fault(pane, response) is null;
    }

    /// <summary>A view is made of one attempt's work: what others have made is in none of it, at no moment.</summary>
    [Property]
    public bool Another_students_work_is_in_no_view(int seed)
    {
        var random = new Random(seed);
        var (own, other) = (Random(random), Made(new PutSpot("own", Spot("their-spot", title: "their-title", source: "their-source"))));
        var pane = With(Brought);
        var seat = new Seat(Activity(pane, reveal: new() { Key = Moment.HandedIn }), random.NextInt64());
        var others = WorkView.At(Moment.Placed, seat, On(pane, other));
        return Enum.GetValues<Moment>()
                .Select(moment => JsonSerializer.Serialize(StudentView.At(moment, seat, On(pane, own))))
                .All(view => !view.Contains("their-", StringComparison.Ordinal))
            // The words are found where they are.
            && JsonSerializer.Serialize(others).Contains("their-source", StringComparison.Ordinal);
    }
}
