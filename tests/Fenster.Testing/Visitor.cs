using System.Globalization;
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

    /// <summary>Sends a request whose answer goes on: it is given back when it has begun.</summary>
    public Task<HttpResponseMessage> Begin(HttpRequestMessage request) => http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);

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
        var page = await (await Post($"/activities/{id}/share?handler=Give", ("to", "0"))).Content.ReadAsStringAsync();
        return (id, Code().Match(page).Groups[1].Value);
    }

    /// <summary>Does something to what an activity was last given as.</summary>
    public async Task Do(long activity, string act)
    {
        var page = await Text($"/activities/{activity}/share");
        (
            await Post($"/activities/{activity}/share?handler=Do", ("assignment", Assignment().Match(page).Groups[1].Value), ("act", act))
        ).EnsureSuccessStatusCode();
    }

    /// <summary>Changes one word of the terms of what an activity was last given as.</summary>
    public async Task Set(long activity, string path, string value)
    {
        var page = await Text($"/activities/{activity}/share");
        var assignment = Assignment().Match(page).Groups[1].Value;
        (
            await Post($"/activities/{activity}/share?handler=Set", ("assignment", assignment), ("path", path), ("value", value))
        ).EnsureSuccessStatusCode();
    }

    [GeneratedRegex("data-assignment=\"(\\d+)\"")]
    private static partial Regex Assignment();

    /// <summary>The newest assignment of an activity.</summary>
    public async Task<long> AssignmentOf(long activity) =>
        long.Parse(Assignment().Match(await Text($"/activities/{activity}/share")).Groups[1].Value, CultureInfo.InvariantCulture);

    /// <summary>The path by which students come to a published activity.</summary>
    public async Task<string> JoinPath(int activity) => $"/do/{Code().Match(await Text($"/activities/{activity}/share")).Groups[1].Value}";

    // What a student does.

    /// <summary>The secrets by which this visitor's device is known, by code.</summary>
    private readonly Dictionary<string, string> secrets = [];

    /// <summary>Sends a form of the student's page, as its script does.</summary>
    /// <param name="handler">Empty for asking what is shown.</param>
    public async Task<HttpResponseMessage> Ask(string code, string handler, params (string Name, string Value)[] fields)
    {
        var request =
            handler == ""
                ? new HttpRequestMessage(HttpMethod.Get, $"/do/{code}/now")
                : new(HttpMethod.Post, $"/do/{code}/now?handler={handler}")
                {
                    Content = new FormUrlEncodedContent(fields.Select(field => KeyValuePair.Create(field.Name, field.Value))),
                };
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        Identify(request, code);
        var response = await Send(request);
        if (response.Headers.TryGetValues(DeviceHeader, out var given))
            secrets[code] = given.Single();
        return response;
    }

    private const string DeviceHeader = "Fenster-Device";

    private void Identify(HttpRequestMessage request, string code)
    {
        if (secrets.TryGetValue(code, out var secret))
            request.Headers.Add(DeviceHeader, secret);
    }

    /// <summary>The device's secret, as another device of the same student would not have it.</summary>
    public string? SecretFor(string code) => secrets.GetValueOrDefault(code);

    /// <summary>Goes on with what another visitor's device was given, as when a browser was closed and is opened again.</summary>
    public void GoOnAs(Visitor other)
    {
        foreach (var (code, secret) in other.secrets)
            secrets[code] = secret;
    }

    public void Keep(string code, string secret) => secrets[code] = secret;

    /// <summary>Comes in under a name and begins; answers with what is shown then.</summary>
    public async Task<HttpResponseMessage> Join(string code, string name)
    {
        var entered = await Ask(code, "Join", ("name", name));
        return secrets.ContainsKey(code) ? await Ask(code, "Begin") : entered;
    }

    /// <summary>Sends moves to the attempt with this number, or hands it in.</summary>
    /// <param name="at">Another process on the same data folder; null for the visitor's own.</param>
    /// <param name="knows">The version of the log that the page shows; null to be told all.</param>
    public Task<HttpResponseMessage> SendMoves(
        string code,
        object?[] moves,
        string what = "place",
        Uri? at = null,
        int attempt = 1,
        long? knows = null
    ) => SendBody(code, JsonContent.Create(new { moves, knows }), what, at, attempt);

    /// <inheritdoc cref="SendMoves"/>
    public Task<HttpResponseMessage> SendBody(string code, HttpContent body, string what = "place", Uri? at = null, int attempt = 1)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, new Uri(at ?? http.BaseAddress!, $"/do/{code}/{what}?attempt={attempt}"))
        {
            Content = body,
        };
        request.Headers.Accept.Clear();
        request.Headers.Accept.ParseAdd("application/json");
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        Identify(request, code);
        return Send(request);
    }

    /// <summary>What a device is shown that opens the page anew.</summary>
    public async Task<string> Again(string code) => await (await Now(code, "again")).Content.ReadAsStringAsync();

    /// <summary>What a device is shown when it has handed in.</summary>
    public Task<HttpResponseMessage> AfterHandingIn(string code) => Now(code, "handedIn");

    /// <summary>What a member is shown of all that the class was given.</summary>
    public Task<HttpResponseMessage> Mine(string code) => Now(code, "mine");

    private Task<HttpResponseMessage> Now(string code, string what)
    {
        var request = new HttpRequestMessage(HttpMethod.Get, $"/do/{code}/now?{what}=true");
        Identify(request, code);
        return Send(request);
    }

    /// <inheritdoc cref="SendMoves"/>
    /// <param name="knows">The version of the log that the page shows, and has seen when the move was made.</param>
    public Task<HttpResponseMessage> Move(
        string code,
        string key,
        string label,
        string zone,
        Uri? at = null,
        int attempt = 1,
        long? knows = null
    ) =>
        SendMoves(
            code,
            [
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
                    seen = knows,
                },
            ],
            at: at,
            attempt: attempt,
            knows: knows
        );

    public Task<HttpResponseMessage> Check(string code, string key) =>
        SendMoves(
            code,
            [
                new
                {
                    key,
                    pane = "p1",
                    move = new { kind = "pressCheck" },
                },
            ]
        );

    /// <inheritdoc cref="SendMoves"/>
    public Task<HttpResponseMessage> HandIn(string code, Uri? at = null, int attempt = 1) => SendMoves(code, [], "hand-in", at, attempt);

    /// <summary>What the teacher tells while this student works.</summary>
    /// <param name="after">The number of the last that is known.</param>
    public async Task<JsonElement> Told(string code, long after)
    {
        var request = new HttpRequestMessage(HttpMethod.Get, $"/do/{code}/news?attempt=1&after={after}");
        Identify(request, code);
        return JsonSerializer.Deserialize<JsonElement>(await (await Send(request)).Content.ReadAsStringAsync()).GetProperty("news");
    }

    /// <summary>What the student's page was given.</summary>
    public async Task<JsonElement> View(string code) =>
        JsonSerializer.Deserialize<JsonElement>(
            WebUtility.HtmlDecode(Data().Match(await (await Ask(code, "")).Content.ReadAsStringAsync()).Groups[1].Value)
        );

    [GeneratedRegex("name=\"form-token\" content=\"([^\"]*)\"")]
    private static partial Regex Token();

    /// <summary>Of the assignment to whoever has the code.</summary>
    [GeneratedRegex("data-code=\"(\\w+)\"\\s+data-to=\"anyone\"")]
    private static partial Regex Code();

    [GeneratedRegex("data-view=\"([^\"]*)\"")]
    private static partial Regex Data();
}
