using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Formats.Pictures;

/// <summary>A board of rows and columns for a game: a column for each topic, a cell for each value.</summary>
/// <param name="Topics">At least 1, at most <see cref="Most"/>.</param>
/// <param name="Values">From the top, at least 1, at most <see cref="Most"/>, each greater than 0.</param>
internal sealed record GameBoard(ImmutableArray<GameTopic> Topics, ImmutableArray<decimal> Values)
{
    public const int Most = 8;

    // In pixels of the drawing.
    private const double Left = 24,
        Top = 24,
        Width = 1552,
        Height = 952,
        HeadHeight = 130;

    /// <summary>
    /// A line is a topic; lines below it that begin with a hyphen are its questions from the lowest value up, each with its answer behind
    /// an equals sign if there is one.
    /// </summary>
    /// <exception cref="PictureRefused">It is no such list; the message says why.</exception>
    public static GameBoard Read(IEnumerable<string> lines, IReadOnlyList<decimal> values)
    {
        var topics = ImmutableArray.CreateBuilder<GameTopic>();
        foreach (var line in lines.Select(line => line.Trim()).Where(line => line.Length > 0))
            if (!IsQuestion(line))
                topics.Add(new(line, []));
            else if (topics.Count > 0)
                topics[^1] = topics[^1] with { Questions = topics[^1].Questions.Add(QuestionIn(line[1..])) };
            else
                throw new PictureRefused(new("picture.gameTopicFirst"));
        if (topics.Count is < 1 or > Most)
            throw new PictureRefused(new("picture.gameTopics", ("most", Most)));
        if (values.Count is < 1 or > Most || values.Any(value => value is <= 0 or > Limits.LargestNumber))
            throw new PictureRefused(new("picture.gameValues", ("most", Most)));
        if (topics.FirstOrDefault(topic => topic.Name.Length > Boards.LongestName) is not null)
            throw new PictureRefused(new("picture.boardName"));
        if (topics.FirstOrDefault(topic => topic.Questions.Length > values.Count) is { } full)
            throw new PictureRefused(new("picture.gameQuestions", ("topic", full.Name), ("count", full.Questions.Length)));
        return topics
            .SelectMany(topic => topic.Questions)
            .Any(question => question.Asks.Length > Soundness.LongestPrompt || question.Answer.Length > Soundness.LongestPrompt)
            ? throw new PictureRefused(new("picture.gameLong", ("most", Soundness.LongestPrompt)))
            : new(topics.ToImmutable(), [.. values]);
    }

    private static bool IsQuestion(string line) => line[0] is '-' or '–' or '•';

    private static (string Asks, string Answer) QuestionIn(string line) =>
        line.IndexOf('=', StringComparison.Ordinal) is var at and >= 0 ? (line[..at].Trim(), line[(at + 1)..].Trim()) : (line.Trim(), "");

    private double ColumnWidth => Width / Topics.Length;

    private double RowHeight => (Height - HeadHeight) / Values.Length;

    /// <summary>The heads and the empty cells; what a cell is worth stands on its spot.</summary>
    public string Draw(string ink)
    {
        var (cells, words) = (new StringBuilder(), new StringBuilder());
        var size = Math.Min(52, 1.45 * (ColumnWidth - 30) / Math.Max(6, Topics.Max(topic => topic.Name.Length)));
        for (var column = 0; column < Topics.Length; column++)
        {
            var x = Left + column * ColumnWidth;
            cells.Append(Cell(x, Top, HeadHeight, ink));
            words.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<text x=\"{x + ColumnWidth / 2:0.##}\" y=\"{Top + HeadHeight / 2:0.##}\">{WebUtility.HtmlEncode(Topics[column].Name)}</text>"
                )
            );
            for (var row = 0; row < Values.Length; row++)
                cells.Append(Cell(x, Top + HeadHeight + row * RowHeight, RowHeight, "#e4edf0"));
        }
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{cells}<g font-family=\"sans-serif\" font-size=\"{size:0.##}\" font-weight=\"bold\" text-anchor=\"middle\" dominant-baseline=\"central\" fill=\"#ffffff\">{words}</g>"
        );
    }

    private string Cell(double x, double y, double height, string fill) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"<rect x=\"{x + 6:0.##}\" y=\"{y + 6:0.##}\" width=\"{ColumnWidth - 12:0.##}\" height=\"{height - 12:0.##}\" fill=\"{fill}\"/>"
        );

    /// <summary>A spot in each cell, column after column, with its question and what it is worth.</summary>
    /// <param name="unitsPerPixel">From pixels of the drawing to pu.</param>
    public ImmutableArray<Target> Spots(double unitsPerPixel) =>
        [
            .. Topics.SelectMany(
                (topic, column) =>
                    Values.Select(
                        Target (value, row) =>
                            new InfoSpot
                            {
                                Id = $"cell-{column + 1}-{row + 1}",
                                At = new(
                                    (Left + (column + 0.5) * ColumnWidth) * unitsPerPixel,
                                    (Top + HeadHeight + (row + 0.5) * RowHeight) * unitsPerPixel
                                ),
                                Prompt =
                                    row < topic.Questions.Length && topic.Questions[row].Asks.Length > 0
                                        ? topic.Questions[row].Asks
                                        : string.Create(CultureInfo.InvariantCulture, $"{topic.Name} {value:0.####}"),
                                Text = row < topic.Questions.Length ? topic.Questions[row].Answer : "",
                                Points = value,
                            }
                    )
            ),
        ];
}

/// <param name="Questions">From the lowest value up, at most one for each value; an answer is empty where there is none.</param>
internal sealed record GameTopic(string Name, ImmutableArray<(string Asks, string Answer)> Questions);
