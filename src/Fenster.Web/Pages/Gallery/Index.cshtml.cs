using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
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

    public int ShownCount => Pieces.Count(piece => piece.IsShown);

    public bool IsOpen => Gallery?.IsOpenAt(clock.GetUtcNow()) == true;

    /// <summary>When it closes by itself, as the field of the form has it, in the teacher's zone.</summary>
    public string Until => LocalTimes.Typed((IsOpen ? Gallery!.Until : clock.GetUtcNow().AddDays(14)).ToInstant(), Zone);

    private DateTimeZone Zone => LocalTimes.Zone(Languages.ZoneOf(HttpContext).Id);

    public IActionResult OnGet(long id, long of) => Load(id, of) ? Page() : NotFound();

    private bool Load(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return false;
        (Id, Title, Assignment, Gallery) = (id, title, assignment, galleries.Of(of));
        made = [.. Made(of)];
        Pieces = [.. PiecesOf(made)];
        return true;
    }

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

    private IReadOnlyList<Work> made = [];

    /// <summary>All that is handed in and shows something, by name.</summary>
    private IEnumerable<Work> Made(long of) =>
        attempts
            .Watched(of)
            .Where(line => line.HandedInAt is not null)
            .Select(line => attempts.Anywhere(line.Id))
            .OfType<Attempt>()
            .OrderBy(attempt => attempt.Name, StringComparer.CurrentCulture)
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
            .Where(work => !work.Own.IsEmpty);

    /// <summary>Opens the gallery, or changes it.</summary>
    /// <param name="until">As the field of the form gives it.</param>
    /// <param name="pieces">Keys of those that are shown.</param>
    public IActionResult OnPostOpen(long id, long of, string? until, bool names, string[] pieces)
    {
        if (!Load(id, of))
            return NotFound();
        var end = LocalTimes.Closing(until, Zone)?.ToDateTimeOffset();
        Problem =
            Assignment.ClassId is null ? words["gallery.needsClass"]
            : end is not { } last || last <= clock.GetUtcNow() ? words["gallery.needsDay"]
            : pieces.Length == 0 ? words["gallery.needsPiece"]
            : null;
        if (Problem is not null)
            return Page();
        var chosen = made.Where(work => pieces.Contains(KeyOf(work.Attempt, work.Pane)));
        galleries.Open(
            of,
            end!.Value,
            names,
            [.. chosen.Select(work => (work.Attempt.Id, work.Pane.Id, (IReadOnlyList<string>)[.. work.Own.Files()]))]
        );
        return RedirectToPage(new { id, of });
    }

    /// <summary>Takes one piece away at once.</summary>
    public IActionResult OnPostWithdraw(long id, long of, string piece)
    {
        if (!Load(id, of))
            return NotFound();
        if (Pieces.FirstOrDefault(known => known.Key == piece) is { } found)
            galleries.Withdraw(of, found.Attempt, found.Pane);
        return RedirectToPage(new { id, of });
    }

    public IActionResult OnPostClose(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is null)
            return NotFound();
        galleries.Close(of);
        return RedirectToPage(new { id, of });
    }

    /// <summary>All pieces as a file for the teacher's own use: pictures, sounds, and a page that shows them.</summary>
    /// <param name="names">Whether it says whose each is.</param>
    public IActionResult OnGetFile(long id, long of, bool names)
    {
        if (!Load(id, of))
            return NotFound();
        var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            var page = new StringBuilder();
            foreach (var ((attempt, pane, target, work), i) in made.Select((work, i) => (work, i)))
            {
                page.Append(
                    CultureInfo.InvariantCulture,
                    $"<section><h2>{Html(names ? attempt.Name : words["gallery.piece", ("number", i + 1)])}</h2>"
                );
                if (work.Picture is { } picture && Add(zip, $"{i + 1}", picture.Media) is { } name)
                    page.Append(CultureInfo.InvariantCulture, $"<img src=\"{name}\" alt=\"{Html(picture.AltText)}\" width=\"720\">");
                page.Append("<ol>");
                foreach (var (spot, n) in work.Spots.Select((spot, n) => (spot, n)))
                {
                    page.Append(CultureInfo.InvariantCulture, $"<li><strong>{Html(spot.Title)}</strong> {Html(spot.Text)}");
                    if (spot.Face is { } face && Add(zip, $"{i + 1}-{n + 1}", face.Media) is { } file)
                        page.Append(CultureInfo.InvariantCulture, $" <a href=\"{file}\">{file}</a>");
                    if (spot.Link != "")
                        page.Append(
                            CultureInfo.InvariantCulture,
                            $" <a href=\"{Html(spot.Link)}\" rel=\"noreferrer\">{Html(spot.Link)}</a>"
                        );
                    if (spot.Source != "")
                        page.Append(CultureInfo.InvariantCulture, $" <cite>{Html(spot.Source)}</cite>");
                    page.Append("</li>");
                }
                page.Append("</ol></section>");
            }
            using var writer = new StreamWriter(zip.CreateEntry("index.html").Open(), new UTF8Encoding(false));
            writer.Write(
                $"<!DOCTYPE html><html lang=\"{words.Language.Tag}\"><meta charset=\"utf-8\"><title>{Html(Title)}</title><h1>{Html(Title)}</h1>{page}</html>"
            );
        }
        stream.Position = 0;
        return File(stream, "application/zip", "own-pictures.zip");
    }

    private static string Html(string text) => WebUtility.HtmlEncode(text);

    private string? Add(ZipArchive zip, string name, string media)
    {
        if (files.Find(media, int.MaxValue) is not { } file)
            return null;
        var entry = $"{name}{Path.GetExtension(file.Path)}";
        zip.CreateEntryFromFile(file.Path, entry, CompressionLevel.NoCompression);
        return entry;
    }
}
