namespace Fenster.Core.Model;

/// <summary>What a response from elsewhere must fulfil before it is checked. Responses made of <see cref="Moves"/> always do.</summary>
public static class ResponseSoundness
{
    public const int MostActions = 10_000;

    /// <summary>What does not fit the pane, as the end of a sentence; null when everything does.</summary>
    public static string? Fault(Pane pane, Response response)
    {
        if (response.Placements.Length + response.Pins.Length > MostActions) return $"has more than {MostActions} placements";
        var labels = pane.Labels.ToDictionary(label => label.Id);
        var zones = pane.Targets.OfType<DropZone>().ToDictionary(zone => zone.Id);
        var copies = response.Placements.Select(p => (p.Label, p.Copy)).Concat(response.Pins.Select(p => (p.Label, p.Copy))).ToList();
        foreach (var (label, copy) in copies)
            if (!labels.TryGetValue(label, out var known)) return $"places the label '{label}', which the pane does not have";
            else if (copy < 0 || copy >= (known.Copies ?? int.MaxValue)) return $"places a copy {copy} of the label '{label}', which has {known.Copies}";
        if (copies.Distinct().Count() < copies.Count) return "places one copy of a label twice";
        foreach (var zone in response.Placements.Select(placement => placement.Zone))
            if (!zones.ContainsKey(zone)) return $"places a label in the drop zone '{zone}', which the pane does not have";
        foreach (var many in response.Placements.GroupBy(placement => placement.Zone))
            if (many.Count() > zones[many.Key].Capacity) return $"places {many.Count()} labels in the drop zone '{many.Key}', which takes {zones[many.Key].Capacity}";

        if (response.Earlier.Length > Moves.MostChecks) return $"was checked more than {Moves.MostChecks} times";
        if (response.Earlier.Any(earlier => !earlier.Earlier.IsEmpty)) return "has something earlier within something earlier";
        foreach (var earlier in response.Earlier)
            if (Fault(pane, earlier) is { } fault) return $"has something earlier that {fault}";

        // What lies behind locks can be answered once they are open, and spots are opened once they are found.
        var open = Response.Empty with { Codes = response.Codes, Opened = response.Opened };
        if (response.Opened.FirstOrDefault(id => pane.Targets.OfType<InfoSpot>().All(spot => spot.Id != id)) is { } unknown)
            return $"opens the info spot '{unknown}', which the pane does not have";
        Move[] others =
        [
            .. response.Pins.Select(pin => new PinDown(pin.Label, pin.Copy, pin.At)),
            .. response.Marks.Select(mark => new MarkPoints(mark.Key, mark.Value)),
            .. response.Texts.Select(text => new TypeText(text.Key, text.Value)),
            .. response.Picks.Select(pick => new PickOptions(pick.Key, pick.Value)),
            .. response.Links.Select(link => new DrawLinks(link.Key, link.Value)),
            .. response.Opened.Select(spot => new OpenSpot(spot)),
        ];
        foreach (var move in others)
        {
            try
            {
                Moves.Apply(pane, open, move);
            }
            catch (MoveRefused refused)
            {
                return $"has something that does not fit: {refused.Message.TrimEnd('.')}";
            }
        }
        foreach (var (id, codes) in response.Codes)
            if (pane.Targets.OfType<Lock>().All(@lock => @lock.Id != id)) return $"tries a code on the lock '{id}', which the pane does not have";
            else if (codes.Length > Moves.MostCodes || codes.Any(code => code is null || code.Length > TypedText.LongestText)) return $"tries too many or too long codes on the lock '{id}'";
        return null;
    }
}
