using Fenster.Core.Geometry;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Model;

/// <summary>One thing that keeps an activity from being published.</summary>
/// <param name="Sentence">What is wrong and what to do.</param>
/// <param name="About">Id of the label or target that it concerns; null when it concerns the whole pane.</param>
/// <param name="Mend">What mends it with one click.</param>
public sealed record Obstacle(string Sentence, string? About = null, Mend Mend = Mend.None);

/// <summary>What can be mended with one click.</summary>
public enum Mend
{
    None,
    MakeOne,
    Enlarge,
    WriteAltText,
    AddDistractor,
    BringBack,
    IntoBank,
    Delete,
}

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

    /// <summary>The same of one pane.</summary>
    internal static IEnumerable<Obstacle> Obstacles(Pane pane)
    {
        // Things to match need no picture under them.
        if (pane.Picture is null && (pane.Targets.IsEmpty || pane.Targets.Any(target => target is not Matching)))
        {
            yield return NoPicture;
            yield break;
        }

        var zones = pane.Targets.OfType<Zone>().ToList();
        if (pane.Targets.IsEmpty)
            yield return new("There is no drop zone yet. Click on the picture where a label belongs.");

        var texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);
        foreach (var zone in zones)
        {
            if (zone.Accepts.IsEmpty || zone.Accepts.Any(accepted => string.IsNullOrWhiteSpace(texts[accepted.Label])))
                yield return new("A drop zone has no label yet. Type it, or delete the zone.", zone.Id);
        }
        if (pane.Picture?.Plane is { } plane)
            foreach (var target in pane.Targets)
                if (target.Match(Places.All).Any(place => !plane.Holds(place)))
                    yield return new(
                        $"{(target is Zone ? "A drop zone" : "A part of it")} lies outside the picture. Drag it back onto it.",
                        target.Id,
                        Mend.BringBack
                    );
        foreach (var matching in pane.Targets.OfType<Matching>())
            if (matching.Left.Concat(matching.Right).Any(item => string.IsNullOrWhiteSpace(item.Text)))
                yield return new(
                    "One of the things to match has no text yet. Of a picture or a sound it is what it shows or says.",
                    matching.Id
                );
        foreach (var point in pane.Targets.OfType<QuestionPoint>())
            if (string.IsNullOrWhiteSpace(point.Question.Text))
                yield return new("The question has no text yet. Type it, or delete the row.", point.Id);
        foreach (var spot in pane.Targets.OfType<InfoSpot>())
            if (string.IsNullOrWhiteSpace(spot.Text) && spot.Face is null && spot.Link == "")
                yield return new("The info spot tells nothing yet. Write something, add a picture, sound or video, or delete it.", spot.Id);

        var accepted = pane.Targets.SelectMany(target => target.NamedLabels).ToHashSet();
        foreach (var label in pane.Labels)
        {
            if (string.IsNullOrWhiteSpace(label.Text) && !accepted.Contains(label.Id))
                yield return new("A distractor has no text yet. Type it, or delete the row.", label.Id);
            if (label.Copies is { } copies && Demand(zones, label.Id) is var demand && demand > copies)
                yield return new(
                    $"“{label.Text}” belongs in {demand} zones but has only {copies} {(copies == 1 ? "copy" : "copies")}.",
                    label.Id
                );
        }

        foreach (
            var alike in pane
                .Labels.Where(label => !string.IsNullOrWhiteSpace(label.Text))
                .GroupBy(label => label.Text.Trim(), StringComparer.OrdinalIgnoreCase)
        )
        foreach (var label in alike.Skip(1))
            yield return new($"Another label reads “{alike.Key}” too. Students can't tell the two apart.", label.Id, Mend.MakeOne);
    }

    /// <summary>How many zones can be filled by nothing but this label.</summary>
    private static int Demand(IEnumerable<Zone> zones, string label) =>
        zones.Count(zone => zone.Accepts.Length == 1 && zone.Accepts[0].Label == label);

    /// <summary>Where the parts of a target lie, in pu.</summary>
    private sealed class Places : ITargetCases<IEnumerable<Point>>
    {
        public static readonly Places All = new();

        public IEnumerable<Point> Of(DropZone zone) => [zone.Region.Bounds.Centre];

        public IEnumerable<Point> Of(HiddenZone zone) => [zone.Region.Bounds.Centre];

        public IEnumerable<Point> Of(Hotspots hotspots) => hotspots.Spots.Select(spot => spot.Region.Bounds.Centre);

        public IEnumerable<Point> Of(AnswerBox box) => [box.Region.Bounds.Centre];

        public IEnumerable<Point> Of(QuestionPoint point) => [point.At];

        public IEnumerable<Point> Of(Lock @lock) => [@lock.At];

        public IEnumerable<Point> Of(OpenNote note) => [note.Region.Bounds.Centre];

        public IEnumerable<Point> Of(ScalePoint point) => [];

        public IEnumerable<Point> Of(Matching matching) => [];

        public IEnumerable<Point> Of(SortRegion region) => [region.Region.Bounds.Centre];

        public IEnumerable<Point> Of(InfoSpot spot) => [spot.At];
    }
}
