using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Testing;
using Microsoft.Data.Sqlite;
using Reference = MathNet.Numerics.Statistics;

namespace Fenster.Web.Tests;

/// <summary>What the server scored when work was handed in, and what marking the same work from a file gives.</summary>
[Collection(nameof(Server))]
public sealed class MarkedBothWaysTests(Server server)
{
    private sealed record HandedIn(long Id, string Document, string Responses, decimal Score, decimal Grade);

    private List<HandedIn> All()
    {
        using var connection = new SqliteConnection(
            $"Data Source={Path.Combine(server.Fenster.Data, "fenster.db")};Pooling=False;Mode=ReadOnly;Default Timeout=10"
        );
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = """
            select attempt.id, revision.document, response.responses, attempt.score, attempt.grade
            from attempt
            join response on response.attempt_id = attempt.id
            join revision on revision.id = attempt.revision_id
            -- What people decided is no machine's.
            where not exists (select 1 from award where award.attempt_id = attempt.id)
            """;
        using var reader = command.ExecuteReader();
        var all = new List<HandedIn>();
        while (reader.Read())
            all.Add(
                new(reader.GetInt64(0), reader.GetString(1), reader.GetString(2), Number(reader.GetString(3)), Number(reader.GetString(4)))
            );
        return all;
    }

    private static decimal Number(string text) => decimal.Parse(text, CultureInfo.InvariantCulture);

    [Fact]
    public void Each_attempt_of_the_demo_earns_the_same_on_the_server_and_from_a_file()
    {
        var all = All();
        Assert.True(all.Count >= 200, $"The demo has {all.Count} attempts that were handed in.");
        foreach (var handed in all)
        {
            var file = new JsonObject
            {
                ["fenster"] = 1,
                ["responses"] = new JsonArray(new JsonObject { ["id"] = $"{handed.Id}", ["panes"] = JsonNode.Parse(handed.Responses) }),
            };
            var (marks, _) = MarkDocument.Write(ActivityDocument.Read(handed.Document), ResponsesDocument.Read(file.ToJsonString()));
            var result = JsonDocument.Parse(marks).RootElement.GetProperty("results")[0];
            Assert.Equal(
                (handed.Score, handed.Grade),
                (result.GetProperty("score").GetDecimal(), result.GetProperty("grade").GetDecimal())
            );
        }
    }

    /// <summary>A regrade marks stored work by a repaired activity; marking it from nothing reads that activity from its document.</summary>
    [Fact]
    public void Each_attempt_of_the_demo_earns_the_same_by_a_repair_and_from_a_file_of_the_repaired_activity()
    {
        var changed = 0;
        foreach (var same in All().GroupBy(handed => handed.Document))
        {
            var activity = ActivityDocument.Read(same.Key);
            var repaired = new Repair(
                [
                    .. activity.Panes.SelectMany(
                        (pane, p) =>
                            pane.Targets.Select(
                                (_, t) =>
                                    new TargetRepair(
                                        p,
                                        t,
                                        Slack: 17,
                                        Points: 1 + (p + t) % 3,
                                        TakenOut: (p + t) % 5 == 3 ? TakenOut.Everybody
                                            : (p + t) % 5 == 4 ? TakenOut.Nobody
                                            : null
                                    )
                            )
                    ),
                ],
                WrongCost: 0.25m
            ).In(activity);
            var file = new JsonObject
            {
                ["fenster"] = 1,
                ["responses"] = new JsonArray([
                    .. same.Select(handed => new JsonObject { ["id"] = $"{handed.Id}", ["panes"] = JsonNode.Parse(handed.Responses) }),
                ]),
            };
            var responses = ResponsesDocument.Read(file.ToJsonString());
            var (marks, _) = MarkDocument.Write(ActivityDocument.Read(ActivityDocument.Write(repaired)), responses);
            var results = JsonDocument.Parse(marks).RootElement.GetProperty("results").EnumerateArray().ToList();
            var comes = WhatIf.Compare(activity, repaired, [.. responses.Select(response => (response.Id, new Work(response.Panes)))]);
            Assert.Equal(
                comes.Scores.Select(score => (score.Student, score.After.Score, score.After.Grade)),
                results.Select(result =>
                    (
                        result.GetProperty("id").GetString()!,
                        result.GetProperty("score").GetDecimal(),
                        result.GetProperty("grade").GetDecimal()
                    )
                )
            );
            changed += comes.Changed;
        }
        Assert.True(changed > 200, $"The repairs changed {changed} scores.");
    }

    /// <summary>The figures of each demo activity beside those of MathNet.Numerics, from the marks of a file.</summary>
    [Fact]
    public void The_figures_of_the_demos_classes_agree_with_a_statistics_library()
    {
        foreach (var same in All().GroupBy(handed => handed.Document))
        {
            var activity = ActivityDocument.Read(same.Key);
            var works = same.Select(handed => new Work(ResponseDocument.Read(handed.Responses))).ToList();
            var insight = ActivityInsight.Of(activity, works);
            // By the marks of a file: credits of each work and target that counts.
            var items = activity
                .Panes.SelectMany(pane => pane.Targets.Where(target => target.IsScored).Select(target => (pane, target)))
                // What waits for a person is left out.
                .Where(item => !works.Any(work => MarkAt(item.pane, item.target, work).State == Core.Model.TargetState.Waiting))
                .ToList();
            var points = works
                .Select(work =>
                    items
                        .Select(item =>
                            (double)MarkAt(item.pane, item.target, work).Credit * (double)(item.target.Points * item.pane.Weight)
                        )
                        .ToArray()
                )
                .ToArray();
            var totals = points.Select(row => row.Sum()).ToArray();
            Assert.Equal(Reference.Statistics.Mean(totals), insight.Mean, 1e-9);
            Assert.Equal(Reference.Statistics.Median(totals), insight.Median, 1e-9);
            Assert.Equal(Reference.Statistics.StandardDeviation(totals), insight.StandardDeviation, 1e-9);
            Assert.Equal(
                Reference.Statistics.QuantileCustom(totals, 0.25, Reference.QuantileDefinition.Excel),
                insight.LowerQuartile,
                1e-9
            );
            var variances = Enumerable.Range(0, items.Count).Sum(i => Reference.Statistics.Variance(points.Select(row => row[i])));
            if (items.Count > 1)
                Assert.Equal(
                    items.Count / (items.Count - 1.0) * (1 - variances / Reference.Statistics.Variance(totals)),
                    insight.Alpha,
                    1e-9
                );
            for (var i = 0; i < items.Count; i++)
            {
                var (own, rest) = (points.Select(row => row[i]).ToArray(), points.Select(row => row.Sum() - row[i]).ToArray());
                var figures = insight
                    .Panes.First(pane => pane.Pane == items[i].pane.Id)
                    .Targets.First(target => target.Target == items[i].target.Id);
                var worth = (double)(items[i].target.Points * items[i].pane.Weight);
                Assert.Equal(own.Average() / worth, figures.Facility, 1e-9);
                if (own.Distinct().Count() > 1 && rest.Distinct().Count() > 1)
                    Assert.Equal(Reference.Correlation.Pearson(own, rest), figures.Discrimination, 1e-9);
            }
        }
    }

    private static Core.Model.TargetMark MarkAt(Pane pane, Target target, Work work) =>
        Core
            .Checking.Checker.Check(pane, work.Responses.GetValueOrDefault(pane.Id, Response.Empty), new())
            .Targets.First(mark => mark.Target == target.Id);
}
