using System.Collections.Immutable;
using System.Data;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Store;

/// <summary>How a regrade treats who would have less by it.</summary>
public enum RegradeManner
{
    /// <summary>Each student has the larger of the old and the new score: who would lose stays on the key of before.</summary>
    NobodyLoses,

    /// <summary>The new counts for all.</summary>
    ForAll,
}

/// <summary>A change of key or rules that was applied to work that was handed in.</summary>
public sealed record Regrade
{
    public long Id { get; init; }
    public DateTimeOffset At { get; init; }
    public required string Teacher { get; init; }
    public required string Reason { get; init; }
    public long FromRevision { get; init; }
    public long ToRevision { get; init; }
    public required string Manner { get; init; }

    /// <summary>The regrade that this one takes back; null for none.</summary>
    public long? Undoes { get; init; }

    /// <summary>Whether a later one takes it back.</summary>
    public bool IsUndone { get; init; }

    /// <summary>How many scores it changed.</summary>
    public long Changed { get; init; }
}

/// <summary>One work in a regrade.</summary>
/// <param name="IsTouched">Whether somebody marked it since.</param>
public sealed record RegradeChange(long Attempt, string Name, decimal Before, decimal After, bool IsTouched);

/// <summary>
/// Puts right what was marked: work that was handed in is marked by another revision of its activity, with a record, and back again.
/// Responses are never altered, and work that goes on is marked by the new one when it is handed in.
/// </summary>
public sealed class Regrades(Database database, Revisions revisions, Assignments assignments, Attempts attempts, TimeProvider clock)
{
    /// <summary>The longest reason, in characters.</summary>
    public const int LongestReason = 500;

    /// <summary>Of an assignment, the newest first.</summary>
    public IReadOnlyList<Regrade> Of(long assignment) =>
        database.Read(connection =>
            connection
                .Query<Regrade>(
                    """
                    select regrade.id, regrade.at, teacher.name as teacher, regrade.reason, regrade.from_revision, regrade.to_revision,
                           regrade.manner, regrade.undoes,
                           exists (select 1 from regrade as later where later.undoes = regrade.id) as is_undone,
                           (select count(*) from regrade_change
                            where regrade_id = regrade.id and before_score <> after_score) as changed
                    from regrade
                    join teacher on teacher.id = regrade.teacher_id
                    where regrade.assignment_id = @assignment
                    order by regrade.id desc
                    """,
                    new { assignment }
                )
                .AsList()
        );

    /// <summary>What a regrade changed, by name.</summary>
    public IReadOnlyList<RegradeChange> Changes(long regrade) =>
        database.Read(connection =>
            connection
                .Query<(long Attempt, string Name, string Before, string After, bool IsTouched)>(
                    """
                    select own.attempt_id, coalesce(member.name, student.name), own.before_score, own.after_score, attempt.marked <> own.marked
                    from regrade_change as own
                    join attempt on attempt.id = own.attempt_id
                    join student on student.id = attempt.student_id
                    left join member on member.id = student.member_id
                    where own.regrade_id = @regrade and attempt.deleted_at is null
                    order by student.folded_name, attempt.number
                    """,
                    new { regrade }
                )
                .Select(row => new RegradeChange(row.Attempt, row.Name, Number(row.Before), Number(row.After), row.IsTouched))
                .ToList()
        );

    /// <summary>
    /// All revisions by which work of an assignment is marked that differ from the one that counts by regrades alone, and that one.
    /// </summary>
    public IReadOnlySet<long> Family(Assignment assignment) =>
        database.Read(connection => Family(Steps(connection, assignment.Id), assignment.RevisionId));

    private static List<(long From, long To)> Steps(IDbConnection connection, long assignment) =>
        connection
            .Query<(long From, long To)>(
                "select from_revision, to_revision from regrade where assignment_id = @assignment order by id",
                new { assignment }
            )
            .AsList();

    /// <summary>What is joined to a revision by regrades: another that was given since, with other things in it, is not.</summary>
    private static HashSet<long> Family(List<(long From, long To)> steps, long revision)
    {
        var family = new HashSet<long> { revision };
        while (steps.Any(step => family.Contains(step.From) != family.Contains(step.To)))
            foreach (var (from, to) in steps)
                if (family.Contains(from) || family.Contains(to))
                    family.UnionWith([from, to]);
        return family;
    }

    /// <summary>By which revision a work is marked that is handed in now: the one of the last regrade that concerns its own.</summary>
    internal static long At(IDbConnection connection, long assignment, long revision)
    {
        var steps = Steps(connection, assignment);
        var family = Family(steps, revision);
        return steps.FindLast(step => family.Contains(step.From)) is { To: > 0 and var last } ? last : revision;
    }

    /// <summary>Marks all work of an assignment that is handed in by another revision. New attempts get it too.</summary>
    /// <param name="to">Id of the revision.</param>
    /// <param name="tell">What students are told whose score changes; null for nothing.</param>
    /// <returns>The id of the regrade; null when a colleague has regraded meanwhile, and nothing was done.</returns>
    public long? Apply(Assignment assignment, long to, RegradeManner manner, string reason, long teacher, string? tell, long? undoes = null)
    {
        var earlier = undoes is { } undone ? RevisionsBefore(undone) : null;
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var (isCurrent, regrade) = TryApply(assignment, to, earlier, manner, reason, teacher, tell, undoes);
            if (isCurrent)
                return regrade;
        }
        throw new TimeoutException("Others were always faster to hand in or to mark.");
    }

    private const int MostTurns = 20;

    /// <summary>By which revision each work was marked before a regrade.</summary>
    private Dictionary<long, long> RevisionsBefore(long regrade) =>
        database.Read(connection =>
            connection
                .Query<(long Attempt, long Revision)>(
                    "select attempt_id, revision_id from regrade_change where regrade_id = @regrade",
                    new { regrade }
                )
                .ToDictionary(row => row.Attempt, row => row.Revision)
        );

    /// <summary>Which work there is to mark anew, and how often each was marked.</summary>
    private static List<(long Id, long Marked)> Current(IDbConnection connection, long assignment, IReadOnlySet<long> family) =>
        connection
            .Query<(long Id, long Marked)>(
                """
                select id, marked from attempt
                where assignment_id = @assignment and handed_in_at is not null and deleted_at is null and revision_id in @family
                order by id
                """,
                new { assignment, family }
            )
            .AsList();

    /// <returns>False first where somebody handed in or marked meanwhile, so that it has to be worked out again.</returns>
    private (bool IsCurrent, long? Regrade) TryApply(
        Assignment assignment,
        long to,
        Dictionary<long, long>? earlier,
        RegradeManner manner,
        string reason,
        long teacher,
        string? tell,
        long? undoes
    )
    {
        var family = Family(assignment);
        var worked = database
            .Read(connection => Current(connection, assignment.Id, family))
            .Select(row => attempts.Anywhere(row.Id))
            .OfType<Attempt>()
            .ToList()
            .AsParallel()
            .AsOrdered()
            .Select(attempt => (attempt, revision: earlier?.GetValueOrDefault(attempt.Id, to) ?? to))
            .Select(each => (each.attempt, each.revision, after: Scored(each.attempt, each.revision)))
            .ToList();
        var (isCurrent, regrade) = database.Write<(bool, long?)>(connection =>
        {
            if (!Current(connection, assignment.Id, family).SequenceEqual(worked.Select(each => (each.attempt.Id, each.attempt.Marked))))
                return (false, null);
            if (
                connection.Execute(
                    "update assignment set revision_id = @to, version = version + 1 where id = @Id and revision_id = @RevisionId and deleted_at is null",
                    new
                    {
                        to,
                        assignment.Id,
                        assignment.RevisionId,
                    }
                ) == 0
            )
                return (true, null);
            var id = connection.ExecuteScalar<long>(
                """
                insert into regrade (assignment_id, at, teacher_id, reason, from_revision, to_revision, manner, undoes)
                values (@Id, @now, @teacher, @reason, @RevisionId, @to, @manner, @undoes)
                returning id
                """,
                new
                {
                    assignment.Id,
                    now = clock.GetUtcNow(),
                    teacher,
                    reason,
                    assignment.RevisionId,
                    to,
                    manner = $"{manner}",
                    undoes,
                }
            );
            foreach (var (attempt, revision, after) in worked)
                Move(connection, id, attempt, after, revision, manner, teacher, tell, undoes is not null);
            return (true, id);
        });
        attempts.ForgetAll();
        assignments.Forget(assignment.Code);
        return (isCurrent, regrade);
    }

    /// <summary>Takes a regrade back: each work is marked by the revision of before. Awards stay, and so does what was handed in since.</summary>
    /// <inheritdoc cref="Apply"/>
    public long? Undo(Assignment assignment, Regrade regrade, string reason, long teacher) =>
        assignment.RevisionId == regrade.ToRevision
            ? Apply(assignment, regrade.FromRevision, RegradeManner.ForAll, reason, teacher, tell: null, undoes: regrade.Id)
            : null;

    private void Move(
        WritingConnection connection,
        long regrade,
        Attempt attempt,
        ActivityScore after,
        long to,
        RegradeManner manner,
        long teacher,
        string? tell,
        bool isUndo
    )
    {
        var before = attempt.Handed!;
        if (manner == RegradeManner.NobodyLoses && IsLess(after, before))
            (to, after) = (attempt.RevisionId, Scored(attempt, attempt.RevisionId));
        connection.Execute("update attempt set revision_id = @to where id = @Id", new { to, attempt.Id });
        AttemptLog.StoreScore(
            connection,
            attempt.Id,
            before with
            {
                Score = after.Score,
                Possible = after.Possible,
                Grade = after.Grade,
                MaximumGrade = after.MaximumGrade,
            },
            after.ExactGrade,
            after.IsSoFar
        );
        connection.Execute(
            """
            insert into regrade_change (regrade_id, attempt_id, revision_id, before_score, after_score, marked)
            values (@regrade, @Id, @RevisionId, @before, @after, @Marked + @told)
            """,
            new
            {
                regrade,
                attempt.Id,
                attempt.RevisionId,
                before = Text(before.Score),
                after = Text(after.Score),
                attempt.Marked,
                told = tell is not null && (after.Score != before.Score || after.Possible != before.Possible) ? 1 : 0,
            }
        );
        if (AttemptMarks.Second(connection, attempt.Id) is { Count: > 0 } second)
            connection.Execute(
                "update attempt set differs = @differs where id = @Id",
                new
                {
                    attempt.Id,
                    differs = Attempts.Apart(revisions.Activity(to, attempt.Rules), attempt.Responses, attempt.Marking, second).Count,
                }
            );
        if (after.Score == before.Score && after.Possible == before.Possible)
            return;
        Records.Add(
            connection,
            clock,
            teacher,
            attempt.AssignmentId,
            attempt.Id,
            isUndo ? RecordKind.RegradeUndone : RecordKind.Regraded,
            Text(before.Score),
            Text(after.Score)
        );
        if (tell is null)
            return;
        connection.Execute(
            """
            insert into remark (attempt_id, text, teacher_id, at) values (@Id, @tell, @teacher, @now);
            update attempt set marked = marked + 1 where id = @Id
            """,
            new
            {
                attempt.Id,
                tell,
                teacher,
                now = clock.GetUtcNow(),
            }
        );
    }

    /// <summary>By the grade where it is out of something else than before, else by the score.</summary>
    private static bool IsLess(ActivityScore after, HandedIn before) =>
        after.Possible == before.Possible ? after.Score < before.Score : after.Grade < before.Grade;

    private ActivityScore Scored(Attempt attempt, long revision) =>
        Scorer.Score(revisions.Activity(revision, attempt.Rules), attempt.Responses, attempt.Marking.Awards);

    private static string Text(decimal number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static decimal Number(string text) => decimal.Parse(text, System.Globalization.CultureInfo.InvariantCulture);
}
