using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>One worked example of docs/scoring.md, read: a pane with its key and what a student did there.</summary>
internal sealed partial class WorkedExample
{
    private const StringSplitOptions NoBlanks = StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries;

    private readonly ILookup<string, string> fields;

    public WorkedExample(string text)
    {
        fields = text.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(line => line.Split(": ", 2))
            .ToLookup(line => line[0], line => line[1]);
        var copies = Field("copies") is "" ? 1 : int.Parse(Field("copies"), CultureInfo.InvariantCulture);
        Pane = new()
        {
            Id = "pane",
            Picture = new(new string('a', 64), 1000, 750),
            Labels =
            [
                .. Words("labels")
                    .Select(word => word.Split('='))
                    .Select(word => new Label
                    {
                        Id = word[0],
                        Text = $"Label {word[0]}",
                        Copies = copies,
                        Value = word.Length > 1 ? Number(word[1]) : null,
                    }),
            ],
            Targets =
            [
                .. fields
                    .Where(field => field.Key != "zones")
                    .SelectMany(field => field.Select(value => Target(field.Key, value)).OfType<Target>())
                    .Select((target, i) => target with { Id = $"{i + 1}" }),
                .. Words("zones").Select(Zone),
            ],
        };
        foreach (var (id, forWhom) in Words("taken out").Select(word => (word.Split('=')[0], word.Split('=')[1])))
            Pane = Pane with
            {
                Targets =
                [
                    .. Pane.Targets.Select(target =>
                        target.Id == id ? target with { TakenOut = Enum.Parse<TakenOut>(forWhom, ignoreCase: true) } : target
                    ),
                ],
            };
        Response = Build.Response(Field("placed")) with
        {
            Earlier =
            [
                .. Before("checked", Build.Response),
                .. Before("pinned before", state => new() { Pins = Pinned(state, []) }),
                .. Before("linked before", state => new() { Links = One(Linked(state)) }),
                .. Before("typed before", state => new() { Texts = One(state) }),
            ],
            Pins = Pinned(Field("pinned"), [.. Words("placed").Select(word => word[..1])]),
            Marks = Of<ImmutableArray<Point>>("marked", value => [.. value.Split(' ').Select(Spot)]),
            Texts = Of("typed", value => value),
            Picks = Of<ImmutableArray<string>>("picked", value => [.. value.Split(' ')]),
            Links = Of("linked", Linked),
            Codes = Of<ImmutableArray<string>>("tried", value => [.. value.Split(' ')]),
        };
        Assert.Null(ResponseSoundness.Fault(Pane, Response));
        Assert.Empty(Soundness.Faults(Build.Activity(Pane)));
    }

    public Pane Pane { get; }
    public Response Response { get; }

    public string Field(string name, string usual = "") => fields[name].FirstOrDefault(usual);

    private string[] Words(string name) => Field(name).Split(' ', NoBlanks);

    /// <summary>What was done to the first target that is no zone.</summary>
    private ImmutableDictionary<string, T> Of<T>(string name, Func<string, T> read) =>
        Field(name) is "" ? ImmutableDictionary<string, T>.Empty : ImmutableDictionary<string, T>.Empty.Add("1", read(Field(name)));

    /// <summary>What stood at each check.</summary>
    private IEnumerable<Response> Before(string name, Func<string, Response> read) =>
        Field(name).Split(" | ", StringSplitOptions.RemoveEmptyEntries).Select(read);

    /// <summary>Pins as label and spot; the same label again is its next copy, <c>none</c> is nothing.</summary>
    /// <param name="placed">Labels of which a copy lies in a zone.</param>
    private static ImmutableArray<Pin> Pinned(string text, IReadOnlyList<string> placed)
    {
        var pairs = text.Split(' ', NoBlanks).Where(word => word != "none").Chunk(2).ToList();
        return
        [
            .. pairs.Select(
                (pair, i) =>
                    new Pin(pair[0], placed.Count(pair[0].Equals) + pairs.Take(i).Count(before => before[0] == pair[0]), Spot(pair[1]))
            ),
        ];
    }

    private static ImmutableArray<Link> Linked(string text) =>
        [.. text.Split(' ').Select(link => link.Split('-')).Select(link => new Link(link[0], link[1]))];

    private static ImmutableDictionary<string, T> One<T>(T value) => ImmutableDictionary<string, T>.Empty.Add("1", value);

    private static decimal Number(string text) => decimal.Parse(text, CultureInfo.InvariantCulture);

    private static Point Spot(string text) =>
        text.Split(',') is [var x, var y] ? new((double)Number(x), (double)Number(y)) : throw new FormatException(text);

    private static Circle Circle(string text) =>
        CircleShape().Match(text) is { Success: true } match
            ? new(Spot(match.Groups[1].Value), (double)Number(match.Groups[2].Value))
            : throw new FormatException(text);

    private static Tolerance Tolerance(string text) =>
        ToleranceShape().Match(text) is { Success: true } match
            ? new((double)Number(match.Groups[1].Value))
            {
                Bands = match.Groups[2].Success ? [new((double)Number(match.Groups[2].Value), Number(match.Groups[3].Value))] : [],
            }
            : Core.Model.Tolerance.None;

    private static IEnumerable<Spelling> Accepted(string text) =>
        text.Split('(')[0]
            .Split('|', NoBlanks)
            .Select(spelling => spelling.Split('*'))
            .Select(spelling => new Spelling(spelling[0], spelling.Length > 1 ? Number(spelling[1]) : 1));

    private static Target? Target(string kind, string value) =>
        WorthShape().Match(value) is { Success: true } worth
            ? Kind(kind, value[..worth.Index]) is { } target
                ? target with
                {
                    Points = Number(worth.Groups[1].Value),
                }
                : null
            : Kind(kind, value);

    private static Target? Kind(string kind, string value)
    {
        var (what, where) = value.Split(" in ") is [var first, var second] ? (first, second) : (value, "");
        switch (kind)
        {
            case "hidden":
                return new HiddenZone
                {
                    Id = "",
                    Region = Circle(where),
                    Tolerance = Tolerance(where),
                    Accepts = [.. what.Split(' ').Select(label => new Accepted(label))],
                    Group = where.Split(" group ") is [_, var group] ? group : null,
                };
            case "hotspots":
                var (needed, spots) = value.Split(" of ") is [var n, var rest]
                    ? (int.Parse(n, CultureInfo.InvariantCulture), rest)
                    : throw new FormatException(value);
                return new Hotspots
                {
                    Id = "",
                    Needed = needed,
                    Spots = [.. spots.Split('|').Select(spot => new Spot(Circle(spot)))],
                };
            case "answer":
                return new AnswerBox
                {
                    Id = "",
                    Region = new Circle(new(9, 9), 9),
                    Answer = new TypedText([.. Accepted(value)])
                    {
                        Rules = new(IgnoreCapitals: !value.Contains("capitals matter"), ForgiveSlips: value.Contains("slips forgiven")),
                    },
                };
            case "number":
                var number = NumberShape().Match(value);
                return new AnswerBox
                {
                    Id = "",
                    Region = new Circle(new(9, 9), 9),
                    Answer = new TypedNumber(Number(number.Groups[1].Value))
                    {
                        Within = Number(number.Groups[3].Value),
                        Units = [new(number.Groups[2].Value, 1m), new(number.Groups[4].Value, Number(number.Groups[5].Value))],
                    },
                };
            case "choice":
                return new QuestionPoint
                {
                    Id = "",
                    At = new(9, 9),
                    Question = new ChoiceQuestion
                    {
                        Text = "?",
                        Multiple = true,
                        Options = [.. value.Split(' ').Select(option => new Option(option.TrimStart('*'), option, option[0] == '*'))],
                    },
                };
            case "pairs":
                var pairs = value.Split(' ').Select(pair => pair.Split('-')).ToList();
                return new Matching
                {
                    Id = "",
                    Left = [.. pairs.Select(pair => new MatchItem(pair[0], pair[0]))],
                    Right = [.. pairs.Where(pair => pair[1] != "").Select(pair => new MatchItem(pair[1], pair[1]))],
                    Pairs = [.. pairs.Where(pair => pair[1] != "").Select(pair => new Link(pair[0], pair[1]))],
                };
            case "sort":
                return new SortRegion
                {
                    Id = "",
                    Region = Circle(where),
                    Want = Want(what),
                };
            case "scale":
                var scale = ScaleShape().Match(value);
                double Part(int group) => (double)Number(scale.Groups[group].Value);
                return new ScalePoint
                {
                    Id = "",
                    Scale = new(
                        new(
                            new(Part(1), 300),
                            new(Part(3), 300),
                            Part(2),
                            Part(4),
                            scale.Groups[5].Success ? AxisKind.Logarithmic : AxisKind.Linear
                        )
                    ),
                    X = Part(6),
                    Within = new(Part(7)),
                    Label = value.Split(", shown by ") is [_, var label] ? label : null,
                };
            case "lock":
                return new Lock
                {
                    Id = "",
                    At = new(9, 9),
                    Code = new([.. Accepted(value)]),
                };
            case "note":
                return new OpenNote
                {
                    Id = "",
                    Region = new Circle(new(9, 9), 9),
                    Pins = value.EndsWith("with a spot") ? 1 : 0,
                };
            default:
                return null;
        }
    }

    private static Want Want(string text) =>
        text.Split(' ') switch
        {
            ["total", var total] => new WantTotal(Number(total), Number(total)),
            ["exactly", var number, "of", .. var labels] => new WantCount(
                [.. labels],
                CountIs.Exactly,
                int.Parse(number, CultureInfo.InvariantCulture)
            ),
            ["at", "least", var number, "of", .. var labels] => new WantCount(
                [.. labels],
                CountIs.AtLeast,
                int.Parse(number, CultureInfo.InvariantCulture)
            ),
            var labels => new WantSet([.. labels]),
        };

    private static DropZone Zone(string text)
    {
        var shape = ZoneShape().Match(text);
        Assert.True(shape.Success, $"'{text}' is no zone");
        int Count(string group) =>
            shape.Groups[group] is { Success: true, Value: var value } ? int.Parse(value, CultureInfo.InvariantCulture) : 1;
        return Build.Zone(
            Count("id"),
            shape.Groups["labels"].Value.Replace(',', ' ').Replace('*', '='),
            Count("points"),
            Count("room"),
            shape.Groups["group"] is { Success: true, Value: var group } ? group : null
        );
    }

    [GeneratedRegex(@"^(?<id>\d)(@(?<group>[a-z]))?(x(?<points>\d))?(/(?<room>\d))?=(?<labels>.*)$")]
    private static partial Regex ZoneShape();

    [GeneratedRegex(@" worth ([\d.]+)$")]
    private static partial Regex WorthShape();

    [GeneratedRegex(@"circle (\S+) r([\d.]+)")]
    private static partial Regex CircleShape();

    [GeneratedRegex(@"slack ([\d.]+)(?: band (\d+)\*([\d.]+))?")]
    private static partial Regex ToleranceShape();

    [GeneratedRegex(@"^([\d.]+) (\w+) within ([\d.]+), (\w+) is ([\d.]+)$")]
    private static partial Regex NumberShape();

    [GeneratedRegex(@"^(\d+) is ([\d.]+) and (\d+) is ([\d.]+)( logarithmic)?, asked ([\d.]+) within ([\d.]+)$")]
    private static partial Regex ScaleShape();
}
