using System.Numerics;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Proofing;

/// <summary>How much a finding matters.</summary>
public enum Weight
{
    Advice,
    Warning,
    Error,
}

/// <summary>One thing an examiner would say about a pane before students see it.</summary>
/// <param name="About">Id of the target or label that it concerns; null for the whole pane.</param>
/// <param name="Mend">What mends it with one click.</param>
public sealed record Finding(Weight Weight, Said Said, string? About = null, Mend Mend = Mend.None);

/// <summary>The examiner's reading of a pane: does its key earn full marks, what does guessing earn, can a finger hit it.</summary>
public static class Proof
{
    /// <summary>Common practice: an activity of which a quarter can be guessed tells little.</summary>
    public const double GuessingWarning = 0.25;

    /// <summary>What matching words to zones by their lengths may earn: some of it comes right in any picture.</summary>
    public const double LengthWarning = 0.5;

    /// <summary>The smallest target in CSS pixels by WCAG 2.2, success criterion 2.5.8.</summary>
    public const double SmallestFingertip = 24;

    /// <summary>The advised one, by success criterion 2.5.5.</summary>
    public const double AdvisedFingertip = 44;

    /// <summary>Of a phone that is held upright, in CSS pixels.</summary>
    public const int NarrowestScreen = 360;

    public const int NarrowestPicture = 640;

    /// <summary>Fills the largest screen that is proved for, pixel for pixel.</summary>
    public const int SharpPicture = 1280;

    /// <summary>All findings under the rules of scoring, the gravest first.</summary>
    /// <param name="pane">A sound pane.</param>
    public static IReadOnlyList<Finding> Read(Pane pane, ScoreRules rules) => Read(pane, rules, Guessing.Of(pane, rules));

    /// <summary>The same, where it is known what guessing earns.</summary>
    internal static IReadOnlyList<Finding> Read(Pane pane, ScoreRules rules, GuessScore guess)
    {
        var texts = pane.Labels.Select(Folded.Of).ToArray();
        return
        [
            .. KeyFindings(pane, rules)
                .Concat(GuessFindings(pane, guess))
                .Concat(LengthFindings(pane))
                .Concat(SensesFindings(pane))
                .Concat(FingertipFindings(pane))
                .Concat(AmbiguityFindings(pane, texts))
                .Concat(PictureFindings(pane, texts))
                .OrderByDescending(finding => finding.Weight),
        ];
    }

    /// <summary>A label's text as it is compared.</summary>
    /// <param name="Characters">A bit for each character in it, by its number's last six bits.</param>
    private readonly record struct Folded(Label Label, string Text, ulong Characters)
    {
        public static Folded Of(Label label)
        {
            var text = Spellings.Fold(label.Text, Usual.Spelling);
            var characters = 0UL;
            foreach (var character in text)
                characters |= 1UL << (character & 63);
            return new(label, text, characters);
        }

        /// <summary>
        /// Whether they can be the same or differ by one character: told at a glance, since a slip adds or takes away no more than two
        /// characters.
        /// </summary>
        public bool IsNear(in Folded other) => BitOperations.PopCount(Characters ^ other.Characters) <= 2;
    }

    private static IEnumerable<Finding> KeyFindings(Pane pane, ScoreRules rules)
    {
        var key = Keys.Of(pane);
        var marks = Checker.Check(pane, key, rules);
        foreach (var (target, mark) in pane.Targets.Zip(marks.Targets).Where(pair => pair.First.IsScored && !pair.First.IsOpenWork))
            if (mark.Credit < 1)
                yield return new(Weight.Error, new(mark.Credit == 0 ? "proof.notEarned" : "proof.notInFull"), target.Id);
        var empty = Checker.Check(pane, Response.Empty, rules);
        foreach (var mark in empty.Targets.Where(mark => mark.Credit > 0))
            yield return new(Weight.Warning, new("proof.byNothing"), mark.Target);
    }

    private static IEnumerable<Finding> GuessFindings(Pane pane, GuessScore guess)
    {
        if (guess.Share <= GuessingWarning)
            yield break;
        var share = Math.Round(100 * guess.Share);
        yield return new(
            Weight.Warning,
            guess.ShareError > 0
                ? new("proof.guessAbout", ("share", share), ("error", Math.Round(Math.Max(1, 100 * guess.ShareError))))
                : new("proof.guess", ("share", share)),
            Mend: pane.Targets.OfType<DropZone>().Any() ? Mend.AddDistractor : Mend.None
        );
    }

    private static IEnumerable<Finding> LengthFindings(Pane pane)
    {
        if (ByLength.ShareOf(pane) is var share and >= LengthWarning)
            yield return new(Weight.Warning, new("proof.byLength", ("share", Math.Round(100 * share))));
    }

    /// <summary>What some students can't do, since nothing is told in words.</summary>
    private static IEnumerable<Finding> SensesFindings(Pane pane) =>
        pane
            .Targets.OfType<Matching>()
            .Where(matching => matching.Left.Concat(matching.Right).Any(matching.KeepsBack))
            .Select(matching => new Finding(Weight.Advice, new("proof.descriptionsKept"), matching.Id))
            .Concat(
                pane.Labels.Where(label => label.KeepsBack)
                    .Select(label => new Finding(Weight.Advice, new("proof.descriptionKept"), label.Id))
            );

    private static readonly (Said Screen, int Width)[] Screens =
    [
        (new("proof.phone"), NarrowestScreen),
        (new("proof.tablet"), 768),
        (new("proof.laptop"), 1280),
    ];

    private static IEnumerable<Finding> FingertipFindings(Pane pane)
    {
        var apartness = Apartness([.. pane.Targets.OfType<DropZone>()]);
        foreach (var (target, region) in Touched(pane))
        {
            var side = Math.Min(region.Bounds.Width, region.Bounds.Height);
            if (apartness.TryGetValue(target, out var apart))
            {
                // A finger means the zone that is nearest within reach, so that only crowding makes it miss.
                if (
                    Screens.LastOrDefault(screen => apart * screen.Width / 1000 < SmallestFingertip) is
                    { Screen: { } narrow, Width: var across }
                )
                    yield return new(
                        Weight.Warning,
                        new("proof.near", ("screen", narrow), ("pixels", Math.Round(apart * across / 1000)), ("least", SmallestFingertip)),
                        target
                    );
                continue;
            }
            if (Screens.LastOrDefault(screen => side * screen.Width / 1000 < SmallestFingertip) is { Screen: { } small, Width: var width })
                yield return new(
                    Weight.Warning,
                    new("proof.small", ("screen", small), ("pixels", Math.Round(side * width / 1000)), ("least", SmallestFingertip)),
                    target,
                    Mend.Enlarge
                );
            else if (Screens.LastOrDefault(screen => side * screen.Width / 1000 < AdvisedFingertip) is { Screen: { } advised })
                yield return new(
                    Weight.Advice,
                    new("proof.smallish", ("screen", advised), ("least", AdvisedFingertip)),
                    target,
                    Mend.Enlarge
                );
        }
    }

    /// <summary>How far the middle of each zone lies from the nearest other one's, in pu; infinity for a zone that is alone.</summary>
    private static Dictionary<string, double> Apartness(ReadOnlySpan<DropZone> zones)
    {
        var middles = new Point[zones.Length];
        // Squares of distances until the end: roots are dear, and not all are wanted.
        var nearest = new double[zones.Length];
        Array.Fill(nearest, double.PositiveInfinity);
        for (var i = 0; i < zones.Length; i++)
        {
            middles[i] = zones[i].Region.Bounds.Centre;
            for (var j = 0; j < i; j++)
            {
                var (dx, dy) = (middles[i].X - middles[j].X, middles[i].Y - middles[j].Y);
                var square = dx * dx + dy * dy;
                if (square < nearest[i])
                    nearest[i] = square;
                if (square < nearest[j])
                    nearest[j] = square;
            }
        }
        var apartness = new Dictionary<string, double>(zones.Length);
        for (var i = 0; i < zones.Length; i++)
            apartness[zones[i].Id] = Math.Sqrt(nearest[i]);
        return apartness;
    }

    private static IEnumerable<(string Target, Region Region)> Touched(Pane pane) =>
        pane.Targets.SelectMany(target => target.Match(Touching.Regions).Select(region => (target.Id, region)));

    /// <summary>The regions of a target that a finger must hit. Spots are drawn large enough by themselves.</summary>
    private sealed class Touching : ITargetCases<IEnumerable<Region>>
    {
        public static readonly Touching Regions = new();

        public IEnumerable<Region> Of(DropZone zone) => [zone.Region];

        public IEnumerable<Region> Of(HiddenZone zone) => [zone.Region];

        public IEnumerable<Region> Of(Hotspots hotspots) => hotspots.Spots.Select(spot => spot.Region);

        public IEnumerable<Region> Of(AnswerBox box) => [box.Region];

        public IEnumerable<Region> Of(QuestionPoint point) => [];

        public IEnumerable<Region> Of(Lock @lock) => [];

        public IEnumerable<Region> Of(OpenNote note) => [note.Region];

        public IEnumerable<Region> Of(OwnPicture own) => [];

        public IEnumerable<Region> Of(ScalePoint point) => [];

        public IEnumerable<Region> Of(Matching matching) => [];

        public IEnumerable<Region> Of(SortRegion region) => [region.Region];

        public IEnumerable<Region> Of(InfoSpot spot) => [];
    }

    /// <summary>
    /// What is measured of zones that lie over each other, at most, in corners: far more than a picture has that can be read, and few
    /// enough that a heap of zones is proved in a moment.
    /// </summary>
    private const int MostCorners = 40_000;

    private static IEnumerable<Finding> OverlapFindings(Zone[] zones)
    {
        var bounds = zones.Select(zone => zone.Region.Bounds).ToArray();
        var alike = Alike(zones);
        var left = MostCorners;
        for (var i = 0; i < zones.Length; i++)
        {
            for (var j = i + 1; j < zones.Length; j++)
            {
                if (!bounds[i].Meets(bounds[j]) || alike[i] == alike[j] || (zones[i].Group is { } group && group == zones[j].Group))
                    continue;
                if ((left -= zones[i].Region.Corners + zones[j].Region.Corners) < 0)
                {
                    yield return new(Weight.Warning, new("proof.manyOverlaps"));
                    yield break;
                }
                if (OverlapShare(zones[i].Region, zones[j].Region) is var share and > 0.01)
                    yield return new(Weight.Warning, new("proof.overlap", ("share", Math.Round(100 * share))), zones[i].Id);
            }
        }
    }

    /// <summary>A number for each zone, the same for those that take the same labels.</summary>
    private static int[] Alike(Zone[] zones)
    {
        var numbers = new Dictionary<string, int>(zones.Length);
        return
        [
            .. zones.Select(zone =>
            {
                var taken = zone.Accepts is [var only]
                    ? only.Label
                    : string.Join('\n', zone.Accepts.Select(accepted => accepted.Label).Distinct().Order(StringComparer.Ordinal));
                return numbers.TryGetValue(taken, out var number) ? number : numbers[taken] = numbers.Count;
            }),
        ];
    }

    private static IEnumerable<Finding> AmbiguityFindings(Pane pane, Folded[] texts)
    {
        foreach (var finding in OverlapFindings([.. pane.Targets.OfType<Zone>()]))
            yield return finding;

        if (!pane.Targets.Any(target => target is Zone or SortRegion or ScalePoint { Label: not null }))
            foreach (var label in pane.Labels)
                yield return new(Weight.Warning, new("proof.noPlace"), label.Id, Mend.Delete);

        foreach (var label in pane.Labels)
            if (label.Start is { } start && pane.Targets.Any(target => target.NamedLabels.Contains(label.Id) && Holds(target, start)))
                yield return new(Weight.Warning, new("proof.startsRight"), label.Id, Mend.IntoBank);

        var seen = new HashSet<string>(texts.Length);
        for (var i = 0; i < texts.Length; i++)
        {
            var (label, text, _) = texts[i];
            if (text == "")
                continue;
            if (!seen.Add(text))
                yield return new(Weight.Error, new("proof.readsTheSame"), label.Id, Mend.MakeOne);
            else if (IsAlmostOneBefore(texts, i))
                yield return new(Weight.Advice, new("proof.readsAlmost"), label.Id);
        }
    }

    /// <summary>Whether a label reads almost as one before it; such mostly stand close to each other.</summary>
    private static bool IsAlmostOneBefore(ReadOnlySpan<Folded> texts, int i)
    {
        ref readonly var text = ref texts[i];
        for (var j = i - 1; j >= 0; j--)
            if (text.IsNear(texts[j]) && texts[j].Text.Length > 3 && Spellings.IsOneSlip(texts[j].Text, text.Text))
                return true;
        return false;
    }

    /// <summary>Whether a label that belongs to the target is right at this point.</summary>
    private static bool Holds(Target target, Point point) =>
        target switch
        {
            HiddenZone zone => zone.Region.Contains(point, zone.Tolerance.Slack),
            Zone zone => zone.Region.Contains(point),
            SortRegion region => region.Region.Contains(point),
            ScalePoint scale => ScaleCheck.Credit(scale, point) == 1,
            _ => false,
        };

    /// <summary>The share of the smaller region that lies in the other.</summary>
    private static double OverlapShare(Region a, Region b) => a.OverlapWith(b, lines: 48) / Math.Min(a.Area, b.Area);

    private static IEnumerable<Finding> PictureFindings(Pane pane, Folded[] texts)
    {
        if (pane.Picture is not { } picture)
        {
            if (pane.Targets.Length > 0 && pane.Targets.All(target => !target.NeedsPicture))
                yield break;
            yield return new(Weight.Error, new("proof.noPicture"));
            yield break;
        }
        if (picture.OwnWidth < NarrowestPicture)
            yield return new(Weight.Warning, new("proof.blurred", ("width", picture.OwnWidth), ("least", NarrowestPicture)));
        else if (picture.OwnWidth < SharpPicture)
            yield return new(Weight.Advice, new("proof.soft", ("width", picture.OwnWidth), ("least", SharpPicture)));
        if (string.IsNullOrWhiteSpace(picture.AltText))
        {
            yield return new(Weight.Warning, new("proof.noAltText"), Mend: Mend.WriteAltText);
            yield break;
        }
        var alt = Spellings.Fold(picture.AltText, new());
        foreach (var (label, text, _) in texts)
            if (text.Length > 2 && $" {alt} ".Contains($" {text} ", StringComparison.Ordinal))
                yield return new(Weight.Warning, new("proof.altTells", ("label", label.Text)), label.Id, Mend.WriteAltText);
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
