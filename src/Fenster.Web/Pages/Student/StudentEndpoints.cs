using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
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
        app.MapPost("/do/{code}/place", context => Desk(context).Answer(context, Code(context), isHandIn: false)).ShortCircuit();
        app.MapPost("/do/{code}/hand-in", context => Desk(context).Answer(context, Code(context), isHandIn: true)).ShortCircuit();
        app.MapGet("/do/worker.js", context => context.RequestServices.GetRequiredService<Assets>().AnswerWorker(context)).ShortCircuit();
        app.MapGet("/do/scripts", context => context.RequestServices.GetRequiredService<Assets>().AnswerScripts(context)).ShortCircuit();
        app.MapGet("/do/{code}/time", context => Desk(context).TellTime(context, Code(context))).ShortCircuit();

        app.MapGet("/do/{code}/news", context => Desk(context).TellNews(context, Code(context))).ShortCircuit();

        app.MapGet("/do/{code}/own", context => Files(context).Have(context, Code(context))).ShortCircuit();
        app.MapPost("/do/{code}/own", context => Files(context).Take(context, Code(context))).ShortCircuit();
        app.MapGet("/do/{code}/library", context => Files(context).Look(context, Code(context))).ShortCircuit();
        app.MapPost("/do/{code}/library", context => Files(context).TakeDrawing(context, Code(context))).ShortCircuit();

        static StudentFiles Files(HttpContext context) => context.RequestServices.GetRequiredService<StudentFiles>();
        static StudentDesk Desk(HttpContext context) => context.RequestServices.GetRequiredService<StudentDesk>();
        static string Code(HttpContext context) => (string)context.GetRouteValue("code")!;
    }

    /// <param name="begun">How many attempts the student has begun; null where the work is not handed in.</param>
    public static Reach ReachOf(Assignment assignment, Attempt attempt, Student? student, int? begun, DateTimeOffset now) =>
        attempt.Handed is null ? Moment.Placed : ReachOfHanded(assignment, attempt.ReleasedAt, student, begun, now);

    /// <summary>The same of work that is handed in.</summary>
    /// <param name="released">When it was released to this student alone; null where it was not.</param>
    public static Reach ReachOfHanded(Assignment assignment, DateTimeOffset? released, Student? student, int? begun, DateTimeOffset now)
    {
        var (terms, course, at) = (assignment.Terms, assignment.Course, now.ToInstant());
        var isLast = begun is not { } count || !Timing.MayBeginAgain(terms, course, student?.Allowance ?? Allowance.None, count, at);
        return new(
            Moment.HandedIn,
            assignment.StateAt(now) == AssignmentState.Closed,
            Timing.IsReleased(terms, course, at) || released is not null,
            MayBeginAgain: !isLast && !terms.IsPractice
        );
    }
}

internal sealed class StudentDesk(
    Assignments assignments,
    Students students,
    Attempts attempts,
    OwnFiles ownFiles,
    News news,
    SameSite sameSite,
    TimeProvider clock
)
{
    public async Task Answer(HttpContext context, string code, bool isHandIn)
    {
        if (!sameSite.Allows(context.Request))
        {
            await Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.otherSite"));
            return;
        }
        if (Find(context, code) is not var (assignment, secret, device))
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
        var sent = await Read(context.Request);
        var (moves, unread) = WithOwnFiles(device, MovesSent.Resolve(sent, device.Seat));
        // All of it has arrived now; that is the moment which counts.
        var received = clock.GetUtcNow();
        // What is handed in is mostly stored already.
        var taken = isHandIn && moves.Count == 0 ? null : await attempts.Append(device, moves, received);
        var (refused, shut) = (taken is null ? unread : unread.AddRange(taken.Refused), taken?.Shut);
        if (isHandIn && shut is null && LeftOpenIn(device, received) is { } open)
        {
            await Refuse(context, StatusCodes.Status422UnprocessableEntity, language.Say(new Refusal(Refused.LeftOpen, open)));
            return;
        }
        if (taken is null || (isHandIn && taken.Attempt is not null && shut is null))
            taken = await attempts.HandIn(device, received);
        if (taken.Attempt is not { } attempt)
        {
            await (
                taken.Shut == Shut.Paused
                    ? Refuse(context, StatusCodes.Status423Locked, language.Say("before.paused"))
                    : Refuse(context, StatusCodes.Status403Forbidden, language.Say("refused.forgotten"))
            );
            return;
        }
        var reach = (Reach)Moment.Placed;
        if (attempt.Handed is not null)
        {
            // What shows of work that is handed in depends on what has become of the assignment by now.
            assignment = assignments.ByCode(assignment.Code) ?? assignment;
            var student = students.BySecret(assignment.Id, secret);
            reach = StudentEndpoints.ReachOf(assignment, attempt, student, attempts.OfStudent(attempt.StudentId).Count, clock.GetUtcNow());
        }
        // Who sends nothing asks for all of it.
        var panes = attempt.Handed is null && moves.Count > 0 ? moves.Select(move => move.Pane).ToHashSet() : null;
        // What was refused may still be drawn: its pane is told too.
        if (panes is not null && unread.Length > 0)
            panes = null;
        var view = IsAsKnown(sent?.Knows, device.Seat.Activity, attempt, taken, moves, refused)
            ? WorkView.AsKnown(device.Seat)
            : WorkView.At(reach, device.Seat, attempt.Responses, panes, attempt.Marking);
        await Pages
            .Answer.Of(
                view,
                refused,
                language,
                isLate: shut == Shut.Late,
                attempt.Version,
                attempt.Responses.Values.Sum(pane => pane.Answers)
            )
            .Write(context.Response);
    }

    /// <summary>A student shows files of this attempt alone.</summary>
    private (IReadOnlyList<KeyedMove>, ImmutableArray<RefusedMove>) WithOwnFiles(
        Device device,
        (IReadOnlyList<KeyedMove> Moves, ImmutableArray<RefusedMove> Refused) sent
    )
    {
        var strangers = ownFiles.Strangers(device.AttemptId, sent.Moves.Select(move => FileOf(move.Move)).OfType<string>());
        return strangers.Count == 0
            ? sent
            : (
                [.. sent.Moves.Where(move => FileOf(move.Move) is not { } file || !strangers.Contains(file))],
                sent.Refused.AddRange(
                    sent.Moves.Where(move => FileOf(move.Move) is { } file && strangers.Contains(file))
                        .Select(move => new RefusedMove(move.Key, new(Refused.NotYourPicture)))
                )
            );
    }

    private static string? FileOf(Move move) =>
        move switch
        {
            BringPicture { Picture: { } picture } => picture.Media,
            PutSpot { Spot.Face: { } face } => face.Media,
            _ => null,
        };

    /// <summary>
    /// Whether the browser shows all that there is to be seen already: it knew the work, its moves were all taken and no others, and nothing
    /// of it is checked so far.
    /// </summary>
    private static bool IsAsKnown(
        long? knows,
        Activity activity,
        Attempt attempt,
        Taken taken,
        IReadOnlyList<KeyedMove> moves,
        ImmutableArray<RefusedMove> refused
    ) =>
        attempt.Handed is null
        && knows == taken.Before
        && attempt.Version == taken.Before + moves.Count
        && refused.IsEmpty
        && moves.All(move =>
            Moves.Touched(move.Move) is not null
            // What it still lacks is told.
            && move.Move is not (BringPicture or PutSpot or TakeSpot)
            && !activity.RulesOf(activity.Pane(move.Pane)).Reveal.IsImmediate
            && attempt.Responses[move.Pane].Earlier.IsEmpty
        );

    /// <summary>How long the sitting still lasts, in milliseconds: it may have become longer, or stand still.</summary>
    public Task TellTime(HttpContext context, string code)
    {
        if (Find(context, code) is not var (_, _, device) || attempts.Of(device) is not { } attempt)
            return Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.forgotten"));
        context.Response.Headers.CacheControl = "no-store";
        return context.Response.WriteAsJsonAsync(
            new { left = (long?)(attempt.EndsAt - clock.GetUtcNow())?.TotalMilliseconds, isOpen = attempt.Handed is null }
        );
    }

    /// <summary>What the teacher tells this student since the last that the browser knows of, which it asks for every few seconds.</summary>
    public Task TellNews(HttpContext context, string code)
    {
        if (Find(context, code) is not var (_, _, device) || attempts.Of(device) is not { } attempt)
            return Refuse(context, StatusCodes.Status403Forbidden, Languages.OfBrowser(context.Request).Say("refused.forgotten"));
        var after = long.TryParse(context.Request.Query["after"], CultureInfo.InvariantCulture, out var known) ? known : 0;
        context.Response.Headers.CacheControl = "no-store";
        return context.Response.WriteAsJsonAsync(
            new
            {
                news = news.For(attempt, after)
                    .Select(line => new
                    {
                        line.Id,
                        line.Text,
                        pane = line.Pane is { } pane ? device.Seat.NameOf(pane) : null,
                        at = line.Spot is { } spot ? new { spot.X, spot.Y } : null,
                    }),
            }
        );
    }

    /// <summary>How much is open where nothing may be; null where it may be handed in, or the time is over.</summary>
    private int? LeftOpenIn(Device device, DateTimeOffset received) =>
        device.Seat.Activity.Screen.Leaving == Leaving.NotPossible
        && attempts.Of(device) is { Handed: null } attempt
        && !(attempt.EndsAt <= received)
        && LeftOpen.Count(device.Seat.Activity, attempt.Responses) is > 0 and var open
            ? open
            : null;

    internal (Assignment Assignment, string Secret, Device Device)? Find(HttpContext context, string code) =>
        assignments.Lately(JoinCode.Tidy(code)) is { } assignment
        && context.Request.Headers[NowModel.DeviceHeader] is [{ Length: > 0 and < 200 } secret]
        && long.TryParse(context.Request.Query["attempt"], CultureInfo.InvariantCulture, out var number)
        && attempts.DeviceOf(assignment.Id, secret, number) is { } device
            ? (assignment, secret, device)
            : null;

    private static readonly JsonSerializerOptions AsSent = new(JsonSerializerDefaults.Web) { Converters = { new SoundTextJson() } };

    private static async Task<MovesSent?> Read(HttpRequest request)
    {
        try
        {
            return await JsonSerializer.DeserializeAsync<MovesSent>(request.Body, AsSent, request.HttpContext.RequestAborted);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    internal static Task Refuse(HttpContext context, int status, string sentence)
    {
        context.Response.StatusCode = status;
        return context.Response.WriteAsJsonAsync(new { error = sentence });
    }
}
