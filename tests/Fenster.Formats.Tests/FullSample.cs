using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

/// <summary>An activity and responses in which everything is used that the formats know.</summary>
internal static class FullSample
{
    private static readonly string Hash = new('0', 64);
    private static readonly Circle Somewhere = new(new(100.5, 20), 30);

    public static Activity Activity { get; } =
        new()
        {
            Title = "Parts of a boat",
            PrivateName = "Boats, class 7",
            Description = "For the second week.",
            Keywords = ["sailing"],
            IsStarter = true,
            Instructions = "<p class=\"ql-align-center\">Name <strong>them</strong>.</p>",
            Message = new VideoFace(Hash, 640, 360, 2, 9.5, Hash),
            MessageText = "The teacher explains.",
            PaneOrder = PaneOrder.Shuffled,
            Screen = new()
            {
                BeginsSingly = true,
                Cheers = true,
                Aids = [Aid.Calculator, Aid.Ruler, Aid.Magnifier],
                Leaving = Leaving.AskedTwice,
            },
            ScoreBands = [new(0.5m, "Well done.")],
            Panes =
            [
                new Pane
                {
                    Id = "pane-1",
                    Picture = new(Hash, 800, 600, "A boat")
                    {
                        Margins = new(10, 0, 200, 0),
                        Credit = "R. Low, CC0",
                        Preparation = new(Hash, 900, 700)
                        {
                            Turn = 1.5,
                            Crop = new(10, 10, 800, 500),
                            Fixings =
                            [
                                new CoverFixing(1, 2, 30, 40, "#ffffff"),
                                new BoxFixing(1, 2, 30, 40, "#20242c"),
                                new LineFixing(new(1, 2), new(3, 4), true, "#20242c"),
                                new CaptionFixing(new(5, 6), "Here", 20, "#20242c"),
                            ],
                        },
                    },
                    Explanation = "Boats have parts.",
                    LabelSize = LabelSize.Large,
                    Scale = new(new(new(0, 0), new(9, 0), 0, 12)),
                    Rules = new Rules { Check = new(1) },
                    Labels =
                    [
                        new()
                        {
                            Id = "a",
                            Text = "Mast",
                            Feedback = "Not there.",
                            Colour = LabelColour.Sky,
                            Start = new(9, 9),
                        },
                        new()
                        {
                            Id = "b",
                            Text = "حبل",
                            Copies = null,
                        },
                        new()
                        {
                            Id = "c",
                            Text = "A flag",
                            Face = new PictureFace(Hash, 30, 20),
                            Tip = new(0, 0.5),
                        },
                        new()
                        {
                            Id = "d",
                            Text = "A horn",
                            Face = new SoundFace(Hash, 1, 2.5),
                            Description = DescriptionFor.Students,
                            Value = 2.5m,
                        },
                    ],
                    Targets =
                    [
                        new DropZone
                        {
                            Id = "z1",
                            Region = Somewhere,
                            Leader = new(7, 8),
                            Accepts = [new("a"), new("b", 0.5m)],
                            Points = 2,
                            Feedback = new("Yes.", "No."),
                            Explanation = "It is tall.",
                        },
                        new DropZone
                        {
                            Id = "z2",
                            Region = new Rectangle(1, 2, 30, 40, 15),
                            Accepts = [new("b")],
                            Capacity = 2,
                            Group = "g",
                        },
                        new HiddenZone
                        {
                            Id = "h",
                            Region = new Polygon([new(0, 0), new(9, 0), new(0, 9)]),
                            Accepts = [new("a")],
                            Tolerance = new(3) { Bands = [new(9, 0.5m)] },
                        },
                        new Hotspots
                        {
                            Id = "s",
                            Needed = 1,
                            Spots = [new(new Ellipse(new(5, 5), 3, 2))],
                        },
                        new AnswerBox
                        {
                            Id = "w",
                            Region = Somewhere,
                            Answer = new TypedText([new("mast"), new("spar", 0.5m)]) { Rules = new(ForgiveSlips: true) },
                        },
                        new AnswerBox
                        {
                            Id = "n",
                            Region = Somewhere,
                            Answer = new TypedNumber(6.62607015e-27m) { Within = 0.1m, Units = [new("kg", 1m), new("g", 0.001m)] },
                        },
                        new QuestionPoint
                        {
                            Id = "q",
                            At = new(4, 4),
                            Question = new ChoiceQuestion { Text = "?", Options = [new("x", "X", true), new("y", "Y", Feedback: "No.")] },
                        },
                        new QuestionPoint
                        {
                            Id = "t",
                            At = new(4, 4),
                            Question = new TypedQuestion { Text = "?", Answer = new TypedNumber(2) },
                        },
                        new Core.Model.Lock
                        {
                            Id = "l",
                            At = new(4, 4),
                            Code = new([new("1234")]),
                            Inside = "A letter.",
                            Scored = false,
                            Opens = ["q"],
                        },
                        new OpenNote
                        {
                            Id = "o",
                            Region = Somewhere,
                            Pins = 2,
                            Criteria = [new("Names the danger", 2), new("Says why", 1)],
                            Compulsory = true,
                        },
                        new ScalePoint
                        {
                            Id = "p",
                            Scale = new(new(new(0, 0), new(9, 0), 1, 100, AxisKind.Logarithmic), new(new(0, 0), new(0, 9), 0, 5)),
                            X = 3,
                            Y = 4,
                            Within = new(0.5),
                            Label = "c",
                        },
                        new Matching
                        {
                            Id = "m",
                            Descriptions = DescriptionFor.Students,
                            Left = [new("1", "One"), new("2", "A horn", new SoundFace(Hash))],
                            Right = [new("r", "R")],
                            Pairs = [new("1", "r")],
                        },
                        new SortRegion
                        {
                            Id = "set",
                            Region = Somewhere,
                            Want = new WantSet(["a", "b"]),
                        },
                        new SortRegion
                        {
                            Id = "count",
                            Region = Somewhere,
                            Want = new WantCount(["a", "b"], CountIs.AtLeast, 1),
                        },
                        new SortRegion
                        {
                            Id = "total",
                            Region = Somewhere,
                            Want = new WantTotal(2, 3),
                        },
                        new InfoSpot
                        {
                            Id = "i",
                            At = new(40, 40),
                            Text = "Look.",
                            Prompt = "A box",
                            Face = new PictureFace(Hash, 30, 20),
                            Link = "https://tideford.example/log",
                            Shows = Showing.Covering,
                            Concealed = true,
                            Reach = 20,
                        },
                    ],
                },
                new()
                {
                    Id = "pane-2",
                    Targets =
                    [
                        new OwnPicture
                        {
                            Id = "own",
                            Questions = ["Where is the mast?"],
                            Fewest = 1,
                            NeedsSources = true,
                            Criteria = [new("Says where it came from", 1)],
                        },
                    ],
                },
            ],
            Rules = new()
            {
                Check = new(null, WrongLabels.GoBack, RightLabels.HeldFast),
                Score = new()
                {
                    WrongCost = 0.25m,
                    TryCost = 0.1m,
                    MaximumGrade = 10,
                    PassMark = 5,
                },
                Reveal = new() { Marks = Moment.Checked, Key = Moment.Never },
            },
        };

    public static StudentResponses Responses { get; } =
        new(
            "ada",
            ImmutableDictionary<string, Response>
                .Empty.Add(
                    "pane-1",
                    Keys.Of(Activity.Panes[0]) with
                    {
                        Texts = Keys.Of(Activity.Panes[0]).Texts.Add("o", "My own words."),
                        Opened = ["i"],
                        Earlier = [Response.Empty, new() { Placements = [new("b", 0, "z1")] }],
                    }
                )
                .Add(
                    "pane-2",
                    Response.Empty with
                    {
                        Own = ImmutableDictionary<string, OwnWork>.Empty.Add(
                            "own",
                            new(
                                new(Hash, 800, 600, "A mast."),
                                [
                                    new("s1", new(5, 6), 0)
                                    {
                                        Title = "Mast",
                                        Text = "It is tall.",
                                        Face = new SoundFace(Hash),
                                        Link = "https://www.w3.org/",
                                        Source = "My own eyes.",
                                    },
                                ]
                            )
                        ),
                    }
                ),
            ImmutableDictionary<string, ImmutableArray<Award>>.Empty.Add(
                "pane-1",
                [new("o", 0.5m, "ms-low", new(2026, 3, 2, 10, 0, 0, TimeSpan.Zero), "Half.")]
            )
        );
}
