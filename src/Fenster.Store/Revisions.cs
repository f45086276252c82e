using System.Data;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>A state of an activity that was frozen, so that nothing changes under students' hands.</summary>
/// <param name="Number">Among those of its activity, from 1.</param>
public sealed record Revision(long Id, long Number, DateTimeOffset PublishedAt);

public sealed class Revisions(Database database, TimeProvider clock)
{
    /// <summary>The last one of an activity; null when nothing of it was published.</summary>
    public Revision? Latest(long activity) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Revision>(
                "select id, number, published_at from revision where activity_id = @activity order by number desc limit 1",
                new { activity }
            )
        );

    /// <summary>Freezes a document as the next revision; one that is the last revision already is frozen no second time.</summary>
    public long Publish(long activity, string document) =>
        database.Write(connection => Publish(connection, activity, document, clock.GetUtcNow()));

    internal static long Publish(IDbConnection connection, long activity, string document, DateTimeOffset now)
    {
        var latest = connection.QuerySingleOrDefault<(long? Id, string? Document)>(
            "select id, document from revision where activity_id = @activity order by number desc limit 1",
            new { activity }
        );
        if (latest is ({ } id, { } last) && last == document)
            return id;
        MediaUse.Add(connection, activity, document);
        return connection.ExecuteScalar<long>(
            """
            insert into revision (identity, activity_id, number, document, published_at)
            values (@identity, @activity, (select coalesce(max(number), 0) + 1 from revision where activity_id = @activity), @document, @now)
            returning id
            """,
            new
            {
                identity = Identity.New(),
                activity,
                document,
                now,
            }
        );
    }

    private const int MostRemembered = 500;

    // By identity, since the number of a revision that is gone may be given to another.
    private readonly Lru<(string Identity, string Rules), Activity> known = new(MostRemembered);

    /// <summary>What was published, under words of an assignment's own: neither ever changes.</summary>
    /// <param name="rules">As they are stored.</param>
    public Activity Activity(long revision, string rules = Assignment.NoRules)
    {
        var identity = database.Read(connection =>
            connection.QuerySingle<string>("select identity from revision where id = @revision", new { revision })
        );
        if (known.TryGet((identity, rules), out var activity))
            return activity;
        var read = ActivityDocument.Read(Document(revision)).Under(RuleWordsDocument.Read(rules));
        known.Put((identity, rules), read);
        return read;
    }

    public string Document(long revision) => database.Read(connection => Document(connection, revision));

    internal static string Document(IDbConnection connection, long revision) =>
        connection.QuerySingle<string>("select document from revision where id = @revision", new { revision });
}
