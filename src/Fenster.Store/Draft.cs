using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Store;

/// <summary>An activity as its teacher keeps it.</summary>
public sealed record Draft
{
    public long Id { get; init; }
    public required string Title { get; init; }

    /// <summary>The activity as a JSON document.</summary>
    public required string Document { get; init; }

    /// <summary>Goes up by one with each save.</summary>
    public long Version { get; init; }
}

/// <summary>One card on the page of activities.</summary>
public sealed record ActivityCard
{
    public long Id { get; init; }
    public required string Title { get; init; }

    /// <summary>Empty when it is called as students see it.</summary>
    public required string PrivateName { get; init; }
    public bool IsStarter { get; init; }

    /// <summary>Content hash of its first picture; null without one.</summary>
    public string? Media { get; init; }
    public required string AltText { get; init; }
    public long Panes { get; init; }
    public long Targets { get; init; }
    public bool IsArchived { get; init; }

    /// <summary>Whether somebody else began it, who shares it.</summary>
    public bool IsShared { get; init; }

    /// <summary>Whose it was before it was taken from the school's shelf; empty for nobody's.</summary>
    public required string CameFrom { get; init; }
}

/// <summary>One card on the school's shelf.</summary>
public sealed record ShelvedCard
{
    public long Id { get; init; }
    public required string Title { get; init; }
    public string? Media { get; init; }
    public long Panes { get; init; }
    public long Targets { get; init; }
    public long TeacherId { get; init; }
    public required string Owner { get; init; }
}

/// <summary>Which of a teacher's activities a list shows; what is archived is in none but its own.</summary>
public enum WhichActivities
{
    All,

    /// <summary>Students can work at them now.</summary>
    Open,

    /// <summary>Something came too late, or waits to be marked.</summary>
    NeedsMe,

    /// <summary>Not given to anybody yet.</summary>
    Drafts,
    Starters,
    Archived,
}

/// <summary>What a list of activities is asked for.</summary>
/// <param name="Words">All of which the titles, names, subjects or labels hold; none for everything.</param>
/// <param name="Subject">Null for any.</param>
/// <param name="Group">The class that they were given to; null for any.</param>
/// <param name="ByTitle">Whether they are sorted by title, and not by when they were changed, the last first.</param>
public sealed record Wanted(IReadOnlyList<string> Words, string? Subject, WhichActivities Which, long? Group = null, bool ByTitle = false)
{
    public static Wanted Everything { get; } = new([], null, WhichActivities.All);
}

/// <summary>What a draft was at a time.</summary>
public sealed record DraftVersion
{
    /// <summary>Names the version within its activity.</summary>
    public long Slot { get; init; }

    /// <summary>Of the draft; 0 where that was not noted yet.</summary>
    public long Version { get; init; }
    public required string Document { get; init; }
    public DateTimeOffset SavedAt { get; init; }
}

/// <summary>What a draft was at a time, as a list shows it.</summary>
public sealed record DraftVersionLine
{
    /// <inheritdoc cref="DraftVersion.Slot"/>
    public long Slot { get; init; }
    public DateTimeOffset SavedAt { get; init; }
    public required string Title { get; init; }
    public long Panes { get; init; }
    public long Targets { get; init; }

    /// <summary>Whether nothing kept it from being published.</summary>
    public bool CanBeSeen { get; init; }
}

/// <summary>What a save came to.</summary>
/// <param name="Version">The version that is stored now.</param>
/// <param name="Saved">False when another window had saved in between; nothing was written then.</param>
public sealed record SaveOutcome(long Version, bool Saved);

/// <summary>What a save came to of which only what changed was sent.</summary>
/// <param name="Activity">As it was sent; null where it can't be told any more, because another window had saved in between.</param>
/// <param name="Same">Which panes are as they were, from 0, when all around them is as it was too.</param>
public sealed record PartsOutcome(SaveOutcome Outcome, Activity? Activity, ImmutableHashSet<int> Same);
