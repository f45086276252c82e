namespace Fenster.Core.Checking;

/// <summary>Maximum-weight assignment of rows to columns.</summary>
public static class Assignment
{
    /// <summary>No column.</summary>
    public const int None = -1;

    /// <param name="Weight">What pairing the row with the column earns; above 0 and finite.</param>
    public readonly record struct Pair(int Row, int Column, double Weight);

    /// <summary>
    /// For each row the column it is paired with, or <see cref="None"/>, such that no column is used twice and the
    /// sum of the weights is as large as possible. Exact; O(n³) in the larger side of what hangs together.
    /// </summary>
    /// <param name="rows">How many rows there are.</param>
    /// <param name="columns">How many columns there are.</param>
    /// <param name="pairs">The pairs that are possible, each at most once.</param>
    /// <exception cref="ArgumentException">A weight is not above 0, or not finite.</exception>
    public static int[] Solve(int rows, int columns, List<Pair> pairs)
    {
        foreach (var pair in pairs)
            if (!(pair.Weight > 0) || double.IsInfinity(pair.Weight))
                throw new ArgumentException("A weight is not above zero, or not finite.", nameof(pairs));

        var columnOf = new int[rows];
        Array.Fill(columnOf, None);
        if (IsWithoutChoice(rows, columns, pairs))
        {
            foreach (var pair in pairs) columnOf[pair.Row] = pair.Column;
            return columnOf;
        }
        // Mostly, few rows compete for few columns: each such part is a problem of its own.
        foreach (var part in Parts(rows, columns, pairs))
        {
            if (part is [var alone])
            {
                columnOf[alone.Row] = alone.Column;
                continue;
            }
            var (rowsOfPart, columnsOfPart) = (part.Select(pair => pair.Row).Distinct().Order().ToArray(), part.Select(pair => pair.Column).Distinct().Order().ToArray());
            var weights = new double[rowsOfPart.Length, columnsOfPart.Length];
            foreach (var pair in part) weights[Array.BinarySearch(rowsOfPart, pair.Row), Array.BinarySearch(columnsOfPart, pair.Column)] = pair.Weight;
            var solved = SolveWhole(weights);
            for (var i = 0; i < solved.Length; i++)
                if (solved[i] != None) columnOf[rowsOfPart[i]] = columnsOfPart[solved[i]];
        }
        return columnOf;
    }

    private static bool IsWithoutChoice(int rows, int columns, List<Pair> pairs)
    {
        if (pairs.Count > Math.Min(rows, columns)) return false;
        var taken = new bool[rows + columns];
        foreach (var pair in pairs)
        {
            if (taken[pair.Row] || taken[rows + pair.Column]) return false;
            taken[pair.Row] = taken[rows + pair.Column] = true;
        }
        return true;
    }

    /// <summary>The pairs that hang together by rows and columns they share, told by joining sets of rows and columns.</summary>
    private static IEnumerable<List<Pair>> Parts(int rows, int columns, List<Pair> pairs)
    {
        var parent = new int[rows + columns];
        for (var i = 0; i < parent.Length; i++) parent[i] = i;
        int Root(int i)
        {
            while (parent[i] != i) i = parent[i] = parent[parent[i]];
            return i;
        }

        foreach (var pair in pairs) parent[Root(pair.Row)] = Root(rows + pair.Column);
        var parts = new Dictionary<int, List<Pair>>();
        foreach (var pair in pairs)
        {
            var root = Root(pair.Row);
            if (!parts.TryGetValue(root, out var part)) parts[root] = part = [];
            part.Add(pair);
        }
        return parts.Values;
    }

    /// <remarks>Source: the Hungarian method of Kuhn and Munkres, in the form that grows shortest augmenting paths.</remarks>
    private static int[] SolveWhole(double[,] weights)
    {
        var (rows, columns) = (weights.GetLength(0), weights.GetLength(1));

        // A square problem of costs; the added rows and columns cost as much as leaving something unpaired: nothing.
        var size = Math.Max(rows, columns);
        double Cost(int row, int column) => row <= rows && column <= columns ? -weights[row - 1, column - 1] : 0;

        var rowPotential = new double[size + 1];
        var columnPotential = new double[size + 1];
        var rowOf = new int[size + 1];
        var previous = new int[size + 1];
        for (var row = 1; row <= size; row++)
        {
            rowOf[0] = row;
            var column = 0;
            var slack = new double[size + 1];
            var done = new bool[size + 1];
            Array.Fill(slack, double.PositiveInfinity);
            do
            {
                done[column] = true;
                var (current, delta, next) = (rowOf[column], double.PositiveInfinity, 0);
                for (var j = 1; j <= size; j++)
                {
                    if (done[j]) continue;
                    var reduced = Cost(current, j) - rowPotential[current] - columnPotential[j];
                    if (reduced < slack[j]) (slack[j], previous[j]) = (reduced, column);
                    if (slack[j] < delta) (delta, next) = (slack[j], j);
                }
                for (var j = 0; j <= size; j++)
                {
                    if (done[j])
                    {
                        rowPotential[rowOf[j]] += delta;
                        columnPotential[j] -= delta;
                    }
                    else
                    {
                        slack[j] -= delta;
                    }
                }
                column = next;
            }
            while (rowOf[column] != 0);

            while (column != 0)
            {
                rowOf[column] = rowOf[previous[column]];
                column = previous[column];
            }
        }

        var columnOf = new int[rows];
        Array.Fill(columnOf, None);
        for (var column = 1; column <= columns; column++)
        {
            var row = rowOf[column];
            if (row <= rows && weights[row - 1, column - 1] > 0) columnOf[row - 1] = column - 1;
        }
        return columnOf;
    }
}
