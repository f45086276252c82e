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
public sealed class Deletions(Database database, TimeProvider clock)
{
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

    /// <summary>Deletes a student's attempt at an activity of a teacher, whose name is free from then on; false when there is none.</summary>
    public bool DeleteAttempt(long teacher, long activity, long attempt) =>
        database.Write(connection =>
            connection.Execute(
                """
                update attempt
                set deleted_at = @now, folded_name = folded_name || char(1) || id
                where id = @attempt and deleted_at is null and publication_id in (
                    select publication.id
                    from publication
                    join activity on activity.id = publication.activity_id
                    where activity.id = @activity and activity.teacher_id = @teacher)
                """,
                new
                {
                    teacher,
                    activity,
                    attempt,
                    now = clock.GetUtcNow(),
                }
            ) == 1
        );

    /// <summary>Brings a deleted attempt back, under another name when its own is taken by now; false when there is none.</summary>
    public bool BringBackAttempt(long teacher, long attempt) =>
        database.Write(connection =>
            connection.Execute(
                """
                with back as (
                    select id, substr(folded_name, 1, instr(folded_name, char(1)) - 1) as free_name,
                           exists (
                               select 1
                               from attempt as other
                               where other.publication_id = attempt.publication_id
                                 and other.folded_name = substr(attempt.folded_name, 1, instr(attempt.folded_name, char(1)) - 1)
                           ) as is_taken
                    from attempt
                    where id = @attempt and deleted_at is not null
                )
                update attempt
                set deleted_at = null,
                    name = case when back.is_taken then name || ' (brought back)' else name end,
                    folded_name = case when back.is_taken then replace(folded_name, char(1), ' ') else back.free_name end
                from back
                where attempt.id = back.id and publication_id in (
                    select publication.id
                    from publication
                    join activity on activity.id = publication.activity_id
                    where activity.teacher_id = @teacher and activity.deleted_at is null)
                """,
                new { teacher, attempt }
            ) == 1
        );

    /// <summary>What a teacher can still bring back, the last deleted first.</summary>
    public IReadOnlyList<DeletedThing> Of(long teacher) =>
        database.Read(connection =>
            connection
                .Query<DeletedThing>(
                    """
                    select 'activity' as kind, id, title as name, deleted_at
                    from activity
                    where teacher_id = @teacher and deleted_at is not null
                    union all
                    select 'attempt', attempt.id, attempt.name || ', ' || activity.title, attempt.deleted_at
                    from attempt
                    join publication on publication.id = attempt.publication_id
                    join activity on activity.id = publication.activity_id
                    where activity.teacher_id = @teacher and activity.deleted_at is null and attempt.deleted_at is not null
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
    /// <returns>How many activities and attempts are gone now.</returns>
    public int Sweep()
    {
        var before = clock.GetUtcNow() - Grace;
        var due = database.Read(connection =>
            connection
                .Query<Due>(
                    """
                    select 'activity' as kind, id from activity where deleted_at < @before
                    union all
                    select 'attempt', id from attempt where deleted_at < @before
                    """,
                    new { before }
                )
                .AsList()
        );
        foreach (var each in due)
            Remove(each.Kind, each.Id);
        SweepMedia();
        foreach (var copy in Directory.GetFiles(database.Folder, "before-upgrade-*.db"))
            if (File.GetLastWriteTimeUtc(copy) < before.UtcDateTime)
                File.Delete(copy);
        if (due.Count > 0)
            database.Shrink();
        return due.Count;
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
        database.Write(connection => kind == Activity ? RemoveActivity(connection, id) : RemoveAttempts(connection, "id = @id", id));
    }

    private static int RemoveActivity(IDbConnection connection, long id)
    {
        RemoveAttempts(connection, "publication_id in (select id from publication where activity_id = @id)", id);
        return connection.Execute(
            """
            delete from publication where activity_id = @id;
            delete from revision where activity_id = @id;
            delete from draft_version where activity_id = @id;
            delete from draft_pane where activity_id = @id;
            delete from media_use where activity_id = @id;
            delete from activity_subject where activity_id = @id;
            delete from activity where id = @id
            """,
            new { id }
        );
    }

    private static int RemoveAttempts(IDbConnection connection, string which, long id) =>
        connection.Execute(
            $"""
            delete from move where attempt_id in (select id from attempt where {which});
            delete from response where attempt_id in (select id from attempt where {which});
            delete from attempt where {which}
            """,
            new { id }
        );

    /// <summary>A file that came in so long ago and that neither a shelf nor an activity has.</summary>
    private static readonly TimeSpan UnusedFor = TimeSpan.FromDays(1);

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
