using System.Collections.Immutable;
using System.Data;
using System.Text.Json;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One attempt as its log tells it: the truth is what is stored, and this is only a copy of it.</summary>
/// <param name="Keys">Of the moves that devices sent.</param>
/// <param name="Length">Of all moves as they are stored, in characters.</param>
/// <param name="Codes">When codes were tried on locks lately.</param>
/// <param name="Touched">By pane and thing, which device changed it last, and the version of the log after that.</param>
internal sealed record LoggedAttempt(
    Attempt Attempt,
    string? SecretHash,
    ImmutableHashSet<string> Keys,
    long Length,
    ImmutableList<DateTimeOffset> Codes,
    ImmutableDictionary<(string Pane, string Thing), Touch> Touched
)
{
    public long Version => Attempt.Version;

    /// <summary>Whether another device has changed what a move changes, since the device that sends it has seen it.</summary>
    public bool IsStale(KeyedMove move) =>
        move.Seen is { } seen
        && Moves.Touched(move.Move) is { } thing
        && Touched.TryGetValue((move.Pane, thing), out var last)
        && last.Version > seen
        && last.Device != move.Device;

    /// <summary>The touches after a move was added behind this log.</summary>
    public ImmutableDictionary<(string Pane, string Thing), Touch> TouchedBy(KeyedMove move, long version) =>
        Moves.Touched(move.Move) is { } thing ? Touched.SetItem((move.Pane, thing), new(move.Device, version)) : Touched;
}

/// <param name="Version">Of the log after it.</param>
internal readonly record struct Touch(string Device, long Version);

/// <summary>A move as it is added to a log.</summary>
/// <param name="Key">Null for one that follows from another.</param>
internal sealed record LoggedMove(string? Key, string Pane, Move Move, string Json)
{
    public static LoggedMove Of(string? key, string pane, Move move) =>
        new(key, pane, move, JsonSerializer.Serialize(move, DocumentJson.Options));
}

/// <summary>The moves of attempts: read in their order, and added to where nobody else has added meanwhile.</summary>
internal static class AttemptLog
{
    internal sealed record Row
    {
        public long AttemptId { get; init; }
        public long Number { get; init; }
        public string? Key { get; init; }
        public required string Pane { get; init; }
        public required string Move { get; init; }
        public DateTimeOffset MadeAt { get; init; }

        public Move Read() => JsonSerializer.Deserialize<Move>(Move, DocumentJson.Options)!;
    }

    public static List<Row> Read(IDbConnection connection, long attempt) =>
        connection
            .Query<Row>(
                """
                select attempt_id, number, key, pane, move, made_at
                from move
                where attempt_id = @attempt
                order by number
                """,
                new { attempt }
            )
            .AsList();

    /// <summary>Which device changed each thing last. What follows from a move is of the same device.</summary>
    public static ImmutableDictionary<(string Pane, string Thing), Touch> Touches(IEnumerable<Row> moves)
    {
        var (touches, device) = (ImmutableDictionary.CreateBuilder<(string, string), Touch>(), "");
        foreach (var move in moves)
        {
            device = move.Key is { } key ? KeyedMove.DeviceOf(key) : device;
            if (Moves.Touched(move.Read()) is { } thing)
                touches[(move.Pane, thing)] = new(device, move.Number);
        }
        return touches.ToImmutable();
    }

    /// <summary>What the moves of a log come to, by pane id.</summary>
    public static ImmutableDictionary<string, Response> Replay(IEnumerable<Row> moves) =>
        moves.Aggregate(ResponseDocument.Empty, (responses, move) => Moves.Apply(responses, move.Pane, move.Read()));

    /// <summary>
    /// Adds moves to a log that still has the version it was read at, and belongs to this device, and is neither handed in
    /// nor closed; false when one of these is no longer so, and nothing is added.
    /// </summary>
    /// <param name="placed">How many targets have an answer after them.</param>
    /// <param name="received">When all of the moves had arrived.</param>
    public static bool Append(
        WritingConnection connection,
        LoggedAttempt read,
        IReadOnlyList<LoggedMove> moves,
        int placed,
        DateTimeOffset received
    )
    {
        if (!Claim(connection, read, moves.Count, placed, received))
            return false;
        Add(connection, read, moves, received);
        return true;
    }

    /// <summary>Adds moves behind those that were read.</summary>
    public static void Add(WritingConnection connection, LoggedAttempt read, IReadOnlyList<LoggedMove> moves, DateTimeOffset received)
    {
        for (var i = 0; i < moves.Count; i++)
            connection.ExecutePrepared(
                """
                insert into move (attempt_id, number, key, pane, move, made_at)
                values (@attempt, @number, @key, @pane, @move, @received)
                """,
                ("attempt", read.Attempt.Id),
                ("number", read.Version + i + 1),
                ("key", moves[i].Key),
                ("pane", moves[i].Pane),
                ("move", moves[i].Json),
                ("received", received)
            );
    }

    /// <summary>Counts the version of a log up, on the same conditions.</summary>
    /// <param name="received">Null for what the clock does, which no device and no end keeps from it.</param>
    public static bool Claim(WritingConnection connection, LoggedAttempt read, int moves, int placed, DateTimeOffset? received) =>
        connection.ExecutePrepared(
            """
            update attempt
            set version = version + @moves, placed = @placed
            where id = @id and version = @version and handed_in_at is null and deleted_at is null
              and (@since is null or ends_at is null or ends_at >= @since)
              and exists (
                  select 1
                  from student
                  join assignment on assignment.id = student.assignment_id
                  join activity on activity.id = assignment.activity_id
                  where student.id = attempt.student_id and assignment.deleted_at is null and activity.deleted_at is null
                    and (@since is null or (student.secret_hash = @secret and not exists (
                        select 1 from pause where pause.assignment_id = assignment.id and pause.until_at is null))))
            """,
            ("id", read.Attempt.Id),
            ("version", read.Version),
            ("secret", read.SecretHash),
            ("moves", moves),
            ("placed", placed),
            ("since", received - Timing.Grace.ToTimeSpan())
        ) == 1;

    /// <summary>Stores what handing in came to.</summary>
    /// <param name="exact">The grade before it is rounded.</param>
    /// <param name="waits">Whether something of it waits for a person.</param>
    public static void StoreResult(WritingConnection connection, long id, HandedIn handed, decimal exact, bool waits, string responses)
    {
        StoreScore(connection, id, handed, exact, waits);
        connection.ExecutePrepared("insert into response (attempt_id, responses) values (@id, @json)", ("id", id), ("json", responses));
    }

    /// <summary>Stores what an attempt is worth.</summary>
    /// <inheritdoc cref="StoreResult"/>
    public static void StoreScore(WritingConnection connection, long id, HandedIn handed, decimal exact, bool waits) =>
        connection.ExecutePrepared(
            """
            update attempt
            set handed_in_at = @at, handed_in_by = @by, score = @score, possible = @possible, grade = @grade,
                maximum_grade = @maximum, exact_grade = @exact, waits = @waits,
                score_number = cast(@score as real), possible_number = cast(@possible as real)
            where id = @id
            """,
            ("id", id),
            ("at", handed.At),
            ("by", handed.By == HandedBy.Student ? "student" : "time"),
            ("score", handed.Score),
            ("possible", handed.Possible),
            ("grade", handed.Grade),
            ("maximum", handed.MaximumGrade),
            ("exact", exact),
            ("waits", waits)
        );

    /// <summary>How many late moves of one attempt are kept.</summary>
    private const int MostLate = 1000;

    /// <summary>Keeps moves apart that arrived after the end.</summary>
    public static int KeepLate(WritingConnection connection, long attempt, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        foreach (var move in moves)
            connection.Execute(
                """
                insert into late_move (attempt_id, key, pane, move, received_at)
                select @attempt, @Key, @Pane, @json, @received
                where (select count(*) from late_move where attempt_id = @attempt) < @MostLate
                on conflict do nothing
                """,
                new
                {
                    attempt,
                    move.Key,
                    move.Pane,
                    json = LoggedMove.Of(move.Key, move.Pane, move.Move).Json,
                    received,
                    MostLate,
                }
            );
        return connection.Execute(
            "update attempt set late = (select count(*) from late_move where attempt_id = @attempt) where id = @attempt",
            new { attempt }
        );
    }

    /// <summary>The moves that wait for the teacher's word, in the order in which they came.</summary>
    public static List<KeyedMove> Late(IDbConnection connection, long attempt) =>
        [
            .. connection
                .Query<Row>(
                    """
                    select attempt_id, key, pane, move, received_at as made_at
                    from late_move
                    where attempt_id = @attempt
                    order by id
                    """,
                    new { attempt }
                )
                .Select(row => new KeyedMove(row.Key!, row.Pane, row.Read())),
        ];
}
