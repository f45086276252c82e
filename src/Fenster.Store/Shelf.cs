using Dapper;

namespace Fenster.Store;

/// <summary>A picture that a teacher has brought in.</summary>
public sealed record ShelfPicture
{
    public required string Hash { get; init; }

    /// <summary>As the file was called.</summary>
    public required string Name { get; init; }

    /// <summary>In pixels, upright.</summary>
    public int Width { get; init; }
    public int Height { get; init; }
}

/// <summary>Each teacher's own pictures, the newest first.</summary>
public sealed class Shelf(Database database, TimeProvider clock)
{
    /// <summary>How many are shown; older ones stay stored.</summary>
    private const int MostShown = 60;

    /// <summary>Puts a stored picture on a teacher's shelf; one that lies there already comes to the front.</summary>
    public void Put(long teacher, string hash, string name) =>
        database.Write(connection =>
            connection.Execute(
                """
                insert into shelf (teacher_id, hash, name, added_at)
                values (@teacher, @hash, @name, @now)
                on conflict (teacher_id, hash) do update set added_at = excluded.added_at, name = excluded.name;
                insert into media_owner (hash, teacher_id)
                values (@hash, @teacher)
                on conflict do nothing
                """,
                new
                {
                    teacher,
                    hash,
                    name,
                    now = clock.GetUtcNow(),
                }
            )
        );

    public IReadOnlyList<ShelfPicture> Of(long teacher) =>
        database.Read(connection =>
            connection
                .Query<ShelfPicture>(
                    """
                    select shelf.hash, shelf.name, media.width, media.height
                    from shelf
                    join media on media.hash = shelf.hash
                    where shelf.teacher_id = @teacher
                    order by shelf.added_at desc, shelf.hash
                    limit @MostShown
                    """,
                    new { teacher, MostShown }
                )
                .AsList()
        );

    private sealed record Use(string Hash, string Title);

    /// <summary>Titles of the teacher's activities that use each picture of the shelf, by its hash.</summary>
    public ILookup<string, string> Uses(long teacher) =>
        database.Read(connection =>
            connection
                .Query<Use>(
                    """
                    select shelf.hash, activity.title
                    from shelf
                    join media_use on media_use.hash = shelf.hash
                    join activity on activity.id = media_use.activity_id and activity.teacher_id = @teacher and activity.deleted_at is null
                    where shelf.teacher_id = @teacher
                    order by activity.changed_at desc
                    """,
                    new { teacher }
                )
                .ToLookup(use => use.Hash, use => use.Title)
        );

    public void Remove(long teacher, string hash) =>
        database.Write(connection =>
            connection.Execute(
                """
                delete from shelf
                where teacher_id = @teacher and hash = @hash
                """,
                new { teacher, hash }
            )
        );
}
