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
/// <param name="TypedOver">How many moves were typed over.</param>
/// <param name="Codes">When codes were tried on locks lately.</param>
/// <param name="Touched">By pane and thing, which device changed it last, and the version of the log after that.</param>
/// <param name="Typed">By pane and thing, the move that is typed over by the next one there: since the last check of the pane.</param>
internal sealed record LoggedAttempt(
    Attempt Attempt,
    string? SecretHash,
    ImmutableHashSet<string> Keys,
    long Length,
    long TypedOver,
    ImmutableList<DateTimeOffset> Codes,
    ImmutableDictionary<(string Pane, string Thing), Touch> Touched,
    ImmutableDictionary<(string Pane, string Thing), Typed> Typed
)
{
    public long Version => Attempt.Version;

    /// <summary>An attempt before its first move.</summary>
    public static LoggedAttempt Begun(Attempt attempt, string? secretHash) =>
        new(
            attempt,
            secretHash,
            [],
            0,
            0,
            [],
            ImmutableDictionary<(string Pane, string Thing), Touch>.Empty,
            ImmutableDictionary<(string Pane, string Thing), Typed>.Empty
        );

    /// <summary>Whether another device has changed what a move changes, since the device that sends it has seen it.</summary>
    public bool IsStale(KeyedMove move) =>
        move.Seen is { } seen
        && Moves.Touched(move.Move) is { } thing
        && Touched.TryGetValue((move.Pane, thing), out var last)
        && last.Version > seen
        && last.Device != move.Device;

    /// <summary>The attempt with one move more behind its log.</summary>
    /// <param name="device">Which made it; what follows from a move is of the same device.</param>
    /// <param name="at">When it was made.</param>
    /// <param name="over">The move of before that it has typed over; null for none.</param>
    public LoggedAttempt With(LoggedMove made, string device, DateTimeOffset at, out Typed? over)
    {
        var (number, length, typedOver) = (Version + 1, Length + made.Json.Length, TypedOver);
        var (touched, typed) = (Touched, Typed);
        over = null;
        if (made.Move is PressCheck)
            typed = typed.RemoveRange(typed.Keys.Where(key => key.Pane == made.Pane));
        else if (Moves.Touched(made.Move) is { } thing)
        {
            touched = touched.SetItem((made.Pane, thing), new(device, number));
            var before = Attempt.Responses.GetValueOrDefault(made.Pane, Response.Empty);
            if (Moves.WhenTypedOver(before, made.Move) is { } kept)
            {
                if (typed.TryGetValue((made.Pane, thing), out var earlier))
                {
                    over = earlier;
                    length -= earlier.Length - earlier.Kept.Length;
                    typedOver++;
                }
                typed = typed.SetItem((made.Pane, thing), new(number, made.Json.Length, LoggedMove.JsonOf(kept)));
            }
        }
        else if (made.Move is Typing)
            typedOver++;
        return this with
        {
            Attempt = Attempt with { Responses = Moves.Apply(Attempt.Responses, made.Pane, made.Move), Version = number },
            Keys = made.Key is null ? Keys : Keys.Add(made.Key),
            Length = length,
            TypedOver = typedOver,
            Touched = touched,
            Typed = typed,
            Codes = made.Move is TryCode ? Codes.RemoveAll(tried => tried <= at - Limits.CodesWithin).Add(at) : Codes,
        };
    }
}

/// <summary>A move that the next one at the same thing types over.</summary>
/// <param name="Number">In its log.</param>
/// <param name="Length">As it is stored, in characters.</param>
/// <param name="Kept">What is kept of it then, as it is stored.</param>
internal sealed record Typed(long Number, int Length, string Kept);

/// <param name="Version">Of the log after it.</param>
internal readonly record struct Touch(string Device, long Version);

/// <summary>A move as it is added to a log.</summary>
/// <param name="Key">Null for one that follows from another.</param>
internal sealed record LoggedMove(string? Key, string Pane, Move Move, string Json)
{
    public static LoggedMove Of(string? key, string pane, Move move) => new(key, pane, move, JsonOf(move));

    public static string JsonOf(Move move) => JsonSerializer.Serialize(move, DocumentJson.Stored);
}

/// <summary>What is added to a log.</summary>
/// <param name="Moves">Behind those that were read.</param>
/// <param name="TypedOver">What those become that were read and are typed over by them.</param>
internal sealed record Added(IReadOnlyList<LoggedMove> Moves, IReadOnlyList<Typed> TypedOver);

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

    public static IEnumerable<Row> Read(IDbConnection connection, long attempt) => Read(connection, [attempt])[attempt];

    /// <summary>The logs of several attempts, by their ids.</summary>
    /// <param name="attempts">At most some hundreds.</param>
    public static ILookup<long, Row> Read(IDbConnection connection, IReadOnlyCollection<long> attempts) =>
        connection
            .Query<Row>(
                """
                select attempt_id, number, key, pane, move, made_at
                from move
                where attempt_id in @attempts
                order by attempt_id, number
                """,
                new { attempts }
            )
            .ToLookup(row => row.AttemptId);

    /// <summary>An attempt as its log tells it.</summary>
    /// <param name="begun">Before its first move.</param>
    public static LoggedAttempt Replayed(LoggedAttempt begun, IEnumerable<Row> moves)
    {
        var (attempt, device) = (begun, "");
        foreach (var row in moves)
        {
            device = row.Key is { } key ? KeyedMove.DeviceOf(key) : device;
            attempt = attempt.With(new(row.Key, row.Pane, row.Read(), row.Move), device, row.MadeAt, out _);
        }
        return attempt;
    }

    /// <summary>What the moves of a log come to, by pane id.</summary>
    public static ImmutableDictionary<string, Response> Replay(IEnumerable<Row> moves) =>
        moves.Aggregate(ResponseDocument.Empty, (responses, move) => Moves.Apply(responses, move.Pane, move.Read()));

    /// <summary>
    /// Adds moves to a log of an attempt that still has the edition it was read at, and belongs to this device, and is neither handed in
    /// nor closed; false when one of these is no longer so, and nothing is added.
    /// </summary>
    /// <param name="placed">How many targets have an answer after them.</param>
    /// <param name="received">When all of the moves had arrived.</param>
    public static bool Append(WritingConnection connection, LoggedAttempt read, Added added, int placed, DateTimeOffset received)
    {
        if (!Claim(connection, read, added.Moves.Count, placed, received))
            return false;
        Add(connection, read, added, received);
        return true;
    }

    /// <summary>Adds moves behind those that were read.</summary>
    public static void Add(WritingConnection connection, LoggedAttempt read, Added added, DateTimeOffset received)
    {
        var moves = added.Moves;
        foreach (var over in added.TypedOver)
            connection.ExecutePrepared(
                "update move set move = @kept where attempt_id = @attempt and number = @number",
                ("kept", over.Kept),
                ("attempt", read.Attempt.Id),
                ("number", over.Number)
            );
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

    /// <summary>Claims the edition of an attempt and counts the version of its log up, on the same conditions.</summary>
    /// <param name="received">Null for what the clock does, which no device and no end keeps from it.</param>
    public static bool Claim(WritingConnection connection, LoggedAttempt read, int moves, int placed, DateTimeOffset? received) =>
        connection.ExecutePrepared(
            $"""
            update attempt
            set {Editions.Raised}, version = version + @moves, placed = @placed
            where id = @id and identity = @identity and edition = @edition and handed_in_at is null and deleted_at is null
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
            ("identity", read.Attempt.Identity),
            ("edition", read.Attempt.Edition),
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
            $"""
            update attempt
            set {Editions.Raised}, late = (select count(*) from late_move where attempt_id = @attempt)
            where id = @attempt
            """,
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
