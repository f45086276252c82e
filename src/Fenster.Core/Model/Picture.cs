using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>The fixed image under a pane, as students receive it: margins and everything painted onto it are burnt in.</summary>
/// <param name="Media">Content hash of the stored file: 64 lower-case hexadecimal digits.</param>
/// <param name="Width">Width of the file in pixels, upright, with its margins; greater than 0.</param>
/// <param name="Height">Height of the file in pixels, upright, with its margins; greater than 0.</param>
/// <param name="AltText">What a student who can't see the picture is told; empty until the teacher writes it.</param>
public sealed record Picture(string Media, int Width, int Height, string AltText = "")
{
    public Margins Margins { get; init; } = Margins.None;

    /// <summary>What the teacher did to make it; null when it is shown as it came. Students never see it.</summary>
    public Preparation? Preparation { get; init; }

    /// <summary>Who made it and under which licence; empty when nobody has to be named.</summary>
    public string Credit { get; init; } = "";

    /// <summary>
    /// How many pixels of its own it has across, with its margins: what is painted onto a small picture is sharper than
    /// the picture itself.
    /// </summary>
    public int OwnWidth =>
        Preparation is { } made
            ? (int)Math.Min(Width, Math.Round(made.Kept.Width / 1000 * made.SourceWidth * (1000 + Margins.Left + Margins.Right) / 1000))
            : Width;

    /// <summary>Height of the picture without its margins, in pu; its width without them is always 1000 pu.</summary>
    public double HeightInUnits => (1000 + Margins.Left + Margins.Right) * Height / Width - Margins.Top - Margins.Bottom;

    /// <summary>What the file covers, in pu: the picture and its margins.</summary>
    public Bounds Plane => new(-Margins.Left, -Margins.Top, 1000 + Margins.Right, HeightInUnits + Margins.Bottom);

    internal IEnumerable<string> Faults
    {
        get
        {
            if (Width <= 0 || Height <= 0)
                yield return "has no size";
            if (!Face.IsHash(Media))
                yield return "has a content hash that is not 64 hexadecimal digits";
            if (Margins.Sides.Any(side => !(side >= 0 && side <= Margins.Widest)))
                yield return $"has a margin that is not between 0 and {Margins.Widest} pu";
            else if (Width > 0 && !(HeightInUnits > 0))
                yield return "has margins that leave no room for it";
            foreach (var fault in Preparation?.Faults ?? [])
                yield return fault;
        }
    }
}

/// <summary>Blank space around a picture, in pu on each side, 0 or more.</summary>
public sealed record Margins(double Left, double Top, double Right, double Bottom)
{
    public const double Widest = 2000;

    public static readonly Margins None = new(0, 0, 0, 0);

    internal double[] Sides => [Left, Top, Right, Bottom];
}

/// <summary>
/// What a teacher did to a source picture before it became a pane's picture: data over the untouched original, so that
/// each step can be changed later. Positions are in source units: 1000 across the upright source, y from its top.
/// </summary>
/// <param name="Source">Content hash of the source.</param>
/// <param name="SourceWidth">In pixels, upright; greater than 0.</param>
/// <param name="SourceHeight">In pixels, upright; greater than 0.</param>
public sealed record Preparation(string Source, int SourceWidth, int SourceHeight)
{
    public const int MostFixings = 500;

    /// <summary>Turn about the source's middle, in degrees, clockwise.</summary>
    public double Turn { get; init; }

    /// <summary>What is kept, upright in the turned picture, whose middle stays where it was; null for all of it.</summary>
    public Bounds? Crop { get; init; }

    /// <summary>The colour of margins and of corners that a turn leaves empty, as <c>#rrggbb</c>.</summary>
    public string Paper { get; init; } = "#ffffff";

    /// <summary>What is painted onto the picture, in this order; it turns with it.</summary>
    public ImmutableArray<Fixing> Fixings { get; init; } = [];

    private Point Middle => new(500, 500.0 * SourceHeight / SourceWidth);

    /// <summary>What is kept of the turned picture: the crop, or the smallest box that holds all of it.</summary>
    public Bounds Kept
    {
        get
        {
            if (Crop is { } crop)
                return crop;
            var whole = new Rectangle(0, 0, 1000, 1000.0 * SourceHeight / SourceWidth, Turn);
            return whole.Bounds;
        }
    }

    /// <summary>From source units to the pu of the picture that results.</summary>
    public Similarity ToPicture => Similarity.Turning(Middle, Turn).Then(Similarity.Framing(Kept));

    internal IEnumerable<string> Faults
    {
        get
        {
            if (!Face.IsHash(Source) || SourceWidth <= 0 || SourceHeight <= 0)
                yield return "is prepared from something that is no picture";
            if (!double.IsFinite(Turn))
                yield return "is turned by a number that is not finite";
            if (
                Crop is { } crop
                && !(
                    crop.Width >= 1
                    && crop.Height >= 1
                    && crop.Width <= 10_000
                    && crop.Height <= 10_000
                    && Math.Abs(crop.Left) <= 10_000
                    && Math.Abs(crop.Top) <= 10_000
                )
            )
                yield return "is cut to a size that it can't have";
            if (Fixings.Length > MostFixings)
                yield return $"has more than {MostFixings} things painted onto it";
            if (!Fixing.IsColour(Paper) || Fixings.Any(fixing => !fixing.IsSound))
                yield return "has something painted onto it that lies nowhere or has no colour";
        }
    }
}

/// <summary>Something painted onto a picture and fixed there.</summary>
/// <param name="Colour">As <c>#rrggbb</c>.</param>
public abstract record Fixing(string Colour)
{
    internal abstract bool IsSound { get; }

    internal static bool IsColour(string colour) => colour is ['#', _, _, _, _, _, _] && colour.Skip(1).All(char.IsAsciiHexDigitLower);

    private protected static bool Lies(params ReadOnlySpan<double> numbers)
    {
        foreach (var number in numbers)
            if (!(Math.Abs(number) <= 10_000))
                return false;
        return true;
    }
}

/// <summary>A filled patch that covers what students must not see.</summary>
[KindName("cover")]
public sealed record CoverFixing(double X, double Y, double Width, double Height, string Colour) : Fixing(Colour)
{
    internal override bool IsSound => IsColour(Colour) && Lies(X, Y, Width, Height) && Width > 0 && Height > 0;
}

/// <summary>An outlined box.</summary>
[KindName("box")]
public sealed record BoxFixing(double X, double Y, double Width, double Height, string Colour) : Fixing(Colour)
{
    internal override bool IsSound => IsColour(Colour) && Lies(X, Y, Width, Height) && Width > 0 && Height > 0;
}

/// <summary>A leader line, or an arrow whose head is at its end.</summary>
[KindName("line")]
public sealed record LineFixing(Point From, Point To, bool IsArrow, string Colour) : Fixing(Colour)
{
    internal override bool IsSound => IsColour(Colour) && Lies(From.X, From.Y, To.X, To.Y) && From != To;
}

/// <summary>A caption that always stands upright.</summary>
/// <param name="At">The middle of its line.</param>
/// <param name="Size">Height of its letters in source units, greater than 0.</param>
[KindName("caption")]
public sealed record CaptionFixing(Point At, string Text, double Size, string Colour) : Fixing(Colour)
{
    internal override bool IsSound =>
        IsColour(Colour) && Lies(At.X, At.Y) && Size is > 0 and <= 500 && Text.Length is > 0 and <= Label.LongestText;
}
