using System.Globalization;
using System.Text.RegularExpressions;
using Fenster.Store;
using Microsoft.AspNetCore.Antiforgery;

namespace Fenster.Web.Hosting;

/// <summary>
/// Where files come in and go out. Each reads its own arguments: what ASP.NET would compile for them takes longer than all else at
/// a start.
/// </summary>
internal static partial class MediaEndpoints
{
    [GeneratedRegex("^[0-9a-f]{64}$")]
    private static partial Regex Hash { get; }

    private const int LongestName = 200;

    public static void MapMedia(this WebApplication app)
    {
        app.MapGet("/media/{hash}/{width:int}", Answer(context => Task.FromResult(Show(context))));
        app.MapGet("/activities/{id:long}/bundle", Answer(context => Task.FromResult(Bundle(context)))).RequireAuthorization();
        app.MapUpload("/pictures", async (upload, context) =>
        {
            string? name = context.Request.Query["name"];
            var isLabel = string.Equals(context.Request.Query["label"], "true", StringComparison.OrdinalIgnoreCase);
            return await upload.Take(context, name is { Length: > LongestName } ? name[..LongestName] : name, isLabel);
        });
        app.MapUpload("/sounds", async (upload, context) => new { Hash = await upload.TakeSound(context) });
        app.MapUpload("/videos", async (upload, context) => new { Hash = await upload.TakeVideo(context) });
        app.MapUpload("/captions", async (upload, context) => new { Hash = await upload.TakeCaptions(context) });
    }

    private static void MapUpload(this WebApplication app, string path, Func<MediaUpload, HttpContext, Task<object>> take) =>
        app.MapPost(
                path,
                Answer(async context =>
                    await Of<IAntiforgery>(context).IsRequestValidAsync(context)
                        ? Results.Json(await take(Of<MediaUpload>(context), context))
                        : Results.BadRequest(new { error = Languages.Of(context).Say("common.pageTooOld") })
                )
            )
            .RequireAuthorization();

    private static IResult Show(HttpContext context)
    {
        var (media, hash) = (Of<Media>(context), (string)context.GetRouteValue("hash")!);
        // A student's file answers to whoever knows its name, as long as it has one: browsers ask each time.
        if (Hash.IsMatch(hash) && !media.IsShown(hash) && Of<OwnFiles>(context).Find(hash, (int)Number(context, "width")) is { } own)
            return Send(context, own, "private, no-cache");
        // What nothing shows, such as a picture under cover patches, answers to its teacher alone.
        if (!Hash.IsMatch(hash) || !(media.IsShown(hash) || (context.User.IsTeacher() && media.IsOf(hash, context.User.TeacherId()))))
            return Results.NotFound();
        if (media.Find(hash, (int)Number(context, "width")) is not { } file)
            return Results.NotFound();
        return Send(context, file, $"{(media.IsShown(hash) ? "public" : "private")}, max-age=31536000, immutable");
    }

    private static IResult Send(HttpContext context, MediaFile file, string caching)
    {
        context.Response.Headers.CacheControl = caching;
        context.Response.Headers["Cross-Origin-Resource-Policy"] = "same-origin";
        context.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        return Results.File(file.Path, file.ContentType, enableRangeProcessing: true);
    }

    private static IResult Bundle(HttpContext context)
    {
        context.Response.Headers.CacheControl = "no-store";
        return Of<Drafts>(context).Find(context.User.TeacherId(), Number(context, "id")) is { } draft
            ? Results.File(Of<Bundles>(context).Pack(draft), "application/zip", $"{FileName(draft.Title)}.zip")
            : Results.NotFound();
    }

    /// <summary>A title as a file's name: letters, digits and hyphens.</summary>
    private static string FileName(string title) =>
        string.Join(
            '-',
            new string([.. title.Select(c => char.IsLetterOrDigit(c) ? c : ' ')]).Split(' ', StringSplitOptions.RemoveEmptyEntries)
        )
            is { Length: > 0 } name
            ? name
            : "activity";

    private static RequestDelegate Answer(Func<HttpContext, Task<IResult>> answer) =>
        async context => await (await answer(context)).ExecuteAsync(context);

    private static T Of<T>(HttpContext context)
        where T : notnull => context.RequestServices.GetRequiredService<T>();

    /// <summary>A part of the path that the route says is a number.</summary>
    private static long Number(HttpContext context, string name) =>
        long.Parse((string)context.GetRouteValue(name)!, CultureInfo.InvariantCulture);
}
