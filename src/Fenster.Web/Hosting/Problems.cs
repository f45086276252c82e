using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Web.Pages;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.Data.Sqlite;

namespace Fenster.Web.Hosting;

/// <summary>Says in a sentence what went wrong: as JSON to a script that asks for it, as a page to a person.</summary>
internal static class Problems
{
    /// <summary>Linux's error numbers for the same.</summary>
    private const int NoSpace = 28,
        ReadOnlyDisk = 30,
        Quota = 122;

    /// <summary>SQLite's primary result codes for a disk that can't take more.</summary>
    private const int ReadOnly = 8,
        InputOutput = 10,
        Full = 13,
        CannotOpen = 14;

    /// <summary>Refusals are answers: only what nobody foresaw is logged as an error.</summary>
    public static readonly ExceptionHandlerOptions Options = new()
    {
        ExceptionHandler = Handle,
        SuppressDiagnosticsCallback = context => Explain(context.Exception).Status != StatusCodes.Status500InternalServerError,
    };

    private static async Task Handle(HttpContext context)
    {
        var exception = context.Features.Get<IExceptionHandlerFeature>()?.Error;
        var (status, sentence) = Explain(exception);
        context.Response.StatusCode = status;
        if (WantsJson(context.Request))
            await context.Response.WriteAsJsonAsync(new { error = sentence });
        else
            context.Items[nameof(Problems)] = sentence;
    }

    /// <summary>The sentence that goes with the current response, if there is one.</summary>
    public static string? Sentence(HttpContext context) => context.Items[nameof(Problems)] as string;

    public static bool WantsJson(HttpRequest request) => request.Headers.Accept.ToString().Contains("application/json");

    private static (int Status, string Sentence) Explain(Exception? exception) =>
        exception switch
        {
            MovesRefused => (StatusCodes.Status422UnprocessableEntity, exception.Message),
            DocumentRefused => (StatusCodes.Status422UnprocessableEntity, exception.Message),
            SoundRefused => (StatusCodes.Status422UnprocessableEntity, exception.Message),
            BundleRefused => (StatusCodes.Status422UnprocessableEntity, exception.Message),
            PictureRefused => (StatusCodes.Status422UnprocessableEntity, exception.Message),
            BadHttpRequestException bad => (
                bad.StatusCode,
                bad.StatusCode == StatusCodes.Status413PayloadTooLarge
                    ? "That was more than Fenster takes at once. Nothing was changed."
                    : "The request could not be read. Nothing was changed."
            ),
            SqliteException { SqliteErrorCode: Full or ReadOnly or InputOutput or CannotOpen }
            or IOException { HResult: NoSpace or ReadOnlyDisk or Quota } => (
                StatusCodes.Status507InsufficientStorage,
                "The server can't store anything at the moment. What was saved before is safe; try again in a while."
            ),
            _ => (
                StatusCodes.Status500InternalServerError,
                "Something went wrong on the server. What was saved before is safe; try again."
            ),
        };
}
