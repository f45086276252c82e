namespace Fenster.Core.Model;

/// <summary>A movable thing that students place: words, a picture or a sound.</summary>
public sealed record Label
{
    /// <summary>The most characters a label's text may have.</summary>
    public const int LongestText = 500;

    /// <summary>Unique within the pane.</summary>
    public required string Id { get; init; }

    /// <summary>What the label reads; of a picture or a sound, what it is described as to who can't see or hear it.</summary>
    public required string Text { get; init; }

    /// <summary>Null for a label of words.</summary>
    public Face? Face { get; init; }

    /// <summary>Who reads what a picture or a sound is described as, before the key shows; null for the usual.</summary>
    public DescriptionFor? Description { get; init; }

    /// <summary>A sound's description tends to be its answer, a picture's is what somebody who can't see it needs.</summary>
    public DescriptionFor UsualDescription => Face is PlayedFace ? DescriptionFor.Teachers : DescriptionFor.Students;

    /// <summary>Whether students know the label by a number until the key shows.</summary>
    internal bool KeepsBack => Face is not null && (Description ?? UsualDescription) == DescriptionFor.Teachers;

    /// <summary>The paper that it is written on.</summary>
    public LabelColour Colour { get; init; } = LabelColour.Paper;

    /// <summary>Where on the picture students find it at first, in pu; null when it waits in the bank.</summary>
    public Geometry.Point? Start { get; init; }

    /// <summary>How many times the label may be placed, at least 1; null for without limit.</summary>
    public int? Copies { get; init; } = 1;

    /// <summary>What the label adds to a total; null for a label that has no value.</summary>
    public decimal? Value { get; init; }

    /// <summary>Which spot of the label its pin points with; null for a ring on a line below it.</summary>
    public PinTip? Tip { get; init; }

    /// <summary>What a student is told who put the label where it is wrong; empty for nothing.</summary>
    public string Feedback { get; init; } = "";

    internal IEnumerable<string> Faults
    {
        get
        {
            if (Text.Length > LongestText)
                yield return $"has {Text.Length} characters; a label holds up to {LongestText}";
            if (Copies < 1)
                yield return "has no copies";
            if (Copies > Limits.MostCopies)
                yield return $"has more than {Limits.MostCopies} copies";
            if (Limits.Fault(Value) is { } value)
                yield return $"has a value that {value}";
            if (Face?.Fault is { } fault)
                yield return fault;
            if (Start is { IsFinite: false })
                yield return "begins at a place that is not finite";
            if (Tip is { } tip && !(tip.X is >= 0 and <= 1 && tip.Y is >= 0 and <= 1))
                yield return "has a pin tip that is not on it";
            if (Feedback.Length > Core.Model.Feedback.LongestText)
                yield return $"has a feedback of more than {Core.Model.Feedback.LongestText} characters";
        }
    }
}

/// <summary>What stands in the place of words.</summary>
public abstract record Face
{
    private protected Face(string media) => Media = media;

    /// <summary>Content hash of the stored file: 64 lower-case hexadecimal digits.</summary>
    public string Media { get; init; }

    internal virtual string? Fault => IsHash(Media) ? null : "shows a file whose content hash is not 64 hexadecimal digits";

    internal static bool IsHash(string media) => media.Length == 64 && media.All(char.IsAsciiHexDigitLower);
}

/// <param name="Width">In pixels, greater than 0.</param>
/// <param name="Height">In pixels, greater than 0.</param>
[KindName("picture")]
public sealed record PictureFace(string Media, int Width, int Height) : Face(Media)
{
    internal override string? Fault => base.Fault ?? (Width > 0 && Height > 0 ? null : "shows a picture without a size");
}

/// <summary>Something that is played, from a second on and up to another.</summary>
/// <param name="From">Seconds from the file's beginning, 0 or more.</param>
/// <param name="To">Seconds from the file's beginning, after <paramref name="From"/>; null for its end.</param>
public abstract record PlayedFace(string Media, double From, double? To) : Face(Media)
{
    internal override string? Fault =>
        base.Fault
        ?? (
            From is >= 0 and <= 86_400 && (To is null || (To > From && To <= 86_400))
                ? null
                : "plays from or to a second that it can't have"
        );
}

[KindName("sound")]
public sealed record SoundFace(string Media, double From = 0, double? To = null) : PlayedFace(Media, From, To);

/// <param name="Width">In pixels, greater than 0.</param>
/// <param name="Height">In pixels, greater than 0.</param>
/// <param name="Captions">Content hash of a stored WebVTT file; null without captions.</param>
[KindName("video")]
public sealed record VideoFace(string Media, int Width, int Height, double From = 0, double? To = null, string? Captions = null)
    : PlayedFace(Media, From, To)
{
    internal override string? Fault =>
        base.Fault
        ?? (
            Width > 0 && Height > 0 && (Captions is null || IsHash(Captions))
                ? null
                : "shows a video without a size, or with captions that are not stored"
        );
}

/// <summary>Papers that ink can be read on in both themes: a contrast of 7 or more by WCAG's definition.</summary>
public enum LabelColour
{
    Paper,
    Honey,
    Sky,
    Leaf,
    Rose,
    Lilac,
}

/// <summary>How large the labels of a pane are written.</summary>
public enum LabelSize
{
    Small,
    Medium,
    Large,
}

/// <param name="X">Share of the label's width, from its left edge.</param>
/// <param name="Y">Share of the label's height, from its top.</param>
public sealed record PinTip(double X, double Y);
