using System.Collections.Immutable;
using System.Diagnostics;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using NetTopologySuite.Geometries;
using Activity = Fenster.Core.Model.Activity;
using Point = Fenster.Core.Geometry.Point;
using Polygon = Fenster.Core.Geometry.Polygon;

namespace Fenster.Bench;

/// <summary>The rules themselves, without a server. In microseconds.</summary>
internal static class Rules
{
    /// <summary>
    /// 100 pins against 100 hidden polygons of 24 corners with slack, beside a geometry library's distance to each polygon.
    /// </summary>
    public static Task<Line[]> CheckHidden()
    {
        var random = new Random(1);
        var polygons = Enumerable
            .Range(0, 100)
            .Select(i => new Polygon([
                .. Enumerable
                    .Range(0, 24)
                    .Select(n =>
                    {
                        var (sin, cos) = Math.SinCos(2 * Math.PI * n / 24);
                        var radius = 25 + random.NextDouble() * 30;
                        return new Point(50 + i % 10 * 100 + radius * cos, 40 + i / 10 * 72 + radius * sin);
                    }),
            ]))
            .ToArray();
        var pane = new Pane
        {
            Id = "p",
            // One label in many places, so that no pair is told apart without geometry.
            Labels =
            [
                new Label
                {
                    Id = "stoma",
                    Text = "Stoma",
                    Copies = null,
                },
            ],
            Targets =
            [
                .. polygons.Select(
                    (polygon, i) =>
                        new HiddenZone
                        {
                            Id = $"z{i}",
                            Region = polygon,
                            Tolerance = new(5),
                            Accepts = [new Accepted("stoma")],
                        }
                ),
            ],
        };
        var points = Enumerable.Range(0, 100).Select(_ => new Point(random.NextDouble() * 1000, random.NextDouble() * 750)).ToArray();
        var response = new Response { Pins = [.. points.Select((point, i) => new Pin("stoma", i, point))] };

        var factory = new GeometryFactory();
        var references = polygons
            .Select(polygon =>
                factory.CreatePolygon([.. polygon.Vertices.Append(polygon.Vertices[0]).Select(v => new Coordinate(v.X, v.Y))])
            )
            .ToArray();
        var referencePoints = points.Select(point => factory.CreatePoint(new Coordinate(point.X, point.Y))).ToArray();
        var (ours, baseline) = Times(
            () => Checker.Check(pane, response, new()).WrongActions,
            () => references.Sum(reference => referencePoints.Count(point => reference.Distance(point) <= 5))
        );
        return Task.FromResult<Line[]>([Line.AtMost("check-hidden", ours, baseline, 0.025)]);
    }

    /// <summary>The proof of a pane of 100 labels, beside checking its key once; and in milliseconds beside ten of them.</summary>
    public static Task<Line[]> ProofOfHundred()
    {
        var pane = new Pane
        {
            Id = "p",
            Picture = new(new string('a', 64), 1600, 1200, "Many parts"),
            Labels = [.. Enumerable.Range(0, 100).Select(i => new Label { Id = $"l{i}", Text = $"Part number {i} of a hundred" })],
            Targets =
            [
                .. Enumerable
                    .Range(0, 100)
                    .Select(i => new DropZone
                    {
                        Id = $"z{i}",
                        Region = new Rectangle(5 + i % 10 * 99, 5 + i / 10 * 74, 90, 60),
                        Accepts = [new($"l{i}")],
                    }),
            ],
        };
        var key = Keys.Of(pane);
        var (ours, baseline) = Times(() => Proof.Read(pane, new ScoreRules()).Count, () => Checker.Check(pane, key, new()).WrongActions);
        return Task.FromResult<Line[]>([Line.AtMost("proof", ours, baseline, 20), Line.AtMost("proof (under 10 ms)", ours / 1000, 10, 1)]);
    }

    /// <summary>5 000 works under a moved slack, old scores known as while a hand drags, beside marking them once. In milliseconds.</summary>
    public static Task<Line[]> WhatIf()
    {
        var random = new Random(5);
        var pane = new Pane
        {
            Id = "p",
            Labels = [.. Enumerable.Range(0, 12).Select(i => new Label { Id = $"l{i}", Text = $"Part {i}" })],
            Targets =
            [
                .. Enumerable
                    .Range(0, 12)
                    .Select(i => new HiddenZone
                    {
                        Id = $"z{i}",
                        Region = new Circle(new(100 + i % 4 * 250, 120 + i / 4 * 240), 40),
                        Accepts = [new($"l{i}")],
                    }),
            ],
        };
        var activity = new Activity { Title = "Twelve", Panes = [pane] };
        IReadOnlyList<(string, Work)> works =
        [
            .. Enumerable
                .Range(0, 5000)
                .Select(s =>
                    (
                        $"{s}",
                        new Work(
                            ImmutableDictionary<string, Response>.Empty.Add(
                                "p",
                                new()
                                {
                                    Pins =
                                    [
                                        .. Enumerable
                                            .Range(0, 12)
                                            .Select(i => new Pin($"l{i}", 0, new(random.NextDouble() * 1000, random.NextDouble() * 750))),
                                    ],
                                }
                            )
                        )
                    )
                ),
        ];
        var before = Fenster.Core.Insight.WhatIf.Score(activity, works);
        IReadOnlyList<string> students = [.. works.Select(work => work.Item1)];
        var slack = 0.0;
        var (ours, baseline) = Times(
            () =>
                Fenster
                    .Core.Insight.WhatIf.Compare(
                        before,
                        Fenster.Core.Insight.WhatIf.Score(new Repair([new(0, 3, Slack: slack++)]).In(activity), works),
                        students
                    )
                    .Changed,
            () => Fenster.Core.Insight.WhatIf.Score(activity, works).Length
        );
        return Task.FromResult<Line[]>([Line.AtMost("what-if (5000)", ours, baseline, 2)]);
    }

    /// <summary>
    /// 10 000 stored responses of 10 panes with 12 targets each, read and scored anew, beside reading them alone. In seconds.
    /// </summary>
    public static Task<Line[]> Regrade()
    {
        var random = new Random(2);
        var activity = new Activity
        {
            Title = "Ten panes",
            Panes =
            [
                .. Enumerable
                    .Range(0, 10)
                    .Select(p => new Pane
                    {
                        Id = $"pane-{p}",
                        Labels = [.. Enumerable.Range(0, 12).Select(i => new Label { Id = $"label-{i}", Text = $"Part {i}" })],
                        // Eight shown zones, two hidden ones and two typed answers.
                        Targets =
                        [
                            .. Enumerable
                                .Range(0, 8)
                                .Select(i => new DropZone
                                {
                                    Id = $"zone-{i}",
                                    Region = new Rectangle(20 + i * 100, 20, 90, 40),
                                    Accepts = [new($"label-{i}")],
                                }),
                            .. Enumerable
                                .Range(8, 2)
                                .Select(i => new HiddenZone
                                {
                                    Id = $"zone-{i}",
                                    Region = new Circle(new(i * 90, 400), 65),
                                    Accepts = [new($"label-{i}")],
                                }),
                            .. Enumerable
                                .Range(10, 2)
                                .Select(i => new AnswerBox
                                {
                                    Id = $"zone-{i}",
                                    Region = new Circle(new(i * 70, 600), 40),
                                    Answer = new TypedText([new($"word {i}")]),
                                }),
                        ],
                    }),
            ],
        };
        Response Work() =>
            new()
            {
                Placements =
                [
                    .. Enumerable
                        .Range(0, 8)
                        .OrderBy(_ => random.Next())
                        .Take(7)
                        .Select((label, i) => new Placement($"label-{label}", 0, $"zone-{(random.Next(3) == 0 ? i : label)}"))
                        .DistinctBy(placement => placement.Zone),
                ],
                Pins = [new("label-8", 0, new(random.Next(1000), 400)), new("label-9", 0, new(810, 400))],
                Texts = ImmutableDictionary<string, string>.Empty.Add("zone-10", "word 10").Add("zone-11", $"word {random.Next(20)}"),
            };
        var stored = Enumerable
            .Range(0, 10_000)
            .Select(_ => ResponseDocument.Write(activity.Panes.ToImmutableDictionary(pane => pane.Id, _ => Work())))
            .ToArray();

        static double Seconds(Func<int> action)
        {
            var watch = Stopwatch.StartNew();
            GC.KeepAlive(action());
            return watch.Elapsed.TotalSeconds;
        }
        double Ours() => Seconds(() => Scorer.ScoreAll(activity, stored, ResponseDocument.Read).Sum(score => (int)score.Score));
        double Baseline() => Seconds(() => stored.Sum(json => ResponseDocument.Read(json).Count));
        (_, _) = (Ours(), Baseline());
        // A machine that is shared is slower at one moment than at the next: each run is held against the one beside it.
        var runs = Enumerable
            .Range(0, 9)
            .Select(_ => (Ours: Ours(), Baseline: Baseline()))
            .OrderBy(run => run.Ours / run.Baseline)
            .ToList();
        var (ours, baseline) = runs[runs.Count / 2];
        return Task.FromResult<Line[]>([Line.AtMost("regrade", ours, baseline, 1.2)]);
    }

    private static (double Ours, double Baseline) Times(Func<int> ours, Func<int> baseline)
    {
        static double Time(Func<int> action)
        {
            const int Repeats = 20;
            var watch = Stopwatch.StartNew();
            for (var i = 0; i < Repeats; i++)
                GC.KeepAlive(action());
            return watch.Elapsed.TotalMicroseconds / Repeats;
        }

        // Long enough for the runtime to have compiled what is hot.
        for (var watch = Stopwatch.StartNew(); watch.Elapsed.TotalSeconds < 3; )
            (_, _) = (Time(ours), Time(baseline));
        var runs = Enumerable.Range(0, 9).Select(_ => (Ours: Time(ours), Baseline: Time(baseline))).ToList();
        return (Line.Median(runs.Select(run => run.Ours)), Line.Median(runs.Select(run => run.Baseline)));
    }
}
