using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Shapes and drawings that are found in pictures, over HTTP.</summary>
[Collection(nameof(Server))]
public sealed class ShapeTests(Server server)
{
    private static byte[] Harbour() =>
        File.ReadAllBytes(Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg"));

    private async Task<(Visitor Teacher, long Id)> WithHarbour()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Shapes");
        var uploaded = await Json(await teacher.Upload(Harbour()));
        await teacher.Save(id, 1, Samples.Document(1, uploaded.GetProperty("hash").GetString()!));
        return (teacher, id);
    }

    private static async Task<JsonElement> Json(HttpResponseMessage response) =>
        JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync());

    private static Task<HttpResponseMessage> Ask(Visitor teacher, long id, int pane, double x, double y, double? reach = null) =>
        teacher.PostJson(
            $"/activities/{id}?handler=Shape",
            new
            {
                pane,
                at = new { x, y },
                reach,
            }
        );

    [Fact]
    public async Task The_red_buoy_is_a_shape_and_a_point_off_the_picture_is_none()
    {
        var (teacher, id) = await WithHarbour();
        var found = await Json(await Ask(teacher, id, 0, 290, 410));
        Assert.Equal("polygon", found.GetProperty("region").GetProperty("kind").GetString());
        Assert.InRange(found.GetProperty("region").GetProperty("vertices").GetArrayLength(), 3, 60);
        Assert.Equal(JsonValueKind.Null, (await Json(await Ask(teacher, id, 0, -50, 400))).GetProperty("region").ValueKind);
    }

    [Fact]
    public async Task What_makes_no_sense_is_refused_and_nobody_elses_picture_is_looked_at()
    {
        var (teacher, id) = await WithHarbour();
        Assert.Equal(HttpStatusCode.NotFound, (await Ask(teacher, id, 5, 1, 1)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await Ask(teacher, id + 1000, 0, 1, 1)).StatusCode);
        foreach (var reach in (double[])[-1, 256, 1e300])
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await Ask(teacher, id, 0, 290, 410, reach)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await Ask(teacher, id, 0, 1e300, -1e300)).StatusCode);
        var nothing = await teacher.PostAsScript($"/activities/{id}?handler=Shape", new StringContent("null", null, "application/json"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nothing.StatusCode);
    }

    [Fact]
    public async Task A_sheet_is_sent_as_pixels_and_what_is_no_picture_is_said()
    {
        var (teacher, id) = await WithHarbour();
        var found = await Json(await teacher.PostAsScript($"/activities/{id}?handler=Sheet", new ByteArrayContent(Harbour())));
        Assert.Equal(0, found.GetProperty("parts").GetArrayLength());
        Assert.InRange(found.GetProperty("width").GetInt32(), 1, 1600);
        foreach (var handler in (string[])["Sheet", "Drawn&pane=0"])
        {
            var refused = await teacher.PostAsScript($"/activities/{id}?handler={handler}", new ByteArrayContent([1, 2, 3]));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.Contains("picture", await refused.Content.ReadAsStringAsync());
        }
    }
}
