using System.Collections.Immutable;
using System.Security.Cryptography;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>The draft as a student sees it. The browser keeps the moves and sends all of them each time; nothing is stored.</summary>
public sealed class TrialModel(Drafts drafts) : PageModel
{
    public long Id { get; private set; }
    public IReadOnlyList<string> Obstacles { get; private set; } = [];
    public StudentWork Work { get; private set; } = null!;

    public IActionResult OnGet(long id)
    {
        if (Draft(id) is not { } activity) return NotFound();
        Id = id;
        Obstacles = Readiness.Sentences(activity);
        var seed = RandomNumberGenerator.GetInt32(int.MaxValue);
        Work = new(
            StudentView.At(Moment.Placed, new Seat(activity, seed), ResponseDocument.Empty), "You, trying it",
            $"/activities/{id}/try?handler=Moves&seed={seed}", $"/activities/{id}/try?handler=HandIn&seed={seed}", null);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    public IActionResult OnPostMoves(long id, long seed, [FromBody] MovesSent? sent) => See(id, seed, sent, Moment.Placed);

    public IActionResult OnPostHandIn(long id, long seed, [FromBody] MovesSent? sent) => See(id, seed, sent, Moment.HandedIn);

    private IActionResult See(long id, long seed, MovesSent? sent, Moment moment)
    {
        if (Draft(id) is not { } activity) return NotFound();
        var seat = new Seat(activity, seed);
        var responses = MovesSent.Resolve(sent, seat).Aggregate(ResponseDocument.Empty, (responses, move) =>
            Progress.Make(activity, responses, move.Pane, move.Move).After);
        return new JsonResult(WorkView.At(moment, seat, responses), DocumentJson.Options);
    }

    private Activity? Draft(long id) =>
        drafts.Find(User.TeacherId(), id) is { } draft ? ActivityDocument.Read(draft.Document) : null;
}
