using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Insight;

/// <summary>One student's score before and after a change of key or rules.</summary>
public sealed record ScoreChange(string Student, ActivityScore Before, ActivityScore After)
{
    public bool IsChanged => Before.Score != After.Score || Before.Grade != After.Grade;
}

/// <summary>What a change of key or rules would do to every stored response, before anything is changed.</summary>
/// <param name="NowPass">Students who failed before and would pass.</param>
/// <param name="NowFail">Students who passed before and would fail.</param>
public sealed record WhatIf(ImmutableArray<ScoreChange> Scores, int Changed, ImmutableArray<string> NowPass, ImmutableArray<string> NowFail)
{
    /// <param name="responses">By student, and for each by pane id. They are never altered.</param>
    public static WhatIf Compare(
        Activity before,
        Activity after,
        IReadOnlyDictionary<string, ImmutableDictionary<string, Response>> responses
    )
    {
        var students = responses.Keys.Order(StringComparer.Ordinal).ToList();
        var (old, anew) = (
            Scorer.ScoreAll(before, students, student => responses[student]),
            Scorer.ScoreAll(after, students, student => responses[student])
        );
        var scores = students.Select((student, i) => new ScoreChange(student, old[i], anew[i])).ToImmutableArray();
        return new(
            scores,
            scores.Count(score => score.IsChanged),
            [.. scores.Where(score => score.Before.Passed == false && score.After.Passed == true).Select(score => score.Student)],
            [.. scores.Where(score => score.Before.Passed == true && score.After.Passed == false).Select(score => score.Student)]
        );
    }
}
