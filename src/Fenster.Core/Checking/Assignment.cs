namespace Fenster.Core.Checking;

/// <summary>Maximum-weight assignment of rows to columns.</summary>
public static class Assignment
{
    /// <summary>No column.</summary>
    public const int None = -1;

    /// <summary>
    /// For each row the column it is paired with, or <see cref="None"/>, such that no column is used twice and the
    /// sum of the weights is as large as possible. Exact; O(n³) in the larger side.
    /// </summary>
    /// <param name="weights">One row a row; 0 where a pair is not possible. No weight may be negative or not finite.</param>
    /// <exception cref="ArgumentException">A weight is negative or not finite.</exception>
    /// <remarks>Source: the Hungarian method of Kuhn and Munkres, in the form that grows shortest augmenting paths.</remarks>
    public static int[] Solve(double[,] weights)
    {
        var (rows, columns) = (weights.GetLength(0), weights.GetLength(1));
        foreach (var weight in weights)
            if (!(weight >= 0) || double.IsInfinity(weight))
                throw new ArgumentException("A weight is negative or not finite.", nameof(weights));

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
