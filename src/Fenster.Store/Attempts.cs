using System.Collections.Immutable;
using System.Data;
using System.Security.Cryptography;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One student's work on one activity: a sitting, from its start to its being handed in.</summary>
/// <param name="Identity">By which whatever outlives it names it; its id may be another's later.</param>
/// <param name="Edition">Goes up with whatever changes it.</param>
/// <param name="Number">Among the student's attempts, from 1.</param>
/// <param name="Rules">Words of the assignment's own that it was begun under, as they are stored.</param>
/// <param name="Seed">Orders the bank.</param>
/// <param name="EndsAt">Null while that is not known.</param>
/// <param name="Late">How many moves came too late and wait for the teacher's word.</param>
/// <param name="Version">How many moves its log has.</param>
/// <param name="Responses">By pane id.</param>
/// <param name="Handed">Null while it is worked on.</param>
/// <param name="Marked">How often people have changed its marking.</param>
/// <param name="Marking">What people have decided and said of it.</param>
/// <param name="ReleasedAt">When what waits for the teacher's word was released to this student alone; null when it was not.</param>
/// <param name="SawAt">When the student was first shown what waited for that word; null for never.</param>
/// <param name="TakenBack">What the teacher said when results were taken back again; null while they are not.</param>
public sealed record Attempt(
    long Id,
    string Identity,
    long Edition,
    long AssignmentId,
    long StudentId,
    long Number,
    long RevisionId,
    string Rules,
    string Name,
    long Seed,
    DateTimeOffset StartedAt,
    DateTimeOffset? EndsAt,
    long Late,
    long Version,
    ImmutableDictionary<string, Response> Responses,
    HandedIn? Handed,
    long Marked,
    Marking Marking,
    DateTimeOffset? ReleasedAt,
    DateTimeOffset? SawAt,
    string? TakenBack
);

/// <summary>What handing in came to.</summary>
/// <param name="By">Who handed it in.</param>
public sealed record HandedIn(DateTimeOffset At, HandedBy By, decimal Score, decimal Possible, decimal Grade, decimal MaximumGrade);

public enum HandedBy
{
    Student,

    /// <summary>The clock, when the time was over.</summary>
    Time,
}

/// <summary>An attempt as a list shows it.</summary>
/// <param name="Placed">How many answers it has.</param>
/// <param name="Away">That the student was absent or is excused, so that nothing of it counts; null for neither.</param>
/// <param name="Handed">Null while it is worked on.</param>
/// <param name="Waits">Whether something of it waits for a person.</param>
public sealed record AttemptLine(
    long Id,
    long StudentId,
    long Number,
    long RevisionId,
    string Name,
    DateTimeOffset StartedAt,
    long Placed,
    long Late,
    StudentState? Away,
    HandedIn? Handed,
    bool Waits
)
{
    /// <summary>Whether two markers are apart.</summary>
    public bool Differs { get; init; }

    /// <summary>Whether it is the attempt that counts for its student, or one of them.</summary>
    public bool Counts { get; init; }

    /// <summary>Of the member; none of a guest.</summary>
    public ImmutableArray<string> Tags { get; init; } = [];

    /// <inheritdoc cref="Attempt.ReleasedAt"/>
    public DateTimeOffset? ReleasedAt { get; init; }
}

/// <summary>What a list of attempts is sorted by.</summary>
public enum AttemptOrder
{
    Name,

    /// <summary>The highest first; those without one last.</summary>
    Score,

    /// <summary>The latest first; those that are not handed in last.</summary>
    HandedIn,
}

/// <summary>Which attempts a list shows.</summary>
public enum AttemptFilter
{
    All,
    Working,
    HandedIn,

    /// <summary>Something waits to be marked.</summary>
    Waits,

    /// <summary>Something came too late.</summary>
    Late,

    /// <summary>Two markers are apart.</summary>
    Differs,
}

/// <summary>What all attempts at an assignment come to.</summary>
public sealed record AttemptSums
{
    public long All { get; init; }
    public long HandedIn { get; init; }

    /// <summary>Of what students have, each by what counts for them; null when nobody handed in.</summary>
    public double? Mean { get; init; }

    /// <summary>Whether something of what counts waits for a person, so that the mean is one so far.</summary>
    public bool IsSoFar { get; init; }

    /// <summary>The most that can be earned in one that is handed in.</summary>
    public double Possible { get; init; }
    public long Waits { get; init; }
    public long Late { get; init; }
    public long Differs { get; init; }

    /// <summary>How many attempts a list shows with a filter.</summary>
    public long Of(AttemptFilter filter) =>
        filter switch
        {
            AttemptFilter.Working => All - HandedIn,
            AttemptFilter.HandedIn => HandedIn,
            AttemptFilter.Waits => Waits,
            AttemptFilter.Late => Late,
            AttemptFilter.Differs => Differs,
            _ => All,
        };
}

/// <summary>A move of a log, as it is stepped through.</summary>
/// <param name="IsCheck">Whether something was checked by it.</param>
public sealed record MoveMoment(long Number, DateTimeOffset At, bool IsCheck);

/// <summary>An attempt as a wall shows it.</summary>
public sealed record WatchedLine
{
    public long Id { get; init; }
    public long StudentId { get; init; }
    public required string Name { get; init; }
    public long Number { get; init; }
    public long Version { get; init; }
    public long Marked { get; init; }
    public long Placed { get; init; }
    public long Late { get; init; }
    public DateTimeOffset StartedAt { get; init; }
    public DateTimeOffset? HandedInAt { get; init; }

    /// <summary>When it was last worked on; null where it was only begun.</summary>
    public DateTimeOffset? MovedAt { get; init; }

    /// <summary>The number of its last move among all; null for none.</summary>
    public long? LastMove { get; init; }
}

/// <summary>What a list says of an assignment. People are counted who are on its list, or who came; without who was away.</summary>
/// <param name="All">How many people there are.</param>
/// <param name="HandedIn">How many of them have handed something in.</param>
/// <param name="Late">In how many attempts something came too late.</param>
/// <param name="Waits">In how many something waits to be marked.</param>
public sealed record CardSums(long All, long HandedIn, long Late, long Waits)
{
    /// <summary>Nobody has begun.</summary>
    public static CardSums None { get; } = new(0, 0, 0, 0);
}

/// <summary>A move as a device sends it.</summary>
/// <param name="Key">Made by the device; the same move sent twice has the same key.</param>
/// <param name="Pane">Id of the pane.</param>
/// <param name="Seen">The version of the log that the device had seen when it was made; null where nobody asks.</param>
public sealed record KeyedMove(string Key, string Pane, Move Move, long? Seen = null)
{
    /// <summary>Which device made it, by the first part of its key; empty where the key has no parts.</summary>
    public string Device { get; } = DeviceOf(Key);

    internal static string DeviceOf(string key) => key.IndexOf('.') is > 0 and var end ? key[..end] : "";
}

/// <summary>A move that was not made. Nothing else was left out because of it.</summary>
public sealed record RefusedMove(string Key, Refusal Refusal);

/// <summary>Why nothing of what a device sent was taken.</summary>
public enum Shut
{
    /// <summary>The attempt goes on with another device, or is gone.</summary>
    GivenAway,

    /// <summary>Everybody's work stands still: it is to be sent again.</summary>
    Paused,

    /// <summary>It came after the end. The moves are kept for the teacher.</summary>
    Late,
}

/// <summary>What became of what a device sent.</summary>
/// <param name="Attempt">As it is stored now; null when nothing was taken.</param>
/// <param name="Refused">The moves that were not made; all others are stored, now or before.</param>
/// <param name="Shut">Null when it was taken.</param>
/// <param name="Before">The version of the log before it.</param>
public sealed record Taken(Attempt? Attempt, ImmutableArray<RefusedMove> Refused, Shut? Shut = null, long Before = 0);

/// <summary>A device that works on an attempt.</summary>
public sealed record Device(long AttemptId, string Identity, long AssignmentId, string SecretHash, Seat Seat);

/// <param name="remembered">How many attempts and devices are kept in memory; what is stored is the truth all the same.</param>
public sealed class Attempts(Database database, Revisions revisions, TimeProvider clock, int remembered = 5000)
{
    private const string Columns = """
        select attempt.id, attempt.identity, attempt.edition, attempt.assignment_id, attempt.student_id, attempt.number, attempt.revision_id, attempt.rules,
               coalesce(member.name, student.name) as name, student.secret_hash, attempt.seed, attempt.started_at, attempt.ends_at,
               attempt.version, attempt.placed, attempt.late, attempt.handed_in_at, attempt.handed_in_by, attempt.score,
               attempt.possible, attempt.grade, attempt.maximum_grade, attempt.waits, attempt.marked, attempt.released_at,
               attempt.saw_at, attempt.taken_back, attempt.differs, attempt.counts, coalesce(member.tags, '') as tags,
               student.state as away
        from attempt
        join student on student.id = attempt.student_id
        left join member on member.id = student.member_id
        """;

    private sealed record Row
    {
        public long Id { get; init; }
        public required string Identity { get; init; }
        public long Edition { get; init; }
        public long AssignmentId { get; init; }
        public long StudentId { get; init; }
        public long Number { get; init; }
        public long RevisionId { get; init; }
        public required string Rules { get; init; }
        public required string Name { get; init; }
        public string? SecretHash { get; init; }
        public long Seed { get; init; }
        public DateTimeOffset StartedAt { get; init; }
        public DateTimeOffset? EndsAt { get; init; }
        public long Version { get; init; }
        public long Placed { get; init; }
        public long Late { get; init; }
        public bool Waits { get; init; }
        public long Marked { get; init; }
        public DateTimeOffset? ReleasedAt { get; init; }
        public DateTimeOffset? SawAt { get; init; }
        public string? TakenBack { get; init; }
        public bool Differs { get; init; }
        public bool Counts { get; init; }
        public required string Tags { get; init; }
        public string? Away { get; init; }
        public DateTimeOffset? HandedInAt { get; init; }
        public string? HandedInBy { get; init; }
        public decimal? Score { get; init; }
        public decimal? Possible { get; init; }
        public decimal? Grade { get; init; }
        public decimal? MaximumGrade { get; init; }

        public HandedIn? Handed =>
            HandedInAt is { } at
                ? new(
                    at,
                    Enum.Parse<HandedBy>(HandedInBy!, ignoreCase: true),
                    Score!.Value,
                    Possible!.Value,
                    Grade!.Value,
                    MaximumGrade!.Value
                )
                : null;
        public AttemptLine Line =>
            new(Id, StudentId, Number, RevisionId, Name, StartedAt, Placed, Late, StudentStates.Read(Away), Handed, Waits)
            {
                Differs = Differs,
                Counts = Counts,
                Tags = [.. Tags.Split('\n', StringSplitOptions.RemoveEmptyEntries)],
                ReleasedAt = ReleasedAt,
            };
    }

    /// <summary>How often an append is tried again that others have overtaken.</summary>
    private const int MostTurns = 50;

    // By identity: what is kept of one that is gone is never taken for another.
    private readonly Lru<string, LoggedAttempt> attempts = new(remembered);
    private readonly Lru<(string Hash, long Number), Device> devices = new(remembered);

    /// <summary>How many attempts are in memory.</summary>
    public int Remembered => attempts.Count;

    /// <summary>
    /// The attempt that a student works on, or a new one when the terms allow it at this moment; null when they don't.
    /// </summary>
    public Attempt? Begin(Assignment assignment, Student student)
    {
        var id = database.Write(connection =>
        {
            var begun = connection
                .Query<(long Id, bool IsOpen)>(
                    "select id, handed_in_at is null from attempt where student_id = @Id and deleted_at is null",
                    new { student.Id }
                )
                .AsList();
            if (begun.Where(attempt => attempt.IsOpen).Select(attempt => (long?)attempt.Id).FirstOrDefault() is { } going)
                return going;
            var now = clock.GetUtcNow();
            // What holds at this moment, not when the page was made.
            if (
                Assignments.One(connection, assignment.Id) is not { } current
                || Timing.HindranceAt(current.Terms, current.Course, student.Allowance, begun.Count, now.ToInstant()) is not null
            )
                return null;
            var ends = Timing.EndOfSitting(now.ToInstant(), current.Terms, current.Course, student.Allowance);
            return connection.ExecuteScalar<long?>(
                """
                insert into attempt (identity, assignment_id, student_id, number, revision_id, rules, seed, started_at, ends_at, counts)
                values (@Identity, @Assignment, @Student, (select coalesce(max(number), 0) + 1 from attempt where student_id = @Student),
                    @Revision, @Rules, @Seed, @Now, @Ends, 0)
                returning id
                """,
                new
                {
                    Identity = Identity.New(),
                    Assignment = current.Id,
                    Student = student.Id,
                    Revision = current.RevisionId,
                    current.Rules,
                    Seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
                    Now = now,
                    Ends = ends?.ToUnixTimeMilliseconds(),
                }
            );
        });
        return id is { } attempt ? Read(attempt)?.Attempt : null;
    }

    /// <summary>A student's attempts, the first first.</summary>
    public IReadOnlyList<AttemptLine> OfStudent(long student) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"{Columns} where attempt.student_id = @student and attempt.deleted_at is null order by attempt.number",
                    new { student }
                )
                .Select(row => row.Line)
                .ToList()
        );

    /// <summary>A member's attempts at all that the class was given, by assignment; the first first.</summary>
    public ILookup<long, AttemptLine> OfMember(long member) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"""
                    {Columns}
                    where student.member_id = @member and student.deleted_at is null and attempt.deleted_at is null
                    order by attempt.number
                    """,
                    new { member }
                )
                .ToLookup(row => row.AssignmentId, row => row.Line)
        );

    /// <summary>The device that a secret belongs to, on one of its student's attempts; null when there is no such attempt.</summary>
    public Device? DeviceOf(long assignment, string secret, long number)
    {
        var hash = Secret.Hash(secret);
        if (!devices.TryGet((hash, number), out var device))
        {
            var row = database.Read(connection =>
                connection.QuerySingleOrDefault<Row>(
                    $"{Columns} where student.secret_hash = @hash and attempt.number = @number and attempt.deleted_at is null",
                    new { hash, number }
                )
            );
            if (row is null)
                return null;
            device = new(row.Id, row.Identity, row.AssignmentId, hash, new Seat(revisions.Activity(row.RevisionId, row.Rules), row.Seed));
            devices.Put((hash, number), device);
        }
        return device.AssignmentId == assignment ? device : null;
    }

    /// <summary>The attempt that a device works on, as it stands; null when it was given to another device.</summary>
    public Attempt? Of(Device device) => Read(device.AttemptId) is { } read && read.SecretHash == device.SecretHash ? read.Attempt : null;

    /// <summary>One attempt at an assignment; null when there is none of this id.</summary>
    public Attempt? One(long assignment, long id) => Read(id) is { } read && read.Attempt.AssignmentId == assignment ? read.Attempt : null;

    /// <summary>An attempt at whichever assignment; whose it is, whoever asks has to see to.</summary>
    public Attempt? Anywhere(long id) => Read(id)?.Attempt;

    /// <summary>How many attempts are read by one query.</summary>
    private const int MostAtOnce = 500;

    /// <summary>Several attempts, as <see cref="Anywhere"/> gives each, in the order of their ids; those that are gone are left out.</summary>
    public IReadOnlyList<Attempt> Several(IReadOnlyCollection<long> ids) =>
        [.. ids.Order().Chunk(MostAtOnce).SelectMany(some => database.ReadAtOnce(connection => Several(connection, some)))];

    private List<Attempt> Several(IDbConnection connection, long[] ids)
    {
        var rows = connection
            .Query<Row>($"{Columns} where attempt.id in @ids and attempt.deleted_at is null order by attempt.id", new { ids })
            .AsList();
        var unknown = rows.Where(row => !attempts.TryGet(row.Identity, out var known) || !IsOf(row, known))
            .Select(row => row.Id)
            .ToHashSet();
        var markings = AttemptMarks.Read(
            connection,
            [.. rows.Where(row => unknown.Contains(row.Id) && row.Marked > 0).Select(row => row.Id)]
        );
        var logs = AttemptLog.Read(connection, unknown);
        return
        [
            .. rows.Select(row =>
                unknown.Contains(row.Id) || !attempts.TryGet(row.Identity, out var known)
                    ? AttemptLog
                        .Replayed(
                            LoggedAttempt.Begun(AttemptOf(row, markings.GetValueOrDefault(row.Id, Marking.None)), row.SecretHash),
                            logs[row.Id]
                        )
                        .Attempt
                    : known.Attempt
            ),
        ];
    }

    /// <summary>The attempts before and after one, in the order of names.</summary>
    public (AttemptLine? Before, AttemptLine? After) Neighbours(Attempt attempt) =>
        database.Read(connection =>
        {
            AttemptLine? Next(string comparison, string direction) =>
                connection
                    .QueryFirstOrDefault<Row>(
                        $"""
                        {Columns}
                        join student as own on own.id = @StudentId
                        where attempt.assignment_id = @AssignmentId and attempt.deleted_at is null
                          and (student.sort_key, attempt.number) {comparison} (own.sort_key, @Number)
                        order by student.sort_key {direction}, attempt.number {direction}
                        limit 1
                        """,
                        new
                        {
                            attempt.AssignmentId,
                            attempt.StudentId,
                            attempt.Number,
                        }
                    )
                    ?.Line;
            return (Next("<", "desc"), Next(">", "asc"));
        });

    private static string Filtered(AttemptFilter filter) =>
        filter switch
        {
            AttemptFilter.Working => "attempt.handed_in_at is null",
            AttemptFilter.HandedIn => "attempt.handed_in_at is not null",
            AttemptFilter.Waits => "attempt.waits = 1 and student.state is null",
            AttemptFilter.Late => "attempt.late > 0",
            AttemptFilter.Differs => "attempt.differs > 0",
            _ => "true",
        };

    private static string Ordered(AttemptOrder order) =>
        order switch
        {
            AttemptOrder.Score => "attempt.score_number desc nulls last, student.sort_key, attempt.number",
            AttemptOrder.HandedIn => "attempt.handed_in_at desc nulls last, student.sort_key, attempt.number",
            _ => "student.sort_key, attempt.number",
        };

    private static string OfStudents(string? tag) => tag is null ? "" : $"join student on student.id = attempt.student_id {OfMembers(tag)}";

    private static string OfMembers(string? tag) => tag is null ? "" : "join member on member.id = student.member_id";

    /// <summary>Whether the member has a tag; every attempt where none is asked for.</summary>
    internal static string Tagged(string? tag) =>
        tag is null ? "true" : "instr(char(10) || member.tags || char(10), char(10) || @tag || char(10)) > 0";

    /// <summary>Attempts at an assignment.</summary>
    /// <param name="skip">How many come before.</param>
    /// <param name="tag">Of members; null for all.</param>
    public IReadOnlyList<AttemptLine> Page(
        long assignment,
        int skip = 0,
        int most = int.MaxValue,
        AttemptOrder order = AttemptOrder.Name,
        AttemptFilter filter = AttemptFilter.All,
        string? tag = null
    ) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"""
                    {Columns}
                    where student.assignment_id = @assignment and attempt.deleted_at is null and {Filtered(filter)} and {Tagged(tag)}
                    order by {Ordered(order)}
                    limit @most offset @skip
                    """,
                    new
                    {
                        assignment,
                        skip,
                        most,
                        tag,
                    }
                )
                .Select(row => row.Line)
                .ToList()
        );

    private sealed record SumsRow
    {
        public long Id { get; init; }
        public long Members { get; init; }
        public long Others { get; init; }
        public long HandedIn { get; init; }
        public long Late { get; init; }
        public long Waits { get; init; }
        public CardSums Sums => new(Members + Others, HandedIn, Late, Waits);
    }

    /// <summary>What lists say of assignments, by their ids.</summary>
    public IReadOnlyDictionary<long, CardSums> SumsOf(IReadOnlyList<long> assignments) =>
        database.Read(connection =>
            connection
                .Query<SumsRow>(
                    """
                    select assignment.id,
                           (select count(*)
                            from member
                            where member.class_id = assignment.class_id and member.removed_at is null
                              and not exists (
                                  select 1
                                  from student
                                  where student.assignment_id = assignment.id and student.member_id = member.id
                                    and student.state is not null and student.deleted_at is null)) as members,
                           (select count(*)
                            from student
                            where student.assignment_id = assignment.id and student.deleted_at is null and student.member_id is null
                              and student.state is null)
                           + (select count(*)
                              from student
                              join member on member.id = student.member_id
                              where student.assignment_id = assignment.id and student.deleted_at is null and student.member_id is not null
                                and student.state is null and member.removed_at is not null) as others,
                           -- All from one index; of the few who were away it is taken off again.
                           (select count(distinct attempt.student_id)
                            from attempt
                            where attempt.assignment_id = assignment.id and attempt.deleted_at is null and attempt.handed_in_at is not null)
                           - (select count(*)
                              from student indexed by student_away
                              where student.assignment_id = assignment.id and student.state is not null and exists (
                                  select 1
                                  from attempt
                                  where attempt.student_id = student.id and attempt.deleted_at is null and attempt.handed_in_at is not null))
                               as handed_in,
                           (select count(*)
                            from attempt indexed by attempt_late
                            where attempt.assignment_id = assignment.id and attempt.deleted_at is null and attempt.late > 0) as late,
                           (select count(*)
                            from attempt indexed by attempt_waiting
                            where attempt.assignment_id = assignment.id and attempt.deleted_at is null and attempt.waits = 1
                              and attempt.student_id not in (
                                  select id from student indexed by student_away
                                  where student.assignment_id = assignment.id and student.state is not null)) as waits
                    from assignment
                    where assignment.id in @assignments
                    """,
                    new { assignments }
                )
                .ToDictionary(row => row.Id, row => row.Sums)
        );

    /// <param name="tag">Of members; null for all.</param>
    public AttemptSums Sums(long assignment, string? tag = null)
    {
        // Of the few that are late, wait or differ there are indexes, which count them without a look at the others.
        string Among(string condition, string index = "attempt_people") =>
            $"""
                from attempt indexed by {index} {OfStudents(tag)}
                where attempt.assignment_id = @assignment and attempt.deleted_at is null and {Tagged(tag)} and {condition}
                """;
        const string Present =
            "attempt.student_id not in (select id from student indexed by student_away where assignment_id = @assignment and state is not null)";
        return database.Read(connection =>
            connection.QuerySingle<AttemptSums>(
                $"""
                select count(*) as "all", count(attempt.handed_in_at) as handed_in,
                       coalesce(max(attempt.possible_number), 0.0) as possible,
                       (select avg(mean)
                        from (
                            select avg(attempt.score_number) as mean
                            {Among($"attempt.counts = 1 and {Present}")}
                            group by attempt.student_id)) as mean,
                       exists(select 1 {Among($"attempt.waits = 1 and attempt.counts = 1 and {Present}", "attempt_waiting")}) as is_so_far,
                       (select count(*) {Among($"attempt.waits = 1 and {Present}", "attempt_waiting")}) as waits,
                       (select count(*) {Among("attempt.late > 0", "attempt_late")}) as late,
                       (select count(*) {Among("attempt.differs > 0", "attempt_differing")}) as differs
                {Among("true")}
                """,
                new { assignment, tag }
            )
        );
    }

    /// <summary>Ids of attempts whose time was over so long ago that nothing more can arrive in time.</summary>
    /// <param name="except">Ids of attempts that are left out.</param>
    public IReadOnlyList<long> Due(int most, IReadOnlyCollection<long>? except = null) =>
        database.Read(connection =>
            connection
                .Query<long>(
                    """
                    select attempt.id
                    from attempt
                    join assignment on assignment.id = attempt.assignment_id and assignment.deleted_at is null
                    join activity on activity.id = assignment.activity_id and activity.deleted_at is null
                    where attempt.ends_at < @before and attempt.handed_in_at is null and attempt.deleted_at is null
                      and attempt.id not in @except
                    order by attempt.ends_at
                    limit @most
                    """,
                    new
                    {
                        before = clock.GetUtcNow() - Grace,
                        most,
                        except = except ?? [],
                    }
                )
                .AsList()
        );

    private static readonly TimeSpan Grace = Timing.Grace.ToTimeSpan();

    /// <summary>
    /// Adds moves to an attempt, each for itself, in their order; those it already has change nothing, and one that is refused
    /// takes no other with it. Moves that arrive after handing in are left out; those that arrive after the end are kept apart.
    /// </summary>
    /// <param name="received">When all of them had arrived.</param>
    public async Task<Taken> Append(Device device, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var read = Recall(device, turn > 0);
            if (read is null || read.SecretHash != device.SecretHash)
            {
                if (turn == 0)
                    continue;
                return new(null, [], Shut.GivenAway);
            }
            if (read.Attempt.Handed is not null || IsOver(read.Attempt, received))
            {
                // By what is stored it has to be so too.
                if (turn == 0 && !IsCurrent(read))
                    continue;
                return await AfterTheEnd(read, moves, received);
            }
            var next = Make(device.Seat.Activity, read, moves, received);
            if (next.Added.Moves.Count == 0)
            {
                // What was refused or known already was so by a copy: by what is stored it has to be so too.
                if (turn > 0 || IsCurrent(read))
                    return new(read.Attempt, next.Refused, IsPaused(device) ? Shut.Paused : null, read.Version);
                continue;
            }
            if (
                await database.WriteAsync(connection =>
                    AttemptLog.Append(connection, read, next.Added, PlacedIn(next.After.Attempt), received)
                )
            )
            {
                var after = next.After with { Attempt = next.After.Attempt with { Edition = read.Attempt.Edition + 1 } };
                attempts.Put(device.Identity, after);
                return new(after.Attempt, next.Refused, null, read.Version);
            }
            if (IsPaused(device))
                return new(null, [], Shut.Paused);
            if (!IsThere(device.AssignmentId))
                return new(null, [], Shut.GivenAway);
        }
        throw TooSlow();
    }

    private bool IsPaused(Device device) =>
        database.Read(connection =>
            connection.ExecuteScalar<bool>(
                "select exists (select 1 from pause where assignment_id = @AssignmentId and until_at is null)",
                new { device.AssignmentId }
            )
        );

    private bool IsThere(long assignment) => database.Read(connection => Assignments.One(connection, assignment)) is not null;

    private static bool IsOver(Attempt attempt, DateTimeOffset received) => attempt.EndsAt is { } end && received > end + Grace;

    /// <summary>Moves that arrive when the time was over are kept for the teacher; those after a student's own hand-in are left out.</summary>
    private async Task<Taken> AfterTheEnd(LoggedAttempt read, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        var attempt = read.Attempt.Handed is null ? await HandInDue(read.Attempt.Id, received) ?? read.Attempt : read.Attempt;
        var fresh = moves.Where(move => !read.Keys.Contains(move.Key)).ToList();
        if (attempt.Handed is not { By: HandedBy.Time } || fresh.Count == 0)
            return new(attempt, []);
        await database.WriteAsync(connection => AttemptLog.KeepLate(connection, attempt.Id, fresh, received));
        return new(attempt, [], Shut.Late);
    }

    /// <summary>Hands an attempt in and scores it. The second time changes nothing.</summary>
    /// <param name="received">When the wish had arrived; after the end it is the clock that hands it in.</param>
    public async Task<Taken> HandIn(Device device, DateTimeOffset received)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var read = Recall(device, turn > 0);
            if (read is null || read.SecretHash != device.SecretHash)
            {
                if (turn == 0)
                    continue;
                return new(null, [], Shut.GivenAway);
            }
            if (read.Attempt.Handed is not null || IsOver(read.Attempt, received))
            {
                if (turn == 0 && !IsCurrent(read))
                    continue;
                return new(read.Attempt.Handed is null ? await HandInDue(device.AttemptId, received) : read.Attempt, []);
            }
            if (await Store(read, received, HandedBy.Student) is { } done)
                return new(done, []);
            if (IsPaused(device))
                return new(null, [], Shut.Paused);
            if (!IsThere(device.AssignmentId))
                return new(null, [], Shut.GivenAway);
        }
        throw TooSlow();
    }

    /// <summary>
    /// Hands in what is there of an attempt whose time was over, as of the moment when it was. Null when that is not so, or it is gone;
    /// whoever asks twice, or in two processes, hands it in once.
    /// </summary>
    public Task<Attempt?> HandInDue(long id) => HandInDue(id, clock.GetUtcNow());

    private async Task<Attempt?> HandInDue(long id, DateTimeOffset now)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            if (Read(id) is not { } read)
                return null;
            if (read.Attempt.Handed is not null)
                return read.Attempt;
            if (read.Attempt.EndsAt is not { } end || !IsOver(read.Attempt, now))
                return null;
            if (await Store(read, end, HandedBy.Time) is { } done)
                return done;
            if (!IsThere(read.Attempt.AssignmentId))
                return null;
        }
        throw TooSlow();
    }

    /// <summary>Hands in and scores what was read; null when it is stored otherwise by now.</summary>
    private async Task<Attempt?> Store(LoggedAttempt read, DateTimeOffset at, HandedBy by)
    {
        var id = read.Attempt.Id;
        // What was put right meanwhile counts for who hands in now.
        var (revision, assignment) = (read.Attempt.RevisionId, read.Attempt.AssignmentId);
        var current = database.Read(connection => Regrades.At(connection, assignment, revision));
        var attempt = current == revision ? read.Attempt : read.Attempt with { RevisionId = current };
        var (handed, exact, waits) = Scored(attempt, at, by);
        var json = ResponseDocument.Write(WithoutEarlier(read.Attempt.Responses));
        var isStored = await database.WriteAsync(connection =>
        {
            if (Regrades.At(connection, assignment, revision) != current)
                return false;
            if (!AttemptLog.Claim(connection, read, 0, PlacedIn(read.Attempt), by == HandedBy.Student ? at : null))
                return false;
            if (current != revision)
                connection.Execute("update attempt set revision_id = @current where id = @id", new { current, id });
            AttemptLog.StoreResult(connection, id, handed, exact, waits, json);
            Standings.Recount(connection, assignment, attempt.StudentId);
            return true;
        });
        if (!isStored)
            return null;
        var done = read with { Attempt = attempt with { Handed = handed, Edition = attempt.Edition + 1 } };
        attempts.Put(attempt.Identity, done);
        return done.Attempt;
    }

    /// <returns>What handing in comes to, its grade before it is rounded, and whether something waits for a person.</returns>
    private (HandedIn Handed, decimal Exact, bool Waits) Scored(Attempt attempt, DateTimeOffset at, HandedBy by)
    {
        var score = Scorer.Score(revisions.Activity(attempt.RevisionId, attempt.Rules), attempt.Responses, attempt.Marking.Awards);
        return (
            new(
                DateTimeOffset.FromUnixTimeMilliseconds(at.ToUnixTimeMilliseconds()),
                by,
                score.Score,
                score.Possible,
                score.Grade,
                score.MaximumGrade
            ),
            score.ExactGrade,
            score.IsSoFar
        );
    }

    /// <summary>Counts what came too late: it is added to the work, which is scored anew. False when nothing waits.</summary>
    public bool CountLate(long assignment, long id, long teacher)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            if (Read(id) is not { Attempt: { Handed: { } handed } } read || read.Attempt.AssignmentId != assignment)
                return false;
            var late = database.Read(connection => AttemptLog.Late(connection, id));
            if (late.Count == 0)
                return false;
            var made = Make(revisions.Activity(read.Attempt.RevisionId, read.Attempt.Rules), read, late, clock.GetUtcNow());
            var (again, exact, waits) = Scored(made.After.Attempt, handed.At, handed.By);
            var isStored = database.Write(connection =>
            {
                if (!Editions.Claim(connection, read.Attempt))
                    return false;
                connection.Execute(
                    """
                    update attempt set version = version + @moves, placed = @placed, late = 0 where id = @id;
                    delete from late_move where attempt_id = @id;
                    delete from response where attempt_id = @id
                    """,
                    new
                    {
                        id,
                        moves = made.Added.Moves.Count,
                        placed = PlacedIn(made.After.Attempt),
                    }
                );
                AttemptLog.Add(connection, read, made.Added, clock.GetUtcNow());
                AttemptLog.StoreResult(
                    connection,
                    id,
                    again,
                    exact,
                    waits,
                    ResponseDocument.Write(WithoutEarlier(made.After.Attempt.Responses))
                );
                Standings.Recount(connection, assignment, read.Attempt.StudentId);
                Records.Add(connection, clock, teacher, assignment, id, RecordKind.LateCounted, $"{handed.Score}", $"{again.Score}");
                return true;
            });
            if (isStored)
                return true;
        }
        throw TooSlow();
    }

    /// <summary>What an attempt becomes that goes on after it was handed in: the time since then does not count against its limit.</summary>
    internal const string NotHandedIn = $"""
        {Editions.Raised}, away = away + @now - handed_in_at, handed_in_at = null, handed_in_by = null, score = null, possible = null, grade = null,
        maximum_grade = null, exact_grade = null, score_number = null, possible_number = null, waits = 0
        """;

    /// <summary>
    /// Gives work back that was handed in too soon. The time since then does not count against its limit. False when there is none,
    /// or its time would be over all the same.
    /// </summary>
    public bool GiveBack(Assignment assignment, Student student, long id, long teacher)
    {
        // Where the time would be over at once, nothing is given back.
        if (Timing.EndFor(assignment.Terms, assignment.Course, student.Allowance) <= clock.GetUtcNow().ToInstant())
            return false;
        return database.Write(connection =>
        {
            var now = clock.GetUtcNow();
            if (
                connection.Execute(
                    $"""
                    update attempt
                    set {NotHandedIn}
                    where id = @id and assignment_id = @assignment and handed_in_at is not null and deleted_at is null
                    """,
                    new
                    {
                        id,
                        assignment = assignment.Id,
                        now,
                    }
                ) == 0
            )
                return false;
            Assignments.Retime(connection, Assignments.One(connection, assignment.Id)!);
            connection.Execute("delete from response where attempt_id = @id", new { id });
            Standings.Recount(connection, assignment.Id, student.Id);
            Records.Add(connection, clock, teacher, assignment.Id, id, RecordKind.GivenBack, null, null);
            return true;
        });
    }

    /// <summary>
    /// Stores what a person decided and said of work that is handed in, which is scored anew. False when somebody else has marked it since
    /// it was read, or it is not handed in any more; nothing is stored then.
    /// </summary>
    /// <param name="seen">How often it had been marked when it was read.</param>
    /// <param name="marker">A second marker's points change no score.</param>
    public bool Mark(long id, long seen, Changes changes, long teacher, Marker marker = Marker.First)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            if (Read(id) is not { Attempt: { Handed: { } handed } attempt } || attempt.Marked != seen)
                return false;
            var marking =
                marker == Marker.Second
                    ? attempt.Marking
                    : changes.Awards.Aggregate(attempt.Marking, (marking, award) => marking.With(award.Pane, award.Target, award.Made));
            var activity = revisions.Activity(attempt.RevisionId, attempt.Rules);
            var (again, exact, waits) = Scored(attempt with { Marking = marking }, handed.At, handed.By);
            var isStored = database.Write(connection =>
            {
                if (!Editions.Claim(connection, attempt))
                    return false;
                AttemptMarks.Add(connection, clock, attempt, changes, teacher, marker);
                AttemptLog.StoreScore(connection, id, again, exact, waits);
                connection.Execute(
                    "update attempt set marked = marked + 1, differs = @differs where id = @id",
                    new { id, differs = Apart(activity, attempt.Responses, marking, AttemptMarks.Second(connection, id)).Count }
                );
                Standings.Recount(connection, attempt.AssignmentId, attempt.StudentId);
                return true;
            });
            if (isStored)
                return true;
        }
        throw TooSlow();
    }

    private static TimeoutException TooSlow() => new TimeoutException("Others were always faster to change this attempt.");

    /// <summary>At which targets a second marker is apart from what counts, and by how many points: more are positive.</summary>
    public static IReadOnlyDictionary<(string Pane, string Target), decimal> Apart(
        Activity activity,
        ImmutableDictionary<string, Response> responses,
        Marking marking,
        IReadOnlyList<SecondMark> second
    )
    {
        var points = second.Count == 0 ? [] : Scorer.Score(activity, responses, marking.Awards).Panes;
        return second
            .Where(mark => !mark.IsAgreed)
            .Select(mark =>
                (
                    mark,
                    target: points
                        .FirstOrDefault(pane => pane.Pane == mark.Pane)
                        ?.Targets.FirstOrDefault(target => target.Target == mark.Award.Target)
                )
            )
            .Where(each => each.target is not null)
            .Select(each => (each.mark, by: each.mark.Award.Credit * each.target!.Possible - each.target.Points))
            .Where(each => each.by != 0)
            .ToDictionary(each => (each.mark.Pane, each.mark.Award.Target), each => each.by);
    }

    /// <summary>What a second marker gave.</summary>
    public IReadOnlyList<SecondMark> Second(long id) => database.Read(connection => AttemptMarks.Second(connection, id));

    /// <summary>Whether a teacher has given points to an attempt as this marker.</summary>
    public bool HasMarked(long id, long teacher, Marker marker) =>
        database.Read(connection => AttemptMarks.HasMarked(connection, id, teacher, marker));

    /// <summary>When each move of a log was made, without those that were typed over.</summary>
    public IReadOnlyList<MoveMoment> Moments(long id) =>
        database.Read(connection =>
            AttemptLog
                .Read(connection, id)
                .Select(row => (row, move: row.Read()))
                .Where(each => each.move is not Typing)
                .Select(each => new MoveMoment(each.row.Number, each.row.MadeAt, each.move is PressCheck))
                .ToList()
        );

    /// <summary>What the first moves of a log come to, by pane id.</summary>
    public ImmutableDictionary<string, Response> ResponsesAfter(long id, long moves) =>
        database.Read(connection => AttemptLog.Replay(AttemptLog.Read(connection, id).Where(move => move.Number <= moves)));

    /// <summary>What a wall shows of an assignment: each student's last attempt, with how far its log is.</summary>
    public IReadOnlyList<WatchedLine> Watched(long assignment) =>
        database.Read(connection =>
            connection
                .Query<WatchedLine>(
                    """
                    select attempt.id, attempt.student_id, coalesce(member.name, student.name) as name, attempt.number, attempt.version,
                           attempt.marked, attempt.placed, attempt.started_at, attempt.handed_in_at, attempt.late,
                           (select made_at from move where attempt_id = attempt.id order by number desc limit 1) as moved_at,
                           (select id from move where attempt_id = attempt.id order by number desc limit 1) as last_move
                    from attempt
                    join student on student.id = attempt.student_id
                    left join member on member.id = student.member_id
                    where attempt.assignment_id = @assignment and attempt.deleted_at is null and student.deleted_at is null
                      and attempt.number = (
                          select max(number) from attempt as other where other.student_id = student.id and other.deleted_at is null)
                    order by student.sort_key
                    limit @MostWatched
                    """,
                    new { assignment, MostWatched }
                )
                .AsList()
        );

    /// <summary>More than any class has; a wall of more shows the first of them by name.</summary>
    public const int MostWatched = 500;

    /// <summary>The points of each criterion that a person gave, by pane and target.</summary>
    public IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> Parts(long id) =>
        database.Read(connection => AttemptMarks.Parts(connection, id));

    /// <summary>Notes that a student was shown what waited for the teacher's word.</summary>
    public void Saw(Attempt attempt) =>
        database.Write(connection =>
            connection.Execute(
                $"update attempt set {Editions.Raised}, saw_at = @now where id = @Id and saw_at is null",
                new { attempt.Id, now = clock.GetUtcNow() }
            )
        );

    /// <summary>The moves of a log with their times.</summary>
    public IReadOnlyList<(DateTimeOffset At, string Pane, Move Move)> Log(long id) =>
        database.Read(connection => AttemptLog.Read(connection, id).Select(move => (move.MadeAt, move.Pane, move.Read())).ToList());

    /// <summary>
    /// The next work beside one in which something waits to be marked: the one after it by name, or the first; null where none waits. And
    /// how many wait beside it.
    /// </summary>
    public (long Count, AttemptLine? Next) WaitingBeside(Attempt attempt) =>
        database.Read(connection =>
        {
            var waits = $"""
                attempt.assignment_id = @AssignmentId and attempt.id <> @Id and attempt.deleted_at is null
                and {Filtered(AttemptFilter.Waits)}
                """;
            var next = connection.QueryFirstOrDefault<Row>(
                $"""
                {Columns}
                join student as own on own.id = @StudentId
                where {waits}
                order by (student.sort_key, attempt.number) < (own.sort_key, @Number), student.sort_key, attempt.number
                limit 1
                """,
                attempt
            );
            return (
                next is null
                    ? 0
                    : connection.ExecuteScalar<long>(
                        $"select count(*) from attempt join student on student.id = attempt.student_id where {waits}",
                        attempt
                    ),
                next?.Line
            );
        });

    /// <summary>A copy of the attempt, which may be older than what is stored.</summary>
    /// <param name="isAnew">Whether what is stored is read.</param>
    private LoggedAttempt? Recall(Device device, bool isAnew) =>
        !isAnew && attempts.TryGet(device.Identity, out var known) ? known : Read(device.AttemptId);

    private bool IsCurrent(LoggedAttempt read) => RowOf(read.Attempt.Id) is { } row && IsOf(row, read);

    private static bool IsOf(Row row, LoggedAttempt read) => row.Identity == read.Attempt.Identity && row.Edition == read.Attempt.Edition;

    private Row? RowOf(long id) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Row>($"{Columns} where attempt.id = @id and attempt.deleted_at is null", new { id })
        );

    /// <summary>
    /// The attempt as it is stored, of which only the log is not read again that is known already; null when there is none.
    /// </summary>
    private LoggedAttempt? Read(long id)
    {
        if (RowOf(id) is not { } row)
            return null;
        if (attempts.TryGet(row.Identity, out var known) && IsOf(row, known))
            return known;
        var read = database.ReadAtOnce(connection =>
            connection.QuerySingleOrDefault<Row>($"{Columns} where attempt.id = @id and attempt.deleted_at is null", new { id }) is { } now
                ? AttemptLog.Replayed(
                    LoggedAttempt.Begun(AttemptOf(now, now.Marked == 0 ? Marking.None : AttemptMarks.Read(connection, id)), now.SecretHash),
                    AttemptLog.Read(connection, id)
                )
                : null
        );
        if (read is not null)
            attempts.Put(read.Attempt.Identity, read);
        return read;
    }

    /// <summary>An attempt before its first move.</summary>
    private static Attempt AttemptOf(Row row, Marking marking) =>
        new(
            row.Id,
            row.Identity,
            row.Edition,
            row.AssignmentId,
            row.StudentId,
            row.Number,
            row.RevisionId,
            row.Rules,
            row.Name,
            row.Seed,
            row.StartedAt,
            row.EndsAt,
            row.Late,
            0,
            ResponseDocument.Empty,
            row.Handed,
            row.Marked,
            marking,
            row.ReleasedAt,
            row.SawAt,
            row.TakenBack
        );

    /// <param name="Added">What there is more of the log.</param>
    private sealed record Made(Added Added, ImmutableArray<RefusedMove> Refused, LoggedAttempt After);

    private static Made Make(Activity activity, LoggedAttempt before, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        var (after, refused) = (before, ImmutableArray.CreateBuilder<RefusedMove>());
        var (logged, typedOver) = (new List<LoggedMove>(), new List<Typed>());
        foreach (var move in moves)
        {
            if (after.Keys.Contains(move.Key))
                continue;
            if (after.IsStale(move))
            {
                refused.Add(new(move.Key, new(Refused.Stale)));
                continue;
            }
            if (OfMuch(after, move.Move, received) is { } tooMuch)
            {
                refused.Add(new(move.Key, tooMuch));
                continue;
            }
            var made = Progress.Make(activity, after.Attempt.Responses, move.Pane, move.Move);
            if (made.Refusal is { } refusal)
            {
                refused.Add(new(move.Key, refusal));
                continue;
            }
            // What follows from a move is kept as moves of its own, so that a later change of the key does not change what was done.
            for (var i = 0; i < made.Moves.Length; i++)
            {
                var each = LoggedMove.Of(i == 0 ? move.Key : null, move.Pane, made.Moves[i]);
                after = after.With(each, move.Device, received, out var over);
                logged.Add(each);
                if (over is null)
                    continue;
                if (over.Number <= before.Version)
                    typedOver.Add(over);
                else
                    logged[(int)(over.Number - before.Version - 1)] = logged[(int)(over.Number - before.Version - 1)] with
                    {
                        Json = over.Kept,
                    };
            }
        }
        return new(new(logged, typedOver), refused.ToImmutable(), after);
    }

    /// <summary>Why there would be more than an attempt may have; null when there would not.</summary>
    private static Refusal? OfMuch(LoggedAttempt attempt, Move move, DateTimeOffset received) =>
        attempt.Version - attempt.TypedOver >= Limits.MostMoves
        || attempt.TypedOver >= Limits.MostTypedOver
        || attempt.Length >= Limits.LongestMoves
            ? new(Refused.TooManyMoves)
        : move is TryCode && attempt.Codes.Count(at => at > received - Limits.CodesWithin) >= Limits.MostCodesWithin
            ? new(Refused.CodesTooFast)
        : null;

    private static int PlacedIn(Attempt attempt) => attempt.Responses.Values.Sum(response => response.Answers);

    private static ImmutableDictionary<string, Response> WithoutEarlier(ImmutableDictionary<string, Response> responses) =>
        responses.ToImmutableDictionary(response => response.Key, response => response.Value with { Earlier = [] });
}
