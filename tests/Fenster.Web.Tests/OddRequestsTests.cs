using System.Net;
using System.Text;
using System.Text.Json;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Requests that no page of Fenster sends: each is refused with a sentence, and the server is never at fault.</summary>
[Collection(nameof(Server))]
public sealed class OddRequestsTests(Server server)
{
    public static TheoryData<string, string> Bodies =>
        new()
        {
            { "/activities/1?handler=Save", "null" },
            { "/activities/1?handler=Save", "{}" },
            { "/activities/1?handler=Save", """{"version":1}""" },
            { "/activities/1?handler=Save", """{"version":1,"document":null}""" },
            { "/activities/1?handler=Save", """{"version":1,"document":[]}""" },
            {
                "/activities/1?handler=Lines",
                """{"spots":[{"x":1e308,"y":1e308},{"x":-1e308,"y":0}],"width":1e308,"height":1e308,"plane":{"x":0,"y":0,"width":1e308,"height":1e308}}"""
            },
            { "/activities/1?handler=Lines", """{"spots":[{"x":1,"y":1}],"width":10,"height":10}""" },
            { "/activities/1/picture?handler=Panes", """{"version":1,"pane":-5,"pictures":[]}""" },
            { "/activities/1/picture?handler=Panes", """{"version":1,"pane":2147483647,"pictures":[]}""" },
            { "/activities/1/picture?handler=Panes", """{"version":1,"pane":0,"pictures":[null]}""" },
            { "/activities/1/picture?handler=Hang", "7" },
            { "/activities/1/picture?handler=Hang", """{"version":1,"pane":-1,"picture":null}""" },
            {
                "/activities/1/picture?handler=Labels",
                """{"version":1,"pane":0,"pictures":["0000000000000000000000000000000000000000000000000000000000000000"]}"""
            },
            { "/activities/1/picture?handler=Labels", """{"version":1,"pane":0,"pictures":[null],"names":null}""" },
            {
                "/activities/1/picture?handler=Board",
                """{"kind":"numberLine","from":-79228162514264337593543950335,"to":79228162514264337593543950335,"step":1}"""
            },
            {
                "/activities/1/picture?handler=Board",
                """{"kind":"axes","from":0,"to":79228162514264337593543950335,"step":0.0000000000000000000000000001}"""
            },
            { "/activities/1/picture?handler=Board", """{"kind":null,"colour":null}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"table","names":[null]}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"numberLine","from":null}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"numberLine","from":-1e308,"to":1e308,"step":1e-308}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"numberLine","name":null,"from":0,"to":0,"step":0}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"circles","names":[null,null]}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"columns","names":[null]}""" },
            { "/activities/1/picture?handler=Board", """{"kind":"nothing"}""" },
            { "/activities/1/picture?handler=Take&picture=../../etc/passwd", "{}" },
            { "/activities/1/picture?handler=Forget&hash=..", "{}" },
            { "/activities/1/try/screen?handler=Moves&seed=9223372036854775807&at=-1", "{}" },
            { "/activities/1/try/screen?handler=HandIn&seed=x", "null" },
        };

    [Theory, MemberData(nameof(Bodies))]
    public async Task An_odd_body_is_refused_and_never_the_servers_fault(string path, string body)
    {
        using var teacher = await server.Teacher();
        await teacher.Get("/activities/1");
        var before = JsonDocument.Parse(await teacher.Text("/activities/1?handler=Draft")).RootElement.GetProperty("document").ToString();
        var response = await teacher.PostAsScript(path, new StringContent(body, Encoding.UTF8, "application/json"));
        Assert.InRange((int)response.StatusCode, 200, 499);
        var after = JsonDocument.Parse(await teacher.Text("/activities/1?handler=Draft")).RootElement.GetProperty("document").ToString();
        Assert.Equal(before, after);
    }

    [Theory]
    [InlineData("/join/%00")]
    [InlineData("/join/%F0%9F%98%80")]
    [InlineData("/do/%2e%2e/place")]
    [InlineData("/media/zz/1")]
    [InlineData("/media/0000000000000000000000000000000000000000000000000000000000000000/-2147483648")]
    [InlineData("/activities/99999999999999999999")]
    [InlineData("/activities/1/try/screen?at=-9223372036854775808")]
    [InlineData("/activities/1?handler=Words&pane=-1&target=x")]
    [InlineData("/activities/1?handler=Words&pane=2147483647")]
    [InlineData("/activities/1/picture?pane=2147483647")]
    [InlineData("/activities/1/results?page=2147483647")]
    [InlineData("/activities/1/results?page=x")]
    [InlineData("/activities?page=-1&words=%00%25_&subject='")]
    [InlineData("/activities/1/history?page=-1")]
    [InlineData("/problem/999")]
    [InlineData("/problem/-1")]
    public async Task An_odd_address_is_answered(string path)
    {
        using var teacher = await server.Teacher();
        Assert.InRange((int)(await teacher.Get(path)).StatusCode, 200, 499);
        foreach (var method in (HttpMethod[])[HttpMethod.Trace, HttpMethod.Options, HttpMethod.Put, HttpMethod.Delete])
            Assert.InRange((int)(await teacher.Send(new(method, path))).StatusCode, 200, 499);
    }

    [Fact]
    public async Task A_mark_of_a_device_that_nobody_gave_is_none()
    {
        using var teacher = await server.Teacher();
        var (_, code) = await teacher.Publish(Samples.Document(3));
        using var http = new HttpClient(new SocketsHttpHandler { UseCookies = false });
        foreach (var mark in (string[])["", "x", new string('a', 3000), "%00", "../..", "CfDJ8"])
        {
            var request = new HttpRequestMessage(HttpMethod.Get, new Uri(server.Address, $"/join/{code}"));
            request.Headers.TryAddWithoutValidation(
                "Cookie",
                string.Join(
                    "; ",
                    ((string[])["fenster-known-code", "fenster-known-password", "fenster-teacher", "fenster-form"]).Select(name =>
                        $"{name}={mark}"
                    )
                )
            );
            Assert.Equal(HttpStatusCode.OK, (await http.SendAsync(request)).StatusCode);
        }
    }

    [Fact]
    public async Task A_colleague_who_is_here_already_is_said_so_and_a_sound_is_no_picture()
    {
        using var teacher = await server.Teacher();
        await teacher.Get("/colleagues");
        var page = await (
            await teacher.Post("/colleagues", ("name", "Again"), ("email", RunningFenster.DemoEmail.ToUpperInvariant()))
        ).Content.ReadAsStringAsync();
        Assert.Contains("is here already", page);
        var document = (await teacher.Get("/activities/3?handler=Draft")).Content;
        var sound = Fenster.Formats.Bundles.Bundle.HashesIn(await document.ReadAsStringAsync());
        await teacher.Get("/activities/1/picture");
        foreach (var hash in sound)
        {
            var answer = await teacher.PostJson(
                "/activities/1/picture?handler=Labels",
                new
                {
                    version = -1,
                    pane = 0,
                    pictures = new[] { hash },
                }
            );
            Assert.InRange((int)answer.StatusCode, 400, 499);
        }
    }
}
