using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Scoring;
using Fenster.Formats.Pictures;
using Fenster.Words;
using Finding = Fenster.Core.Insight.Finding;

namespace Fenster.Formats.Documents;

/// <summary>Figures and findings of a file of responses, as JSON: see docs/formats and docs/insight.md.</summary>
public static class InsightDocument
{
    private sealed record Document(
        int Fenster,
        int Works,
        bool IsFewerThanTen,
        double? Mean,
        double Possible,
        double? Median,
        double? StandardDeviation,
        double? LowerQuartile,
        double? UpperQuartile,
        double? Alpha,
        double? ErrorOfMeasurement,
        ImmutableArray<FindingResult> Findings,
        ImmutableArray<PaneResult> Panes
    );

    private sealed record FindingResult(string Finding, string? Pane, string? Target, string Says);

    private sealed record PaneResult(
        string Pane,
        ImmutableArray<TargetResult> Targets,
        ImmutableArray<Flow> Flows,
        ImmutableArray<HexagonBin> Hexagons
    );

    private sealed record TargetResult(
        string Target,
        double? Facility,
        double? Discrimination,
        object Answers,
        int Missed,
        double? MedianTries,
        int Wrong,
        ImmutableArray<int> NearMisses
    );

    private static readonly JsonSerializerOptions Options = new(DocumentJson.Options) { WriteIndented = true };

    /// <exception cref="DocumentRefused">A response is to a pane that the activity does not have, or names something that it has not.</exception>
    public static ActivityInsight Read(Activity activity, IReadOnlyList<StudentResponses> responses)
    {
        // Whatever marking refuses is refused here too.
        MarkDocument.Refuse(activity, responses);
        return ActivityInsight.Of(activity, [.. responses.Select(WorkOf)]);
    }

    private static Work WorkOf(StudentResponses student) =>
        new(student.Panes.ToImmutableDictionary(pane => pane.Key, pane => ResponseSoundness.WithoutRepeats(pane.Value).Response))
        {
            Marking = student.Awards is null ? Marking.None : new(student.Awards, []),
        };

    /// <summary>A file for each pane, by its name.</summary>
    public static IEnumerable<(string Name, string Svg)> Drawings(Activity activity, ActivityInsight insight) =>
        activity.Panes.Select(
            (pane, i) => ($"pane-{i + 1}.svg", InsightDrawing.Of(pane, insight.Panes[i], picture: null, Language.English))
        );

    public static string Write(Activity activity, IReadOnlyList<StudentResponses> responses, ActivityInsight insight)
    {
        var panes = activity.Panes.Select(pane => (pane, guess: Guessing.Of(pane, activity.RulesOf(pane).Score))).ToList();
        var guess =
            insight.Possible == 0 ? (double?)null : panes.Sum(pane => pane.guess.Points * (double)pane.pane.Weight) / insight.Possible;
        var works = responses.Select(student => WorkOf(student).Responses).ToList();
        return JsonSerializer.Serialize(
            new Document(
                DocumentReading.Version,
                insight.Works,
                insight.IsFewerThanTen,
                Figure(insight.Mean),
                insight.Possible,
                Figure(insight.Median),
                Figure(insight.StandardDeviation),
                Figure(insight.LowerQuartile),
                Figure(insight.UpperQuartile),
                Figure(insight.Alpha),
                Figure(insight.ErrorOfMeasurement),
                [
                    .. Finding
                        .In(activity, insight, works, guess)
                        .Select(finding => new FindingResult(
                            JsonNamingPolicy.CamelCase.ConvertName(finding.GetType().Name),
                            finding.Pane?.Id,
                            finding.Target?.Id,
                            InsightWords.Of(Language.English, finding)
                        )),
                ],
                [
                    .. insight.Panes.Select(pane => new PaneResult(
                        pane.Pane,
                        [
                            .. pane.Targets.Select(target => new TargetResult(
                                target.Target,
                                Figure(target.Facility),
                                Figure(target.Discrimination),
                                target.Answers,
                                target.Missed,
                                Figure(target.MedianTries),
                                target.Wrong,
                                target.NearMisses
                            )),
                        ],
                        pane.Flows,
                        pane.Hexagons
                    )),
                ]
            ),
            Options
        );
    }

    /// <summary>JSON has no word for what can't be reckoned.</summary>
    private static double? Figure(double number) => double.IsFinite(number) ? number : null;
}
