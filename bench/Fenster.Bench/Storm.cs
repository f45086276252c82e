using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using Fenster.Testing;
using Microsoft.Data.Sqlite;

namespace Fenster.Bench;

/// <summary>
/// A class that works while the server dies again and again: thirty students, spread over two processes on one data folder, twenty
/// kills, connections that are cut before or after a move arrives, and browsers that are closed and opened again. What a process
/// acknowledged must be stored once, in the order in which it was acknowledged. After it the disk takes nothing for a while: every move
/// then gets a sentence, and none is lost once it takes something again.
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
        var (resent, killed, cut, closed, dice) = (0, 0, 0, 0, new Random(1));
        var students = new Visitor[Students];
        for (var i = 0; i < Students; i++)
        {
            students[i] = new(first.Address);
            (await students[i].Join(code, $"Student {i}")).EnsureSuccessStatusCode();
            await students[i].View(code);
        }

        async Task Work(int who)
        {
            var random = new Random(who);
            for (var n = 0; n < MovesOfEach; n++)
            {
                // All of the work is not done before the last kill: it goes at most one kill ahead.
                while (n * Kills / MovesOfEach > Volatile.Read(ref killed))
                    await Task.Delay(5);
                var (key, label, zone) = ($"{who}-{n}", $"l{random.Next(Zones) + 1}", $"z{random.Next(Zones) + 1}");
                // The connection is cut when the move is on its way: whether it arrived, the device does not know.
                if (random.Next(12) == 0)
                {
                    Interlocked.Increment(ref cut);
                    _ = Lose(students[who].Move(code, key, label, zone, Either(random, first, second)));
                }
                // The browser is closed; what it kept is sent when it is opened again.
                if (random.Next(30) == 0)
                {
                    Interlocked.Increment(ref closed);
                    var opened = new Visitor(Either(random, first, second));
                    opened.GoOnAs(students[who]);
                    students[who] = opened;
                }
                // Now and then sent once more.
                for (var times = random.Next(10) == 0 ? 2 : 1; times > 0; times--)
                    await Until(() => students[who].Move(code, key, label, zone, Either(random, first, second)));
                work[who].Enqueue(key);
            }
            await Until(() => students[who].HandIn(code, Either(random, first, second)));
        }

        // Nobody waits for the answer any more.
        static async Task Lose(Task<HttpResponseMessage> sent)
        {
            try
            {
                (await sent).Dispose();
            }
            catch (HttpRequestException)
            {
                // The process died over it.
            }
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
        var lost = Report(first, work, killed, resent, cut, closed);
        return lost + await FullDisk(first) == 0 ? 0 : 1;
    }

    /// <summary>Ten students whose server can't store anything for a while: once at a full disk, once at one that takes nothing at all.</summary>
    private static async Task<int> FullDisk(RunningFenster fenster)
    {
        string code;
        using (var teacher = await new Visitor(fenster.Address).SignIn())
            code = (await teacher.Publish(Samples.Document(Zones))).Code;
        var students = new Visitor[10];
        for (var i = 0; i < students.Length; i++)
        {
            students[i] = new(fenster.Address);
            (await students[i].Join(code, $"Disk {i}")).EnsureSuccessStatusCode();
            await students[i].View(code);
        }
        var (refused, silent, lost, n) = (0, 0, 0, 0);
        foreach (var limit in (long[])[new FileInfo(Path.Combine(fenster.Data, "fenster.db-wal")).Length, 1])
        {
            fenster.LimitFiles(limit);
            for (var round = 0; round < 20; round++)
            {
                n++;
                foreach (var student in students)
                {
                    using var answer = await student.Move(code, $"d{n}", $"l{n % Zones + 1}", $"z{n % Zones + 1}");
                    if (answer.StatusCode == HttpStatusCode.OK)
                        continue;
                    refused++;
                    // Each gets a sentence, and can still look at the work.
                    var says = await answer.Content.ReadAsStringAsync();
                    silent += answer.StatusCode == HttpStatusCode.InsufficientStorage && says.Contains("\"error\":") ? 0 : 1;
                }
                silent += (await students[0].Ask(code, "")).IsSuccessStatusCode ? 0 : 1;
            }
            fenster.LimitFiles(null);
        }
        // The devices kept what was refused, and send it again.
        for (var again = 1; again <= n; again++)
            foreach (var student in students)
                (await student.Move(code, $"d{again}", $"l{again % Zones + 1}", $"z{again % Zones + 1}")).EnsureSuccessStatusCode();
        using var connection = new SqliteConnection($"Data Source={Path.Combine(fenster.Data, "fenster.db")};Pooling=False;Mode=ReadOnly");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText =
            "select count(distinct attempt_id || key) from move join attempt on attempt.id = attempt_id join student on student.id = student_id "
            + "where name like 'Disk %' and key is not null";
        lost = n * students.Length - Convert.ToInt32(command.ExecuteScalar(), CultureInfo.InvariantCulture);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"storm: a disk that takes nothing: {refused} moves refused, {silent} without a sentence, {lost} lost after it took something again"
            )
        );
        return refused > 0 ? silent + lost : 1;
    }

    private static Uri Either(Random random, RunningFenster first, RunningFenster second) =>
        random.Next(2) == 0 ? first.Address : second.Address;

    private static int Report(RunningFenster fenster, ConcurrentQueue<string>[] work, int killed, int resent, int cut, int closed)
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
                    + $"{moved} logs out of order, {handedIn} handed in, {resent} sent again, {cut} cut, {closed} browsers closed"
            )
        );
        return killed == Kills && lost + doubled + moved == 0 && handedIn == work.Length ? 0 : 1;
    }
}
