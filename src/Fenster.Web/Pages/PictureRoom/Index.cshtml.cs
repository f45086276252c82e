using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Getting a pane's picture and making it ready.</summary>
public sealed class PictureRoomModel(Drafts drafts, Media media, Shelf shelf) : PageModel
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
