using System.Data;
using Dapper;
using Fenster.Core.Giving;
using NodaTime;

namespace Fenster.Store;

/// <summary>What activities are given as, and to whom.</summary>
public sealed class Assignments(Database database, TimeProvider clock)
{
    private const string Columns = AssignmentRow.Columns;

    /// <summary>Those of an activity, the newest first.</summary>
    public IReadOnlyList<Assignment> Of(long activity) =>
        Many("assignment.activity_id = @activity order by assignment.id desc", new { activity });

    /// <summary>Those of several activities, the newest first.</summary>
    public ILookup<long, Assignment> OfAll(IReadOnlyList<long> activities) =>
        Many("assignment.activity_id in @activities order by assignment.id desc", new { activities })
            .ToLookup(assignment => assignment.ActivityId);

    /// <summary>Those of a class, the newest first.</summary>
    public IReadOnlyList<Assignment> OfClass(long group) => Many("assignment.class_id = @group order by assignment.id desc", new { group });

    public Assignment? ByCode(string code) => Many("assignment.code = @code", new { code }).SingleOrDefault();

    public Assignment? One(long id) => Many("assignment.id = @id", new { id }).SingleOrDefault();

    private List<Assignment> Many(string where, object parameters) =>
        database.Read(connection => Read(connection, $"assignment.deleted_at is null and {where}", parameters));

    private static List<Assignment> Read(IDbConnection connection, string where, object parameters) =>
        [.. connection.Query<AssignmentRow>($"{Columns} where {where}", parameters).Select(row => row.Read())];

    internal static Assignment? One(IDbConnection connection, long id) =>
        Read(connection, "assignment.deleted_at is null and assignment.id = @id", new { id }).SingleOrDefault();

    private const int MostRemembered = 500;

    private readonly Lru<string, Assignment> open = new(MostRemembered);

    /// <summary>
    /// The assignment of a code as it was lately, for those who ask again and again. It may have changed since, or be gone: what is
    /// written on its strength has to see to that itself, as a log of moves does.
    /// </summary>
    public Assignment? Lately(string code)
    {
        if (open.TryGet(code, out var known))
            return known;
        var read = ByCode(code);
        if (read is not null)
            open.Put(code, read);
        return read;
    }

    /// <summary>Gives a revision under terms, with a code of its own.</summary>
    /// <param name="group">The class; null for whoever has the code.</param>
    /// <param name="follows">The assignment that it is a catch-up or a re-sit of; null for none.</param>
    public Assignment Give(long activity, long revision, long? group, Terms terms, long? follows = null) =>
        database.Write(connection => Give(connection, activity, revision, group, terms, follows));

    /// <summary>Freezes a document as the activity's next revision, and gives it to each of several.</summary>
    /// <param name="groups">Classes, each with the terms; null for whoever has the code.</param>
    public IReadOnlyList<Assignment> Give(long activity, string document, IReadOnlyList<(long? Group, Terms Terms)> groups) =>
        database.Write(connection =>
        {
            var revision = Revisions.Publish(connection, activity, document, clock.GetUtcNow());
            return groups.Select(each => Give(connection, activity, revision, each.Group, each.Terms, follows: null)).ToList();
        });

    private Assignment Give(IDbConnection connection, long activity, long revision, long? group, Terms terms, long? follows)
    {
        long? id = null;
        while (id is null)
            id = connection.ExecuteScalar<long?>(
                """
                insert into assignment (identity, activity_id, revision_id, code, class_id, follows, created_at)
                values (@identity, @activity, @revision, @code, @group, @follows, @now)
                on conflict (code) do nothing
                returning id
                """,
                new
                {
                    identity = Identity.New(),
                    activity,
                    revision,
                    code = JoinCode.New(),
                    group,
                    follows,
                    now = clock.GetUtcNow(),
                }
            );
        Store(connection, id.Value, terms);
        return One(connection, id.Value)!;
    }

    /// <summary>
    /// Changes terms, and with them when sittings end that go on. Null when there is no such assignment any more; false, and nothing is
    /// changed, when somebody changed it since that version.
    /// </summary>
    public bool? Change(long id, long version, Terms terms) => Write(id, (connection, assignment) =>
        {
            if (assignment.Version != version)
                return false;
            Store(connection, id, terms);
            if (terms.Counts != assignment.Terms.Counts)
                Standings.Recount(connection, id);
            return true;
        });

    private static void Store(IDbConnection connection, long id, Terms terms)
    {
        var parameters = new DynamicParameters(AssignmentRow.Of(terms));
        parameters.Add("id", id);
        connection.Execute(
            """
            update assignment
            set opens_at = @OpensAt, closes_at = @ClosesAt, time_limit = @TimeLimit, attempts = @Attempts, counts = @Counts,
                is_practice = @IsPractice, joining = @Joining, begins_together = @BeginsTogether, forgets_devices = @ForgetsDevices,
                releases_at = @ReleasesAt, sites = @Sites, rules = @Rules, resit = @Resit
            where id = @id
            """,
            parameters
        );
    }

    /// <summary>Closes it later by a while, where it has a closing time that has not passed.</summary>
    public bool? Extend(long id, Duration by) =>
        Write(id, (connection, assignment) =>
            assignment.Terms.Closes is { } closes
            && assignment.Course.Ended is null
            && closes > clock.GetUtcNow().ToInstant()
            && connection.Execute(
                "update assignment set closes_at = @at where id = @id",
                new { id, at = (closes + by).ToUnixTimeMilliseconds() }
            ) == 1
        );

    /// <summary>Lets a colleague stand in until a time: watch, let students in, pause and extend, and nothing else.</summary>
    public void LetStandIn(long id, long colleague, DateTimeOffset until) =>
        database.Write(connection =>
            connection.Execute(
                """
                insert into substitute (assignment_id, teacher_id, until_at)
                values (@id, @colleague, @until)
                on conflict do update set until_at = excluded.until_at
                """,
                new
                {
                    id,
                    colleague,
                    until,
                }
            )
        );

    public bool StandsIn(long teacher, long id) =>
        database.Read(connection =>
            connection.ExecuteScalar<bool>(
                """
                select exists (
                    select 1 from substitute where assignment_id = @id and teacher_id = @teacher and until_at > @now)
                """,
                new
                {
                    id,
                    teacher,
                    now = clock.GetUtcNow(),
                }
            )
        );

    /// <summary>Those for which a teacher stands in at this moment.</summary>
    public IReadOnlyList<Assignment> OfStandIn(long teacher) =>
        Many(
            """
            assignment.id in (select assignment_id from substitute where teacher_id = @teacher and until_at > @now)
            order by assignment.id desc
            """,
            new { teacher, now = clock.GetUtcNow() }
        );

    /// <summary>Who stands in at an assignment, and until when.</summary>
    public IReadOnlyList<(string Name, DateTimeOffset Until)> StandIns(long id) =>
        database.Read(connection =>
            connection
                .Query<StandIn>(
                    """
                    select teacher.name, substitute.until_at
                    from substitute
                    join teacher on teacher.id = substitute.teacher_id
                    where substitute.assignment_id = @id and substitute.until_at > @now and teacher.left_at is null
                    order by teacher.name
                    """,
                    new { id, now = clock.GetUtcNow() }
                )
                .Select(row => (row.Name, row.UntilAt))
                .ToList()
        );

    private sealed record StandIn
    {
        public required string Name { get; init; }
        public DateTimeOffset UntilAt { get; init; }
    }

    /// <summary>Ends it for everybody, at this moment.</summary>
    public bool? Close(long id) => Mark(id, "ended_at = @now");

    /// <summary>
    /// Opens it again. A closing time that has passed no longer holds, and what the clock handed in when it closed goes on: the time
    /// since then does not count against its limit.
    /// </summary>
    public bool? Reopen(long id) => Write(id, (connection, assignment) =>
        {
            var parameters = new
            {
                id,
                now = clock.GetUtcNow(),
                end = Timing.EndOf(assignment.Terms, assignment.Course)?.ToUnixTimeMilliseconds(),
            };
            connection.Execute(
                $"""
                delete from response
                where attempt_id in (
                    select id
                    from attempt
                    where assignment_id = @id and handed_in_by = 'time' and handed_in_at = @end and deleted_at is null);
                update attempt
                set {Attempts.NotHandedIn}
                where assignment_id = @id and handed_in_by = 'time' and handed_in_at = @end and deleted_at is null;
                update assignment
                set ended_at = null, closes_at = case when closes_at <= @now then null else closes_at end
                where id = @id
                """,
                parameters
            );
            Standings.Recount(connection, id);
            return true;
        });

    /// <summary>Opens what was planned for later.</summary>
    public bool? OpenNow(long id) => Mark(id, "opens_at = null");

    /// <summary>Lets those begin who have waited, and all who come later.</summary>
    public bool? BeginTogether(long id) => Mark(id, "begun_at = coalesce(begun_at, @now)");

    /// <summary>
    /// Freezes a document as the activity's next revision, which new attempts get at the assignments that are named from now on; those
    /// that were begun keep theirs.
    /// </summary>
    /// <param name="taking">Ids of assignments of the activity; others are left alone.</param>
    /// <returns>The revision's id.</returns>
    public long Publish(long activity, string document, IReadOnlyCollection<long> taking)
    {
        var revision = database.Write(connection =>
        {
            var revision = Revisions.Publish(connection, activity, document, clock.GetUtcNow());
            connection.Execute(
                """
                update assignment
                set revision_id = @revision, version = version + 1
                where id in @taking and activity_id = @activity and deleted_at is null
                """,
                new
                {
                    activity,
                    revision,
                    taking,
                }
            );
            return revision;
        });
        foreach (var each in OfAll([activity])[activity])
            open.Forget(each.Code);
        return revision;
    }

    /// <summary>Whether all of these are attempts at an assignment: a form may name anything.</summary>
    internal static bool Has(IDbConnection connection, long id, IReadOnlyCollection<long> attempts) =>
        connection.ExecuteScalar<int>(
            "select count(*) from attempt where id in @attempts and assignment_id = @id and deleted_at is null",
            new { id, attempts }
        ) == attempts.Distinct().Count();

    /// <summary>Forgets which assignment a code leads to, since something of it has changed.</summary>
    internal void Forget(string code) => open.Forget(code);

    private bool? Mark(long id, string set) =>
        Write(id, (connection, _) =>
            connection.Execute($"update assignment set {set} where id = @id", new { id, now = clock.GetUtcNow() }) == 1
        );

    /// <summary>Stops work and time limits; a second time changes nothing.</summary>
    public bool? Pause(long id) =>
        Write(id, (connection, assignment) =>
            !assignment.Course.IsPaused
            && connection.Execute(
                "insert into pause (assignment_id, from_at) values (@id, @now) on conflict do nothing",
                new { id, now = clock.GetUtcNow() }
            ) == 1
        );

    public bool? Resume(long id) =>
        Write(id, (connection, _) =>
            connection.Execute(
                "update pause set until_at = max(@now, from_at + 1) where assignment_id = @id and until_at is null",
                new { id, now = clock.GetUtcNow() }
            ) == 1
        );

    /// <summary>Changes an assignment in one transaction, and then when its sittings end.</summary>
    /// <returns>What the change said; null when there is no such assignment.</returns>
    internal bool? Write(long id, Func<WritingConnection, Assignment, bool> change)
    {
        var (did, code) = database.Write<(bool?, string)>(connection =>
        {
            if (One(connection, id) is not { } before)
                return (null, "");
            if (!change(connection, before))
                return (false, before.Code);
            connection.Execute("update assignment set version = version + 1 where id = @id", new { id });
            if (One(connection, id) is { } after)
                Retime(connection, after);
            return (true, before.Code);
        });
        open.Forget(code);
        return did;
    }

    private sealed record Running
    {
        public long Id { get; init; }
        public DateTimeOffset StartedAt { get; init; }
        public long Away { get; init; }
        public long? EndsAt { get; init; }
        public long ExtraTime { get; init; }
        public DateTimeOffset? ClosesAt { get; init; }
        public DateTimeOffset? EndedAt { get; init; }
    }

    /// <summary>Works out anew when sittings end that go on.</summary>
    internal static void Retime(IDbConnection connection, Assignment assignment)
    {
        var running = connection.Query<Running>(
            """
            select attempt.id, attempt.started_at, attempt.away, attempt.ends_at, student.closes_at, student.ended_at,
                   coalesce(student.extra_time, member.extra_time, 0) as extra_time
            from attempt
            join student on student.id = attempt.student_id
            left join member on member.id = student.member_id
            where attempt.assignment_id = @Id and attempt.handed_in_at is null and attempt.deleted_at is null
            """,
            new { assignment.Id }
        );
        foreach (var sitting in running.AsList())
        {
            var allowance = new Allowance((int)sitting.ExtraTime, sitting.ClosesAt?.ToInstant(), sitting.EndedAt?.ToInstant());
            var started = sitting.StartedAt.ToInstant() + Duration.FromMilliseconds(sitting.Away);
            var ends = Timing.EndOfSitting(started, assignment.Terms, assignment.Course, allowance)?.ToUnixTimeMilliseconds();
            if (ends != sitting.EndsAt)
                connection.Execute($"update attempt set {Editions.Raised}, ends_at = @ends where id = @Id", new { sitting.Id, ends });
        }
    }
}
