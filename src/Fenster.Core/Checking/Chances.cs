namespace Fenster.Core.Checking;

/// <summary>What a label that was put down would earn in a place.</summary>
/// <param name="Row">Which was put down.</param>
/// <param name="Column">Which of the pane's places.</param>
/// <param name="Credit">Above 0.</param>
internal readonly record struct Chance(int Row, int Column, decimal Credit);

/// <summary>What can be earned where, and which of it is earned.</summary>
internal static class Chances
{
    /// <summary>Past this many ways to settle which copy of a label earns, or this much work, the best of those tried counts.</summary>
    private const int MostWays = 2000;
    private const long MostWork = 20_000_000;

    /// <summary>
    /// What the copies of each label may earn in each place, of which no more are looked at than the label can earn with.
    /// Nothing is allocated for the others.
    /// </summary>
    /// <param name="rows">In the order of their labels.</param>
    /// <param name="isFor">Which places are asked about.</param>
    /// <param name="isAlone">Whether a copy is unlike all others of its label, so that it is looked at in any case.</param>
    public static List<Chance> Of(PaneKey key, Laid[] rows, Func<PinPlace, bool> isFor, Func<int, bool> isAlone)
    {
        var chances = new List<Chance>();
        for (var column = 0; column < key.PinPlaces.Length; column++)
        {
            var place = key.PinPlaces[column];
            if (!isFor(place))
                continue;
            var (label, accepted, first) = ("", 0m, chances.Count);
            for (var row = 0; row < rows.Length; row++)
            {
                ref readonly var put = ref rows[row];
                if (!ReferenceEquals(put.Label, label) && put.Label != label)
                {
                    KeepBest(key, chances, first, label, isAlone);
                    (label, accepted, first) = (put.Label, place.Accepts(put.Label), chances.Count);
                }
                if (accepted == 0)
                    continue;
                var credit = place.CreditOf(put, accepted);
                if (credit > 0)
                    chances.Add(new(row, column, credit));
            }
            KeepBest(key, chances, first, label, isAlone);
        }
        return chances;
    }

    /// <summary>
    /// Of one label's chances in one place leaves the best, as many as there are places for the label: of these one is always
    /// free, however the others are used.
    /// </summary>
    private static void KeepBest(PaneKey key, List<Chance> chances, int first, string label, Func<int, bool> isAlone)
    {
        var many = chances.Count - first;
        if (many < 2 || many <= key.PlacesOf(label))
            return;
        var all = chances.GetRange(first, many);
        chances.RemoveRange(first, many);
        chances.AddRange(all.Where(chance => isAlone(chance.Row)));
        chances.AddRange(
            all.Where(chance => !isAlone(chance.Row))
                .OrderByDescending(chance => chance.Credit)
                .ThenBy(chance => chance.Row)
                .Take(key.PlacesOf(label))
        );
    }

    /// <summary>For each row the column that it is paired with, or <see cref="Assignment.None"/>, so that most is earned.</summary>
    /// <param name="has">Rows that are paired with something if they can be, whatever that takes from others; null for none.</param>
    public static int[] Best(PaneKey key, Laid[] rows, List<Chance> chances, Func<int, bool>? has = null) =>
        (has is null ? AllTogether(rows, chances) : null) ?? BestPairing(key, rows, chances, has);

    /// <summary>The pairing by all chances, as nearly all work has it: no two are of one label or in one place. Null when two are.</summary>
    private static int[]? AllTogether(Laid[] rows, List<Chance> chances)
    {
        if (chances.Count > MostTogether)
            return null;
        for (var i = 0; i < chances.Count; i++)
        for (var j = 0; j < i; j++)
            if (chances[i].Column == chances[j].Column || rows[chances[i].Row].Label == rows[chances[j].Row].Label)
                return null;
        var columns = new int[rows.Length];
        Array.Fill(columns, Assignment.None);
        foreach (var chance in chances)
            columns[chance.Row] = chance.Column;
        return columns;
    }

    private const int MostTogether = 16;

    /// <summary>
    /// The pairing that earns most, in which no label earns twice in a family. Where the plain assignment breaks that,
    /// each way to settle on one of the label's copies is tried.
    /// </summary>
    private static int[] BestPairing(PaneKey key, Laid[] rows, List<Chance> chances, Func<int, bool>? has)
    {
        var used = chances.Select(chance => chance.Row).Distinct().Order().ToArray();
        var (ways, work) = (0, 0L);
        // More than all that can be earned without them.
        var more = has is null ? 0 : 1 + chances.Sum(chance => (double)(chance.Credit * key.PinPlaces[chance.Column].Worth));
        (int[] Columns, double Sum)? best = null;
        Try([
            .. chances.Select(chance => new Assignment.Pair(
                chance.Row,
                chance.Column,
                (double)(chance.Credit * key.PinPlaces[chance.Column].Worth) + (has?.Invoke(chance.Row) == true ? more : 0)
            )),
        ]);
        return best!.Value.Columns;

        void Try(List<Assignment.Pair> allowed)
        {
            work += (long)allowed.Count * used.Length;
            if (best is not null && (++ways > MostWays || work > MostWork))
                return;
            var columns = Assignment.Solve(rows.Length, key.PinPlaces.Length, allowed);
            var sum = allowed.Sum(pair => columns[pair.Row] == pair.Column ? pair.Weight : 0);
            // Forbidding more never earns more.
            if (best is { } found && sum <= found.Sum)
                return;
            if (EarnsTwice(key, rows, columns) is not var (label, family))
            {
                best = (columns, sum);
                return;
            }
            var alike = used.Where(row => rows[row].Label == label);
            foreach (
                var kept in alike.OrderBy(row =>
                    columns[row] == Assignment.None || !ReferenceEquals(key.PinPlaces[columns[row]].Family, family)
                )
            )
                Try([
                    .. allowed.Where(pair =>
                        pair.Row == kept || rows[pair.Row].Label != label || !ReferenceEquals(key.PinPlaces[pair.Column].Family, family)
                    ),
                ]);
        }
    }

    /// <summary>A label that is paired twice in a family; null when none is. The rows are in the order of their labels.</summary>
    private static (string Label, Family Family)? EarnsTwice(PaneKey key, Laid[] rows, int[] columns)
    {
        for (var row = 0; row < rows.Length; row++)
        {
            if (columns[row] == Assignment.None || key.PinPlaces[columns[row]].Family is not { } family)
                continue;
            // A zone that takes one label and stands alone is no place for two.
            if (family.Zones.Length == 1 && family.Needs(family.Zones[0]) == 1)
                continue;
            for (var next = row + 1; next < rows.Length && rows[next].Label == rows[row].Label; next++)
                if (columns[next] != Assignment.None && ReferenceEquals(key.PinPlaces[columns[next]].Family, family))
                    return (rows[row].Label, family);
        }
        return null;
    }
}
