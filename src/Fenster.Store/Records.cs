using System.Data;
using System.Text.Json;
using Dapper;

namespace Fenster.Store;

/// <summary>What changed work or marks beside the student's own moves.</summary>
public enum RecordKind
{
    Awarded,

    /// <summary>Points on which both markers agreed.</summary>
    Agreed,
    SecondMarked,
    Remarked,
    RemarkWithdrawn,
    GivenBack,
    LateCounted,
    Merged,
    Released,

    /// <summary>As records of before say it.</summary>
    ReleasedToOne,
    ReleaseWithdrawn,

    /// <summary>A change of key or rules was applied to work that was handed in.</summary>
    Regraded,
    RegradeUndone,
}

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
    /// <summary>As a line of the record names it.</summary>
    public static string NameOf(RecordKind kind) => JsonNamingPolicy.CamelCase.ConvertName(kind.ToString());

    internal static void Add(
        IDbConnection connection,
        TimeProvider clock,
        long teacher,
        long assignment,
        long? attempt,
        RecordKind kind,
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
                kind = Records.NameOf(kind),
                before,
                after,
            }
        );

    /// <summary>Of an assignment, the newest first; remarks with what they said.</summary>
    public IReadOnlyList<RecordLine> Of(long assignment) =>
        database.Read(connection =>
            connection
                .Query<RecordLine>(
                    """
                    select record.at, teacher.name as teacher, record.attempt_id, record.kind,
                           coalesce(remark.text, record.before) as before, coalesce(remark.text, record.after) as after
                    from record
                    join teacher on teacher.id = record.teacher_id
                    left join remark on record.kind in ('remarked', 'remarkWithdrawn')
                      and remark.id = coalesce(record.after, record.before)
                    where record.assignment_id = @assignment
                    order by record.id desc
                    """,
                    new { assignment }
                )
                .AsList()
        );
}
