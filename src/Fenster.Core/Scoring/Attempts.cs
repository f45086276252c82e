namespace Fenster.Core.Scoring;

/// <summary>Which of a student's attempts at one activity counts.</summary>
public enum AttemptPolicy
{
    Best,
    Latest,
    First,
    Mean,
}

public static class AttemptGrades
{
    /// <summary>The grade of several attempts, rounded once, half away from zero to two decimals.</summary>
    /// <param name="grades">
    /// Before rounding (see <see cref="ActivityScore.ExactGrade"/>), in the order in which they were handed in. An attempt in
    /// which nothing was done is not among them.
    /// </param>
    /// <exception cref="ArgumentException">There is no attempt.</exception>
    public static decimal Of(IReadOnlyList<decimal> grades, AttemptPolicy policy)
    {
        if (grades.Count == 0)
            throw new ArgumentException("There is no attempt to grade.", nameof(grades));
        var grade = policy switch
        {
            AttemptPolicy.Best => grades.Max(),
            AttemptPolicy.Latest => grades[^1],
            AttemptPolicy.First => grades[0],
            AttemptPolicy.Mean => grades.Average(),
            _ => throw new ArgumentOutOfRangeException(nameof(policy), policy, "This policy is not known."),
        };
        return Math.Round(grade, 2, MidpointRounding.AwayFromZero);
    }
}
