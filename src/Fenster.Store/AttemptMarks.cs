using System.Collections.Immutable;
using System.Data;
using System.Globalization;
using System.Text.Json;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Scoring;

namespace Fenster.Store;

/// <summary>What a person changes of an attempt's marking in one step.</summary>
/// <param name="Said">Remarks that are new.</param>
/// <param name="Withdrawn">Ids of remarks that are taken back.</param>
public sealed record Changes(ImmutableArray<AwardChange> Awards, ImmutableArray<NewRemark> Said, ImmutableArray<long> Withdrawn)
{
    public bool IsEmpty => Awards.IsEmpty && Said.IsEmpty && Withdrawn.IsEmpty;
}

/// <param name="Made">Null where the machine's credit counts again.</param>
/// <param name="Parts">The points of each criterion; empty where there is none.</param>
public sealed record AwardChange(string Pane, string Target, Award? Made, ImmutableArray<decimal> Parts);

/// <inheritdoc cref="Remark"/>
public sealed record NewRemark(string? Pane, string? Target, Point? At, string Text);

/// <summary>What people have decided and said of attempts: read, and added to.</summary>
internal static class AttemptMarks
{
    private sealed record AwardRow
    {
        public required string Pane { get; init; }
        public required string Target { get; init; }
        public string? Credit { get; init; }
        public string? Parts { get; init; }
        public required string Teacher { get; init; }
        public DateTimeOffset At { get; init; }
    }

    private sealed record RemarkRow
    {
        public long Id { get; init; }
        public string? Pane { get; init; }
        public string? Target { get; init; }
        public double? X { get; init; }
        public double? Y { get; init; }
        public required string Text { get; init; }
        public required string Teacher { get; init; }
        public DateTimeOffset At { get; init; }
    }

    internal static Marking Read(IDbConnection connection, long attempt)
    {
        var awards = Rows(connection, attempt)
            .Where(row => row.Credit is not null)
            .Select(row => (row.Pane, Award: new Award(row.Target, Number(row.Credit!), row.Teacher, row.At)));
        var remarks = connection.Query<RemarkRow>(
            """
            select remark.id, remark.pane, remark.target, remark.x, remark.y, remark.text, teacher.name as teacher, remark.at
            from remark
            join teacher on teacher.id = remark.teacher_id
            where remark.attempt_id = @attempt and remark.withdrawn_at is null
            order by remark.id
            """,
            new { attempt }
        );
        return new(
            awards
                .GroupBy(row => row.Pane)
                .ToImmutableDictionary(pane => pane.Key, pane => pane.Select(row => row.Award).ToImmutableArray()),
            [
                .. remarks.Select(row => new Remark(
                    row.Id,
                    row.Pane,
                    row.Target,
                    row is { X: { } x, Y: { } y } ? new(x, y) : null,
                    row.Text,
                    row.Teacher,
                    row.At
                )),
            ]
        );
    }

    /// <summary>The points of each criterion of an attempt's awards, by pane and target.</summary>
    internal static IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> Parts(
        IDbConnection connection,
        long attempt
    ) =>
        Rows(connection, attempt)
            .Where(row => row is { Credit: not null, Parts: not null })
            .ToDictionary(row => (row.Pane, row.Target), row => JsonSerializer.Deserialize<ImmutableArray<decimal>>(row.Parts!));

    /// <summary>Of each target's rows the last one.</summary>
    private static IEnumerable<AwardRow> Rows(IDbConnection connection, long attempt) =>
        connection.Query<AwardRow>(
            """
            select award.pane, award.target, award.credit, award.parts, teacher.name as teacher, award.at
            from award
            join teacher on teacher.id = award.teacher_id
            where award.id in (select max(id) from award where attempt_id = @attempt group by pane, target)
            order by award.id
            """,
            new { attempt }
        );

    /// <summary>Stores changes, each with a line in the record.</summary>
    internal static void Add(IDbConnection connection, TimeProvider clock, Attempt attempt, Changes changes, long teacher)
    {
        var now = clock.GetUtcNow();
        void Record(string kind, string? before, string? after) =>
            Records.Add(connection, clock, teacher, attempt.AssignmentId, attempt.Id, kind, before, after);

        foreach (var (pane, target, made, parts) in changes.Awards)
        {
            connection.Execute(
                """
                insert into award (attempt_id, pane, target, credit, parts, teacher_id, at)
                values (@attempt, @pane, @target, @credit, @parts, @teacher, @now)
                """,
                new
                {
                    attempt = attempt.Id,
                    pane,
                    target,
                    credit = made is null ? null : Text(made.Credit),
                    parts = parts.IsEmpty ? null : JsonSerializer.Serialize(parts),
                    teacher,
                    now,
                }
            );
            var before = attempt.Marking.AwardAt(pane, target)?.Credit;
            Record("awarded", Said(pane, target, before), Said(pane, target, made?.Credit));
        }
        foreach (var remark in changes.Said)
        {
            connection.Execute(
                """
                insert into remark (attempt_id, pane, target, x, y, text, teacher_id, at)
                values (@attempt, @Pane, @Target, @x, @y, @Text, @teacher, @now)
                """,
                new
                {
                    attempt = attempt.Id,
                    remark.Pane,
                    remark.Target,
                    x = remark.At?.X,
                    y = remark.At?.Y,
                    remark.Text,
                    teacher,
                    now,
                }
            );
            Record("remarked", null, remark.Text);
        }
        foreach (var remark in attempt.Marking.Remarks.Where(remark => changes.Withdrawn.Contains(remark.Id)))
        {
            connection.Execute(
                "update remark set withdrawn_at = @now where id = @Id and attempt_id = @attempt and withdrawn_at is null",
                new
                {
                    now,
                    remark.Id,
                    attempt = attempt.Id,
                }
            );
            Record("remarkWithdrawn", remark.Text, null);
        }
    }

    /// <summary>An award as the record keeps it.</summary>
    private static string Said(string pane, string target, decimal? credit) =>
        $"{pane}/{target}: {(credit is { } given ? Text(given) : "machine")}";

    private static string Text(decimal number) => number.ToString(CultureInfo.InvariantCulture);

    private static decimal Number(string text) => decimal.Parse(text, CultureInfo.InvariantCulture);
}
