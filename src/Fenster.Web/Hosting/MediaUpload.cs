using System.Text.RegularExpressions;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;

namespace Fenster.Web.Hosting;

/// <summary>Takes pictures and sounds in; pictures one at a time, so that decoding never crowds out other requests.</summary>
public sealed class MediaUpload(Media media, Shelf shelf) : IDisposable
{
    private const long MostHeardOut = 300L * 1024 * 1024;

    private readonly SemaphoreSlim room = new(1);

    /// <param name="isLabel">Whether it becomes a label: trimmed, and as high as all of them.</param>
    /// <param name="name">What the picture is called on the teacher's shelf; null for one that does not go there.</param>
    /// <exception cref="PictureRefused">The body is no picture that can be used.</exception>
    public async Task<MediaSize> Take(HttpContext context, string? name, bool isLabel)
    {
        var bytes = await ReadBody(context);
        await room.WaitAsync(context.RequestAborted);
        try
        {
            var picture = await Task.Run(() => isLabel ? PictureReader.ReadLabel(bytes) : PictureReader.Read(bytes));
            media.Save(picture, bytes);
            if (name is not null) shelf.Put(context.User.TeacherId(), picture.Hash, name);
            return new() { Hash = picture.Hash, Width = picture.Width, Height = picture.Height };
        }
        finally
        {
            room.Release();
        }
    }

    /// <returns>The hash under which the sound is stored.</returns>
    /// <exception cref="SoundRefused">The body is no sound that can be used.</exception>
    public async Task<string> TakeSound(HttpContext context)
    {
        return Keep(SoundReader.Read(await ReadBody(context)));
    }

    /// <returns>The hash under which the video is stored.</returns>
    /// <exception cref="SoundRefused">The body is no video that can be used.</exception>
    public async Task<string> TakeVideo(HttpContext context) => Keep(SoundReader.ReadVideo(await ReadBody(context, SoundReader.MostVideoBytes)));

    /// <returns>The hash under which the captions are stored.</returns>
    /// <exception cref="SoundRefused">The body is no captions that can be used.</exception>
    public async Task<string> TakeCaptions(HttpContext context) => Keep(CaptionsReader.Read(await ReadBody(context)));

    private string Keep(PreparedSound sound)
    {
        media.Save(sound);
        return sound.Hash;
    }

    /// <summary>
    /// The whole body. One that is too large is read to its end and dropped, since browsers show a broken connection,
    /// not the answer, when a server stops listening to them.
    /// </summary>
    private static async Task<byte[]> ReadBody(HttpContext context, int most = PictureReader.MostBytes)
    {
        context.Features.GetRequiredFeature<IHttpMaxRequestBodySizeFeature>().MaxRequestBodySize = MostHeardOut;
        var isTooLarge = context.Request.ContentLength > most;
        using var body = new MemoryStream();
        var buffer = new byte[81920];
        int read;
        while ((read = await context.Request.Body.ReadAsync(buffer, context.RequestAborted)) > 0)
        {
            isTooLarge |= body.Length + read > most;
            if (isTooLarge) body.SetLength(0);
            else body.Write(buffer, 0, read);
        }
        return isTooLarge
            ? throw new PictureRefused($"The file is larger than {most / (1024 * 1024)} MB, the most that Fenster takes. Save it smaller and try again.")
            : body.ToArray();
    }

    public void Dispose() => room.Dispose();
}

internal static partial class MediaEndpoints
{
    [GeneratedRegex("^[0-9a-f]{64}$")]
    private static partial Regex Hash { get; }

    private const int LongestName = 200;

    /// <summary>A title as a file's name: letters, digits and hyphens.</summary>
    private static string FileName(string title) =>
        string.Join('-', new string([.. title.Select(c => char.IsLetterOrDigit(c) ? c : ' ')]).Split(' ', StringSplitOptions.RemoveEmptyEntries)) is { Length: > 0 } name ? name : "activity";

    public static void MapMedia(this WebApplication app)
    {
        app.MapGet("/media/{hash}/{width:int}", (string hash, int width, Media media, HttpContext context) =>
        {
            if (!Hash.IsMatch(hash) || media.Find(hash, width) is not { } file) return Results.NotFound();
            context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
            context.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
            return Results.File(file.Path, file.ContentType, enableRangeProcessing: true);
        });
        app.MapGet("/activities/{id:long}/bundle", (long id, Drafts drafts, Bundles bundles, HttpContext context) =>
            drafts.Find(context.User.TeacherId(), id) is { } draft
                ? Results.File(bundles.Pack(draft), "application/zip", $"{FileName(draft.Title)}.zip")
                : Results.NotFound()).RequireAuthorization();
        app.MapPost("/pictures", async (string? name, bool? label, MediaUpload upload, IAntiforgery antiforgery, HttpContext context) =>
        {
            if (!await antiforgery.IsRequestValidAsync(context)) return Results.BadRequest(new { error = "This page is too old. Reload it and try again." });
            return Results.Json(await upload.Take(context, name is { Length: > LongestName } ? name[..LongestName] : name, label == true));
        }).RequireAuthorization();
        foreach (var (path, take) in (IEnumerable<(string, Func<MediaUpload, HttpContext, Task<string>>)>)
            [("/sounds", (upload, context) => upload.TakeSound(context)), ("/videos", (upload, context) => upload.TakeVideo(context)), ("/captions", (upload, context) => upload.TakeCaptions(context))])
            app.MapPost(path, async (MediaUpload upload, IAntiforgery antiforgery, HttpContext context) =>
            {
                if (!await antiforgery.IsRequestValidAsync(context)) return Results.BadRequest(new { error = "This page is too old. Reload it and try again." });
                return Results.Json(new { Hash = await take(upload, context) });
            }).RequireAuthorization();
    }
}
