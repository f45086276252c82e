using System.Data;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>
/// What an upgrade has to work out that SQL can't: each thing once, in a transaction of its own, so that it may be interrupted.
/// </summary>
internal static class Upgrades
{
    public static void Run(Database database)
    {
        database.Write(SortByThisVersion);
        while (
            database.Write(Summarise)
            || database.Write(SummariseVersion)
            || database.Write(TakeApart)
            || database.Write(Students.Sort)
            || database.Write(Count)
        ) { }
    }

    /// <summary>Names are sorted anew when the platform sorts by another version of its rules.</summary>
    private static bool SortByThisVersion(IDbConnection connection)
    {
        var version = NameOrder.Version;
        if (connection.ExecuteScalar<string?>("select version from collation") == version)
            return false;
        connection.Execute(
            "update student set sort_key = null; delete from collation; insert into collation (version) values (@version)",
            new { version }
        );
        return true;
    }

    /// <summary>Works out of one assignment which attempts count; false when there is none left.</summary>
    private static bool Count(IDbConnection connection)
    {
        if (connection.ExecuteScalar<long?>("select assignment_id from attempt where counts is null limit 1") is not { } assignment)
            return false;
        Standings.Recount(connection, assignment);
        return true;
    }

    private sealed record Unread(long Id, long TeacherId, string Draft);

    /// <summary>Makes what lists show of one activity; false when there is none left.</summary>
    private static bool Summarise(IDbConnection connection)
    {
        if (
            connection.QueryFirstOrDefault<Unread>("select id, teacher_id, draft from activity where search is null limit 1")
            is not { } activity
        )
            return false;
        var documents = connection.Query<string>(
            """
            select document from revision where activity_id = @Id
            union
            select document from draft_version where activity_id = @Id
            """,
            new { activity.Id }
        );
        foreach (var document in documents.Append(activity.Draft))
            MediaUse.Add(connection, activity.Id, document);
        try
        {
            ActivitySummary.Of(ActivityDocument.Read(activity.Draft)).Store(connection, activity.TeacherId, activity.Id);
        }
        catch (DocumentRefused)
        {
            // What this version no longer takes keeps its title in the list, and says why when it is opened.
            connection.Execute("update activity set search = lower(title) where id = @Id", new { activity.Id });
        }
        return true;
    }

    private sealed record UnreadVersion(long ActivityId, long SavedAt, string Document);

    /// <summary>The same of one earlier state of a draft.</summary>
    private static bool SummariseVersion(IDbConnection connection)
    {
        if (
            connection.QueryFirstOrDefault<UnreadVersion>(
                "select activity_id, saved_at, document from draft_version where title is null limit 1"
            )
            is not { } version
        )
            return false;
        var activity = ActivityDocument.ReadUnchecked(version.Document);
        connection.Execute(
            """
            update draft_version
            set title = @Title, panes = @panes, targets = @targets, can_be_seen = @canBeSeen
            where activity_id = @ActivityId and saved_at = @SavedAt
            """,
            new
            {
                version.ActivityId,
                version.SavedAt,
                activity.Title,
                panes = activity.Panes.Length,
                targets = activity.Panes.Sum(pane => pane.Targets.Length),
                canBeSeen = Soundness.Faults(activity).Count == 0 && Readiness.Obstacles(activity).Count == 0,
            }
        );
        return true;
    }

    private sealed record OldLog(long Id, string Name, string Document);

    /// <summary>
    /// Writes one log anew that was written when looks and full zones were worked out again at each reading: what followed from
    /// a move becomes moves of its own. False when there is none left.
    /// </summary>
    private static bool TakeApart(IDbConnection connection)
    {
        var old = connection.QueryFirstOrDefault<OldLog>(
            """
            select attempt.id, student.name, revision.document
            from attempt
            join student on student.id = attempt.student_id
            join revision on revision.id = attempt.revision_id
            where attempt.version = -1
            limit 1
            """
        );
        if (old is null)
            return false;
        var rows = AttemptLog.Read(connection, old.Id).ToList();
        var (responses, moves) = (ResponseDocument.Empty, new List<(AttemptLog.Row Row, string? Key, string Json)>());
        var panes = rows.Count == 0 ? null : ActivityDocument.ReadUnchecked(old.Document).Panes.ToDictionary(pane => pane.Id);
        foreach (var row in rows)
        {
            var move = row.Read();
            // What followed from a move had that move's key with a number.
            moves.Add((row, row.Key is { } key && key.Contains('/', StringComparison.Ordinal) ? null : row.Key, row.Move));
            var following = panes!.TryGetValue(row.Pane, out var pane)
                ? MoveRules.Following(pane, responses.GetValueOrDefault(row.Pane, Response.Empty), move).ToList()
                : [];
            responses = following.Prepend(move).Aggregate(responses, (done, next) => Moves.Apply(done, row.Pane, next));
            moves.AddRange(following.Select(next => (row, (string?)null, LoggedMove.Of(null, row.Pane, next).Json)));
        }
        connection.Execute("delete from move where attempt_id = @Id", new { old.Id });
        connection.Execute(
            """
            insert into move (attempt_id, number, key, pane, move, made_at)
            values (@Id, @Number, @Key, @Pane, @Json, @MadeAt)
            """,
            moves.Select(
                (move, i) =>
                    new
                    {
                        old.Id,
                        Number = i + 1,
                        move.Key,
                        move.Row.Pane,
                        move.Json,
                        move.Row.MadeAt,
                    }
            )
        );
        connection.Execute(
            """
            update attempt
            set edition = edition + 1, version = @version, placed = @placed
            where id = @Id;
            update student
            set folded_name = @folded
            where id = (select student_id from attempt where id = @Id) and deleted_at is null
            """,
            new
            {
                old.Id,
                version = moves.Count,
                folded = PersonName.Fold(old.Name),
                placed = responses.Values.Sum(response => response.Answers),
            }
        );
        return true;
    }
}
