using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Tests;

/// <summary>Makes panes and responses in one line.</summary>
internal static class Build
{
    public static Pane Pane(IEnumerable<Label> labels, params DropZone[] zones) =>
        new()
        {
            Id = "pane",
            Picture = new Picture(new string('a', 64), 1000, 750),
            Labels = [.. labels],
            Targets = [.. zones],
        };

    /// <summary>Labels by their letters: <c>Labels("A B C")</c>.</summary>
    public static IEnumerable<Label> Labels(string ids, int? copies = 1) =>
        ids.Split(' ')
            .Select(id => new Label
            {
                Id = id,
                Text = $"Label {id}",
                Copies = copies,
            });

    /// <summary>A zone that accepts labels, in order along the picture: <c>Zone(1, "A B=0.5")</c>.</summary>
    public static DropZone Zone(int number, string accepts, decimal points = 1, int capacity = 1, string? group = null) =>
        new()
        {
            Id = $"{number}",
            Region = new Rectangle(number * 60, 100, 50, 40),
            Points = points,
            Capacity = capacity,
            Group = group,
            Accepts =
            [
                .. accepts
                    .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(accept =>
                        accept.Split('=') is [var label, var credit]
                            ? new Accepted(label, decimal.Parse(credit, System.Globalization.CultureInfo.InvariantCulture))
                            : new Accepted(accept)
                    ),
            ],
        };

    /// <summary>Placements as label and zone: <c>Response("A1 B2")</c>; the same label again is its next copy.</summary>
    public static Response Response(string placements)
    {
        var copies = new Dictionary<string, int>();
        return new()
        {
            Placements =
            [
                .. placements
                    .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(p =>
                    {
                        var copy = copies.GetValueOrDefault(p[..1]);
                        copies[p[..1]] = copy + 1;
                        return new Placement(p[..1], copy, p[1..]);
                    }),
            ],
        };
    }

    public static Activity Activity(Pane pane, ScoreRules? score = null, RevealRules? reveal = null) =>
        new()
        {
            Title = "An activity",
            Panes = [pane],
            Rules = new() { Score = score ?? new(), Reveal = reveal ?? new() },
        };

    public static ImmutableDictionary<string, Response> On(Pane pane, Response response) =>
        ImmutableDictionary<string, Response>.Empty.Add(pane.Id, response);
}
