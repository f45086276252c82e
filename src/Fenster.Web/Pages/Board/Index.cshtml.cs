using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>An activity on a board for a whole class. Nothing that is done there is stored.</summary>
public sealed class BoardModel(Drafts drafts, Assignments assignments, Revisions revisions, Attempts attempts, PageLanguage words)
    : PageModel
{
    public long Id { get; private set; }
    public Activity Activity { get; private set; } = null!;
    public string View { get; private set; } = "";

    /// <summary>What was given of it, whose answers may be shown, the latest first.</summary>
    public IReadOnlyList<(long Id, string Name)> Given { get; private set; } = [];

    /// <summary>Whether it can be played as a game.</summary>
    public bool HasGame => Activity.Panes.Any(GamePane.Fits);

    private const int MostGiven = 20;

    /// <summary>So many different answers to a question are shown; the others are counted together.</summary>
    private const int MostAnswers = 6;

    public IActionResult OnGet(long id)
    {
        if (Load(id) is not { } isOwn)
            return NotFound();
        View = JsonSerializer.Serialize(BoardView.Of(Activity), DocumentJson.Options);
        if (isOwn)
            Given =
            [
                .. assignments
                    .Of(id)
                    .Take(MostGiven)
                    .Select(assignment => (assignment.Id, $"{assignment.ClassName ?? words["give.anyone"]} · {assignment.Code}")),
            ];
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <summary>How a class has answered until now.</summary>
    /// <param name="Works">Of how many students there is work.</param>
    /// <param name="Targets">By the pane's number from 0 and the target's id; of something matched, with the name of the thing on the left.</param>
    public sealed record Answers(int Works, IReadOnlyDictionary<string, AnswersGiven> Targets);

    /// <param name="Count">How many have answered.</param>
    /// <param name="Given">The commonest first.</param>
    /// <param name="Others">How many answers are not among them.</param>
    public sealed record AnswersGiven(int Count, IReadOnlyList<GivenAnswer> Given, int Others);

    public sealed record GivenAnswer(string Answer, int Count, bool IsRight);

    /// <summary>Without names: what was typed by one student alone is counted and not shown.</summary>
    public IActionResult OnGetAnswers(long id, long of)
    {
        if (Load(id) is not true || assignments.One(of) is not { } assignment || assignment.ActivityId != id)
            return NotFound();
        var activity = revisions.Activity(assignment.RevisionId);
        var works = attempts
            .Watched(of)
            .Select(line => attempts.Anywhere(line.Id)?.Responses)
            .OfType<ImmutableDictionary<string, Core.Model.Response>>()
            .Where(responses => responses.Values.Any(response => response.Answers > 0))
            .ToList();
        var told = new Dictionary<string, AnswersGiven>();
        for (var i = 0; i < Activity.Panes.Length; i++)
            if (activity.Panes.FirstOrDefault(pane => pane.Id == Activity.Panes[i].Id) is { } pane)
                foreach (var (target, given) in AnswersAtPane(pane, works))
                    told[$"{i}/{target}"] = given;
        Response.Headers.CacheControl = "no-store";
        return new JsonResult(new Answers(works.Count, told), DocumentJson.Options);
    }

    private IEnumerable<(string Target, AnswersGiven Given)> AnswersAtPane(
        Pane pane,
        IReadOnlyList<ImmutableDictionary<string, Core.Model.Response>> works
    )
    {
        var responses = works.Select(work => work.GetValueOrDefault(pane.Id, Core.Model.Response.Empty)).ToList();
        foreach (var target in pane.Targets)
            switch (AnswersAt.Of(target, responses))
            {
                case Tally tally:
                    var isTyped = target.Takes is Doing.Typing or Doing.TryingCodes;
                    yield return (
                        target.Id,
                        Shown(
                            tally.Answers.Select(one => new GivenAnswer(
                                InsightWords.Answer(words.Language, pane, target, one),
                                one.Count,
                                one.Credit > 0
                            )),
                            responses.Count(response => !LeftOpen.IsOpen(target, response)),
                            isTyped ? 2 : 1
                        )
                    );
                    break;
                case Strip strip:
                    yield return (
                        target.Id,
                        Shown(
                            strip
                                .Values.GroupBy(value => (X: Math.Round(value.X, 2), Y: Math.Round(value.Y, 2), IsRight: value.Credit > 0))
                                .Select(same => new GivenAnswer(
                                    words.Language.Number((decimal)same.Key.X)
                                        + (
                                            target is ScalePoint { Scale.Y: not null }
                                                ? $"; {words.Language.Number((decimal)same.Key.Y)}"
                                                : ""
                                        ),
                                    same.Count(),
                                    same.Key.IsRight
                                )),
                            strip.Values.Length,
                            1
                        )
                    );
                    break;
                case Linked linked when target is Matching matching:
                    foreach (var (alias, item) in Aliases.For(pane, BoardView.Seed).Items(matching).Left)
                        yield return (
                            $"{target.Id}/{alias}",
                            Shown(
                                linked
                                    .Links.Where(link => link.Link.Left == item.Id)
                                    .Select(link => new GivenAnswer(
                                        matching.Right.First(right => right.Id == link.Link.Right).Text,
                                        link.Count,
                                        link.IsRight
                                    )),
                                responses.Count(response =>
                                    response.Links.GetValueOrDefault(matching.Id, []).Any(link => link.Left == item.Id)
                                ),
                                1
                            )
                        );
                    break;
                case Made made:
                    yield return (target.Id, new(made.Count, [], 0));
                    break;
                case Written written:
                    yield return (target.Id, new(written.Count, [], 0));
                    break;
                case Found found:
                    yield return (target.Id, new(found.Count, [], 0));
                    break;
            }
    }

    /// <param name="fewest">An answer of fewer is not shown.</param>
    private static AnswersGiven Shown(IEnumerable<GivenAnswer> given, int count, int fewest)
    {
        var all = given.Where(one => one.Count > 0).OrderByDescending(one => one.Count).ToList();
        var shown = all.Where(one => one.Count >= fewest).Take(MostAnswers).ToList();
        return new(count, shown, all.Except(shown).Sum(one => one.Count));
    }

    /// <summary>Whether the activity is the teacher's own; null when there is none to be seen.</summary>
    private bool? Load(long id)
    {
        var own = drafts.Find(User.TeacherId(), id);
        if ((own ?? drafts.FindShelved(id)) is not { } draft)
            return null;
        (Id, Activity) = (id, ActivityDocument.Read(draft.Document));
        return own is not null;
    }
}
