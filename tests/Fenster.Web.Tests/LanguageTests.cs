using System.Net;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Whose language a page speaks, and whose clock it tells.</summary>
[Collection(nameof(Server))]
public sealed class LanguageTests(Server server)
{
    private static string In(string language)
    {
        var node = JsonNode.Parse(Samples.Document(3))!;
        node["language"] = language;
        return node.ToJsonString();
    }

    private static async Task<Visitor> Reading(Visitor visitor, string languages)
    {
        visitor.Reads(languages);
        await visitor.Get("/sign-in");
        return visitor;
    }

    [Theory]
    [InlineData("de", "Abgeben", "Jede Zone zählt 1 Punkt, alle zusammen 3 Punkte.")]
    [InlineData("fr-CA", "Rendre", "Chaque zone vaut 1 point, 3 points en tout.")]
    [InlineData("es", "Entregar", "Cada zona vale 1 punto, 3 puntos en total.")]
    [InlineData("ar", "تسليم", "قيمة كل منطقة: \u2068نقطة واحدة\u2069، والمجموع: \u20683 نقاط\u2069.")]
    [InlineData("la", "Hand in", "Each zone is worth 1 point, 3 points in all.")]
    public async Task Students_read_the_activitys_language_whatever_their_browser_asks_for(string language, string handIn, string rule)
    {
        using var teacher = await server.Visitor().SignIn();
        var (_, code) = await teacher.Publish(In(language));
        using var student = await Reading(server.Visitor(), "en");
        var before = await student.Ask(code, "Join", ("name", "Ada"));
        Assert.Contains(rule, WebUtility.HtmlDecode(await before.Content.ReadAsStringAsync()));
        var working = await student.Ask(code, "Begin");
        var page = WebUtility.HtmlDecode(await student.Text($"/do/{code}") + await working.Content.ReadAsStringAsync());
        Assert.Contains($">{handIn}<", page);
        Assert.Contains(language == "la" ? "<html lang=\"en\"" : $"<html lang=\"{language[..2]}\"", page);
        // What the teacher wrote is marked where the words around it are of another language.
        Assert.Equal(language == "la", page.Contains("<h1 lang=\"la\">", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_move_that_is_refused_is_told_in_the_activitys_language()
    {
        using var teacher = await server.Visitor().SignIn();
        var (_, code) = await teacher.Publish(In("de"));
        using var student = server.Visitor();
        await student.Join(code, "Ada");
        var answer = JsonNode.Parse(await (await student.Move(code, "k1", "nowhere", "z1")).Content.ReadAsStringAsync())!;
        Assert.Equal("Dieses Etikett gehört nicht zu diesem Bild.", answer["refused"]![0]!["sentence"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_teacher_reads_the_browsers_language_until_another_is_chosen_and_English_where_there_is_none()
    {
        using var teacher = await Reading(await server.Visitor().SignIn(), "de-AT, en;q=0.5");
        Assert.Contains("<h1>Aufgaben</h1>", await teacher.Text("/activities"));
        teacher.Reads("fr");
        Assert.Contains("<h1>Activities</h1>", await teacher.Text("/activities"));
        await teacher.Get("/account");
        await teacher.Post("/account?handler=Preferences", ("language", "de"), ("zone", "Pacific/Auckland"));
        try
        {
            Assert.Contains("<h1>Aufgaben</h1>", await teacher.Text("/activities"));
            Assert.DoesNotContain(" UTC", await teacher.Text("/activities/1/results"));
            var refused = await teacher.Post("/account?handler=Preferences", ("language", "xx"), ("zone", ""));
            Assert.Contains("steht nicht zur Wahl", WebUtility.HtmlDecode(await refused.Content.ReadAsStringAsync()));
        }
        finally
        {
            await teacher.Get("/account");
            await teacher.Post("/account?handler=Preferences", ("language", ""), ("zone", ""));
        }
        Assert.Contains("<h1>Activities</h1>", await teacher.Text("/activities"));
    }

    [Fact]
    public async Task Times_are_told_by_the_clock_where_the_browser_is_and_named_where_that_is_not_known()
    {
        using var teacher = await server.Visitor().SignIn();
        Assert.Contains(" UTC", await teacher.Text("/activities/1/results"));
        teacher.Keeps("fenster-zone", "Pacific/Kiritimati");
        Assert.DoesNotContain(" UTC", await teacher.Text("/activities/1/results"));
        // What is no zone, or a file that never ends, is none.
        foreach (var zone in (string[])["Nowhere/Here", "Europe/../Here", "../../../dev/zero", "/dev/zero", "Europe", "Europe/"])
        {
            teacher.Keeps("fenster-zone", zone);
            Assert.Contains(" UTC", await teacher.Text("/activities/1/results"));
        }
    }

    [Fact]
    public async Task Who_has_no_activity_yet_is_spoken_to_in_the_browsers_language()
    {
        using var nobody = await Reading(server.Visitor(), "es");
        Assert.Contains("¿Qué actividad?", WebUtility.HtmlDecode(await nobody.Text("/")));
        Assert.Contains("No hay ninguna actividad con el código NADA", WebUtility.HtmlDecode(await nobody.Text("/join/nada")));
        Assert.Contains("Aquí no hay nada", WebUtility.HtmlDecode(await nobody.Text("/nowhere")));
        // What teachers read there is in a language that teachers' pages have.
        Assert.Contains("<h1>Sign in</h1>", await nobody.Text("/sign-in"));
        using var german = await Reading(server.Visitor(), "de");
        Assert.Contains("<h1>Anmelden</h1>", await german.Text("/sign-in"));
    }
}
