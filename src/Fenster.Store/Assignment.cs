using System.Collections.Immutable;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using NodaTime;

namespace Fenster.Store;

/// <summary>A revision that is given to someone, with its own code, times, attempts and rules.</summary>
public sealed record Assignment
{
    internal const string NoRules = "{}";

    public required long Id { get; init; }
    public required long ActivityId { get; init; }

    /// <summary>That new attempts get.</summary>
    public required long RevisionId { get; init; }
    public required long RevisionNumber { get; init; }
    public required string Code { get; init; }

    /// <summary>Null for whoever has the code.</summary>
    public required long? ClassId { get; init; }
    public required string? ClassName { get; init; }

    /// <summary>The assignment that this is a catch-up or a re-sit of.</summary>
    public required long? Follows { get; init; }

    /// <summary>Goes up by one with each change.</summary>
    public required long Version { get; init; }
    public required Terms Terms { get; init; }
    public required Course Course { get; init; }

    public AssignmentState StateAt(DateTimeOffset now) => Timing.StateAt(Terms, Course, now.ToInstant());

    /// <summary>Whether results are released to all.</summary>
    public bool IsReleasedAt(DateTimeOffset now) => Timing.IsReleased(Terms, Course, now.ToInstant());

    /// <summary>The words of its own, as attempts keep them.</summary>
    public string Rules => RuleWordsDocument.Write(Terms.Rules);
}

/// <summary>One row, and the same row as what it means.</summary>
internal sealed record AssignmentRow
{
    public const string Columns = """
        select assignment.id, assignment.activity_id, assignment.revision_id, revision.number as revision_number, assignment.code,
               assignment.class_id, class.name as class_name, assignment.follows, assignment.version, assignment.opens_at,
               assignment.closes_at, assignment.time_limit, assignment.attempts, assignment.counts, assignment.is_practice,
               assignment.joining, assignment.begins_together, assignment.forgets_devices, assignment.releases_at, assignment.sites,
               assignment.rules, assignment.resit, assignment.ended_at, assignment.begun_at, assignment.released_at,
               (select max(student.closes_at) from student where student.assignment_id = assignment.id and student.closes_at is not null)
                   as last_closing_at,
               (select group_concat(pause.from_at || '-' || coalesce(pause.until_at, ''), ' ')
                from pause where pause.assignment_id = assignment.id) as pauses
        from assignment
        join revision on revision.id = assignment.revision_id
        join activity on activity.id = assignment.activity_id and activity.deleted_at is null
        left join class on class.id = assignment.class_id
        """;

    public long Id { get; init; }
    public long ActivityId { get; init; }
    public long RevisionId { get; init; }
    public long RevisionNumber { get; init; }
    public required string Code { get; init; }
    public long? ClassId { get; init; }
    public string? ClassName { get; init; }
    public long? Follows { get; init; }
    public long Version { get; init; }
    public DateTimeOffset? OpensAt { get; init; }
    public DateTimeOffset? ClosesAt { get; init; }
    public long? TimeLimit { get; init; }
    public long? Attempts { get; init; }
    public required string Counts { get; init; }
    public bool IsPractice { get; init; }
    public required string Joining { get; init; }
    public bool BeginsTogether { get; init; }
    public bool ForgetsDevices { get; init; }
    public DateTimeOffset? ReleasesAt { get; init; }
    public required string Sites { get; init; }
    public required string Rules { get; init; }
    public string? Resit { get; init; }
    public DateTimeOffset? EndedAt { get; init; }
    public DateTimeOffset? BegunAt { get; init; }
    public DateTimeOffset? ReleasedAt { get; init; }
    public long? LastClosingAt { get; init; }
    public string? Pauses { get; init; }

    public Assignment Read() =>
        new()
        {
            Id = Id,
            ActivityId = ActivityId,
            RevisionId = RevisionId,
            RevisionNumber = RevisionNumber,
            Code = Code,
            ClassId = ClassId,
            ClassName = ClassName,
            Follows = Follows,
            Version = Version,
            Terms = new()
            {
                Opens = OpensAt?.ToInstant(),
                Closes = ClosesAt?.ToInstant(),
                TimeLimit = TimeLimit is { } limit ? Duration.FromMilliseconds(limit) : null,
                Attempts = (int?)Attempts,
                Counts = Enum.Parse<AttemptPolicy>(Counts, ignoreCase: true),
                IsPractice = IsPractice,
                Joining = Enum.Parse<Joining>(Joining, ignoreCase: true),
                BeginsTogether = BeginsTogether,
                ForgetsDevices = ForgetsDevices,
                Releases = ReleasesAt?.ToInstant(),
                Sites = [.. Sites.Split('\n', StringSplitOptions.RemoveEmptyEntries)],
                Rules = RuleWordsDocument.Read(Rules),
                Resit = Resit is null ? null : Enum.Parse<Resit>(Resit, ignoreCase: true),
            },
            Course = new()
            {
                Ended = EndedAt?.ToInstant(),
                Begun = BegunAt?.ToInstant(),
                Released = ReleasedAt?.ToInstant(),
                LastClosing = LastClosingAt is { } last ? Instant.FromUnixTimeMilliseconds(last) : null,
                Pauses = [.. (Pauses ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(PauseOf).OrderBy(pause => pause.From)],
            },
        };

    private static Pause PauseOf(string text) =>
        text.Split('-') is [var from, var until]
            ? new(At(from), until == "" ? null : At(until))
            : throw new FormatException($"'{text}' is no pause.");

    private static Instant At(string milliseconds) =>
        Instant.FromUnixTimeMilliseconds(long.Parse(milliseconds, System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>What is written of terms, by the names of the columns.</summary>
    public static object Of(Terms terms) =>
        new
        {
            OpensAt = terms.Opens?.ToDateTimeOffset(),
            ClosesAt = terms.Closes?.ToDateTimeOffset(),
            TimeLimit = (long?)terms.TimeLimit?.TotalMilliseconds,
            terms.Attempts,
            Counts = Name(terms.Counts),
            terms.IsPractice,
            Joining = Name(terms.Joining),
            terms.BeginsTogether,
            terms.ForgetsDevices,
            ReleasesAt = terms.Releases?.ToDateTimeOffset(),
            Sites = string.Join('\n', terms.Sites),
            Rules = RuleWordsDocument.Write(terms.Rules),
            Resit = terms.Resit is { } resit ? Name(resit) : null,
        };

    private static string Name<T>(T value)
        where T : struct, Enum => value.ToString();
}

public static class Instants
{
    public static Instant ToInstant(this DateTimeOffset at) => Instant.FromDateTimeOffset(at);
}
