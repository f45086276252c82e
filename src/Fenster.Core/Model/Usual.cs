namespace Fenster.Core.Model;

/// <summary>What is usual where a teacher says nothing. Written once, and generated for the browser.</summary>
public static class Usual
{
    /// <summary>
    /// Of a place that is to be found, in pu. Common practice: 35 to 40 pixels on a picture less than 600 wide.
    /// </summary>
    public const double HiddenRadius = 65;

    /// <summary>How unlike the colour at a point what belongs to the shape there may be, from 0 to 255.</summary>
    public const double ShapeReach = 40;

    /// <summary>How typed answers are compared.</summary>
    public static readonly SpellingRules Spelling = new();

    /// <summary>How far off still counts.</summary>
    public static readonly Tolerance Tolerance = Tolerance.None;
}
