using System.Net;
using System.Text.RegularExpressions;
using Fenster.Testing;

namespace Fenster.Web.Tests;

[Collection(nameof(Server))]
public sealed partial class SecurityTests(Server server)
{
    [Theory]
    [InlineData("/")]
    [InlineData("/sign-in")]
    [InlineData("/activities")]
    [InlineData("/activities/1")]
    [InlineData("/activities/1/try")]
    [InlineData("/nowhere")]
    [InlineData("/healthz")]
    public async Task Every_response_forbids_scripts_and_styles_from_elsewhere(string path)
    {
        var response = await (await server.Teacher()).Get(path);
        var policy = Assert.Single(response.Headers.GetValues("Content-Security-Policy"));
        Assert.StartsWith("default-src 'none'", policy);
        Assert.DoesNotContain("unsafe", policy);
        Assert.Equal("nosniff", Assert.Single(response.Headers.GetValues("X-Content-Type-Options")));
        var page = await response.Content.ReadAsStringAsync();
        Assert.DoesNotMatch("<script(?![^>]*src=)|\\sstyle=|\\son[a-z]+=\"", page);
        Assert.DoesNotMatch("(src|href)=\"(https?:)?//(?!127\\.0\\.0\\.1)", page);
    }

    /// <summary>What whoever is not signed in may see.</summary>
    private static readonly string[] ForAnybody = ["FirstRun", "Home", "Join", "NewPassword", "Problem", "SignIn", "Student"];

    [GeneratedRegex("^@page \"([^\"]+)\"", RegexOptions.Multiline)]
    private static partial Regex Route();

    [Fact]
    public async Task Every_page_of_teachers_asks_who_it_is()
    {
        var pages = Path.Combine(RunningFenster.Repository, "src", "Fenster.Web", "Pages");
        var routes = Directory
            .EnumerateFiles(pages, "*.cshtml", SearchOption.AllDirectories)
            .Where(file => !ForAnybody.Contains(Path.GetRelativePath(pages, file).Split(Path.DirectorySeparatorChar)[0]))
            .Select(file => Route().Match(File.ReadAllText(file)))
            .Where(match => match.Success)
            .Select(match => Regex.Replace(match.Groups[1].Value, @"\{[^}]*\}", "1"))
            .ToList();
        Assert.True(routes.Count > 20);
        using var visitor = server.Visitor(followRedirects: false);
        foreach (var route in routes)
        {
            var response = await visitor.Get(route);
            Assert.True(response.StatusCode == HttpStatusCode.Redirect, $"{route}: {response.StatusCode}");
            Assert.StartsWith(
                "/sign-in",
                response.Headers.Location!.OriginalString.Replace(server.Address.GetLeftPart(UriPartial.Authority), "")
            );
        }
    }

    [Fact]
    public async Task Cookies_are_out_of_the_reach_of_scripts_and_other_sites()
    {
        var visitor = server.Visitor(followRedirects: false);
        await visitor.Get("/sign-in");
        var response = await visitor.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", RunningFenster.DemoPassword));
        var cookies = response.Headers.GetValues("Set-Cookie").ToList();
        Assert.Contains(cookies, cookie => cookie.StartsWith("fenster-teacher=", StringComparison.Ordinal));
        Assert.All(cookies, cookie =>
        {
            Assert.Contains("httponly", cookie);
            Assert.Contains("samesite=lax", cookie);
        });
    }

    [Fact]
    public async Task After_signing_in_nobody_is_sent_to_another_site()
    {
        var visitor = server.Visitor(followRedirects: false);
        await visitor.Get("/sign-in");
        var response = await visitor.Post(
            "/sign-in",
            ("Email", RunningFenster.DemoEmail),
            ("Password", RunningFenster.DemoPassword),
            ("then", "//elsewhere.example/")
        );
        Assert.Equal("/activities", response.Headers.Location!.ToString());
    }

    [Fact]
    public async Task Scripts_of_the_build_before_are_served_for_two_weeks()
    {
        using var fenster = new RunningFenster();
        var builds = Path.Combine(fenster.Data, "builds");
        var now = Path.GetFileName(Assert.Single(Directory.GetDirectories(builds)));
        foreach (var (build, began) in new[] { ("aaaaaaaaaaaa", 40), ("bbbbbbbbbbbb", 30) })
        {
            Directory.CreateDirectory(Path.Combine(builds, build, "js"));
            await File.WriteAllTextAsync(Path.Combine(builds, build, "js", "late.js"), "export {}");
            Directory.SetLastWriteTimeUtc(Path.Combine(builds, build), DateTime.UtcNow.AddDays(-began));
        }
        fenster.Kill();
        fenster.Restart();
        using var visitor = new Visitor(fenster.Address);
        // The one was replaced thirty days ago, the other just now.
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.Get("/assets/aaaaaaaaaaaa/js/late.js")).StatusCode);
        Assert.Equal("export {}", await visitor.Text("/assets/bbbbbbbbbbbb/js/late.js"));
        Assert.Equal(HttpStatusCode.OK, (await visitor.Get($"/assets/{now}/js/http.js")).StatusCode);
        foreach (var path in (string[])["/assets/bbbbbbbbbbbb/js/%2e%2e/%2e%2e/fenster.db", "/assets/bbbbbbbbbbbb/js/../../../fenster.db"])
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.Get(path)).StatusCode);
    }

    [Fact]
    public async Task Behind_a_named_proxy_links_cookies_and_transport_are_those_of_the_outside()
    {
        using var http = new HttpClient(new SocketsHttpHandler { UseCookies = false });
        HttpRequestMessage Request(Uri address)
        {
            var request = new HttpRequestMessage(HttpMethod.Get, new Uri(address, "/sign-in"));
            request.Headers.Add("X-Forwarded-Proto", "https");
            request.Headers.Add("X-Forwarded-For", "203.0.113.7");
            return request;
        }
        // Nobody was named: what the headers say is not believed.
        var plain = await http.SendAsync(Request(server.Fenster.Address));
        Assert.False(plain.Headers.Contains("Strict-Transport-Security"));
        using var fenster = new RunningFenster(options: ["--proxy", "127.0.0.1", "--address", "https://fenster.school.example"]);
        var behind = await http.SendAsync(Request(fenster.Address));
        Assert.Equal("max-age=31536000", Assert.Single(behind.Headers.GetValues("Strict-Transport-Security")));
        Assert.All(behind.Headers.GetValues("Set-Cookie"), cookie => Assert.Contains("secure", cookie));
        using var teacher = await new Visitor(fenster.Address).SignIn();
        Assert.Contains("https://fenster.school.example/do/", await teacher.Text("/activities/1/share"));
    }

    [Fact]
    public async Task Scripts_and_styles_are_kept_for_good_under_their_version()
    {
        var page = await server.Visitor().Text("/sign-in");
        var style = Regex.Match(page, "/assets/[0-9a-f]{12}/css/fenster.css").Value;
        Assert.Contains("immutable", (await server.Visitor().Get(style)).Headers.CacheControl!.ToString());
    }

    [Fact]
    public async Task A_students_page_has_no_script_in_itself_and_allows_none()
    {
        using var teacher = await server.Visitor().SignIn();
        var response = await server.Visitor().Get(await teacher.JoinPath(1));
        Assert.DoesNotMatch("<script(?![^>]*src=)", await response.Content.ReadAsStringAsync());
        var policy = Assert.Single(response.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("script-src 'self';", policy);
        Assert.DoesNotContain("unsafe-", policy);
    }
}
