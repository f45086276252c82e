using System.Collections.Immutable;
using Fenster.Core.Scoring;
using Fenster.Store;

namespace Fenster.Web.Pages;

/// <summary>All work of an assignment as it was read, and what it is worth by the revision that holds.</summary>
/// <param name="Scores">In the same order.</param>
public sealed record LatelyRead(string State, IReadOnlyList<HandedWork> Works, ImmutableArray<ActivityScore> Scores);

/// <summary>
/// Work that was read lately and has not changed since, so that a hand that drags does not wait for it to be read again. What is stored is
/// the truth: each time it is asked whether it is still so.
/// </summary>
public sealed class WorksLately(Works works, Revisions revisions, Regrades regrades)
{
    private readonly Lru<long, LatelyRead> known = new(8);

    public LatelyRead Of(Assignment assignment)
    {
        var state = $"{assignment.RevisionId} {assignment.Rules} {works.StateOf(assignment.Id)}";
        if (known.TryGet(assignment.Id, out var read) && read.State == state)
            return read;
        var all = ClassWork.Of(assignment, revisions, regrades, works).Works;
        // Each as it is marked now: who did not lose by an earlier regrade is still marked by the key of before.
        var scores = all.AsParallel()
            .AsOrdered()
            .Select(work => Scorer.Score(revisions.Activity(work.RevisionId, work.Rules), work.Work.Responses, work.Work.Marking.Awards))
            .ToImmutableArray();
        read = new(state, all, scores);
        known.Put(assignment.Id, read);
        return read;
    }
}
