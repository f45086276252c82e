using System.Data;
using Dapper;

namespace Fenster.Store;

/// <summary>One line of what changed work or marks beside the student's own moves.</summary>
public sealed record RecordLine
{
    public DateTimeOffset At { get; init; }
    public required string Teacher { get; init; }
    public long? AttemptId { get; init; }
    public required string Kind { get; init; }
    public string? Before { get; init; }
    public string? After { get; init; }
}

/// <summary>What changed work or marks, and who did it. It is only ever added to.</summary>
public sealed class Records(Database database)
{
    internal static void Add(
        IDbConnection connection,
        TimeProvider clock,
        long teacher,
        long assignment,
        long? attempt,
        string kind,
        string? before,
        string? after
    ) =>
        connection.Execute(
            """
            insert into record (at, teacher_id, assignment_id, attempt_id, kind, before, after)
            values (@now, @teacher, @assignment, @attempt, @kind, @before, @after)
            """,
            new
            {
                now = clock.GetUtcNow(),
                teacher,
                assignment,
                attempt,
                kind,
                before,
                after,
            }
        );

    /// <summary>Of an assignment, the newest first.</summary>
    public IReadOnlyList<RecordLine> Of(long assignment) =>
        database.Read(connection =>
            connection
                .Query<RecordLine>(
                    """
                    select record.at, teacher.name as teacher, record.attempt_id, record.kind, record.before, record.after
                    from record
                    join teacher on teacher.id = record.teacher_id
                    where record.assignment_id = @assignment
                    order by record.id desc
                    """,
                    new { assignment }
                )
                .AsList()
        );
}
