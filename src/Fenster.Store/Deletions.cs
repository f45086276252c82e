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
/// of the data folder. What is gone is listed beside the database, so that it goes again from a copy that is restored.
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
                "update attempt set deleted_at = @now where student_id = @student and deleted_at is null",
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

    /// <summary>Brings a student's deleted work back, under another name when theirs is taken by now; false when there is none.</summary>
    public bool BringBackWork(long teacher, long student) =>
        database.Write(connection =>
        {
            var isBack =
                connection.Execute(
                    $"""
                    with back as (
                        select id, substr(folded_name, 1, instr(folded_name, char(1)) - 1) as free_name,
                               exists (
                                   select 1
                                   from student as other
                                   where other.assignment_id = student.assignment_id and other.deleted_at is null
                                     and (other.member_id = student.member_id
                                       or other.folded_name = substr(student.folded_name, 1, instr(student.folded_name, char(1)) - 1))
                               ) as is_taken
                        from student
                        where id = @student and deleted_at is not null
                    )
                    update student
                    set deleted_at = null,
                        member_id = case when back.is_taken then null else member_id end,
                        name = case when back.is_taken then name || ' (brought back)' else name end,
                        folded_name = case when back.is_taken then replace(folded_name, char(1), ' ') else back.free_name end
                    from back
                    where student.id = back.id and {OfTeacher}
                    """,
                    new { teacher, student }
                ) == 1;
            if (isBack)
                connection.Execute("update attempt set deleted_at = null where student_id = @student", new { student });
            return isBack;
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
                    select 'work', student.id, student.name || ', ' || activity.title, student.deleted_at
                    from student
                    join assignment on assignment.id = student.assignment_id
                    join activity on activity.id = assignment.activity_id
                    where {Drafts.OfTeacher} and activity.deleted_at is null and assignment.deleted_at is null
                      and student.deleted_at is not null
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
    }

    private sealed record Gone(string Kind, long Id, DateTimeOffset At);

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
                    select 'work' as kind, id from student where deleted_at < @before
                    union all
                    select 'assignment', id from assignment where deleted_at < @before
                    union all
                    select 'class', id from class where deleted_at < @before
                    union all
                    select 'activity', id from activity where deleted_at < @before
                    """,
                    new { before }
                )
                .AsList()
        );
        foreach (var each in due)
            Remove(each.Kind, each.Id);
        SweepMedia();
        OwnFiles.DeleteFolders(database.Folder, OwnFiles.RemoveUnused(database, clock.GetUtcNow() - KeptUnused));
        foreach (var copy in Directory.GetFiles(database.Folder, "before-upgrade-*.db"))
            if (File.GetLastWriteTimeUtc(copy) < before.UtcDateTime)
                File.Delete(copy);
        if (due.Count > 0)
            database.Shrink();
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
                update attempt set deleted_at = @now where student_id in (select id from old) and deleted_at is null;
                update student set deleted_at = @now, folded_name = folded_name || char(1) || id where id in (select id from old);
                drop table old
                """,
                new { KeepMonths, now = clock.GetUtcNow() }
            )
        );

    /// <summary>Deletes all work of a member at what a teacher gave to the class.</summary>
    /// <returns>At how many assignments.</returns>
    public int DeleteWorkOfMember(long teacher, long member)
    {
        var all = database.Read(connection =>
            connection
                .Query<(long Assignment, long Attempt)>(
                    """
                    select student.assignment_id, max(attempt.id)
                    from student
                    join attempt on attempt.student_id = student.id and attempt.deleted_at is null
                    where student.member_id = @member and student.deleted_at is null
                    group by student.id
                    """,
                    new { member }
                )
                .AsList()
        );
        return all.Count(work => DeleteWork(teacher, work.Assignment, work.Attempt));
    }

    /// <summary>Does the deletions again that a restored copy does not know of.</summary>
    public void Repeat()
    {
        if (!File.Exists(ListFile))
            return;
        foreach (var line in File.ReadLines(ListFile))
            if (JsonSerializer.Deserialize<Gone>(line) is { } gone)
                Remove(gone.Kind, gone.Id, isListed: true);
        SweepMedia();
        database.Shrink();
    }

    private void Remove(string kind, long id, bool isListed = false)
    {
        if (!isListed)
            File.AppendAllLines(ListFile, [JsonSerializer.Serialize(new Gone(kind, id, clock.GetUtcNow()))]);
        var files = database.Write(connection =>
            kind switch
            {
                Activity => RemoveActivity(connection, id),
                "class" => RemoveClass(connection, id),
                "assignment" => RemoveAssignments(connection, "id = @id", id),
                "work" => RemoveStudents(connection, "id = @id", id),
                // As lists of before name it.
                "attempt" => RemoveStudents(connection, "id in (select student_id from attempt where id = @id)", id),
                _ => throw new InvalidDataException($"'{kind}' is nothing that is deleted."),
            }
        );
        OwnFiles.DeleteFolders(database.Folder, files);
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
