using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Geometry;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Watching;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Connections.Features;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>All students of an assignment at once, as they work.</summary>
public sealed class WallModel(
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Attempts attempts,
    News news,
    Sessions sessions,
    FeedReaders readers,
    PageLanguage words,
    TimeProvider clock
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;

    /// <summary>How many panes it has.</summary>
    public int Panes { get; private set; }

    /// <summary>Whether the teacher owns the activity, and does not only stand in.</summary>
    public bool IsOwner { get; private set; }

    private static readonly TimeSpan Tick = TimeSpan.FromMilliseconds(200);

    /// <summary>How often it is looked whether time alone has changed something, and whether the teacher may still watch.</summary>
    private const int TicksToLookAround = 25;

    /// <summary>How often it is looked whether the teacher is still signed in.</summary>
    private const int TicksToLookWho = 5;

    /// <summary>A browser that takes nothing for so long is let go.</summary>
    private static readonly TimeSpan LongestStall = TimeSpan.FromSeconds(10);

    /// <summary>So many events may be on their way to who says what was read.</summary>
    private const int MostOnTheWay = 3;

    /// <summary>Bytes that the system keeps for a line, so that little waits there for who does not say what was read.</summary>
    private const int LineBuffer = 16 * 1024;

    public IActionResult OnGet(long id, long of)
    {
        if (!Load(id, of))
            return NotFound();
        Panes = revisions.Activity(Assignment.RevisionId).Panes.Length;
        return Page();
    }

    private bool Load(long id, long of)
    {
        if (assignments.One(of) is not { } assignment || assignment.ActivityId != id)
            return false;
        IsOwner = drafts.TitleOf(User.TeacherId(), id) is not null;
        if (!IsOwner && !assignments.StandsIn(User.TeacherId(), of))
            return false;
        (Id, Title, Assignment) = (id, revisions.Activity(assignment.RevisionId).Title, assignment);
        return true;
    }

    /// <summary>An attempt as it was told last.</summary>
    private readonly record struct Told(WatchedLine Line, Hitch? Hitch);

    /// <summary>
    /// What changes, as server-sent events. Who comes back is told everything once as it is then; nothing is queued for who does not
    /// read: what changes meanwhile is told as it is when the next event goes.
    /// </summary>
    /// <param name="only">The attempt that alone is told of; null for all.</param>
    /// <param name="says">Whether the reader says of each event that it was read (<see cref="OnPostGot"/>).</param>
    public async Task<IActionResult> OnGetFeed(long id, long of, long? only, bool says)
    {
        if (!Load(id, of))
            return NotFound();
        Response.ContentType = "text/event-stream";
        Response.Headers.CacheControl = "no-store";
        // A proxy must not hold back what is told.
        Response.Headers["X-Accel-Buffering"] = "no";
        HttpContext.Features.Get<IHttpResponseBodyFeature>()?.DisableBuffering();
        if (HttpContext.Features.Get<IConnectionSocketFeature>() is { } line)
            line.Socket.SendBufferSize = LineBuffer;
        var gone = HttpContext.RequestAborted;
        var (told, frames, wasPaused) = (new Dictionary<long, Told>(), new HashSet<long>(), (bool?)null);
        var (reader, sent, sentAt) = (readers.Begin(), 0L, clock.GetTimestamp());
        try
        {
            for (var tick = 0; !gone.IsCancellationRequested; tick++, await Task.Delay(Tick, gone))
            {
                var looksAround = tick % TicksToLookAround == 0;
                if (
                    (tick % TicksToLookWho == 0 && (User.Secret() is not { } secret || sessions.TeacherOf(secret) is null))
                    || (looksAround && !Load(id, of))
                    || assignments.One(of) is not { } current
                )
                    break;
                if (says && sent - readers.Of(reader) >= MostOnTheWay)
                {
                    if (clock.GetElapsedTime(sentAt) > LongestStall)
                        throw new OperationCanceledException();
                    continue;
                }
                Assignment = current;
                var isPaused = Assignment.Course.IsPaused;
                var lines = attempts.Watched(of).Where(line => only is null || line.Id == only).ToList();
                var tiles = lines.Select(line => Changed(line, told, looksAround, isPaused)).OfType<Tile>().ToList();
                var left = told.Keys.Except(lines.Select(line => line.Id)).ToList();
                left.ForEach(attempt => told.Remove(attempt));
                var revised = tiles.Select(tile => tile.Revision).Where(frames.Add).ToList();
                if (tiles.Count > 0 || left.Count > 0 || wasPaused != isPaused)
                {
                    var change = new Change(revised.ToDictionary(revision => $"{revision}", FrameOf), tiles, left, isPaused);
                    var name = FeedReaders.NameOf(reader, ++sent);
                    await Write($"id: {name}\ndata: {JsonSerializer.Serialize(change, DocumentJson.Options)}\n\n", gone);
                    sentAt = clock.GetTimestamp();
                }
                else if (looksAround)
                    await Write(": here\n\n", gone);
                wasPaused = isPaused;
            }
        }
        catch (OperationCanceledException)
        {
            // The browser went, or took nothing any more.
            HttpContext.Abort();
        }
        finally
        {
            readers.End(reader);
        }
        return new EmptyResult();
    }

    /// <summary>Takes in that an event was read; not found where another process sends them.</summary>
    /// <param name="read">Its name.</param>
    public IActionResult OnPostGot(string? read) => readers.Got(read ?? "") ? new NoContentResult() : NotFound();

    /// <summary>What has changed since the last event.</summary>
    /// <param name="Frames">What stays the same of panes, by revisions that were not told yet.</param>
    /// <param name="Left">Ids of attempts that are there no more.</param>
    public sealed record Change(
        IReadOnlyDictionary<string, ImmutableArray<PaneView>> Frames,
        IReadOnlyList<Tile> Tiles,
        IReadOnlyList<long> Left,
        bool IsPaused
    );

    /// <summary>A student's tile, for the scripts.</summary>
    /// <param name="All">How much can be done.</param>
    /// <param name="Hitch">What the student may be stuck at, as a sentence; null for nothing.</param>
    public sealed record Tile(
        long Id,
        string Name,
        long Revision,
        long Version,
        long Placed,
        int All,
        DateTimeOffset MovedAt,
        DateTimeOffset? HandedAt,
        string? Hitch,
        WorkView? Work
    );

    /// <summary>The tile where it is not as it was told; null where it is. The work is in it where that has changed.</summary>
    private Tile? Changed(WatchedLine line, Dictionary<long, Told> told, bool looksAround, bool isPaused)
    {
        var hasMoved = !told.TryGetValue(line.Id, out var before) || before.Line != line;
        if (!hasMoved && !looksAround)
            return null;
        if (attempts.Anywhere(line.Id) is not { } attempt)
            return null;
        var activity = revisions.Activity(attempt.RevisionId, attempt.Rules);
        var quiet = clock.GetUtcNow() - (line.MovedAt ?? line.StartedAt);
        var hitch = attempt.Handed is null ? Hitch.Of(activity, attempt.Responses, isPaused ? null : quiet) : null;
        if (!hasMoved && Said(hitch) == Said(before.Hitch))
            return null;
        told[line.Id] = new(line, hitch);
        return new(
            line.Id,
            line.Name,
            attempt.RevisionId,
            attempt.Version,
            line.Placed,
            activity.Panes.Sum(pane => pane.Targets.Length),
            line.MovedAt ?? line.StartedAt,
            line.HandedInAt,
            Said(hitch),
            hasMoved ? WorkView.At(Moment.HandedIn, SeatOf(attempt.RevisionId), attempt.Responses, marking: attempt.Marking) : null
        );
    }

    private string? Said(Hitch? hitch) =>
        hitch switch
        {
            Hitch.SamePlace(var pane, var target, var checks) => words[
                "wall.samePlace",
                ("place", TargetWords.Of(words.Language, pane, target, Core.Model.Response.Empty).Name),
                ("count", checks)
            ],
            Hitch.Quiet(var quiet) => words["wall.quiet", ("count", (int)quiet.TotalMinutes)],
            _ => null,
        };

    /// <summary>Under names that are the same for all students, with verdicts and without a key.</summary>
    private Seat SeatOf(long revision)
    {
        if (!seats.TryGetValue(revision, out var seat))
        {
            var activity = revisions.Activity(revision);
            seats[revision] = seat = new(
                activity with
                {
                    Purpose = Purpose.LearningOnly,
                    Rules = activity.Rules with
                    {
                        Reveal = new()
                        {
                            Marks = Moment.HandedIn,
                            Score = Moment.Never,
                            Feedback = Moment.Never,
                            Key = Moment.Never,
                            Explanation = Moment.Never,
                        },
                    },
                    PaneOrder = PaneOrder.AsListed,
                    Panes = [.. activity.Panes.Select(pane => pane with { Rules = null })],
                },
                seed: 1
            );
        }
        return seat;
    }

    private readonly Dictionary<long, Seat> seats = [];

    private ImmutableArray<PaneView> FrameOf(long revision) =>
        StudentView.At(Moment.Placed, SeatOf(revision), ResponseDocument.Empty).Panes;

    private async Task Write(string text, CancellationToken gone)
    {
        using var stalled = CancellationTokenSource.CreateLinkedTokenSource(gone);
        stalled.CancelAfter(LongestStall);
        await Response.WriteAsync(text, stalled.Token);
        await Response.Body.FlushAsync(stalled.Token);
    }

    /// <summary>Pauses for everybody, or goes on.</summary>
    public IActionResult OnPostPause(long id, long of, bool on)
    {
        if (!Load(id, of))
            return NotFound();
        _ = on ? assignments.Pause(of) : assignments.Resume(of);
        return new NoContentResult();
    }

    /// <summary>Tells one student, or all, something; or points at a spot of one student's picture.</summary>
    /// <param name="attempt">Null for all.</param>
    /// <param name="pane">The number of the pane, from 0; null for no spot.</param>
    public IActionResult OnPostTell(long id, long of, long? attempt, string? text, int? pane, double? x, double? y)
    {
        if (!Load(id, of))
            return NotFound();
        var said = (text ?? "").Trim();
        var one = attempt is { } number ? attempts.One(of, number) : null;
        if (attempt is not null && one is null)
            return NotFound();
        var panes = revisions.Activity(one?.RevisionId ?? Assignment.RevisionId).Panes;
        Point? spot = x is { } across && y is { } down ? new(across, down) : null;
        var place = pane is { } index && index >= 0 && index < panes.Length && spot is { IsFinite: true } ? panes[index].Id : null;
        if (said.Length > News.LongestText || (said == "" && place is null))
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return new JsonResult(new { error = words["wall.noteLength", ("most", News.LongestText)] });
        }
        news.Tell(User.TeacherId(), of, attempt, said, place, place is null ? null : spot);
        return new NoContentResult();
    }
}
