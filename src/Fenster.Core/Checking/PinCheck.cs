using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// Pins against hidden zones, scale points and regions to sort into, all in one assignment: a pin earns at one of them, except
/// that it earns in each of several overlapping regions that want its label. Labels in shown zones take part in it where their group
/// has hidden zones too.
/// </summary>
internal sealed class PinCheck
{
    private readonly PaneKey key;
    private readonly SortCheck sorting;

    /// <summary>For each scale point the credit that a pin earned there.</summary>
    private readonly Dictionary<string, decimal> shown = [];

    /// <summary>The credits of labels in shown zones that were weighed here, by their place in the response; null for none.</summary>
    private readonly Dictionary<int, decimal>? credits;

    /// <summary>In the order of the response.</summary>
    public ImmutableArray<PinMark> Marks { get; }

    public PinCheck(PaneKey key, Response response, Weighing weighing, Sums sums)
    {
        this.key = key;
        var pins = response.Pins;
        var mixed = key.HasMixedFamilies
            ? Enumerable.Range(0, response.Placements.Length).Where(i => key.Zones[response.Placements[i].Zone].Family.IsMixed).ToArray()
            : [];
        if (pins.IsEmpty && mixed.Length == 0)
        {
            (Marks, sorting) = ([], new(key, [], weighing, _ => false));
            return;
        }
        // In an order of their own, so that equal pairings don't depend on the order of the response.
        var (rows, order) = (new Laid[pins.Length + mixed.Length], new int[pins.Length + mixed.Length]);
        for (var i = 0; i < rows.Length; i++)
        {
            order[i] = i;
            rows[i] =
                i < pins.Length ? new(pins[i].Label, pins[i].Copy, pins[i].At, null)
                : response.Placements[mixed[i - pins.Length]] is var (label, copy, zone) ? new(label, copy, null, zone)
                : default;
        }
        Array.Sort(rows, order, InOrder);

        var places = Earned(rows, response.Placements, weighing);
        var isTaken = places.Where(place => place is not null).Select(place => place!.Value.Column).ToHashSet();
        sorting = new(
            key,
            key.SortRegions.IsEmpty
                ? []
                :
                [
                    .. Enumerable
                        .Range(0, rows.Length)
                        .Where(row => places[row] is null && order[row] < pins.Length)
                        .Select(row => pins[order[row]]),
                ],
            weighing,
            label =>
                key.IsWantedByShown(label, response.Placements, weighing)
                || Enumerable
                    .Range(0, key.PinPlaces.Length)
                    .Any(i => !isTaken.Contains(i) && key.PinPlaces[i].Accepts(label) > 0 && !weighing.IsAside(key.PinPlaces[i].Target))
        );
        var aside = weighing.Aside is null ? null : Aside(rows, places, weighing);
        var marks = new PinMark[pins.Length];
        for (var row = 0; row < rows.Length; row++)
        {
            if (order[row] >= pins.Length)
            {
                (credits ??= [])[mixed[order[row] - pins.Length]] = (places[row] ?? aside?[row])?.Credit ?? 0;
                continue;
            }
            var pin = pins[order[row]];
            var mark = places[row] is var (column, credit)
                ? Earn(new(pin, Verdict.Right, 0), column, credit, sums)
                : sorting.MarkOf(pin, Belongs(rows[row]));
            // What was taken out or awarded keeps the verdict that it would give, where nothing else has the pin.
            if (aside?[row] is var (left, worth) && mark.Verdict is not (Verdict.Right or Verdict.Part))
                mark = Earn(mark, left, worth, sums);
            marks[order[row]] = mark with { IsFree = IsFree(rows[row], weighing) };
        }
        // A wrong pin makes the zone it lies in wrong, not missed.
        foreach (var mark in marks)
        {
            if (mark.Verdict != Verdict.Wrong)
                continue;
            foreach (var (place, zone) in key.HiddenPlaces)
                if (place.Reach.Holds(mark.Pin.At) && place.ShareAt(mark.Pin.At) > 0)
                    sums.Add(zone, 0);
        }
        Marks = [.. marks];
    }

    /// <summary>For each row the place where it earns, and the credit.</summary>
    private (int Column, decimal Credit)?[] Earned(Laid[] rows, ImmutableArray<Placement> placements, Weighing weighing)
    {
        bool IsFor(PinPlace place) => !weighing.IsAside(place.Target);
        if (key.SortRegions.IsEmpty)
        {
            var all = Chances.Of(key, rows, IsFor, _ => false);
            return Taken(rows, all, Chances.Best(key, rows, all));
        }
        var isFree = weighing.Aside is null ? new bool[rows.Length] : [.. rows.Select(row => IsFree(row, weighing))];
        var tally = new SortTally(key, rows, weighing, isFree, label => key.IsWantedByShown(label, placements, weighing));
        var chances = Chances.Of(key, rows, IsFor, tally.IsInRegion);
        return Taken(rows, chances, RegionPairing.Best(key, rows, chances, tally, weighing));
    }

    /// <summary>For each row that earns nowhere the place where it would, among those that were taken out or awarded.</summary>
    private (int Column, decimal Credit)?[] Aside(Laid[] rows, (int Column, decimal Credit)?[] earned, Weighing weighing)
    {
        var families = Enumerable
            .Range(0, rows.Length)
            .Where(row => earned[row] is not null)
            .Select(row => (rows[row].Label, key.PinPlaces[earned[row]!.Value.Column].Family))
            .ToHashSet();
        var left = Chances.Of(key, rows, place => weighing.IsAside(place.Target), row => earned[row] is not null);
        left.RemoveAll(chance =>
            earned[chance.Row] is not null
            || (key.PinPlaces[chance.Column].Family is { } family && families.Contains((rows[chance.Row].Label, family)))
        );
        return Taken(rows, left, Chances.Best(key, rows, left));
    }

    private static (int Column, decimal Credit)?[] Taken(Laid[] rows, List<Chance> chances, int[] columns)
    {
        var taken = new (int Column, decimal Credit)?[rows.Length];
        foreach (var chance in chances)
            if (columns[chance.Row] == chance.Column)
                taken[chance.Row] = (chance.Column, chance.Credit);
        return taken;
    }

    /// <summary>Whether it lies within reach of a target that was taken out or awarded: what is wrong about it costs nothing.</summary>
    private bool IsFree(Laid put, Weighing weighing)
    {
        if (weighing.Aside is null || put.At is not { } at)
            return false;
        return key.HiddenPlaces.Any(each => weighing.IsAside(each.Place.Zone) && each.Place.Reach.Holds(at) && each.Place.ShareAt(at) > 0)
            || key.ScalePoints.Any(point => point.Label == put.Label && weighing.IsAside(point) && ScaleCheck.Credit(point, at) > 0)
            || key.SortRegions.Any(region => weighing.IsAside(region) && region.Region.Contains(at));
    }

    /// <summary>Whether it would earn at a hidden zone or a scale, were it not for others.</summary>
    private bool Belongs(Laid put) =>
        key.LabelsOfPlaces.Contains(put.Label)
        && key.PinPlaces.Any(place => place.Accepts(put.Label) is > 0 and var accepted && place.CreditOf(put, accepted) > 0);

    private PinMark Earn(PinMark mark, int column, decimal credit, Sums sums)
    {
        var place = key.PinPlaces[column];
        if (place is HiddenPlace { Zone: var zone })
            sums.Add(key.Zones[zone.Id], credit);
        else if (place is ScalePlace { Point: var point })
            shown[point.Id] = credit;
        return mark with { Verdict = Checker.VerdictOf(credit), Credit = credit, Place = place };
    }

    /// <summary>What a label in a shown zone earns whose group has hidden zones too.</summary>
    /// <param name="placement">Its place in the response.</param>
    public decimal CreditOf(int placement) => credits?.GetValueOrDefault(placement) ?? 0;

    public TargetMark Mark(SortRegion region) => sorting.Mark(region);

    /// <summary>The mark of a scale point whose value a label shows: wrong where the label lies anywhere else.</summary>
    public TargetMark Mark(ScalePoint point) =>
        shown.TryGetValue(point.Id, out var credit)
            ? Checker.Mark(point, true, credit)
            : Checker.Mark(point, Marks.Any(mark => mark.Pin.Label == point.Label && mark.Place is null), 0);

    private static readonly Comparer<Laid> InOrder = Comparer<Laid>.Create(
        (a, b) =>
            string.CompareOrdinal(a.Label, b.Label) is var byLabel and not 0
                ? byLabel
                : (a.At is not null, a.At?.X ?? 0, a.At?.Y ?? 0, a.Copy).CompareTo((b.At is not null, b.At?.X ?? 0, b.At?.Y ?? 0, b.Copy))
    );
}
