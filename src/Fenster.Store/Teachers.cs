using Dapper;

namespace Fenster.Store;

public sealed record Teacher
{
    public const string Administrator = "administrator";
    public const string Plain = "teacher";

    public long Id { get; init; }
    public required string Email { get; init; }
    public required string Name { get; init; }
    public required string PasswordHash { get; init; }

    /// <summary><see cref="Administrator"/> or <see cref="Plain"/>.</summary>
    public required string Role { get; init; }

    /// <summary>In which their screens are, as a BCP 47 tag; null for the browser's.</summary>
    public string? Language { get; init; }

    /// <summary>In which their times are told, as a name of the IANA time zone database; null for the browser's.</summary>
    public string? TimeZone { get; init; }

    public bool IsAdministrator => Role == Administrator;
}

public sealed class Teachers(Database database, TimeProvider clock)
{
    internal const string Columns = """
        select teacher.id, teacher.email, teacher.name, teacher.password_hash, teacher.role, teacher.language, teacher.time_zone
        from teacher
        """;

    /// <summary>How long a link for a forgotten password works.</summary>
    public static readonly TimeSpan LinkWorks = TimeSpan.FromDays(2);

    public bool Any() => database.Read(connection => connection.ExecuteScalar<bool>("select exists (select 1 from teacher)"));

    /// <summary>Who teaches here under an address; null for nobody.</summary>
    public Teacher? ByEmail(string email) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Teacher>($"{Columns} where email = @email and left_at is null", new { email })
        );

    public Teacher? One(long id) =>
        database.Read(connection => connection.QuerySingleOrDefault<Teacher>($"{Columns} where id = @id and left_at is null", new { id }));

    /// <summary>Everybody who teaches with this server, by name.</summary>
    public IReadOnlyList<Teacher> All() =>
        database.Read(connection => connection.Query<Teacher>($"{Columns} where left_at is null order by name, id").AsList());

    /// <summary>Adds a teacher; null when somebody has that address already.</summary>
    public Teacher? Add(string email, string name, string passwordHash, string role = Teacher.Plain) =>
        database.Write(connection =>
            connection.QuerySingleOrDefault<Teacher>(
                """
                insert into teacher (email, name, password_hash, role, created_at)
                values (@email, @name, @passwordHash, @role, @now)
                on conflict (email) do update
                    set name = excluded.name, password_hash = excluded.password_hash, role = excluded.role, left_at = null
                    where teacher.left_at is not null
                returning id, email, name, password_hash, role, language, time_zone
                """,
                new
                {
                    email,
                    name,
                    passwordHash,
                    role,
                    now = clock.GetUtcNow(),
                }
            )
        );

    /// <summary>Makes the first teacher, who is administrator; null when there is one already.</summary>
    public Teacher? AddFirst(string email, string name, string passwordHash)
    {
        lock (this)
            return Any() ? null : Add(email, name, passwordHash, Teacher.Administrator);
    }

    /// <param name="language">Null for the browser's.</param>
    /// <param name="timeZone">Null for the browser's.</param>
    public void Prefer(long id, string? language, string? timeZone) =>
        database.Write(connection =>
            connection.Execute(
                "update teacher set language = @language, time_zone = @timeZone where id = @id",
                new
                {
                    id,
                    language,
                    timeZone,
                }
            )
        );

    /// <summary>A new password also ends a link for a forgotten one.</summary>
    public void ChangePassword(long id, string passwordHash) =>
        database.Write(connection =>
            connection.Execute(
                """
                update teacher
                set password_hash = @passwordHash, link_hash = null, link_until = null
                where id = @id
                """,
                new { id, passwordHash }
            )
        );

    /// <summary>Gives a role; false when that would leave nobody to administer.</summary>
    public bool GiveRole(long id, string role) =>
        database.Write(connection =>
            connection.Execute(
                """
                update teacher
                set role = @role
                where id = @id and left_at is null
                  and (@role = 'administrator' or exists (
                      select 1 from teacher as other where other.id <> @id and other.role = 'administrator' and other.left_at is null))
                """,
                new { id, role }
            ) == 1
        );

    /// <summary>Makes a link with which a teacher chooses a new password.</summary>
    /// <returns>The secret in it.</returns>
    public string MakeLink(long id)
    {
        var secret = Secret.New();
        database.Write(connection =>
            connection.Execute(
                """
                update teacher
                set link_hash = @hash, link_until = @until
                where id = @id and left_at is null
                """,
                new
                {
                    id,
                    hash = Secret.Hash(secret),
                    until = clock.GetUtcNow() + LinkWorks,
                }
            )
        );
        return secret;
    }

    /// <summary>Whose link it is; null when it was used, is too old or was never made.</summary>
    public Teacher? ByLink(string secret) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Teacher>(
                $"{Columns} where link_hash = @hash and link_until >= @now and left_at is null",
                new { hash = Secret.Hash(secret), now = clock.GetUtcNow() }
            )
        );

    /// <summary>
    /// Removes a teacher, whose activities go to a colleague, or are deleted with all their work. False when nobody would be left
    /// to administer.
    /// </summary>
    /// <param name="heir">Null to delete them.</param>
    public bool Remove(long id, long? heir) =>
        database.Write(connection =>
        {
            var gone = connection.Execute(
                """
                update teacher
                set left_at = @now, password_hash = '', link_hash = null, link_until = null
                where id = @id and left_at is null
                  and exists (
                      select 1 from teacher as other where other.id <> @id and other.role = 'administrator' and other.left_at is null)
                """,
                new { id, now = clock.GetUtcNow() }
            );
            if (gone == 0)
                return false;
            connection.Execute("delete from session where teacher_id = @id", new { id });
            if (heir is { } colleague)
                connection.Execute(
                    """
                    insert into media_owner (hash, teacher_id)
                        select hash, @colleague from media_owner where teacher_id = @id on conflict do nothing;
                    insert into activity_subject (teacher_id, subject, activity_id)
                        select @colleague, subject, activity_id from activity_subject where teacher_id = @id on conflict do nothing;
                    delete from activity_subject where teacher_id = @id;
                    insert into class_teacher (teacher_id, class_id)
                        select @colleague, class_id from class_teacher where teacher_id = @id on conflict do nothing;
                    delete from activity_teacher
                    where teacher_id = @colleague and activity_id in (select id from activity where teacher_id = @id);
                    update activity set teacher_id = @colleague where teacher_id = @id
                    """,
                    new { id, colleague }
                );
            else
                // What others own too stays with them, and the classes too whose work at it they see.
                connection.Execute(
                    """
                    create temp table heir as
                        select activity.id as activity_id, min(other.teacher_id) as teacher_id
                        from activity
                        join activity_teacher as other on other.activity_id = activity.id and other.teacher_id <> @id
                        join teacher on teacher.id = other.teacher_id and teacher.left_at is null
                        where activity.teacher_id = @id
                        group by activity.id;
                    insert into media_owner (hash, teacher_id)
                        select media_use.hash, heir.teacher_id
                        from heir
                        join media_use on media_use.activity_id = heir.activity_id
                        where true
                        on conflict do nothing;
                    insert into activity_subject (teacher_id, subject, activity_id)
                        select heir.teacher_id, activity_subject.subject, heir.activity_id
                        from heir
                        join activity_subject on activity_subject.activity_id = heir.activity_id
                        where activity_subject.teacher_id = @id
                        on conflict do nothing;
                    delete from activity_teacher
                    where exists (
                        select 1
                        from heir
                        where heir.activity_id = activity_teacher.activity_id and heir.teacher_id = activity_teacher.teacher_id);
                    update activity
                    set teacher_id = (select teacher_id from heir where activity_id = activity.id)
                    where id in (select activity_id from heir);
                    drop table heir;
                    update activity set deleted_at = @now where teacher_id = @id and deleted_at is null;
                    insert into class_teacher (teacher_id, class_id)
                        select activity.teacher_id, class_teacher.class_id
                        from class_teacher
                        join assignment on assignment.class_id = class_teacher.class_id and assignment.deleted_at is null
                        join activity on activity.id = assignment.activity_id and activity.deleted_at is null and activity.teacher_id <> @id
                        where class_teacher.teacher_id = @id
                          and not exists (
                              select 1
                              from class_teacher as other
                              where other.class_id = class_teacher.class_id and other.teacher_id <> @id)
                        on conflict do nothing;
                    delete from activity_subject where teacher_id = @id;
                    update class
                    set deleted_at = @now
                    where deleted_at is null and id in (select class_id from class_teacher where teacher_id = @id)
                      and not exists (select 1 from class_teacher where class_id = class.id and teacher_id <> @id)
                    """,
                    new { id, now = clock.GetUtcNow() }
                );
            // Whoever owned or taught something together with them goes on alone.
            connection.Execute(
                "delete from activity_teacher where teacher_id = @id; delete from class_teacher where teacher_id = @id",
                new { id }
            );
            return true;
        });
}
