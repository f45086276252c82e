using Fenster.Core.Checking;
using Fenster.Core.Model;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

public sealed class CheckingTests
{
    private static string Verdicts(Pane pane, string placements) =>
        string.Join(' ', Checker.Check(pane, Response(placements)).Placements.Select(mark => mark.Verdict));

    private static string States(Pane pane, string placements) =>
        string.Join(' ', Checker.Check(pane, Response(placements)).Targets.Select(mark => mark.State));

    private static readonly Pane Three = Pane(Labels("A B C D"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"));

    [Theory]
    [InlineData("A1 B2 C3", "Right Right Right", "Earned Earned Earned")]
    [InlineData("A2 B1", "Wrong Wrong", "Wrong Wrong Missed")]
    [InlineData("D1 B2", "Wrong Right", "Wrong Earned Missed")]
    [InlineData("", "", "Missed Missed Missed")]
    public void A_label_counts_when_it_lies_in_its_zone(string placements, string verdicts, string states)
    {
        Assert.Equal(verdicts, Verdicts(Three, placements));
        Assert.Equal(states, States(Three, placements));
    }

    [Fact]
    public void Two_interchangeable_zones_given_the_same_label_twice_earn_once_and_the_second_is_surplus()
    {
        var pane = Pane(Labels("A", copies: null).Concat(Labels("B")), Zone(1, "A B", group: "g"), Zone(2, "A B", group: "g"));
        Assert.Equal(["Right", "Surplus"], Verdicts(pane, "A1 A2").Split(' ').Order());
        Assert.Equal(1, Checker.Check(pane, Response("A1 A2")).Targets.Sum(mark => mark.Credit));
        Assert.Equal("Right Right", Verdicts(pane, "B1 A2"));
    }

    [Fact]
    public void Interchangeable_zones_share_their_accepted_labels()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A", group: "g"), Zone(2, "B", group: "g"));
        Assert.Equal("Right Right", Verdicts(pane, "A2 B1"));
    }

    [Fact]
    public void A_label_that_is_worth_part_of_the_credit_earns_that_part()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A B=0.5"));
        Assert.Equal("Part", Verdicts(pane, "B1"));
        Assert.Equal("PartEarned", States(pane, "B1"));
        Assert.Equal(0.5m, Checker.Check(pane, Response("B1")).Targets[0].Credit);
    }

    [Fact]
    public void A_zone_for_several_labels_is_earned_label_by_label()
    {
        var pane = Pane(Labels("A B C D"), Zone(1, "A B C", capacity: 3));
        Assert.Equal(2 / 3m, Checker.Check(pane, Response("A1 B1 D1")).Targets[0].Credit);
        Assert.Equal("Right Right Wrong", Verdicts(pane, "A1 B1 D1"));
        Assert.Equal(1m, Checker.Check(pane, Response("C1 B1 A1")).Targets[0].Credit);
    }

    [Fact]
    public void A_zone_that_takes_more_than_it_needs_is_earned_by_what_belongs_there()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A", capacity: 2));
        Assert.Equal("Earned", States(pane, "A1"));
    }

    [Fact]
    public void A_label_with_copies_may_earn_in_many_zones()
    {
        var pane = Pane(Labels("A", copies: 3), Zone(1, "A"), Zone(2, "A"), Zone(3, "A"));
        Assert.Equal("Right Right Right", Verdicts(pane, "A1 A2 A3"));
    }

    [Fact]
    public void Of_interchangeable_zones_the_dearest_that_can_be_earned_is_earned()
    {
        // Both labels lie in both zones and earn once each: in the zone worth three, half of it and half of the half.
        var pane = Pane(
            Labels("A B", copies: 2),
            Zone(1, "A B=0.5", points: 1, group: "g", capacity: 2),
            Zone(2, "A B=0.5", points: 3, group: "g", capacity: 2)
        );
        Assert.Equal([0, 0.75m], Checker.Check(pane, Response("A1 B1 A2 B2")).Targets.Select(mark => mark.Credit));
    }

    [Fact]
    public void The_order_of_the_response_makes_no_difference()
    {
        var random = new Random(11);
        var pane = Pane(
            Labels("A B C", copies: 4).Concat(Labels("D")),
            Zone(1, "A B=0.5", group: "g", points: 2),
            Zone(2, "B C=0.25", group: "g"),
            Zone(3, "C", capacity: 2),
            Zone(4, "A D", capacity: 2),
            Zone(5, "B")
        );
        for (var i = 0; i < 500; i++)
        {
            var placements = Enumerable
                .Range(0, random.Next(1, 8))
                .Select(_ => new Placement($"{"ABCD"[random.Next(4)]}", random.Next(4), $"{random.Next(1, 6)}"))
                .DistinctBy(p => (p.Label, p.Copy))
                .ToList();
            var once = Checker.Check(pane, new() { Placements = [.. placements] });
            var again = Checker.Check(pane, new() { Placements = [.. placements.OrderBy(_ => random.Next())] });
            Assert.Equal(once.Targets.AsEnumerable(), again.Targets);
            Assert.Equal(once.Placements.OrderBy(Name), again.Placements.OrderBy(Name));
        }
        static string Name(PlacementMark mark) => $"{mark.Placement}";
    }
}
