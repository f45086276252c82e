using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>Answers that come to the same are one group.</summary>
public sealed class AnswerGroupsTests
{
    private static string Names(Target target, params Response[] responses) =>
        string.Join(
            "; ",
            AnswerGroups
                .Of(target, responses.Select((response, i) => (i, response)), who => who.response)
                .Select(group => string.Join(' ', group.Who.Select(who => who.i)))
        );

    private static Response Typed(string text) => Response("") with { Texts = Response("").Texts.SetItem("b", text) };

    [Fact]
    public void Typed_answers_are_folded_as_the_checking_folds_them_and_blanks_come_last()
    {
        var box = new AnswerBox
        {
            Id = "b",
            Region = new Circle(new(5, 5), 5),
            Answer = new TypedText([new("gaff")]),
        };
        Assert.Equal("0 2 4; 3; 1 5", Names(box, Typed("Gaff"), Typed(" "), Typed("gaff "), Typed("boom"), Typed("GAFF"), Response("")));
        Assert.Equal("0 1; 2", Names(box with { Answer = new TypedNumber(2.5m) }, Typed("2.5"), Typed("2.50"), Typed("3")));
    }

    [Fact]
    public void Labels_of_a_zone_are_a_group_in_whatever_order_they_came()
    {
        var zone = Zone(1, "A B", capacity: 2);
        Assert.Equal("0 1; 2; 3", Names(zone, Response("A1 B1"), Response("B1 A1"), Response("A1"), Response("B2")));
    }

    [Fact]
    public void Pins_and_marks_are_told_by_what_they_hit()
    {
        var hidden = new HiddenZone
        {
            Id = "h",
            Region = new Circle(new(100, 100), 20),
            Accepts = [new("A")],
        };
        Response Pin(double x) => Response("") with { Pins = [new("A", 0, new(x, 100))] };
        Assert.Equal("0 1; 2", Names(hidden, Pin(100), Pin(110), Pin(300)));
        var spots = new Hotspots
        {
            Id = "s",
            Needed = 2,
            Spots = [new(new Circle(new(100, 100), 20)), new(new Circle(new(300, 100), 20))],
        };
        Response Marks(params double[] at) =>
            Response("") with
            {
                Marks = Response("").Marks.SetItem("s", [.. at.Select(x => new Point(x, 100))]),
            };
        Assert.Equal("0 1; 2; 3", Names(spots, Marks(100, 300), Marks(305, 95), Marks(100, 500), Marks()));
    }
}
