using System.Text;
using Fenster.Core.Giving;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;
using Finding = Fenster.Core.Insight.Finding;

namespace Fenster.Web.Pages;

/// <summary>What a class shows: its findings, its figures, and the pictures with what was done on them.</summary>
public sealed class InsightModel(
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Regrades regrades,
    Works works,
    Classes classes,
    Media media,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";

    /// <summary>What the activity was given as, the newest first.</summary>
    public IReadOnlyList<Assignment> All { get; private set; } = [];
    public Assignment? Assignment { get; private set; }

    /// <summary>Null while nobody has handed in.</summary>
    public ActivityInsight? Insight { get; private set; }
    public Activity Activity { get; private set; } = null!;

    /// <summary>How many works are of another revision, and so not looked at.</summary>
    public int Others { get; private set; }
    public IReadOnlyList<(string Words, string? Target)> Findings { get; private set; } = [];
    public IReadOnlyList<string> Tags { get; private set; } = [];
    public string? Tag { get; private set; }
    public WhichAttempts Which { get; private set; }
    public string From { get; private set; } = "";
    public string Until { get; private set; } = "";

    /// <summary>The same activity at another time; null for none.</summary>
    public Assignment? BesideOf { get; private set; }
    public ActivityInsight? Beside { get; private set; }

    /// <param name="tag">Of members; null for all.</param>
    /// <param name="beside">Another assignment that it is shown beside; null for none.</param>
    /// <param name="from">A day, in the teacher's zone; null for the first.</param>
    /// <param name="until">A day, which is in it; null for the last.</param>
    public IActionResult OnGet(
        long id,
        long? of,
        string? tag = null,
        WhichAttempts which = WhichAttempts.Counted,
        string? from = null,
        string? until = null,
        long? beside = null
    )
    {
        if (!Load(id, of))
            return NotFound();
        if (Assignment is not { } assignment)
            return Page();
        Tags = assignment.ClassId is { } group && classes.One(User.TeacherId(), group) is { } own ? classes.TagsOf(own) : [];
        Tag = tag is not null && Tags.Contains(tag) ? tag : null;
        Which = Enum.IsDefined(which) ? which : default;
        (From, Until) = (DayOf(from), DayOf(until));
        var (insight, activity, responses, others) = Read(assignment, Tag);
        (Activity, Others) = (activity, others);
        if (insight.Works == 0)
            return Page();
        Insight = insight;
        Findings =
        [
            .. Finding
                .In(activity, insight, responses, Guess(activity))
                .Select(finding => (InsightWords.Of(words.Language, finding), NameOf(finding))),
        ];
        BesideOf = beside is { } other && other != assignment.Id ? All.FirstOrDefault(each => each.Id == other) : null;
        if (BesideOf is not null)
            Beside = Read(BesideOf, tag: null).Insight is { Works: > 0 } then ? then : null;
        return Page();
    }

    private bool Load(long id, long? of)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is not { } title)
            return false;
        (Id, Title, All) = (id, title, assignments.Of(id));
        Assignment = of is null ? (All.Count > 0 ? All[0] : null) : All.FirstOrDefault(assignment => assignment.Id == of);
        return of is null || Assignment is not null;
    }

    private (
        ActivityInsight Insight,
        Activity Activity,
        IReadOnlyList<System.Collections.Immutable.ImmutableDictionary<string, Core.Model.Response>> Responses,
        int Others
    ) Read(Assignment assignment, string? tag)
    {
        var work = ClassWork.Of(assignment, revisions, regrades, works, tag).Which(Which);
        var chosen = work.Works.Where(IsInTime).ToList();
        return (
            ActivityInsight.Of(work.Activity, [.. chosen.Select(each => each.Work)]),
            work.Activity,
            [.. chosen.Select(each => each.Work.Responses)],
            work.Others
        );
    }

    private bool IsInTime(HandedWork work)
    {
        var day = words.DateOf(work.HandedInAt);
        return (From == "" || string.CompareOrdinal(day, From) >= 0) && (Until == "" || string.CompareOrdinal(day, Until) <= 0);
    }

    private static string DayOf(string? typed) =>
        DateOnly.TryParseExact(
            typed,
            "yyyy-MM-dd",
            System.Globalization.CultureInfo.InvariantCulture,
            System.Globalization.DateTimeStyles.None,
            out var day
        )
            ? day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
            : "";

    /// <summary>Share of the points that guessing earns.</summary>
    public static double? Guess(Activity activity)
    {
        var panes = activity.Panes.Select(pane => (pane, guess: Guessing.Of(pane, activity.RulesOf(pane).Score))).ToList();
        var possible = panes.Sum(pane => (double)(pane.pane.PossiblePoints * pane.pane.Weight));
        return possible == 0 ? null : panes.Sum(pane => pane.guess.Points * (double)pane.pane.Weight) / possible;
    }

    private string? NameOf(Finding finding) =>
        finding is { Pane: { } pane, Target: { } target } ? $"{Activity.Panes.IndexOf(pane)}-{pane.Targets.IndexOf(target)}" : null;

    /// <summary>The address of this screen with something else chosen.</summary>
    public string With(long of) => $"?of={of}";

    /// <summary>A pane's picture with its layers.</summary>
    public string DrawingOf(int pane) =>
        InsightDrawing.Of(
            Activity.Panes[pane],
            Insight!.Panes[pane],
            Activity.Panes[pane].Picture is { } picture ? $"/media/{picture.Media}/960" : null,
            words.Language
        );

    /// <summary>The same as a file, with its picture in it.</summary>
    public IActionResult OnGetDrawing(long id, long of, int pane, string? tag = null, WhichAttempts which = WhichAttempts.Counted)
    {
        if (!Load(id, of) || Assignment is not { } assignment)
            return NotFound();
        Which = which;
        (Insight, Activity, _, _) = Read(assignment, tag);
        if (pane < 0 || pane >= Activity.Panes.Length)
            return NotFound();
        string? picture = null;
        if (Activity.Panes[pane].Picture is { } shown && media.Find(shown.Media, 960) is { } file)
            picture = $"data:{file.ContentType};base64,{Convert.ToBase64String(System.IO.File.ReadAllBytes(file.Path))}";
        return File(
            Encoding.UTF8.GetBytes(InsightDrawing.Of(Activity.Panes[pane], Insight.Panes[pane], picture, words.Language)),
            "image/svg+xml",
            $"insight-{id}-{pane + 1}.svg"
        );
    }

    /// <summary>What is called what, as marking names it.</summary>
    public string TargetName(Pane pane, Target target) => TargetWords.Of(words.Language, pane, target, Core.Model.Response.Empty).Name;

    /// <summary>The same target at the other time; null where it was not there.</summary>
    public TargetInsight? Then(string pane, string target) =>
        Beside?.Panes.FirstOrDefault(each => each.Pane == pane)?.Targets.FirstOrDefault(each => each.Target == target);

    public string Percent(double share) => double.IsNaN(share) ? "" : share.ToString("P0", words.Language.Culture);

    public string Figure(double number) => double.IsFinite(number) ? number.ToString("0.##", words.Language.Culture) : "–";

    public string NameOf(Assignment assignment) => assignment.ClassName ?? words["give.anyone"];
}
