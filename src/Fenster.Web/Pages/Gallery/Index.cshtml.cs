using System.Collections.Immutable;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using NodaTime;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>The pictures that students have made at an assignment: which of them the class may see, until when, with names or without.</summary>
public sealed class GalleryModel(
    OwnAssignments own,
    Attempts attempts,
    Revisions revisions,
    Galleries galleries,
    OwnFiles files,
    TimeProvider clock,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;
    public Gallery? Gallery { get; private set; }
    public IReadOnlyList<Piece> Pieces { get; private set; } = [];
    public string? Problem { get; private set; }

    /// <summary>Work of a student on one pane, handed in.</summary>
    /// <param name="Key">As the form names it.</param>
    /// <param name="Json">For the script: the work, the pane's picture where it lies on that, and its questions.</param>
    public sealed record Piece(long Attempt, string Pane, string Key, string Name, bool IsShown, bool IsWithdrawn, string Json);

    /// <param name="Given">The pane's picture, where spots lie on that.</param>
    public sealed record PieceSent(OwnWork Own, Core.Revealing.PictureView? Given, ImmutableArray<string> Questions);

    public int ShownCount => Gallery?.Pieces.Count(piece => !piece.IsWithdrawn) ?? 0;

    public bool IsOpen => Gallery?.IsOpenAt(clock.GetUtcNow()) == true;

    /// <summary>When it closes by itself, as the field of the form has it, in the teacher's zone.</summary>
    public string Until => LocalTimes.Typed((IsOpen ? Gallery!.Until : clock.GetUtcNow().AddDays(14)).ToInstant(), Zone);

    private DateTimeZone Zone => LocalTimes.Zone(Languages.ZoneOf(HttpContext).Id);

    /// <summary>The page of the list, from 1.</summary>
    public int Number { get; private set; } = 1;

    [BindProperty(SupportsGet = true, Name = "show")]
    public int Asked { get; set; } = 1;

    /// <summary>The address of a page of the list.</summary>
    public string UrlOf(int number) => $"?of={Assignment.Id}&show={number}";

    private RedirectResult Back() => Redirect(Request.Path + UrlOf(Asked));

    public int Pages { get; private set; } = 1;

    /// <summary>Students whose work one page shows.</summary>
    public const int PageSize = 50;

    /// <summary>What counts of what each student handed in, by name.</summary>
    private IReadOnlyList<long> handed = [];
    private IReadOnlyList<Work> made = [];

    public IActionResult OnGet(long id, long of) => Load(id, of) ? Page() : NotFound();

    private bool Find(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return false;
        (Id, Title, Assignment, Gallery) = (id, title, assignment, galleries.Of(of));
        handed =
        [
            .. attempts
                .Page(of, filter: AttemptFilter.HandedIn)
                .GroupBy(line => line.StudentId)
                .Select(mine => mine.LastOrDefault(line => line.Counts) ?? mine.Last())
                .Select(line => line.Id),
        ];
        return true;
    }

    private bool Load(long id, long of)
    {
        if (!Find(id, of))
            return false;
        Pages = Math.Max(1, (handed.Count + PageSize - 1) / PageSize);
        Number = Math.Clamp(Asked, 1, Pages);
        made = [.. Made(OnPage)];
        Pieces = [.. PiecesOf(made)];
        return true;
    }

    private IEnumerable<long> OnPage => handed.Skip((Number - 1) * PageSize).Take(PageSize);

    private IEnumerable<Piece> PiecesOf(IEnumerable<Work> made)
    {
        var known = Gallery?.Pieces.ToDictionary(piece => (piece.AttemptId, piece.Pane)) ?? [];
        foreach (var (attempt, pane, target, work) in made)
        {
            var piece = known.GetValueOrDefault((attempt.Id, pane.Id));
            yield return new(
                attempt.Id,
                pane.Id,
                KeyOf(attempt, pane),
                attempt.Name,
                piece is { IsWithdrawn: false },
                piece is { IsWithdrawn: true },
                JsonSerializer.Serialize(Sent(pane, target, work), DocumentJson.Options)
            );
        }
    }

    internal static PieceSent Sent(Pane pane, OwnPicture target, OwnWork work) =>
        new(
            work,
            target.Whose == PictureFrom.Teacher && pane.Picture is { } picture ? Core.Revealing.PictureView.Of(picture) : null,
            target.Questions
        );

    private static string KeyOf(Attempt attempt, Pane pane) => $"{attempt.Id}/{pane.Id}";

    private sealed record Work(Attempt Attempt, Pane Pane, OwnPicture Target, OwnWork Own);

    /// <summary>What some attempts show, a few at a time and in their order.</summary>
    private IEnumerable<Work> Made(IEnumerable<long> ids) =>
        ids.Chunk(PageSize)
            .SelectMany(some =>
                attempts
                    .Several(some)
                    .OrderBy(attempt => Array.IndexOf(some, attempt.Id))
                    .SelectMany(attempt =>
                        revisions
                            .Activity(attempt.RevisionId)
                            .Panes.SelectMany(pane =>
                                pane.Targets.OfType<OwnPicture>()
                                    .Select(target => new Work(
                                        attempt,
                                        pane,
                                        target,
                                        attempt.Responses.GetValueOrDefault(pane.Id)?.Own.GetValueOrDefault(target.Id) ?? OwnWork.Empty
                                    ))
                            )
                    )
            )
            .Where(work => !work.Own.IsEmpty);

    /// <summary>Opens the gallery, or changes it.</summary>
    /// <param name="until">As the field of the form gives it.</param>
    /// <param name="pieces">Keys of those of the page that are shown.</param>
    /// <param name="rest">Whether all of the other pages are shown too; else they stay as they are.</param>
    public IActionResult OnPostOpen(long id, long of, string? until, bool names, string[] pieces, bool rest)
    {
        if (!Load(id, of))
            return NotFound();
        var end = LocalTimes.Closing(until, Zone)?.ToDateTimeOffset();
        var others = handed.Except(OnPage).ToHashSet();
        var isEmpty = pieces.Length == 0 && !(rest && others.Count > 0) && !StaysShown(others);
        Problem =
            Assignment.ClassId is null ? words["gallery.needsClass"]
            : end is not { } last || last <= clock.GetUtcNow() ? words["gallery.needsDay"]
            : isEmpty ? words["gallery.needsPiece"]
            : null;
        if (Problem is not null)
            return Page();
        var chosen = made.Where(work => pieces.Contains(KeyOf(work.Attempt, work.Pane)));
        galleries.Open(
            of,
            end!.Value,
            names,
            chosen
                .Concat(rest ? Made(handed.Where(others.Contains)) : [])
                .Select(work => (work.Attempt.Id, work.Pane.Id, (IReadOnlyList<string>)[.. work.Own.Files()]))
                // All is read before anybody has to wait for it to be written.
                .ToList(),
            rest ? null : [.. OnPage]
        );
        return Back();
    }

    private bool StaysShown(HashSet<long> attempts) =>
        Gallery?.Pieces.Any(piece => !piece.IsWithdrawn && attempts.Contains(piece.AttemptId)) == true;

    /// <summary>Takes one piece away at once.</summary>
    public IActionResult OnPostWithdraw(long id, long of, string piece)
    {
        if (!Find(id, of))
            return NotFound();
        if (Gallery?.Pieces.FirstOrDefault(known => $"{known.AttemptId}/{known.Pane}" == piece) is { } found)
            galleries.Withdraw(of, found.AttemptId, found.Pane);
        return Back();
    }

    public IActionResult OnPostClose(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is null)
            return NotFound();
        galleries.Close(of);
        return RedirectToPage(new { id, of });
    }

    /// <summary>
    /// All pieces as a file for the teacher's own use: pictures, sounds, and a page that shows them. It is sent while it is made, so that
    /// it is never in memory as a whole.
    /// </summary>
    /// <param name="names">Whether it says whose each is.</param>
    public async Task<IActionResult> OnGetFile(long id, long of, bool names, CancellationToken gone)
    {
        if (!Find(id, of))
            return NotFound();
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition = "attachment; filename=own-pictures.zip";
        // The few bytes after each entry are written synchronously, whatever is asked for.
        HttpContext.Features.GetRequiredFeature<IHttpBodyControlFeature>().AllowSynchronousIO = true;
        await using var index = TemporaryFile.New();
        await using var page = new StreamWriter(index, new UTF8Encoding(false), leaveOpen: true);
        await page.WriteAsync(
            $"<!DOCTYPE html><html lang=\"{words.Language.Tag}\"><meta charset=\"utf-8\"><title>{Html(Title)}</title><h1>{Html(Title)}</h1>"
        );
        await using var zip = await ZipArchive.CreateAsync(Response.Body, ZipArchiveMode.Create, leaveOpen: true, null, gone);
        var i = 0;
        foreach (var (attempt, _, _, work) in Made(handed))
        {
            i++;
            await page.WriteAsync($"<section><h2>{Html(names ? attempt.Name : words["gallery.piece", ("number", i)])}</h2>");
            if (work.Picture is { } picture && await Add(zip, $"{i}", picture.Media, gone) is { } name)
                await page.WriteAsync($"<img src=\"{name}\" alt=\"{Html(picture.AltText)}\" width=\"720\">");
            await page.WriteAsync("<ol>");
            foreach (var (spot, n) in work.Spots.Select((spot, n) => (spot, n + 1)))
            {
                await page.WriteAsync($"<li><strong>{Html(spot.Title)}</strong> {Html(spot.Text)}");
                if (spot.Face is { } face && await Add(zip, $"{i}-{n}", face.Media, gone) is { } file)
                    await page.WriteAsync($" <a href=\"{file}\">{file}</a>");
                if (spot.Link != "")
                    await page.WriteAsync($" <a href=\"{Html(spot.Link)}\" rel=\"noreferrer\">{Html(spot.Link)}</a>");
                if (spot.Source != "")
                    await page.WriteAsync($" <cite>{Html(spot.Source)}</cite>");
                await page.WriteAsync("</li>");
            }
            await page.WriteAsync("</ol></section>");
        }
        await page.WriteAsync("</html>");
        await page.FlushAsync(gone);
        index.Position = 0;
        await using var entry = await zip.CreateEntry("index.html").OpenAsync(gone);
        await index.CopyToAsync(entry, gone);
        return new EmptyResult();
    }

    private static string Html(string text) => WebUtility.HtmlEncode(text);

    private async Task<string?> Add(ZipArchive zip, string name, string media, CancellationToken gone)
    {
        if (files.Find(media, int.MaxValue) is not { } file)
            return null;
        var entry = $"{name}{Path.GetExtension(file.Path)}";
        await zip.CreateEntryFromFileAsync(file.Path, entry, CompressionLevel.NoCompression, gone);
        return entry;
    }
}
