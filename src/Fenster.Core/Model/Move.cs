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

/// <summary>The work was checked as it stands.</summary>
[KindName("pressCheck")]
public sealed record PressCheck : Move;

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
            PressCheck => response with { Earlier = response.Earlier.Add(response with { Earlier = [] }) },
            LookAt => response,
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };

    /// <summary>The responses to an activity, by pane id, after a move on one of its panes.</summary>
    public static ImmutableDictionary<string, Response> Apply(ImmutableDictionary<string, Response> responses, string pane, Move move) =>
        responses.SetItem(pane, Apply(responses.GetValueOrDefault(pane, Response.Empty), move));

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
