using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>
/// A pane on which each student makes a picture of their own: brings one, or takes the pane's, and puts spots on it. A person marks it.
/// </summary>
[KindName("ownPicture")]
public sealed record OwnPicture : Target
{
    public PictureFrom Whose { get; init; } = PictureFrom.Student;

    /// <summary>What students answer, each by a spot of their own; empty where they choose what to say.</summary>
    public ImmutableArray<string> Questions { get; init; } = [];

    /// <summary>How many spots it needs at least, from 0 to <see cref="Limits.MostOwnSpots"/>.</summary>
    public int Fewest { get; init; } = 3;

    /// <summary>Whether each spot has to name the source that it came from.</summary>
    public bool NeedsSources { get; init; }

    /// <summary>What it is marked by, in an order; empty where it is marked as a whole.</summary>
    public ImmutableArray<Criterion> Criteria { get; init; } = [];

    public override bool IsOpenWork => true;

    public override ImmutableArray<Criterion> MarkedBy() => Criteria;

    public override bool NeedsPicture => Whose == PictureFrom.Teacher;

    public override Doing Takes => Doing.Making;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Fewest is < 0 or > Limits.MostOwnSpots)
                yield return $"asks for {Fewest} spots; it may be 0 to {Limits.MostOwnSpots}";
            if (Questions.Length > Limits.MostOwnSpots)
                yield return $"asks more than {Limits.MostOwnSpots} questions";
            if (Questions.Any(question => string.IsNullOrWhiteSpace(question) || question.Length > Soundness.LongestPrompt))
                yield return $"has a question without words, or with more than {Soundness.LongestPrompt} characters";
            foreach (var fault in Criterion.FaultsOf(Criteria))
                yield return fault;
        }
    }
}

/// <summary>Where the picture comes from on which a student puts spots.</summary>
public enum PictureFrom
{
    /// <summary>Each student brings one.</summary>
    Student,

    /// <summary>It is the pane's, the same for all.</summary>
    Teacher,
}

/// <summary>A student's own picture as it stands.</summary>
/// <param name="Picture">What the student brought; null while there is none, and where the pane's is taken.</param>
/// <param name="Spots">In the order in which they were put.</param>
public sealed record OwnWork(OwnImage? Picture, ImmutableArray<OwnSpot> Spots)
{
    public static readonly OwnWork Empty = new(null, []);

    public bool IsEmpty => Picture is null && Spots.IsEmpty;

    /// <summary>Whether the same is made in both.</summary>
    public bool IsSame(OwnWork other) => Picture == other.Picture && Spots.SequenceEqual(other.Spots);

    /// <summary>The files that it shows and plays, by the names that they were stored under.</summary>
    public IEnumerable<string> Files() => Spots.Select(spot => spot.Face?.Media).Prepend(Picture?.Media).OfType<string>().Distinct();
}

/// <summary>A picture that a student brought.</summary>
/// <param name="Media">Name under which it is stored, 64 lower-case hexadecimal digits that nobody can guess.</param>
/// <param name="Width">In pixels, greater than 0.</param>
/// <param name="Height">In pixels, greater than 0.</param>
/// <param name="AltText">What somebody who can't see it is told; empty until the student writes it.</param>
public sealed record OwnImage(string Media, int Width, int Height, string AltText = "")
{
    /// <summary>In pu; it is 1000 pu wide.</summary>
    public double HeightInUnits => 1000.0 * Height / Width;

    /// <summary>The same point, or the nearest to it that lies on this picture.</summary>
    internal Point Nearest(Point point) => new(Math.Clamp(point.X, 0, 1000), Math.Clamp(point.Y, 0, HeightInUnits));
}

/// <summary>A spot that a student put on a picture.</summary>
/// <param name="Id">Made on the device, unique within the work.</param>
/// <param name="At">In pu.</param>
/// <param name="Question">Which question it answers, from 0; null for none.</param>
public sealed record OwnSpot(string Id, Point At, int? Question = null)
{
    public string Title { get; init; } = "";
    public string Text { get; init; } = "";

    /// <summary>A picture or a sound; null for none.</summary>
    public Face? Face { get; init; }

    /// <summary>A public web address; empty for nowhere.</summary>
    public string Link { get; init; } = "";

    /// <summary>Where what it tells came from; empty where it does not say.</summary>
    public string Source { get; init; } = "";

    /// <summary>Whether it says or shows something.</summary>
    internal bool SaysSomething => Title.Trim() != "" || Text.Trim() != "" || Face is not null;
}

/// <summary>What a student's own picture still lacks, as its maker is told.</summary>
public static class OwnReadiness
{
    /// <summary>Named sentences with their slots; empty when it can be handed in.</summary>
    public static IEnumerable<Said> Lacks(OwnPicture target, OwnWork work)
    {
        if (target.Whose == PictureFrom.Student && work.Picture is null)
            yield return new("making.lacksPicture");
        if (work.Picture is { AltText: "" })
            yield return new("making.lacksAltText");
        if (work.Spots.Length < target.Fewest)
            yield return new("making.lacksSpots", ("count", target.Fewest - work.Spots.Length));
        var unanswered = Enumerable.Range(0, target.Questions.Length).Count(i => work.Spots.All(spot => spot.Question != i));
        if (unanswered > 0)
            yield return new("making.lacksAnswers", ("count", unanswered));
        if (work.Spots.Count(spot => !spot.SaysSomething) is > 0 and var silent)
            yield return new("making.lacksWords", ("count", silent));
        if (target.NeedsSources && work.Spots.Count(spot => spot.Source.Trim() == "") is > 0 and var unsourced)
            yield return new("making.lacksSources", ("count", unsourced));
    }
}
