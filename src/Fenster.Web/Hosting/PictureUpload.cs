using System.Text.RegularExpressions;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;

namespace Fenster.Web.Hosting;

/// <summary>Takes pictures in, one at a time for each core, so that decoding never crowds out other requests.</summary>
public sealed class PictureUpload(Media media) : IDisposable
{
    private readonly SemaphoreSlim room = new(1);

    /// <exception cref="PictureRefused">The body is no picture that can be used.</exception>
    public async Task<MediaSize> Take(HttpContext context)
    {
        if (context.Request.ContentLength > PictureReader.MostBytes) throw TooLarge();
        context.Features.GetRequiredFeature<IHttpMaxRequestBodySizeFeature>().MaxRequestBodySize = PictureReader.MostBytes + 1;
        using var body = new MemoryStream();
        try
        {
            await context.Request.Body.CopyToAsync(body, context.RequestAborted);
        }
        catch (BadHttpRequestException exception) when (exception.StatusCode == StatusCodes.Status413PayloadTooLarge)
        {
            throw TooLarge();
        }

        await room.WaitAsync(context.RequestAborted);
        try
        {
            var picture = await Task.Run(() => PictureReader.Read(body.ToArray()));
            media.Save(picture);
            return new() { Hash = picture.Hash, Width = picture.Width, Height = picture.Height };
        }
        finally
        {
            room.Release();
        }
    }

    private static PictureRefused TooLarge() =>
        new($"The file is larger than {PictureReader.MostBytes / (1024 * 1024)} MB, the most a picture may have. Save it smaller and try again.");

    public void Dispose() => room.Dispose();
}

internal static partial class MediaEndpoints
{
    [GeneratedRegex("^[0-9a-f]{64}$")]
    private static partial Regex Hash { get; }

    public static void MapMedia(this WebApplication app)
    {
        app.MapGet("/media/{hash}/{width:int}", (string hash, int width, Media media, HttpContext context) =>
        {
            if (!Hash.IsMatch(hash) || media.Find(hash, width) is not { } file) return Results.NotFound();
            context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
            context.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
            return Results.File(file.Path, file.ContentType);
        });
        app.MapPost("/pictures", async (PictureUpload upload, IAntiforgery antiforgery, HttpContext context) =>
        {
            if (!await antiforgery.IsRequestValidAsync(context)) return Results.BadRequest(new { error = "This page is too old. Reload it and try again." });
            return Results.Json(await upload.Take(context));
        }).RequireAuthorization();
    }
}
