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
public sealed class PictureRoomModel(Drafts drafts, Media media, MediaUpload upload, Shelf shelf, IPictureSearch search, PageLanguage words)
    : PageModel
{
    public Draft Draft { get; private set; } = null!;

    /// <summary>The picture that is in use, or null.</summary>
    public string PictureJson { get; private set; } = "null";
    public string ShelfJson { get; private set; } = "[]";

    /// <summary>The pane that the picture is for, from 0.</summary>
    public int Pane { get; private set; }

    /// <param name="pane">From 0; one that is not there stands for the first.</param>
    public IActionResult OnGet(long id, int pane = 0)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        Draft = draft;
        var activity = ActivityDocument.Read(draft.Document);
        Pane = pane >= 0 && pane < activity.Panes.Length ? pane : 0;
        PictureJson = JsonSerializer.Serialize(activity.Panes.ElementAtOrDefault(Pane)?.Picture, DocumentJson.Options);
        ShelfJson = JsonSerializer.Serialize(WithPlaces(shelf.Of(User.TeacherId())), JsonSerializerOptions.Web);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <param name="UsedIn">Titles of the activities in which the picture is used.</param>
    private sealed record OnShelf(string Hash, string Name, int Width, int Height, IReadOnlyList<string> UsedIn);

    /// <summary>The teacher's pictures, each with where it is used: as it is, or as the source of a prepared one.</summary>
    private IEnumerable<OnShelf> WithPlaces(IReadOnlyList<ShelfPicture> pictures)
    {
        var uses = shelf.Uses(User.TeacherId());
        return pictures.Select(picture => new OnShelf(picture.Hash, picture.Name, picture.Width, picture.Height, [.. uses[picture.Hash]]));
    }

    /// <param name="Version">The version of the draft that the room was opened with.</param>
    /// <param name="Pane">From 0.</param>
    /// <param name="Board">What the picture was drawn to, when it is a board as it was drawn: its scale or regions come with it.</param>
    public sealed record Hanging(long Version, Picture? Picture, int Pane = 0, BoardWish? Board = null);

    /// <summary>Pictures, each for a new pane behind the pane that the room was opened for, or for a label on it.</summary>
    /// <param name="Pictures">Content hashes.</param>
    /// <param name="Names">What each shows, where it becomes a label.</param>
    public sealed record Several(long Version, int Pane, IReadOnlyList<string?>? Pictures, IReadOnlyList<string?>? Names = null)
    {
        /// <summary>The hashes; none when one of them is missing.</summary>
        public IReadOnlyList<string> Hashes => Pictures?.OfType<string>().ToList() is { } all && all.Count == Pictures.Count ? all : [];
    }

    /// <summary>The panes, at least one, and the place of the one that is meant; one that is not there stands for the first.</summary>
    private static (Pane[] Panes, int Index) PanesAt(Activity activity, int pane)
    {
        Pane[] panes = activity.Panes.IsEmpty ? [new Pane { Id = "pane-1" }] : [.. activity.Panes];
        return (panes, pane >= 0 && pane < panes.Length ? pane : 0);
    }

    /// <summary>Makes a prepared picture the pane's; what stands on it moves with it.</summary>
    public IActionResult OnPostHang(long id, [FromBody] JsonElement sent)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        if (Read(sent) is not { Picture: { } picture } hanging || media.SizeOf(picture.Media) is not { } size)
            throw new RequestRefused(new("room.unknownPicture"));
        var activity = ActivityDocument.Read(draft.Document);
        var hung = picture with { Width = size.Width, Height = size.Height };
        var (panes, index) = PanesAt(activity, hanging.Pane);
        panes[index] = panes[index].WithPicture(hung);
        if (hanging.Board is { } board && panes[index].Targets.IsEmpty)
        {
            var (scale, regions) = Boards.Ready(board);
            panes[index] = panes[index] with { Scale = scale, Targets = regions };
        }
        return Keep(id, draft, hanging.Version, activity with { Panes = [.. panes] });
    }

    public IActionResult OnPostPanes(long id, [FromBody] Several? wish)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        if (
            wish?.Hashes is not { Count: > 0 } hashes
            || !hashes.All(IsOpen)
            || hashes.Select(media.SizeOf).ToList() is not { } sizes
            || sizes.Any(size => size is not { Width: > 0 })
        )
            throw new RequestRefused(new("room.unknownPictures"));
        var activity = ActivityDocument.Read(draft.Document);
        var fresh = new FreshIds("pane", activity.Panes.Select(pane => pane.Id));
        var added = sizes.Select(size => new Pane { Id = fresh.Next(), Picture = new(size!.Hash, size.Width, size.Height) }).ToList();
        // A first pane that has nothing yet is not left empty before them.
        var kept = activity.Panes.Where((pane, i) => i != wish.Pane || pane.Picture is not null || !pane.Targets.IsEmpty).ToList();
        var at = Math.Clamp(wish.Pane, 0, kept.Count);
        kept.InsertRange(Math.Min(kept.Count, kept.Count == activity.Panes.Length ? at + 1 : at), added);
        return Keep(id, draft, wish.Version, activity with { Panes = [.. kept] });
    }

    /// <summary>Each picture becomes a label: trimmed, and as high as all of them.</summary>
    public async Task<IActionResult> OnPostLabels(long id, [FromBody] Several? wish)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        if (wish?.Hashes is not { Count: > 0 } hashes || !hashes.All(hash => IsOpen(hash) && media.SizeOf(hash) is { Width: > 0 }))
            throw new RequestRefused(new("room.unknownPictures"));
        var activity = ActivityDocument.Read(draft.Document);
        var (panes, index) = PanesAt(activity, wish.Pane);
        var fresh = new FreshIds("label", panes[index].Labels.Select(label => label.Id));
        var labels = new List<Label>();
        foreach (var (hash, i) in hashes.Select((hash, i) => (hash, i)))
        {
            var face = await upload.LabelOf(User.TeacherId(), hash, HttpContext.RequestAborted);
            labels.Add(
                new()
                {
                    Id = fresh.Next(),
                    // A file's name may be the answer, and nobody has read it yet.
                    Text = wish.Names?.ElementAtOrDefault(i) ?? "Picture",
                    Description = DescriptionFor.Teachers,
                    Face = new PictureFace(face.Hash, face.Width, face.Height),
                }
            );
        }
        panes[index] = panes[index] with { Labels = [.. panes[index].Labels, .. labels] };
        return Keep(id, draft, wish.Version, activity with { Panes = [.. panes] });
    }

    /// <summary>Whether this teacher may use a file: their own, or one that is shown anyway.</summary>
    private bool IsOpen(string hash) => media.IsShown(hash) || media.IsOf(hash, User.TeacherId());

    /// <summary>Ids that are not taken: a word and a number.</summary>
    private sealed class FreshIds(string word, IEnumerable<string> taken)
    {
        private readonly HashSet<string> taken = [.. taken];
        private int number;

        public string Next()
        {
            do number++;
            while (!taken.Add($"{word}-{number}"));
            return $"{word}-{number}";
        }
    }

    private IActionResult Keep(long id, Draft draft, long version, Activity changed)
    {
        if (Soundness.Faults(changed) is [var fault, ..])
            throw new DocumentRefused(fault.Where, fault.Sentence);
        if (drafts.Save(User.TeacherId(), id, version, changed, ActivityDocument.Write(changed, draft.Document)) is not { } outcome)
            return NotFound();
        return outcome.Saved
            ? new JsonResult(new { outcome.Version })
            : new JsonResult(new { error = words["room.changed"] }) { StatusCode = StatusCodes.Status409Conflict };
    }

    public IActionResult OnGetSearch(string? words) => new JsonResult(search.Find(words ?? ""), DocumentJson.Options);

    /// <summary>Puts a picture that was found onto the teacher's shelf.</summary>
    public async Task<IActionResult> OnPostTake(string picture)
    {
        if (search.Fetch(picture) is not ({ } found, var bytes))
            return NotFound();
        var prepared = await Task.Run(() => PictureReader.Read(bytes));
        media.Save(prepared, bytes);
        shelf.Put(User.TeacherId(), prepared.Hash, found.Title);
        return new JsonResult(
            new
            {
                prepared.Hash,
                Name = found.Title,
                prepared.Width,
                prepared.Height,
                found.AltText,
                found.Credit,
            }
        );
    }

    /// <summary>Draws a plain board and puts it onto the teacher's shelf.</summary>
    public async Task<IActionResult> OnPostBoard([FromBody] BoardWish? wish)
    {
        if (wish is null)
            throw new PictureRefused(new("picture.noBoard"));
        var bytes = Boards.Draw(wish);
        var prepared = await Task.Run(() => PictureReader.Read(bytes));
        media.Save(prepared, bytes);
        shelf.Put(User.TeacherId(), prepared.Hash, "Board");
        return new JsonResult(
            new
            {
                prepared.Hash,
                Name = "Board",
                prepared.Width,
                prepared.Height,
            }
        );
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
