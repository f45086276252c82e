using System.Collections.Concurrent;
using System.Diagnostics;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Testing;
using Microsoft.Data.Sqlite;

namespace Fenster.Bench;

/// <summary>
/// Work of twelve placements handed in by 32 students at a time, checked, scored and stored durably, beside Dapper inserting the same
/// rows, each in a transaction of its own. In rows a second. The way over HTTP is measured by <see cref="Place"/>.
/// </summary>
internal static class HandIn
{
    private const int AtOnce = 32;
    private const int Students = 1000;
    private const int Zones = 12;

    public static async Task<Line[]> Measure()
    {
        var (ours, baseline) = (new List<double>(), new List<double>());
        for (var run = -3; run < 5; run++)
        {
            var folder = Directory.CreateTempSubdirectory("fenster-bench-").FullName;
            try
            {
                var (handedIn, json) = await Ours(folder);
                var inserted = Inserting(folder, json);
                // The first are for the runtime to compile what is hot.
                if (run >= 0)
                    (ours, baseline) = ([.. ours, handedIn], [.. baseline, inserted]);
            }
            finally
            {
                Directory.Delete(folder, recursive: true);
            }
        }
        return [Line.AtLeast("hand-in", Line.Median(ours), Line.Median(baseline), 0.5)];
    }

    private static async Task<(double Rate, string Json)> Ours(string folder)
    {
        using var database = new Database(folder);
        var (revisions, students) = (new Revisions(database, TimeProvider.System), new Students(database, TimeProvider.System));
        var attempts = new Attempts(database, revisions, TimeProvider.System);
        var teacher = new Teachers(database, TimeProvider.System).Add("a@b.example", "A", "long enough")!;
        var document = Samples.Document(Zones);
        var activity = new Drafts(database, TimeProvider.System).Add(teacher.Id, ActivityDocument.Read(document), document);
        var given = new Assignments(database, TimeProvider.System).Give(
            activity,
            revisions.Publish(activity, document),
            group: null,
            new() { Attempts = 1 }
        );

        var waiting = new ConcurrentQueue<Device>();
        for (var i = 0; i < Students; i++)
        {
            var (student, secret) = students.Guest(given, $"Student {i}", word: null).In!;
            var device = attempts.DeviceOf(given.Id, secret, attempts.Begin(given, student)!.Number)!;
            await attempts.Append(
                device,
                [
                    .. Enumerable
                        .Range(1, Zones)
                        .Select(n => new KeyedMove(
                            $"{n}",
                            Samples.Pane,
                            new PutDown(Samples.Label(n), 0, Samples.Zone(1 + n * 5 % Zones))
                        )),
                ],
                DateTimeOffset.UtcNow
            );
            waiting.Enqueue(device);
        }

        var clock = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable
                .Range(0, AtOnce)
                .Select(_ =>
                    Task.Run(async () =>
                    {
                        while (waiting.TryDequeue(out var device))
                            if ((await attempts.HandIn(device, DateTimeOffset.UtcNow)).Attempt?.Handed is null)
                                throw new InvalidOperationException("It was not handed in.");
                    })
                )
        );
        var rate = Students / clock.Elapsed.TotalSeconds;
        return (rate, database.Read(connection => connection.QueryFirst<string>("select responses from response limit 1")));
    }

    private static double Inserting(string folder, string json)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(folder, "rows.db")};Pooling=False");
        connection.Open();
        connection.Execute("pragma journal_mode = wal; pragma synchronous = full; create table row (id integer primary key, json text)");
        var clock = Stopwatch.StartNew();
        for (var i = 0; i < Students; i++)
        {
            using var transaction = connection.BeginTransaction();
            connection.Execute("insert into row (id, json) values (@i, @json)", new { i, json }, transaction);
            transaction.Commit();
        }
        return Students / clock.Elapsed.TotalSeconds;
    }
}
