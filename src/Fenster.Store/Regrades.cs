using System.Collections.Immutable;
using System.Data;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

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
public sealed class Regrades(
    Database database,
    Revisions revisions,
    Assignments assignments,
    Attempts attempts,
    Drafts drafts,
    TimeProvider clock
)
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
                            where regrade_id = regrade.id and cast(before_score as real) <> cast(after_score as real)) as changed
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
                    order by student.sort_key, attempt.number
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

    /// <summary>Marks all work of an assignment that is handed in by a changed activity, which new attempts get too.</summary>
    /// <param name="document">The changed activity: it becomes a revision of the activity.</param>
    /// <remarks>A draft that is what was given follows.</remarks>
    /// <param name="tell">What students are told whose score changes; null for nothing.</param>
    /// <param name="step">Is told how many works more are worked out; what it throws ends it, and nothing was done.</param>
    /// <returns>The id of the regrade; null when a colleague has regraded meanwhile, and nothing was done.</returns>
    public long? Apply(
        Assignment assignment,
        string document,
        RegradeManner manner,
        string reason,
        long teacher,
        string? tell,
        Action<int>? step = null
    )
    {
        var changed = ActivityDocument.Read(document);
        return Try(
            new Wanted(
                assignment,
                connection => Revisions.Publish(connection, assignment.ActivityId, document, clock.GetUtcNow()),
                attempt => changed.Under(RuleWordsDocument.Read(attempt.Rules)),
                _ => null,
                manner,
                reason,
                teacher,
                tell,
                Undoes: null,
                step
            )
        );
    }

    /// <summary>Takes a regrade back: each work is marked by the revision of before. Awards stay, and so does what was handed in since.</summary>
    /// <returns>The id of the regrade that does it; null when a colleague has regraded meanwhile, and nothing was done.</returns>
    public long? Undo(Assignment assignment, Regrade regrade, string reason, long teacher)
    {
        if (assignment.RevisionId != regrade.ToRevision)
            return null;
        var before = RevisionsBefore(regrade.Id);
        return Try(
            new Wanted(
                assignment,
                _ => regrade.FromRevision,
                attempt => revisions.Activity(before.GetValueOrDefault(attempt.Id, regrade.FromRevision), attempt.Rules),
                attempt => before.TryGetValue(attempt.Id, out var own) ? own : null,
                RegradeManner.ForAll,
                reason,
                teacher,
                Tell: null,
                Undoes: regrade.Id
            )
        );
    }

    /// <param name="Publish">The revision that counts from now on, which may be made by it.</param>
    /// <param name="ActivityOf">By which an attempt is marked then.</param>
    /// <param name="OwnRevision">Of an attempt that is marked by another revision than the one that counts; null for that one.</param>
    private sealed record Wanted(
        Assignment Assignment,
        Func<System.Data.IDbConnection, long> Publish,
        Func<Attempt, Activity> ActivityOf,
        Func<Attempt, long?> OwnRevision,
        RegradeManner Manner,
        string Reason,
        long Teacher,
        string? Tell,
        long? Undoes,
        Action<int>? Step = null
    );

    private long? Try(Wanted wanted)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var (isCurrent, regrade) = TryOnce(wanted);
            if (isCurrent)
                return regrade;
        }
        throw new TimeoutException("Others were always faster to hand in or to mark.");
    }

    private const int MostTurns = 20;

    /// <summary>So many works are worked out at a time.</summary>
    private const int PieceSize = 200;

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

    /// <summary>Which work there is to mark anew, each in its edition.</summary>
    private static List<(long Id, long Edition)> Current(IDbConnection connection, long assignment, IReadOnlySet<long> family) =>
        connection
            .Query<(long Id, long Edition)>(
                """
                select id, edition from attempt
                where assignment_id = @assignment and handed_in_at is not null and deleted_at is null and revision_id in @family
                order by id
                """,
                new { assignment, family }
            )
            .AsList();

    /// <summary>One work and what comes of it.</summary>
    /// <param name="Now">The activity by which it is marked at this moment.</param>
    /// <param name="Then">The one by which it is marked then.</param>
    private sealed record Worked(Attempt Attempt, Activity Now, Activity Then, ActivityScore After);

    /// <returns>False first where somebody handed in or marked meanwhile, so that it has to be worked out again.</returns>
    private (bool IsCurrent, long? Regrade) TryOnce(Wanted wanted)
    {
        var assignment = wanted.Assignment;
        var family = Family(assignment);
        // Many works share few activities: each is found once.
        var (now, then) = (new Dictionary<(long, string), Activity>(), new Dictionary<(long?, string), Activity>());
        var worked = attempts
            .Several([.. database.Read(connection => Current(connection, assignment.Id, family)).Select(row => row.Id)])
            .Select(attempt =>
                (
                    attempt,
                    now: Once(now, (attempt.RevisionId, attempt.Rules), () => revisions.Activity(attempt.RevisionId, attempt.Rules)),
                    then: Once(then, (wanted.OwnRevision(attempt), attempt.Rules), () => wanted.ActivityOf(attempt))
                )
            )
            .Chunk(PieceSize)
            .SelectMany(piece =>
            {
                wanted.Step?.Invoke(piece.Length);
                return piece
                    .AsParallel()
                    .AsOrdered()
                    .Select(each => new Worked(each.attempt, each.now, each.then, Scored(each.attempt, each.then)))
                    .ToList();
            })
            .ToList();
        var (isCurrent, regrade) = database.Write<(bool, long?)>(connection =>
        {
            if (!Current(connection, assignment.Id, family).SequenceEqual(worked.Select(each => (each.Attempt.Id, each.Attempt.Edition))))
                return (false, null);
            if (Assignments.One(connection, assignment.Id)?.RevisionId != assignment.RevisionId)
                return (true, null);
            var to = wanted.Publish(connection);
            connection.Execute("update assignment set revision_id = @to, version = version + 1 where id = @Id", new { to, assignment.Id });
            var id = connection.ExecuteScalar<long>(
                """
                insert into regrade (assignment_id, at, teacher_id, reason, from_revision, to_revision, manner, undoes)
                values (@Id, @now, @Teacher, @Reason, @RevisionId, @to, @manner, @Undoes)
                returning id
                """,
                new
                {
                    assignment.Id,
                    now = clock.GetUtcNow(),
                    wanted.Teacher,
                    wanted.Reason,
                    assignment.RevisionId,
                    to,
                    manner = $"{wanted.Manner}",
                    wanted.Undoes,
                }
            );
            foreach (var each in worked)
                Move(connection, id, each, wanted.OwnRevision(each.Attempt) ?? to, wanted);
            Standings.Recount(connection, assignment.Id);
            var (before, after) = (Revisions.Document(connection, assignment.RevisionId), Revisions.Document(connection, to));
            drafts.Follow(connection, wanted.Teacher, assignment.ActivityId, before, after);
            return (true, id);
        });
        assignments.Forget(assignment.Code);
        return (isCurrent, regrade);
    }

    private static Activity Once<TKey>(Dictionary<TKey, Activity> known, TKey key, Func<Activity> read)
        where TKey : notnull => known.TryGetValue(key, out var activity) ? activity : known[key] = read();

    private void Move(WritingConnection connection, long regrade, Worked worked, long to, Wanted wanted)
    {
        var (attempt, now, activity, after) = worked;
        var (before, tell) = (attempt.Handed!, wanted.Tell);
        if (wanted.Manner == RegradeManner.NobodyLoses && IsLess(after, before))
            (to, activity, after) = (attempt.RevisionId, now, Scored(attempt, now));
        var isChanged = after.Score != before.Score || after.Possible != before.Possible;
        var told = tell is not null && isChanged ? 1 : 0;
        connection.Execute(
            $"update attempt set {Editions.Raised}, revision_id = @to, marked = marked + @told where id = @Id",
            new
            {
                to,
                told,
                attempt.Id,
            }
        );
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
                told,
            }
        );
        if (AttemptMarks.Second(connection, attempt.Id) is { Count: > 0 } second)
            connection.Execute(
                "update attempt set differs = @differs where id = @Id",
                new { attempt.Id, differs = Attempts.Apart(activity, attempt.Responses, attempt.Marking, second).Count }
            );
        if (!isChanged)
            return;
        Records.Add(
            connection,
            clock,
            wanted.Teacher,
            attempt.AssignmentId,
            attempt.Id,
            wanted.Undoes is null ? RecordKind.Regraded : RecordKind.RegradeUndone,
            Text(before.Score),
            Text(after.Score)
        );
        if (tell is not null)
            connection.Execute(
                "insert into remark (attempt_id, text, teacher_id, at) values (@Id, @tell, @Teacher, @now)",
                new
                {
                    attempt.Id,
                    tell,
                    wanted.Teacher,
                    now = clock.GetUtcNow(),
                }
            );
    }

    /// <summary>By the grade where it is out of something else than before, else by the score.</summary>
    private static bool IsLess(ActivityScore after, HandedIn before) =>
        after.Possible == before.Possible ? after.Score < before.Score : after.Grade < before.Grade;

    private static ActivityScore Scored(Attempt attempt, Activity activity) =>
        Scorer.Score(activity, attempt.Responses, attempt.Marking.Awards);

    /// <summary>As a score is told apart from another: 5 and 5.0 are one.</summary>
    private static string Text(decimal number) =>
        number.ToString("0.############################", System.Globalization.CultureInfo.InvariantCulture);

    private static decimal Number(string text) => decimal.Parse(text, System.Globalization.CultureInfo.InvariantCulture);
}
