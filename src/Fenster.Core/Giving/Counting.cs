using Fenster.Core.Scoring;

namespace Fenster.Core.Giving;

/// <summary>Which of a student's attempts counts.</summary>
public static class Counting
{
    /// <summary>The attempts that count: one, or for the mean all of them.</summary>
    /// <param name="handed">
    /// Those that are handed in, in the order in which they were; an attempt in which nothing was done is not among them.
    /// </param>
    /// <param name="grade">Before it is rounded.</param>
    public static IReadOnlyList<T> Counted<T>(IReadOnlyList<T> handed, Func<T, decimal> grade, AttemptPolicy policy) =>
        handed.Count == 0
            ? []
            : policy switch
            {
                AttemptPolicy.Best => [handed.MaxBy(grade)!],
                AttemptPolicy.Latest => [handed[^1]],
                AttemptPolicy.First => [handed[0]],
                AttemptPolicy.Mean => handed,
                _ => throw new ArgumentOutOfRangeException(nameof(policy), policy, "This policy is not known."),
            };

    /// <summary>What a student has by the attempts that count; null when nothing was handed in.</summary>
    /// <inheritdoc cref="Counted"/>
    public static StudentScore? Worth(IReadOnlyList<StudentScore> handed, AttemptPolicy policy) =>
        handed.Count == 0 ? null : StudentScore.Of(Counted(handed, score => score.ExactGrade, policy));

    /// <summary>The grade of a student at an assignment and the one that follows it.</summary>
    /// <param name="first">Null when the student did not do it.</param>
    /// <param name="second">Null when the student did not do it.</param>
    /// <param name="passMark">Of the second; null for none.</param>
    /// <returns>Null when the student did neither.</returns>
    public static decimal? Across(decimal? first, decimal? second, Resit resit, decimal? passMark)
    {
        if (second is not { } again)
            return first;
        var worth = resit == Resit.Capped && passMark is { } most ? Math.Min(again, most) : again;
        // Who was away has only the second: nothing was failed that it could make up for.
        if (first is not { } before)
            return again;
        return resit == Resit.Latest ? again : Math.Max(before, worth);
    }
}
