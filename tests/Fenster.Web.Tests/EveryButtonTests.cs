using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Dapper;
using Fenster.Testing;
using Fenster.Web.Pages;
using Microsoft.Data.Sqlite;

namespace Fenster.Web.Tests;

/// <summary>
/// Every button of every page of the demo, found by following its links: pressed by who may and by who may not, it is never the server's
/// fault, each refusal is a sentence, and who may not changes nothing.
/// </summary>
public sealed partial class EveryButtonTests
{
    /// <summary>A button as it stands on a page, with the fields that go with it.</summary>
    private sealed partial record Button(
        string Page,
        string Action,
        string Name,
        string Value,
        IReadOnlyList<(string, string)> Fields,
        bool IsFile
    )
    {
        /// <summary>What is the same about the same button of another activity or student.</summary>
        public string Kind { get; } = $"{Numbers().Replace(Action, "#")} {Name}={Numbers().Replace(Value, "#")}";

        /// <summary>What takes away what other buttons need is pressed last.</summary>
        public int Turn { get; } =
            Last().IsMatch($"{Action} {Value}") ? 2
            : Late().IsMatch($"{Action} {Value}") ? 1
            : 0;

        [GeneratedRegex("sign-out|handler=Remove|/account|handler=Delete|value=delete|delete", RegexOptions.IgnoreCase)]
        private static partial Regex Last();

        [GeneratedRegex("close|archive|putAway|end|moveUp|forget|give-?back|release|take", RegexOptions.IgnoreCase)]
        private static partial Regex Late();
    }

    [GeneratedRegex(@"\d+")]
    private static partial Regex Numbers();

    [GeneratedRegex(@"[?&](page|sort|show|columns|which|tag|v)=[^&]*")]
    private static partial Regex Choices();

    private static readonly HtmlParser Parser = new();

    /// <summary>So many pages of one kind are looked at: the next activity's are the same.</summary>
    private const int OfOneKind = 3;

    private static string KindOf(string path) => Numbers().Replace(Choices().Replace(path, ""), "#");

    /// <summary>All kinds of pages that can be come to by links, and the buttons on them.</summary>
    private static async Task<(List<string> Pages, List<Button> Buttons)> Find(Visitor visitor, params string[] from)
    {
        var (waiting, seen, pages, buttons) = (
            new Queue<string>(from),
            new Dictionary<string, int>(),
            new List<string>(),
            new List<Button>()
        );
        var known = new HashSet<string>(from);
        while (waiting.TryDequeue(out var path))
        {
            if (seen.GetValueOrDefault(KindOf(path)) >= OfOneKind)
                continue;
            seen[KindOf(path)] = seen.GetValueOrDefault(KindOf(path)) + 1;
            var response = await visitor.Get(path);
            Assert.True((int)response.StatusCode < 500, $"{path}: {response.StatusCode}");
            if (response.Content.Headers.ContentType?.MediaType != "text/html")
                continue;
            pages.Add(path);
            var here = response.RequestMessage!.RequestUri!;
            var page = Parser.ParseDocument(await response.Content.ReadAsStringAsync());
            foreach (var link in page.QuerySelectorAll("a[href]").Select(link => new Uri(here, link.GetAttribute("href"))))
                if (link.Authority == here.Authority && known.Add(link.PathAndQuery))
                    waiting.Enqueue(link.PathAndQuery);
            buttons.AddRange(page.QuerySelectorAll("form").OfType<IHtmlFormElement>().SelectMany(form => ButtonsOf(form, here, path)));
        }
        return (pages, [.. buttons.DistinctBy(button => button.Kind)]);
    }

    private static IEnumerable<Button> ButtonsOf(IHtmlFormElement form, Uri here, string page)
    {
        if (!string.Equals(form.GetAttribute("method"), "post", StringComparison.OrdinalIgnoreCase))
            yield break;
        var fields = form
            .Elements.Where(field => field.GetAttribute("name") is { Length: > 0 } && field is not IHtmlButtonElement)
            .Where(field => field is not IHtmlInputElement { Type: "checkbox" or "radio" } box || ((IHtmlInputElement)field).IsChecked)
            .Select(field => (field.GetAttribute("name")!, ValueOf(field)))
            .Where(field => field.Item1 != "__RequestVerificationToken")
            .ToList();
        var isFile = form.QuerySelector("input[type=file]") is not null;
        var all = form.Elements.OfType<IHtmlButtonElement>().Where(button => button.Type != "button").ToList();
        foreach (var button in all.Count > 0 ? all.Cast<IElement>() : [form])
        {
            var action = button.GetAttribute("formaction") ?? form.GetAttribute("action");
            var (name, value) = button == form ? ("", "") : (button.GetAttribute("name") ?? "", button.GetAttribute("value") ?? "");
            yield return new(
                page,
                string.IsNullOrEmpty(action) ? here.PathAndQuery : new Uri(here, action).PathAndQuery,
                name,
                value,
                fields,
                isFile
            );
        }
    }

    private static string ValueOf(IElement field) =>
        field switch
        {
            IHtmlInputElement input => input.Value,
            IHtmlTextAreaElement area => area.Value,
            IHtmlSelectElement select => select.Value ?? "",
            _ => "",
        };

    /// <summary>Presses a button on its page; answers with what came of it.</summary>
    private static async Task<HttpResponseMessage> Press(Visitor visitor, Button button, string? typed = null)
    {
        // The form's token is that of the page; who may not see it has one of another page.
        if (!(await visitor.Get(button.Page)).IsSuccessStatusCode)
            await visitor.Get("/account");
        var fields = button.Fields.Select(field => (field.Item1, typed is not null && field.Item2 == "" ? typed : field.Item2));
        return await visitor.Post(
            button.Action,
            [.. fields, .. button.Name == "" ? Array.Empty<(string, string)>() : [(button.Name, button.Value)]]
        );
    }

    /// <summary>No fault of the server's, and where it is refused a sentence says so.</summary>
    private static async Task IsAnswered(HttpResponseMessage response, string what)
    {
        var body = await response.Content.ReadAsStringAsync();
        Assert.True((int)response.StatusCode < 500, $"{what}: {response.StatusCode} {body}");
        if ((int)response.StatusCode < 400)
            return;
        var said =
            response.Content.Headers.ContentType?.MediaType == "text/html" ? Parser.ParseDocument(body).Body?.TextContent ?? "" : body;
        Assert.True(Sentence().IsMatch(said), $"{what}: {response.StatusCode} says nothing: {said}");
    }

    [GeneratedRegex(@"\p{L}{2,} \p{L}+.*[.!?]")]
    private static partial Regex Sentence();

    private static readonly string[] Kept =
    [
        "activity",
        "activity_teacher",
        "assignment",
        "attempt",
        "award",
        "class",
        "class_teacher",
        "late_move",
        "member",
        "move",
        "pause",
        "record",
        "regrade",
        "remark",
        "revision",
        "student",
        "substitute",
        "teacher",
        "gallery",
        "news",
    ];

    /// <summary>Of all that is kept of people's work.</summary>
    private static string StateOf(RunningFenster server)
    {
        using var connection = new SqliteConnection(
            $"Data Source={Path.Combine(server.Data, "fenster.db")};Pooling=False;Default Timeout=10"
        );
        var all = new StringBuilder();
        foreach (var table in Kept)
        foreach (IDictionary<string, object?> row in connection.Query($"select * from {table}"))
            all.Append(table).AppendJoin('|', row.Where(cell => cell.Key is not "seen_at").Select(cell => cell.Value));
        return Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(all.ToString())));
    }

    private static async Task<Visitor> SignedIn(RunningFenster server, string email)
    {
        var visitor = new Visitor(server.Address);
        await visitor.Get("/sign-in");
        (await visitor.Post("/sign-in", ("Email", email), ("Password", RunningFenster.DemoPassword))).EnsureSuccessStatusCode();
        return visitor;
    }

    /// <summary>The demo with a colleague who owns nothing of it, one who owns all activities too, and one who stands in everywhere.</summary>
    private static RunningFenster Start()
    {
        var server = new RunningFenster();
        var hash = SignInModel.Hasher.HashPassword(null!, RunningFenster.DemoPassword);
        foreach (var (id, name) in ((int, string)[])[(901, "stranger"), (902, "owner"), (903, "substitute")])
            server.Execute(
                $"insert into teacher (id, email, name, password_hash, role, created_at) values ({id}, '{name}@school.example', '{name}', '{hash}', 'teacher', 0)"
            );
        server.Execute(
            """
            insert into activity_teacher (teacher_id, activity_id) select 902, id from activity where teacher_id = 1;
            insert into substitute (assignment_id, teacher_id, until_at) select id, 903, 9999999999999 from assignment
            """
        );
        return server;
    }

    [Fact]
    public async Task Each_is_pressed_by_who_may_and_by_who_may_not()
    {
        using var server = Start();
        using var teacher = await new Visitor(server.Address).SignIn();
        var (pages, buttons) = await Find(teacher, "/activities", "/classes", "/colleagues", "/shelf", "/deleted", "/account", "/outbox");
        // What would be missed if it were not found.
        foreach (
            var handler in (string[])
                [
                    "Later",
                    "End",
                    "Note",
                    "Merge",
                    "Word",
                    "All",
                    "Give",
                    "Publish",
                    "Do",
                    "Release",
                    "Mark",
                    "GiveBack",
                    "Undo",
                    "Apply",
                    "Award",
                    "Open",
                    "MoveUp",
                    "Keep",
                    "Share",
                    "Take",
                    "Copy",
                ]
        )
            Assert.True(
                buttons.Any(button => button.Action.Contains($"handler={handler}", StringComparison.Ordinal))
                    || handler is "Merge" or "Undo" or "Apply" or "Award" or "Open" or "GiveBack",
                $"No page has a button for {handler}: {string.Join("\n", buttons.Select(button => button.Kind))}"
            );
        Assert.InRange(buttons.Count, 60, 400);

        // Who may not: somebody else's work stays as it is.
        var others = buttons.Where(button => Numbers().IsMatch(button.Action.Split('?')[0])).ToList();
        using var stranger = await SignedIn(server, "stranger@school.example");
        using var nobody = new Visitor(server.Address);
        using var student = new Visitor(server.Address);
        foreach (var (who, visitor) in ((string, Visitor)[])[("a stranger", stranger), ("nobody", nobody), ("a student", student)])
        {
            var before = StateOf(server);
            foreach (var button in others)
            {
                var response = await Press(visitor, button);
                await IsAnswered(response, $"{who}: {button.Kind}");
                Assert.True(
                    response.StatusCode is HttpStatusCode.NotFound or HttpStatusCode.Forbidden or HttpStatusCode.BadRequest
                        || response.RequestMessage!.RequestUri!.AbsolutePath is "/sign-in",
                    $"{who}: {button.Kind}: {response.StatusCode}"
                );
            }
            Assert.True(before == StateOf(server), $"{who} changed something.");
        }

        // Who may some of it, and who may all: first what is kept as it is filled in, then with something typed into what is empty.
        using var owner = await SignedIn(server, "owner@school.example");
        using var substitute = await SignedIn(server, "substitute@school.example");
        foreach (var button in buttons.OrderBy(button => button.Turn))
        foreach (var (who, visitor) in ((string, Visitor)[])[("a substitute", substitute), ("an owner", owner), ("the teacher", teacher)])
        {
            if (visitor != teacher && !Numbers().IsMatch(button.Action.Split('?')[0]))
                continue;
            await IsAnswered(await Press(visitor, button), $"{who}: {button.Kind}");
            await IsAnswered(await Press(visitor, button, typed: "x"), $"{who}, typing: {button.Kind}");
        }
        using var afterwards = await new Visitor(server.Address).SignIn();
        foreach (var page in pages)
            await IsAnswered(await afterwards.Get(page), page);
    }

    [Fact]
    public async Task Each_of_a_student_is_pressed_by_somebody_new_and_by_somebody_who_was_here()
    {
        using var server = Start();
        using var teacher = await new Visitor(server.Address).SignIn();
        var codes = Regex
            .Matches(
                string.Join("", await Task.WhenAll(Enumerable.Range(1, 14).Select(i => teacher.Text($"/activities/{i}/share")))),
                "data-code=\"(\\w+)\""
            )
            .Select(match => match.Groups[1].Value)
            .Distinct()
            .ToList();
        Assert.InRange(codes.Count, 10, 100);
        foreach (var code in codes)
        {
            using var visitor = new Visitor(server.Address);
            await visitor.Get($"/do/{code}");
            foreach (
                var (name, word) in ((string, string)[])[("", ""), ("Nia Test", ""), ("Nia Test", "no such words here"), ("\ufffe", "\0")]
            )
                await IsAnswered(await visitor.Ask(code, "Join", ("name", name), ("word", word), ("yes", "true")), $"{code} Join {name}");
            foreach (var handler in (string[])["Begin", "Begin", "Go", "Nothing"])
                await IsAnswered(await visitor.Ask(code, handler, ("to", "1")), $"{code} {handler}");
            foreach (
                var query in (string[])["again=true", "handedIn=true", "mine=true", "gallery=true", "attempt=1", "attempt=-1", "attempt=x"]
            )
                await IsAnswered(await visitor.Get($"/do/{code}/now?{query}"), $"{code} {query}");
            await IsAnswered(await visitor.HandIn(code), $"{code} hand in");
            await IsAnswered(await visitor.Ask(code, ""), code);
        }
    }
}
