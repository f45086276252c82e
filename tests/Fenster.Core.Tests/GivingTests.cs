using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using FsCheck.Xunit;
using NodaTime;

namespace Fenster.Core.Tests;

/// <summary>When an assignment is open, how long a sitting lasts, which attempt counts, and which rules hold.</summary>
public sealed class GivingTests
{
    private static readonly Instant Noon = Instant.FromUtc(2027, 3, 1, 12, 0);

    private static Instant At(double minutes) => Noon + Duration.FromSeconds(minutes * 60);

    private static readonly Terms Hour = new() { Opens = Noon, Closes = At(60) };

    [Theory]
    [InlineData(-0.001, AssignmentState.Planned)]
    [InlineData(0, AssignmentState.Open)]
    [InlineData(59.999, AssignmentState.Open)]
    [InlineData(60, AssignmentState.Closing)]
    [InlineData(60 + 10.0 / 60, AssignmentState.Closing)]
    [InlineData(60 + 10.1 / 60, AssignmentState.Closed)]
    public void The_opening_second_belongs_to_it_and_the_closing_second_does_not(double minute, AssignmentState state) =>
        Assert.Equal(state, Timing.StateAt(Hour, new(), At(minute)));

    [Fact]
    public void Without_times_it_is_open_until_the_teacher_closes_it()
    {
        Assert.Equal(AssignmentState.Open, Timing.StateAt(new(), new(), At(1_000_000)));
        Assert.Equal(AssignmentState.Closed, Timing.StateAt(new(), new() { Ended = Noon }, At(1)));
        Assert.Null(Timing.EndOf(new(), new() { LastClosing = Noon }));
    }

    [Fact]
    public void It_is_closed_only_when_the_last_with_a_later_closing_is_done()
    {
        var course = new Course { LastClosing = At(90) };
        Assert.Equal(AssignmentState.Closing, Timing.StateAt(Hour, course, At(89)));
        Assert.Equal(AssignmentState.Closed, Timing.StateAt(Hour, course, At(91)));
        // The teacher's word ends it for them too.
        Assert.Equal(AssignmentState.Closed, Timing.StateAt(Hour, course with { Ended = At(70) }, At(71)));
    }

    [Fact]
    public void A_pause_stops_time_limits_and_not_the_closing_time()
    {
        var terms = Hour with { TimeLimit = Duration.FromMinutes(20) };
        var paused = new Course { Pauses = [new(At(10), null)] };
        Assert.Equal(AssignmentState.Paused, Timing.StateAt(terms, paused, At(11)));
        Assert.Equal(AssignmentState.Closing, Timing.StateAt(terms, paused, At(60)));
        // While it goes on, only the closing time is known.
        Assert.Equal(At(60), Timing.EndOfSitting(At(5), terms, paused, Allowance.None));
        var over = new Course { Pauses = [new(At(10), At(17))] };
        Assert.Equal(At(32), Timing.EndOfSitting(At(5), terms, over, Allowance.None));
        // Of a pause only what lies in the sitting counts: begun after it, begun in the middle of it, over before it.
        Assert.Equal(At(40), Timing.EndOfSitting(At(20), terms, over, Allowance.None));
        Assert.Equal(At(37), Timing.EndOfSitting(At(12), terms, over, Allowance.None));
        Assert.Equal(At(9), Timing.EndOfSitting(At(-11), terms with { Opens = null }, over, Allowance.None));
        // And never longer than until the closing time.
        Assert.Equal(At(60), Timing.EndOfSitting(At(50), terms, over, Allowance.None));
    }

    [Fact]
    public void A_pause_that_begins_as_the_time_runs_out_is_too_late_and_one_a_moment_before_is_not()
    {
        var terms = new Terms { TimeLimit = Duration.FromMinutes(20) };
        Assert.Equal(At(20), Timing.EndOfSitting(Noon, terms, new() { Pauses = [new(At(20), At(30))] }, Allowance.None));
        Assert.Equal(At(30), Timing.EndOfSitting(Noon, terms, new() { Pauses = [new(At(19.999), At(29.999))] }, Allowance.None));
    }

    [Fact]
    public void Extra_time_is_a_share_of_the_limit_and_a_later_closing_is_the_students_own()
    {
        var terms = Hour with { TimeLimit = Duration.FromMinutes(40) };
        var more = new Allowance(ExtraTime: 25);
        Assert.Equal(At(50), Timing.EndOfSitting(Noon, terms, new(), more));
        Assert.Equal(At(60), Timing.EndOfSitting(At(30), terms, new(), more));
        Assert.Equal(At(80), Timing.EndOfSitting(At(30), terms, new(), more with { Closes = At(90) }));
        // An earlier one takes nothing away.
        Assert.Equal(At(60), Timing.EndOfSitting(At(30), terms, new(), more with { Closes = At(45) }));
        Assert.Equal(At(33), Timing.EndOfSitting(At(30), terms, new(), more with { Ended = At(33) }));
    }

    [Fact]
    public void What_keeps_a_student_from_beginning_is_told_apart()
    {
        Hindrance? Of(Terms terms, Course course, double minute, int begun = 0, Allowance? allowance = null) =>
            Timing.HindranceAt(terms, course, allowance ?? Allowance.None, begun, At(minute));
        Assert.Equal(Hindrance.NotOpenYet, Of(Hour, new(), -1));
        Assert.Null(Of(Hour, new(), 0));
        Assert.Equal(Hindrance.Closed, Of(Hour, new(), 60));
        Assert.Null(Of(Hour, new() { LastClosing = At(90) }, 60, allowance: new(Closes: At(90))));
        Assert.Equal(Hindrance.Closed, Of(Hour, new() { LastClosing = At(90) }, 60));
        Assert.Equal(Hindrance.UsedUp, Of(Hour, new(), 1, begun: 1));
        Assert.Null(Of(Hour with { Attempts = null }, new(), 1, begun: 99));
        Assert.Equal(Hindrance.Paused, Of(Hour, new() { Pauses = [new(Noon, null)] }, 1));
        var together = Hour with { BeginsTogether = true };
        Assert.Equal(Hindrance.Waiting, Of(together, new(), 1));
        Assert.Null(Of(together, new() { Begun = Noon }, 1));
        Assert.Equal(Hindrance.Closed, Of(new(), new(), 1, allowance: new(Ended: Noon)));
    }

    [Fact]
    public void Results_are_released_by_the_teachers_word_or_at_a_time()
    {
        Assert.False(Timing.IsReleased(new(), new(), Noon));
        Assert.True(Timing.IsReleased(new(), new() { Released = Noon }, Noon));
        Assert.False(Timing.IsReleased(new() { Releases = At(1) }, new(), Noon));
        Assert.True(Timing.IsReleased(new() { Releases = At(1) }, new(), At(1)));
    }

    // Clocks in Berlin went from 2:00 to 3:00 on 28 March 2027 and back from 3:00 to 2:00 on 31 October 2027 (IANA time zone
    // database, Europe/Berlin: the last Sundays of March and October at 1:00 UTC).
    [Theory]
    [InlineData("2027-03-28T01:59", 0, 59, 0, 59)]
    [InlineData("2027-03-28T02:30", 1, 30, 1, 30)]
    [InlineData("2027-03-28T03:00", 1, 0, 1, 0)]
    [InlineData("2027-10-31T02:30", 0, 30, 1, 30)]
    [InlineData("2027-10-31T03:00", 2, 0, 2, 0)]
    public void The_hour_that_is_not_there_and_the_hour_that_comes_twice_take_no_time_from_anybody(
        string typed,
        int openHour,
        int openMinute,
        int closeHour,
        int closeMinute
    )
    {
        var zone = LocalTimes.Zone("Europe/Berlin");
        var day = LocalDate.FromDateTime(DateTime.Parse(typed, System.Globalization.CultureInfo.InvariantCulture));
        Assert.Equal(Instant.FromUtc(2027, day.Month, day.Day, openHour, openMinute), LocalTimes.Opening(typed, zone));
        Assert.Equal(Instant.FromUtc(2027, day.Month, day.Day, closeHour, closeMinute), LocalTimes.Closing(typed, zone));
    }

    [Fact]
    public void A_deadline_is_one_moment_in_every_zone()
    {
        var deadline = LocalTimes.Closing("2027-01-15T18:00", LocalTimes.Zone("Asia/Kolkata"))!.Value;
        Assert.Equal(Instant.FromUtc(2027, 1, 15, 12, 30), deadline);
        Assert.Equal("2027-01-15T07:30", LocalTimes.Typed(deadline, LocalTimes.Zone("America/New_York")));
        Assert.Equal(DateTimeZone.Utc, LocalTimes.Zone("Nowhere/Atall"));
        foreach (var nonsense in (string?[])[null, "", "tomorrow", "2027-13-01T10:00", "0001-01-01T00:00", "2027-01-15T18:00:00Z"])
            Assert.Null(LocalTimes.Closing(nonsense, DateTimeZone.Utc));
    }

    [Theory]
    [InlineData(AttemptPolicy.Best, "b")]
    [InlineData(AttemptPolicy.Latest, "c")]
    [InlineData(AttemptPolicy.First, "a")]
    [InlineData(AttemptPolicy.Mean, "abc")]
    public void Of_several_attempts_counts_what_the_terms_say(AttemptPolicy policy, string counted)
    {
        (string Name, decimal Grade)[] handed = [("a", 2), ("b", 5), ("c", 3)];
        var those = Counting.Counted(handed, attempt => attempt.Grade, policy);
        Assert.Equal(counted, string.Concat(those.Select(attempt => attempt.Name)));
        Assert.Empty(Counting.Counted(handed[..0], attempt => attempt.Grade, policy));
        // The grade is the one that scoring makes of all of them.
        Assert.Equal(
            AttemptGrades.Of([.. handed.Select(attempt => attempt.Grade)], policy),
            Math.Round(those.Average(attempt => attempt.Grade), 2)
        );
    }

    [Theory]
    [InlineData(4, 9, Resit.Best, 9)]
    [InlineData(4, 3, Resit.Best, 4)]
    [InlineData(4, 3, Resit.Latest, 3)]
    [InlineData(4, 9, Resit.Capped, 5)]
    [InlineData(7, 9, Resit.Capped, 7)]
    [InlineData(4, null, Resit.Latest, 4)]
    [InlineData(null, 9, Resit.Capped, 9)]
    [InlineData(null, null, Resit.Best, null)]
    public void A_second_assignment_counts_together_with_the_first(int? first, int? second, Resit resit, int? grade) =>
        Assert.Equal(grade, Counting.Across(first, second, resit, passMark: 5));

    [Fact]
    public void Terms_that_cant_hold_are_told()
    {
        Assert.Null(Hour.Fault);
        Assert.Equal(TermsFault.ClosesBeforeItOpens, (Hour with { Closes = Noon }).Fault);
        Assert.Equal(TermsFault.NoSuchLimit, (Hour with { TimeLimit = Duration.FromSeconds(59) }).Fault);
        Assert.Equal(TermsFault.NoSuchAttempts, (Hour with { Attempts = 0 }).Fault);
    }

    [Property]
    public void An_activity_under_an_assignments_words_has_the_rules_that_scoring_asks_for(
        bool paneHasOwn,
        bool namesCost,
        bool namesChecks,
        byte cost,
        byte checks
    )
    {
        var pane = new Pane
        {
            Id = "p",
            Rules = paneHasOwn
                ? new RuleWords
                {
                    WrongCost = 7m,
                    Key = Moment.Never,
                    PassMark = 1m,
                }
                : null,
        };
        var activity = new Activity
        {
            Title = "T",
            Panes = [pane],
            Rules = new()
            {
                Score = new() { PassMark = 3, TryCost = 0.5m },
            },
        };
        var words = new RuleWords
        {
            WrongCost = namesCost ? (Word<decimal>)(decimal)cost : default,
            Checks = namesChecks ? (Word<int?>)(int)checks : default,
        };
        var under = activity.Under(words);
        Assert.Equal(activity.RulesOf(words), under.RulesOf());
        Assert.Equal(activity.RulesOf(pane, words), under.RulesOf(under.Panes[0]));
    }

    [Property]
    public void A_sitting_never_outlasts_its_limit_by_more_than_the_pauses(byte started, byte from, byte length, byte limit)
    {
        var terms = new Terms { TimeLimit = Duration.FromMinutes(1 + limit) };
        var course = new Course { Pauses = [new(At(from), At(from + length))] };
        var worked = Timing.EndOfSitting(At(started), terms, course, Allowance.None)!.Value - At(started);
        Assert.InRange(worked, terms.TimeLimit.Value, terms.TimeLimit.Value + Duration.FromMinutes(length));
    }
}
