using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <param name="What">The end of a sentence.</param>
/// <param name="Why">Null where that says it all.</param>
public sealed record ResponseFault(string What, Refusal? Why = null);

/// <summary>
/// What a response from elsewhere must fulfil before it is checked. Responses made of <see cref="Moves"/> that fit always do.
/// </summary>
public static class ResponseSoundness
{
    public const int MostActions = 10_000;

    /// <summary>What does not fit the pane; null when everything does.</summary>
    public static ResponseFault? Fault(Pane pane, Response response) =>
        OfPlacements(pane, response) is { } placed ? new(placed)
        : OfEarlier(pane, response) is { } earlier ? earlier
        : OfCodes(pane, response) is { } tried ? new(tried)
        : OfOthers(pane, response);

    /// <summary>
    /// The response with each action that it repeats (a placement, pin, mark, pick or link that is there twice) once, and how many
    /// repeats there were.
    /// </summary>
    public static (Response Response, int Repeats) WithoutRepeats(Response response)
    {
        var repeats = 0;
        ImmutableArray<T> Once<T>(ImmutableArray<T> actions)
        {
            if (actions.IsDefault)
                return actions;
            var distinct = actions.Distinct().ToImmutableArray();
            repeats += actions.Length - distinct.Length;
            return distinct.Length == actions.Length ? actions : distinct;
        }
        ImmutableDictionary<string, ImmutableArray<T>> Each<T>(ImmutableDictionary<string, ImmutableArray<T>> actions) =>
            actions.ToImmutableDictionary(pair => pair.Key, pair => Once(pair.Value));

        var tidy = response with
        {
            Placements = Once(response.Placements),
            Pins = Once(response.Pins),
            Marks = Each(response.Marks),
            Picks = Each(response.Picks),
            Links = Each(response.Links),
            Opened = Once(response.Opened),
            Earlier =
            [
                .. response.Earlier.Select(earlier =>
                {
                    var (once, more) = WithoutRepeats(earlier);
                    repeats += more;
                    return once;
                }),
            ],
        };
        return (tidy, repeats);
    }

    private static string? OfPlacements(Pane pane, Response response)
    {
        if (response.Placements.Length + response.Pins.Length > MostActions)
            return $"has more than {MostActions} placements";
        var labels = pane.Labels.ToDictionary(label => label.Id);
        var zones = pane.Targets.OfType<DropZone>().ToDictionary(zone => zone.Id);
        var copies = response.Placements.Select(p => (p.Label, p.Copy)).Concat(response.Pins.Select(p => (p.Label, p.Copy))).ToList();
        foreach (var (label, copy) in copies)
            if (!labels.TryGetValue(label, out var known))
                return $"places the label '{label}', which the pane does not have";
            else if (copy < 0)
                return $"places a copy {copy} of the label '{label}'; copies are counted from 0";
            else if (copy >= (known.Copies ?? Limits.MostCopies))
                return $"places a copy {copy} of the label '{label}', which has {known.Copies ?? Limits.MostCopies}";
        if (copies.Distinct().Count() < copies.Count)
            return "places one copy of a label twice";
        foreach (var zone in response.Placements.Select(placement => placement.Zone))
            if (!zones.ContainsKey(zone))
                return $"places a label in the drop zone '{zone}', which the pane does not have";
        foreach (var many in response.Placements.GroupBy(placement => placement.Zone))
            if (many.Count() > zones[many.Key].Capacity)
                return $"places {many.Count()} labels in the drop zone '{many.Key}', which takes {zones[many.Key].Capacity}";
        return null;
    }

    private static ResponseFault? OfEarlier(Pane pane, Response response)
    {
        if (response.Earlier.Length > Limits.MostChecks)
            return new($"was checked more than {Limits.MostChecks} times");
        if (response.Earlier.Any(earlier => !earlier.Earlier.IsEmpty))
            return new("has something earlier within something earlier");
        return response.Earlier.Select(earlier => Fault(pane, earlier)).FirstOrDefault(fault => fault is not null) is var (what, why)
            ? new($"has something earlier that {what}", why)
            : null;
    }

    private static string? OfCodes(Pane pane, Response response)
    {
        foreach (var (id, codes) in response.Codes)
            if (pane.Targets.OfType<Lock>().All(@lock => @lock.Id != id))
                return $"tries a code on the lock '{id}', which the pane does not have";
            else if (codes.Length > Limits.MostCodes || codes.Any(code => code is null || code.Length > TypedText.LongestText))
                return $"tries too many or too long codes on the lock '{id}'";
        return null;
    }

    private static ResponseFault? OfOthers(Pane pane, Response response)
    {
        if (response.Opened.FirstOrDefault(id => pane.Targets.All(spot => spot.Id != id || spot.Takes != Doing.Opening)) is { } unknown)
            return new($"opens the info spot '{unknown}', which the pane does not have");
        // What lies behind locks can be answered once they are open, and spots are opened once they are found.
        var open = Response.Empty with { Codes = response.Codes, Opened = response.Opened };
        (string What, Move Move)[] others =
        [
            .. response.Pins.Select(pin => ($"the label '{pin.Label}'", (Move)new PinDown(pin.Label, pin.Copy, pin.At))),
            .. response.Marks.Select(mark => ($"'{mark.Key}'", (Move)new MarkPoints(mark.Key, mark.Value))),
            .. response.Texts.Select(text => ($"'{text.Key}'", (Move)new TypeText(text.Key, text.Value))),
            .. response.Picks.Select(pick => ($"'{pick.Key}'", (Move)new PickOptions(pick.Key, pick.Value))),
            .. response.Links.Select(link => ($"'{link.Key}'", (Move)new DrawLinks(link.Key, link.Value))),
            .. response.Opened.Select(spot => ($"'{spot}'", (Move)new OpenSpot(spot))),
            .. response
                .Own.Where(own => own.Value.Picture is not null)
                .Select(own => ($"'{own.Key}'", (Move)new BringPicture(own.Key, own.Value.Picture))),
            .. response.Own.SelectMany(own => own.Value.Spots.Select(spot => ($"'{own.Key}'", (Move)new PutSpot(own.Key, spot)))),
        ];
        foreach (var (id, own) in response.Own)
            if (own.Spots.Length > Limits.MostOwnSpots || own.Spots.DistinctBy(spot => spot?.Id).Count() < own.Spots.Length)
                return new($"has more than {Limits.MostOwnSpots} spots at '{id}', or one of them twice");
        foreach (var (what, move) in others)
            if (MoveRules.Fit(pane, open, move) is { } refusal)
                return new($"has something at {what} that does not fit", refusal);
        return null;
    }
}
