using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Scoring;

namespace Fenster.Store;

/// <summary>What a student's attempts at an assignment come to.</summary>
/// <param name="Counted">Ids of the attempts that count.</param>
/// <param name="Grade">Rounded; null when nothing was handed in.</param>
/// <param name="Together">With the assignment that it follows; null when it follows none, or neither was done.</param>
public sealed record Standing(IReadOnlyList<long> Counted, decimal? Grade, decimal? Together);

/// <summary>What students have come to: which attempt counts, and how an assignment counts with the one that it follows.</summary>
public sealed class Standings(Database database, Assignments assignments, Revisions revisions)
{
    /// <param name="students">Ids of students at this assignment.</param>
    public IReadOnlyDictionary<long, Standing> Of(Assignment assignment, IReadOnlyList<long> students)
    {
        var follows = assignment is { Terms.Resit: not null, Follows: { } first } ? assignments.One(first) : null;
        var done = Handed(students, "own.id = student.id", null);
        var before = Handed(students, "own.member_id = student.member_id and student.assignment_id = @follows", follows?.Id);
        var passMark = revisions.Activity(assignment.RevisionId, assignment.Rules).Rules.Score.PassMark;
        return students
            .Distinct()
            .ToDictionary(
                student => student,
                student =>
                {
                    var grade = Grade(done[student], assignment);
                    return new Standing(
                        [.. Counted(done[student], assignment).Select(row => row.Id)],
                        grade,
                        follows is null
                            ? null
                            : Counting.Across(Grade(before[student], follows), grade, assignment.Terms.Resit!.Value, passMark)
                    );
                }
            );
    }

    private sealed record Row
    {
        public long Id { get; init; }
        public long Student { get; init; }
        public decimal ExactGrade { get; init; }
    }

    private static IReadOnlyList<Row> Counted(IEnumerable<Row> rows, Assignment assignment) =>
        Counting.Counted([.. rows], row => row.ExactGrade, assignment.Terms.Counts);

    private static decimal? Grade(IEnumerable<Row> rows, Assignment assignment) =>
        rows.Select(row => row.ExactGrade).ToList() is { Count: > 0 } grades ? AttemptGrades.Of(grades, assignment.Terms.Counts) : null;

    /// <summary>What was handed in and has something in it, as it was handed in, by the student who is asked about.</summary>
    /// <param name="same">How who did it is the one who is asked about, who is <c>own</c>.</param>
    private ILookup<long, Row> Handed(IReadOnlyList<long> students, string same, long? follows) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"""
                    select attempt.id, own.id as student, coalesce(attempt.exact_grade, attempt.grade) as exact_grade
                    from student as own
                    join student on {same}
                    join attempt on attempt.student_id = student.id
                    where own.id in @students and student.state is null and student.deleted_at is null
                      and attempt.deleted_at is null and attempt.handed_in_at is not null and attempt.placed > 0
                    order by attempt.handed_in_at, attempt.number
                    """,
                    new { students, follows }
                )
                .ToLookup(row => row.Student)
        );
}
