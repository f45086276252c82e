using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Checking;

/// <summary>Those who answered the same at a target.</summary>
/// <param name="Name">The same for all answers that come to the same; empty where nothing was answered.</param>
public sealed record AnswerGroup<T>(string Name, ImmutableArray<T> Who);

/// <summary>Answers of many students at one target, put together as the checking folds them.</summary>
public static class AnswerGroups
{
    /// <summary>The largest group first; those who answered nothing last.</summary>
    /// <param name="read">Gives somebody's response to the pane.</param>
    public static ImmutableArray<AnswerGroup<T>> Of<T>(Target target, IEnumerable<T> students, Func<T, Response> read) =>
        [
            .. students
                .GroupBy(student => target.Match(new Names(read(student))))
                .Select(group => new AnswerGroup<T>(group.Key, [.. group]))
                .OrderBy(group => group.Name == "")
                .ThenByDescending(group => group.Who.Length)
                .ThenBy(group => group.Name, StringComparer.Ordinal),
        ];

    /// <summary>What each answered, by a name that is the same for answers that come to the same; empty for nothing.</summary>
    public static IEnumerable<string> NamesOf(Target target, IEnumerable<Response> responses) =>
        responses.Select(response => target.Match(new Names(response)));

    private sealed class Names(Response response) : ITargetCases<string>
    {
        public string Of(DropZone zone) =>
            Set(response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label));

        public string Of(HiddenZone zone) =>
            Set(response.Pins.Where(pin => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0).Select(pin => pin.Label));

        // Which spots were found, and how many marks found none.
        public string Of(Hotspots hotspots) =>
            Set(
                response
                    .Marks.GetValueOrDefault(hotspots.Id, [])
                    .Select(at =>
                        hotspots
                            .Spots.Select((spot, i) => (spot, i))
                            .FirstOrDefault(spot => spot.spot.Tolerance.CreditFor(spot.spot.Region, at) > 0)
                            is ({ }, var number)
                            ? number.ToString(CultureInfo.InvariantCulture)
                            : "-"
                    )
            );

        public string Of(AnswerBox box) => Typed(box, box.Answer);

        public string Of(QuestionPoint point) =>
            point.Question is TypedQuestion typed ? Typed(point, typed.Answer) : Set(response.Picks.GetValueOrDefault(point.Id, []));

        private string Typed(Target target, TypedAnswer answer) =>
            response.Texts.GetValueOrDefault(target.Id) is { } text && !string.IsNullOrWhiteSpace(text) ? answer.Alike(text) : "";

        public string Of(Lock @lock) => Hiding.IsOpen(@lock, response) ? "open" : "";

        public string Of(OpenNote note) =>
            response.Texts.GetValueOrDefault(note.Id, "").Trim() is { Length: > 0 } text ? text
            : response.Marks.GetValueOrDefault(note.Id, []).IsEmpty ? ""
            : "-";

        // No two are alike.
        public string Of(OwnPicture own) =>
            response.Own.TryGetValue(own.Id, out var work)
                ? string.Join('\n', work.Files().Concat(work.Spots.Select(spot => $"{spot.Id} {spot.Title} {spot.Text}")))
                : "";

        // Values that earn the same, and all others together.
        public string Of(ScalePoint point) =>
            ScaleCheck.PointOf(point, response) is { } at ? ScaleCheck.Credit(point, at).ToString(CultureInfo.InvariantCulture) : "";

        public string Of(Matching matching) =>
            Set(response.Links.GetValueOrDefault(matching.Id, []).Select(link => $"{link.Left} {link.Right}"));

        public string Of(SortRegion region) => Set(response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => pin.Label));

        public string Of(InfoSpot spot) => response.Opened.Contains(spot.Id) ? "open" : "";

        private static string Set(IEnumerable<string> parts) => string.Join('\n', parts.Order(StringComparer.Ordinal));
    }
}
