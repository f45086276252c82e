using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Words;

namespace Fenster.Formats.Documents;

/// <summary>What marking a file of responses gave, as JSON: see docs/formats.</summary>
public static class MarkDocument
{
    private sealed record Result(
        string Id,
        decimal? Score,
        decimal? Possible,
        decimal? Grade,
        decimal? MaximumGrade,
        bool? Passed,
        bool IsSoFar,
        ImmutableArray<PaneResult> Panes
    );

    private sealed record PaneResult(
        string Pane,
        decimal? Score,
        decimal? Possible,
        int WrongActions,
        ImmutableArray<PlacementMark> Placements,
        ImmutableArray<PinMark> Pins,
        ImmutableArray<PointMark> Points,
        ImmutableArray<LinkMark> Links,
        ImmutableArray<TargetResult> Targets
    );

    private sealed record TargetResult(string Target, TargetState State, decimal Credit, decimal? Points, decimal? Possible, Award? Award);

    private static readonly JsonSerializerOptions Options = new(DocumentJson.Options) { WriteIndented = true };

    /// <summary>The marks, and a note for each response that repeats an action, which counts once.</summary>
    /// <exception cref="DocumentRefused">A response names something that the activity does not have.</exception>
    public static (string Json, ImmutableArray<string> Notes) Write(Activity activity, IEnumerable<StudentResponses> responses)
    {
        using var stream = new MemoryStream();
        var notes = ImmutableArray.CreateBuilder<string>();
        Write(activity, responses, stream, notes.Add);
        return (Encoding.UTF8.GetString(stream.GetBuffer(), 0, (int)stream.Length), notes.ToImmutable());
    }

    /// <summary>Writes the marks of one response after the other, so that there may be more of them than there is room for.</summary>
    /// <param name="tell">Is told a note for each response that repeats an action.</param>
    /// <inheritdoc cref="Write(Activity, IEnumerable{StudentResponses})"/>
    public static void Write(Activity activity, IEnumerable<StudentResponses> responses, Stream stream, Action<string> tell)
    {
        using var writer = new Utf8JsonWriter(stream, new() { Indented = true, Encoder = Options.Encoder });
        writer.WriteStartObject();
        writer.WriteNumber(DocumentReading.VersionField, DocumentReading.Version);
        writer.WriteStartArray("results");
        foreach (var student in responses)
        {
            JsonSerializer.Serialize(writer, Mark(activity, student, tell), Options);
            writer.Flush();
        }
        writer.WriteEndArray();
        writer.WriteEndObject();
    }

    /// <summary>Refuses what can't be marked, before anything is.</summary>
    /// <inheritdoc cref="Write(Activity, IEnumerable{StudentResponses})"/>
    public static void Refuse(Activity activity, IEnumerable<StudentResponses> responses)
    {
        foreach (var student in responses)
            _ = Sound(activity, student, _ => { }).Count();
    }

    /// <summary>The responses of one student pane by pane, each action once.</summary>
    private static IEnumerable<(Pane Pane, Response Response, ImmutableArray<Award> Awards)> Sound(
        Activity activity,
        StudentResponses student,
        Action<string> tell
    )
    {
        foreach (var id in student.Panes.Keys.Concat(student.Awards?.Keys ?? []))
            if (activity.Panes.All(pane => pane.Id != id))
                throw new DocumentRefused(id, $"The response '{student.Id}' is to a pane '{id}', which the activity does not have.");
        foreach (var pane in activity.Panes)
        {
            var (response, repeats) = ResponseSoundness.WithoutRepeats(student.Panes.GetValueOrDefault(pane.Id, Response.Empty));
            if (repeats > 0)
                tell(
                    $"The response '{student.Id}' to the pane '{pane.Id}' repeats {repeats} "
                        + $"{(repeats == 1 ? "action" : "actions")}; each counts once."
                );
            if (ResponseSoundness.Fault(pane, response) is { } fault)
                throw new DocumentRefused(pane.Id, $"The response '{student.Id}' to the pane '{pane.Id}' {fault.What}{Why(fault)}.");
            var awards = student.Awards?.GetValueOrDefault(pane.Id) ?? default;
            if (!awards.IsDefault && awards.Select(award => award.FaultOn(pane)).OfType<string>().FirstOrDefault() is { } inAward)
                throw new DocumentRefused(pane.Id, $"An award in the response '{student.Id}' {inAward}.");
            yield return (pane, response, awards);
        }
    }

    private static Result Mark(Activity activity, StudentResponses student, Action<string> tell)
    {
        var panes = Sound(activity, student, tell)
            .Select(own =>
            {
                var (pane, response, awards) = own;
                var rules = activity.RulesOf(pane).Score;
                var marks = Checker.Check(pane, response, rules, awards);
                return (
                    Pane: pane,
                    Marks: awards.IsDefault ? marks : Award.Apply(marks, awards),
                    Score: Scorer.Score(pane, response, marks, rules, awards)
                );
            })
            .ToList();
        var sum = Scorer.Sum([.. panes.Select(pane => pane.Score)], activity.Rules.Score);
        // What is there to learn from is checked, not scored.
        var isScored = activity.Purpose == Purpose.Marked;
        decimal? Scored(decimal number) => isScored ? number : null;
        return new(
            student.Id,
            Scored(sum.Score),
            Scored(sum.Possible),
            Scored(sum.Grade),
            Scored(sum.MaximumGrade),
            isScored ? sum.Passed : null,
            isScored && sum.IsSoFar,
            [
                .. panes.Select(p => new PaneResult(
                    p.Pane.Id,
                    Scored(p.Score.Score),
                    Scored(p.Score.Possible),
                    p.Marks.WrongActions,
                    p.Marks.Placements,
                    p.Marks.Pins,
                    p.Marks.Points,
                    p.Marks.Links,
                    [
                        .. p.Marks.Targets.Select(mark =>
                            p.Score.Targets.FirstOrDefault(points => points.Target == mark.Target) is { } scored
                                ? new TargetResult(
                                    mark.Target,
                                    mark.State,
                                    mark.Credit,
                                    Scored(scored.Points),
                                    Scored(scored.Possible),
                                    scored.Award
                                )
                                : new TargetResult(mark.Target, mark.State, mark.Credit, Scored(0), Scored(0), null)
                        ),
                    ]
                )),
            ]
        );
    }

    private static string Why(ResponseFault fault) => fault.Why is { } why ? $": {Language.English.Say(why).TrimEnd('.')}" : "";
}
