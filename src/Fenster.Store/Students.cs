using System.Data;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Model;

namespace Fenster.Store;

/// <summary>A student at an assignment.</summary>
public sealed record Student
{
    public long Id { get; init; }
    public long AssignmentId { get; init; }

    /// <summary>Null for a guest.</summary>
    public long? MemberId { get; init; }
    public required string Name { get; init; }

    /// <summary>By which they come back on another device; null for a guest of before, who has none yet.</summary>
    public string? Word { get; init; }
    internal string? SecretHash { get; init; }
    internal long ExtraTime { get; init; }
    internal DateTimeOffset? ClosesAt { get; init; }
    internal DateTimeOffset? EndedAt { get; init; }

    public Allowance Allowance => new((int)ExtraTime, ClosesAt?.ToInstant(), EndedAt?.ToInstant());
}

/// <summary>A student who came in, and the secret that lets this device come back.</summary>
public sealed record CameIn(Student Student, string Secret)
{
    /// <summary>Whether a device before it is let in no more.</summary>
    public bool TookOver { get; init; }
}

/// <summary>A student as the list of an assignment shows them, whether they came or not.</summary>
public sealed record RosterLine
{
    /// <summary>Null for a member who has not come yet, and of whom the teacher has said nothing.</summary>
    public long? StudentId { get; init; }
    public long? MemberId { get; init; }
    public required string Name { get; init; }
    public string? Word { get; init; }
    public long Begun { get; init; }
    public long Working { get; init; }
    public long Late { get; init; }

    /// <summary>The last attempt; null when none was begun.</summary>
    public long? LastAttempt { get; init; }
    public DateTimeOffset? SeenAt { get; init; }
    public DateTimeOffset? ClosesAt { get; init; }
    public DateTimeOffset? EndedAt { get; init; }
    internal string? Away { get; init; }

    public StudentState State => StudentStates.Of(StudentStates.Read(Away), Begun, Working > 0, Late);
}

/// <summary>Why a name or a word lets nobody in.</summary>
public enum NoEntry
{
    /// <summary>Somebody has the name, and has begun.</summary>
    NameTaken,

    /// <summary>It is not the word of who has the name.</summary>
    WrongWord,

    /// <summary>Nobody on the list has the name.</summary>
    NotOnTheList,
}

/// <summary>Who works at assignments, and how devices come back to their work.</summary>
public sealed class Students(Database database, TimeProvider clock)
{
    internal const string Columns = """
        select student.id, student.assignment_id, student.member_id, coalesce(member.name, student.name) as name,
               coalesce(member.word, student.word) as word, student.secret_hash, student.closes_at, student.ended_at,
               coalesce(student.extra_time, member.extra_time, 0) as extra_time
        from student
        left join member on member.id = student.member_id
        """;

    /// <summary>Who a device's secret belongs to; null for nobody at this assignment.</summary>
    public Student? BySecret(long assignment, string secret) =>
        First("student.secret_hash = @hash and student.assignment_id = @assignment", new { assignment, hash = Secret.Hash(secret) });

    public Student? One(long assignment, long id) =>
        First("student.id = @id and student.assignment_id = @assignment", new { assignment, id });

    /// <summary>What a member is at an assignment; null for one who has not come.</summary>
    public Student? OfMember(long assignment, long member) =>
        First("student.member_id = @member and student.assignment_id = @assignment", new { assignment, member });

    /// <summary>A member of a class; null when they are not on its list any more.</summary>
    public Member? MemberOf(long group, long id) => Find("member.id = @id", group, new { group, id });

    /// <summary>Whether somebody came as a guest under a name.</summary>
    public bool IsGuest(long assignment, string name) =>
        First("student.folded_name = @folded and student.assignment_id = @assignment", new { assignment, folded = PersonName.Fold(name) })
            is not null;

    private Student? First(string where, object parameters) =>
        database.Read(connection =>
            connection.QueryFirstOrDefault<Student>($"{Columns} where {where} and student.deleted_at is null", parameters)
        );

    /// <summary>Lets a guest in, under a name that nobody has, or who has it and knows its word.</summary>
    /// <param name="word">As it was typed; null for none.</param>
    public (CameIn? In, NoEntry? Why) Guest(Assignment assignment, string name, string? word)
    {
        var secret = Secret.New();
        var id = database.Write(connection =>
        {
            var let = connection.QuerySingleOrDefault<long?>(
                """
                insert into student (identity, assignment_id, name, folded_name, sort_key, secret_hash, word, joined_at)
                values (@Identity, @Assignment, @Name, @Folded, @Key, @Hash, @New, @Now)
                on conflict (assignment_id, folded_name) do update
                    set secret_hash = excluded.secret_hash
                    where student.word = @Word and student.member_id is null
                returning id
                """,
                new
                {
                    Identity = Identity.New(),
                    Assignment = assignment.Id,
                    Name = name,
                    Folded = PersonName.Fold(name),
                    Key = NameOrder.KeyOf(name, LanguageOf(connection, assignment.Id)),
                    Hash = Secret.Hash(secret),
                    New = PersonalWords.New(),
                    Word = word is null ? null : PersonalWords.Tidy(word),
                    Now = clock.GetUtcNow(),
                }
            );
            if (let is { } known)
                Editions.RaiseOf(connection, known);
            return let;
        });
        return id is { } student ? (new(One(assignment.Id, student)!, secret) { TookOver = word is { Length: > 0 } }, null)
            : word is { Length: > 0 } ? (null, NoEntry.WrongWord)
            : (null, NoEntry.NameTaken);
    }

    /// <summary>The member of a class by the personal word; null when nobody has it.</summary>
    /// <param name="word">As it was typed.</param>
    public Member? ByWord(long group, string word) => Find("member.word = @word", group, new { group, word = PersonalWords.Tidy(word) });

    /// <summary>The member of a class by name; null when nobody has it.</summary>
    public Member? OnList(long group, string name) =>
        Find("member.folded_name = @folded", group, new { group, folded = PersonName.Fold(name) });

    private Member? Find(string where, long group, object parameters) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Member>(
                $"{Classes.MemberColumns} where member.class_id = @group and member.removed_at is null and {where}",
                parameters
            )
        );

    /// <summary>
    /// Lets a member in on this device. Who comes by the name alone comes only where no other device works under it.
    /// </summary>
    /// <param name="knowsWord">Whether the member's own word was told.</param>
    public (CameIn? In, NoEntry? Why) Let(Assignment assignment, Member member, bool knowsWord)
    {
        var secret = Secret.New();
        var (id, tookOver) = database.Write(connection =>
        {
            var known = IdOf(connection, assignment.Id, member);
            var hadDevice = connection.ExecuteScalar<bool>("select secret_hash is not null from student where id = @known", new { known });
            var let = connection.QuerySingleOrDefault<long?>(
                """
                update student
                set secret_hash = @hash, joined_at = coalesce(joined_at, @now)
                where id = @known and (secret_hash is null or @knowsWord)
                returning id
                """,
                new
                {
                    known,
                    knowsWord,
                    hash = Secret.Hash(secret),
                    now = clock.GetUtcNow(),
                }
            );
            if (let is { } changed)
                Editions.RaiseOf(connection, changed);
            return (let, hadDevice);
        });
        return id is { } student ? (new(One(assignment.Id, student)!, secret) { TookOver = tookOver }, null) : (null, NoEntry.NameTaken);
    }

    /// <summary>The row of a member at an assignment, which is made when there is none.</summary>
    private static long IdOf(IDbConnection connection, long assignment, Member member) =>
        connection.ExecuteScalar<long?>(
            "select id from student where assignment_id = @assignment and member_id = @Id and deleted_at is null",
            new { assignment, member.Id }
        )
        ?? connection.ExecuteScalar<long>(
            """
            insert into student (identity, assignment_id, member_id, name, folded_name, sort_key)
            values (@identity, @assignment, @Id, @Name, @folded, @key)
            returning id
            """,
            new
            {
                identity = Identity.New(),
                assignment,
                member.Id,
                member.Name,
                // Members are told apart by who they are, so that a guest of the same name is no member.
                folded = $"{PersonName.Fold(member.Name)}\u0002{member.Id}",
                key = NameOrder.KeyOf(member.Name, LanguageOf(connection, assignment)),
            }
        );

    /// <summary>In which names at an assignment are sorted; null where it is given to no class.</summary>
    private static string? LanguageOf(IDbConnection connection, long assignment) =>
        connection.ExecuteScalar<string?>(
            "select class.language from assignment join class on class.id = assignment.class_id where assignment.id = @assignment",
            new { assignment }
        );

    private sealed record Unsorted
    {
        public long Id { get; init; }
        public required string Name { get; init; }
        public string? Language { get; init; }
    }

    /// <summary>Works out by what students are sorted of whom that is not known; false when there are none left.</summary>
    internal static bool Sort(IDbConnection connection)
    {
        const int Most = 500;
        var unsorted = connection
            .Query<Unsorted>(
                """
                select student.id, coalesce(member.name, student.name) as name, class.language
                from student
                join assignment on assignment.id = student.assignment_id
                left join member on member.id = student.member_id
                left join class on class.id = assignment.class_id
                where student.sort_key is null
                limit @Most
                """,
                new { Most }
            )
            .AsList();
        foreach (var student in unsorted)
            connection.Execute(
                "update student set sort_key = @key where id = @Id",
                new { student.Id, key = NameOrder.KeyOf(student.Name, student.Language) }
            );
        return unsorted.Count > 0;
    }

    /// <summary>Sorts students anew, since what they are sorted by has changed.</summary>
    /// <param name="which">Of <c>student</c>.</param>
    internal static void SortAnew(IDbConnection connection, string which, object parameters)
    {
        connection.Execute($"update student set sort_key = null where {which}", parameters);
        while (Sort(connection)) { }
    }

    /// <summary>Makes the word anew by which a guest comes back on another device; the device that works goes on.</summary>
    /// <returns>The word; null when there is no such guest.</returns>
    public string? NewWord(long assignment, long id) =>
        database.Write(connection =>
            connection.ExecuteScalar<string?>(
                """
                update student
                set word = @word
                where id = @id and assignment_id = @assignment and member_id is null and deleted_at is null
                returning word
                """,
                new
                {
                    assignment,
                    id,
                    word = PersonalWords.New(),
                }
            )
        );

    /// <summary>Notes that a student is there, such as in a waiting room.</summary>
    public void Seen(long id) =>
        database.Write(connection =>
            connection.Execute("update student set seen_at = @now where id = @id", new { id, now = clock.GetUtcNow() })
        );

    /// <summary>Lets one student go on longer than the others; null for no longer than they.</summary>
    /// <returns>False when there is no such student.</returns>
    public bool CloseLater(Assignment assignment, long id, DateTimeOffset? at) =>
        Allow(assignment, id, "closes_at = @At", new() { At = at });

    /// <summary>Ends it for one student alone; null lets them go on.</summary>
    /// <inheritdoc cref="CloseLater"/>
    public bool End(Assignment assignment, long id, DateTimeOffset? at) => Allow(assignment, id, "ended_at = @At", new() { At = at });

    /// <summary>Notes that a student was absent or is excused; null for neither.</summary>
    /// <inheritdoc cref="CloseLater"/>
    public bool Note(Assignment assignment, long id, StudentState? state) =>
        Allow(
            assignment,
            id,
            "state = @State",
            new() { State = state is StudentState.Absent or StudentState.Excused ? state.ToString() : null }
        );

    /// <summary>What is allowed: each value in its own type, since a time of no type is stored as text.</summary>
    private sealed record Allowed
    {
        public DateTimeOffset? At { get; init; }
        public string? State { get; init; }
    }

    private bool Allow(Assignment assignment, long id, string set, Allowed allowed) =>
        database.Write(connection =>
        {
            var changed = connection.Execute(
                $"update student set {set} where id = @id and assignment_id = @assignment and deleted_at is null",
                new
                {
                    id,
                    assignment = assignment.Id,
                    allowed.At,
                    allowed.State,
                }
            );
            if (changed == 1 && Assignments.One(connection, assignment.Id) is { } after)
                Assignments.Retime(connection, after);
            return changed == 1;
        });

    /// <summary>The student that a member is at an assignment, made when they have not come yet.</summary>
    public long Of(Assignment assignment, Member member) => database.Write(connection => IdOf(connection, assignment.Id, member));

    /// <summary>Who is on the list of the class that an assignment is given to and has not begun, without who was away; by name.</summary>
    public IReadOnlyList<string> NotBegun(Assignment assignment, string language) =>
        [
            .. database
                .Read(connection =>
                    connection.Query<string>(
                        """
                        select member.name
                        from member
                        where member.class_id = @ClassId and member.removed_at is null
                          and not exists (
                              select 1
                              from student
                              where student.assignment_id = @Id and student.member_id = member.id and student.deleted_at is null
                                and (student.state is not null
                                  or exists (select 1 from attempt where attempt.student_id = student.id and attempt.deleted_at is null)))
                        """,
                        new { assignment.Id, assignment.ClassId }
                    )
                )
                .Order(NameOrder.Of(language)),
        ];

    /// <summary>Everybody whom an assignment is given to, and who came: members in their language's order, then guests.</summary>
    public IReadOnlyList<RosterLine> Roster(Assignment assignment, string language)
    {
        const string Sums = """
            (select count(*) from attempt where attempt.student_id = student.id and attempt.deleted_at is null) as begun,
            (select count(*) from attempt
             where attempt.student_id = student.id and attempt.deleted_at is null and attempt.handed_in_at is null) as working,
            (select coalesce(sum(late), 0) from attempt where attempt.student_id = student.id and attempt.deleted_at is null) as late,
            (select max(id) from attempt where attempt.student_id = student.id and attempt.deleted_at is null) as last_attempt,
            student.seen_at, student.closes_at, student.ended_at, student.state as away
            """;
        var lines = database.Read(connection =>
            connection
                .Query<RosterLine>(
                    $"""
                    select student.id as student_id, member.id as member_id, member.name, member.word, {Sums}
                    from member
                    left join student on student.member_id = member.id and student.assignment_id = @Id and student.deleted_at is null
                    where member.class_id = @ClassId and (member.removed_at is null or student.id is not null)
                    union all
                    select student.id, null, student.name, student.word, {Sums}
                    from student
                    where student.assignment_id = @Id and student.member_id is null and student.deleted_at is null
                    """,
                    new { assignment.Id, assignment.ClassId }
                )
                .AsList()
        );
        return [.. lines.OrderBy(line => line.MemberId is null).ThenBy(line => line.Name, NameOrder.Of(language))];
    }

    /// <summary>
    /// Makes two students one: what the first did becomes the second's, behind what that one did. For a child who came twice, or a guest
    /// who is a member.
    /// </summary>
    /// <returns>False when they are not two of this assignment.</returns>
    public bool Merge(Assignment assignment, long from, long into, long teacher) =>
        from != into
        && database.Write(connection =>
        {
            var known = connection.ExecuteScalar<int>(
                "select count(*) from student where id in (@from, @into) and assignment_id = @Id and deleted_at is null",
                new
                {
                    from,
                    into,
                    assignment.Id,
                }
            );
            if (known != 2)
                return false;
            // The numbers of the second's own stay, since a device may be at work on one of them.
            Editions.RaiseOf(connection, into);
            connection.Execute(
                """
                update attempt
                set edition = edition + 1, student_id = @into, number = number + (select coalesce(max(number), 0) from attempt where student_id = @into)
                where student_id = @from;
                update student
                set secret_hash = coalesce(secret_hash, (select secret_hash from student where id = @from)),
                    joined_at = coalesce(joined_at, @now)
                where id = @into;
                delete from student where id = @from
                """,
                new
                {
                    from,
                    into,
                    now = clock.GetUtcNow(),
                }
            );
            SortAnew(connection, "id = @into", new { into });
            Standings.Recount(connection, assignment.Id, into);
            Records.Add(connection, clock, teacher, assignment.Id, null, RecordKind.Merged, $"{from}", $"{into}");
            return true;
        });
}
