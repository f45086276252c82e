using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>A published activity: the revision that new attempts get, and the way in.</summary>
public sealed record Publication
{
    /// <summary>What had arrived so long after the end still counts, for everybody.</summary>
    public static readonly TimeSpan Grace = TimeSpan.FromSeconds(10);

    public long Id { get; init; }
    public long ActivityId { get; init; }
    public long RevisionId { get; init; }
    public long RevisionNumber { get; init; }
    public DateTimeOffset PublishedAt { get; init; }
    public required string Code { get; init; }
    public DateTimeOffset? ClosedAt { get; init; }

    /// <summary>Whether what arrives at a time is too late to count.</summary>
    public bool IsShut(DateTimeOffset at) => ClosedAt is { } closed && at > closed + Grace;
}

public sealed class Publications(Database database, TimeProvider clock)
{
    private const string Columns = """
        select publication.id, publication.activity_id, publication.revision_id, publication.code, publication.closed_at,
               revision.number as revision_number, revision.published_at
        from publication
        join revision on revision.id = publication.revision_id
        join activity on activity.id = publication.activity_id and activity.deleted_at is null
        """;

    public Publication? OfActivity(long activity) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Publication>($"{Columns} where publication.activity_id = @activity", new { activity })
        );

    public Publication? ByCode(string code) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Publication>($"{Columns} where publication.code = @code", new { code })
        );

    /// <summary>
    /// The publication of a code as it was lately, for those who ask again and again. It may have closed since, or be gone: what is
    /// written on its strength has to see to that itself, as a log of moves does.
    /// </summary>
    public Publication? Lately(string code)
    {
        if (open.TryGet(code, out var known))
            return known;
        var read = ByCode(code);
        if (read is { ClosedAt: null })
            open.Put(code, read);
        return read;
    }

    public Publication? One(long id) =>
        database.Read(connection => connection.QuerySingleOrDefault<Publication>($"{Columns} where publication.id = @id", new { id }));

    /// <summary>
    /// Freezes a document as the next revision, which new attempts get. The first time a join code is made;
    /// it stays the same from then on. A closed activity opens again.
    /// </summary>
    public void Publish(long activity, string document) =>
        database.Write(connection =>
        {
            var revision = connection.ExecuteScalar<long>(
                """
                insert into revision (activity_id, number, document, published_at)
                values (@activity, (select count(*) + 1 from revision where activity_id = @activity), @document, @now)
                returning id
                """,
                new
                {
                    activity,
                    document,
                    now = clock.GetUtcNow(),
                }
            );
            MediaUse.Add(connection, activity, document);
            var moved = connection.Execute(
                """
                update publication
                set revision_id = @revision, closed_at = null
                where activity_id = @activity
                """,
                new { activity, revision }
            );
            while (moved == 0)
                moved = connection.Execute(
                    """
                    insert into publication (activity_id, revision_id, code)
                    values (@activity, @revision, @code)
                    on conflict (code) do nothing
                    """,
                    new
                    {
                        activity,
                        revision,
                        code = JoinCode.New(),
                    }
                );
            return moved;
        });

    public void Close(long activity) => SetClosed(activity, clock.GetUtcNow());

    public void Reopen(long activity) => SetClosed(activity, null);

    private void SetClosed(long activity, DateTimeOffset? at) =>
        database.Write(connection =>
            connection.Execute(
                """
                update publication
                set closed_at = @at
                where activity_id = @activity
                """,
                new { activity, at }
            )
        );

    private const int MostRemembered = 500;

    private readonly Lru<long, Activity> byRevision = new(MostRemembered);
    private readonly Lru<string, Publication> open = new(MostRemembered);

    /// <summary>A published revision: it never changes.</summary>
    public Activity Activity(long revision)
    {
        if (byRevision.TryGet(revision, out var known))
            return known;
        var read = ActivityDocument.Read(Document(revision));
        byRevision.Put(revision, read);
        return read;
    }

    public string Document(long revision) =>
        database.Read(connection =>
            connection.QuerySingle<string>(
                """
                select document
                from revision
                where id = @revision
                """,
                new { revision }
            )
        );
}
