using Fenster.Core.Geometry;
using Fenster.Core.Model;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

public sealed class SoundnessTests
{
    private static readonly Pane Two = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"));

    public static TheoryData<string, Func<Pane, Pane>> Degenerate =>
        new()
        {
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "A") with { Region = new Circle(new(1, 1), double.NaN) }] } },
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "A", points: 0)] } },
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "A", capacity: 0)] } },
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "X")] } },
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "A=1.5")] } },
            { "panes[0].targets[0]", pane => pane with { Targets = [Zone(1, "A A")] } },
            { "panes[0].targets", pane => pane with { Targets = [Zone(1, "A"), Zone(1, "B")] } },
            { "panes[0].labels", pane => pane with { Labels = [.. Labels("A A")], Targets = [] } },
            { "panes[0].labels[1]", pane => pane with { Labels = [pane.Labels[0], new() { Id = "B", Text = new('x', 501) }] } },
            { "panes[0].labels[0]", pane => pane with { Labels = [.. Labels("A B", copies: 0)] } },
            { "panes[0].weight", pane => pane with { Weight = 0 } },
            { "panes[0].picture", pane => pane with { Picture = new(new('a', 64), 0, 10) } },
            { "panes[0].picture", pane => pane with { Picture = new("../../etc", 10, 10) } },
        };

    [Theory, MemberData(nameof(Degenerate))]
    public void Degenerate_input_is_named_by_its_place(string where, Func<Pane, Pane> spoil) =>
        Assert.Contains(where, Soundness.Faults(Activity(spoil(Two))).Select(fault => fault.Where));

    [Fact]
    public void A_sound_activity_has_no_faults() => Assert.Empty(Soundness.Faults(Activity(Two)));

    [Fact]
    public void The_key_may_not_be_revealed_before_the_last_try() =>
        Assert.Single(Soundness.Faults(Activity(Two, reveal: new() { Key = Moment.Checked })));

    [Fact]
    public void Costs_and_marks_below_zero_are_refused() =>
        Assert.Equal(
            4,
            Soundness
                .Faults(
                    Activity(
                        Two,
                        new()
                        {
                            WrongCost = -1,
                            TryCost = 2,
                            MaximumGrade = 0,
                            PassMark = -1,
                        }
                    )
                )
                .Count
        );

    [Fact]
    public void An_activity_is_ready_when_every_zone_has_its_label() => Assert.Empty(Readiness.Obstacles(Activity(Two)));

    [Theory]
    [InlineData("no drop zone")]
    public void A_pane_without_zones_can_not_be_published(string words) =>
        Assert.Contains(words, Assert.Single(Readiness.Obstacles(Activity(Two with { Targets = [] }))).Sentence);

    [Fact]
    public void What_keeps_it_from_being_published_names_its_row()
    {
        Assert.Equal("2", Assert.Single(Readiness.Obstacles(Activity(Two with { Targets = [Zone(1, "A"), Zone(2, "")] }))).About);
        Assert.Contains("picture", Assert.Single(Readiness.Obstacles(Activity(Two with { Picture = null }))).Sentence);
        var outside = Zone(1, "A") with { Region = new Rectangle(2000, 0, 10, 10) };
        Assert.Contains("outside", Assert.Single(Readiness.Obstacles(Activity(Two with { Targets = [outside] }))).Sentence);
        var alike = Two with { Labels = [new() { Id = "A", Text = "Mast" }, new() { Id = "B", Text = " mast" }] };
        Assert.True(Assert.Single(Readiness.Obstacles(Activity(alike))) is { Mend: Mend.MakeOne, About: "B" });
        var tooFew = Two with { Targets = [Zone(1, "A"), Zone(2, "A")] };
        Assert.Contains("2 zones but has only 1 copy", Assert.Single(Readiness.Obstacles(Activity(tooFew))).Sentence);
    }
}
