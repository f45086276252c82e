using System.Data;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

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

    /// <summary>Empty when it is called as students see it.</summary>
    public required string PrivateName { get; init; }
    public bool IsStarter { get; init; }

    /// <summary>Content hash of its first picture; null without one.</summary>
    public string? Media { get; init; }
    public required string AltText { get; init; }
    public long Panes { get; init; }
    public long Targets { get; init; }
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

/// <summary>What a draft was at a time, as a list shows it.</summary>
public sealed record DraftVersionLine
{
    /// <inheritdoc cref="DraftVersion.Slot"/>
    public long Slot { get; init; }
    public DateTimeOffset SavedAt { get; init; }
    public required string Title { get; init; }
    public long Panes { get; init; }
    public long Targets { get; init; }

    /// <summary>Whether nothing kept it from being published.</summary>
    public bool CanBeSeen { get; init; }
}

/// <summary>What a save came to.</summary>
/// <param name="Version">The version that is stored now.</param>
/// <param name="Saved">False when another window had saved in between; nothing was written then.</param>
public sealed record SaveOutcome(long Version, bool Saved);

public sealed class Drafts(Database database, TimeProvider clock)
{
    /// <summary>A teacher's activities, the last changed first.</summary>
    /// <param name="words">All of which the titles, names, subjects or labels hold; none for everything.</param>
    /// <param name="subject">Null for any.</param>
    /// <param name="skip">How many come before.</param>
    public IReadOnlyList<ActivityCard> Page(
        long teacher,
        IReadOnlyList<string> words,
        string? subject,
        bool startersOnly,
        int skip,
        int most
    ) =>
        database.Read(connection =>
        {
            var parameters = new DynamicParameters(
                new
                {
                    teacher,
                    subject,
                    skip,
                    most,
                }
            );
            for (var i = 0; i < words.Count; i++)
                parameters.Add($"word{i}", $"%{Escaped(ActivitySummary.Fold(words[i]))}%");
            return connection
                .Query<ActivityCard>(
                    $"""
                    select activity.id, activity.title, activity.private_name, activity.is_starter, activity.media, activity.alt_text,
                           activity.panes, activity.targets,
                           publication.code, publication.closed_at,
                           (select count(*) from attempt as a
                            where a.publication_id = publication.id and a.handed_in_at is null and a.deleted_at is null) as working,
                           (select count(*) from attempt as a
                            where a.publication_id = publication.id and a.handed_in_at is not null and a.deleted_at is null) as handed_in
                    from activity
                    left join publication on publication.activity_id = activity.id
                    where activity.teacher_id = @teacher and activity.deleted_at is null
                      {string.Concat(words.Select((_, i) => $"and activity.search like @word{i} escape '\\' "))}
                      {(
                        subject is null
                            ? ""
                            : "and exists (select 1 from activity_subject as s "
                                + "where s.teacher_id = @teacher and s.subject = @subject and s.activity_id = activity.id)"
                    )}
                      {(startersOnly ? "and activity.is_starter = 1" : "")}
                    order by activity.changed_at desc, activity.id desc
                    limit @most offset @skip
                    """,
                    parameters
                )
                .AsList();
        });

    private static string Escaped(string word) =>
        word.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);

    /// <summary>The subjects of a teacher's activities, in their order, each found by one step in the index.</summary>
    public IReadOnlyList<string> Subjects(long teacher, int most) =>
        database.Read(connection =>
            connection
                .Query<string>(
                    """
                    with recursive known (subject) as (
                        select (select min(subject) from activity_subject where teacher_id = @teacher)
                        union all
                        select (select min(subject) from activity_subject where teacher_id = @teacher and subject > known.subject)
                        from known
                        where known.subject is not null
                        limit @most
                    )
                    select subject
                    from known
                    where subject is not null
                    """,
                    new { teacher, most }
                )
                .AsList()
        );

    public long Add(long teacher, Activity activity, string document) =>
        database.Write(connection =>
        {
            var id = connection.ExecuteScalar<long>(
                """
                insert into activity (teacher_id, title, draft, version, created_at, changed_at)
                values (@teacher, @Title, @document, 1, @now, @now)
                returning id
                """,
                new
                {
                    teacher,
                    activity.Title,
                    document,
                    now = clock.GetUtcNow(),
                }
            );
            ActivitySummary.Of(activity).Store(connection, teacher, id);
            MediaUse.Add(connection, id, document);
            return id;
        });

    /// <summary>The title of an activity of this teacher; null when there is none.</summary>
    public string? TitleOf(long teacher, long id) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<string>(
                "select title from activity where id = @id and teacher_id = @teacher and deleted_at is null",
                new { teacher, id }
            )
        );

    /// <summary>The draft, when it is this teacher's.</summary>
    public Draft? Find(long teacher, long id) => database.Read(connection => Find(connection, teacher, id));

    private static Draft? Find(IDbConnection connection, long teacher, long id) =>
        connection.QuerySingleOrDefault<Draft>(
            """
            select id, title, draft as document, version
            from activity
            where id = @id and teacher_id = @teacher and deleted_at is null
            """,
            new { id, teacher }
        );

    private const string OfVersions = """
        from draft_version
        join activity on activity.id = draft_version.activity_id
        where activity.id = @id and activity.teacher_id = @teacher and activity.deleted_at is null
        """;

    /// <summary>
    /// What the draft was, the newest first: the last state in each ten minutes in which it was saved, after two weeks the last
    /// of each day, and each that was gone back from.
    /// </summary>
    public IReadOnlyList<DraftVersionLine> Versions(long teacher, long id) =>
        database.Read(connection =>
            connection
                .Query<DraftVersionLine>(
                    $"""
                    select draft_version.saved_at as slot, draft_version.saved_at, draft_version.title,
                           draft_version.panes, draft_version.targets, draft_version.can_be_seen
                    {OfVersions}
                    order by draft_version.saved_at desc
                    limit @MostVersions
                    """,
                    new
                    {
                        teacher,
                        id,
                        MostVersions,
                    }
                )
                .AsList()
        );

    /// <summary>One earlier state; null when there is none of this teacher's.</summary>
    public DraftVersion? Version(long teacher, long id, long slot) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<DraftVersion>(
                $"""
                select draft_version.saved_at as slot, draft_version.document, draft_version.saved_at
                {OfVersions}
                  and draft_version.saved_at = @slot
                """,
                new
                {
                    teacher,
                    id,
                    slot,
                }
            )
        );

    private const int SecondsOfSlot = 600;
    private const int SlotsOfDay = 24 * 60 * 60 / SecondsOfSlot;
    private const int DaysInFull = 14;
    private const int MostVersions = 500;

    /// <summary>
    /// Stores a draft in place of the version it was made from; null when there is no such activity of this teacher.
    /// What is stored already counts as saved: it is sent again when the answer to an earlier save was lost on its way.
    /// </summary>
    public SaveOutcome? Save(long teacher, long id, long version, Activity activity, string document) =>
        database.Write(connection => Save(connection, teacher, id, version, activity, document));

    /// <summary>
    /// Makes an earlier state the draft. What the draft was stays among the states, whatever is saved in the same ten minutes.
    /// </summary>
    /// <inheritdoc cref="Save(long, long, long, Activity, string)"/>
    public SaveOutcome? GoBack(long teacher, long id, long version, Activity earlier, string document) =>
        database.Write(connection =>
        {
            if (Find(connection, teacher, id) is not { } current)
                return null;
            if (current.Version == version && current.Document != document)
                Keep(connection, id, ActivityDocument.ReadUnchecked(current.Document), current.Document, isKept: true);
            return Save(connection, teacher, id, version, earlier, document);
        });

    private SaveOutcome? Save(IDbConnection connection, long teacher, long id, long version, Activity activity, string document)
    {
        var stored = connection.ExecuteScalar<long?>(
            """
            update activity
            set title = @Title, draft = @document, version = version + 1, changed_at = @now
            where id = @id and teacher_id = @teacher and version = @version and deleted_at is null
            returning version
            """,
            new
            {
                teacher,
                id,
                version,
                activity.Title,
                document,
                now = clock.GetUtcNow(),
            }
        );
        if (stored is { } now)
        {
            ActivitySummary.Of(activity).Store(connection, teacher, id);
            MediaUse.Add(connection, id, document);
            Keep(connection, id, activity, document, isKept: false);
            return new SaveOutcome(now, true);
        }

        var current = Find(connection, teacher, id);
        return current is null ? null : new SaveOutcome(current.Version, current.Document == document);
    }

    private void Keep(IDbConnection connection, long id, Activity activity, string document, bool isKept)
    {
        var at = clock.GetUtcNow();
        var slot = at.ToUnixTimeSeconds() / SecondsOfSlot;
        // A state that is kept for itself never shares its moment with what follows it.
        var saved = Math.Max(
            at.ToUnixTimeMilliseconds(),
            1
                + connection.ExecuteScalar<long?>(
                    """
                    select max(saved_at)
                    from draft_version
                    where activity_id = @id and is_kept = 1
                    """,
                    new { id }
                )
                ?? 0
        );
        connection.Execute(
            """
            delete from draft_version
            where activity_id = @id and slot = @slot and is_kept = 0;
            insert into draft_version (activity_id, saved_at, slot, document, title, panes, targets, can_be_seen, is_kept)
            values (@id, @saved, @slot, @document, @Title, @panes, @targets, @canBeSeen, @isKept)
            on conflict (activity_id, saved_at) do update
                set document = excluded.document, title = excluded.title, panes = excluded.panes, targets = excluded.targets,
                    can_be_seen = excluded.can_be_seen, is_kept = excluded.is_kept;
            delete from draft_version
            where activity_id = @id and is_kept = 0 and slot < @recent
              and slot not in (select max(slot) from draft_version where activity_id = @id group by slot / @SlotsOfDay)
            """,
            new
            {
                id,
                slot,
                saved,
                document,
                activity.Title,
                panes = activity.Panes.Length,
                targets = activity.Panes.Sum(pane => pane.Targets.Length),
                canBeSeen = Readiness.Obstacles(activity).Count == 0,
                isKept,
                recent = (slot / SlotsOfDay - DaysInFull) * SlotsOfDay,
                SlotsOfDay,
            }
        );
    }
}
