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
    LeftOpen,
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
    Stale,
    NoChecks,
    ChecksUsed,
    NothingToCheck,
    NothingChanged,
    TooManyChecks,
    NothingToMake,
    NotYourPicture,
    TooManySpots,
    NoSuchSpot,
    LinkNotPublic,
    SourceTooLong,
}

/// <summary>A move that is not made, and why.</summary>
/// <param name="Most">How many or how much there may be, where the reason is that there is too much.</param>
public sealed record Refusal(Refused Why, int Most = 0);
