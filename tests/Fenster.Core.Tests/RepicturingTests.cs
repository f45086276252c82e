using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>A picture prepared otherwise keeps what stands on it in its place.</summary>
public sealed class RepicturingTests
{
    private static readonly string Hash = new('a', 64);

    private static Similarity Any(Random random) =>
        Similarity
            .Turning(new(random.Next(1000), random.Next(700)), random.Next(3) == 0 ? 90 * random.Next(4) : random.NextDouble() * 360)
            .Then(Similarity.Framing(new(random.Next(300), random.Next(300), 400 + random.Next(600), 700)));

    [Fact]
    public void A_point_is_in_a_region_exactly_when_its_image_is_in_the_regions_image()
    {
        var random = new Random(81);
        for (var i = 0; i < 2000; i++)
        {
            Region region = random.Next(4) switch
            {
                0 => new Circle(new(random.Next(1000), random.Next(700)), 20 + random.Next(150)),
                1 => new Rectangle(
                    random.Next(800),
                    random.Next(500),
                    30 + random.Next(200),
                    30 + random.Next(200),
                    random.Next(2) * random.Next(360)
                ),
                2 => new Ellipse(new(random.Next(1000), random.Next(700)), 50, 50 + random.Next(100)),
                _ => new Polygon([new(100, 100), new(300 + random.Next(300), 150), new(250, 400 + random.Next(200))]),
            };
            var map = Any(random);
            var image = map.Map(region);
            Assert.Null(image.Fault);
            var point = new Point(random.Next(1000), random.Next(700));
            // Points on the very rim, and an ellipse that became a polygon, are told by their distance.
            Assert.Equal(region.DistanceTo(point) * map.Scale, image.DistanceTo(map.Map(point)), region is Ellipse ? 1.0 : 1e-6);
        }
    }

    [Fact]
    public void A_map_and_its_inverse_leave_everything_where_it_was()
    {
        var random = new Random(82);
        for (var i = 0; i < 500; i++)
        {
            var (map, point) = (Any(random), new Point(random.Next(1000), random.Next(700)));
            Assert.Equal(0, map.Then(map.Inverse()).Map(point).DistanceTo(point), 1e-6);
            Assert.Equal(0, map.Then(Any(new(i))).Map(point).DistanceTo(Any(new(i)).Map(map.Map(point))), 1e-6);
        }
    }

    private static Preparation Source => new(Hash, 1600, 900);

    private static Picture Prepared(Preparation preparation) => new(new('b', 64), 800, 600) { Preparation = preparation };

    [Fact]
    public void What_is_cut_out_fills_the_picture()
    {
        var cut = Source with { Crop = new(500, 100, 1000, 400) };
        Assert.Equal(new Point(0, 0), cut.ToPicture.Map(new Point(500, 100)));
        Assert.Equal(new Point(1000, 600), cut.ToPicture.Map(new Point(1000, 400)));
        // A quarter turn to the right: the lower left corner comes to the upper left.
        var turned = Source with { Turn = 90 };
        Assert.Equal(0, turned.ToPicture.Map(new Point(0, 562.5)).DistanceTo(new(0, 0)), 1e-9);
        Assert.Equal(1000 / 562.5, turned.ToPicture.Scale, 1e-9);
    }

    [Fact]
    public void Zones_move_with_what_they_lie_on_and_come_back_when_it_is_undone()
    {
        var pane = ProofTests.EveryKind with { Picture = new(Hash, 1600, 900, "A boat") };
        var cut = pane.WithPicture(Prepared(Source with { Crop = new(200, 100, 700, 400), Turn = 12 }));
        var before = (DropZone)pane.Targets[0];
        var after = (DropZone)cut.Targets[0];
        Assert.NotEqual(before.Region, after.Region);
        Assert.Equal(2, Math.Sqrt(after.Region.Area / before.Region.Area), 1e-9);
        var again = cut.WithPicture(new(Hash, 1600, 900, "A boat"));
        foreach (var (was, isNow) in pane.Targets.Zip(again.Targets))
            if (was is Zone { Region: Rectangle r } && isNow is Zone { Region: Rectangle n })
            {
                Assert.Equal(0, r.Centre.DistanceTo(n.Centre), 1e-6);
                Assert.Equal((r.Width, r.Height), (Math.Round(n.Width, 6), Math.Round(n.Height, 6)));
            }
        // The answers move too: what was right on the old picture is right on the new one.
        Assert.All(cut.Targets.Zip(Checker.Check(cut, Proofing.Keys.Of(cut)).Targets).Where(pair => pair.First.IsScored), pair =>
            Assert.Equal(1, pair.Second.Credit)
        );
    }

    [Fact]
    public void Every_kind_moves()
    {
        var map = Source with { Crop = new(0, 0, 500, 500) };
        Pane With(Target target) => Pane([]) with { Picture = new(Hash, 1600, 900), Targets = [target] };
        T Moved<T>(T target)
            where T : Target => (T)With(target).WithPicture(Prepared(map)).Targets[0];
        Assert.Equal(
            new Point(20, 40),
            Moved(
                new Lock
                {
                    Id = "l",
                    At = new(10, 20),
                    Code = new([new("1")]),
                }
            ).At
        );
        Assert.Equal(
            new Point(20, 40),
            Moved(
                new QuestionPoint
                {
                    Id = "q",
                    At = new(10, 20),
                    Question = new TypedQuestion { Text = "?", Answer = new TypedNumber(1) },
                }
            ).At
        );
        Assert.Equal(
            (new Point(20, 40), 80),
            (
                Moved(
                    new InfoSpot
                    {
                        Id = "i",
                        At = new(10, 20),
                        Text = "x",
                    }
                ).At,
                Moved(
                    new InfoSpot
                    {
                        Id = "i",
                        At = new(10, 20),
                        Text = "x",
                    }
                ).Reach
            )
        );
        Assert.Equal(40, ((Circle)Moved(new OpenNote { Id = "o", Region = new Circle(new(9, 9), 20) }).Region).Radius);
        Assert.Equal(
            40,
            (
                (Circle)
                    Moved(
                        new SortRegion
                        {
                            Id = "o",
                            Region = new Circle(new(9, 9), 20),
                            Want = new WantTotal(1, 2),
                        }
                    ).Region
            ).Radius
        );
        Assert.Equal(
            6,
            Moved(
                new HiddenZone
                {
                    Id = "h",
                    Region = new Circle(new(9, 9), 20),
                    Tolerance = new(3),
                }
            ).Tolerance.Slack
        );
        var scale = Moved(
            new ScalePoint
            {
                Id = "s",
                Scale = new(new(new(100, 50), new(300, 50), 0, 12)),
                X = 6,
                Within = new(0.25),
            }
        );
        Assert.Equal((new Point(200, 100), 0.25), (scale.Scale.X.From, scale.Within.Slack));
    }

    [Fact]
    public void Another_picture_leaves_everything_where_it_is()
    {
        var pane = ProofTests.EveryKind with { Picture = new(Hash, 1600, 900) };
        Assert.Equal(pane.Targets.AsEnumerable(), pane.WithPicture(new(new('c', 64), 900, 900)).Targets);
    }

    [Fact]
    public void Margins_are_around_the_picture_and_not_of_it()
    {
        // A file of 1500 by 900 pixels: 1000 pu of picture, 500 pu of margin at its right.
        var picture = new Picture(Hash, 1500, 900) { Margins = new(0, 0, 500, 0) };
        Assert.Equal(900, picture.HeightInUnits);
        Assert.Equal(new Bounds(0, 0, 1500, 900), picture.Plane);
        var framed = new Picture(Hash, 1200, 1200) { Margins = new(100, 200, 100, 0) };
        Assert.Equal(1000, framed.HeightInUnits);
        Assert.Equal(new Bounds(-100, -200, 1100, 1000), framed.Plane);
    }

    public static TheoryData<Func<Picture, Picture>> Degenerate =>
        new()
        {
            picture => picture with { Margins = new(-1, 0, 0, 0) },
            picture => picture with { Margins = new(double.NaN, 0, 0, 0) },
            picture => picture with { Margins = new(0, 900, 0, 900) },
            picture => picture with { Preparation = Source with { Turn = double.PositiveInfinity } },
            picture => picture with { Preparation = Source with { Crop = new(5, 5, 5, 9) } },
            picture => picture with { Preparation = Source with { Paper = "red" } },
            picture => picture with { Preparation = Source with { Fixings = [new CoverFixing(1, 1, 0, 5, "#ffffff")] } },
            picture => picture with { Preparation = Source with { Fixings = [new LineFixing(new(1, 1), new(1, 1), true, "#ffffff")] } },
            picture => picture with { Preparation = Source with { Fixings = [new CaptionFixing(new(1, 1), "", 5, "#ffffff")] } },
            picture => picture with { Preparation = Source with { Fixings = [new BoxFixing(1, 1, 5, 5, "#ff00")] } },
            picture => picture with { Preparation = new("x", 1, 1) },
        };

    [Theory, MemberData(nameof(Degenerate))]
    public void A_preparation_that_can_not_be_is_refused(Func<Picture, Picture> spoil) =>
        Assert.Contains(Soundness.Faults(Activity(Pane([]) with { Picture = spoil(new(Hash, 1600, 900)) })), fault =>
            fault.Where == "panes[0].picture"
        );
}
