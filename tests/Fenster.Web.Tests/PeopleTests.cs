using System.Net;
using System.Text.RegularExpressions;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Who may do what, for how long, from where, and what becomes of what they delete.</summary>
public sealed partial class PeopleTests : IDisposable
{
    private readonly RunningFenster fenster = new();

    public void Dispose() => fenster.Dispose();

    private Visitor Visitor(bool followRedirects = true) => new(fenster.Address, followRedirects);

    [GeneratedRegex("id=\"link\"[^>]*value=\"([^\"]*)\"")]
    private static partial Regex Link { get; }

    [GeneratedRegex("results/(\\d+)\"")]
    private static partial Regex Attempt { get; }

    [GeneratedRegex("id=\"word\">([^<]*)<")]
    private static partial Regex Words { get; }

    private static async Task<string> Said(Task<HttpResponseMessage> response) =>
        WebUtility.HtmlDecode(await (await response).Content.ReadAsStringAsync());

    private static async Task<bool> IsIn(Visitor teacher) => (await teacher.Text("/account")).Contains("id=\"old\"");

    /// <summary>Somebody who was let in and has chosen a password.</summary>
    private async Task<Visitor> LetIn(Visitor administrator, string name, string email, string password)
    {
        await administrator.Get("/colleagues");
        var page = await Said(administrator.Post("/colleagues", ("name", name), ("email", email)));
        return await Choose(page, password);
    }

    private async Task<Visitor> Choose(string page, string password)
    {
        var path = new Uri(Link.Match(page).Groups[1].Value).AbsolutePath;
        var visitor = Visitor();
        await visitor.Get(path);
        (await visitor.Post(path, ("password", password))).EnsureSuccessStatusCode();
        return visitor;
    }

    [Fact]
    public async Task Only_administrators_let_in_give_roles_and_remove_and_one_is_always_left()
    {
        using var first = await Visitor().SignIn();
        using var ada = await LetIn(first, "Ada Low", "ada@tideford.example", "low-water-mark");
        Assert.True(await IsIn(ada));
        await ada.Get("/colleagues");
        foreach (
            var act in (string[])
                ["/colleagues", "/colleagues?handler=Link&id=1", "/colleagues?handler=Role&id=3", "/colleagues?handler=Remove&id=1"]
        )
            Assert.Equal(
                HttpStatusCode.NotFound,
                (await ada.Post(act, ("name", "X"), ("email", "x@tideford.example"), ("role", "administrator"), ("heir", "3"))).StatusCode
            );

        await first.Get("/colleagues");
        Assert.Contains("Somebody has to be administrator", await Said(first.Post("/colleagues?handler=Role&id=1", ("role", "teacher"))));
        Assert.Contains("Somebody has to be administrator", await Said(first.Post("/colleagues?handler=Remove&id=1", ("heir", "3"))));
        await first.Post("/colleagues?handler=Role&id=3", ("role", "administrator"));
        // The role is that of this moment, without signing in again.
        Assert.Contains("Let a colleague in", await ada.Text("/colleagues"));
        await ada.Post("/colleagues?handler=Role&id=1", ("role", "teacher"));
        Assert.Equal(HttpStatusCode.NotFound, (await first.Post("/colleagues?handler=Link&id=3")).StatusCode);

        // Who is removed is signed out at once; the activities go to whom the administrator says.
        await ada.Post("/colleagues?handler=Remove&id=1", ("heir", "3"));
        Assert.False(await IsIn(first));
        Assert.Contains("Coming in from sea", await ada.Text("/activities"));
    }

    [Fact]
    public async Task A_new_password_ends_every_other_session_and_signing_out_ends_its_own_for_good()
    {
        using var here = await Visitor().SignIn();
        using var there = await Visitor().SignIn();
        await here.Get("/account");
        Assert.Contains("is another one", await Said(here.Post("/account", ("old", "wrong"), ("password", "high-water-mark"))));
        Assert.Contains("is too short", await Said(here.Post("/account", ("old", RunningFenster.DemoPassword), ("password", "short"))));
        Assert.True(await IsIn(there));
        Assert.Contains(
            "is changed",
            await Said(here.Post("/account", ("old", RunningFenster.DemoPassword), ("password", "high-water-mark")))
        );
        Assert.True(await IsIn(here));
        Assert.False(await IsIn(there));

        // A cookie that was copied before signing out is worth nothing after it.
        using var plain = Visitor(followRedirects: false);
        await plain.Get("/sign-in");
        var answer = await plain.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", "high-water-mark"));
        var cookie = answer
            .Headers.GetValues("Set-Cookie")
            .First(c => c.StartsWith("fenster-teacher=", StringComparison.Ordinal))
            .Split(';')[0];
        async Task<HttpStatusCode> WithCopy()
        {
            using var http = new HttpClient(new SocketsHttpHandler { UseCookies = false, AllowAutoRedirect = false });
            var request = new HttpRequestMessage(HttpMethod.Get, new Uri(fenster.Address, "/activities"));
            request.Headers.Add("Cookie", cookie);
            return (await http.SendAsync(request)).StatusCode;
        }
        Assert.Equal(HttpStatusCode.OK, await WithCopy());
        await plain.Get("/activities");
        await plain.Post("/sign-out");
        Assert.Equal(HttpStatusCode.Found, await WithCopy());
    }

    [Fact]
    public async Task A_link_for_a_new_password_works_once_and_for_two_days()
    {
        using var first = await Visitor().SignIn();
        using var ada = await LetIn(first, "Ada Low", "ada@tideford.example", "low-water-mark");
        await first.Get("/colleagues");
        var old = await Said(first.Post("/colleagues?handler=Link&id=3"));
        var page = await Said(first.Post("/colleagues?handler=Link&id=3"));
        using var again = await Choose(page, "neap-tide-mark");
        Assert.True(await IsIn(again));
        Assert.False(await IsIn(ada));
        foreach (var used in (string[])[page, old])
            Assert.Contains("works no more", await Visitor().Text(new Uri(Link.Match(used).Groups[1].Value).AbsolutePath));
        var late = await Said(first.Post("/colleagues?handler=Link&id=3"));
        fenster.Execute("update teacher set link_until = 1 where link_until is not null");
        Assert.Contains("works no more", await Visitor().Text(new Uri(Link.Match(late).Groups[1].Value).AbsolutePath));
        Assert.Contains("works no more", await Visitor().Text("/new-password/nonsense"));
    }

    [Fact]
    public async Task A_device_that_was_in_before_does_not_wait_for_what_others_guess()
    {
        using var known = await Visitor().SignIn();
        await known.Get("/activities");
        await known.Post("/sign-out");
        using var stranger = Visitor();
        await stranger.Get("/sign-in");
        var said = "";
        for (var i = 0; i < 60 && !said.Contains("Too many wrong passwords", StringComparison.Ordinal); i++)
            said = await Said(stranger.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", $"guess-{i}")));
        Assert.Contains("Too many wrong passwords", said);
        // Even the right password waits, from there.
        await stranger.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", RunningFenster.DemoPassword));
        Assert.False(await IsIn(stranger));
        await known.SignIn();
        Assert.True(await IsIn(known));
    }

    [Fact]
    public async Task Another_device_is_let_in_by_two_words_that_the_teacher_can_make_anew()
    {
        using var teacher = await Visitor().SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        using var phone = Visitor();
        await phone.Join(code, "Ada");
        await phone.Move(code, "k1", "l1", "z1");
        using var laptop = Visitor();
        Assert.Contains("is here already", await Said(laptop.Ask(code, "Join", ("name", "Ada"))));
        var attempt = Attempt.Match(await teacher.Text($"/activities/{id}/results")).Groups[1].Value;
        var old = Words.Match(await teacher.Text($"/activities/{id}/results/{attempt}")).Groups[1].Value;
        var words = Words.Match(await Said(teacher.Post($"/activities/{id}/results/{attempt}?handler=LetIn"))).Groups[1].Value;
        Assert.Equal(Store.PersonalWords.Together, words.Split(' ').Length);
        Assert.NotEqual(old, words);
        Assert.Contains("Those are not the words", await Said(laptop.Ask(code, "Join", ("name", "Ada"), ("word", old))));
        await laptop.Ask(code, "Join", ("name", "Ada"), ("word", $" {words.ToUpperInvariant()} "));
        Assert.Equal(HttpStatusCode.OK, (await laptop.Move(code, "k2", "l2", "z2")).StatusCode);
        // The phone is out, until it knows them too.
        Assert.Equal(HttpStatusCode.Forbidden, (await phone.Move(code, "k3", "l3", "z3")).StatusCode);
        await phone.Ask(code, "Join", ("name", "Ada"), ("word", words));
        Assert.Equal(HttpStatusCode.OK, (await phone.Move(code, "k3", "l3", "z3")).StatusCode);
    }

    [Fact]
    public async Task What_is_deleted_comes_back_with_all_its_work()
    {
        using var teacher = await Visitor().SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        using var student = Visitor();
        await student.Join(code, "Ada");
        await student.Move(code, "k1", "l1", "z1");
        var attempt = Attempt.Match(await teacher.Text($"/activities/{id}/results")).Groups[1].Value;

        await teacher.Get($"/activities/{id}/results/{attempt}");
        await teacher.Post($"/activities/{id}/results/{attempt}?handler=Delete");
        Assert.DoesNotContain("Ada", await teacher.Text($"/activities/{id}/results"));
        Assert.Equal(HttpStatusCode.Forbidden, (await student.Move(code, "k2", "l2", "z2")).StatusCode);
        var work = System.Text.RegularExpressions.Regex.Match(
            await teacher.Text("/deleted"),
            "value=\"work\">\\s*<input[^>]*value=\"(\\d+)\""
        );
        await teacher.Post("/deleted", ("kind", "work"), ("id", work.Groups[1].Value));
        Assert.Contains("Ada", await teacher.Text($"/activities/{id}/results"));
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k2", "l2", "z2")).StatusCode);

        await teacher.Get("/activities");
        Assert.Contains("Bring it back", await Said(teacher.Post($"/activities?handler=Delete&id={id}")));
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get($"/activities/{id}")).StatusCode);
        Assert.Contains("no activity with the code", await Visitor().Text($"/join/{code}"));
        await teacher.Get("/deleted");
        await teacher.Post("/deleted", ("kind", "activity"), ("id", $"{id}"));
        Assert.Equal(HttpStatusCode.OK, (await teacher.Get($"/activities/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k3", "l3", "z3")).StatusCode);
        // Nobody brings back, or deletes, what is another's.
        using var ada = await LetIn(teacher, "Ada Low", "ada@tideford.example", "low-water-mark");
        await ada.Get("/activities");
        Assert.Equal(HttpStatusCode.NotFound, (await ada.Post($"/activities?handler=Delete&id={id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await ada.Post("/deleted", ("kind", "activity"), ("id", $"{id}"))).StatusCode);
    }
}
