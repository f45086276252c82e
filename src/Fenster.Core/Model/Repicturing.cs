using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>Gives a pane another picture, or the same one prepared otherwise, and keeps what stands on it in its place.</summary>
public static class Repicturing
{
    /// <summary>
    /// The pane with a picture. When both pictures come from one source, every target moves with what it lies on;
    /// otherwise the targets stay where they are.
    /// </summary>
    public static Pane WithPicture(this Pane pane, Picture picture)
    {
        var changed = pane with { Picture = picture };
        if (pane.Picture is not { } before || SourceOf(before) != SourceOf(picture))
            return changed;
        var moved = ToPicture(before).Inverse().Then(ToPicture(picture));
        if (moved == Similarity.Identity)
            return changed;
        return changed with { Targets = [.. pane.Targets.Select(target => target.Match(new Moving(moved)))] };
    }

    private static string SourceOf(Picture picture) => picture.Preparation?.Source ?? picture.Media;

    private static Similarity ToPicture(Picture picture) => picture.Preparation?.ToPicture ?? Similarity.Identity;

    /// <summary>Each kind of target, moved.</summary>
    private sealed class Moving(Similarity map) : ITargetCases<Target>
    {
        public Target Of(DropZone zone) =>
            zone with
            {
                Region = map.Map(zone.Region),
                Leader = zone.Leader is { } leader ? map.Map(leader) : null,
            };

        public Target Of(HiddenZone zone) => zone with { Region = map.Map(zone.Region), Tolerance = Of(zone.Tolerance) };

        public Target Of(Hotspots hotspots) =>
            hotspots with
            {
                Spots = [.. hotspots.Spots.Select(spot => spot with { Region = map.Map(spot.Region), Tolerance = Of(spot.Tolerance) })],
            };

        public Target Of(AnswerBox box) => box with { Region = map.Map(box.Region) };

        public Target Of(QuestionPoint point) => point with { At = map.Map(point.At) };

        public Target Of(Lock @lock) => @lock with { At = map.Map(@lock.At) };

        public Target Of(OpenNote note) => note with { Region = map.Map(note.Region) };

        // Its tolerance is in the scale's own units, which do not change.
        public Target Of(ScalePoint point) => point with { Scale = new(Of(point.Scale.X), point.Scale.Y is { } y ? Of(y) : null) };

        public Target Of(Matching matching) => matching;

        public Target Of(SortRegion region) => region with { Region = map.Map(region.Region) };

        // What students put there is theirs.
        public Target Of(OwnPicture own) => own;

        public Target Of(InfoSpot spot) => spot with { At = map.Map(spot.At), Reach = spot.Reach * map.Scale };

        private Axis Of(Axis axis) => axis with { From = map.Map(axis.From), To = map.Map(axis.To) };

        private Tolerance Of(Tolerance tolerance) =>
            new(tolerance.Slack * map.Scale) { Bands = [.. tolerance.Bands.Select(band => band with { Slack = band.Slack * map.Scale })] };
    }
}
