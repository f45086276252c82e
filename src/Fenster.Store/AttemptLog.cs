using System.Collections.Immutable;
using System.Data;
using System.Text.Json;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One attempt as its log tells it: the truth is what is stored, and this is only a copy of it.</summary>
/// <param name="Version">How many moves its log has.</param>
/// <param name="Keys">Of the moves that devices sent.</param>
/// <param name="Length">Of all moves as they are stored, in characters.</param>
/// <param name="Codes">When codes were tried on locks lately.</param>
internal sealed record LoggedAttempt(
    Attempt Attempt,
    string? SecretHash,
    long Version,
    ImmutableHashSet<string> Keys,
    long Length,
    ImmutableList<DateTimeOffset> Codes
);

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
        return true;
    }

    /// <summary>Counts the version of a log up, on the same conditions.</summary>
    public static bool Claim(WritingConnection connection, LoggedAttempt read, int moves, int placed, DateTimeOffset received) =>
        connection.ExecutePrepared(
            """
            update attempt
            set version = version + @moves, placed = @placed
            where id = @id and version = @version and secret_hash = @secret and handed_in_at is null and deleted_at is null
              and exists (
                  select 1
                  from publication
                  join activity on activity.id = publication.activity_id
                  where publication.id = attempt.publication_id and activity.deleted_at is null
                    and (publication.closed_at is null or publication.closed_at >= @since))
            """,
            ("id", read.Attempt.Id),
            ("version", read.Version),
            ("secret", read.SecretHash),
            ("moves", moves),
            ("placed", placed),
            ("since", received - Publication.Grace)
        ) == 1;
}
