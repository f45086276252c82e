using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Geometry;
using Fenster.Core.Layout;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Where an activity is built. A save may hold a document with what is sent around it.</summary>
[RequestSizeLimit(ActivityDocument.MostBytes + 64 * 1024)]
public sealed class WorkbenchModel(Drafts drafts, Proofs proofs, Rasters rasters, PageLanguage words) : PageModel
{
    public Draft Draft { get; private set; } = null!;
    public string SaysJson { get; private set; } = "";

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        Draft = draft;
        var activity = ActivityDocument.Read(draft.Document);
        SaysJson = JsonSerializer.Serialize(Says.Of(activity, proofs, words.Language, same: []), DocumentJson.Options);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <summary>The newest draft, for a window that has an older one.</summary>
    public IActionResult OnGetDraft(long id)
    {
        Response.Headers.CacheControl = "no-store";
        return drafts.Find(User.TeacherId(), id) is { } draft
            ? new JsonResult(new { draft.Version, document = JsonSerializer.Deserialize<JsonElement>(draft.Document) })
            : NotFound();
    }

    /// <summary>The rules of one target as sentences; empty when the draft has no such target yet.</summary>
    /// <param name="pane">Counted from 0.</param>
    public IActionResult OnGetWords(long id, int pane, string? target)
    {
        if (drafts.Activity(User.TeacherId(), id) is not { } activity)
            return NotFound();
        var on = activity.Panes.ElementAtOrDefault(pane);
        var said = on?.Targets.FirstOrDefault(t => t.Id == target) is { } found ? TargetSentences.Of(words.Language, on, found) : [];
        return new JsonResult(said, DocumentJson.Options);
    }

    /// <param name="Version">The version that the document was made from.</param>
    /// <param name="Document">In its list of panes the id of a pane stands for that pane as it is saved.</param>
    public sealed record Save(long Version, JsonElement Document);

    /// <param name="Width">Of each box, in pu.</param>
    /// <param name="Height">Of each box, in pu.</param>
    public sealed record Lines(IReadOnlyList<Point>? Spots, double Width, double Height, Bounds Plane);

    /// <summary>Boxes at the sides of the picture whose lines to the spots don't cross.</summary>
    public IActionResult OnPostLines(long id, [FromBody] Lines? lines)
    {
        if (
            lines?.Spots is not { Count: <= MostLines } spots
            || !spots.All(spot => IsOnAnyPicture(spot.X) && IsOnAnyPicture(spot.Y))
            || !(lines.Width > 0 && lines.Height > 0 && lines.Plane.Width > 0 && lines.Plane.Height > 0)
            || !((double[])[lines.Width, lines.Height, lines.Plane.Left, lines.Plane.Top, lines.Plane.Width, lines.Plane.Height]).All(
                IsOnAnyPicture
            )
        )
            throw new RequestRefused(new("bench.manyLines", ("most", MostLines)));
        return new JsonResult(Leaders.LayOut(spots, lines.Width, lines.Height, lines.Plane), DocumentJson.Options);
    }

    private const int MostLines = 200;

    /// <summary>Far beyond every margin, and far from where numbers lose their last digits.</summary>
    private static bool IsOnAnyPicture(double pu) => Math.Abs(pu) <= 1_000_000;

    /// <param name="Pane">Counted from 0.</param>
    /// <param name="At">In pu.</param>
    /// <param name="Reach">How unlike the colour there what belongs to the shape may be, from 0 to 255; null for the usual.</param>
    public sealed record ShapeWish(int Pane, Point At, double? Reach);

    /// <param name="Region">Null where there is no shape.</param>
    /// <param name="Off">How far the shape's edge lies from it at most, in pu.</param>
    /// <param name="NeedsDrawing">The picture is a drawing: the browser is to send it as pixels first.</param>
    public sealed record ShapeFound(Region? Region, double Off, bool NeedsDrawing);

    /// <summary>The shape in the picture around a point.</summary>
    public IActionResult OnPostShape(long id, [FromBody] ShapeWish? wish)
    {
        if (wish is null || !wish.At.IsFinite || wish.Reach is { } reach && !(reach >= 0 && reach <= 255))
            throw new RequestRefused(new("bench.unreadable"));
        if (PictureOf(id, wish.Pane) is not { } picture)
            return NotFound();
        if (rasters.Of(User.TeacherId(), picture.Media) is not { } raster)
            return new JsonResult(new ShapeFound(null, 0, NeedsDrawing: true), DocumentJson.Options);
        var (plane, scale) = (picture.Plane, picture.Plane.Width / raster.Width);
        var outline = Outlines.Around(
            raster,
            (int)((wish.At.X - plane.Left) / scale),
            (int)((wish.At.Y - plane.Top) / scale),
            wish.Reach ?? Usual.ShapeReach
        );
        Region? region = outline is null
            ? null
            : new Polygon([
                .. outline.Corners.Select(corner => new Point(Tidied(plane.Left + corner.X * scale), Tidied(plane.Top + corner.Y * scale))),
            ]);
        return new JsonResult(new ShapeFound(region, Math.Round((outline?.Off ?? 0) * scale, 1), false), DocumentJson.Options);
    }

    private static double Tidied(double number) => Math.Round(number, 2);

    /// <summary>Takes the picture of a pane as the browser draws it, where it is a drawing.</summary>
    public async Task<IActionResult> OnPostDrawn(long id, int pane)
    {
        if (PictureOf(id, pane) is not { } picture)
            return NotFound();
        using var drawn = await Body();
        rasters.Take(User.TeacherId(), picture.Media, drawn);
        return new OkResult();
    }

    /// <param name="Width">Of the sheet as it was sent, in pixels.</param>
    /// <param name="Parts">The drawings on it; none where there are no single ones.</param>
    public sealed record SheetFound(int Width, int Height, IReadOnlyList<PixelBox> Parts);

    /// <summary>The single drawings on a sheet that a browser sends as pixels.</summary>
    public async Task<IActionResult> OnPostSheet(long id)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is null)
            return NotFound();
        using var sent = await Body();
        var sheet = PicturePixels.Read(sent);
        return new JsonResult(new SheetFound(sheet.Width, sheet.Height, SheetParts.Of(sheet)), DocumentJson.Options);
    }

    private async Task<MemoryStream> Body()
    {
        var body = new MemoryStream();
        await Request.Body.CopyToAsync(body, HttpContext.RequestAborted);
        body.Position = 0;
        return body;
    }

    private Picture? PictureOf(long id, int pane) => drafts.Activity(User.TeacherId(), id)?.Panes.ElementAtOrDefault(pane)?.Picture;

    public sealed record Saved(long Version, Says Says);

    public IActionResult OnPostSave(long id, [FromBody] Save? save)
    {
        if (save is not { Document.ValueKind: JsonValueKind.Object })
            throw new RequestRefused(new("bench.unreadable"));
        if (drafts.SaveParts(User.TeacherId(), id, save.Version, save.Document.GetRawText()) is not { } saved)
            return NotFound();
        return saved is { Outcome.Saved: true, Activity: { } activity }
            ? new JsonResult(new Saved(saved.Outcome.Version, Says.Of(activity, proofs, words.Language, saved.Same)), DocumentJson.Options)
            : new JsonResult(new { saved.Outcome.Version, error = words["bench.changed"] }) { StatusCode = StatusCodes.Status409Conflict };
    }
}

/// <summary>The three groups of rules as sentences whose words can be changed, of the activity and of each of its panes.</summary>
public sealed record RulesInWords(ImmutableArray<Wording> Check, ImmutableArray<Wording> Reveal, ImmutableArray<Wording> Score)
{
    /// <param name="pane">Null for the activity's own.</param>
    public static RulesInWords Of(RuleSentences sentences, Activity activity, Pane? pane = null) =>
        new(sentences.CheckWords(activity, pane), sentences.RevealWords(activity, pane), sentences.ScoreWords(activity, pane));
}

/// <inheritdoc cref="Remark"/>
public sealed record RemarkInWords(int Pane, string? About, string Sentence, Weight Weight, bool Blocks, Mend Mend);

/// <summary>What the server says to a draft as it stands.</summary>
/// <param name="PaneRules">Null for a pane of which all is as it was said before.</param>
/// <param name="Remarks">On the other panes.</param>
/// <param name="Guess">What blind guessing earns.</param>
public sealed record Says(RulesInWords Rules, ImmutableArray<RulesInWords?> PaneRules, IReadOnlyList<RemarkInWords> Remarks, string Guess)
{
    /// <param name="same">Panes that are as they were, from 0, in an activity whose rules are as they were.</param>
    public static Says Of(Activity activity, Proofs proofs, Language language, ImmutableHashSet<int> same)
    {
        var reading = proofs.Of(activity);
        var sentences = new RuleSentences(language);
        return new(
            RulesInWords.Of(sentences, activity),
            [.. activity.Panes.Select((pane, i) => same.Contains(i) ? null : RulesInWords.Of(sentences, activity, pane))],
            [
                .. reading
                    .Remarks.Where(remark => !same.Contains(remark.Pane))
                    .Select(remark => new RemarkInWords(
                        remark.Pane,
                        remark.About,
                        language.Say(remark.Said),
                        remark.Weight,
                        remark.Blocks,
                        remark.Mend
                    )),
            ],
            language.Say(reading.Guess)
        );
    }
}
