namespace Fenster.Core.Model;

/// <summary>A pane that a class plays as a game: spots with points, which teams open in any order.</summary>
public static class GamePane
{
    /// <summary>Whether there is a spot that opens a card, which is what a game is made of.</summary>
    public static bool Fits(Pane pane) =>
        pane.Picture is not null
        && pane.Targets.Any(target => target is QuestionPoint || (target.Takes == Doing.Opening && target.FoundAt is null));
}
