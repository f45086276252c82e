using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Store;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>Which attempts are looked at.</summary>
public enum WhichAttempts
{
    /// <summary>Those that count for their students.</summary>
    Counted,

    /// <summary>Each student's first.</summary>
    First,
    All,
}

/// <summary>All work at an assignment that is marked by the same revision but for regrades.</summary>
/// <param name="Activity">By which it is marked now.</param>
/// <param name="Others">How many works are of another revision.</param>
public sealed record ClassWork(Activity Activity, IReadOnlyList<HandedWork> Works, int Others)
{
    public static ClassWork Of(Assignment assignment, Revisions revisions, Regrades regrades, Works works, string? tag = null)
    {
        var activity = revisions.Activity(assignment.RevisionId, assignment.Rules);
        var all = works.Of(assignment.Id, activity, tag);
        var family = regrades.Family(assignment);
        var same = all.Where(work => family.Contains(work.RevisionId)).ToList();
        return new(activity, same, all.Count - same.Count);
    }

    public ClassWork Which(WhichAttempts which) =>
        this with
        {
            Works = which switch
            {
                WhichAttempts.Counted => [.. Works.Where(work => work.Counts)],
                WhichAttempts.First => [.. Works.GroupBy(work => work.Student).Select(own => own.MinBy(work => work.Number)!)],
                _ => Works,
            },
        };
}
