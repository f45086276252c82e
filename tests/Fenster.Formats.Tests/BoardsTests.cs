using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Testing;

namespace Fenster.Formats.Tests;

public sealed partial class BoardsTests
{
    private static string Svg(BoardWish wish) => Encoding.UTF8.GetString(PictureReader.Read(Boards.Draw(wish)).Files[0].Bytes);

    [GeneratedRegex("<text[^>]* x=\"([^\"]*)\"[^>]*>([^<]*)</text>")]
    private static partial Regex Word();

    private static List<(double X, string Text)> Words(BoardWish wish) =>
        [
            .. Word()
                .Matches(Svg(wish))
                .Select(match => (double.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture), match.Groups[2].Value)),
        ];

    [Fact]
    public void Every_kind_is_a_sound_drawing()
    {
        foreach (var kind in Boards.Kinds)
        {
            var picture = PictureReader.Read(Boards.Draw(new(kind, Names: ["Sea", "Land"], Values: [100, 200])));
            Assert.Equal(1920, picture.Width);
            Assert.Equal("svg", picture.Files[0].Extension);
        }
    }

    [Fact]
    public void The_marks_of_a_line_stand_where_their_numbers_are()
    {
        var words = Words(new("numberLine", -1, 1, 0.25m));
        Assert.Equal(["-1", "-0.75", "-0.5", "-0.25", "0", "0.25", "0.5", "0.75", "1"], words.Select(word => word.Text));
        // 1400 units from the first mark to the last: 700 for each whole number.
        Assert.All(words, word => Assert.Equal(800 + 700 * double.Parse(word.Text, CultureInfo.InvariantCulture), word.X, 1e-9));
        Assert.Equal(["1900", "1950", "2000"], Words(new("timeline", 1900, 2000, 50)).Select(word => word.Text));
    }

    [Fact]
    public void Axes_cross_at_zero_and_count_alike()
    {
        var words = Words(new("axes", -5, 5, 1));
        Assert.Equal(11 + 10, words.Count);
        Assert.Equal(800, words.First(word => word.Text == "0").X, 1e-9);
    }

    [Fact]
    public void Many_marks_are_named_sparsely() => Assert.InRange(Words(new("numberLine", 0, 100, 1)).Count, 20, 26);

    [Fact]
    public void Names_are_words_and_nothing_else()
    {
        Assert.Contains("&lt;b&gt;Sea", Svg(new("circles", Names: ["<b>Sea", "Land"])));
        Assert.Equal(3, Regex.Count(Svg(new("circles", Names: ["A", "B", "C"])), "<circle"));
    }

    [Theory]
    [InlineData("numberLine", 0, 10, 0, "above 0")]
    [InlineData("numberLine", 10, 10, 1, "end above")]
    [InlineData("axes", 0, 1000, 1, "more than 200 marks")]
    [InlineData("timeline", 0, 10, -1, "above 0")]
    [InlineData("moon", 0, 10, 1, "no such board")]
    [InlineData("table", 0, 10, 1, "one to 8 columns")]
    public void What_makes_no_board_gets_a_sentence(string kind, int from, int to, int step, string words) =>
        Assert.Contains(words, Assert.Throws<PictureRefused>(() => Boards.Draw(new(kind, from, to, step))).Sentence);

    [Fact]
    public void Too_many_names_and_no_colours_get_a_sentence()
    {
        Assert.Contains("two or three names", Assert.Throws<PictureRefused>(() => Boards.Draw(new("circles", Names: ["A"]))).Sentence);
        Assert.Contains("colour", Assert.Throws<PictureRefused>(() => Boards.Draw(new("plain", Colour: "red\"/>"))).Sentence);
        Assert.Contains("60 characters", Assert.Throws<PictureRefused>(() => Boards.Draw(new("table", Names: [new('x', 61)]))).Sentence);
    }

    private static BoardWish Game(string list, params decimal[] values) => new("game", Names: list.Split('\n'), Values: values);

    [Fact]
    public void A_game_has_a_cell_for_each_topic_and_value()
    {
        var wish = Game("Lights\n- Red light? = Port & stern\n– What now?\nSounds", 100, 200.5m);
        var spots = Boards.Ready(wish).Regions.Cast<InfoSpot>().ToList();
        Assert.Equal(
            [("Red light?", "Port & stern", 100m), ("What now?", "", 200.5m), ("Sounds 100", "", 100m), ("Sounds 200.5", "", 200.5m)],
            spots.Select(spot => (spot.Prompt, spot.Text, spot.Points))
        );
        // Columns from left to right, rows from the top, each spot in a cell of its own.
        Assert.True(spots[0].At.X == spots[1].At.X && spots[0].At.Y < spots[1].At.Y && spots[2].At.X > spots[0].At.X);
        Assert.Contains("Lights", Svg(wish));
        Assert.DoesNotContain("Red light", Svg(wish));
        Assert.Contains("&lt;b&gt;", Svg(Game("<b>", 1)));
        var picture = PictureReader.Read(Boards.Draw(wish));
        var activity = new Activity
        {
            Title = "T",
            Panes =
            [
                new()
                {
                    Id = "p",
                    Picture = new(picture.Hash, picture.Width, picture.Height),
                    Targets = [.. spots],
                },
            ],
        };
        Assert.Empty(Soundness.Faults(activity));
        Assert.True(GamePane.Fits(activity.Panes[0]));
        Assert.DoesNotContain(Readiness.Obstacles(activity), obstacle => obstacle.Said.Name == "proof.partOutside");
    }

    [Theory]
    [InlineData("- A question first", "picture.gameTopicFirst", 100.0)]
    [InlineData("", "picture.gameTopics", 100.0)]
    [InlineData("1\n2\n3\n4\n5\n6\n7\n8\n9", "picture.gameTopics", 100.0)]
    [InlineData("Lights", "picture.gameValues")]
    [InlineData("Lights", "picture.gameValues", 100.0, -5.0)]
    [InlineData("Lights\n- One?\n- Two?", "picture.gameQuestions", 100.0)]
    [InlineData("A name of a topic that goes on and on, far beyond what fits over a column", "picture.boardName", 100.0)]
    public void A_list_that_makes_no_game_says_why(string list, string name, params double[] values) =>
        Assert.Equal(
            name,
            Assert.Throws<PictureRefused>(() => Boards.Draw(Game(list, [.. values.Select(value => (decimal)value)]))).Said.Name
        );
}
