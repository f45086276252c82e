using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Web.Hosting;

/// <summary>A beginning for a common job.</summary>
/// <param name="Name">As in its address.</param>
/// <param name="Says">What it is for, in a sentence.</param>
public sealed record Starter(string Name, string Title, string Says);

/// <summary>The beginnings that ship with Fenster. Boards are drawn, and drawings of the library taken, when one is chosen.</summary>
public sealed class Starters(Media media, IPictureSearch search)
{
    public static readonly IReadOnlyList<Starter> All =
    [
        new("label", "Label a diagram", "Shown zones with leader lines to a drawing; put in your own picture and names."),
        new("find", "Find it in the photograph", "Hidden places that students mark; right and wrong show after each check."),
        new("match", "Match two lists", "Words, pictures or sounds on either side; no picture needed."),
        new("number-line", "Number line", "A scale from 0 to 10, ready to take labels."),
        new("circles", "Two circles", "Both, one or neither: two overlapping regions to sort into."),
        new("collect", "Collect to a total", "Labels with values, of which some make the total."),
        new("explore", "Explore and unlock", "Info spots whose clues make a code, and a lock; nothing is scored."),
    ];

    private static readonly CheckRules Freely = new(null);
    private static readonly RevealRules AfterEachCheck = new() { Marks = Moment.Checked, Feedback = Moment.Checked };

    /// <returns>The activity under a title; null when there is no such starter.</returns>
    public Activity? Make(string name, string title, long teacher)
    {
        if (All.All(starter => starter.Name != name))
            return null;
        var activity = Activity(name) with { Title = title };
        foreach (var picture in activity.Panes.Select(pane => pane.Picture).OfType<Picture>())
            media.Give(picture.Media, teacher);
        return activity;
    }

    private Activity Activity(string name) =>
        name switch
        {
            "label" => One(
                Drawing("cell"),
                new Pane
                {
                    Id = "pane-1",
                    Labels = [Words(1, "First name"), Words(2, "Second name"), Words(3, "A name that belongs nowhere")],
                    Targets = [Zone(1, new(40, 60, 190, 50)), Zone(2, new(40, 160, 190, 50))],
                },
                "Put each name where it belongs."
            ),
            "find" => One(
                Drawing("map"),
                new Pane
                {
                    Id = "pane-1",
                    Targets =
                    [
                        new Hotspots
                        {
                            Id = "hotspots-1",
                            Prompt = "Mark the place",
                            Needed = 1,
                            Spots = [new(new Circle(new(500, 300), Usual.HiddenRadius))],
                        },
                    ],
                },
                "Mark what is asked for."
            ) with
            {
                Rules = new() { Check = Freely, Reveal = AfterEachCheck },
            },
            "match" => One(
                null,
                new Pane
                {
                    Id = "pane-1",
                    Targets =
                    [
                        new Matching
                        {
                            Id = "matching-1",
                            Prompt = "What belongs together?",
                            Points = 3,
                            Left = [new("left-1", "One"), new("left-2", "Two"), new("left-3", "Three")],
                            Right = [new("right-1", "I"), new("right-2", "II"), new("right-3", "III"), new("right-4", "IV")],
                            Pairs = [new("left-1", "right-1"), new("left-2", "right-2"), new("left-3", "right-3")],
                        },
                    ],
                },
                ""
            ),
            "number-line" => Board(
                new("numberLine"),
                pane =>
                    pane with
                    {
                        Labels = [Words(1, "a half")],
                        Targets =
                        [
                            new ScalePoint
                            {
                                Id = "value-1",
                                Scale = pane.Scale!,
                                X = 0.5,
                                Label = "label-1",
                                Within = new(0.2),
                            },
                        ],
                    },
                "Put each label where its value is."
            ),
            "circles" => Board(
                new("circles", Names: ["Has wings", "Lays eggs"]),
                pane =>
                    pane with
                    {
                        Labels = [Words(1, "Owl"), Words(2, "Bat"), Words(3, "Snake"), Words(4, "Horse")],
                        Targets =
                        [
                            ((SortRegion)pane.Targets[0]) with
                            {
                                Want = new WantSet(["label-1", "label-2"]),
                            },
                            ((SortRegion)pane.Targets[1]) with
                            {
                                Want = new WantSet(["label-1", "label-3"]),
                            },
                        ],
                    },
                "Sort each label: both, one, or neither."
            ),
            "collect" => Board(
                new("table", Names: ["Makes 10", "Left over"]),
                pane =>
                    pane with
                    {
                        Labels =
                        [
                            Words(1, "7") with
                            {
                                Value = 7,
                            },
                            Words(2, "3") with
                            {
                                Value = 3,
                            },
                            Words(3, "4") with
                            {
                                Value = 4,
                            },
                            Words(4, "5") with
                            {
                                Value = 5,
                            },
                        ],
                        Targets = [((SortRegion)pane.Targets[0]) with { Want = new WantTotal(10, 10) }],
                    },
                "Collect labels that make 10 together."
            ),
            "explore" => One(
                Drawing("map"),
                new Pane
                {
                    Id = "pane-1",
                    Targets =
                    [
                        new InfoSpot
                        {
                            Id = "info-1",
                            At = new(250, 200),
                            Prompt = "First clue",
                            Text = "The code begins with 4.",
                        },
                        new InfoSpot
                        {
                            Id = "info-2",
                            At = new(700, 420),
                            Prompt = "Second clue",
                            Text = "It ends with 2.",
                            Concealed = true,
                            Reach = 80,
                        },
                        new Lock
                        {
                            Id = "lock-1",
                            At = new(500, 330),
                            Prompt = "Which code opens it?",
                            Code = new([new("42")]),
                            Inside = "You found it.",
                            Scored = false,
                        },
                    ],
                },
                "Look around and open the lock."
            ) with
            {
                Purpose = Purpose.LearningOnly,
            },
            _ => throw new ArgumentOutOfRangeException(nameof(name), name, "There is no such starter."),
        };

    private static Label Words(int number, string text) => new() { Id = $"label-{number}", Text = text };

    private static DropZone Zone(int number, Rectangle region) =>
        new()
        {
            Id = $"zone-{number}",
            Region = region,
            Accepts = [new($"label-{number}")],
        };

    private static Activity One(Picture? picture, Pane pane, string instructions) =>
        new()
        {
            Title = "Untitled",
            Instructions = instructions,
            Panes = [pane with { Picture = picture }],
        };

    private Activity Board(BoardWish wish, Func<Pane, Pane> fill, string instructions)
    {
        var (scale, regions) = Boards.Ready(wish);
        var picture = Store(Boards.Draw(wish));
        return One(
            picture,
            fill(
                new()
                {
                    Id = "pane-1",
                    Scale = scale,
                    Targets = regions,
                }
            ),
            instructions
        );
    }

    /// <summary>The first drawing of the library that the words find; a plain board where there is none.</summary>
    private Picture Drawing(string words) =>
        search.Find(words).Select(found => search.Fetch(found.Id)).FirstOrDefault(found => found is not null) is ({ } drawing, var bytes)
            ? Store(bytes) with
            {
                AltText = drawing.AltText,
                Credit = drawing.Credit,
            }
            : Store(Boards.Draw(new("plain")));

    private Picture Store(byte[] bytes)
    {
        var prepared = PictureReader.Read(bytes);
        media.Save(prepared, bytes);
        return new(prepared.Hash, prepared.Width, prepared.Height);
    }
}
