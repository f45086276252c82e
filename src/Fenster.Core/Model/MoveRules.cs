using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Model;

/// <summary>Whether a move fits its pane as the work stands, and what it brings with it whatever the rules are.</summary>
public static class MoveRules
{
    /// <summary>Why the pane does not take the move; null when it does.</summary>
    public static Refusal? Fit(Pane pane, Response response, Move move) =>
        move switch
        {
            PutDown put => OfCopy(pane, response, put.Label, put.Copy) ?? OfPlace<DropZone>(pane, response, put.Zone),
            PinDown pin => OfCopy(pane, response, pin.Label, pin.Copy)
                ?? OfPoint(pin.At)
                ?? (
                    response.Pins.Length >= Limits.MostPins && !response.Pins.Any(p => p.Label == pin.Label && p.Copy == pin.Copy)
                        ? new(Refused.TooManyPins, Limits.MostPins)
                        : null
                ),
            TakeBack => null,
            // Nobody makes it: it is what is left of a move.
            Typing => new(Refused.Unreadable),
            MarkPoints mark => OfMarks(pane, response, mark),
            TypeText typed => OfText(pane, response, typed),
            PickOptions pick => OfPlace<QuestionPoint>(pane, response, pick.Target)
                ?? OfPicks(Find<QuestionPoint>(pane, pick.Target).Question, pick.Options),
            DrawLinks draw => OfPlace<Matching>(pane, response, draw.Target) ?? OfLinks(Find<Matching>(pane, draw.Target), draw.Links),
            TryCode attempt => OfPlace<Lock>(pane, response, attempt.Target) ?? OfCode(response, attempt),
            OpenSpot open => OfPlace<Target>(pane, response, open.Target, Doing.Opening),
            LookAt look => OfPoint(look.At),
            BringPicture bring => OfPlace<OwnPicture>(pane, response, bring.Target)
                ?? OfImage(Find<OwnPicture>(pane, bring.Target), bring.Picture),
            PutSpot put => OfPlace<OwnPicture>(pane, response, put.Target)
                ?? OfSpot(pane, Find<OwnPicture>(pane, put.Target), response, put.Spot),
            TakeSpot take => OfPlace<OwnPicture>(pane, response, take.Target),
            PressCheck => response.Earlier.Length >= Limits.MostChecks ? new(Refused.TooManyChecks) : null,
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };

    /// <summary>A move that fits, as it is kept: what it names twice counts once.</summary>
    public static Move Tidy(Move move) =>
        move switch
        {
            DrawLinks draw => draw with { Links = [.. draw.Links.Distinct()] },
            MarkPoints mark => mark with { Points = [.. mark.Points.Distinct()] },
            _ => move,
        };

    /// <summary>
    /// What follows from a move that fits: a label put into a full zone sends the one that has lain there longest back to the
    /// bank, and a look finds what is concealed at its place.
    /// </summary>
    /// <param name="before">The response without the move.</param>
    public static IEnumerable<Move> Following(Pane pane, Response before, Move move)
    {
        switch (move)
        {
            case PutDown put when Find<DropZone>(pane, put.Zone) is var zone:
                var there = before
                    .Placements.Where(placement => placement.Zone == zone.Id && (placement.Label, placement.Copy) != (put.Label, put.Copy))
                    .ToList();
                return there.Take(there.Count - zone.Capacity + 1).Select(placement => new TakeBack(placement.Label, placement.Copy));
            case LookAt look:
                return pane
                    .Targets.Where(spot =>
                        spot.FoundAt is var (at, reach)
                        && !before.Opened.Contains(spot.Id)
                        && !Hiding.IsBehindLock(pane, before, spot.Id)
                        && at.DistanceTo(look.At) <= reach + Rounding.At(look.At)
                    )
                    .Select(spot => new OpenSpot(spot.Id));
            default:
                return [];
        }
    }

    private static Refusal? OfCopy(Pane pane, Response response, string id, int copy)
    {
        if (pane.Labels.FirstOrDefault(label => label.Id == id) is not { } label)
            return new(Refused.NoSuchLabel);
        if (copy < 0 || copy >= (label.Copies ?? Limits.MostCopies))
            return new(Refused.NoSuchCopy);
        if (label.Copies is not null)
            return null;
        var used =
            response.Placements.Count(p => p.Label == id && p.Copy != copy) + response.Pins.Count(p => p.Label == id && p.Copy != copy);
        return used >= Limits.MostOfOneLabel ? new(Refused.TooManyCopies, Limits.MostOfOneLabel) : null;
    }

    /// <summary>Whether there is a target of a kind, which the student knows of.</summary>
    /// <param name="takes">What students do there; null for anything.</param>
    private static Refusal? OfPlace<T>(Pane pane, Response response, string id, Doing? takes = null)
        where T : Target =>
        pane.Targets.OfType<T>().FirstOrDefault(target => target.Id == id && (takes ?? target.Takes) == target.Takes) is { } target
        && !Hiding.IsHidden(pane, response, target)
            ? null
            : new(Refused.NoSuchPlace);

    private static T Find<T>(Pane pane, string id)
        where T : Target => pane.Targets.OfType<T>().First(target => target.Id == id);

    private static Refusal? OfPoint(Point point) =>
        !point.IsFinite || Math.Abs(point.X) > 1_000_000 || Math.Abs(point.Y) > 1_000_000 ? new(Refused.OffThePicture) : null;

    private static Refusal? OfMarks(Pane pane, Response response, MarkPoints mark)
    {
        if (OfPlace<Target>(pane, response, mark.Target) is { } missing)
            return missing;
        var target = Find<Target>(pane, mark.Target);
        var most = target is OpenNote note ? note.Pins : Limits.MostMarks;
        if (target is not OpenNote { Pins: > 0 } && target.Takes != Doing.Marking)
            return new(Refused.NothingToMark);
        if (mark.Points.IsDefault || mark.Points.Length > most)
            return new(Refused.TooManyMarks, most);
        if (target is ScalePoint && mark.Points.Distinct().Count() > 1)
            return new(Refused.OneMarkOnly);
        return mark.Points.Select(OfPoint).FirstOrDefault(refusal => refusal is not null);
    }

    private static Refusal? OfText(Pane pane, Response response, TypeText typed)
    {
        if (OfPlace<Target>(pane, response, typed.Target) is { } missing)
            return missing;
        if (Find<Target>(pane, typed.Target).Takes != Doing.Typing)
            return new(Refused.NothingToType);
        if (typed.Text.Length > Limits.LongestText)
            return new(Refused.TextTooLong, Limits.LongestText);
        var others = response.Texts.Where(text => text.Key != typed.Target).Sum(text => text.Value.Length);
        return typed.Text.Length > 0 && others + typed.Text.Length > Limits.LongestTexts
            ? new(Refused.TextsTooLong, Limits.LongestTexts)
            : null;
    }

    private static Refusal? OfPicks(Question question, ImmutableArray<string> options)
    {
        if (question is not ChoiceQuestion choice)
            return new(Refused.NothingToChoose);
        var known = choice.Options.Select(option => option.Id).ToHashSet();
        if (options.IsDefault || !options.All(known.Contains))
            return new(Refused.NoSuchOption);
        return options.Distinct().Count() < options.Length || (!choice.Multiple && options.Length > 1) ? new(Refused.TooManyChoices) : null;
    }

    private static Refusal? OfLinks(Matching matching, ImmutableArray<Link> links)
    {
        var (left, right) = (matching.Left.Select(item => item.Id).ToHashSet(), matching.Right.Select(item => item.Id).ToHashSet());
        return links.IsDefault || links.Any(link => link is null || !left.Contains(link.Left) || !right.Contains(link.Right))
            ? new(Refused.NoSuchLink)
            : null;
    }

    private static Refusal? OfImage(OwnPicture target, OwnImage? picture) =>
        target.Whose != PictureFrom.Student ? new(Refused.NothingToMake)
        : picture is null ? null
        : picture.Media is null || !Face.IsHash(picture.Media) || picture.Width <= 0 || picture.Height <= 0 ? new(Refused.NotYourPicture)
        : picture.AltText is null || picture.AltText.Length > Limits.LongestSpotText ? new(Refused.TextTooLong, Limits.LongestSpotText)
        : null;

    private const int LongestSpotId = 40;

    private static Refusal? OfSpot(Pane pane, OwnPicture target, Response response, OwnSpot spot)
    {
        if (
            spot?.Id is not { Length: > 0 and <= LongestSpotId }
            || spot.Title is null
            || spot.Text is null
            || spot.Link is null
            || spot.Source is null
        )
            return new(Refused.NoSuchSpot);
        var own = response.Own.GetValueOrDefault(target.Id, OwnWork.Empty);
        if (own.Spots.Length >= Limits.MostOwnSpots && own.Spots.All(other => other.Id != spot.Id))
            return new(Refused.TooManySpots, Limits.MostOwnSpots);
        if (spot.Question is { } question && (question < 0 || question >= target.Questions.Length))
            return new(Refused.NoSuchSpot);
        if (OfPoint(spot.At) is { } off)
            return off;
        if (
            target.Whose == PictureFrom.Teacher
                ? pane.Picture?.Plane.Holds(spot.At) == false
                : own.Picture is { } picture && picture.Nearest(spot.At) != spot.At
        )
            return new(Refused.OffThePicture);
        if (spot.Title.Length > Limits.LongestSpotTitle)
            return new(Refused.TextTooLong, Limits.LongestSpotTitle);
        if (spot.Text.Length > Limits.LongestSpotText)
            return new(Refused.TextTooLong, Limits.LongestSpotText);
        if (spot.Source.Length > Limits.LongestSource)
            return new(Refused.SourceTooLong, Limits.LongestSource);
        if (spot.Link != "" && !WebAddress.IsPublic(spot.Link))
            return new(Refused.LinkNotPublic);
        return spot.Face is VideoFace || spot.Face?.Fault is not null ? new(Refused.NotYourPicture) : null;
    }

    private static Refusal? OfCode(Response response, TryCode attempt) =>
        attempt.Code.Length > TypedText.LongestText ? new(Refused.TextTooLong, TypedText.LongestText)
        : response.Codes.GetValueOrDefault(attempt.Target, []).Length >= Limits.MostCodes ? new(Refused.TooManyCodes)
        : null;
}
