using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>What a student's browser sends: placements, and handing in. Each answers with what the student may see now.</summary>
internal static class StudentEndpoints
{
    public static void MapStudent(this WebApplication app)
    {
        // Who a student is says the device's secret alone: nothing of how teachers sign in is asked.
        app.MapPost("/do/{code}/place", context => Answer(context, isHandIn: false)).ShortCircuit();
        app.MapPost("/do/{code}/hand-in", context => Answer(context, isHandIn: true)).ShortCircuit();

        static Task Answer(HttpContext context, bool isHandIn) =>
            context.RequestServices.GetRequiredService<Students>().Answer(context, (string)context.GetRouteValue("code")!, isHandIn);
    }

    public static Reach ReachOf(Publication publication, Attempt attempt) =>
        new(attempt.Handed is null ? Moment.Placed : Moment.HandedIn, IsClosed: publication.ClosedAt is not null);
}

internal sealed class Students(Publications publications, Attempts attempts, SameSite sameSite, TimeProvider clock)
{
    public async Task Answer(HttpContext context, string code, bool isHandIn)
    {
        if (!sameSite.Allows(context.Request))
        {
            await Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.otherSite"));
            return;
        }
        if (
            publications.Lately(JoinCode.Tidy(code)) is not { } publication
            || context.Request.Cookies[DeviceCookie.Name(publication)] is not { } secret
            || attempts.DeviceOf(publication.Id, secret) is not { } device
        )
        {
            await Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.forgotten"));
            return;
        }
        var language = Language.In(device.Seat.Activity.Language);
        if (isHandIn && device.Seat.Activity.Purpose == Purpose.LearningOnly)
        {
            await Refuse(context, StatusCodes.Status422UnprocessableEntity, language.Say(new Refusal(Refused.NothingToHandIn)));
            return;
        }
        var (moves, unread) = MovesSent.Resolve(await Read(context.Request), device.Seat);
        // All of it has arrived now; that is the moment which counts.
        var received = clock.GetUtcNow();
        // What is handed in is mostly stored already.
        var taken = isHandIn && moves.Count == 0 ? null : await attempts.Append(device, moves, received);
        var refused = taken is null ? unread : unread.AddRange(taken.Refused);
        if (taken is null || (isHandIn && taken.Attempt is not null))
            taken = await attempts.HandIn(device, received);
        if (taken.Attempt is not { } attempt)
        {
            await (
                taken.Shut == Shut.Closed
                    ? Refuse(context, StatusCodes.Status410Gone, language.Say("refused.hasClosed"))
                    : Refuse(context, StatusCodes.Status403Forbidden, language.Say("refused.forgotten"))
            );
            return;
        }
        // What shows of work that is handed in depends on whether the activity has closed by now.
        if (attempt.Handed is not null)
            publication = publications.ByCode(publication.Code) ?? publication;
        var panes = attempt.Handed is null ? moves.Select(move => move.Pane).ToHashSet() : null;
        // What was refused may still be drawn: its pane is told too.
        if (panes is not null && unread.Length > 0)
            panes = null;
        await Pages
            .Answer.Of(
                WorkView.At(StudentEndpoints.ReachOf(publication, attempt), device.Seat, attempt.Responses, panes),
                refused,
                language
            )
            .Write(context.Response);
    }

    private static async Task<MovesSent?> Read(HttpRequest request)
    {
        try
        {
            return await JsonSerializer.DeserializeAsync<MovesSent>(
                request.Body,
                JsonSerializerOptions.Web,
                request.HttpContext.RequestAborted
            );
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static Task Refuse(HttpContext context, int status, string sentence)
    {
        context.Response.StatusCode = status;
        return context.Response.WriteAsJsonAsync(new { error = sentence });
    }
}
