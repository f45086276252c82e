using System.Data;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Scoring;

namespace Fenster.Store;

/// <summary>What a student's attempts at an assignment come to. Whatever is said of a student is said of this.</summary>
/// <param name="Counted">Ids of the attempts that count, in the order in which they were handed in.</param>
/// <param name="Score">Null when nothing was handed in, and of who was absent or is excused.</param>
/// <param name="Passed">Null without a pass mark, and while something waits for a person.</param>
/// <param name="Together">
/// The grade with the assignment that it follows; null when it follows none, neither was done, or something waits for a person.
/// </param>
public sealed record Standing(IReadOnlyList<long> Counted, StudentScore? Score, bool? Passed, decimal? Together)
{
    /// <summary>Rounded; null when nothing was handed in.</summary>
    public decimal? Grade => Score?.Grade;

    /// <summary>The grade as it goes out: none while something waits for a person.</summary>
    public decimal? FinalGrade => Score is { IsSoFar: false } final ? final.Grade : null;
}

/// <summary>What students have come to: which attempt counts, and how an assignment counts with the one that it follows.</summary>
public sealed class Standings(Database database, Assignments assignments, Revisions revisions)
{
    /// <param name="students">Ids of students at this assignment.</param>
    public IReadOnlyDictionary<long, Standing> Of(Assignment assignment, IReadOnlyList<long> students)
    {
        var follows = assignment is { Terms.Resit: not null, Follows: { } first } ? assignments.One(first) : null;
        var done = Counted(students, "own.id = student.id", null);
        var before = Counted(students, "own.member_id = student.member_id and student.assignment_id = @follows", follows?.Id);
        var passMark = revisions.Activity(assignment.RevisionId, assignment.Rules).Rules.Score.PassMark;
        return students
            .Distinct()
            .ToDictionary(
                student => student,
                student =>
                {
                    var score = ScoreOf(done[student]);
                    var earlier = ScoreOf(before[student]);
                    var isSoFar = score is { IsSoFar: true } || earlier is { IsSoFar: true };
                    return new Standing(
                        [.. done[student].Select(row => row.Id)],
                        score,
                        score?.Passes(passMark),
                        follows is null || isSoFar
                            ? null
                            : Counting.Across(earlier?.Grade, score?.Grade, assignment.Terms.Resit!.Value, passMark)
                    );
                }
            );
    }

    private static StudentScore? ScoreOf(IEnumerable<Row> counted) =>
        counted.Select(row => row.Score).ToList() is { Count: > 0 } scores ? StudentScore.Of(scores) : null;

    private sealed record Row
    {
        public long Id { get; init; }
        public long Student { get; init; }
        public decimal ExactGrade { get; init; }
        private decimal OwnScore { get; init; }
        private decimal Possible { get; init; }
        private decimal Grade { get; init; }
        private decimal MaximumGrade { get; init; }
        private bool Waits { get; init; }
        public StudentScore Score => new(OwnScore, Possible, Grade, MaximumGrade, ExactGrade, Waits);
    }

    private const string Columns = """
        attempt.id, coalesce(attempt.exact_grade, attempt.grade) as exact_grade, attempt.score as own_score, attempt.possible,
        attempt.grade, attempt.maximum_grade, attempt.waits
        """;

    /// <summary>The attempts that count, as they were handed in, by the student who is asked about.</summary>
    /// <param name="same">How who did it is the one who is asked about, who is <c>own</c>.</param>
    private ILookup<long, Row> Counted(IReadOnlyList<long> students, string same, long? follows) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"""
                    select own.id as student, {Columns}
                    from student as own
                    join student on {same}
                    join attempt on attempt.student_id = student.id
                    where own.id in @students and student.state is null and student.deleted_at is null
                      and attempt.deleted_at is null and attempt.counts = 1
                    order by attempt.handed_in_at, attempt.number
                    """,
                    new { students, follows }
                )
                .ToLookup(row => row.Student)
        );

    /// <summary>
    /// Works out which attempts count for their students, after something of them or of the terms has changed: the one place that does,
    /// by <see cref="Counting.Counted"/>, in the transaction of the change. An attempt in which nothing was done never counts.
    /// </summary>
    /// <param name="student">Null for all students at the assignment.</param>
    internal static void Recount(IDbConnection connection, long assignment, long? student = null)
    {
        // A student's few are found by the student: nobody's hand-in costs more the more others have handed in.
        var all = connection
            .Query<Known>(
                $"""
                select attempt.id, attempt.student_id as student, coalesce(attempt.exact_grade, attempt.grade, '0') as exact_grade, attempt.counts, assignment.counts as policy,
                       attempt.deleted_at is null and attempt.handed_in_at is not null and attempt.placed > 0 as is_done
                from attempt
                join assignment on assignment.id = attempt.assignment_id
                where {(student is null ? "attempt.assignment_id = @assignment" : "attempt.student_id = @student")}
                order by attempt.handed_in_at, attempt.number
                """,
                new { assignment, student }
            )
            .AsList();
        foreach (var own in all.GroupBy(row => row.Student))
        {
            var policy = Enum.Parse<AttemptPolicy>(own.First().Policy, ignoreCase: true);
            var counted = Counting.Counted([.. own.Where(row => row.IsDone)], row => row.ExactGrade, policy);
            foreach (var row in own.Where(row => row.Counts != counted.Contains(row)))
                connection.Execute("update attempt set counts = @counts where id = @Id", new { row.Id, counts = counted.Contains(row) });
        }
    }

    /// <summary>An attempt, and what is known of its counting so far.</summary>
    private sealed record Known
    {
        public long Id { get; init; }
        public long Student { get; init; }
        public decimal ExactGrade { get; init; }
        public bool? Counts { get; init; }
        public required string Policy { get; init; }
        public bool IsDone { get; init; }
    }
}
