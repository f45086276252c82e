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
    public string? Code { get; init; }
    public DateTimeOffset? ClosedAt { get; init; }
    public long Working { get; init; }
    public long HandedIn { get; init; }
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
