using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// At which try each part of a pane was earned. A check at which an answer that earns less than everything newly stands is a
/// bad check of the place where it stands; what is newly earned at a later one took one try more than there were bad checks
/// since something was last earned there. Mending never lowers what a part has earned.
/// </summary>
public sealed class Tries
{
    private readonly ILookup<string, EarnedPart> earned;
    private readonly Dictionary<TryPlace, List<Happening>> happenings = [];

    /// <summary>
    /// Something that happened at a place: what was newly earned at a check, and whether something newly stood wrong there.
    /// </summary>
    private readonly record struct Happening(int Check, ImmutableArray<(string Part, decimal Credit)> Earned, bool IsBad);

    private Tries(List<Standing> checks)
    {
        earned = checks[^1].Earned.ToLookup(part => part.Target);
        var before = new Standing([], new HashSet<(TryPlace, string)>());
        for (var check = 0; check < checks.Count; check++)
        {
            var (now, stood) = (checks[check], before.Earned.ToDictionary(earned => earned.Part, earned => earned.Credit));
            var newly = now
                .Earned.Where(earned => stood.GetValueOrDefault(earned.Part) != earned.Credit)
                .ToLookup(earned => earned.Part.Place, earned => (earned.Part.Name, earned.Credit));
            var bad = now.Bad.Where(answer => !before.Bad.Contains(answer)).Select(answer => answer.Place).ToHashSet();
            foreach (var place in newly.Select(at => at.Key).Union(bad))
            {
                if (!happenings.TryGetValue(place, out var at))
                    happenings[place] = at = [];
                at.Add(new(check, [.. newly[place]], bad.Contains(place)));
            }
            before = now;
        }
    }

    private static readonly ConditionalWeakTable<Response, StrongBox<(Pane Pane, Weighing Weighing, Standing Standing)>> Known = [];

    /// <param name="marks">Of the response as it stands.</param>
    public static Tries Of(Pane pane, Response response, PaneMarks marks) =>
        new([.. response.Earlier.Select(earlier => StandingOf(pane, earlier, marks.Weighing)), Standing.Of(pane, response, marks)]);

    /// <summary>What stood at an earlier check is worked out once for each pane that it is held against.</summary>
    private static Standing StandingOf(Pane pane, Response earlier, Weighing weighing)
    {
        if (Known.TryGetValue(earlier, out var known) && ReferenceEquals(known.Value.Pane, pane) && known.Value.Weighing.IsLike(weighing))
            return known.Value.Standing;
        var standing = Standing.Of(pane, earlier, Checker.Check(pane, earlier, weighing));
        Known.AddOrUpdate(earlier, new((pane, weighing, standing)));
        return standing;
    }

    /// <summary>What the cost of tries leaves of a target's points: of all its parts, and of the part that keeps least.</summary>
    /// <param name="cost">Of a further try, as a share from 0 to 1.</param>
    /// <returns>Shares from 0 to 1; 1 where nothing is earned.</returns>
    public (decimal Share, decimal Least) Left(Target target, decimal cost)
    {
        var (all, kept, least) = (0m, 0m, 1m);
        foreach (var part in earned[target.Id])
        {
            var factor = FactorOf(part, cost);
            (all, kept, least) = (all + part.Share, kept + part.Share * factor, Math.Min(least, factor));
        }
        return (all == kept ? 1 : kept / all, least);
    }

    /// <summary>The most of what the part earned at any check with no more credit than now, as a share of that credit.</summary>
    private decimal FactorOf(EarnedPart part, decimal cost) =>
        TriesOf(part.Part)
            .Where(tried => tried.Credit <= part.Credit)
            .Select(tried => tried.Credit / part.Credit * Math.Max(0, 1 - cost * (tried.Try - 1)))
            .Max();

    /// <summary>Each time the part was newly earned: with which credit, and at which try.</summary>
    private IEnumerable<(decimal Credit, int Try)> TriesOf(Part part)
    {
        var bad = 0;
        foreach (var at in happenings[part.Place])
        {
            foreach (var (name, credit) in at.Earned)
                if (name == part.Name)
                    yield return (credit, bad + 1);
            bad = (at.Earned.IsEmpty ? bad : 0) + (at.IsBad ? 1 : 0);
        }
    }

    /// <summary>
    /// At which try a target reached its final state, from 1: the last of its parts, or as often as something newly stood wrong there.
    /// </summary>
    public int At(Pane pane, Target target)
    {
        var last = earned[target.Id].Select(part => TriesOf(part.Part).Last().Try).ToList();
        if (last.Count > 0)
            return last.Max();
        return PlacesOf(pane, target).Select(place => happenings.GetValueOrDefault(place, []).Count(at => at.IsBad)).Append(1).Max();
    }

    private static IEnumerable<TryPlace> PlacesOf(Pane pane, Target target) =>
        target.Takes switch
        {
            Doing.Placing when target is Zone zone => [Standing.OfFamily(PaneKey.Of(pane).Zones[zone.Id].Family)],
            Doing.Linking when target is Matching matching => matching.Left.Select(item => new TryPlace("left", matching.Id, item.Id)),
            Doing.Pinning when target is SortRegion region => [Standing.OfRegion(region)],
            Doing.Pinning => target.NamedLabels.Select(label => new TryPlace("label", label)),
            _ => [new("answer", target.Id)],
        };

    /// <inheritdoc cref="At"/>
    /// <param name="marks">Of the response as it stands.</param>
    public static int For(Pane pane, Target target, Response response, PaneMarks marks) => Of(pane, response, marks).At(pane, target);
}
