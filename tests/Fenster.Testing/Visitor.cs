using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Fenster.Testing;

/// <summary>Someone who uses Fenster over HTTP, with cookies of their own.</summary>
public sealed partial class Visitor : IDisposable
{
    private readonly HttpClient http;
    private readonly CookieContainer cookies = new();

    public Visitor(Uri address, bool followRedirects = true)
    {
        http = new(new SocketsHttpHandler { CookieContainer = cookies, AllowAutoRedirect = followRedirects }) { BaseAddress = address };
        http.DefaultRequestHeaders.Accept.ParseAdd("text/html");
    }

    /// <summary>Asks for pages in these languages from now on.</summary>
    public void Reads(string languages)
    {
        http.DefaultRequestHeaders.AcceptLanguage.Clear();
        http.DefaultRequestHeaders.AcceptLanguage.ParseAdd(languages);
    }

    /// <summary>Keeps a cookie as a page's script sets it.</summary>
    public void Keeps(string cookie, string value) => cookies.Add(http.BaseAddress!, new Cookie(cookie, value));

    /// <summary>Every byte that came back so far, when it is asked for.</summary>
    public MemoryStream? Record { get; set; }

    private string token = "";

    public async Task<HttpResponseMessage> Send(HttpRequestMessage request)
    {
        var response = await http.SendAsync(request);
        var body = await response.Content.ReadAsByteArrayAsync();
        Record?.Write(body);
        Record?.Write(System.Text.Encoding.UTF8.GetBytes($"{response.Headers}{response.Content.Headers}"));
        if (
            response.Content.Headers.ContentType?.MediaType == "text/html"
            && Token().Match(System.Text.Encoding.UTF8.GetString(body)) is { Success: true } match
        )
            token = WebUtility.HtmlDecode(match.Groups[1].Value);
        return response;
    }

    public Task<HttpResponseMessage> Get(string path) => Send(new(HttpMethod.Get, path));

    public async Task<string> Text(string path) => await (await Get(path)).Content.ReadAsStringAsync();

    /// <summary>Posts a form with the token of the page seen last.</summary>
    public Task<HttpResponseMessage> Post(string path, params (string Name, string Value)[] fields) =>
        Send(
            new(HttpMethod.Post, path)
            {
                Content = new FormUrlEncodedContent(
                    fields.Append(("__RequestVerificationToken", token)).Select(f => KeyValuePair.Create(f.Item1, f.Item2))
                ),
            }
        );

    public Task<HttpResponseMessage> PostJson(string path, object body) => PostAsScript(path, JsonContent.Create(body));

    public Task<HttpResponseMessage> PostAsScript(string path, HttpContent content)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        request.Headers.Accept.Clear();
        request.Headers.Accept.ParseAdd("application/json");
        request.Headers.Add("X-Form-Token", token);
        // As a browser says of its own pages' requests.
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        return Send(request);
    }

    public void Dispose() => http.Dispose();

    // What a teacher does.

    public async Task<Visitor> SignIn()
    {
        await Get("/sign-in");
        (await Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", RunningFenster.DemoPassword))).EnsureSuccessStatusCode();
        return this;
    }

    /// <summary>Starts an activity and answers with its id.</summary>
    public async Task<long> Begin(string title)
    {
        await Get("/activities");
        var response = await Post("/activities", ("title", title));
        return long.Parse(response.RequestMessage!.RequestUri!.Segments[^1], System.Globalization.CultureInfo.InvariantCulture);
    }

    public Task<HttpResponseMessage> Upload(byte[] bytes) => PostAsScript("/pictures", new ByteArrayContent(bytes));

    public Task<HttpResponseMessage> Save(long activity, long version, string document) =>
        PostJson($"/activities/{activity}?handler=Save", new { version, document = JsonNode.Parse(document) });

    /// <summary>Starts, fills and publishes an activity; answers with its id and join code.</summary>
    public async Task<(long Id, string Code)> Publish(string document)
    {
        var id = await Begin("An activity");
        (await Save(id, 1, document)).EnsureSuccessStatusCode();
        await Get($"/activities/{id}/share");
        var page = await (await Post($"/activities/{id}/share?handler=Publish")).Content.ReadAsStringAsync();
        return (id, Code().Match(page).Groups[1].Value);
    }

    /// <summary>The path by which students come to a published activity.</summary>
    public async Task<string> JoinPath(int activity) =>
        $"/join/{Code().Match(await Text($"/activities/{activity}/share")).Groups[1].Value}";

    // What a student does.

    public async Task<HttpResponseMessage> Join(string code, string name)
    {
        await Get($"/join/{code}");
        return await Post($"/join/{code}", ("name", name));
    }

    /// <param name="at">Another process on the same data folder; null for the visitor's own.</param>
    public Task<HttpResponseMessage> Move(string code, string key, string label, string zone, Uri? at = null) =>
        PostJson(
            $"{new Uri(at ?? http.BaseAddress!, $"/do/{code}/place")}",
            new
            {
                moves = new[]
                {
                    new
                    {
                        key,
                        pane = "p1",
                        move = new
                        {
                            kind = "putDown",
                            label,
                            copy = 0,
                            zone,
                        },
                    },
                },
            }
        );

    public Task<HttpResponseMessage> Check(string code, string key) =>
        PostJson(
            $"/do/{code}/place",
            new
            {
                moves = new[]
                {
                    new
                    {
                        key,
                        pane = "p1",
                        move = new { kind = "pressCheck" },
                    },
                },
            }
        );

    /// <inheritdoc cref="Move"/>
    public Task<HttpResponseMessage> HandIn(string code, Uri? at = null) =>
        PostJson($"{new Uri(at ?? http.BaseAddress!, $"/do/{code}/hand-in")}", new { moves = Array.Empty<object>() });

    /// <summary>What the student's page was given.</summary>
    public async Task<JsonElement> View(string code) =>
        JsonSerializer.Deserialize<JsonElement>(WebUtility.HtmlDecode(Data().Match(await Text($"/do/{code}")).Groups[1].Value));

    [GeneratedRegex("name=\"form-token\" content=\"([^\"]*)\"")]
    private static partial Regex Token();

    [GeneratedRegex("id=\"join-code\">([^<]*)<")]
    private static partial Regex Code();

    [GeneratedRegex("data-view=\"([^\"]*)\"")]
    private static partial Regex Data();
}
