using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A student's own work on an activity, before and after handing in.</summary>
public sealed class StudentModel(Publications publications, PublishedActivities published, Attempts attempts) : PageModel
{
    public StudentWork Work { get; private set; } = null!;

    public IActionResult OnGet(string code)
    {
        if (Mine(code) is not var (publication, attempt)) return Redirect($"/join/{Uri.EscapeDataString(code)}");
        if (publication.ClosedAt is not null && attempt.HandedInAt is null) return Redirect($"/join/{publication.Code}");
        Work = new(View(publication, attempt), attempt.Name, $"/do/{publication.Code}?handler=Moves", $"/do/{publication.Code}?handler=HandIn", $"attempt-{attempt.Id}");
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <summary>Stores moves and answers with what the student may see now.</summary>
    public IActionResult OnPostMoves(string code, [FromBody] MovesSent? sent)
    {
        if (Mine(code) is not var (publication, attempt)) return Forgotten();
        if (publication.ClosedAt is not null) return Closed();
        var activity = published.Of(attempt.RevisionId);
        attempt = attempts.Append(attempt.Id, activity, MovesSent.Resolve(sent, activity, attempt.Seed));
        return new JsonResult(View(publication, attempt), DocumentJson.Options);
    }

    /// <summary>Hands in what is stored, after the moves that come along. The second time changes nothing.</summary>
    public IActionResult OnPostHandIn(string code, [FromBody] MovesSent? sent)
    {
        if (Mine(code) is not var (publication, attempt)) return Forgotten();
        if (publication.ClosedAt is not null && attempt.HandedInAt is null) return Closed();
        var activity = published.Of(attempt.RevisionId);
        attempts.Append(attempt.Id, activity, MovesSent.Resolve(sent, activity, attempt.Seed));
        attempt = attempts.HandIn(attempt.Id, activity);
        return new JsonResult(View(publication, attempt), DocumentJson.Options);
    }

    private (Publication, Attempt)? Mine(string code) =>
        publications.ByCode(JoinCode.Tidy(code)) is { } publication
        && Request.Cookies[DeviceCookie.Name(publication)] is { } secret
        && attempts.BySecret(publication.Id, secret) is { } attempt
            ? (publication, attempt) : null;

    private StudentView View(Publication publication, Attempt attempt) => StudentView.At(
        attempt.HandedInAt is null ? Moment.Placed : publication.ClosedAt is null ? Moment.HandedIn : Moment.Closed,
        published.Of(attempt.RevisionId), attempt.ReadResponses(), attempt.Seed);

    private static JsonResult Forgotten() =>
        new(new { error = "This device is no longer part of the activity. Join again with the code and the same name." }) { StatusCode = StatusCodes.Status403Forbidden };

    private static JsonResult Closed() =>
        new(new { error = "The activity has closed. What you placed before is kept." }) { StatusCode = StatusCodes.Status410Gone };
}

/// <summary>The cookie that lets a device come back to its attempt.</summary>
internal static class DeviceCookie
{
    public static string Name(Publication publication) => $"fenster-attempt-{publication.Id}";

    public static void Set(HttpContext context, Publication publication, string secret) =>
        context.Response.Cookies.Append(Name(publication), secret, new()
        {
            HttpOnly = true,
            IsEssential = true,
            MaxAge = TimeSpan.FromDays(90),
            SameSite = SameSiteMode.Lax,
            Secure = context.Request.IsHttps,
        });
}
