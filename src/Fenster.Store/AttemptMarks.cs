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
/// <param name="IsAgreed">Whether both markers agreed on it.</param>
public sealed record AwardChange(string Pane, string Target, Award? Made, ImmutableArray<decimal> Parts, bool IsAgreed = false);

/// <summary>Whose word on the points it is.</summary>
public enum Marker
{
    /// <summary>Whose points count.</summary>
    First,

    /// <summary>Who has not seen the first one's, and whose points count once both agree.</summary>
    Second,
}

/// <summary>What a second marker gave at a target.</summary>
/// <param name="Parts">The points of each criterion; empty where there is none.</param>
/// <param name="IsAgreed">Whether both have agreed since.</param>
public sealed record SecondMark(string Pane, Award Award, ImmutableArray<decimal> Parts, bool IsAgreed);

/// <inheritdoc cref="Remark"/>
public sealed record NewRemark(string? Pane, string? Target, Point? At, string Text);

/// <summary>What people have decided and said of attempts: read, and added to.</summary>
internal static class AttemptMarks
{
    private sealed record AwardRow
    {
        public long Attempt { get; init; }
        public required string Pane { get; init; }
        public required string Target { get; init; }
        public string? Credit { get; init; }
        public string? Parts { get; init; }
        public required string Teacher { get; init; }
        public DateTimeOffset At { get; init; }
        public bool Agreed { get; init; }
        public ImmutableArray<decimal> Points => Parts is null ? [] : JsonSerializer.Deserialize<ImmutableArray<decimal>>(Parts);
        public Award Award => new(Target, Number(Credit!), Teacher, At);
    }

    private sealed record RemarkRow
    {
        public long Id { get; init; }
        public long Attempt { get; init; }
        public string? Pane { get; init; }
        public string? Target { get; init; }
        public double? X { get; init; }
        public double? Y { get; init; }
        public required string Text { get; init; }
        public required string Teacher { get; init; }
        public DateTimeOffset At { get; init; }
    }

    internal static Marking Read(IDbConnection connection, long attempt) =>
        Read(connection, [attempt]).GetValueOrDefault(attempt, Marking.None);

    /// <summary>The markings of several attempts, by their ids; none of those that have none.</summary>
    /// <param name="attempts">At most some hundreds.</param>
    internal static IReadOnlyDictionary<long, Marking> Read(IDbConnection connection, IReadOnlyCollection<long> attempts)
    {
        var awards = Rows(connection, attempts).Where(row => row.Credit is not null).ToLookup(row => row.Attempt);
        var remarks = connection
            .Query<RemarkRow>(
                """
                select remark.id, remark.attempt_id as attempt, remark.pane, remark.target, remark.x, remark.y, remark.text,
                       teacher.name as teacher, remark.at
                from remark
                join teacher on teacher.id = remark.teacher_id
                where remark.attempt_id in @attempts and remark.withdrawn_at is null
                order by remark.id
                """,
                new { attempts }
            )
            .ToLookup(row => row.Attempt);
        return attempts
            .Where(attempt => awards.Contains(attempt) || remarks.Contains(attempt))
            .ToDictionary(
                attempt => attempt,
                attempt => new Marking(
                    awards[attempt]
                        .GroupBy(row => row.Pane)
                        .ToImmutableDictionary(pane => pane.Key, pane => pane.Select(row => row.Award).ToImmutableArray()),
                    [
                        .. remarks[attempt]
                            .Select(row => new Remark(
                                row.Id,
                                row.Pane,
                                row.Target,
                                row is { X: { } x, Y: { } y } ? new(x, y) : null,
                                row.Text,
                                row.Teacher,
                                row.At
                            )),
                    ]
                )
            );
    }

    /// <summary>The points of each criterion of an attempt's awards, by pane and target.</summary>
    internal static IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> Parts(
        IDbConnection connection,
        long attempt
    ) =>
        Rows(connection, [attempt])
            .Where(row => row is { Credit: not null, Parts: not null })
            .ToDictionary(row => (row.Pane, row.Target), row => row.Points);

    /// <summary>What a second marker gave.</summary>
    internal static IReadOnlyList<SecondMark> Second(IDbConnection connection, long attempt)
    {
        var agreed = Rows(connection, [attempt]).Where(row => row.Agreed).ToDictionary(row => (row.Pane, row.Target), row => row.At);
        return
        [
            .. Rows(connection, [attempt], Marker.Second)
                .Where(row => row.Credit is not null)
                .Select(row => new SecondMark(
                    row.Pane,
                    row.Award,
                    row.Points,
                    agreed.TryGetValue((row.Pane, row.Target), out var at) && at >= row.At
                )),
        ];
    }

    /// <summary>Of each target's rows the last one.</summary>
    private static IEnumerable<AwardRow> Rows(IDbConnection connection, IReadOnlyCollection<long> attempts, Marker marker = Marker.First) =>
        connection.Query<AwardRow>(
            $"""
            select own.attempt_id as attempt, own.pane, own.target, own.credit, own.parts, teacher.name as teacher, own.at,
                   {(marker == Marker.First ? "own.agreed" : "0")} as agreed
            from {TableOf(marker)} as own
            join teacher on teacher.id = own.teacher_id
            where own.id in (select max(id) from {TableOf(marker)} where attempt_id in @attempts group by attempt_id, pane, target)
            order by own.id
            """,
            new { attempts }
        );

    private static string TableOf(Marker marker) => marker == Marker.First ? "award" : "second_mark";

    /// <summary>Whether a teacher has given points to an attempt as this marker.</summary>
    internal static bool HasMarked(IDbConnection connection, long attempt, long teacher, Marker marker) =>
        connection.ExecuteScalar<bool>(
            $"select exists (select 1 from {TableOf(marker)} where attempt_id = @attempt and teacher_id = @teacher)",
            new { attempt, teacher }
        );

    /// <summary>Stores changes, each with a line in the record.</summary>
    /// <param name="marker">Whose points they are.</param>
    internal static void Add(IDbConnection connection, TimeProvider clock, Attempt attempt, Changes changes, long teacher, Marker marker)
    {
        var now = clock.GetUtcNow();
        void Record(RecordKind kind, string? before, string? after) =>
            Records.Add(connection, clock, teacher, attempt.AssignmentId, attempt.Id, kind, before, after);

        var second = marker == Marker.Second ? Second(connection, attempt.Id) : [];
        foreach (var (pane, target, made, parts, isAgreed) in changes.Awards)
        {
            connection.Execute(
                marker == Marker.First
                    ? """
                    insert into award (attempt_id, pane, target, credit, parts, teacher_id, at, agreed)
                    values (@attempt, @pane, @target, @credit, @parts, @teacher, @now, @isAgreed)
                    """
                    : """
                    insert into second_mark (attempt_id, pane, target, credit, parts, teacher_id, at)
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
                    isAgreed,
                }
            );
            var before =
                marker == Marker.First
                    ? attempt.Marking.AwardAt(pane, target)?.Credit
                    : second.FirstOrDefault(mark => mark.Pane == pane && mark.Award.Target == target)?.Award.Credit;
            var kind =
                marker == Marker.Second ? RecordKind.SecondMarked
                : isAgreed ? RecordKind.Agreed
                : RecordKind.Awarded;
            Record(kind, Said(pane, target, before), Said(pane, target, made?.Credit));
        }
        // The record names remarks by their numbers: what was said of somebody goes with them when their work is deleted.
        foreach (var remark in changes.Said)
        {
            var id = connection.ExecuteScalar<long>(
                """
                insert into remark (attempt_id, pane, target, x, y, text, teacher_id, at)
                values (@attempt, @Pane, @Target, @x, @y, @Text, @teacher, @now)
                returning id
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
            Record(RecordKind.Remarked, null, $"{id}");
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
            Record(RecordKind.RemarkWithdrawn, $"{remark.Id}", null);
        }
    }

    /// <summary>An award as the record keeps it.</summary>
    private static string Said(string pane, string target, decimal? credit) =>
        $"{pane}/{target}: {(credit is { } given ? Text(given) : "machine")}";

    private static string Text(decimal number) => number.ToString(CultureInfo.InvariantCulture);

    private static decimal Number(string text) => decimal.Parse(text, CultureInfo.InvariantCulture);
}
