using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>What the student's screen needs, for a student and for a teacher who tries it.</summary>
/// <param name="Name">Who works, as shown on the screen.</param>
/// <param name="DeviceKey">Under which the device keeps moves that are not sent yet; null when every request carries all moves.</param>
public sealed record StudentWork(StudentView View, string Name, string MovesUrl, string HandInUrl, string? DeviceKey)
{
    /// <summary>What a student sees of an attempt at this moment.</summary>
    internal static StudentWork Of(Assignment assignment, Attempt attempt, Student student, Seat seat, Reach reach, DateTimeOffset now)
    {
        string At(string what) => $"/do/{assignment.Code}/{what}?attempt={attempt.Number}";
        var isOpen = attempt.Handed is null;
        return new(
            StudentView.At(reach, seat, attempt.Responses, attempt.Marking),
            student.Name,
            At("place"),
            At("hand-in"),
            $"attempt-{attempt.Identity}"
        )
        {
            Version = attempt.Version,
            NewsUrl = isOpen ? At("news") : null,
            TimeUrl = At("time"),
            OwnUrl = At("own"),
            LibraryUrl = At("library"),
            Left = isOpen && attempt.EndsAt is { } end ? end - now : null,
            HasLimit = assignment.Terms.TimeLimit is not null,
        };
    }

    /// <summary>Where the time that is left can be asked for; null for a trial.</summary>
    public string? TimeUrl { get; init; }

    /// <summary>Where it can be asked what the teacher tells; null for a trial.</summary>
    public string? NewsUrl { get; init; }

    /// <summary>Where files of the student's own are brought to; null for a trial.</summary>
    public string? OwnUrl { get; init; }

    /// <summary>Where drawings are looked for and taken; null for a trial.</summary>
    public string? LibraryUrl { get; init; }

    /// <summary>Whether another device worked on it until now.</summary>
    public bool TookOver { get; init; }

    /// <summary>How many moves the log had that the view tells of.</summary>
    public long Version { get; init; }

    /// <summary>Until the sitting ends; null while that is not known.</summary>
    public TimeSpan? Left { get; init; }

    /// <summary>Whether a time limit runs, so that the time left is always shown.</summary>
    public bool HasLimit { get; init; }

    /// <summary>Where a trial gets moves to play; null for a student.</summary>
    public string? PlayUrl { get; init; }

    /// <summary>What to do where the teacher says nothing; empty when the picture says it.</summary>
    public string WhatToDo => View.Work.Open && View.Panes.Any(pane => pane.Zones.Length > 0) ? Language.Say("page.labelsBelong") : "";

    /// <summary>Which the screen speaks.</summary>
    public Language Language { get; } = Language.In(View.Language);
    public string Direction => View.Direction == WritingDirection.RightToLeft ? "rtl" : "ltr";

    /// <summary>What the browser says itself, of what this activity can need.</summary>
    public string[] Sentences =>
        [
            "list",
            "screen",
            "result",
            "place",
            "page.check",
            "page.pictures",
            "page.handInNow",
            .. View.Work.Open ? (string[])["singly"] : [],
            .. View.Work.Open && (View.Screen.Aids.Length > 0 || Has(IsTyped)) ? (string[])["aids"] : [],
            "refused.settled",
            "refused.late",
            .. Left is null ? (string[])[] : ["clock"],
            .. HasCards ? (string[])["cards", "page.card"] : [],
            .. HasMatching ? (string[])["matching"] : [],
            .. HasMaking ? (string[])["making", "cards.close"] : [],
        ];

    public bool HasCards => Has(target => target is not (TargetView.Linking or TargetView.Making));
    public bool HasMaking => Has(target => target is TargetView.Making);
    public bool HasMatching => Has(target => target is TargetView.Linking);

    private static bool IsTyped(TargetView target) =>
        target
            is TargetView.Typing
                or TargetView.Answering
                or TargetView.Noting
                or TargetView.Locked
                or TargetView.Concealed
                or TargetView.Making;

    private bool Has(Func<TargetView, bool> kind) => View.Panes.Any(pane => pane.Targets.Any(kind));

    public string ViewJson => JsonSerializer.Serialize(View, DocumentJson.Options);
}
