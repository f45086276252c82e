using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Watching;

/// <summary>A sign that a student may be stuck, told from what they did alone; docs/watching.md says the rules.</summary>
public abstract record Hitch
{
    private Hitch() { }

    /// <summary>Nothing was done for so long, though something is still open.</summary>
    /// <param name="For">At least <see cref="QuietAfter"/>.</param>
    public sealed record Quiet(TimeSpan For) : Hitch;

    /// <summary>The same place was answered, and not right, at each of the last checks.</summary>
    /// <param name="Checks">At how many checks one after the other, at least <see cref="SameAfter"/>.</param>
    public sealed record SamePlace(Pane Pane, Target Target, int Checks) : Hitch;

    /// <summary>Common practice of classrooms: after two minutes of nothing a teacher looks.</summary>
    public static readonly TimeSpan QuietAfter = TimeSpan.FromMinutes(2);

    public const int SameAfter = 3;

    /// <summary>
    /// What a student is stuck at; null for nothing. A place that is wrong again and again comes before quiet, since it says where to
    /// help.
    /// </summary>
    /// <param name="responses">By pane id, of work that is not handed in.</param>
    /// <param name="quiet">How long nothing was done; null while all stand still.</param>
    public static Hitch? Of(Activity activity, IReadOnlyDictionary<string, Response> responses, TimeSpan? quiet)
    {
        var worst = activity
            .Panes.SelectMany(pane => Wrong(pane, activity.RulesOf(pane).Score, responses.GetValueOrDefault(pane.Id, Response.Empty)))
            .MaxBy(place => place.Checks);
        if (worst is not null)
            return worst;
        return quiet >= QuietAfter && LeftOpen.Count(activity, responses) > 0 ? new Quiet(quiet.Value) : null;
    }

    /// <summary>The places of a pane that were not right at each of its last checks.</summary>
    private static IEnumerable<SamePlace> Wrong(Pane pane, ScoreRules rules, Response response)
    {
        if (response.Earlier.Length < SameAfter)
            yield break;
        // From the last check back.
        var checks = response.Earlier.Reverse().Select(earlier => Checker.Check(pane, earlier, rules)).ToList();
        for (var i = 0; i < pane.Targets.Length; i++)
        {
            var wrong = checks.TakeWhile(marks => marks.Targets[i].State is TargetState.Wrong or TargetState.PartEarned).Count();
            if (wrong >= SameAfter)
                yield return new(pane, pane.Targets[i], wrong);
        }
    }
}
