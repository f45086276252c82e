using System.Collections.Immutable;
using System.Data;
using System.Text;
using System.Text.Json;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One pane of a draft.</summary>
/// <param name="Stored">What stands for it in the draft's list of panes: the number of its row, or the pane itself as JSON.</param>
/// <param name="Bytes">Of its document, as UTF-8.</param>
internal sealed record DraftPane(Pane Pane, string Stored, int Bytes)
{
    /// <exception cref="DocumentRefused">The text is not a pane.</exception>
    public static DraftPane Of(string json)
    {
        var (pane, document) = ActivityDocument.ReadAndWritePane(json);
        return new(pane, document, Encoding.UTF8.GetByteCount(document));
    }
}

/// <summary>A draft with its panes apart.</summary>
/// <param name="Head">The document with an empty list of panes.</param>
internal sealed record DraftParts(Activity Activity, string Head, ImmutableArray<DraftPane> Panes)
{
    /// <exception cref="DocumentRefused">The head is no activity, or the whole is degenerate or too large.</exception>
    public static DraftParts Of(string head, ImmutableArray<DraftPane> panes)
    {
        var (rest, document) = ActivityDocument.ReadAndWrite(head);
        var activity = rest with { Panes = [.. panes.Select(pane => pane.Pane)] };
        ActivityDocument.Require(activity, Encoding.UTF8.GetByteCount(document) + panes.Sum(pane => (long)pane.Bytes + 1));
        return new(activity, document, panes);
    }

    /// <summary>The document with this in place of its panes.</summary>
    public string With(IEnumerable<string> panes) => (DocumentParts.Of(Head) with { Panes = [.. panes] }).Whole;
}

/// <summary>
/// The panes of drafts, stored one by one so that a save reads and writes the one that it changes. What was read of a row is
/// remembered, since a row never changes.
/// </summary>
internal sealed class DraftPanes
{
    private const int MostRemembered = 512;

    /// <summary>Larger ones, in bytes of their document, are read each time: many of them would fill the memory.</summary>
    private const int LargestRemembered = 256 * 1024;

    private readonly Lru<string, DraftPane> known = new(MostRemembered);

    private sealed record Row(long Id, string Document);

    private static Dictionary<string, string> Rows(IDbConnection connection, IEnumerable<string> numbers) =>
        connection
            .Query<Row>(
                "select id, document from draft_pane where id in (select value from json_each(@numbers))",
                new { numbers = $"[{string.Join(',', numbers)}]" }
            )
            .ToDictionary(row => $"{row.Id}", row => row.Document);

    private static bool IsNumber(string stored) => char.IsAsciiDigit(stored[0]);

    /// <summary>A document as it is stored, with the panes that it names by number in their places.</summary>
    public static string Whole(IDbConnection connection, long activity, long version, string stored)
    {
        if (!AreApart(connection, activity, version))
            return stored;
        var parts = DocumentParts.Of(stored);
        var rows = Rows(connection, parts.Panes);
        return (parts with { Panes = [.. parts.Panes.Select(number => rows[number])] }).Whole;
    }

    private static bool AreApart(IDbConnection connection, long activity, long version) =>
        connection.ExecuteScalar<bool>(
            """
            select exists (
                select 1
                from draft_pane
                where activity_id = @activity and since <= @version and (until is null or until > @version))
            """,
            new { activity, version }
        );

    /// <summary>A draft as it is stored, read; of its panes only those that are not remembered.</summary>
    /// <exception cref="DocumentRefused">What is stored is no longer taken.</exception>
    public DraftParts Read(IDbConnection connection, Draft stored)
    {
        var parts = DocumentParts.Of(stored.Document);
        var read = new Dictionary<string, DraftPane>();
        foreach (var number in parts.Panes.Where(IsNumber))
            if (known.TryGet(number, out var pane))
                read[number] = pane;
        foreach (var (number, document) in Rows(connection, parts.Panes.Where(pane => IsNumber(pane) && !read.ContainsKey(pane))))
            Remember(read[number] = DraftPane.Of(document) with { Stored = number });
        return DraftParts.Of(parts.Head, [.. parts.Panes.Select(pane => IsNumber(pane) ? read[pane] : DraftPane.Of(pane))]);
    }

    /// <summary>Remembers the panes of a draft that is stored for good, in place of what it had.</summary>
    public void Remember(IEnumerable<DraftPane> now, IEnumerable<DraftPane> before)
    {
        foreach (var pane in before)
            known.Forget(pane.Stored);
        foreach (var pane in now)
            Remember(pane);
    }

    private void Remember(DraftPane pane)
    {
        if (pane.Bytes <= LargestRemembered)
            known.Put(pane.Stored, pane);
    }

    /// <summary>The number of the row that a pane has in a draft; null when the draft has no such row.</summary>
    public static string? NumberOf(IDbConnection connection, long activity, DraftPane pane) =>
        IsNumber(pane.Stored)
            ? pane.Stored
            : connection.ExecuteScalar<string>(
                """
                select id
                from draft_pane
                where activity_id = @activity and until is null and bytes = @Bytes and document = @Stored
                """,
                new
                {
                    activity,
                    pane.Bytes,
                    pane.Stored,
                }
            );

    /// <returns>The number of its row.</returns>
    public static string Add(IDbConnection connection, long activity, long version, DraftPane pane) =>
        connection.ExecuteScalar<string>(
            """
            insert into draft_pane (activity_id, bytes, document, since)
            values (@activity, @Bytes, @Stored, @version)
            returning id
            """,
            new
            {
                activity,
                version,
                pane.Bytes,
                pane.Stored,
            }
        )!;

    /// <summary>A draft has these rows only from a version on; what no earlier state of it names any more goes.</summary>
    public static void Keep(IDbConnection connection, long activity, long version, IEnumerable<string> numbers) =>
        connection.Execute(
            """
            update draft_pane
            set until = @version
            where activity_id = @activity and until is null and id not in (select value from json_each(@numbers));
            delete from draft_pane
            where activity_id = @activity and until is not null and not exists (
                select 1
                from draft_version
                where draft_version.activity_id = @activity
                  and draft_version.version >= draft_pane.since and draft_version.version < draft_pane.until)
            """,
            new
            {
                activity,
                version,
                numbers = $"[{string.Join(',', numbers)}]",
            }
        );
}
