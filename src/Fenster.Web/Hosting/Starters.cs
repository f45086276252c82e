using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Words;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Web.Hosting;

/// <summary>A beginning for a common job.</summary>
/// <param name="Name">As in its address.</param>
/// <param name="Title">Names the sentence.</param>
/// <param name="Says">Names the sentence about what it is for.</param>
public sealed record Starter(string Name, string Title, string Says);

/// <summary>The beginnings that ship with Fenster. Boards are drawn, and drawings of the library taken, when one is chosen.</summary>
public sealed class Starters(Media media, IPictureSearch search)
{
    public static readonly IReadOnlyList<Starter> All =
    [
        new("label", "starter.label", "starter.labelSays"),
        new("find", "starter.find", "starter.findSays"),
        new("match", "starter.match", "starter.matchSays"),
        new("number-line", "starter.numberLine", "starter.numberLineSays"),
        new("circles", "starter.circles", "starter.circlesSays"),
        new("collect", "starter.collect", "starter.collectSays"),
        new("explore", "starter.explore", "starter.exploreSays"),
    ];

    private static readonly CheckRules Freely = new(null);
    private static readonly RevealRules AfterEachCheck = new() { Marks = Moment.Checked, Feedback = Moment.Checked };

    /// <returns>The activity under a title; null when there is no such starter.</returns>
    /// <param name="language">In which its own words are.</param>
    public Activity? Make(string name, string title, long teacher, Language language)
    {
        if (All.All(starter => starter.Name != name))
            return null;
        var activity = Activity(name, title, language) with
        {
            Language = language.Tag,
            Direction = language.IsRightToLeft ? WritingDirection.RightToLeft : WritingDirection.LeftToRight,
        };
        foreach (var picture in activity.Panes.Select(pane => pane.Picture).OfType<Picture>())
            media.Give(picture.Media, teacher);
        return activity;
    }

    private Activity Activity(string name, string title, Language language)
    {
        string say(string sentence) => language.Say(sentence);
        return name switch
        {
            "label" => One(
                title,
                Drawing("cell"),
                new Pane
                {
                    Id = "pane-1",
                    Labels = [Label(1, say("starter.firstName")), Label(2, say("starter.secondName")), Label(3, say("starter.nowhere"))],
                    Targets = [Zone(1, new(40, 60, 190, 50)), Zone(2, new(40, 160, 190, 50))],
                },
                say("starter.putEach")
            ),
            "find" => One(
                title,
                Drawing("map"),
                new Pane
                {
                    Id = "pane-1",
                    Targets =
                    [
                        new Hotspots
                        {
                            Id = "hotspots-1",
                            Prompt = say("starter.markThePlace"),
                            Needed = 1,
                            Spots = [new(new Circle(new(500, 300), Usual.HiddenRadius))],
                        },
                    ],
                },
                say("starter.mark")
            ) with
            {
                Rules = new() { Check = Freely, Reveal = AfterEachCheck },
            },
            "match" => One(
                title,
                null,
                new Pane
                {
                    Id = "pane-1",
                    Targets =
                    [
                        new Matching
                        {
                            Id = "matching-1",
                            Prompt = say("starter.whatBelongs"),
                            Points = 3,
                            Left =
                            [
                                new("left-1", say("starter.one")),
                                new("left-2", say("starter.two")),
                                new("left-3", say("starter.three")),
                            ],
                            Right = [new("right-1", "I"), new("right-2", "II"), new("right-3", "III"), new("right-4", "IV")],
                            Pairs = [new("left-1", "right-1"), new("left-2", "right-2"), new("left-3", "right-3")],
                        },
                    ],
                },
                ""
            ),
            "number-line" => Board(
                title,
                new("numberLine"),
                pane =>
                    pane with
                    {
                        Labels = [Label(1, say("starter.half"))],
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
                say("starter.atValue")
            ),
            "circles" => Board(
                title,
                new("circles", Names: [say("starter.wings"), say("starter.eggs")]),
                pane =>
                    pane with
                    {
                        Labels =
                        [
                            Label(1, say("starter.owl")),
                            Label(2, say("starter.bat")),
                            Label(3, say("starter.snake")),
                            Label(4, say("starter.horse")),
                        ],
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
                say("starter.sort")
            ),
            "collect" => Board(
                title,
                new("table", Names: [say("starter.makesTen"), say("starter.leftOver")]),
                pane =>
                    pane with
                    {
                        Labels =
                        [
                            Label(1, "7") with
                            {
                                Value = 7,
                            },
                            Label(2, "3") with
                            {
                                Value = 3,
                            },
                            Label(3, "4") with
                            {
                                Value = 4,
                            },
                            Label(4, "5") with
                            {
                                Value = 5,
                            },
                        ],
                        Targets = [((SortRegion)pane.Targets[0]) with { Want = new WantTotal(10, 10) }],
                    },
                say("starter.collectTen")
            ),
            "explore" => One(
                title,
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
                            Prompt = say("starter.firstClue"),
                            Text = say("starter.beginsWith"),
                        },
                        new InfoSpot
                        {
                            Id = "info-2",
                            At = new(700, 420),
                            Prompt = say("starter.secondClue"),
                            Text = say("starter.endsWith"),
                            Concealed = true,
                            Reach = 80,
                        },
                        new Lock
                        {
                            Id = "lock-1",
                            At = new(500, 330),
                            Prompt = say("starter.whichCode"),
                            Code = new([new("42")]),
                            Inside = say("starter.foundIt"),
                            Scored = false,
                        },
                    ],
                },
                say("starter.lookAround")
            ) with
            {
                Purpose = Purpose.LearningOnly,
            },
            _ => throw new ArgumentOutOfRangeException(nameof(name), name, "There is no such starter."),
        };
    }

    private static Label Label(int number, string text) => new() { Id = $"label-{number}", Text = text };

    private static DropZone Zone(int number, Rectangle region) =>
        new()
        {
            Id = $"zone-{number}",
            Region = region,
            Accepts = [new($"label-{number}")],
        };

    private static Activity One(string title, Picture? picture, Pane pane, string instructions) =>
        new()
        {
            Title = title,
            Instructions = instructions,
            Panes = [pane with { Picture = picture }],
        };

    private Activity Board(string title, BoardWish wish, Func<Pane, Pane> fill, string instructions)
    {
        var (scale, regions) = Boards.Ready(wish);
        var picture = Store(Boards.Draw(wish));
        return One(
            title,
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
