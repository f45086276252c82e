using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Web.Pages;
using Fenster.Words;
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
        // Nor is it a fault that somebody went away before the answer.
        SuppressDiagnosticsCallback = context =>
            Explain(context.Exception, Language.English).Status != StatusCodes.Status500InternalServerError
            || (
                context.Exception is IOException or OperationCanceledException && context.HttpContext.RequestAborted.IsCancellationRequested
            ),
    };

    private static async Task Handle(HttpContext context)
    {
        var exception = context.Features.Get<IExceptionHandlerFeature>()?.Error;
        var (status, sentence) = Explain(exception, Languages.OfAnybody(context));
        context.Response.StatusCode = status;
        if (WantsJson(context.Request))
            await context.Response.WriteAsJsonAsync(new { error = sentence });
        else
            context.Items[nameof(Problems)] = sentence;
    }

    /// <summary>The sentence that goes with the current response, if there is one.</summary>
    public static string? Sentence(HttpContext context) => context.Items[nameof(Problems)] as string;

    public static bool WantsJson(HttpRequest request) => request.Headers.Accept.ToString().Contains("application/json");

    /// <summary>Whether a disk is what failed: it is full, or nothing can be written to it.</summary>
    public static bool IsOfDisk(Exception? exception) =>
        exception
            is SqliteException { SqliteErrorCode: Full or ReadOnly or InputOutput or CannotOpen }
                or IOException { HResult: NoSpace or ReadOnlyDisk or Quota };

    private static (int Status, string Sentence) Explain(Exception? exception, Language language) =>
        exception switch
        {
            MovesRefused or DocumentRefused or SaidException => (StatusCodes.Status422UnprocessableEntity, language.Say(exception)),
            BadHttpRequestException bad => (
                bad.StatusCode,
                language.Say(bad.StatusCode == StatusCodes.Status413PayloadTooLarge ? "problem.tooMuch" : "problem.unreadable")
            ),
            _ when IsOfDisk(exception) => (StatusCodes.Status507InsufficientStorage, language.Say("problem.full")),
            _ => (StatusCodes.Status500InternalServerError, language.Say("problem.wrong")),
        };
}
