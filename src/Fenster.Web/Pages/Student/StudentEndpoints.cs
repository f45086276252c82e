using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Antiforgery;

namespace Fenster.Web.Pages;

/// <summary>What a student's browser sends: placements, and handing in. Each answers with what the student may see now.</summary>
internal static class StudentEndpoints
{
    public static void MapStudent(this WebApplication app)
    {
        app.MapPost("/do/{code}/place", async (string code, HttpContext context, Students students) =>
            await students.Answer(context, code, (attempts, device, moves) => attempts.Append(device, moves)));
        app.MapPost("/do/{code}/hand-in", async (string code, HttpContext context, Students students) =>
            await students.Answer(context, code, async (attempts, device, moves) =>
            {
                if (device.Seat.Activity.Purpose == Purpose.LearningOnly) throw new MoveRefused("There is nothing to hand in: this is there to learn from.");
                await attempts.Append(device, moves);
                return await attempts.HandIn(device);
            }));
    }

    public static Moment MomentOf(Publication publication, Attempt attempt) =>
        attempt.Handed is null ? Moment.Placed : publication.ClosedAt is null ? Moment.HandedIn : Moment.Closed;
}

internal sealed class Students(Publications publications, Attempts attempts, IAntiforgery antiforgery)
{
    public async Task Answer(HttpContext context, string code, Func<Attempts, Device, IReadOnlyList<KeyedMove>, Task<Attempt?>> change)
    {
        if (!await antiforgery.IsRequestValidAsync(context))
        {
            await Refuse(context, StatusCodes.Status400BadRequest, "This page is too old. Reload it; your work is kept.");
            return;
        }
        if (publications.ByCode(JoinCode.Tidy(code)) is not { } publication
            || context.Request.Cookies[DeviceCookie.Name(publication)] is not { } secret
            || attempts.DeviceOf(publication.Id, secret) is not { } device)
        {
            await Refuse(context, StatusCodes.Status403Forbidden, Forgotten);
            return;
        }
        if (publication.ClosedAt is not null)
        {
            await Refuse(context, StatusCodes.Status410Gone, "The activity has closed. What you placed before is kept.");
            return;
        }
        var moves = MovesSent.Resolve(await Read(context.Request), device.Seat);
        if (await change(attempts, device, moves) is not { } attempt)
        {
            await Refuse(context, StatusCodes.Status403Forbidden, Forgotten);
            return;
        }
        var body = JsonSerializer.SerializeToUtf8Bytes(WorkView.At(StudentEndpoints.MomentOf(publication, attempt), device.Seat, attempt.Responses), DocumentJson.Options);
        context.Response.ContentType = "application/json";
        context.Response.ContentLength = body.Length;
        await context.Response.Body.WriteAsync(body);
    }

    private const string Forgotten = "This device is no longer part of the activity. Join again with the code and the same name.";

    private static async Task<MovesSent?> Read(HttpRequest request)
    {
        try
        {
            return await JsonSerializer.DeserializeAsync<MovesSent>(request.Body, JsonSerializerOptions.Web);
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
