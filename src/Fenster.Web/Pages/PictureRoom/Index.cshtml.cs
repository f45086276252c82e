using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Getting a pane's picture and making it ready.</summary>
public sealed class PictureRoomModel(Drafts drafts, Media media, Shelf shelf, IPictureSearch search) : PageModel
{
    public Draft Draft { get; private set; } = null!;

    /// <summary>The picture that is in use, or null.</summary>
    public string PictureJson { get; private set; } = "null";
    public string ShelfJson { get; private set; } = "[]";

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return NotFound();
        Draft = draft;
        PictureJson = JsonSerializer.Serialize(ActivityDocument.Read(draft.Document).Panes.FirstOrDefault()?.Picture, DocumentJson.Options);
        ShelfJson = JsonSerializer.Serialize(shelf.Of(User.TeacherId()), DocumentJson.Options);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <param name="Version">The version of the draft that the room was opened with.</param>
    public sealed record Hanging(long Version, Picture? Picture);

    /// <summary>Makes a prepared picture the pane's; what stands on it moves with it.</summary>
    public IActionResult OnPostHang(long id, [FromBody] JsonElement sent)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return NotFound();
        if (Read(sent) is not { Picture: { } picture } hanging || media.SizeOf(picture.Media) is not { } size)
            throw new DocumentRefused("picture", "The picture could not be read, or it is not stored here.");
        var activity = ActivityDocument.Read(draft.Document);
        var hung = picture with { Width = size.Width, Height = size.Height };
        Pane[] panes = activity.Panes.IsEmpty ? [new Pane { Id = "pane-1" }] : [.. activity.Panes];
        panes[0] = panes[0].WithPicture(hung);
        var changed = activity with { Panes = [.. panes] };
        if (Soundness.Faults(changed) is [var fault, ..]) throw new DocumentRefused(fault.Where, fault.Sentence);
        if (drafts.Save(User.TeacherId(), id, hanging.Version, changed.Title, ActivityDocument.Write(changed, draft.Document)) is not { } outcome) return NotFound();
        return outcome.Saved
            ? new JsonResult(new { outcome.Version })
            : new JsonResult(new { error = "This activity was changed in another window meanwhile. Open the picture room again from there; the picture itself is on your shelf." }) { StatusCode = StatusCodes.Status409Conflict };
    }

    public IActionResult OnGetSearch(string? words) => new JsonResult(search.Find(words ?? ""), DocumentJson.Options);

    /// <summary>Puts a picture that was found onto the teacher's shelf.</summary>
    public async Task<IActionResult> OnPostTake(string picture)
    {
        if (search.Fetch(picture) is not ({ } found, var bytes)) return NotFound();
        var prepared = await Task.Run(() => PictureReader.Read(bytes));
        media.Save(prepared, bytes);
        shelf.Put(User.TeacherId(), prepared.Hash, found.Title);
        return new JsonResult(new { prepared.Hash, Name = found.Title, prepared.Width, prepared.Height, found.AltText, found.Credit });
    }

    /// <summary>Draws a plain board and puts it onto the teacher's shelf.</summary>
    public async Task<IActionResult> OnPostBoard([FromBody] BoardWish? wish)
    {
        if (wish is null) throw new PictureRefused("What the board should be could not be read.");
        var bytes = Boards.Draw(wish);
        var prepared = await Task.Run(() => PictureReader.Read(bytes));
        media.Save(prepared, bytes);
        shelf.Put(User.TeacherId(), prepared.Hash, "Board");
        return new JsonResult(new { prepared.Hash, Name = "Board", prepared.Width, prepared.Height });
    }

    public IActionResult OnPostForget(string hash)
    {
        shelf.Remove(User.TeacherId(), hash);
        return new JsonResult(new { });
    }

    private static Hanging? Read(JsonElement sent)
    {
        try
        {
            return sent.Deserialize<Hanging>(DocumentJson.Options);
        }
        catch (Exception exception) when (exception is JsonException or InvalidOperationException or NotSupportedException)
        {
            return null;
        }
    }
}
