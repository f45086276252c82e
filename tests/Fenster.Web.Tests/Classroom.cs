using System.Globalization;
using System.Net;
using System.Text.Json;
using Fenster.Store;
using Fenster.Testing;
using Fenster.Web.Pages;

namespace Fenster.Web.Tests;

/// <summary>A server with its first teacher, a class, and what was given to it: what many tests begin with.</summary>
internal sealed class Classroom : IDisposable
{
    public FensterWithClock Fenster { get; } = new();
    public Visitor Teacher { get; private set; } = null!;
    public long Group { get; private set; }
    public Dictionary<string, Member> Members { get; private set; } = [];
    public long Id { get; set; }
    public Assignment Given => Fenster.Get<Assignments>().Of(Id)[0];
    public string Code => Given.Code;

    public T Get<T>()
        where T : notnull => Fenster.Get<T>();

    /// <param name="document">What is given to the class; null for nothing.</param>
    public static async Task<Classroom> Open(string? document, params string[] names)
    {
        var room = new Classroom();
        room.Teacher = await new Visitor(room.Fenster.Address).SignIn();
        room.Group = await MakeClass(room.Teacher, "8b", names);
        var classes = room.Get<Classes>();
        room.Members = classes.Members(classes.One(1, room.Group)!).ToDictionary(member => member.Name);
        if (document is not null)
            room.Id = await room.Give(room.Teacher, document, room.Group);
        return room;
    }

    public static async Task<long> MakeClass(Visitor teacher, string name, params string[] names)
    {
        await teacher.Get("/classes");
        var made = await teacher.Post("/classes", ("name", name), ("language", "en"));
        var id = long.Parse(made.RequestMessage!.RequestUri!.Segments[^1], CultureInfo.InvariantCulture);
        await teacher.Post($"/classes/{id}?handler=Take", ("names", string.Join('\n', names)));
        return id;
    }

    /// <summary>Makes an activity and gives it.</summary>
    /// <param name="to">A class; 0 for whoever has the code.</param>
    public async Task<long> Give(Visitor teacher, string document, long to)
    {
        var id = await teacher.Begin("An activity");
        (await teacher.Save(id, 1, document)).EnsureSuccessStatusCode();
        await teacher.Get($"/activities/{id}/share");
        await teacher.Post($"/activities/{id}/share?handler=Give", ("to", $"{to}"));
        return id;
    }

    public async Task Set(string path, string value, string was = "")
    {
        await Teacher.Get($"/activities/{Id}/share");
        var page = await Teacher.Post(
            $"/activities/{Id}/share?handler=Set",
            ("assignment", $"{Given.Id}"),
            ("path", path),
            ("value", value),
            ("was", was)
        );
        Assert.DoesNotContain("role=\"alert\"", await page.Content.ReadAsStringAsync());
    }

    /// <summary>A colleague on the same server, signed in.</summary>
    public async Task<Visitor> Colleague(string name)
    {
        Get<Teachers>().Add($"{name}@school.example", name, SignInModel.Hasher.HashPassword(null!, RunningFenster.DemoPassword));
        var colleague = new Visitor(Fenster.Address);
        await colleague.Get("/sign-in");
        await colleague.Post("/sign-in", ("Email", $"{name}@school.example"), ("Password", RunningFenster.DemoPassword));
        return colleague;
    }

    /// <summary>A member who has begun on a device of their own.</summary>
    public async Task<Visitor> Begins(string name)
    {
        var student = new Visitor(Fenster.Address);
        await student.Ask(Code, "Join", ("word", Members[name].Word), ("yes", "true"));
        await student.Ask(Code, "Begin");
        return student;
    }

    /// <summary>Puts so many of the labels "Part n" where they belong, and hands in.</summary>
    public async Task Does(Visitor student, int attempt, int right)
    {
        if (attempt > 1)
            await student.Ask(Code, "Begin");
        var view = await student.View(Code);
        for (var part = 1; part <= right; part++)
            (
                await student.Move(Code, $"a{attempt}.k{part}", LabelOf(view, $"Part {part}"), $"z{part}", attempt: attempt)
            ).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, (await student.HandIn(Code, attempt: attempt)).StatusCode);
    }

    public static string LabelOf(JsonElement view, string text) =>
        view.GetProperty("panes")[0]
            .GetProperty("labels")
            .EnumerateArray()
            .Single(label => label.GetProperty("text").GetString() == text)
            .GetProperty("id")
            .GetString()!;

    public static async Task<string> Said(Task<HttpResponseMessage> response) =>
        WebUtility.HtmlDecode(await (await response).Content.ReadAsStringAsync());

    public void Dispose()
    {
        Teacher.Dispose();
        Fenster.Dispose();
    }
}
