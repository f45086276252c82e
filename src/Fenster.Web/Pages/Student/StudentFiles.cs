using System.Globalization;
using System.Text.RegularExpressions;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>Files that students bring into their own pictures.</summary>
internal sealed partial class StudentFiles(
    StudentDesk desk,
    Attempts attempts,
    OwnUploads uploads,
    IPictureSearch search,
    Assets assets,
    SameSite sameSite
)
{
    [GeneratedRegex("^[0-9a-f]{8,64}$")]
    private static partial Regex Key { get; }

    /// <summary>How much of an upload is here, so that it goes on there.</summary>
    public Task Have(HttpContext context, string code)
    {
        if (Open(context, code) is not var (attempt, _, _))
            return Forgotten(context);
        context.Response.Headers.CacheControl = "no-store";
        return context.Response.WriteAsJsonAsync(new { have = uploads.Have(attempt, KeyOf(context)) });
    }

    /// <summary>A piece of a file; with the last one the file is read and kept.</summary>
    public async Task Take(HttpContext context, string code)
    {
        if (await ToChange(context, code) is not var (attempt, language, refusal))
            return;
        var key = KeyOf(context);
        if (context.Request.Query["cancel"] == "true")
        {
            uploads.Cancel(attempt, key);
            await context.Response.WriteAsJsonAsync(new { have = 0 });
            return;
        }
        if (refusal is not null)
        {
            await StudentDesk.Refuse(context, StatusCodes.Status409Conflict, language.Say(refusal));
            return;
        }
        if (
            !long.TryParse(context.Request.Query["from"], CultureInfo.InvariantCulture, out var from)
            || from < 0
            || key == ""
            || !long.TryParse(context.Request.Query["size"], CultureInfo.InvariantCulture, out var size)
        )
        {
            await StudentDesk.Refuse(context, StatusCodes.Status400BadRequest, language.Say(new Refusal(Refused.Unreadable)));
            return;
        }
        await Answer(context, language, async stop =>
        {
            var have = await uploads.Add(attempt, key, from, size, context.Request.Body, stop);
            if (have < size)
                return new { have };
            // It may have been handed in while the last piece was on its way.
            if (Open(context, code) is not var (_, _, late) || late is not null)
            {
                uploads.Cancel(attempt, key);
                throw new PictureRefused(new("refused.settled"));
            }
            return await uploads.Finish(attempt, key, context.Request.Query["kind"] == "sound", stop);
        });
    }

    /// <summary>Drawings that some words find.</summary>
    public Task Look(HttpContext context, string code)
    {
        if (Open(context, code) is not var (_, _, _))
            return Forgotten(context);
        var words = (string?)context.Request.Query["words"] ?? "";
        return context.Response.WriteAsJsonAsync(
            new
            {
                found = search
                    .Find(words[..Math.Min(words.Length, LongestWords)])
                    .Take(MostFound)
                    .Select(found => new
                    {
                        found.Id,
                        found.Title,
                        found.AltText,
                        Url = assets.Url($"library/{found.Id}"),
                    }),
            }
        );
    }

    private const int LongestWords = 200;
    private const int MostFound = 60;

    /// <summary>Takes a drawing as the student's picture.</summary>
    public async Task TakeDrawing(HttpContext context, string code)
    {
        if (await ToChange(context, code) is not var (attempt, language, refusal))
            return;
        if (refusal is not null || search.Fetch((string?)context.Request.Query["id"] ?? "") is not var (_, bytes))
        {
            await StudentDesk.Refuse(context, StatusCodes.Status409Conflict, language.Say(refusal ?? new Refusal(Refused.NotYourPicture)));
            return;
        }
        await Answer(context, language, async stop => await uploads.Take(attempt, bytes, stop));
    }

    private static async Task Answer(HttpContext context, Language language, Func<CancellationToken, Task<object>> take)
    {
        try
        {
            await context.Response.WriteAsJsonAsync(await take(context.RequestAborted));
        }
        catch (SaidException refused)
        {
            await StudentDesk.Refuse(context, StatusCodes.Status422UnprocessableEntity, language.Say(ToStudents(refused.Said)));
        }
        catch (OperationCanceledException) when (context.RequestAborted.IsCancellationRequested)
        {
            // Whoever sent it is gone; what had arrived waits for the next piece.
        }
    }

    /// <summary>What is wrong with a file, in the words that students get, which say nothing of a teacher's tools.</summary>
    private static Said ToStudents(Said said) =>
        said.Name switch
        {
            "file.empty" => new("making.fileEmpty"),
            "file.tooLarge" or "picture.tooManyBytes" or "sound.tooLarge" or "picture.drawingBytes" => new(
                "making.fileTooLarge",
                [.. said.Slots.Where(slot => slot.Slot == "most")]
            ),
            "picture.tooManyPixels" => new("making.tooManyPixels", [.. said.Slots]),
            "picture.video" => new("making.isVideo"),
            "picture.heic" or "picture.avif" or "picture.tiff" or "picture.bmp" => new("making.otherFormat"),
            "picture.cutOff" or "picture.damaged" or "picture.damagedDrawing" or "sound.cutOff" or "sound.damaged" => new(
                "making.fileDamaged"
            ),
            "picture.tooLargeNow" => new("making.busy"),
            var name when name.StartsWith("sound.", StringComparison.Ordinal) => new("making.noSoundFile"),
            var name when name.StartsWith("picture.", StringComparison.Ordinal) => new("making.noPictureFile"),
            _ => said,
        };

    /// <summary>As <see cref="Open"/>; null when the request was refused, which is then answered.</summary>
    private async Task<(long Attempt, Language Language, Refusal? Refusal)?> ToChange(HttpContext context, string code)
    {
        if (!sameSite.Allows(context.Request))
            await StudentDesk.Refuse(
                context,
                StatusCodes.Status403Forbidden,
                Languages.OfBrowser(context.Request).Say("refused.otherSite")
            );
        else if (Open(context, code) is { } open)
            return open;
        else
            await Forgotten(context);
        return null;
    }

    /// <summary>The attempt that a device works on, where there is something to make in it; why nothing may be brought in now, or null.</summary>
    private (long Attempt, Language Language, Refusal? Refusal)? Open(HttpContext context, string code)
    {
        if (desk.Find(context, code) is not var (_, _, device) || attempts.Of(device) is not { } attempt)
            return null;
        var language = Language.In(device.Seat.Activity.Language);
        var makes = device.Seat.Activity.Panes.Any(pane => pane.Targets.Any(target => target.Takes == Doing.Making));
        return (
            attempt.Id,
            language,
            makes
                ? attempt.Handed is null
                    ? null
                    : new(Refused.Settled)
                : new(Refused.NothingToMake)
        );
    }

    private static string KeyOf(HttpContext context) => (string?)context.Request.Query["upload"] is { } key && Key.IsMatch(key) ? key : "";

    private static Task Forgotten(HttpContext context) =>
        StudentDesk.Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.forgotten"));
}
