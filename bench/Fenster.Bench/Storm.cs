using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using Fenster.Testing;
using Microsoft.Data.Sqlite;

namespace Fenster.Bench;

/// <summary>
/// A class that works while the server dies again and again: thirty students, spread over two processes on one data folder, twenty
/// kills. What a process acknowledged must be stored once, in the order in which it was acknowledged.
/// </summary>
internal static class Storm
{
    private const int Students = 30;
    private const int Kills = 20;
    private const int Zones = 20;
    private const int MovesOfEach = 100;

    public static async Task<int> Run()
    {
        using var first = new RunningFenster();
        using var second = new RunningFenster(demo: false, first.Data);
        string code;
        using (var teacher = await new Visitor(first.Address).SignIn())
            code = (await teacher.Publish(Samples.Document(Zones))).Code;

        var work = Enumerable.Range(0, Students).Select(_ => new ConcurrentQueue<string>()).ToArray();
        var (resent, killed, dice) = (0, 0, new Random(1));
        var students = new Visitor[Students];
        for (var i = 0; i < Students; i++)
        {
            students[i] = new(first.Address);
            (await students[i].Join(code, $"Student {i}")).EnsureSuccessStatusCode();
            await students[i].View(code);
        }

        async Task Work(int who)
        {
            var (random, student) = (new Random(who), students[who]);
            for (var n = 0; n < MovesOfEach; n++)
            {
                // All of the work is not done before the last kill: it goes at most one kill ahead.
                while (n * Kills / MovesOfEach > Volatile.Read(ref killed))
                    await Task.Delay(5);
                var (key, label, zone) = ($"{who}-{n}", $"l{random.Next(Zones) + 1}", $"z{random.Next(Zones) + 1}");
                // Now and then sent once more, by a device that does not know whether it arrived.
                for (var times = random.Next(10) == 0 ? 2 : 1; times > 0; times--)
                    await Until(() => student.Move(code, key, label, zone, Either(random, first, second)));
                work[who].Enqueue(key);
            }
            await Until(() => student.HandIn(code, Either(random, first, second)));
        }

        async Task Until(Func<Task<HttpResponseMessage>> send)
        {
            while (true)
            {
                try
                {
                    using var response = await send();
                    if (response.StatusCode == HttpStatusCode.OK)
                        return;
                    if ((int)response.StatusCode < 500)
                        throw new InvalidOperationException($"A move was refused: {await response.Content.ReadAsStringAsync()}");
                }
                catch (HttpRequestException)
                {
                    // The process is dead at this moment.
                }
                Interlocked.Increment(ref resent);
                await Task.Delay(20);
            }
        }

        var working = Task.WhenAll(Enumerable.Range(0, Students).Select(who => Task.Run(() => Work(who))));
        // Spread over all of the work, so that each kill meets some.
        while (killed < Kills && !working.IsCompleted)
        {
            var due = Students * MovesOfEach * (killed + 0.5) / Kills;
            if (work.Sum(said => said.Count) < due)
            {
                await Task.Delay(5);
                continue;
            }
            var victim = dice.Next(2) == 0 ? first : second;
            victim.Kill();
            victim.Restart();
            Interlocked.Increment(ref killed);
        }
        await working;
        return Report(first, work, killed, resent);
    }

    private static Uri Either(Random random, RunningFenster first, RunningFenster second) =>
        random.Next(2) == 0 ? first.Address : second.Address;

    private static int Report(RunningFenster fenster, ConcurrentQueue<string>[] work, int killed, int resent)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(fenster.Data, "fenster.db")};Pooling=False;Mode=ReadOnly");
        connection.Open();
        var (lost, doubled, moved, handedIn) = (0, 0, 0, 0);
        for (var who = 0; who < work.Length; who++)
        {
            using var command = connection.CreateCommand();
            command.CommandText = """
                select key, handed_in_at
                from move
                join attempt on attempt.id = attempt_id
                join student on student.id = student_id
                where name = @name and key is not null
                order by move.number
                """;
            command.Parameters.AddWithValue("@name", $"Student {who}");
            var stored = new List<string>();
            var isHandedIn = false;
            using (var reader = command.ExecuteReader())
                while (reader.Read())
                {
                    stored.Add(reader.GetString(0));
                    isHandedIn = !reader.IsDBNull(1);
                }
            handedIn += isHandedIn ? 1 : 0;
            var said = work[who].ToList();
            lost += said.Except(stored).Count();
            doubled += stored.Count - stored.Distinct().Count();
            moved += stored.Distinct().SequenceEqual(said) ? 0 : 1;
        }
        var all = work.Sum(said => said.Count);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"storm: {work.Length} students, {killed} kills, two processes: {all} moves acknowledged, {lost} lost, {doubled} doubled, "
                    + $"{moved} logs out of order, {handedIn} handed in, {resent} sent again"
            )
        );
        return killed == Kills && lost + doubled + moved == 0 && handedIn == work.Length ? 0 : 1;
    }
}
