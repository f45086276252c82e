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
    /// sum of the weights is as large as possible. Exact; O(n²m) in the smaller side n and the larger side m of what hangs together.
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
            foreach (var pair in pairs)
                columnOf[pair.Row] = pair.Column;
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
            var (rowsOfPart, columnsOfPart) = (
                part.Select(pair => pair.Row).Distinct().Order().ToArray(),
                part.Select(pair => pair.Column).Distinct().Order().ToArray()
            );
            var weights = new double[rowsOfPart.Length, columnsOfPart.Length];
            foreach (var pair in part)
                weights[Array.BinarySearch(rowsOfPart, pair.Row), Array.BinarySearch(columnsOfPart, pair.Column)] = pair.Weight;
            var solved = SolveWhole(weights);
            for (var i = 0; i < solved.Length; i++)
                if (solved[i] != None)
                    columnOf[rowsOfPart[i]] = columnsOfPart[solved[i]];
        }
        return columnOf;
    }

    private static bool IsWithoutChoice(int rows, int columns, List<Pair> pairs)
    {
        if (pairs.Count > Math.Min(rows, columns))
            return false;
        var taken = new bool[rows + columns];
        foreach (var pair in pairs)
        {
            if (taken[pair.Row] || taken[rows + pair.Column])
                return false;
            taken[pair.Row] = taken[rows + pair.Column] = true;
        }
        return true;
    }

    /// <summary>The pairs that hang together by rows and columns they share, told by joining sets of rows and columns.</summary>
    private static IEnumerable<List<Pair>> Parts(int rows, int columns, List<Pair> pairs)
    {
        var sets = new DisjointSets(rows + columns);
        foreach (var pair in pairs)
            sets.Join(pair.Row, rows + pair.Column);
        var parts = new Dictionary<int, List<Pair>>();
        foreach (var pair in pairs)
        {
            var root = sets.Root(pair.Row);
            if (!parts.TryGetValue(root, out var part))
                parts[root] = part = [];
            part.Add(pair);
        }
        return parts.Values;
    }

    private static int[] SolveWhole(double[,] weights)
    {
        var (rows, columns) = (weights.GetLength(0), weights.GetLength(1));
        if (rows <= columns)
            return SolveWide(weights);
        var turned = new double[columns, rows];
        for (var row = 0; row < rows; row++)
        {
            for (var column = 0; column < columns; column++)
                turned[column, row] = weights[row, column];
        }
        var rowOf = SolveWide(turned);
        var columnOf = new int[rows];
        Array.Fill(columnOf, None);
        for (var column = 0; column < columns; column++)
            if (rowOf[column] != None)
                columnOf[rowOf[column]] = column;
        return columnOf;
    }

    /// <summary>The same for no more rows than columns. A weight of 0 is as good as leaving something unpaired.</summary>
    /// <remarks>Source: the Hungarian method of Kuhn and Munkres, in the form that grows shortest augmenting paths.</remarks>
    private static int[] SolveWide(double[,] weights)
    {
        var (rows, columns) = (weights.GetLength(0), weights.GetLength(1));
        var rowPotential = new double[rows + 1];
        var columnPotential = new double[columns + 1];
        var rowOf = new int[columns + 1];
        var previous = new int[columns + 1];
        var slack = new double[columns + 1];
        var done = new bool[columns + 1];
        for (var row = 1; row <= rows; row++)
        {
            rowOf[0] = row;
            var column = 0;
            Array.Fill(slack, double.PositiveInfinity);
            Array.Clear(done);
            do
            {
                done[column] = true;
                var (current, delta, next) = (rowOf[column], double.PositiveInfinity, 0);
                for (var j = 1; j <= columns; j++)
                {
                    if (done[j])
                        continue;
                    var reduced = -weights[current - 1, j - 1] - rowPotential[current] - columnPotential[j];
                    if (reduced < slack[j])
                        (slack[j], previous[j]) = (reduced, column);
                    // Of columns that are as good, a free one ends the search.
                    if (slack[j] < delta || (slack[j] == delta && rowOf[j] == 0 && rowOf[next] != 0))
                        (delta, next) = (slack[j], j);
                }
                for (var j = 0; j <= columns; j++)
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
            } while (rowOf[column] != 0);

            while (column != 0)
            {
                rowOf[column] = rowOf[previous[column]];
                column = previous[column];
            }
        }

        var columnOf = new int[rows];
        Array.Fill(columnOf, None);
        for (var column = 1; column <= columns; column++)
            if (rowOf[column] is > 0 and var row && weights[row - 1, column - 1] > 0)
                columnOf[row - 1] = column - 1;
        return columnOf;
    }
}
