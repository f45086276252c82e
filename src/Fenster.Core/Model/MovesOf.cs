using System.Collections.Immutable;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Model;

/// <summary>A response taken apart again into moves that make it.</summary>
public static class MovesOf
{
    /// <summary>
    /// Moves that make a response that has none earlier, in an order in which each is allowed: codes first, since they
    /// open what other moves need, and of the locks those before others that lie behind them. What lies behind a lock that
    /// the response leaves shut is left out.
    /// </summary>
    public static ImmutableArray<Move> Response(Pane pane, Response response) =>
        [
            .. Locks(pane).SelectMany(@lock => response.Codes.GetValueOrDefault(@lock.Id, []).Select(code => new TryCode(@lock.Id, code))),
            .. response.Placements.Select(placement => new PutDown(placement.Label, placement.Copy, placement.Zone)),
            .. response.Pins.Select(pin => new PinDown(pin.Label, pin.Copy, pin.At)),
            .. pane.Targets.Where(target => !Hiding.IsBehindLock(pane, response, target.Id)).SelectMany(target => At(target, response)),
        ];

    private static IEnumerable<Move> At(Target target, Response response)
    {
        if (response.Marks.TryGetValue(target.Id, out var points))
            yield return new MarkPoints(target.Id, points);
        if (response.Texts.TryGetValue(target.Id, out var text))
            yield return new TypeText(target.Id, text);
        if (response.Picks.TryGetValue(target.Id, out var options))
            yield return new PickOptions(target.Id, options);
        if (response.Links.TryGetValue(target.Id, out var links))
            yield return new DrawLinks(target.Id, links);
        if (response.Own.TryGetValue(target.Id, out var own))
        {
            if (own.Picture is { } picture)
                yield return new BringPicture(target.Id, picture);
            foreach (var spot in own.Spots)
                yield return new PutSpot(target.Id, spot);
        }
        if (response.Opened.Contains(target.Id))
            yield return target.FoundAt is { } found ? new LookAt(found.At) : new OpenSpot(target.Id);
    }

    /// <summary>A lock that lies behind another comes after it.</summary>
    private static IEnumerable<Lock> Locks(Pane pane)
    {
        var locks = pane.Targets.OfType<Lock>().ToList();
        int Depth(Lock @lock) => locks.FirstOrDefault(outer => outer.Opens.Contains(@lock.Id)) is { } outer ? 1 + Depth(outer) : 0;
        return locks.OrderBy(Depth);
    }
}
