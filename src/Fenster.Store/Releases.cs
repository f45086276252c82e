using System.Data;
using Dapper;

namespace Fenster.Store;

/// <summary>The teacher's word that opens what the rules keep until then: to all, or to some of those who handed in.</summary>
public sealed class Releases(Database database, Assignments assignments, TimeProvider clock)
{
    /// <summary>The longest word with which results are taken back, in characters.</summary>
    public const int LongestWord = 500;

    /// <param name="attempts">Null for all, also those who hand in later.</param>
    public void Give(long assignment, IReadOnlyCollection<long>? attempts, long teacher)
    {
        if (attempts is null)
            assignments.Release(assignment);
        database.Write(connection =>
        {
            var parameters = Parameters(assignment, attempts);
            connection.Execute(
                attempts is null
                    ? "update attempt set taken_back = null where assignment_id = @assignment and taken_back is not null"
                    : $"update attempt set released_at = @now, taken_back = null where {Which(attempts)} and handed_in_at is not null",
                parameters
            );
            Record(connection, RecordKind.Released, assignment, attempts, teacher, null);
            return true;
        });
    }

    /// <summary>To how many results are released at this moment, and how many of them have seen them.</summary>
    public (long Released, long Saw) Out(Assignment assignment) =>
        database.Read(connection =>
            connection.QuerySingle<(long, long)>(
                """
                select count(*) filter (where handed_in_at is not null and (@toAll or released_at is not null)), count(saw_at)
                from attempt
                where assignment_id = @Id and deleted_at is null
                """,
                new { assignment.Id, toAll = assignment.IsReleasedAt(clock.GetUtcNow()) }
            )
        );

    private long Saw(IDbConnection connection, long assignment, IReadOnlyCollection<long>? attempts) =>
        connection.ExecuteScalar<long>(
            $"select count(*) from attempt where {Which(attempts)} and saw_at is not null",
            Parameters(assignment, attempts)
        );

    /// <summary>
    /// Takes results back, with a word to those who saw them. Where they were released to all and are taken back from some, the others
    /// who have handed in keep theirs, and who hands in later waits for the teacher's word.
    /// </summary>
    /// <param name="attempts">Null for all.</param>
    /// <returns>False when somebody has seen them and no word is said; nothing is changed then.</returns>
    public bool TakeBack(Assignment assignment, IReadOnlyCollection<long>? attempts, string word, long teacher)
    {
        var isDone = database.Write(connection =>
        {
            if (word == "" && Saw(connection, assignment.Id, attempts) > 0)
                return false;
            var parameters = Parameters(assignment.Id, attempts, word);
            if (attempts is not null && assignment.IsReleasedAt(clock.GetUtcNow()))
                connection.Execute(
                    "update attempt set released_at = @now where assignment_id = @assignment and handed_in_at is not null and deleted_at is null",
                    parameters
                );
            connection.Execute(
                $"""
                update attempt
                set released_at = null, taken_back = case when saw_at is null then null else @word end, saw_at = null
                where {Which(attempts)}
                """,
                parameters
            );
            Record(connection, RecordKind.ReleaseWithdrawn, assignment.Id, attempts, teacher, word == "" ? null : word);
            return true;
        });
        if (isDone)
            assignments.NotReleased(assignment.Id);
        return isDone;
    }

    private static string Which(IReadOnlyCollection<long>? attempts) =>
        $"assignment_id = @assignment and deleted_at is null{(attempts is null ? "" : " and id in @attempts")}";

    private object Parameters(long assignment, IReadOnlyCollection<long>? attempts, string? word = null) =>
        new
        {
            assignment,
            attempts,
            word,
            now = clock.GetUtcNow(),
        };

    private void Record(
        IDbConnection connection,
        RecordKind kind,
        long assignment,
        IReadOnlyCollection<long>? attempts,
        long teacher,
        string? word
    )
    {
        foreach (var attempt in attempts?.Select(attempt => (long?)attempt) ?? [null])
            // A word to one is theirs, and goes with their work.
            Records.Add(connection, clock, teacher, assignment, attempt, kind, null, attempt is null ? word : null);
    }
}
