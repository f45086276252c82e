using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>One thing a student did on a pane. Moves in their order make the response.</summary>
public abstract record Move
{
    private protected Move() { }
}

/// <summary>A copy of a label was put into a zone, from the bank or from another zone.</summary>
public sealed record PutDown(string Label, int Copy, string Zone) : Move;

/// <summary>A copy of a label went back to the bank.</summary>
public sealed record TakeBack(string Label, int Copy) : Move;

/// <summary>A copy of a label was pinned to a spot.</summary>
public sealed record PinDown(string Label, int Copy, Point At) : Move;

/// <summary>The points that are marked for a target now, all of them.</summary>
public sealed record MarkPoints(string Target, ImmutableArray<Point> Points) : Move;

/// <summary>What stands in an answer box, a typed question or an open note now; empty for nothing.</summary>
public sealed record TypeText(string Target, string Text) : Move;

/// <summary>The options that are picked for a question now, all of them.</summary>
public sealed record PickOptions(string Target, ImmutableArray<string> Options) : Move;

/// <summary>The links that are drawn in a matching now, all of them.</summary>
public sealed record DrawLinks(string Target, ImmutableArray<Link> Links) : Move;

/// <summary>A code was tried on a lock.</summary>
public sealed record TryCode(string Target, string Code) : Move;

/// <summary>An info spot was opened.</summary>
public sealed record OpenSpot(string Target) : Move;

/// <summary>A student looked at a place; what is concealed there is found.</summary>
public sealed record LookAt(Point At) : Move;

/// <summary>The work was checked as it stands.</summary>
public sealed record PressCheck : Move;

public static class Moves
{
    public const int MostChecks = 500;
    public const int MostMarks = 200;
    public const int LongestText = 10_000;
    public const int MostCodes = 1000;

    /// <summary>
    /// The response after a move. A label put into a full zone sends the label that has lain there longest
    /// back to the bank. Taking back what is not placed, and putting down where it already lies, change nothing.
    /// </summary>
    /// <exception cref="MoveRefused">
    /// The move names a label, a copy, a target or an option that the pane does not have, or is too much.
    /// </exception>
    public static Response Apply(Pane pane, Response response, Move move) => move switch
    {
        PutDown put => PutDown(pane, response, put),
        PinDown pin => PinDown(pane, response, pin),
        TakeBack back => WithoutCopy(response, back.Label, back.Copy),
        MarkPoints mark => MarkPoints(pane, response, mark),
        TypeText typed => TypeText(pane, response, typed),
        PickOptions pick => PickOptions(pane, response, pick),
        DrawLinks draw => DrawLinks(pane, response, draw),
        TryCode attempt => TryCode(pane, response, attempt),
        OpenSpot open => OpenSpot(pane, response, open),
        LookAt look => LookAt(pane, response, look),
        PressCheck => Check(response),
        _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
    };

    /// <summary>The responses to an activity, by pane id, after a move on one of its panes.</summary>
    /// <inheritdoc cref="Apply(Pane, Response, Move)" path="/exception"/>
    public static ImmutableDictionary<string, Response> Apply(Activity activity, ImmutableDictionary<string, Response> responses, string pane, Move move) =>
        responses.SetItem(pane, Apply(activity.Pane(pane), responses.GetValueOrDefault(pane, Response.Empty), move));

    private static Response PutDown(Pane pane, Response response, PutDown put)
    {
        RequireCopy(pane, put.Label, put.Copy);
        var zone = Require<DropZone>(pane, response, put.Zone);
        var placement = new Placement(put.Label, put.Copy, put.Zone);
        if (response.Placements.Contains(placement)) return response;

        var without = WithoutCopy(response, put.Label, put.Copy);
        var others = without.Placements;
        if (others.Count(other => other.Zone == zone.Id) >= zone.Capacity) others = others.Remove(others.First(other => other.Zone == zone.Id));
        return without with { Placements = others.Add(placement) };
    }

    private static Response PinDown(Pane pane, Response response, PinDown pin)
    {
        RequireCopy(pane, pin.Label, pin.Copy);
        RequirePoint(pin.At);
        var without = WithoutCopy(response, pin.Label, pin.Copy);
        return without with { Pins = without.Pins.Add(new(pin.Label, pin.Copy, pin.At)) };
    }

    private static Response MarkPoints(Pane pane, Response response, MarkPoints mark)
    {
        if (Require<Target>(pane, response, mark.Target).Takes != Doing.Marking) throw new MoveRefused("Nothing can be marked there.");
        if (mark.Points.IsDefault || mark.Points.Length > MostMarks) throw new MoveRefused($"Up to {MostMarks} spots can be marked.");
        foreach (var point in mark.Points) RequirePoint(point);
        return response with { Marks = response.Marks.SetItem(mark.Target, mark.Points) };
    }

    private static Response TypeText(Pane pane, Response response, TypeText typed)
    {
        if (Require<Target>(pane, response, typed.Target).Takes != Doing.Typing)
            throw new MoveRefused("Nothing can be typed there.");
        if (typed.Text.Length > LongestText) throw new MoveRefused($"That text is too long. It holds up to {LongestText} characters.");
        return response with { Texts = typed.Text.Length == 0 ? response.Texts.Remove(typed.Target) : response.Texts.SetItem(typed.Target, typed.Text) };
    }

    private static Response PickOptions(Pane pane, Response response, PickOptions pick)
    {
        if (Require<QuestionPoint>(pane, response, pick.Target).Question is not ChoiceQuestion choice) throw new MoveRefused("There is nothing to choose there.");
        var known = choice.Options.Select(option => option.Id).ToHashSet();
        if (pick.Options.IsDefault || !pick.Options.All(known.Contains)) throw new MoveRefused("That option is not part of the question.");
        if (pick.Options.Distinct().Count() < pick.Options.Length || (!choice.Multiple && pick.Options.Length > 1)) throw new MoveRefused("That is more than can be chosen.");
        return response with { Picks = response.Picks.SetItem(pick.Target, pick.Options) };
    }

    private static Response DrawLinks(Pane pane, Response response, DrawLinks draw)
    {
        var matching = Require<Matching>(pane, response, draw.Target);
        var (left, right) = (matching.Left.Select(item => item.Id).ToHashSet(), matching.Right.Select(item => item.Id).ToHashSet());
        if (draw.Links.IsDefault || draw.Links.Any(link => link is null || !left.Contains(link.Left) || !right.Contains(link.Right)))
            throw new MoveRefused("That link is between things that are not there.");
        return response with { Links = response.Links.SetItem(draw.Target, [.. draw.Links.Distinct()]) };
    }

    private static Response TryCode(Pane pane, Response response, TryCode attempt)
    {
        Require<Lock>(pane, response, attempt.Target);
        if (attempt.Code.Length > TypedText.LongestText) throw new MoveRefused($"That code is too long. It holds up to {TypedText.LongestText} characters.");
        var tried = response.Codes.GetValueOrDefault(attempt.Target, []);
        if (tried.Length >= MostCodes) throw new MoveRefused("Too many codes were tried here. Ask your teacher.");
        return response with { Codes = response.Codes.SetItem(attempt.Target, tried.Add(attempt.Code)) };
    }

    private static Response OpenSpot(Pane pane, Response response, OpenSpot open) =>
        Opened(response, [Require<InfoSpot>(pane, response, open.Target)]);

    private static Response LookAt(Pane pane, Response response, LookAt look)
    {
        RequirePoint(look.At);
        return Opened(response, pane.Targets.OfType<InfoSpot>().Where(spot =>
            spot.Concealed && !Hiding.IsBehindLock(pane, response, spot.Id) && spot.At.DistanceTo(look.At) <= spot.Reach));
    }

    private static Response Opened(Response response, IEnumerable<InfoSpot> spots) =>
        response with { Opened = [.. response.Opened.Union(spots.Select(spot => spot.Id))] };

    private static Response Check(Response response) => response.Earlier.Length >= MostChecks
        ? throw new MoveRefused("The work was checked too often.")
        : response with { Earlier = response.Earlier.Add(response with { Earlier = [] }) };

    private static Response WithoutCopy(Response response, string label, int copy) => response with
    {
        Placements = response.Placements.RemoveAll(placement => placement.Label == label && placement.Copy == copy),
        Pins = response.Pins.RemoveAll(pin => pin.Label == label && pin.Copy == copy),
    };

    private static void RequireCopy(Pane pane, string id, int copy)
    {
        var label = pane.Labels.FirstOrDefault(label => label.Id == id)
            ?? throw new MoveRefused("That label is not part of this picture.");
        if (copy < 0 || copy >= (label.Copies ?? int.MaxValue)) throw new MoveRefused("There is no such copy of that label.");
    }

    /// <summary>A target of a kind, which the student knows of.</summary>
    private static T Require<T>(Pane pane, Response response, string id) where T : Target =>
        pane.Targets.OfType<T>().FirstOrDefault(target => target.Id == id) is { } target && !Hiding.IsHidden(pane, response, target)
            ? target
            : throw new MoveRefused("That place is not part of this picture.");

    private static void RequirePoint(Point point)
    {
        if (!point.IsFinite || Math.Abs(point.X) > 1_000_000 || Math.Abs(point.Y) > 1_000_000) throw new MoveRefused("That spot is not on the picture.");
    }
}

/// <summary>A move that does not fit the pane. The message is a sentence for the student.</summary>
public sealed class MoveRefused(string message) : Exception(message);
