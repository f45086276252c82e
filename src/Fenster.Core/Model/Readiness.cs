using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>One thing that keeps an activity from being published.</summary>
/// <param name="Sentence">What is wrong and what to do.</param>
/// <param name="About">Id of the label or target that it concerns; null when it concerns the whole pane.</param>
/// <param name="Alike">Whether the label reads like an earlier one, so that the two can be made one.</param>
public sealed record Obstacle(string Sentence, string? About = null, bool Alike = false);

/// <summary>What stands between a sound draft and its students.</summary>
public static class Readiness
{
    private static readonly Obstacle NoPicture = new("There is no picture yet. Add one to begin.");

    /// <summary>Everything that keeps the activity from being published; empty when it can be.</summary>
    public static IReadOnlyList<Obstacle> Obstacles(Activity activity) =>
        activity.Panes.IsEmpty ? [NoPicture] : [.. activity.Panes.SelectMany(Obstacles)];

    /// <summary>The obstacles in words, each sentence once.</summary>
    public static IReadOnlyList<string> Sentences(Activity activity) =>
        [.. Obstacles(activity).Select(obstacle => obstacle.Sentence).Distinct()];

    private static IEnumerable<Obstacle> Obstacles(Pane pane)
    {
        if (pane.Picture is null)
        {
            yield return NoPicture;
            yield break;
        }

        var zones = pane.Targets.OfType<DropZone>().ToList();
        if (pane.Targets.IsEmpty) yield return new("There is no drop zone yet. Click on the picture where a label belongs.");

        var texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);
        var plane = pane.Picture.Plane;
        foreach (var zone in zones)
        {
            if (zone.Accepts.IsEmpty || zone.Accepts.Any(accepted => string.IsNullOrWhiteSpace(texts[accepted.Label])))
                yield return new("A drop zone has no label yet. Type it, or delete the zone.", zone.Id);
            if (!plane.Holds(zone.Region.Bounds.Centre))
                yield return new("A drop zone lies outside the picture. Drag it back onto it.", zone.Id);
        }

        var accepted = zones.SelectMany(zone => zone.Accepts).Select(a => a.Label).ToHashSet();
        foreach (var label in pane.Labels)
        {
            if (string.IsNullOrWhiteSpace(label.Text) && !accepted.Contains(label.Id))
                yield return new("A distractor has no text yet. Type it, or delete the row.", label.Id);
            if (label.Copies is { } copies && Demand(zones, label.Id) is var demand && demand > copies)
                yield return new($"“{label.Text}” belongs in {demand} zones but has only {copies} {(copies == 1 ? "copy" : "copies")}.", label.Id);
        }

        foreach (var alike in pane.Labels
            .Where(label => !string.IsNullOrWhiteSpace(label.Text))
            .GroupBy(label => label.Text.Trim(), StringComparer.OrdinalIgnoreCase))
            foreach (var label in alike.Skip(1))
                yield return new($"Another label reads “{alike.Key}” too. Students can't tell the two apart.", label.Id, Alike: true);
    }

    /// <summary>How many zones can be filled by nothing but this label.</summary>
    private static int Demand(IEnumerable<DropZone> zones, string label) =>
        zones.Count(zone => zone.Accepts.Length == 1 && zone.Accepts[0].Label == label);
}
