using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>What a board shows once its spots are revealed.</summary>
public sealed class BoardViewTests
{
    private static readonly Pane Pane = Pane(Labels("A B C D", copies: 2), Zone(1, "A"), Zone(2, "B A=0.5"), Zone(3, "")) is var zones
        ? zones with
        {
            Targets =
            [
                .. zones.Targets,
                new HiddenZone
                {
                    Id = "hidden",
                    Region = new Circle(new(800, 500), 30),
                    Accepts = [new("C")],
                    Prompt = "never seen",
                },
                new Hotspots
                {
                    Id = "spots",
                    Needed = 1,
                    Prompt = "Find one",
                    Spots = [new(new Circle(new(100, 600), 20)), new(new Circle(new(200, 600), 20))],
                },
                new QuestionPoint
                {
                    Id = "question",
                    At = new(500, 300),
                    Question = new ChoiceQuestion { Text = "Which?", Options = [new("x", "X"), new("y", "Y", true)] },
                    Explanation = "Because.",
                },
                new Core.Model.Lock
                {
                    Id = "lock",
                    At = new(600, 300),
                    Code = new([new("1234")]),
                    Inside = "A letter",
                    Opens = ["behind"],
                },
                new InfoSpot
                {
                    Id = "behind",
                    At = new(700, 300),
                    Text = "Behind the lock",
                },
                new InfoSpot
                {
                    Id = "concealed",
                    At = new(750, 350),
                    Text = "Under the mat",
                    Concealed = true,
                },
                new Matching
                {
                    Id = "matching",
                    Left = [new("l1", "One"), new("l2", "Two")],
                    Right = [new("r1", "I"), new("r2", "II")],
                    Pairs = [new("l1", "r1"), new("l2", "r2")],
                },
                new SortRegion
                {
                    Id = "region",
                    Region = new Rectangle(20, 400, 200, 100),
                    Want = new WantSet(["D"]),
                },
            ],
        }
        : null!;

    private static readonly BoardPane Shown = Assert.Single(BoardView.Of(Activity(Pane)).Panes);

    private static BoardSpot Spot(string id) => Shown.Spots.First(spot => spot.Id == id);

    [Fact]
    public void There_is_a_spot_for_everything_and_together_they_show_the_key()
    {
        Assert.Equal(Pane.Targets.Select(target => target.Id).Order(), Shown.Spots.Select(spot => spot.Id).Distinct().Order());
        var (key, aliases) = (Keys.Of(Pane), Aliases.For(Pane, BoardView.Seed));
        Assert.Equal(
            key.Placements.Select(placement => (aliases.OfLabel(placement.Label), aliases.OfZone(placement.Zone))).Order(),
            Shown.Spots.SelectMany(spot => spot.Placed).Select(placement => (placement.Label, placement.Zone)).Order()
        );
        Assert.Equal(
            key.Pins.Select(pin => (aliases.OfLabel(pin.Label), pin.At.X, pin.At.Y)).Order(),
            Shown.Spots.SelectMany(spot => spot.Pins).Select(pin => (pin.Label, pin.At.X, pin.At.Y)).Order()
        );
        Assert.Equal(2, Shown.Spots.SelectMany(spot => spot.Links).Distinct().Count());
    }

    [Fact]
    public void A_number_tells_no_answer_by_its_place()
    {
        Assert.Equal(
            ["1", "2", "3", "lock", "question", "region"],
            Shown.Spots.Where(spot => spot.IsSeen && spot.At is not null).Select(spot => spot.Id).Order()
        );
        Assert.Equal("Label C", Spot("hidden").Asks);
        // Zones are numbered as students count them.
        Assert.Equal(["1", "2", "3"], Shown.Spots.Take(3).Select(spot => spot.Id));
    }

    [Fact]
    public void What_was_hidden_comes_to_light_with_its_spot()
    {
        Assert.IsType<TargetView.Telling>(Assert.Single(Spot("concealed").Found));
        Assert.Equal("Behind the lock", Assert.IsType<TargetView.Telling>(Assert.Single(Spot("lock").Found)).Text);
        Assert.Equal("A letter", Spot("lock").Done!.Inside);
        Assert.Equal(2, Spot("spots").Key!.Spots.Length);
        Assert.Equal(["o2"], Spot("question").Key!.Picks);
        Assert.Equal("Because.", Spot("question").Explanation);
        Assert.True(Spot("behind").Done!.Opened);
    }

    [Fact]
    public void Before_anything_is_done_the_pane_is_as_students_get_it()
    {
        Assert.True(Shown.Work.Open);
        Assert.Empty(Shown.Work.Placed);
        Assert.Null(Shown.Work.Key);
        Assert.Null(BoardView.Of(Activity(Pane, reveal: new() { Key = Moment.LastTry, Marks = Moment.Placed })).Panes[0].Work.Marks);
    }

    [Fact]
    public void Students_own_pictures_are_no_game_and_have_no_spots()
    {
        var own = new Pane { Id = "own", Targets = [new OwnPicture { Id = "o" }] };
        Assert.Empty(BoardView.Of(Activity(own)).Panes[0].Spots);
        Assert.False(GamePane.Fits(own));
        Assert.True(GamePane.Fits(Pane));
        Assert.False(GamePane.Fits(Pane with { Targets = [.. Pane.Targets.Where(target => target is Zone)] }));
    }
}
