using System.Collections.Immutable;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Store;

/// <summary>Work that is handed in, as the insight of a class reads it.</summary>
/// <param name="Score">As it is stored.</param>
/// <param name="Counts">Whether it is the work that counts for its student, or one of them.</param>
public sealed record HandedWork(
    long Attempt,
    long Student,
    string Name,
    long Number,
    long RevisionId,
    string Rules,
    DateTimeOffset HandedInAt,
    decimal Score,
    bool Counts,
    Work Work
);

/// <summary>Reads all work of an assignment at once, in one pass over its moves.</summary>
public sealed class Works(Database database)
{
    private sealed record Row
    {
        public long Id { get; init; }
        public long StudentId { get; init; }
        public required string Name { get; init; }
        public long Number { get; init; }
        public long RevisionId { get; init; }
        public required string Rules { get; init; }
        public DateTimeOffset At { get; init; }
        public long Marked { get; init; }
        public decimal? Score { get; init; }
        public bool Counts { get; init; }
    }

    /// <summary>Where there is only something to learn, nothing is handed in: what was begun counts.</summary>
    private static string Done(Activity activity) =>
        activity.Purpose == Purpose.LearningOnly ? "attempt.version > 0" : "attempt.handed_in_at is not null and attempt.placed > 0";

    /// <summary>Of what there is to learn from, a student's last counts.</summary>
    private static string Counts(Activity activity) =>
        activity.Purpose == Purpose.LearningOnly
            ? "attempt.number = (select max(number) from attempt as own where own.student_id = attempt.student_id and own.deleted_at is null)"
            : "attempt.counts";

    /// <summary>What was handed in and has something in it, of students who were there, in the order in which it was handed in.</summary>
    /// <param name="activity">As it was given: the panes that times are told of.</param>
    /// <param name="tag">Of members; null for all.</param>
    public IReadOnlyList<HandedWork> Of(long assignment, Activity activity, string? tag = null) =>
        database.Read(connection =>
        {
            var rows = connection
                .Query<Row>(
                    $"""
                    select attempt.id, attempt.student_id, coalesce(member.name, student.name) as name, attempt.number, attempt.revision_id,
                           attempt.rules, coalesce(attempt.handed_in_at, attempt.started_at) as at, attempt.marked, attempt.score,
                           {Counts(activity)} as counts
                    from attempt
                    join student on student.id = attempt.student_id
                    left join member on member.id = student.member_id
                    where attempt.assignment_id = @assignment and attempt.deleted_at is null and {Done(activity)}
                      and student.state is null and {Attempts.Tagged(tag)}
                    order by at, attempt.id
                    """,
                    new { assignment, tag }
                )
                .AsList();
            var (wanted, works) = (rows.ToDictionary(row => row.Id), new Dictionary<long, HandedWork>());
            var moves = new List<AttemptLog.Row>();
            foreach (
                var move in connection.Query<AttemptLog.Row>(
                    $"""
                    select move.attempt_id, move.number, move.key, move.pane, move.move, move.made_at
                    from move
                    join attempt on attempt.id = move.attempt_id
                    where attempt.assignment_id = @assignment and attempt.deleted_at is null and {Done(activity)}
                    order by move.attempt_id, move.number
                    """,
                    new { assignment },
                    buffered: false
                )
            )
            {
                if (moves.Count > 0 && moves[0].AttemptId != move.AttemptId)
                    Take();
                moves.Add(move);
            }
            Take();
            return rows.Select(row => works.GetValueOrDefault(row.Id)).OfType<HandedWork>().ToList();

            void Take()
            {
                if (moves.Count > 0 && wanted.TryGetValue(moves[0].AttemptId, out var row))
                    works[row.Id] = WorkOf(connection, activity, row, moves);
                moves.Clear();
            }
        });

    /// <summary>Another text whenever something of the handed-in work of an assignment is not as it was.</summary>
    public string StateOf(long assignment) =>
        database.Read(connection =>
            connection.QuerySingle<string>(
                """
                select count(*) || ' ' || coalesce(sum(attempt.edition), 0) || ' ' || coalesce(max(attempt.identity), '') || ' '
                    || coalesce(sum(attempt.counts * attempt.id), 0) || ' ' || count(student.state)
                from attempt
                join student on student.id = attempt.student_id
                where attempt.assignment_id = @assignment and attempt.deleted_at is null and attempt.handed_in_at is not null
                """,
                new { assignment }
            )
        );

    private static HandedWork WorkOf(System.Data.IDbConnection connection, Activity activity, Row row, List<AttemptLog.Row> moves)
    {
        var log = moves.Select(move => (move.MadeAt, move.Pane, Move: move.Read())).ToList();
        var responses = log.Aggregate(ImmutableDictionary<string, Response>.Empty, (responses, move) =>
            Moves.Apply(responses, move.Pane, move.Move)
        );
        return new(
            row.Id,
            row.StudentId,
            row.Name,
            row.Number,
            row.RevisionId,
            row.Rules,
            row.At,
            row.Score ?? 0,
            row.Counts,
            new(responses, Pace.Of(activity, log)) { Marking = row.Marked == 0 ? Marking.None : AttemptMarks.Read(connection, row.Id) }
        );
    }
}
