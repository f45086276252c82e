using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Store;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>What a teacher sends who marks one student's work. Targets are named by the numbers of pane and target, from 0: "0.3".</summary>
public sealed class MarkingForm
{
    /// <summary>How often the work had been marked when the page was made.</summary>
    public long Seen { get; set; }

    /// <summary>By target; empty where the machine's points stand.</summary>
    public Dictionary<string, string?> Points { get; set; } = [];

    /// <summary>The points of a criterion, by target and the number of the criterion: "0.3.1".</summary>
    public Dictionary<string, string?> Parts { get; set; } = [];

    /// <summary>By target, or by pane and spot in pu: "0@412.5,80".</summary>
    public Dictionary<string, string?> Comments { get; set; } = [];

    /// <summary>On the whole work.</summary>
    public string? Whole { get; set; }

    /// <summary>The targets at which both markers agree on what is typed.</summary>
    public HashSet<string> Agreed { get; set; } = [];

    /// <summary>Ids of remarks that are taken back.</summary>
    public long[] Withdraw { get; set; } = [];

    /// <summary>Whether the next work that waits is shown then.</summary>
    public bool Next { get; set; }

    public static string NameOf(int pane, int target) => FormattableString.Invariant($"{pane}.{target}");

    /// <summary>What it changes, or a sentence on what it can't be.</summary>
    public (Changes? Changes, string? Problem) Read(
        Activity activity,
        Attempt attempt,
        IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> given,
        string teacher,
        DateTimeOffset now,
        Language language
    )
    {
        var awards = ImmutableArray.CreateBuilder<AwardChange>();
        var remarks = ImmutableArray.CreateBuilder<NewRemark>();
        for (var p = 0; p < activity.Panes.Length; p++)
        {
            var pane = activity.Panes[p];
            for (var t = 0; t < pane.Targets.Length; t++)
            {
                var (target, name) = (pane.Targets[t], NameOf(p, t));
                if (Comment(name) is { } comment)
                    remarks.Add(new(pane.Id, target.Id, null, comment));
                if (!target.IsScored)
                    continue;
                var criteria = target.MarkedBy();
                // A target without criteria is marked as if it had one.
                ImmutableArray<string?> typed = criteria.IsEmpty
                    ? [Points.GetValueOrDefault(name)]
                    : [.. criteria.Select((_, i) => Parts.GetValueOrDefault($"{name}.{i}"))];
                ImmutableArray<decimal> most = criteria.IsEmpty ? [target.Points] : [.. criteria.Select(criterion => criterion.Points)];
                if (Awarded(typed, most, language, out var problem) is not { } points)
                {
                    if (problem is not null)
                        return (null, problem);
                    if (attempt.Marking.AwardAt(pane.Id, target.Id) is not null)
                        awards.Add(new(pane.Id, target.Id, null, []));
                    continue;
                }
                var credit = points.Sum() / most.Sum();
                var parts = criteria.IsEmpty ? [] : points;
                var isAgreed = Agreed.Contains(name);
                if (
                    !isAgreed
                    && attempt.Marking.AwardAt(pane.Id, target.Id) is { } award
                    && award.Credit == credit
                    && given.GetValueOrDefault((pane.Id, target.Id), []).SequenceEqual(parts)
                )
                    continue;
                awards.Add(new(pane.Id, target.Id, new(target.Id, credit, teacher, now), parts, isAgreed));
            }
            foreach (var (name, at) in Comments.Keys.Select(key => (key, Spot(key, p))))
                if (at is not null && Comment(name) is { } comment)
                    remarks.Add(new(pane.Id, null, at, comment));
        }
        if (!string.IsNullOrWhiteSpace(Whole))
            remarks.Add(new(null, null, null, Whole.Trim()));
        return remarks.Any(remark => remark.Text.Length > Remark.LongestText)
            ? (null, language.Say("results.longComment", ("most", Remark.LongestText)))
            : (new(awards.ToImmutable(), remarks.ToImmutable(), [.. Withdraw]), null);
    }

    private string? Comment(string name) =>
        Comments.GetValueOrDefault(name) is { } text && !string.IsNullOrWhiteSpace(text) ? text.Trim() : null;

    /// <summary>The points of each part; null where none is typed, or with a problem.</summary>
    private static ImmutableArray<decimal>? Awarded(
        ImmutableArray<string?> typed,
        ImmutableArray<decimal> most,
        Language language,
        out string? problem
    )
    {
        problem = null;
        if (typed.All(string.IsNullOrWhiteSpace))
            return null;
        var points = ImmutableArray.CreateBuilder<decimal>();
        for (var i = 0; i < typed.Length; i++)
        {
            // What is left empty beside others is nothing.
            var text = string.IsNullOrWhiteSpace(typed[i]) ? "0" : typed[i]!;
            (var number, problem) = PointsIn(text, most[i], language);
            if (problem is not null)
                return null;
            points.Add(number);
        }
        return points.ToImmutable();
    }

    /// <summary>Points as they are typed, with a comma or a dot; or a sentence where they are none, or too many.</summary>
    public static (decimal Points, string? Problem) PointsIn(string typed, decimal most, Language language) =>
        decimal.TryParse(typed.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var points)
        && points >= 0
        && points <= most
            ? (points, null)
            : (0, language.Say("results.notFrom", ("points", typed.Trim()), ("most", most)));

    private static Point? Spot(string name, int pane) =>
        name.Split('@', ',') is [var number, var x, var y]
        && number == pane.ToString(CultureInfo.InvariantCulture)
        && double.TryParse(x, CultureInfo.InvariantCulture, out var across)
        && double.TryParse(y, CultureInfo.InvariantCulture, out var down)
        && new Point(across, down) is { IsFinite: true } at
            ? at
            : null;
}
