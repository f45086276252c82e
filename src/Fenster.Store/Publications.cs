using System.Collections.Concurrent;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>A published activity: the revision that new attempts get, and the way in.</summary>
public sealed record Publication
{
    public long Id { get; init; }
    public long ActivityId { get; init; }
    public long RevisionId { get; init; }
    public long RevisionNumber { get; init; }
    public DateTimeOffset PublishedAt { get; init; }
    public required string Code { get; init; }
    public DateTimeOffset? ClosedAt { get; init; }
}

public sealed class Publications(Database database, TimeProvider clock)
{
    private const string Columns =
        """
        select publication.id, publication.activity_id, publication.revision_id, publication.code, publication.closed_at,
               revision.number as revision_number, revision.published_at
        from publication
        join revision on revision.id = publication.revision_id
        """;

    public Publication? OfActivity(long activity) => database.Read(connection => connection.QuerySingleOrDefault<Publication>(
        $"{Columns} where publication.activity_id = @activity", new { activity }));

    // Asked for with every placement; whatever changes a publication empties it.
    private readonly ConcurrentDictionary<string, Publication> byCode = new();

    public Publication? ByCode(string code)
    {
        if (byCode.TryGetValue(code, out var known)) return known;
        var found = database.Read(connection => connection.QuerySingleOrDefault<Publication>(
            $"{Columns} where publication.code = @code", new { code }));
        return found is null ? null : byCode.GetOrAdd(code, found);
    }

    /// <summary>
    /// Freezes a document as the next revision, which new attempts get. The first time a join code is made;
    /// it stays the same from then on. A closed activity opens again.
    /// </summary>
    public void Publish(long activity, string document)
    {
        database.Write(connection =>
        {
            var revision = connection.ExecuteScalar<long>(
                """
                insert into revision (activity_id, number, document, published_at)
                values (@activity, (select count(*) + 1 from revision where activity_id = @activity), @document, @now)
                returning id
                """, new { activity, document, now = clock.GetUtcNow() });
            var moved = connection.Execute(
                """
                update publication
                set revision_id = @revision, closed_at = null
                where activity_id = @activity
                """, new { activity, revision });
            while (moved == 0)
                moved = connection.Execute(
                    """
                    insert into publication (activity_id, revision_id, code)
                    values (@activity, @revision, @code)
                    on conflict (code) do nothing
                    """, new { activity, revision, code = JoinCode.New() });
            return moved;
        });
        byCode.Clear();
    }

    public void Close(long activity) => SetClosed(activity, clock.GetUtcNow());

    public void Reopen(long activity) => SetClosed(activity, null);

    private void SetClosed(long activity, DateTimeOffset? at)
    {
        database.Write(connection => connection.Execute(
            """
            update publication
            set closed_at = @at
            where activity_id = @activity
            """, new { activity, at }));
        byCode.Clear();
    }

    private readonly ConcurrentDictionary<long, Activity> byRevision = new();

    /// <summary>A published revision, read once: it never changes.</summary>
    public Activity Activity(long revision) => byRevision.GetOrAdd(revision, id => ActivityDocument.Read(Document(id)));

    public string Document(long revision) => database.Read(connection => connection.QuerySingle<string>(
        """
        select document
        from revision
        where id = @revision
        """, new { revision }));
}
