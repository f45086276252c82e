using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Proofing;

/// <summary>How much a finding matters.</summary>
public enum Weight { Advice, Warning, Error }

/// <summary>One thing an examiner would say about a pane before students see it.</summary>
/// <param name="About">Id of the target or label that it concerns; null for the whole pane.</param>
public sealed record Finding(Weight Weight, string Sentence, string? About = null);

/// <summary>What acting blindly earns on average.</summary>
/// <param name="Points">Of the pane's possible points.</param>
/// <param name="Share">Of all points, from 0 to 1.</param>
public sealed record GuessScore(double Points, double Share);

/// <summary>The examiner's reading of a pane: does its key earn full marks, what does guessing earn, can a finger hit it.</summary>
public static class Proof
{
    /// <summary>Common practice: an activity of which a quarter can be guessed tells little.</summary>
    public const double GuessingWarning = 0.25;

    /// <summary>The smallest target in CSS pixels by WCAG 2.2, success criterion 2.5.8.</summary>
    public const double SmallestFingertip = 24;

    /// <summary>The advised one, by success criterion 2.5.5.</summary>
    public const double AdvisedFingertip = 44;

    public const int NarrowestPicture = 640;

    /// <summary>All findings, the gravest first.</summary>
    public static IReadOnlyList<Finding> Read(Pane pane) =>
        [.. KeyFindings(pane).Concat(GuessFindings(pane)).Concat(FingertipFindings(pane)).Concat(AmbiguityFindings(pane)).Concat(PictureFindings(pane))
            .OrderByDescending(finding => finding.Weight)];

    private static IEnumerable<Finding> KeyFindings(Pane pane)
    {
        var key = Keys.Of(pane);
        var marks = Checker.Check(pane, key);
        foreach (var (target, mark) in pane.Targets.Zip(marks.Targets).Where(pair => pair.First.IsScored && pair.First is not OpenNote))
            if (mark.Credit < 1)
                yield return new(Weight.Error, mark.Credit == 0 ? "It can't be earned: nothing that a student can do counts here." : "It can't be earned in full.", target.Id);
        var empty = Checker.Check(pane, Response.Empty);
        foreach (var mark in empty.Targets.Where(mark => mark.Credit > 0))
            yield return new(Weight.Warning, "It is earned by doing nothing.", mark.Target);
    }

    private static IEnumerable<Finding> GuessFindings(Pane pane)
    {
        var guess = Guess(pane);
        if (guess.Share > GuessingWarning)
            yield return new(Weight.Warning, $"Blind guessing earns {100 * guess.Share:0} % of the points on average. Distractors make it harder.");
    }

    /// <summary>
    /// What a student earns on average who deals the labels out at random, marks and pins at random, and picks options at
    /// random. Typed answers, codes, links and sorting count as not to be guessed.
    /// </summary>
    /// <remarks>
    /// Linear, so exact, where each zone is right with probability (accepted copies) ÷ (copies in the bank), or an area
    /// over the picture's area. Labels without limit count as one copy for each zone.
    /// </remarks>
    public static GuessScore Guess(Pane pane)
    {
        var zones = pane.Targets.OfType<DropZone>().ToList();
        var copies = pane.Labels.ToDictionary(label => label.Id, label => label.Copies ?? Math.Max(1, zones.Count));
        var inBank = copies.Values.Sum();
        var capacity = zones.Sum(zone => zone.Capacity);
        var area = pane.Picture is { } picture ? 1000 * picture.HeightInUnits : 1_000_000;
        var points = pane.Targets.Where(target => target.IsScored).Sum(target => (double)target.Points * target switch
        {
            // With fewer labels than places, a place is only sometimes filled.
            DropZone zone when inBank > 0 => Math.Min(1, zone.Accepts.Sum(a => (double)a.Credit * copies[a.Label]) / inBank) * Math.Min(1, (double)inBank / capacity),
            HiddenZone zone => zone.Accepts.IsEmpty ? 0 : Math.Min(1, AreaWithSlack(zone.Region, zone.Tolerance.Slack) / area),
            Hotspots hotspots => Math.Min(1, hotspots.Spots.Sum(spot => AreaWithSlack(spot.Region, spot.Tolerance.Slack)) / area),
            QuestionPoint { Question: ChoiceQuestion { Multiple: false } choice } => 1.0 / choice.Options.Length,
            _ => 0,
        });
        var possible = (double)pane.PossiblePoints;
        return new(points, possible == 0 ? 0 : points / possible);
    }

    /// <summary>Area of a region grown by a slack: Steiner's formula, exact for convex regions.</summary>
    private static double AreaWithSlack(Region region, double slack) => region.Area + slack * PerimeterOf(region) + Math.PI * slack * slack;

    private static double PerimeterOf(Region region) => region switch
    {
        Circle circle => 2 * Math.PI * circle.Radius,
        Rectangle rectangle => 2 * (rectangle.Width + rectangle.Height),
        // Ramanujan's second approximation (1914).
        Ellipse { RadiusX: var a, RadiusY: var b } => ((a - b) * (a - b) / ((a + b) * (a + b))) is var h ? Math.PI * (a + b) * (1 + 3 * h / (10 + Math.Sqrt(4 - 3 * h))) : 0,
        Polygon polygon => polygon.Vertices.Select((vertex, i) => vertex.DistanceTo(polygon.Vertices[(i + 1) % polygon.Vertices.Length])).Sum(),
        _ => throw new ArgumentOutOfRangeException(nameof(region), region, "This kind of region is not known."),
    };

    private static readonly (string Screen, int Width)[] Screens = [("a phone", 360), ("a tablet", 768), ("a laptop", 1280)];

    private static IEnumerable<Finding> FingertipFindings(Pane pane)
    {
        foreach (var (target, region) in Touched(pane))
        {
            var side = Math.Min(region.Bounds.Width, region.Bounds.Height);
            if (Screens.LastOrDefault(screen => side * screen.Width / 1000 < SmallestFingertip) is { Screen: { } small, Width: var width })
                yield return new(Weight.Warning, $"On {small} it is {side * width / 1000:0} pixels small; a finger needs {SmallestFingertip:0}.", target);
            else if (Screens.LastOrDefault(screen => side * screen.Width / 1000 < AdvisedFingertip) is { Screen: { } advised })
                yield return new(Weight.Advice, $"On {advised} it is smaller than the {AdvisedFingertip:0} pixels that fingers like.", target);
        }
    }

    private static IEnumerable<(string Target, Region Region)> Touched(Pane pane) => pane.Targets.SelectMany(target => target switch
    {
        Zone zone => [(target.Id, zone.Region)],
        Hotspots hotspots => hotspots.Spots.Select(spot => (target.Id, spot.Region)),
        AnswerBox box => [(target.Id, box.Region)],
        _ => Enumerable.Empty<(string, Region)>(),
    });

    private static IEnumerable<Finding> AmbiguityFindings(Pane pane)
    {
        var zones = pane.Targets.OfType<Zone>().ToList();
        for (var i = 0; i < zones.Count; i++)
            for (var j = i + 1; j < zones.Count; j++)
                if (zones[i].Region.Bounds.Meets(zones[j].Region.Bounds) && Different(zones[i], zones[j]) && OverlapShare(zones[i].Region, zones[j].Region) is var share and > 0.01)
                    yield return new(Weight.Warning, $"{100 * share:0} % of it lies in another zone that takes other labels.", zones[i].Id);

        var texts = pane.Labels.Select(label => (label.Id, Text: Spellings.Fold(label.Text, new()))).Where(label => label.Text.Length > 0).ToList();
        for (var i = 0; i < texts.Count; i++)
            for (var j = i + 1; j < texts.Count; j++)
                if (texts[i].Text == texts[j].Text)
                    yield return new(Weight.Error, "Another label reads the same. Students can't tell the two apart.", texts[j].Id);
                else if (texts[i].Text.Length > 3 && Spellings.IsOneSlip(texts[i].Text, texts[j].Text))
                    yield return new(Weight.Advice, "Another label differs from it by one character only.", texts[j].Id);
    }

    private static bool Different(Zone a, Zone b) =>
        !(a.Group is not null && a.Group == b.Group) && !a.Accepts.Select(x => x.Label).ToHashSet().SetEquals(b.Accepts.Select(x => x.Label));

    /// <summary>The share of the smaller region that lies in the other, from a grid of points over the smaller one.</summary>
    private static double OverlapShare(Region a, Region b)
    {
        const int Steps = 24;
        var (small, other) = a.Area <= b.Area ? (a, b) : (b, a);
        var (inside, shared) = (0, 0);
        for (var i = 0; i < Steps; i++)
            for (var j = 0; j < Steps; j++)
            {
                var point = new Point(small.Bounds.Left + (i + 0.5) / Steps * small.Bounds.Width, small.Bounds.Top + (j + 0.5) / Steps * small.Bounds.Height);
                if (!small.Contains(point)) continue;
                inside++;
                if (other.Contains(point)) shared++;
            }
        return inside == 0 ? 0 : (double)shared / inside;
    }

    private static IEnumerable<Finding> PictureFindings(Pane pane)
    {
        if (pane.Picture is not { } picture)
        {
            yield return new(Weight.Error, "There is no picture yet.");
            yield break;
        }
        if (picture.Width < NarrowestPicture)
            yield return new(Weight.Warning, $"The picture is only {picture.Width} pixels wide. On a full screen it will look blurred; {NarrowestPicture} or more are better.");
        if (string.IsNullOrWhiteSpace(picture.AltText))
        {
            yield return new(Weight.Warning, "The picture has no alt text. Students who can't see it won't know what it shows.");
            yield break;
        }
        var alt = Spellings.Fold(picture.AltText, new());
        foreach (var label in pane.Labels)
            if (Spellings.Fold(label.Text, new()) is { Length: > 2 } text && $" {alt} ".Contains($" {text} "))
                yield return new(Weight.Warning, $"The alt text names “{label.Text}” and so gives an answer away.", label.Id);
    }

    /// <summary>
    /// The contrast of two colours by WCAG 2.2's definition, from 1 to 21, the same in either order. Text needs 4.5.
    /// </summary>
    /// <param name="first">Red, green and blue from 0 to 255.</param>
    public static double Contrast((byte R, byte G, byte B) first, (byte R, byte G, byte B) second)
    {
        var (a, b) = (Luminance(first), Luminance(second));
        return (Math.Max(a, b) + 0.05) / (Math.Min(a, b) + 0.05);
    }

    private static double Luminance((byte R, byte G, byte B) colour)
    {
        static double Linear(byte value) => value / 255.0 is var c && c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
        return 0.2126 * Linear(colour.R) + 0.7152 * Linear(colour.G) + 0.0722 * Linear(colour.B);
    }
}
