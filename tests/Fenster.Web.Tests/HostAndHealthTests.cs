using System.Globalization;
using System.Net;
using System.Text;
using Fenster.Testing;
using Fenster.Web.Hosting;

namespace Fenster.Web.Tests;

/// <summary>What the server says of itself: where it is, whether it can store, and that a request it does not understand is none.</summary>
public sealed class HostAndHealthTests
{
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_forged_host_is_in_no_redirect(bool hasAddress)
    {
        using var server = new RunningFenster(options: hasAddress ? ["--address", "https://fenster.school.example"] : []);
        using var http = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false });
        foreach (var path in (string[])["/activities", "/activities/1/results", "/"])
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(server.Address, path));
            request.Headers.Host = "evil.example";
            var response = await http.SendAsync(request);
            Assert.DoesNotContain("evil.example", $"{response.Headers.Location}");
            Assert.DoesNotContain("evil.example", await response.Content.ReadAsStringAsync());
        }
    }

    [Fact]
    public async Task Who_can_not_store_what_people_do_is_not_healthy()
    {
        using var server = new RunningFenster();
        using var visitor = new Visitor(server.Address);
        Assert.Equal(HttpStatusCode.OK, (await visitor.Get("/healthz")).StatusCode);
        // Room for a number that is changed where it stands, and for nothing that anybody does.
        using (
            var connection = new Microsoft.Data.Sqlite.SqliteConnection(
                $"Data Source={Path.Combine(server.Data, "fenster.db")};Pooling=False"
            )
        )
            Dapper.SqlMapper.Execute(connection, "pragma wal_checkpoint(truncate)");
        server.LimitFiles(40_000);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await visitor.Get("/healthz")).StatusCode);
        server.LimitFiles(null);
    }

    [Fact]
    public async Task A_type_that_fits_no_body_and_a_form_that_is_none_get_a_sentence()
    {
        using var server = new RunningFenster();
        using var teacher = await new Visitor(server.Address).SignIn();
        var (_, code) = await teacher.Publish(Samples.Document(2));
        async Task<HttpStatusCode> Send(HttpMethod method, string path, string type, string body)
        {
            using var request = new HttpRequestMessage(method, path) { Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body)) };
            request.Content.Headers.TryAddWithoutValidation("Content-Type", type);
            request.Headers.Add("Sec-Fetch-Site", "same-origin");
            return (await teacher.Send(request)).StatusCode;
        }
        foreach (var path in (string[])[$"/do/{code}", $"/do/{code}/now", $"/join/{code}", "/activities", "/activities/1"])
        foreach (
            var type in (string[])
                ["multipart/form-data", "multipart/form-data; boundary=x", "application/x-www-form-urlencoded; charset=utf-7", "x"]
        )
            Assert.InRange((int)await Send(HttpMethod.Get, path, type, "nonsense"), 200, 404);
        foreach (
            var path in (string[])
                [$"/do/{code}/now?handler=Join", "/sign-in", "/activities", $"/do/{code}/place?attempt=1", "/activities/1?handler=Save"]
        )
        foreach (
            var type in (string[])
                [
                    "multipart/form-data",
                    "multipart/form-data; boundary=x",
                    "application/x-www-form-urlencoded; charset=utf-7",
                    "application/json; charset=utf-7",
                    "application/x-www-form-urlencoded; charset=nonsense",
                    "text/plain",
                ]
        )
            Assert.InRange((int)await Send(HttpMethod.Post, path, type, "--x\r\nnonsense"), 200, 499);
    }

    [Fact]
    public async Task What_a_page_does_not_do_is_not_there()
    {
        using var server = new RunningFenster();
        using var teacher = await new Visitor(server.Address).SignIn();
        var of = await teacher.AssignmentOf(1);
        foreach (
            var path in (string[])["/activities/1/results", $"/activities/1/wall?of={of}", "/activities/1/insight", "/deleted", "/shelf"]
        )
        {
            await teacher.Get(path);
            var answer = await teacher.Post($"{path}{(path.Contains('?') ? '&' : '?')}handler=Nothing");
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        }
        await teacher.Get($"/activities/1/wall?of={of}");
        Assert.InRange((int)(await teacher.Post($"/activities/1/wall?of={of}", ("text", "x"))).StatusCode, 400, 422);
        foreach (
            var (path, fields) in ((string, (string, string)[])[])
                [
                    ("/activities/1/share?handler=Set", [("assignment", $"{of}")]),
                    ("/activities/1/share?handler=Do", [("assignment", $"{of}")]),
                    ($"/activities/1/results?handler=Release&of={of}", []),
                    ($"/activities/1/put-right?handler=Apply&of={of}", [("seen", "1"), ("reason", "x")]),
                    (
                        $"/activities/1/put-right?handler=Apply&of={of}&target=0.0",
                        [("seen", "1"), ("wish", "{\"repair\":{\"targets\":[null]}}"), ("reason", "x")]
                    ),
                ]
        )
        {
            await teacher.Get("/activities/1/share");
            Assert.InRange((int)(await teacher.Post(path, fields)).StatusCode, 200, 499);
        }
        foreach (var target in (string[])["-1.0", "0.-1", "", "0.99", "99.0", "x"])
        foreach (
            var body in (string[])
                [
                    "{}",
                    """{"repair":{"targets":[null]}}""",
                    """{"repair":{"targets":[{"pane":-1,"target":0}]}}""",
                    "null",
                    """{"repair":{"targets":null}}""",
                ]
        )
            Assert.InRange(
                (int)
                    (
                        await teacher.PostAsScript(
                            $"/activities/1/put-right?handler=WhatIf&of={of}&target={target}",
                            new StringContent(body, Encoding.UTF8, "application/json")
                        )
                    ).StatusCode,
                200,
                499
            );
        var lines = """{"spots":[{"x":1e308,"y":1}],"width":10,"height":10,"plane":{"left":0,"top":0,"width":1000,"height":700}}""";
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await teacher.PostAsScript("/activities/1?handler=Lines", new StringContent(lines, Encoding.UTF8, "application/json"))
            ).StatusCode
        );
    }

    [Fact]
    public async Task Titles_of_emoji_are_copied_and_name_a_spreadsheet()
    {
        using var room = await Classroom.Open(null);
        var title = string.Concat(Enumerable.Repeat("😀", 20));
        var id = await room.Give(room.Teacher, Samples.Document(2).Replace("Parts of something", title), 0);
        var of = await room.Teacher.AssignmentOf(id);
        Assert.Equal(
            HttpStatusCode.OK,
            (
                await room.Teacher.Get($"/activities/{id}/results/out?handler=Spreadsheet&of={of.ToString(CultureInfo.InvariantCulture)}")
            ).StatusCode
        );
        var most = Fenster.Core.Model.Soundness.LongestTitle;
        foreach (
            var longest in (string[])
                [string.Concat(Enumerable.Repeat("😀", most / 2)), "x" + string.Concat(Enumerable.Repeat("😀", (most - 1) / 2))]
        )
        {
            var own = await room.Give(room.Teacher, Samples.Document(2).Replace("Parts of something", longest), 0);
            await room.Teacher.Get("/activities");
            var copy = await room.Teacher.Post("/activities?handler=Copy", ("id", $"{own}"));
            Assert.Equal(HttpStatusCode.OK, copy.StatusCode);
            Assert.DoesNotContain("�", await copy.Content.ReadAsStringAsync());
        }
    }

    [Theory]
    [InlineData("2026-12-02T14:30:00+01:00", 12.5)]
    [InlineData("2026-12-02T02:00:00+01:00", 1)]
    [InlineData("2026-12-02T03:00:00+01:00", 24)]
    public void The_next_night_is_told_from_the_time_of_day(string now, double hours) =>
        Assert.Equal(
            TimeSpan.FromHours(hours),
            Sweeper.UntilNight(DateTimeOffset.Parse(now, System.Globalization.CultureInfo.InvariantCulture))
        );
}
