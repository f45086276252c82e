using Fenster.Core.Model;
using Fenster.Core.Revealing;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

public sealed class MoveTests
{
    private static readonly Pane Two = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B C", capacity: 2));

    private static string Placed(params Move[] moves) =>
        string.Join(
            ' ',
            moves
                .Aggregate(Core.Model.Response.Empty, (response, move) => Progress.Make(new(), Two, response, move).After)
                .Placements.Select(p => $"{p.Label}{p.Zone}")
        );

    [Fact]
    public void A_label_put_down_lies_in_its_zone() => Assert.Equal("A1", Placed(new PutDown("A", 0, "1")));

    [Fact]
    public void A_label_put_down_elsewhere_has_left_where_it_lay() =>
        Assert.Equal("A2", Placed(new PutDown("A", 0, "1"), new PutDown("A", 0, "2")));

    [Fact]
    public void A_label_put_into_a_full_zone_sends_the_one_that_lay_longest_back() =>
        Assert.Equal("B2 C2", Placed(new PutDown("A", 0, "2"), new PutDown("B", 0, "2"), new PutDown("C", 0, "2")));

    [Fact]
    public void Taking_a_label_back_frees_its_zone() => Assert.Equal("", Placed(new PutDown("A", 0, "1"), new TakeBack("A", 0)));

    [Fact]
    public void The_same_move_again_changes_nothing() =>
        Assert.Equal("A2 B2", Placed(new PutDown("A", 0, "2"), new PutDown("B", 0, "2"), new PutDown("A", 0, "2")));

    [Theory]
    [InlineData("X", 0, "1")]
    [InlineData("A", 1, "1")]
    [InlineData("A", -1, "1")]
    [InlineData("A", 0, "9")]
    public void A_move_of_what_is_not_there_is_refused(string label, int copy, string zone) =>
        Assert.NotNull(Progress.Make(new(), Two, Core.Model.Response.Empty, new PutDown(label, copy, zone)).Refusal);
}
