using Fenster.Core.Checking;

namespace Fenster.Core.Tests;

public sealed class AssignmentTests
{
    [Fact]
    public void It_earns_as_much_as_trying_every_pairing()
    {
        var random = new Random(3);
        for (var i = 0; i < 3000; i++)
        {
            var weights = new double[random.Next(1, 6), random.Next(1, 6)];
            for (var row = 0; row < weights.GetLength(0); row++)
            {
                for (var column = 0; column < weights.GetLength(1); column++)
                    weights[row, column] = random.Next(3) == 0 ? 0 : random.Next(1, 9) / 4.0;
            }
            Assert.Equal(Best(weights, 0, 0), Sum(weights, Solve(weights)), 1e-9);
        }
    }

    private static int[] Solve(double[,] weights) =>
        Assignment.Solve(
            weights.GetLength(0),
            weights.GetLength(1),
            [
                .. Enumerable
                    .Range(0, weights.GetLength(0))
                    .SelectMany(row =>
                        Enumerable
                            .Range(0, weights.GetLength(1))
                            .Where(column => weights[row, column] != 0)
                            .Select(column => new Assignment.Pair(row, column, weights[row, column]))
                    ),
            ]
        );

    private static double Best(double[,] weights, int row, int used) =>
        row == weights.GetLength(0)
            ? 0
            : Enumerable
                .Range(0, weights.GetLength(1))
                .Where(column => (used & 1 << column) == 0)
                .Select(column => weights[row, column] + Best(weights, row + 1, used | 1 << column))
                .Append(Best(weights, row + 1, used))
                .Max();

    private static double Sum(double[,] weights, int[] columns)
    {
        Assert.Equal(columns.Count(c => c >= 0), columns.Where(c => c >= 0).Distinct().Count());
        return columns.Select((column, row) => column == Assignment.None ? 0 : weights[row, column]).Sum();
    }

    [Fact]
    public void A_hundred_by_a_hundred_finds_the_one_perfect_pairing()
    {
        var random = new Random(5);
        var hidden = Enumerable.Range(0, 100).OrderBy(_ => random.Next()).ToArray();
        var weights = new double[100, 100];
        for (var row = 0; row < 100; row++)
        {
            for (var column = 0; column < 100; column++)
                weights[row, column] = column == hidden[row] ? 1 : random.NextDouble() * 0.5;
        }
        Assert.Equal(hidden, Solve(weights));
    }

    [Fact]
    public void Nothing_to_pair_pairs_nothing()
    {
        Assert.Empty(Solve(new double[0, 3]));
        Assert.Equal([Assignment.None, Assignment.None], Solve(new double[2, 0]));
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(double.NaN)]
    [InlineData(double.PositiveInfinity)]
    public void A_weight_that_is_no_weight_is_refused(double weight) =>
        Assert.Throws<ArgumentException>(() =>
            Solve(
                new[,]
                {
                    { weight },
                }
            )
        );
}
