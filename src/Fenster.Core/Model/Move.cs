using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>One thing a student did on a pane. Moves in their order make the response.</summary>
public abstract record Move
{
    private protected Move() { }
}

/// <summary>A copy of a label was put into a zone, from the bank or from another zone.</summary>
[KindName("putDown")]
public sealed record PutDown(string Label, int Copy, string Zone) : Move;

/// <summary>A copy of a label went back to the bank.</summary>
[KindName("takeBack")]
public sealed record TakeBack(string Label, int Copy) : Move;

/// <summary>A copy of a label was pinned to a spot.</summary>
[KindName("pinDown")]
public sealed record PinDown(string Label, int Copy, Point At) : Move;

/// <summary>The points that are marked for a target now, all of them.</summary>
[KindName("markPoints")]
public sealed record MarkPoints(string Target, ImmutableArray<Point> Points) : Move;

/// <summary>What stands in an answer box, a typed question or an open note now; empty for nothing.</summary>
[KindName("typeText")]
public sealed record TypeText(string Target, string Text) : Move;

/// <summary>The options that are picked for a question now, all of them.</summary>
[KindName("pickOptions")]
public sealed record PickOptions(string Target, ImmutableArray<string> Options) : Move;

/// <summary>The links that are drawn in a matching now, all of them.</summary>
[KindName("drawLinks")]
public sealed record DrawLinks(string Target, ImmutableArray<Link> Links) : Move;

/// <summary>A code was tried on a lock.</summary>
[KindName("tryCode")]
public sealed record TryCode(string Target, string Code) : Move;

/// <summary>An info spot was opened.</summary>
[KindName("openSpot")]
public sealed record OpenSpot(string Target) : Move;

/// <summary>A student looked at a place. What is concealed there is opened by moves that follow.</summary>
[KindName("lookAt")]
public sealed record LookAt(Point At) : Move;

/// <summary>A student's own picture was brought, described anew, or taken away.</summary>
/// <param name="Picture">Null for taken away. What stands on it stays.</param>
[KindName("bringPicture")]
public sealed record BringPicture(string Target, OwnImage? Picture) : Move;

/// <summary>A spot was put on a student's own picture, or is changed.</summary>
[KindName("putSpot")]
public sealed record PutSpot(string Target, OwnSpot Spot) : Move;

/// <param name="Spot">Id of a spot that goes away.</param>
[KindName("takeSpot")]
public sealed record TakeSpot(string Target, string Spot) : Move;

/// <summary>The work was checked as it stands.</summary>
[KindName("pressCheck")]
public sealed record PressCheck : Move;

/// <summary>
/// Something was typed there, of which only what came of it is kept: a later move of the log says it. It stands where the move of then stood,
/// so that times and numbers stay.
/// </summary>
/// <param name="Target">Id of the target.</param>
[KindName("typing")]
public sealed record Typing(string Target) : Move;

/// <summary>
/// What moves do. A log of moves that were allowed once is applied without a look at the pane, its key or the rules, so that
/// no later change of these can change what was done.
/// </summary>
public static class Moves
{
    /// <summary>What a move changes, by a name of its own on its pane: a copy of a label or a target; null for nothing that lies there.</summary>
    public static string? Touched(Move move) =>
        move switch
        {
            PutDown put => $"{put.Label}/{put.Copy}",
            PinDown pin => $"{pin.Label}/{pin.Copy}",
            TakeBack back => $"{back.Label}/{back.Copy}",
            MarkPoints mark => mark.Target,
            TypeText typed => typed.Target,
            PickOptions pick => pick.Target,
            DrawLinks draw => draw.Target,
            BringPicture bring => bring.Target,
            PutSpot put => $"{put.Target}/{put.Spot.Id}",
            TakeSpot take => $"{take.Target}/{take.Spot}",
            _ => null,
        };

    /// <summary>The target that a move names; null for one that names a label or none.</summary>
    public static string? TargetOf(Move move) =>
        move switch
        {
            MarkPoints mark => mark.Target,
            TypeText typed => typed.Target,
            Typing typing => typing.Target,
            PickOptions pick => pick.Target,
            DrawLinks draw => draw.Target,
            TryCode attempt => attempt.Target,
            OpenSpot open => open.Target,
            BringPicture bring => bring.Target,
            PutSpot put => put.Target,
            TakeSpot take => take.Target,
            Model.PutDown or Model.PinDown or TakeBack or LookAt or PressCheck => null,
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };

    /// <summary>
    /// What a move is kept as once a later one at the same thing says all that it said: typing goes on, and of the words that stood there
    /// in between nothing is left. Null for a move that stays, such as one that brings a spot or another picture.
    /// </summary>
    /// <param name="before">The response without the move.</param>
    public static Typing? WhenTypedOver(Response before, Move move) =>
        move switch
        {
            TypeText typed => new(typed.Target),
            PutSpot put when before.Own.GetValueOrDefault(put.Target, OwnWork.Empty).Spots.Any(spot => spot.Id == put.Spot.Id) => new(
                put.Target
            ),
            BringPicture { Picture: { } picture } bring
                when before.Own.GetValueOrDefault(bring.Target, OwnWork.Empty).Picture?.Media == picture.Media => new(bring.Target),
            _ => null,
        };

    /// <summary>The response after a move, whatever the move names.</summary>
    public static Response Apply(Response response, Move move) =>
        move switch
        {
            PutDown put => PutDown(response, new(put.Label, put.Copy, put.Zone)),
            PinDown pin => PinDown(response, new(pin.Label, pin.Copy, pin.At)),
            TakeBack back => WithoutCopy(response, back.Label, back.Copy),
            MarkPoints mark => response with { Marks = response.Marks.SetItem(mark.Target, mark.Points) },
            TypeText { Text: "" } emptied => response with { Texts = response.Texts.Remove(emptied.Target) },
            TypeText typed => response with { Texts = response.Texts.SetItem(typed.Target, typed.Text) },
            PickOptions pick => response with { Picks = response.Picks.SetItem(pick.Target, pick.Options) },
            DrawLinks draw => response with { Links = response.Links.SetItem(draw.Target, draw.Links) },
            TryCode attempt => response with
            {
                Codes = response.Codes.SetItem(attempt.Target, response.Codes.GetValueOrDefault(attempt.Target, []).Add(attempt.Code)),
            },
            OpenSpot open => response.Opened.Contains(open.Target) ? response : response with { Opened = response.Opened.Add(open.Target) },
            Typing => response,
            PressCheck => response with { Earlier = response.Earlier.Add(response with { Earlier = [] }) },
            LookAt => response,
            BringPicture bring => Made(response, bring.Target, own => Bring(own, bring.Picture)),
            PutSpot put => Made(response, put.Target, own => own with { Spots = With(own.Spots, put.Spot) }),
            TakeSpot take => Made(response, take.Target, own => own with { Spots = own.Spots.RemoveAll(spot => spot.Id == take.Spot) }),
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };

    /// <summary>The responses to an activity, by pane id, after a move on one of its panes.</summary>
    public static ImmutableDictionary<string, Response> Apply(ImmutableDictionary<string, Response> responses, string pane, Move move) =>
        responses.SetItem(pane, Apply(responses.GetValueOrDefault(pane, Response.Empty), move));

    private static Response Made(Response response, string target, Func<OwnWork, OwnWork> make) =>
        make(response.Own.GetValueOrDefault(target, OwnWork.Empty)) is { IsEmpty: false } made
            ? response with
            {
                Own = response.Own.SetItem(target, made),
            }
            : response with
            {
                Own = response.Own.Remove(target),
            };

    /// <summary>What lay on the picture before lies on this one too.</summary>
    private static OwnWork Bring(OwnWork own, OwnImage? picture) =>
        own with
        {
            Picture = picture,
            Spots = picture is null ? own.Spots : [.. own.Spots.Select(spot => spot with { At = picture.Nearest(spot.At) })],
        };

    private static ImmutableArray<OwnSpot> With(ImmutableArray<OwnSpot> spots, OwnSpot spot)
    {
        for (var i = 0; i < spots.Length; i++)
            if (spots[i].Id == spot.Id)
                return spots.SetItem(i, spot);
        return spots.Add(spot);
    }

    private static Response PutDown(Response response, Placement placement)
    {
        if (response.Placements.Contains(placement))
            return response;
        var without = WithoutCopy(response, placement.Label, placement.Copy);
        return without with { Placements = without.Placements.Add(placement) };
    }

    private static Response PinDown(Response response, Pin pin)
    {
        var without = WithoutCopy(response, pin.Label, pin.Copy);
        return without with { Pins = without.Pins.Add(pin) };
    }

    private static Response WithoutCopy(Response response, string label, int copy) =>
        response with
        {
            Placements = response.Placements.RemoveAll(placement => placement.Label == label && placement.Copy == copy),
            Pins = response.Pins.RemoveAll(pin => pin.Label == label && pin.Copy == copy),
        };
}
