namespace Fenster.Core.Checking;

/// <summary>Maximum-weight assignment of rows to columns.</summary>
public static class Assignment
{
    /// <summary>No column.</summary>
    public const int None = -1;

    /// <summary>
    /// For each row the column it is paired with, or <see cref="None"/>, such that no column is used twice and the
    /// sum of the weights is as large as possible. Exact; O(n³) in the larger side of what hangs together.
    /// </summary>
    /// <param name="weights">One row a row; 0 where a pair is not possible. No weight may be negative or not finite.</param>
    /// <exception cref="ArgumentException">A weight is negative or not finite.</exception>
    public static int[] Solve(double[,] weights)
    {
        foreach (var weight in weights)
            if (!(weight >= 0) || double.IsInfinity(weight))
                throw new ArgumentException("A weight is negative or not finite.", nameof(weights));

        // Mostly, few rows compete for few columns: each such part is a problem of its own.
        var columnOf = new int[weights.GetLength(0)];
        Array.Fill(columnOf, None);
        foreach (var (rows, columns) in Parts(weights))
        {
            var part = new double[rows.Count, columns.Count];
            for (var i = 0; i < rows.Count; i++)
                for (var j = 0; j < columns.Count; j++)
                    part[i, j] = weights[rows[i], columns[j]];
            var solved = SolveWhole(part);
            for (var i = 0; i < rows.Count; i++)
                if (solved[i] != None) columnOf[rows[i]] = columns[solved[i]];
        }
        return columnOf;
    }

    /// <summary>Rows and columns that hang together by pairs with a weight; what has no pair is in no part.</summary>
    private static IEnumerable<(List<int> Rows, List<int> Columns)> Parts(double[,] weights)
    {
        var (rowCount, columnCount) = (weights.GetLength(0), weights.GetLength(1));
        var (seenRows, seenColumns) = (new bool[rowCount], new bool[columnCount]);
        for (var start = 0; start < rowCount; start++)
        {
            if (seenRows[start]) continue;
            seenRows[start] = true;
            var (rows, columns) = (new List<int> { start }, new List<int>());
            for (var next = 0; next < rows.Count; next++)
                for (var column = 0; column < columnCount; column++)
                {
                    if (seenColumns[column] || weights[rows[next], column] == 0) continue;
                    seenColumns[column] = true;
                    columns.Add(column);
                    for (var row = 0; row < rowCount; row++)
                    {
                        if (seenRows[row] || weights[row, column] == 0) continue;
                        seenRows[row] = true;
                        rows.Add(row);
                    }
                }
            if (columns.Count == 0) continue;
            rows.Sort();
            columns.Sort();
            yield return (rows, columns);
        }
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
