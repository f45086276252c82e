using System.Diagnostics;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>Lists that are long beside the same lists when they are short. In milliseconds.</summary>
internal static class Lists
{
    private const int Looks = 60;

    /// <summary>The activities of a teacher with 10 000, beside those of one with 100.</summary>
    public static async Task<Line[]> Shelf()
    {
        using var many = new RunningFenster();
        using var few = new RunningFenster();
        Copy(many, 10_000);
        Copy(few, 100);
        using var ours = await new Visitor(many.Address).SignIn();
        using var baseline = await new Visitor(few.Address).SignIn();
        return [await Beside("shelf", 1.5, ours, "/activities", baseline, "/activities")];
    }

    /// <summary>The first page of 5 000 attempts, beside that of 50.</summary>
    public static async Task<Line[]> Results()
    {
        using var many = new RunningFenster();
        using var few = new RunningFenster();
        Fill(many, 5000);
        Fill(few, 50);
        using var ours = await new Visitor(many.Address).SignIn();
        using var baseline = await new Visitor(few.Address).SignIn();
        return [await Beside("results", 1.3, ours, "/activities/1/results", baseline, "/activities/1/results")];
    }

    /// <summary>The insight of a class of 5 000, time for each of its works beside the same of 500. In microseconds.</summary>
    public static async Task<Line[]> Insight()
    {
        const int many = 5000;
        const int few = 500;
        using var large = new RunningFenster();
        using var small = new RunningFenster();
        Fill(large, many, moves: true);
        Fill(small, few, moves: true);
        using var ours = await new Visitor(large.Address).SignIn();
        using var baseline = await new Visitor(small.Address).SignIn();
        var (slow, quick) = (new List<double>(), new List<double>());
        for (var i = 0; i < 9; i++)
        {
            slow.Add(await Time(ours, "/activities/1/insight") * 1000 / many);
            quick.Add(await Time(baseline, "/activities/1/insight") * 1000 / few);
        }
        return [Line.AtMost("insight", Line.Median(slow), Line.Median(quick), 1.1)];
    }

    /// <summary>
    /// What one moved slack comes to for a class of 200, in milliseconds of the request; and for 5 000, beside marking them once.
    /// </summary>
    public static async Task<Line[]> WhatIf()
    {
        using var fenster = new RunningFenster();
        Fill(fenster, 200, moves: true, activity: 4);
        using var visitor = await new Visitor(fenster.Address).SignIn();
        await visitor.Get("/activities/4/insight");
        var of = await visitor.AssignmentOf(4);
        var times = new List<double>();
        for (var i = 0; i < 40; i++)
        {
            var start = Stopwatch.GetTimestamp();
            (
                await visitor.PostJson(
                    $"/activities/4/put-right?handler=WhatIf&of={of}&target=0.0",
                    new
                    {
                        repair = new
                        {
                            targets = new[]
                            {
                                new
                                {
                                    pane = 0,
                                    target = 0,
                                    slack = 5.0 + i,
                                },
                            },
                        },
                    }
                )
            ).EnsureSuccessStatusCode();
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
        return [Line.AtMost("what-if (200, 100 ms)", Line.Median(times[10..]), 100, 1), .. await Rules.WhatIf()];
    }

    /// <summary>
    /// How long a placement takes, in milliseconds, while forty connections ask what a moved slack comes to for 5 000: the 95th
    /// percentile, beside a quarter of a second.
    /// </summary>
    public static async Task<Line[]> Beside()
    {
        using var fenster = new RunningFenster();
        Fill(fenster, 5000, moves: true, activity: 4);
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var of = await teacher.AssignmentOf(4);
        var (_, code) = await teacher.Publish(Samples.Document(3));
        using var student = new Visitor(fenster.Address);
        await student.Join(code, "Ann");
        using var over = new CancellationTokenSource(TimeSpan.FromSeconds(40));
        var whatIfs = Enumerable.Range(0, 40).Select(number => AskOnAndOn(number)).ToList();
        var times = new List<double>();
        await Task.Delay(TimeSpan.FromSeconds(5));
        for (var move = 0; !over.IsCancellationRequested; move++)
        {
            var start = Stopwatch.GetTimestamp();
            (await student.Move(code, $"d.{move}", $"l{move % 3 + 1}", $"z{move % 2 + 1}")).EnsureSuccessStatusCode();
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            await Task.Delay(50);
        }
        var answered = (await Task.WhenAll(whatIfs)).Sum();
        Console.WriteLine($"{times.Count} placements, {answered} what-ifs");
        return [Line.AtMost("placement beside 40 what-ifs (p95, 250 ms)", times.Order().ElementAt(times.Count * 95 / 100), 250, 1)];

        async Task<int> AskOnAndOn(int number)
        {
            using var own = await new Visitor(fenster.Address).SignIn();
            await own.Get("/activities");
            var count = 0;
            try
            {
                for (; !over.IsCancellationRequested; count++)
                    (
                        await own.PostJson(
                            $"/activities/4/put-right?handler=WhatIf&of={of}&target=0.0",
                            new
                            {
                                repair = new
                                {
                                    targets = new[]
                                    {
                                        new
                                        {
                                            pane = 0,
                                            target = 0,
                                            slack = 5.0 + number + count,
                                        },
                                    },
                                },
                            }
                        )
                    ).EnsureSuccessStatusCode();
            }
            catch (TaskCanceledException)
            {
                // It was not answered within the browser's patience.
            }
            return count;
        }
    }

    /// <summary>Copies the first activity, with all that lists show of it, until there are as many as wanted.</summary>
    private static void Copy(RunningFenster fenster, int count) =>
        fenster.Execute(
            $"""
            with recursive n (i) as (select 1 union all select i + 1 from n where i < {count})
            insert into activity (
                identity, teacher_id, title, draft, version, created_at, changed_at,
                private_name, is_starter, media, alt_text, panes, targets, search
            )
            select
                lower(hex(randomblob(16))), teacher_id, title || ' ' || i, draft, version, created_at, changed_at + i,
                private_name, is_starter, media, alt_text, panes, targets, search
            from activity, n
            where id = 1
            """
        );

    /// <summary>Copies work that was handed in, until there is as much as wanted.</summary>
    /// <param name="moves">Whether what was done is copied too.</param>
    private static void Fill(RunningFenster fenster, int count, bool moves = false, int activity = 1)
    {
        fenster.Execute(
            $"""
            with recursive n (i) as (select 1 union all select i + 1 from n where i < {count})
            insert into student (id, identity, assignment_id, name, folded_name, sort_key, joined_at)
            select 1000000 + i, lower(hex(randomblob(16))), assignment_id, name || ' ' || i, folded_name || ' ' || i, cast(sort_key || printf('%08d', i) as blob), joined_at
            from (select student.* from student join assignment on assignment.id = assignment_id where activity_id = {activity} order by assignment.id desc limit 1), n;
            with recursive n (i) as (select 1 union all select i + 1 from n where i < {count})
            insert into attempt (
                identity, counts, assignment_id, student_id, number, revision_id, rules, seed, started_at, handed_in_at, handed_in_by,
                score, possible, grade, maximum_grade, exact_grade, version, placed,
                score_number, possible_number
            )
            select
                lower(hex(randomblob(16))), 1, assignment_id, 1000000 + i, 1, revision_id, rules, seed + i, started_at, handed_in_at + i, handed_in_by,
                score, possible, grade, maximum_grade, exact_grade, version, placed,
                score_number, possible_number
            from (
                select attempt.*
                from attempt join assignment on assignment.id = assignment_id
                where activity_id = {activity} and handed_in_at is not null
                order by assignment.id desc
                limit 1
            ), n
            """
        );
        if (moves)
            fenster.Execute(
                $"""
                insert into move (attempt_id, number, key, pane, move, made_at)
                select own.id, move.number, move.key, move.pane, move.move, move.made_at
                from attempt as own
                join move on move.attempt_id = (
                    select attempt.id
                    from attempt join assignment on assignment.id = attempt.assignment_id
                    where activity_id = {activity} and handed_in_at is not null and attempt.student_id < 1000000
                    order by assignment.id desc
                    limit 1)
                where own.student_id >= 1000000
                """
            );
    }

    private static async Task<Line> Beside(string name, double target, Visitor ours, string ourPath, Visitor baseline, string basePath)
    {
        // Both are looked at long enough beforehand for the runtime to have compiled what is hot.
        for (var i = 0; i < Looks; i++)
            (_, _) = (await Time(ours, ourPath), await Time(baseline, basePath));
        var (longOnes, shortOnes) = (new List<double>(), new List<double>());
        for (var i = 0; i < Looks; i++)
        {
            longOnes.Add(await Time(ours, ourPath));
            shortOnes.Add(await Time(baseline, basePath));
        }
        return Line.AtMost(name, Line.Median(longOnes), Line.Median(shortOnes), target);
    }

    private static async Task<double> Time(Visitor visitor, string path)
    {
        var start = Stopwatch.GetTimestamp();
        (await visitor.Get(path)).EnsureSuccessStatusCode();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
