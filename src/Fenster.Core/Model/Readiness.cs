using System.Runtime.CompilerServices;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Model;

/// <summary>One thing that keeps an activity from being published.</summary>
/// <param name="Said">What is wrong and what to do.</param>
/// <param name="About">Id of the label or target that it concerns; null when it concerns the whole pane.</param>
/// <param name="Mend">What mends it with one click.</param>
public sealed record Obstacle(Said Said, string? About = null, Mend Mend = Mend.None);

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
    private static readonly Obstacle NoPicture = new(new("proof.noPicture"));

    /// <summary>Everything that keeps the activity from being published; empty when it can be.</summary>
    public static IReadOnlyList<Obstacle> Obstacles(Activity activity) =>
        activity.Panes.IsEmpty ? [NoPicture] : [.. activity.Panes.SelectMany(Obstacles)];

    /// <summary>The same of one pane, worked out once.</summary>
    internal static IReadOnlyList<Obstacle> Obstacles(Pane pane) => Known.GetValue(pane, found => [.. OfPane(found)]);

    private static readonly ConditionalWeakTable<Pane, IReadOnlyList<Obstacle>> Known = [];

    private static IEnumerable<Obstacle> OfPane(Pane pane)
    {
        if (pane.Picture is null && (pane.Targets.IsEmpty || pane.Targets.Any(target => target.NeedsPicture)))
        {
            yield return NoPicture;
            yield break;
        }

        var zones = pane.Targets.OfType<Zone>().ToList();
        if (pane.Targets.IsEmpty)
            yield return new(new("proof.noZone"));

        var texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);
        foreach (var zone in zones)
        {
            if (zone.Accepts.IsEmpty || zone.Accepts.Any(accepted => string.IsNullOrWhiteSpace(texts[accepted.Label])))
                yield return new(new("proof.zoneWithoutLabel"), zone.Id);
        }
        if (pane.Picture?.Plane is { } plane)
            foreach (var target in pane.Targets)
                if (target.Match(Places.All).Any(place => !plane.Holds(place)))
                    yield return new(new(target is Zone ? "proof.zoneOutside" : "proof.partOutside"), target.Id, Mend.BringBack);
        foreach (var matching in pane.Targets.OfType<Matching>())
            if (matching.Left.Concat(matching.Right).Any(item => string.IsNullOrWhiteSpace(item.Text)))
                yield return new(new("proof.matchWithoutText"), matching.Id);
        foreach (var point in pane.Targets.OfType<QuestionPoint>())
            if (string.IsNullOrWhiteSpace(point.Question.Text))
                yield return new(new("proof.questionWithoutText"), point.Id);
        foreach (var spot in pane.Targets.OfType<InfoSpot>())
            if (string.IsNullOrWhiteSpace(spot.Text) && spot.Face is null && spot.Link == "")
                yield return new(new("proof.emptyInfo"), spot.Id);

        var accepted = pane.Targets.SelectMany(target => target.NamedLabels).ToHashSet();
        foreach (var label in pane.Labels)
        {
            if (string.IsNullOrWhiteSpace(label.Text) && !accepted.Contains(label.Id))
                yield return new(new("proof.distractorWithoutText"), label.Id);
            if (label.Copies is { } copies && Demand(zones, label.Id) is var demand && demand > copies)
                yield return new(new("proof.tooFewCopies", ("label", label.Text), ("zones", demand), ("count", copies)), label.Id);
        }

        if (RegionPairing.HasTooManyChoices(pane))
            yield return new(new("proof.tooManyChoices", ("most", RegionPairing.MostChoices)));

        foreach (
            var alike in pane
                .Labels.Where(label => !string.IsNullOrWhiteSpace(label.Text))
                .GroupBy(label => label.Text.Trim(), StringComparer.OrdinalIgnoreCase)
        )
        foreach (var label in alike.Skip(1))
            yield return new(new("proof.readsToo", ("label", alike.Key)), label.Id, Mend.MakeOne);
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

        public IEnumerable<Point> Of(OwnPicture own) => [];

        public IEnumerable<Point> Of(InfoSpot spot) => [spot.At];
    }
}
