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

public static class Moves
{
    /// <summary>
    /// The response after a move. A label put into a full zone sends the label that has lain there longest
    /// back to the bank. Taking back what is not placed, and putting down where it already lies, change nothing.
    /// </summary>
    /// <exception cref="MoveRefused">
    /// The move names a label, a copy or a zone that the pane does not have.
    /// </exception>
    public static Response Apply(Pane pane, Response response, Move move) => move switch
    {
        PutDown put => PutDown(pane, response, put),
        TakeBack back => response with
        {
            Placements = response.Placements.RemoveAll(Holds(back.Label, back.Copy)),
        },
        _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
    };

    private static Response PutDown(Pane pane, Response response, PutDown put)
    {
        var label = pane.Labels.FirstOrDefault(label => label.Id == put.Label)
            ?? throw new MoveRefused("That label is not part of this picture.");
        if (put.Copy < 0 || put.Copy >= (label.Copies ?? int.MaxValue))
            throw new MoveRefused("There is no such copy of that label.");
        var zone = pane.Targets.OfType<DropZone>().FirstOrDefault(zone => zone.Id == put.Zone)
            ?? throw new MoveRefused("That place is not part of this picture.");

        var placement = new Placement(put.Label, put.Copy, put.Zone);
        if (response.Placements.Contains(placement)) return response;

        var others = response.Placements.RemoveAll(Holds(put.Label, put.Copy));
        var inZone = others.Count(other => other.Zone == zone.Id);
        if (inZone >= zone.Capacity) others = others.Remove(others.First(other => other.Zone == zone.Id));
        return response with { Placements = others.Add(placement) };
    }

    private static Predicate<Placement> Holds(string label, int copy) =>
        placement => placement.Label == label && placement.Copy == copy;
}

/// <summary>A move that does not fit the pane. The message is a sentence for the student.</summary>
public sealed class MoveRefused(string message) : Exception(message);
