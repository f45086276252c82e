using System.Globalization;
using System.Net;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Testing;
using static Fenster.Web.Tests.Classroom;

namespace Fenster.Web.Tests;

/// <summary>
/// A class of thirty with two attempts each, marked by hand, put right and taken back: all that is said of it is held against a sum that
/// is made in SQL from what was put down and awarded, without a line of the rules.
/// </summary>
public sealed class ThirtyTests
{
    private const int Parts = 5;

    private static readonly string Document = ActivityDocument.Write(
        ActivityDocument.Read(Samples.Document(Parts)) is var activity
            ? activity with
            {
                Rules = new()
                {
                    Score = new() { MaximumGrade = 10, PassMark = 5 },
                    Reveal = new() { Score = Moment.HandedIn, Marks = Moment.HandedIn },
                },
                Panes =
                [
                    activity.Panes[0] with
                    {
                        Targets =
                        [
                            .. activity.Panes[0].Targets,
                            new OpenNote
                            {
                                Id = "why",
                                Prompt = "Why?",
                                Points = 5,
                                Region = new Rectangle(20, 400, 300, 100),
                            },
                        ],
                    },
                ],
            }
            : throw new InvalidOperationException()
    );

    /// <summary>By attempt what it earns: labels that lie where the number in their name says, and five times the last award.</summary>
    /// <param name="alsoRight">What is right beside, of labels and zones.</param>
    private static string Sum(string alsoRight) =>
        $"""
            with lying as (
                select attempt_id, json_extract(move, '$.label') as label, json_extract(move, '$.zone') as zone,
                       row_number() over (partition by attempt_id, json_extract(move, '$.label') order by number desc) as back
                from move
                where json_extract(move, '$.kind') = 'putDown'
            ),
            put as (
                select attempt_id, count(*) as points
                from lying
                where back = 1 and (replace(label, 'label', '') = replace(zone, 'zone', '') or {alsoRight})
                group by attempt_id
            ),
            given as (
                select attempt_id, 5 * cast(credit as real) as points
                from award
                where id in (select max(id) from award group by attempt_id, pane, target)
            ),
            earned as (
                select attempt.id, attempt.student_id, coalesce(put.points, 0) + coalesce(given.points, 0) as points
                from attempt
                left join put on put.attempt_id = attempt.id
                left join given on given.attempt_id = attempt.id
                where attempt.assignment_id = @of and attempt.handed_in_at is not null and attempt.deleted_at is null
            )
            select student_id, max(points) from earned group by student_id
            """;

    private const string Nothing = "false";
    private const string FirstInFifth = "(label = 'planted-label-1' and zone = 'planted-zone-5')";

    private static Dictionary<long, double> InSql(Classroom room, string alsoRight) =>
        room.Get<Database>()
            .Read(connection =>
                connection
                    .Query<(long Student, double Points)>(Sum(alsoRight), new { of = room.Given.Id })
                    .ToDictionary(row => row.Student, row => row.Points)
            );

    /// <summary>All that the screens and files say of the class is what SQL says.</summary>
    private static async Task SaysTheSame(Classroom room, string alsoRight)
    {
        var of = room.Given.Id;
        var sums = InSql(room, alsoRight);
        Assert.Equal(30, sums.Count);
        var standings = room.Get<Standings>().Of(room.Given, [.. sums.Keys]);
        foreach (var (student, points) in sums)
            Assert.Equal(points, (double)standings[student].Score!.Score, 1e-9);
        var mean = sums.Values.Average();
        Assert.Equal(mean, room.Get<Attempts>().Sums(of).Mean!.Value, 1e-9);
        var csv = (await room.Teacher.Text($"/activities/{room.Id}/results?handler=Csv&of={of}"))
            .Split("\r\n")
            .Skip(1)
            .Where(line => line != "")
            .ToList();
        var counted = csv.Select(line => line.Split(',')).Where(cells => cells[3] == "counts").ToList();
        Assert.Equal(30, counted.Count);
        Assert.Equal(sums.Values.Sum(), counted.Sum(cells => double.Parse(cells[6], CultureInfo.InvariantCulture)), 1e-9);
        var marks = (await room.Teacher.Text($"/activities/{room.Id}/results/out?handler=Csv&of={of}"))
            .Split("\r\n")
            .Skip(1)
            .Where(line => line != "")
            .ToList();
        Assert.Equal(sums.Values.Sum(), marks.Sum(line => double.Parse(line.Split(',')[2], CultureInfo.InvariantCulture)), 1e-9);
        var page = await Said(room.Teacher.Get($"/activities/{room.Id}/results?of={of}"));
        Assert.Contains("<b>30</b> of <b>30</b> handed in", page);
        Assert.Contains(
            $"on average {Math.Round(mean, 1, MidpointRounding.AwayFromZero).ToString(CultureInfo.InvariantCulture)} of 10 points",
            page
        );
    }

    [Fact]
    public async Task Thirty_with_two_attempts_each_come_to_what_sql_adds_up()
    {
        string[] names = [.. Enumerable.Range(1, 30).Select(i => $"Student {i:00}")];
        using var room = await Open(Document, names);
        await room.Set("attempts", "2", "1");
        var random = new Random(20261202);
        foreach (var name in names)
        {
            using var student = await room.Begins(name);
            for (var attempt = 1; attempt <= 2; attempt++)
            {
                if (attempt == 2)
                    await student.Ask(room.Code, "Begin");
                var view = await student.View(room.Code);
                int[] zones = [.. Enumerable.Range(1, Parts).OrderBy(_ => random.Next())];
                for (var part = 1; part <= random.Next(1, Parts + 1); part++)
                    (
                        await student.Move(
                            room.Code,
                            $"{attempt}.{part}",
                            LabelOf(view, $"Part {part}"),
                            $"z{zones[part - 1]}",
                            attempt: attempt
                        )
                    ).EnsureSuccessStatusCode();
                Assert.Equal(HttpStatusCode.OK, (await student.HandIn(room.Code, attempt: attempt)).StatusCode);
            }
        }
        // Every note is marked by hand, some twice.
        foreach (var line in room.Get<Attempts>().Page(room.Given.Id))
        {
            var one = $"/activities/{room.Id}/results/{line.Id}";
            for (var seen = 0; seen <= random.Next(0, 2); seen++)
            {
                await room.Teacher.Get(one);
                await room.Teacher.Post(
                    $"{one}?handler=Mark",
                    ("Seen", $"{room.Get<Attempts>().Anywhere(line.Id)!.Marked}"),
                    ($"Points[0.{Parts}]", (random.Next(0, 11) * 0.5).ToString(CultureInfo.InvariantCulture))
                );
            }
        }
        await SaysTheSame(room, Nothing);

        // The first label is right in the fifth zone too, for all; and it is not again.
        await room.Teacher.Get($"/activities/{room.Id}/put-right?of={room.Given.Id}");
        var before = InSql(room, Nothing);
        var wish = """{"repair":{"targets":[{"pane":0,"target":4,"accepts":["planted-label-1"]}]},"manner":"forAll"}""";
        var applied = await room.Teacher.Post(
            $"/activities/{room.Id}/put-right?handler=Apply&of={room.Given.Id}&target=0.4",
            ("seen", $"{room.Given.RevisionId}"),
            ("wish", wish),
            ("reason", "It is right there too")
        );
        Assert.EndsWith("/regrades", applied.RequestMessage!.RequestUri!.AbsolutePath);
        await SaysTheSame(room, FirstInFifth);
        Assert.NotEqual(before, InSql(room, FirstInFifth));
        var regrade = room.Get<Regrades>().Of(room.Given.Id)[0];
        await room.Teacher.Post(
            $"/activities/{room.Id}/regrades?handler=Undo&of={room.Given.Id}",
            ("regrade", $"{regrade.Id}"),
            ("reason", "It is not")
        );
        await SaysTheSame(room, Nothing);
        Assert.Equal(before, InSql(room, Nothing));
        // The list says as many changes as it lists.
        foreach (var each in room.Get<Regrades>().Of(room.Given.Id))
            Assert.Equal(each.Changed, room.Get<Regrades>().Changes(each.Id).Count(change => change.Before != change.After));
    }
}
