using System.Data;
using Dapper;

namespace Fenster.Store;

/// <summary>The teacher's word that opens what the rules keep until then: to all, or to some of those who handed in.</summary>
public sealed class Releases(Database database, Assignments assignments, TimeProvider clock)
{
    /// <summary>The longest word with which results are taken back, in characters.</summary>
    public const int LongestWord = 500;

    /// <param name="attempts">Null for all, also those who hand in later.</param>
    /// <returns>False, and nothing is changed, when one of the attempts is none of this assignment.</returns>
    public bool Give(long assignment, IReadOnlyCollection<long>? attempts, long teacher) => assignments.Write(assignment, (connection, _) =>
        {
            if (attempts is not null && !Assignments.Has(connection, assignment, attempts))
                return false;
            var parameters = Parameters(assignment, attempts);
            if (attempts is null)
                connection.Execute(
                    $"""
                    update assignment set released_at = coalesce(released_at, @now) where id = @assignment;
                    update attempt
                    set {Editions.Raised}, taken_back = null
                    where assignment_id = @assignment and taken_back is not null
                    """,
                    parameters
                );
            var released = attempts is null
                ? null
                : connection
                    .Query<long>(
                        $"""
                        update attempt
                        set {Editions.Raised}, released_at = @now, taken_back = null
                        where {Which(attempts)} and handed_in_at is not null
                        returning id
                        """,
                        parameters
                    )
                    .AsList();
            Record(connection, RecordKind.Released, assignment, released, teacher, null);
            return true;
        }) == true;

    /// <summary>To how many results are released at this moment, and how many of them have seen them.</summary>
    public (long Released, long Saw) Out(Assignment assignment) =>
        database.Read(connection =>
            connection.QuerySingle<(long, long)>(
                """
                select count(distinct student_id) filter (where handed_in_at is not null and (@toAll or released_at is not null)),
                       count(distinct student_id) filter (where saw_at is not null)
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
    /// <returns>What became of it; nothing is changed unless it is taken back.</returns>
    public TakenBack TakeBack(long assignment, IReadOnlyCollection<long>? attempts, string word, long teacher)
    {
        var outcome = TakenBack.NoSuchAttempt;
        assignments.Write(assignment, (connection, current) =>
        {
            outcome = TakenBack.NoSuchAttempt;
            if (attempts is not null && !Assignments.Has(connection, assignment, attempts))
                return false;
            outcome = TakenBack.NeedsWord;
            if (word == "" && Saw(connection, assignment, attempts) > 0)
                return false;
            var parameters = Parameters(assignment, attempts, word);
            if (attempts is not null && current.IsReleasedAt(clock.GetUtcNow()))
                connection.Execute(
                    $"""
                    update attempt
                    set {Editions.Raised}, released_at = @now
                    where assignment_id = @assignment and handed_in_at is not null and deleted_at is null
                    """,
                    parameters
                );
            connection.Execute(
                $"""
                update attempt
                set {Editions.Raised}, released_at = null, taken_back = case when saw_at is null then null else @word end, saw_at = null
                where {Which(attempts)};
                update assignment
                set released_at = null, releases_at = case when releases_at <= @now then null else releases_at end
                where id = @assignment
                """,
                parameters
            );
            Record(connection, RecordKind.ReleaseWithdrawn, assignment, attempts, teacher, word == "" ? null : word);
            outcome = TakenBack.Yes;
            return true;
        });
        return outcome;
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

/// <summary>What became of taking results back.</summary>
public enum TakenBack
{
    Yes,

    /// <summary>Somebody has seen them, and no word was said.</summary>
    NeedsWord,

    /// <summary>One of the attempts is none of this assignment.</summary>
    NoSuchAttempt,
}
