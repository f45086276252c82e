namespace Fenster.Core.Model;

/// <summary>
/// How much there may be of what, so that no sound document can overflow a number or use up memory, and no student's work
/// can keep the server busy.
/// </summary>
public static class Limits
{
    /// <summary>Points, weights, costs, values and grades lie between minus this and this.</summary>
    public const decimal LargestNumber = 1_000_000_000;

    /// <summary>Behind the decimal point of such a number.</summary>
    public const int MostDecimals = 9;

    public const int MostCopies = 10_000;
    public const int MostCapacity = 10_000;

    /// <summary>Things on one side of a matching: more than anybody matches, and few enough to be drawn.</summary>
    public const int MostMatched = 500;

    /// <summary>Regions to sort into on one pane.</summary>
    public const int MostSortRegions = 200;

    /// <summary>Copies of one label without a limit of copies that may be used at once.</summary>
    public const int MostOfOneLabel = 200;

    /// <summary>Pins on one pane.</summary>
    public const int MostPins = 1000;
    public const int MostMarks = 200;

    /// <summary>Characters of one note.</summary>
    public const int LongestText = 10_000;

    /// <summary>Characters that a box for a short answer takes in the browser: more than any answer that is compared.</summary>
    public const int LongestAnswer = 1000;

    /// <summary>Characters in all texts on one pane.</summary>
    public const int LongestTexts = 100_000;
    public const int MostCodes = 1000;

    /// <summary>Spots that a student puts on a picture.</summary>
    public const int MostOwnSpots = 50;

    /// <summary>Characters of a spot's title.</summary>
    public const int LongestSpotTitle = 200;

    /// <summary>Characters of what a spot tells.</summary>
    public const int LongestSpotText = 3000;

    /// <summary>Characters of where it came from.</summary>
    public const int LongestSource = 1000;

    /// <summary>Files that one student may bring into one attempt, those that were taken away again among them.</summary>
    public const int MostOwnFiles = 40;

    /// <summary>Bytes of these files as they are kept.</summary>
    public const long MostOwnBytes = 200L * 1024 * 1024;

    /// <summary>That one piece of open work is marked by.</summary>
    public const int MostCriteria = 20;

    /// <summary>
    /// Codes that one attempt may try within <see cref="CodesWithin"/>: as fast as a person types, and too slow to try them all.
    /// </summary>
    public const int MostCodesWithin = 12;
    public static readonly TimeSpan CodesWithin = TimeSpan.FromMinutes(1);
    public const int MostChecks = 500;

    /// <summary>Moves of one attempt, with those that follow from them, and without those that were typed over.</summary>
    public const int MostMoves = 10_000;

    /// <summary>Moves of one attempt that were typed over: five hours of resting after every word.</summary>
    public const int MostTypedOver = 30_000;

    /// <summary>Characters of all moves of one attempt as they are stored.</summary>
    public const int LongestMoves = 4_000_000;

    /// <summary>How a number of a document is out of bounds, as the end of a sentence; null when it is not.</summary>
    internal static string? Fault(decimal? number) =>
        number is not { } value ? null
        : Math.Abs(value) > LargestNumber ? "is larger than a thousand million"
        : decimal.Round(value, MostDecimals) != value ? $"has more than {MostDecimals} decimals"
        : null;
}
