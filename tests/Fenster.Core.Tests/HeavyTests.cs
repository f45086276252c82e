using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;

namespace Fenster.Core.Tests;

/// <summary>Activities that hold as much as they may: nothing about them grows beyond what one teacher's may cost.</summary>
public sealed class HeavyTests
{
    private static ImmutableArray<Label> Labels(int count) =>
        [.. Enumerable.Range(0, count).Select(i => new Label { Id = $"l{i}", Text = $"Part {i}" })];

    private static Pane Heap(Func<int, Target> target, int count) =>
        new()
        {
            Id = "p",
            Picture = new(new string('0', 64), 1000, 1000, "A heap"),
            Labels = Labels(count),
            Targets = [.. Enumerable.Range(0, count).Select(target)],
        };

    private static Region Disc(int i) => new Circle(new(500 + i * 0.01, 500), 300);

    private static Region Star(int i) =>
        new Polygon([
            .. Enumerable
                .Range(0, Polygon.MostVertices)
                .Select(k => Math.Tau * k / Polygon.MostVertices)
                .Select(angle => new Point(500 + i * 0.01 + 300 * Math.Cos(angle), 500 + 300 * Math.Sin(angle))),
        ]);

    public static TheoryData<string, Pane> Heaps =>
        new()
        {
            {
                "zones",
                Heap(
                    i => new DropZone
                    {
                        Id = $"t{i}",
                        Region = Disc(i),
                        Accepts = [new($"l{i}")],
                    },
                    1500
                )
            },
            {
                "zones of many corners",
                Heap(
                    i => new DropZone
                    {
                        Id = $"t{i}",
                        Region = Star(i),
                        Accepts = [new($"l{i}")],
                    },
                    300
                )
            },
            {
                "hidden zones",
                Heap(
                    i => new HiddenZone
                    {
                        Id = $"t{i}",
                        Region = Disc(i),
                        Accepts = [new($"l{i}")],
                    },
                    1500
                )
            },
        };

    [Theory, MemberData(nameof(Heaps))]
    public void A_heap_of_zones_is_proved_and_says_that_not_all_of_it_was_measured(string what, Pane pane)
    {
        Assert.NotEmpty(what);
        var reading = Reading.Of(new() { Title = "A heap", Panes = [pane] });
        Assert.Contains(reading.Remarks, remark => remark.Sentence.Contains("very many places", StringComparison.Ordinal));
        Assert.Contains(reading.Remarks, remark => remark.Sentence.Contains("lies in another zone", StringComparison.Ordinal));
    }

    private static Pane Regions(int count) =>
        Heap(
            i => new SortRegion
            {
                Id = $"t{i}",
                Prompt = $"Region {i}",
                Region = Disc(i),
                Want = new WantSet([$"l{i}"]),
            },
            count
        ) with
        {
            Labels = [.. Labels(2000).Select(label => label with { Copies = null })],
        };

    [Fact]
    public void A_heap_of_regions_to_sort_into_is_proved_and_more_are_refused()
    {
        var pane = Regions(Limits.MostSortRegions);
        Assert.Empty(Soundness.Faults(new() { Title = "A heap", Panes = [pane] }));
        Assert.DoesNotContain("NaN", Reading.Of(new() { Title = "A heap", Panes = [pane] }).Guess.ToString());
        Assert.Contains(Soundness.Faults(new() { Title = "A heap", Panes = [Regions(Limits.MostSortRegions + 1)] }), fault =>
            fault.Sentence.Contains("200 regions to sort into", StringComparison.Ordinal)
        );
    }
}
