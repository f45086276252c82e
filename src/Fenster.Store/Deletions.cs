using System.Data;
using System.Text.Json;
using Dapper;

namespace Fenster.Store;

/// <summary>Something that waits to be gone for good.</summary>
/// <param name="Name">Title of an activity, or name of a student with it.</param>
public sealed record DeletedThing
{
    public required string Kind { get; init; }
    public long Id { get; init; }
    public required string Name { get; init; }
    public DateTimeOffset DeletedAt { get; init; }
}

/// <summary>
/// Deleting in two steps: what is deleted is out of sight and can be brought back for thirty days; then it is gone from every file
/// of the data folder. What is gone is listed beside the database by its identity, so that it goes again from a copy that is restored,
/// and nothing else with it.
/// </summary>
/// <param name="keepMonths">How long work is kept after its class was put away, where the class says nothing; null for always.</param>
public sealed class Deletions(Database database, TimeProvider clock, int? keepMonths = null)
{
    /// <summary>How long work is kept after its class was put away, in months; null for always.</summary>
    public int? KeepMonths { get; } = keepMonths;

    public static readonly TimeSpan Grace = TimeSpan.FromDays(30);

    private const string Activity = "activity";

    private string ListFile => Path.Combine(database.Folder, "deletions.log");

    /// <summary>Deletes an activity of a teacher with all its work; false when there is none.</summary>
    public bool DeleteActivity(long teacher, long id) =>
        database.Write(connection =>
            connection.Execute(
                """
                update activity
                set deleted_at = @now
                where id = @id and teacher_id = @teacher and deleted_at is null
                """,
                new
                {
                    teacher,
                    id,
                    now = clock.GetUtcNow(),
                }
            ) == 1
        );

    /// <summary>Brings a deleted activity back; false when there is none.</summary>
    public bool BringBackActivity(long teacher, long id) =>
        database.Write(connection =>
            connection.Execute(
                """
                update activity
                set deleted_at = null
                where id = @id and teacher_id = @teacher and deleted_at is not null
                """,
                new { teacher, id }
            ) == 1
        );

    /// <summary>
    /// Deletes all work of the student whose attempt it is at an assignment, whose name is free from then on; false when there is none.
    /// </summary>
    public bool DeleteWork(long teacher, long assignment, long attempt) =>
        database.Write(connection =>
        {
            var student = connection.ExecuteScalar<long?>(
                $"""
                update student
                set deleted_at = @now, folded_name = folded_name || char(1) || id
                where id = (select student_id from attempt where id = @attempt) and assignment_id = @assignment and deleted_at is null
                  and {OfTeacher}
                returning id
                """,
                new
                {
                    teacher,
                    assignment,
                    attempt,
                    now = clock.GetUtcNow(),
                }
            );
            connection.Execute(
                $"update attempt set {Editions.Raised}, deleted_at = @now where student_id = @student and deleted_at is null",
                new { student, now = clock.GetUtcNow() }
            );
            return student is not null;
        });

    /// <summary>Of a student: whether the assignment is of an activity of the teacher's.</summary>
    private const string OfTeacher = $"""
        student.assignment_id in (
            select assignment.id
            from assignment
            join activity on activity.id = assignment.activity_id
            where {Drafts.OfTeacher} and activity.deleted_at is null)
        """;

    private sealed record Back
    {
        public long Id { get; init; }
        public required string Name { get; init; }
        public required string FoldedName { get; init; }

        /// <summary>The name as it is compared, before it was made free for others.</summary>
        public string FreeName => FoldedName[..FoldedName.LastIndexOf('\u0001')];
        public bool IsTaken { get; init; }
    }

    /// <summary>
    /// Brings a student's deleted work back, and what else of the same member was deleted at the same moment; under another name when
    /// theirs is taken by now. False when there is none.
    /// </summary>
    /// <param name="anotherName">Makes another name of one that is taken.</param>
    public bool BringBackWork(long teacher, long student, Func<string, string> anotherName) =>
        database.Write(connection =>
        {
            var all = connection
                .Query<Back>(
                    $"""
                    select student.id, student.name, student.folded_name,
                           exists (
                               select 1
                               from student as other
                               where other.assignment_id = student.assignment_id and other.deleted_at is null
                                 and (other.member_id = student.member_id
                                   or other.folded_name = substr(student.folded_name, 1, instr(student.folded_name, char(1)) - 1))
                           ) as is_taken
                    from student
                    join student as own on own.id = @student and own.deleted_at is not null
                      and (student.id = own.id or (student.member_id = own.member_id and student.deleted_at = own.deleted_at))
                    where {OfTeacher}
                    """,
                    new { teacher, student }
                )
                .AsList();
            foreach (var back in all)
                connection.Execute(
                    $"""
                    update student
                    set deleted_at = null, name = @name, folded_name = @folded, sort_key = null, member_id = case when @IsTaken then null else member_id end
                    where id = @Id;
                    update attempt set {Editions.Raised}, deleted_at = null where student_id = @Id
                    """,
                    new
                    {
                        back.Id,
                        back.IsTaken,
                        name = back.IsTaken ? anotherName(back.Name) : back.Name,
                        // The number stays in it, so that nobody else is called so.
                        folded = back.IsTaken ? back.FoldedName.Replace('\u0001', ' ') : back.FreeName,
                    }
                );
            while (Students.Sort(connection)) { }
            return all.Count > 0;
        });

    /// <summary>Deletes a class with all work that was done for it; false when the teacher has none of this id.</summary>
    public bool DeleteClass(long teacher, long id) => MarkClass(teacher, id, clock.GetUtcNow());

    /// <summary>Brings a deleted class back; false when there is none.</summary>
    public bool BringBackClass(long teacher, long id) => MarkClass(teacher, id, null);

    /// <summary>What was given to a class goes and comes back with it: it bears the same moment.</summary>
    private bool MarkClass(long teacher, long id, DateTimeOffset? at) =>
        database.Write(connection =>
        {
            var parameters = new
            {
                teacher,
                id,
                at,
            };
            var before = connection.ExecuteScalar<long?>("select deleted_at from class where id = @id", parameters);
            var marked = connection.Execute(
                """
                update class
                set deleted_at = @at
                where id = @id and (deleted_at is null) <> (@at is null)
                  and exists (select 1 from class_teacher where class_id = @id and teacher_id = @teacher)
                """,
                parameters
            );
            if (marked == 1)
                connection.Execute(
                    "update assignment set deleted_at = @at where class_id = @id and deleted_at is @before",
                    new
                    {
                        id,
                        at,
                        before,
                    }
                );
            return marked == 1;
        });

    /// <summary>Deletes what was given, with all work at it; false when it is of no activity of the teacher's.</summary>
    public bool DeleteAssignment(long teacher, long id) => MarkAssignment(teacher, id, clock.GetUtcNow());

    /// <summary>Brings back what was given; false when there is none.</summary>
    public bool BringBackAssignment(long teacher, long id) => MarkAssignment(teacher, id, null);

    private bool MarkAssignment(long teacher, long id, DateTimeOffset? at) =>
        database.Write(connection =>
            connection.Execute(
                $"""
                update assignment
                set deleted_at = @at
                where id = @id and (deleted_at is null) <> (@at is null)
                  and activity_id in (select id from activity where {Drafts.OfTeacher} and deleted_at is null)
                  and (class_id is null or class_id in (select id from class where deleted_at is null))
                """,
                new
                {
                    teacher,
                    id,
                    at,
                }
            ) == 1
        );

    /// <summary>What a teacher can still bring back, the last deleted first.</summary>
    public IReadOnlyList<DeletedThing> Of(long teacher) =>
        database.Read(connection =>
            connection
                .Query<DeletedThing>(
                    $"""
                    select 'activity' as kind, id, title as name, deleted_at
                    from activity
                    where teacher_id = @teacher and deleted_at is not null
                    union all
                    select 'class', class.id, class.name, class.deleted_at
                    from class
                    join class_teacher on class_teacher.class_id = class.id
                    where class_teacher.teacher_id = @teacher and class.deleted_at is not null
                    union all
                    select 'assignment', assignment.id, activity.title || coalesce(', ' || class.name, ', ' || assignment.code),
                           assignment.deleted_at
                    from assignment
                    join activity on activity.id = assignment.activity_id
                    left join class on class.id = assignment.class_id
                    where {Drafts.OfTeacher} and activity.deleted_at is null and assignment.deleted_at is not null
                      and class.deleted_at is null
                    union all
                    select 'work', min(student.id), student.name || ', ' || case when count(*) = 1 then activity.title else class.name end,
                           student.deleted_at
                    from student
                    join assignment on assignment.id = student.assignment_id
                    join activity on activity.id = assignment.activity_id
                    left join class on class.id = assignment.class_id
                    where {Drafts.OfTeacher} and activity.deleted_at is null and assignment.deleted_at is null
                      and student.deleted_at is not null
                    group by student.deleted_at, coalesce(student.member_id, -student.id)
                    order by deleted_at desc
                    """,
                    new { teacher }
                )
                .AsList()
        );

    private sealed record Due
    {
        public required string Kind { get; init; }
        public long Id { get; init; }
        public required string Identity { get; init; }
    }

    /// <summary>What is gone, as the list has it.</summary>
    /// <param name="Identity">Null in lines of before, which name a row by its number.</param>
    private sealed record Gone(string Kind, long Id, DateTimeOffset At, string? Identity = null);

    /// <summary>Removes for good what has waited long enough, files that nothing uses, and old copies of the database.</summary>
    /// <returns>How many things are gone now.</returns>
    public int Sweep()
    {
        DeleteOldWork();
        var before = clock.GetUtcNow() - Grace;
        var due = database.Read(connection =>
            connection
                .Query<Due>(
                    """
                    select 'work' as kind, id, identity from student where deleted_at < @before
                    union all
                    select 'assignment', id, identity from assignment where deleted_at < @before
                    union all
                    select 'class', id, identity from class where deleted_at < @before
                    union all
                    select 'activity', id, identity from activity where deleted_at < @before
                    union all
                    select 'member', id, identity
                    from member
                    where removed_at < @before
                      and not exists (select 1 from student where member_id = member.id and (deleted_at is null or deleted_at >= @before))
                    """,
                    new { before }
                )
                .AsList()
        );
        foreach (var each in due)
        {
            File.AppendAllLines(ListFile, [JsonSerializer.Serialize(new Gone(each.Kind, each.Id, clock.GetUtcNow(), each.Identity))]);
            Remove(each.Kind, each.Id);
        }
        SweepMedia();
        OwnFiles.DeleteFolders(database.Folder, OwnFiles.RemoveUnused(database, clock.GetUtcNow() - KeptUnused));
        foreach (var copy in Directory.GetFiles(database.Folder, "before-upgrade-*.db"))
            if (File.GetLastWriteTimeUtc(copy) < before.UtcDateTime)
                File.Delete(copy);
        if (due.Count > 0)
            database.Settle();
        return due.Count;
    }

    /// <summary>Deletes work whose class was put away so long ago; it can be brought back for as long as anything that is deleted.</summary>
    private void DeleteOldWork() =>
        database.Write(connection =>
            connection.Execute(
                """
                create temp table old as
                    select student.id
                    from student
                    join assignment on assignment.id = student.assignment_id
                    join class on class.id = assignment.class_id
                    where student.deleted_at is null
                      and unixepoch(class.archived_at / 1000, 'unixepoch', '+' || coalesce(class.keep_months, @KeepMonths) || ' months') * 1000
                          <= @now;
                update attempt
                set edition = edition + 1, deleted_at = @now
                where student_id in (select id from old) and deleted_at is null;
                update student set deleted_at = @now, folded_name = folded_name || char(1) || id where id in (select id from old);
                drop table old
                """,
                new { KeepMonths, now = clock.GetUtcNow() }
            )
        );

    /// <summary>Deletes all work of a member at what a teacher gave to the class, which is brought back together.</summary>
    /// <returns>At how many assignments.</returns>
    public int DeleteWorkOfMember(long teacher, long member) =>
        database.Write(connection =>
        {
            var parameters = new
            {
                teacher,
                member,
                now = clock.GetUtcNow(),
            };
            connection.Execute(
                $"""
                update attempt
                set {Editions.Raised}, deleted_at = @now
                where deleted_at is null
                  and student_id in (select id from student where member_id = @member and deleted_at is null and {OfTeacher})
                """,
                parameters
            );
            return connection.Execute(
                $"""
                update student
                set deleted_at = @now, folded_name = folded_name || char(1) || id
                where member_id = @member and deleted_at is null and {OfTeacher}
                  and exists (select 1 from attempt where student_id = student.id)
                """,
                parameters
            );
        });

    /// <summary>Does the deletions again that a restored copy does not know of.</summary>
    public void Repeat()
    {
        if (!File.Exists(ListFile))
            return;
        foreach (var line in File.ReadLines(ListFile))
            if (
                JsonSerializer.Deserialize<Gone>(line) is { } gone
                && database.Read(connection => connection.ExecuteScalar<long?>(Named(gone), gone)) is { } id
            )
                Remove(gone.Kind, id);
        SweepMedia();
        database.Settle();
    }

    /// <summary>
    /// Finds the row that a line of the list means. A line of before has a number alone: it means a row that was there before it was
    /// written, since a number is given out again only afterwards.
    /// </summary>
    private static string Named(Gone gone)
    {
        var (table, made) = gone.Kind switch
        {
            Activity => ("activity", "created_at"),
            "class" => ("class", "created_at"),
            "assignment" => ("assignment", "created_at"),
            "member" => ("member", "added_at"),
            "work" => ("student", "coalesce(joined_at, (select created_at from assignment where assignment.id = assignment_id))"),
            // As lists of before name it.
            "attempt" => ("attempt", "started_at"),
            _ => throw Unknown(gone.Kind),
        };
        return $"select id from {table} where {(gone.Identity is null ? $"id = @Id and {made} < @At" : "identity = @Identity")}";
    }

    private static InvalidDataException Unknown(string kind) => new($"'{kind}' is nothing that is deleted.");

    private void Remove(string kind, long id)
    {
        var files = database.Write(connection =>
            kind switch
            {
                Activity => RemoveActivity(connection, id),
                "class" => RemoveClass(connection, id),
                "assignment" => RemoveAssignments(connection, "id = @id", id),
                "work" => RemoveStudents(connection, "id = @id", id),
                "attempt" => RemoveStudents(connection, "id in (select student_id from attempt where id = @id)", id),
                "member" => RemoveMember(connection, id),
                _ => throw Unknown(kind),
            }
        );
        OwnFiles.DeleteFolders(database.Folder, files);
    }

    /// <summary>A name that was taken off a list, with its tags, once there is no work of it.</summary>
    private static IReadOnlyList<string> RemoveMember(IDbConnection connection, long id)
    {
        var files = RemoveStudents(connection, "member_id = @id", id);
        connection.Execute("delete from member where id = @id", new { id });
        return files;
    }

    /// <returns>Names of students' files, whose folders go with it.</returns>
    private static IReadOnlyList<string> RemoveActivity(IDbConnection connection, long id)
    {
        var files = RemoveAssignments(connection, "activity_id = @id", id);
        connection.Execute(
            """
            delete from revision where activity_id = @id;
            delete from draft_version where activity_id = @id;
            delete from draft_pane where activity_id = @id;
            delete from media_use where activity_id = @id;
            delete from activity_subject where activity_id = @id;
            delete from activity_teacher where activity_id = @id;
            delete from activity where id = @id
            """,
            new { id }
        );
        return files;
    }

    private static IReadOnlyList<string> RemoveClass(IDbConnection connection, long id)
    {
        var files = RemoveAssignments(connection, "class_id = @id", id);
        connection.Execute(
            """
            update student set member_id = null where member_id in (select id from member where class_id = @id);
            delete from member where class_id = @id;
            delete from class_teacher where class_id = @id;
            delete from class where id = @id
            """,
            new { id }
        );
        return files;
    }

    private static IReadOnlyList<string> RemoveAssignments(IDbConnection connection, string which, long id)
    {
        var files = RemoveStudents(connection, $"assignment_id in (select id from assignment where {which})", id);
        connection.Execute(
            $"""
            delete from gallery where assignment_id in (select id from assignment where {which});
            delete from pause where assignment_id in (select id from assignment where {which});
            delete from substitute where assignment_id in (select id from assignment where {which});
            delete from record where assignment_id in (select id from assignment where {which});
            delete from news where assignment_id in (select id from assignment where {which});
            delete from regrade where assignment_id in (select id from assignment where {which});
            update assignment set follows = null where follows in (select id from assignment where {which});
            delete from assignment where {which}
            """,
            new { id }
        );
        return files;
    }

    private static IReadOnlyList<string> RemoveStudents(IDbConnection connection, string which, long id)
    {
        var files = OwnFiles.Remove(
            connection,
            $"attempt_id in (select attempt.id from attempt join student on student.id = attempt.student_id where student.{which})",
            new { id }
        );
        connection.Execute(
            $"""
            create temp table going as
                select attempt.id from attempt join student on student.id = attempt.student_id where student.{which};
            delete from move where attempt_id in (select id from going);
            delete from late_move where attempt_id in (select id from going);
            delete from award where attempt_id in (select id from going);
            delete from regrade_change where attempt_id in (select id from going);
            delete from second_mark where attempt_id in (select id from going);
            delete from remark where attempt_id in (select id from going);
            delete from news where attempt_id in (select id from going);
            delete from response where attempt_id in (select id from going);
            delete from attempt where id in (select id from going);
            drop table going;
            delete from student where {which}
            """,
            new { id }
        );
        return files;
    }

    /// <summary>A file that came in so long ago and that neither a shelf nor an activity has.</summary>
    private static readonly TimeSpan UnusedFor = TimeSpan.FromDays(1);

    /// <summary>A file that a student brought in and took away again; a device without a connection may still name it for so long.</summary>
    private static readonly TimeSpan KeptUnused = TimeSpan.FromDays(7);

    private void SweepMedia()
    {
        var unused = database.Write(connection =>
        {
            var hashes = connection
                .Query<string>(
                    """
                    select hash
                    from media
                    where created_at < @before
                      and not exists (select 1 from shelf where shelf.hash = media.hash)
                      and not exists (select 1 from media_use where media_use.hash = media.hash)
                    """,
                    new { before = clock.GetUtcNow() - UnusedFor }
                )
                .AsList();
            foreach (var hash in hashes)
                connection.Execute("delete from media_owner where hash = @hash; delete from media where hash = @hash", new { hash });
            return hashes;
        });
        foreach (var hash in unused)
            if (Directory.Exists(Media.FolderOf(database.Folder, hash)))
                Directory.Delete(Media.FolderOf(database.Folder, hash), recursive: true);
    }
}
