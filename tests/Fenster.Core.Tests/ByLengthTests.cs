using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;

namespace Fenster.Core.Tests;

/// <summary>What matching words to zones by their lengths earns, held against doing it many times.</summary>
public sealed class ByLengthTests
{
    private static Pane Of(int[] widths, int[] lengths) =>
        new()
        {
            Id = "p",
            Labels = [.. lengths.Select((length, i) => new Label { Id = $"l{i}", Text = new string('x', length) })],
            Targets =
            [
                .. widths.Select(
                    (width, i) =>
                        new DropZone
                        {
                            Id = $"z{i}",
                            Region = new Rectangle(0, 100 * i, width, 40),
                            Accepts = [new($"l{i}")],
                        }
                ),
            ],
        };

    [Fact]
    public void Zones_as_long_as_their_names_give_all_of_it_away()
    {
        var pane = Of([40, 80, 60, 120, 100], [4, 8, 6, 12, 10]);
        Assert.Equal(1, ByLength.ShareOf(pane), 9);
        Assert.Contains(Proof.Read(pane, new ScoreRules()), finding => finding.Said.Name == "proof.byLength");
    }

    [Fact]
    public void Zones_of_one_size_give_nothing_away()
    {
        var pane = Of([100, 101, 99, 100, 100], [4, 8, 6, 12, 10]);
        Assert.Equal(0.2, ByLength.ShareOf(pane), 9);
        Assert.DoesNotContain(Proof.Read(pane, new ScoreRules()), finding => finding.Said.Name == "proof.byLength");
    }

    [Fact]
    public void Three_zones_say_too_little() => Assert.Equal(0, ByLength.ShareOf(Of([40, 80, 120], [4, 8, 12])));

    /// <summary>The same by doing it: both in the order of their sizes, those that are alike in any order.</summary>
    [Fact]
    public void It_is_what_is_earned_by_doing_it()
    {
        var random = new Random(4);
        for (var turn = 0; turn < 30; turn++)
        {
            var zones = random.Next(4, 9);
            int[] widths = [.. Enumerable.Range(0, zones).Select(_ => 40 * random.Next(1, 5))];
            int[] lengths = [.. Enumerable.Range(0, zones).Select(_ => random.Next(3, 8))];
            const int times = 20_000;
            var right = 0;
            for (var time = 0; time < times; time++)
            {
                var placed = Enumerable.Range(0, zones).OrderBy(i => widths[i]).ThenBy(_ => random.Next());
                var taken = Enumerable.Range(0, zones).OrderBy(i => lengths[i]).ThenBy(_ => random.Next());
                right += placed.Zip(taken).Count(pair => pair.First == pair.Second);
            }
            Assert.Equal((double)right / times / zones, ByLength.ShareOf(Of(widths, lengths)), 0.01);
        }
    }
}
