using System.Collections.Immutable;
using System.Data;
using System.Text.Json;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

public sealed class Drafts(Database database, TimeProvider clock)
{
    private readonly DraftPanes panes = new();

    /// <summary>Whether an activity is a teacher's, alone or together with others.</summary>
    internal const string OfTeacher = """
        (activity.teacher_id = @teacher or exists (
            select 1 from activity_teacher where activity_teacher.activity_id = activity.id and activity_teacher.teacher_id = @teacher))
        """;

    /// <summary>A teacher's activities, as they are asked for.</summary>
    /// <param name="skip">How many come before.</param>
    public IReadOnlyList<ActivityCard> Page(long teacher, Wanted wanted, int skip, int most) =>
        database.Read(connection =>
        {
            var parameters = new DynamicParameters(
                new
                {
                    teacher,
                    wanted.Subject,
                    wanted.Group,
                    now = clock.GetUtcNow(),
                    // Of each of the two lists as many as can be on the page.
                    upTo = skip + most,
                }
            );
            for (var i = 0; i < wanted.Words.Count; i++)
                parameters.Add($"word{i}", $"%{Escaped(ActivitySummary.Fold(wanted.Words[i]))}%");
            var (order, after) = wanted.ByTitle
                ? ("activity.title collate nocase, activity.id", "title collate nocase, id")
                : ("activity.changed_at desc, activity.id desc", "changed_at desc, id desc");
            var where = $"activity.deleted_at is null and {Filter(wanted)}";
            const string Listed =
                "activity.id, activity.title, activity.private_name, activity.is_starter, activity.media, activity.alt_text, "
                + "activity.panes, activity.targets, activity.archived_at, activity.teacher_id, activity.changed_at, "
                + "activity.came_from";
            const string Names =
                "id, title, private_name, is_starter, media, alt_text, panes, targets, archived_at, teacher_id, changed_at, came_from";
            return connection
                .Query<ActivityCard>(
                    $"""
                    with own as (
                        select {Listed} from activity where activity.teacher_id = @teacher and {where} order by {order} limit @upTo
                    ), shared as (
                        select {Listed}
                        from activity_teacher
                        join activity on activity.id = activity_teacher.activity_id
                        where activity_teacher.teacher_id = @teacher and activity.teacher_id <> @teacher and {where}
                        order by {order} limit @upTo
                    )
                    select id, title, private_name, is_starter, media, alt_text, panes, targets, archived_at is not null as is_archived,
                           teacher_id <> @teacher as is_shared, came_from
                    from (select {Names} from own union all select {Names} from shared)
                    order by {after}
                    limit {most} offset {skip}
                    """,
                    parameters
                )
                .AsList();
        });

    private static string Filter(Wanted wanted)
    {
        var parts = new List<string>
        {
            wanted.Which == WhichActivities.Archived ? "activity.archived_at is not null" : "activity.archived_at is null",
        };
        parts.AddRange(wanted.Words.Select((_, i) => $"activity.search like @word{i} escape '\\'"));
        if (wanted.Subject is not null)
            parts.Add(
                "exists (select 1 from activity_subject as s where s.teacher_id = activity.teacher_id and s.subject = @Subject "
                    + "and s.activity_id = activity.id)"
            );
        const string Given = "select 1 from assignment as g where g.activity_id = activity.id and g.deleted_at is null";
        if (wanted.Group is not null)
            parts.Add($"exists ({Given} and g.class_id = @Group)");
        parts.AddRange(
            wanted.Which switch
            {
                WhichActivities.Open =>
                [
                    $"exists ({Given} and g.ended_at is null and (g.opens_at is null or g.opens_at <= @now) "
                        + "and (g.closes_at is null or g.closes_at > @now))",
                ],
                WhichActivities.NeedsMe =>
                [
                    "exists (select 1 from assignment as g join attempt on attempt.assignment_id = g.id where g.activity_id = activity.id "
                        + "and g.deleted_at is null and attempt.deleted_at is null and (attempt.late > 0 or attempt.waits = 1))",
                ],
                WhichActivities.Drafts => [$"not exists ({Given})", "activity.is_starter = 0"],
                WhichActivities.Starters => ["activity.is_starter = 1"],
                _ => (string[])[],
            }
        );
        return string.Join(" and ", parts);
    }

    /// <summary>Puts an activity away, or takes it out again; false when it is not this teacher's.</summary>
    public bool Archive(long teacher, long id, bool isAway) =>
        database.Write(connection =>
            connection.Execute(
                $"update activity set archived_at = @at where id = @id and deleted_at is null and {OfTeacher}",
                new
                {
                    teacher,
                    id,
                    at = isAway ? clock.GetUtcNow() : (DateTimeOffset?)null,
                }
            ) == 1
        );

    /// <summary>Owns an activity together with a colleague from now on; false when it is not this teacher's.</summary>
    public bool Share(long teacher, long id, long colleague) =>
        TitleOf(teacher, id) is not null
        && database.Write(connection =>
            connection.Execute(
                "insert into activity_teacher (teacher_id, activity_id) values (@colleague, @id) on conflict do nothing",
                new { colleague, id }
            ) >= 0
        );

    /// <summary>Names of all who own an activity, the one who began it first.</summary>
    public IReadOnlyList<string> OwnersOf(long id) =>
        database.Read(connection =>
            connection
                .Query<string>(
                    """
                    select teacher.name
                    from activity
                    join teacher on teacher.id = activity.teacher_id
                    where activity.id = @id
                    union all
                    select teacher.name
                    from activity_teacher
                    join teacher on teacher.id = activity_teacher.teacher_id
                    where activity_teacher.activity_id = @id and teacher.left_at is null
                    """,
                    new { id }
                )
                .AsList()
        );

    /// <summary>Lays an activity out for all colleagues, or takes it back; false when it is not this teacher's.</summary>
    public bool Shelve(long teacher, long id, bool isOut) =>
        database.Write(connection =>
            connection.Execute(
                $"update activity set shelved_at = @at where id = @id and deleted_at is null and {OfTeacher}",
                new
                {
                    teacher,
                    id,
                    at = isOut ? clock.GetUtcNow() : (DateTimeOffset?)null,
                }
            ) == 1
        );

    public bool IsShelved(long id) =>
        database.Read(connection =>
            connection.ExecuteScalar<bool>(
                "select exists (select 1 from activity where id = @id and shelved_at is not null and deleted_at is null)",
                new { id }
            )
        );

    /// <summary>What lies on the school's shelf, the newest first.</summary>
    /// <param name="language">A BCP 47 tag; null for any.</param>
    /// <param name="kind">The name of a kind of target that it has; null for any.</param>
    public IReadOnlyList<ShelvedCard> Shelved(
        IReadOnlyList<string> words,
        string? subject,
        string? language,
        string? kind,
        int skip,
        int most
    ) =>
        database.Read(connection =>
        {
            var parameters = new DynamicParameters(
                new
                {
                    subject,
                    language,
                    kind = kind is null ? null : $"% {Escaped(kind)} %",
                    skip,
                    most,
                }
            );
            for (var i = 0; i < words.Count; i++)
                parameters.Add($"word{i}", $"%{Escaped(ActivitySummary.Fold(words[i]))}%");
            return connection
                .Query<ShelvedCard>(
                    $"""
                    select activity.id, activity.title, activity.media, activity.panes, activity.targets, activity.teacher_id,
                           teacher.name as owner
                    from activity
                    join teacher on teacher.id = activity.teacher_id
                    where activity.shelved_at is not null and activity.deleted_at is null
                      {string.Concat(words.Select((_, i) => $"and activity.search like @word{i} escape '\\' "))}
                      and (@subject is null or exists (
                          select 1
                          from activity_subject as s
                          where s.teacher_id = activity.teacher_id and s.subject = @subject and s.activity_id = activity.id))
                      and (@language is null or activity.language = @language)
                      and (@kind is null or activity.kinds like @kind escape '\')
                    order by activity.shelved_at desc, activity.id desc
                    limit @most offset @skip
                    """,
                    parameters
                )
                .AsList();
        });

    /// <summary>The draft of an activity that lies on the school's shelf, whoever's it is.</summary>
    public Draft? FindShelved(long id) => IsShelved(id) && OwnerOf(id) is { } owner ? Find(owner, id) : null;

    private long? OwnerOf(long id) =>
        database.Read(connection => connection.ExecuteScalar<long?>("select teacher_id from activity where id = @id", new { id }));

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

    /// <param name="from">Whose it was before; empty for nobody's.</param>
    public long Add(long teacher, Activity activity, string document, string from = "") =>
        database.Write(connection =>
        {
            var id = connection.ExecuteScalar<long>(
                """
                insert into activity (identity, teacher_id, title, draft, version, created_at, changed_at, came_from)
                values (@identity, @teacher, @Title, @document, 1, @now, @now, @from)
                returning id
                """,
                new
                {
                    identity = Identity.New(),
                    teacher,
                    activity.Title,
                    document,
                    from,
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
                $"select title from activity where id = @id and {OfTeacher} and deleted_at is null",
                new { teacher, id }
            )
        );

    /// <summary>The draft, when it is this teacher's.</summary>
    public Draft? Find(long teacher, long id) => database.ReadAtOnce(connection => Find(connection, teacher, id));

    /// <summary>The activity of a draft, of which the panes that were saved one by one are remembered.</summary>
    /// <exception cref="DocumentRefused">What is stored is no longer taken.</exception>
    public Activity? Activity(long teacher, long id) =>
        database
            .ReadAtOnce(connection => FindStored(connection, teacher, id) is { } draft ? panes.Read(connection, draft) : null)
            ?.Activity;

    private static Draft? Find(IDbConnection connection, long teacher, long id) =>
        FindStored(connection, teacher, id) is { } draft
            ? draft with
            {
                Document = DraftPanes.Whole(connection, id, draft.Version, draft.Document),
            }
            : null;

    /// <summary>The draft with its document as it is stored, which may name panes that are stored beside it.</summary>
    private static Draft? FindStored(IDbConnection connection, long teacher, long id) =>
        connection.QuerySingleOrDefault<Draft>(
            $"""
            select id, title, draft as document, version
            from activity
            where id = @id and {OfTeacher} and deleted_at is null
            """,
            new { id, teacher }
        );

    private const string OfVersions = $"""
        from draft_version
        join activity on activity.id = draft_version.activity_id
        where activity.id = @id and {OfTeacher} and activity.deleted_at is null
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
        database.ReadAtOnce(connection =>
            connection.QuerySingleOrDefault<DraftVersion>(
                $"""
                select draft_version.saved_at as slot, draft_version.version, draft_version.document, draft_version.saved_at
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
                is { } version
                ? version with
                {
                    Document = DraftPanes.Whole(connection, id, version.Version, version.Document),
                }
                : null
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

    /// <summary>Where a draft is what was given, it becomes what counts now; where the teacher has gone on from it, it stays.</summary>
    /// <param name="before">The document that was given.</param>
    /// <param name="after">The document that counts now.</param>
    internal void Follow(IDbConnection connection, long teacher, long id, string before, string after)
    {
        if (Find(teacher, id) is { } draft && ActivityDocument.ReadAndWrite(draft.Document).Document == before)
            Save(connection, teacher, id, draft.Version, ActivityDocument.Read(after), after);
    }

    /// <summary>
    /// Stores a draft of which only what changed was sent: in its list of panes the id of a pane stands for that pane as the draft
    /// has it.
    /// </summary>
    /// <inheritdoc cref="Save(long, long, long, Activity, string)"/>
    /// <exception cref="DocumentRefused">What was sent is no activity, or names a pane that the draft has not.</exception>
    public PartsOutcome? SaveParts(long teacher, long id, long version, string sent)
    {
        var parts = DocumentParts.Of(sent);
        if (Before(teacher, id, parts) is not { } stored)
            return null;
        if (parts.Panes.FirstOrDefault(pane => IsName(pane) && !stored.Panes.ContainsKey(pane)) is { } unknown)
            return stored.Version == version ? throw DocumentParts.NoSuchPane(unknown) : new(new(stored.Version, false), null, []);
        var draft = DraftParts.Of(parts.Head, [.. parts.Panes.Select(pane => IsName(pane) ? stored.Panes[pane] : DraftPane.Of(pane))]);
        var (outcome, numbers) = database.Write(connection => Save(connection, teacher, id, version, draft));
        if (outcome is null)
            return null;
        if (outcome.Saved)
            panes.Remember(draft.Panes.Zip(numbers, (pane, number) => pane with { Stored = number }), before: stored.Panes.Values);
        return new(outcome, draft.Activity, outcome.Version == stored.Version + 1 ? SameIn(draft, stored) : []);
    }

    private static ImmutableHashSet<int> SameIn(DraftParts now, BeforeSave before) =>
        now.Head == before.Head && now.Panes.Select(pane => pane.Pane.Id).SequenceEqual(before.Panes.Values.Select(pane => pane.Pane.Id))
            ? [.. Enumerable.Range(0, now.Panes.Length).Where(i => now.Panes[i] == before.Panes.GetAt(i).Value)]
            : [];

    private static bool IsName(string pane) => pane[0] == '"';

    /// <param name="Panes">By their ids as JSON; none when a save names none.</param>
    private sealed record BeforeSave(long Version, string Head, OrderedDictionary<string, DraftPane> Panes);

    /// <summary>The draft before a save; null when there is none.</summary>
    private BeforeSave? Before(long teacher, long id, DocumentParts sent) =>
        database.ReadAtOnce(connection =>
        {
            if (FindStored(connection, teacher, id) is not { } draft)
                return null;
            var known = new OrderedDictionary<string, DraftPane>();
            if (!sent.Panes.Any(IsName))
                return new BeforeSave(draft.Version, "", known);
            var read = panes.Read(connection, draft);
            foreach (var pane in read.Panes)
                known.Add(JsonSerializer.Serialize(pane.Pane.Id, DocumentJson.Options), pane);
            return new BeforeSave(draft.Version, read.Head, known);
        });

    private (SaveOutcome? Outcome, ImmutableArray<string> Numbers) Save(
        IDbConnection connection,
        long teacher,
        long id,
        long version,
        DraftParts draft
    )
    {
        var known = draft.Panes.Select(pane => DraftPanes.NumberOf(connection, id, pane)).ToList();
        if (Claim(connection, teacher, id, version, draft.Activity.Title) is not { } now)
        {
            var stored = FindStored(connection, teacher, id);
            var isSame = !known.Contains(null) && stored?.Document == draft.With(known!);
            return (stored is null ? null : new(stored.Version, isSame), [.. known.OfType<string>()]);
        }
        ImmutableArray<string> numbers = [.. known.Zip(draft.Panes, (number, pane) => number ?? DraftPanes.Add(connection, id, now, pane))];
        var news = draft.With(draft.Panes.Zip(known, (pane, number) => number is null ? pane.Stored : number));
        Store(connection, id, now, draft.Activity, draft.With(numbers), news, numbers);
        return (new(now, true), numbers);
    }

    /// <summary>
    /// Makes an earlier state the draft. What the draft was stays among the states, whatever is saved in the same ten minutes.
    /// </summary>
    /// <inheritdoc cref="Save(long, long, long, Activity, string)"/>
    public SaveOutcome? GoBack(long teacher, long id, long version, Activity earlier, string document) =>
        database.Write(connection =>
        {
            if (FindStored(connection, teacher, id) is not { } current)
                return null;
            var whole = DraftPanes.Whole(connection, id, current.Version, current.Document);
            if (current.Version == version && whole != document)
                Keep(connection, current, ActivityDocument.ReadUnchecked(whole), isKept: true);
            return Save(connection, teacher, id, version, earlier, document);
        });

    private SaveOutcome? Save(IDbConnection connection, long teacher, long id, long version, Activity activity, string document)
    {
        if (Claim(connection, teacher, id, version, activity.Title) is { } now)
        {
            Store(connection, id, now, activity, document, news: document, numbers: []);
            return new SaveOutcome(now, true);
        }
        return Find(connection, teacher, id) is { } current ? new SaveOutcome(current.Version, current.Document == document) : null;
    }

    /// <returns>The new version; null when it is not this version any more that is stored.</returns>
    private long? Claim(IDbConnection connection, long teacher, long id, long version, string title) =>
        connection.ExecuteScalar<long?>(
            $"""
            update activity
            set title = @title, version = version + 1, changed_at = @now
            where id = @id and {OfTeacher} and version = @version and deleted_at is null
            returning version
            """,
            new
            {
                teacher,
                id,
                version,
                title,
                now = clock.GetUtcNow(),
            }
        );

    /// <param name="document">As it is stored.</param>
    /// <param name="news">The document with what is new in it, at least.</param>
    /// <param name="numbers">Of the panes that it names.</param>
    private void Store(
        IDbConnection connection,
        long id,
        long version,
        Activity activity,
        string document,
        string news,
        ImmutableArray<string> numbers
    )
    {
        connection.Execute("update activity set draft = @document where id = @id", new { id, document });
        var owner = connection.ExecuteScalar<long>("select teacher_id from activity where id = @id", new { id });
        ActivitySummary.Of(activity).Store(connection, owner, id);
        MediaUse.Add(connection, id, news);
        var draft = new Draft
        {
            Id = id,
            Title = activity.Title,
            Document = document,
            Version = version,
        };
        Keep(connection, draft, activity, isKept: false);
        DraftPanes.Keep(connection, id, version, numbers);
    }

    /// <param name="draft">As it is stored.</param>
    /// <param name="activity">What it holds.</param>
    private void Keep(IDbConnection connection, Draft draft, Activity activity, bool isKept)
    {
        var id = draft.Id;
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
            insert into draft_version (activity_id, saved_at, slot, version, document, title, panes, targets, can_be_seen, is_kept)
            values (@id, @saved, @slot, @Version, @Document, @Title, @panes, @targets, @canBeSeen, @isKept)
            on conflict (activity_id, saved_at) do update
                set version = excluded.version, document = excluded.document, title = excluded.title,
                    panes = excluded.panes, targets = excluded.targets,
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
                draft.Version,
                draft.Document,
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
