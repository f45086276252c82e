using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Insight;

/// <summary>One student's score before and after a change of key or rules.</summary>
public sealed record ScoreChange(string Student, ActivityScore Before, ActivityScore After)
{
    public bool IsChanged => Before.Score != After.Score || Before.Possible != After.Possible || Before.Grade != After.Grade;

    /// <summary>The better of the two: by the grade where they are out of something else, else by the score.</summary>
    public ActivityScore Better =>
        (After.Possible == Before.Possible ? After.Score < Before.Score : After.Grade < Before.Grade) ? Before : After;
}

/// <summary>What a change of key or rules would do to every stored response, before anything is changed.</summary>
/// <param name="NowPass">Students who failed before and would pass.</param>
/// <param name="NowFail">Students who passed before and would fail.</param>
public sealed record WhatIf(ImmutableArray<ScoreChange> Scores, int Changed, ImmutableArray<string> NowPass, ImmutableArray<string> NowFail)
{
    /// <param name="works">What was done, by students. It is never altered.</param>
    public static WhatIf Compare(Activity before, Activity after, IReadOnlyList<(string Student, Work Work)> works) =>
        Compare(Score(before, works), Score(after, works), [.. works.Select(work => work.Student)]);

    /// <param name="students">In the order of the scores.</param>
    public static WhatIf Compare(ImmutableArray<ActivityScore> before, ImmutableArray<ActivityScore> after, IReadOnlyList<string> students)
    {
        var scores = students.Select((student, i) => new ScoreChange(student, before[i], after[i])).ToImmutableArray();
        return new(
            scores,
            scores.Count(score => score.IsChanged),
            [.. scores.Where(score => score.Before.Passed == false && score.After.Passed == true).Select(score => score.Student)],
            [.. scores.Where(score => score.Before.Passed == true && score.After.Passed == false).Select(score => score.Student)]
        );
    }

    /// <summary>The scores of works, in their order, worked out on all processors.</summary>
    public static ImmutableArray<ActivityScore> Score(Activity activity, IReadOnlyList<(string Student, Work Work)> works) =>
        [.. works.AsParallel().AsOrdered().Select(work => Scorer.Score(activity, work.Work.Responses, work.Work.Marking.Awards))];
}
