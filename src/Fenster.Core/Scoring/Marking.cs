using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Scoring;

/// <summary>What people have decided and said of one attempt.</summary>
/// <param name="Awards">By pane id, those that count: at most one for each target.</param>
/// <param name="Remarks">In the order in which they were made.</param>
public sealed record Marking(ImmutableDictionary<string, ImmutableArray<Award>> Awards, ImmutableArray<Remark> Remarks)
{
    /// <summary>Of an attempt that nobody has marked.</summary>
    public static Marking None { get; } = new(ImmutableDictionary<string, ImmutableArray<Award>>.Empty, []);

    public ImmutableArray<Award> AwardsAt(string pane) => Awards.GetValueOrDefault(pane, []);

    public Award? AwardAt(string pane, string target) => AwardsAt(pane).FirstOrDefault(award => award.Target == target);

    /// <summary>The marking with another award at a target; null for the machine's credit again.</summary>
    public Marking With(string pane, string target, Award? award)
    {
        var others = AwardsAt(pane).RemoveAll(other => other.Target == target);
        return this with { Awards = Awards.SetItem(pane, award is null ? others : others.Add(award)) };
    }
}

/// <summary>Something said to a student of what they did.</summary>
/// <param name="Pane">Id of the pane; null for the whole work.</param>
/// <param name="Target">Id of the target that it is about; null for a spot, the pane or the whole.</param>
/// <param name="At">The spot that it is about, in pu; null for none.</param>
/// <param name="By">Who says it.</param>
public sealed record Remark(long Id, string? Pane, string? Target, Point? At, string Text, string By, DateTimeOffset When)
{
    public const int LongestText = 4000;
}
