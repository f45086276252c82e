namespace Fenster.Core.Scoring;

/// <summary>What a student has at an activity, of one attempt or of several together.</summary>
/// <param name="Score">Of several, their mean.</param>
/// <param name="Grade">Rounded half away from zero to two decimals.</param>
/// <param name="ExactGrade">The grade before it is rounded.</param>
/// <param name="IsSoFar">Whether something of it waits for a person: nothing of it is final then.</param>
public sealed record StudentScore(decimal Score, decimal Possible, decimal Grade, decimal MaximumGrade, decimal ExactGrade, bool IsSoFar)
{
    public static StudentScore Of(ActivityScore score) =>
        new(score.Score, score.Possible, score.Grade, score.MaximumGrade, score.ExactGrade, score.IsSoFar);

    /// <summary>What the attempts that count come to together.</summary>
    /// <param name="counted">At least one.</param>
    /// <exception cref="InvalidOperationException">There is none.</exception>
    public static StudentScore Of(IReadOnlyList<StudentScore> counted)
    {
        if (counted is [var only])
            return only;
        var exact = counted.Average(score => score.ExactGrade);
        return new(
            counted.Average(score => score.Score),
            counted.Average(score => score.Possible),
            Math.Round(exact, 2, MidpointRounding.AwayFromZero),
            counted[^1].MaximumGrade,
            exact,
            counted.Any(score => score.IsSoFar)
        );
    }

    /// <summary>Whether it passes; null without a pass mark, and while it is so far.</summary>
    /// <param name="passMark">A grade; null for none.</param>
    public bool? Passes(decimal? passMark) => IsSoFar || passMark is not { } least ? null : Grade >= least;

    /// <summary>Below another: by the grade where the two are out of something else, else by the score.</summary>
    public bool IsLessThan(StudentScore other) => Possible == other.Possible ? Score < other.Score : Grade < other.Grade;
}
