using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Watching;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>Who is stuck, by the rules of docs/watching.md.</summary>
public sealed class HitchTests
{
    private static readonly Activity Dinghy = new() { Title = "T", Panes = [Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"))] };

    private static Hitch? Of(Response response, double? minutes) =>
        Hitch.Of(
            Dinghy,
            ImmutableDictionary<string, Response>.Empty.Add("pane", response),
            minutes is { } quiet ? TimeSpan.FromMinutes(quiet) : null
        );

    private static Response Checked(params string[] states) => Response(states[^1]) with { Earlier = [.. states.Select(Response)] };

    [Theory]
    [InlineData("", 1.9, false)]
    [InlineData("", 2.0, true)]
    [InlineData("A1", 60.0, true)]
    [InlineData("A1 B2", 60.0, false)]
    [InlineData("", null, false)]
    public void Who_did_nothing_for_two_minutes_with_something_open_is_quiet(string placed, double? minutes, bool isQuiet)
    {
        Assert.Equal(isQuiet ? new Hitch.Quiet(TimeSpan.FromMinutes(minutes!.Value)) : null, Of(Response(placed), minutes));
    }

    [Fact]
    public void The_same_place_wrong_at_each_of_the_last_three_checks_is_named_before_quiet()
    {
        Assert.Null(Of(Checked("B1", "B1"), 0));
        var stuck = Assert.IsType<Hitch.SamePlace>(Of(Checked("A1 A2", "B1", "B1 A2", "B1"), 60));
        Assert.Equal(("1", 3), (stuck.Target.Id, stuck.Checks));
        // Once right, or left empty, in between: it begins anew.
        Assert.Null(Of(Checked("B1", "A1", "B1", "B1"), 0));
        Assert.Null(Of(Checked("B1", "", "B1", "B1"), 0));
    }
}
