using System.Text;
using Fenster.Core.Scoring;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>
/// One member over everything that the class was given of the teacher's activities, for a talk with them or their parents: nobody else's
/// name is on it.
/// </summary>
public sealed class MemberModel(
    Classes classes,
    OwnAssignments own,
    Assignments assignments,
    Students students,
    Attempts attempts,
    Standings standings,
    RecordFile records,
    Deletions deletions,
    PageLanguage words,
    ILogger<MemberModel> log
) : PageModel
{
    public SchoolClass Class { get; private set; } = null!;
    public Member Member { get; private set; } = null!;

    /// <summary>The oldest first.</summary>
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <param name="Share">Of the possible points, of what counts; null where there is nothing.</param>
    /// <param name="ClassShare">The mean of all who handed in; null where there is none.</param>
    /// <param name="Attempt">Id of the attempt that counts, or of the last; null where none was begun.</param>
    public sealed record Line(
        long Activity,
        string Title,
        string State,
        string Score,
        decimal? Share,
        double? ClassShare,
        string Grade,
        long? Attempt,
        IReadOnlyList<string> Remarks
    );

    public IActionResult OnGet(long id, long member)
    {
        if (!Load(id, member))
            return NotFound();
        Lines = [.. assignments.OfClass(id).OrderBy(assignment => assignment.Id).Select(LineOf).OfType<Line>()];
        return Page();
    }

    private bool Load(long id, long member)
    {
        if (classes.One(User.TeacherId(), id) is not { } group || classes.Member(id, member) is not { } found)
            return false;
        (Class, Member) = (group, found);
        return true;
    }

    private Line? LineOf(Assignment assignment)
    {
        // What a colleague gave to the class is the colleague's.
        if (own.Find(User.TeacherId(), assignment.ActivityId, assignment.Id) is not var (title, _))
            return null;
        var sums = attempts.Sums(assignment.Id);
        var classShare = sums is { Mean: { } mean, Possible: > 0 } ? mean / sums.Possible : (double?)null;
        var student = students.OfMember(assignment.Id, Member.Id);
        var made = student is null ? [] : attempts.OfStudent(student.Id);
        var standing = student is null ? null : standings.Of(assignment, [student.Id])[student.Id];
        // What counts, or else the last.
        var told = made.LastOrDefault(attempt => attempt.Counts)
            ?? made.LastOrDefault(attempt => attempt.Handed is not null)
            ?? (made.Count > 0 ? made[^1] : null);
        var score = standing?.Score
            ?? (
                told is { Away: null, Handed: { } empty }
                    ? new(empty.Score, empty.Possible, empty.Grade, empty.MaximumGrade, empty.Grade, told.Waits)
                    : null
            );
        var state =
            told is null ? words["who.state.notBegun"]
            : told.Away is { } away ? words[$"who.state.{Wording.Value(away)}"]
            : told.Handed is { } handed ? words["results.handedInAt", ("time", words.DateAndTime(handed.At))]
            : words["who.state.working"];
        return new(
            assignment.ActivityId,
            title,
            state,
            score is null
                ? ""
                : words[
                    score.IsSoFar ? "results.outOfSoFar" : "results.outOf",
                    ("part", Plain(score.Score)),
                    ("whole", Plain(score.Possible))
                ],
            score is { Possible: > 0 } ? score.Score / score.Possible : null,
            classShare,
            (standing?.Together ?? standing?.FinalGrade)?.ToString("0.00", words.Language.Culture) ?? "",
            told?.Id,
            told is null ? [] : [.. RemarksOf(told.Id)]
        );
    }

    private IEnumerable<string> RemarksOf(long attempt) =>
        (attempts.Anywhere(attempt)?.Marking ?? Marking.None).Remarks.Where(remark => remark.Pane is null).Select(remark => remark.Text);

    private string Plain(decimal number) => words.Language.Number(Math.Round(number, 2));

    /// <summary>All that is kept of the member, as a file.</summary>
    public IActionResult OnGetRecord(long id, long member) =>
        Load(id, member) && records.OfMember(User.TeacherId(), member) is { } record
            ? File(Encoding.UTF8.GetBytes(record), "application/json", $"member-{member}.json")
            : NotFound();

    /// <summary>Deletes all their work at what the teacher gave, which can be brought back for a while.</summary>
    public IActionResult OnPostDelete(long id, long member)
    {
        if (!Load(id, member))
            return NotFound();
        deletions.DeleteWorkOfMember(User.TeacherId(), member);
        Happenings.WasDeleted(log, User.TeacherId(), "work of member", member);
        return RedirectToPage();
    }
}
