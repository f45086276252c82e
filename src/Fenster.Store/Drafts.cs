using System.Data;
using Dapper;

namespace Fenster.Store;

/// <summary>An activity as its teacher keeps it.</summary>
public sealed record Draft
{
    public long Id { get; init; }
    public required string Title { get; init; }

    /// <summary>The activity as a JSON document.</summary>
    public required string Document { get; init; }

    /// <summary>Goes up by one with each save.</summary>
    public long Version { get; init; }
}

/// <summary>One card on the page of activities.</summary>
public sealed record ActivityCard
{
    public long Id { get; init; }
    public required string Title { get; init; }
    public required string Document { get; init; }
    public string? Code { get; init; }
    public DateTimeOffset? ClosedAt { get; init; }
    public long Working { get; init; }
    public long HandedIn { get; init; }
}

/// <summary>What a draft was at a time.</summary>
public sealed record DraftVersion
{
    /// <summary>Names the version within its activity.</summary>
    public long Slot { get; init; }
    public required string Document { get; init; }
    public DateTimeOffset SavedAt { get; init; }
}

/// <summary>What a save came to.</summary>
/// <param name="Version">The version that is stored now.</param>
/// <param name="Saved">False when another window had saved in between; nothing was written then.</param>
public sealed record SaveOutcome(long Version, bool Saved);

public sealed class Drafts(Database database, TimeProvider clock)
{
    public IReadOnlyList<ActivityCard> Of(long teacher) => database.Read(connection => connection.Query<ActivityCard>(
        """
        select activity.id, activity.title, activity.draft as document, publication.code, publication.closed_at,
               count(attempt.id) - count(attempt.handed_in_at) as working,
               count(attempt.handed_in_at) as handed_in
        from activity
        left join publication on publication.activity_id = activity.id
        left join attempt on attempt.publication_id = publication.id
        where activity.teacher_id = @teacher
        group by activity.id
        order by activity.changed_at desc, activity.id desc
        """, new { teacher }).AsList());

    public long Add(long teacher, string title, string document) => database.Write(connection => connection.ExecuteScalar<long>(
        """
        insert into activity (teacher_id, title, draft, version, created_at, changed_at)
        values (@teacher, @title, @document, 1, @now, @now)
        returning id
        """, new { teacher, title, document, now = clock.GetUtcNow() }));

    /// <summary>The draft, when it is this teacher's.</summary>
    public Draft? Find(long teacher, long id) => database.Read(connection => Find(connection, teacher, id));

    private static Draft? Find(IDbConnection connection, long teacher, long id) => connection.QuerySingleOrDefault<Draft>(
        """
        select id, title, draft as document, version
        from activity
        where id = @id and teacher_id = @teacher
        """, new { id, teacher });

    /// <summary>What the draft was, the newest first: the last state in each ten minutes in which it was saved, and after two weeks the last of each day.</summary>
    public IReadOnlyList<DraftVersion> Versions(long teacher, long id) => database.Read(connection => connection.Query<DraftVersion>(
        """
        select draft_version.slot, draft_version.document, draft_version.saved_at
        from draft_version
        join activity on activity.id = draft_version.activity_id
        where activity.id = @id and activity.teacher_id = @teacher
        order by draft_version.slot desc
        limit @MostVersions
        """, new { teacher, id, MostVersions }).AsList());

    /// <summary>One earlier state; null when there is none of this teacher's.</summary>
    public DraftVersion? Version(long teacher, long id, long slot) => database.Read(connection => connection.QuerySingleOrDefault<DraftVersion>(
        """
        select draft_version.slot, draft_version.document, draft_version.saved_at
        from draft_version
        join activity on activity.id = draft_version.activity_id
        where activity.id = @id and activity.teacher_id = @teacher and draft_version.slot = @slot
        """, new { teacher, id, slot }));

    private void Keep(IDbConnection connection, long id, string document)
    {
        var at = clock.GetUtcNow();
        connection.Execute(
            """
            insert into draft_version (activity_id, slot, document, saved_at)
            values (@id, @slot, @document, @at)
            on conflict (activity_id, slot) do update set document = excluded.document, saved_at = excluded.saved_at
            """, new { id, slot = at.ToUnixTimeSeconds() / SecondsOfSlot, document, at });
        connection.Execute(
            """
            delete from draft_version
            where activity_id = @id and slot < @recent
              and slot not in (select max(slot) from draft_version where activity_id = @id group by slot / @SlotsOfDay)
            """, new { id, recent = (at.ToUnixTimeSeconds() / SecondsOfSlot / SlotsOfDay - DaysInFull) * SlotsOfDay, SlotsOfDay });
    }

    private const int SecondsOfSlot = 600;
    private const int SlotsOfDay = 24 * 60 * 60 / SecondsOfSlot;

    /// <summary>Of days before these, only the last state of each day is kept.</summary>
    private const int DaysInFull = 14;
    private const int MostVersions = 500;

    /// <summary>
    /// Stores a draft in place of the version it was made from; null when there is no such activity of this teacher.
    /// What is stored already counts as saved: it is sent again when the answer to an earlier save was lost on its way.
    /// </summary>
    public SaveOutcome? Save(long teacher, long id, long version, string title, string document) => database.Write(connection =>
    {
        var stored = connection.ExecuteScalar<long?>(
            """
            update activity
            set title = @title, draft = @document, version = version + 1, changed_at = @now
            where id = @id and teacher_id = @teacher and version = @version
            returning version
            """, new { teacher, id, version, title, document, now = clock.GetUtcNow() });
        if (stored is { } now)
        {
            Keep(connection, id, document);
            return new SaveOutcome(now, true);
        }

        var current = Find(connection, teacher, id);
        return current is null ? null : new SaveOutcome(current.Version, current.Document == document);
    });
}
