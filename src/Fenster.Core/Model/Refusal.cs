namespace Fenster.Core.Model;

/// <summary>Why a move is not made.</summary>
public enum Refused
{
    Unreadable,
    NoSuchPane,
    NoSuchLabel,
    NoSuchCopy,
    NoSuchPlace,
    NoSuchOption,
    NoSuchLink,
    OffThePicture,
    NothingToMark,
    NothingToType,
    NothingToChoose,
    NothingToMatch,
    NothingToHandIn,
    TooManyChoices,
    TooManyMarks,
    OneMarkOnly,
    TooManyCopies,
    TooManyPins,
    TextTooLong,
    TextsTooLong,
    TooManyCodes,
    CodesTooFast,
    TooManyMoves,
    TooManyAtOnce,
    HeldFast,
    Settled,
    NoChecks,
    ChecksUsed,
    NothingToCheck,
    NothingChanged,
    TooManyChecks,
}

/// <summary>A move that is not made, and why.</summary>
/// <param name="Most">How many or how much there may be, where the reason is that there is too much.</param>
public sealed record Refusal(Refused Why, int Most = 0)
{
    /// <summary>For the student.</summary>
    public string Sentence =>
        Why switch
        {
            Refused.Unreadable => "A move could not be read.",
            Refused.NoSuchPane => "That picture is not part of this activity.",
            Refused.NoSuchLabel => "That label is not part of this picture.",
            Refused.NoSuchCopy => "There is no such copy of that label.",
            Refused.NoSuchPlace => "That place is not part of this picture.",
            Refused.NoSuchOption => "That option is not part of the question.",
            Refused.NoSuchLink => "That link is between things that are not there.",
            Refused.OffThePicture => "That spot is not on the picture.",
            Refused.NothingToMark => "Nothing can be marked there.",
            Refused.NothingToType => "Nothing can be typed there.",
            Refused.NothingToChoose => "There is nothing to choose there.",
            Refused.NothingToMatch => "There is nothing to match there.",
            Refused.NothingToHandIn => "There is nothing to hand in: this is there to learn from.",
            Refused.TooManyChoices => "That is more than can be chosen.",
            Refused.TooManyMarks => $"Up to {Most} spots can be marked.",
            Refused.OneMarkOnly => "Only one spot can be marked there.",
            Refused.TooManyCopies => $"That label can be used up to {Most} times at once.",
            Refused.TooManyPins => $"Up to {Most} labels can lie on one picture.",
            Refused.TextTooLong => $"That text is too long. It holds up to {Most} characters.",
            Refused.TextsTooLong => $"All texts on this picture together hold up to {Most} characters. Shorten another one first.",
            Refused.TooManyCodes => "Too many codes were tried here. Ask your teacher.",
            Refused.CodesTooFast => "That was faster than anyone types. Wait a moment before the next code.",
            Refused.TooManyMoves => "This work has as many steps as can be kept. Nothing is lost; hand it in, or ask your teacher.",
            Refused.TooManyAtOnce => $"More than {Most} moves came at once.",
            Refused.HeldFast => "That label is right and stays where it is.",
            Refused.Settled => "The right places are shown. Nothing can be changed any more.",
            Refused.NoChecks => "Here nothing is checked before handing in.",
            Refused.ChecksUsed => "All checks are used. You can still change your answers and hand in.",
            Refused.NothingToCheck => "There is nothing to check yet.",
            Refused.NothingChanged => "Nothing has changed since the last check.",
            Refused.TooManyChecks => "The work was checked too often.",
            _ => throw new ArgumentOutOfRangeException(nameof(Why), Why, "This reason is not known."),
        };
}
