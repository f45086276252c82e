using System.Collections.Immutable;
using System.Security.Cryptography;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>The student's screen of a draft. The browser keeps the moves and sends all of them each time; nothing is stored.</summary>
public sealed class TrialScreenModel(Drafts drafts, PageLanguage words) : PageModel
{
    public StudentWork Work { get; private set; } = null!;

    /// <param name="at">An earlier version; null for the draft as it is.</param>
    public IActionResult OnGet(long id, long? at)
    {
        if (Draft(id, at) is not { } activity || Readiness.Obstacles(activity).Count > 0)
            return NotFound();
        var seed = RandomNumberGenerator.GetInt32(int.MaxValue);
        Work = new(
            StudentView.At(Moment.Placed, new Seat(activity, seed), ResponseDocument.Empty),
            words["trial.you"],
            $"/activities/{id}/try/screen?handler=Moves&seed={seed}&at={at}",
            $"/activities/{id}/try/screen?handler=HandIn&seed={seed}&at={at}",
            null
        )
        {
            PlayUrl = $"/activities/{id}/try/screen?handler=Play&seed={seed}&at={at}",
        };
        Response.Headers.CacheControl = "no-store";
        Response.Headers.ContentSecurityPolicy = SecurityHeaders.PolicyOfFramed;
        return Page();
    }

    public IActionResult OnPostMoves(long id, long seed, long? at, [FromBody] MovesSent? sent) => See(id, seed, at, sent, Moment.Placed);

    public IActionResult OnPostHandIn(long id, long seed, long? at, [FromBody] MovesSent? sent) => See(id, seed, at, sent, Moment.HandedIn);

    /// <param name="Pane">As this screen calls it.</param>
    public sealed record ToPlay(string Pane, Move Move);

    /// <summary>Moves that this screen can play: of the key, or of a student who acts blindly.</summary>
    public IActionResult OnGetPlay(long id, long seed, long? at, bool blind)
    {
        if (Draft(id, at) is not { } activity)
            return NotFound();
        var seat = new Seat(activity, seed);
        var moves = activity.Panes.SelectMany(pane =>
            MovesOf.Response(pane, blind ? Guessing.Play(pane, Random.Shared) : Keys.Of(pane)).Select(move => seat.Name(pane.Id, move))
        );
        return new JsonResult(
            moves.OrderBy(move => move.Pane.Length).ThenBy(move => move.Pane).Select(move => new ToPlay(move.Pane, move.Move)),
            DocumentJson.Options
        );
    }

    private IActionResult See(long id, long seed, long? at, MovesSent? sent, Moment moment)
    {
        if (Draft(id, at) is not { } activity)
            return NotFound();
        var seat = new Seat(activity, seed);
        var (moves, refused) = MovesSent.Resolve(sent, seat);
        var responses = ResponseDocument.Empty;
        foreach (var move in moves)
        {
            var made = Progress.Make(activity, responses, move.Pane, move.Move);
            if (made.Refusal is { } refusal)
                refused = refused.Add(new(move.Key, refusal));
            responses = made.After;
        }
        return new JsonResult(
            Answer.Of(WorkView.At(moment, seat, responses), refused, Language.In(activity.Language)),
            DocumentJson.Options
        );
    }

    private Activity? Draft(long id, long? at)
    {
        var document = at is { } slot
            ? drafts.Version(User.TeacherId(), id, slot)?.Document
            : (drafts.Find(User.TeacherId(), id) ?? drafts.FindShelved(id))?.Document;
        return document is null ? null : ActivityDocument.Read(document);
    }
}
