using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Copies, bundles, colleagues, starters, earlier versions, and what goes with cards and panes.</summary>
[Collection(nameof(Server))]
public sealed class SharingTests(Server server)
{
    private static async Task<JsonElement> Json(HttpResponseMessage response)
    {
        response.EnsureSuccessStatusCode();
        return JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync());
    }

    private static async Task<JsonNode> Draft(Visitor teacher, long id) =>
        JsonNode.Parse(await teacher.Text($"/activities/{id}?handler=Draft"))!;

    [Fact]
    public async Task An_activity_goes_out_as_a_file_and_comes_in_with_all_it_shows_and_plays()
    {
        var teacher = await server.Visitor().SignIn();
        // Sound signals, with four sounds and four pictures.
        var packed = await teacher.Get("/activities/3/bundle");
        Assert.Equal("application/zip", packed.Content.Headers.ContentType!.MediaType);
        Assert.Contains("Sound-signals.zip", packed.Content.Headers.ContentDisposition!.ToString());
        using var own = new RunningFenster();
        var other = await new Visitor(own.Address).SignIn();
        await other.Get("/activities");
        var response = await Send(other, await packed.Content.ReadAsByteArrayAsync());
        var id = long.Parse(response.RequestMessage!.RequestUri!.Segments[^1]);
        var document = (await Draft(other, id))["document"]!.ToJsonString();
        Assert.Contains("Two short blasts", document);
        foreach (var hash in Fenster.Formats.Bundles.Bundle.HashesIn(document))
            Assert.Equal(HttpStatusCode.OK, (await other.Get($"/media/{hash}/0")).StatusCode);
        // What is no bundle is a sentence on the page.
        var refused = await (await Send(other, "nonsense"u8.ToArray())).Content.ReadAsStringAsync();
        Assert.Contains("This file can't be read.", WebUtility.HtmlDecode(refused));
    }

    private static async Task<HttpResponseMessage> Send(Visitor teacher, byte[] bytes)
    {
        var page = await teacher.Text("/activities");
        var token = WebUtility.HtmlDecode(
            System.Text.RegularExpressions.Regex.Match(page, "name=\"form-token\" content=\"([^\"]*)\"").Groups[1].Value
        );
        var file = new ByteArrayContent(bytes) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } };
        return await teacher.Send(
            new(HttpMethod.Post, "/activities?handler=Bundle")
            {
                Content = new MultipartFormDataContent
                {
                    { file, "bundle", "a.zip" },
                    { new StringContent(token), "__RequestVerificationToken" },
                },
            }
        );
    }

    [Fact]
    public async Task A_colleague_is_let_in_and_given_a_copy_of_their_own()
    {
        var teacher = await server.Visitor().SignIn();
        await teacher.Get("/colleagues");
        var page = await (
            await teacher.Post("/colleagues", ("name", "Ada Low"), ("email", "ada@tideford.example"))
        ).Content.ReadAsStringAsync();
        Assert.Contains("Ada Low is let in", page);
        var link = new Uri(System.Text.RegularExpressions.Regex.Match(page, "id=\"link\"[^>]*value=\"([^\"]*)\"").Groups[1].Value);
        await teacher.Get("/activities/1/share");
        Assert.Contains(
            "Nobody with that address",
            await (
                await teacher.Post("/activities/1/share?handler=GiveCopy", ("email", "nobody@tideford.example"))
            ).Content.ReadAsStringAsync()
        );
        Assert.Contains(
            "Ada Low has a copy now",
            await (
                await teacher.Post("/activities/1/share?handler=GiveCopy", ("email", "ada@tideford.example"))
            ).Content.ReadAsStringAsync()
        );

        // The link chooses a password, once.
        var colleague = server.Visitor();
        await colleague.Get(link.AbsolutePath);
        Assert.Contains(
            "at least 10 characters",
            await (await colleague.Post(link.AbsolutePath, ("password", "low-water"))).Content.ReadAsStringAsync()
        );
        await colleague.Post(link.AbsolutePath, ("password", "low-water-mark"));
        Assert.Contains("works no more", await server.Visitor().Text(link.AbsolutePath));
        using var again = server.Visitor();
        await again.Get("/sign-in");
        await again.Post("/sign-in", ("Email", "ADA@tideford.example"), ("Password", "low-water-mark"));
        var theirs = WebUtility.HtmlDecode(await again.Text("/activities"));
        Assert.Contains("Coming in from sea", theirs);
        // The copy is theirs, the original is not.
        Assert.Equal(HttpStatusCode.NotFound, (await colleague.Get("/activities/1")).StatusCode);
        Assert.DoesNotContain("handed in", theirs);
    }

    [Fact]
    public async Task Each_starter_is_ready_to_be_tried_and_an_own_one_is_offered()
    {
        var teacher = await server.Visitor().SignIn();
        foreach (var starter in (string[])["label", "find", "match", "number-line", "circles", "collect", "explore"])
        {
            await teacher.Get("/activities");
            var response = await teacher.Post("/activities", ("title", $"From {starter}"), ("from", starter));
            var id = response.RequestMessage!.RequestUri!.Segments[^1];
            Assert.Contains("id=\"play-key\"", await teacher.Text($"/activities/{id}/try"));
        }
        var own = await teacher.Begin("My pattern");
        var document = JsonNode.Parse(Samples.Document(2))!;
        (document["isStarter"], document["keywords"]) = (true, new JsonArray("Knotting"));
        (await teacher.Save(own, 1, document.ToJsonString())).EnsureSuccessStatusCode();
        Assert.Contains($"<option value=\"{own}\">", await teacher.Text("/activities"));
        var begun = await teacher.Post("/activities", ("title", "From my pattern"), ("from", $"{own}"));
        var copy = long.Parse(begun.RequestMessage!.RequestUri!.Segments[^1]);
        var made = (await Draft(teacher, copy))["document"]!;
        Assert.Equal("From my pattern", (string?)made["title"]);
        Assert.False((bool?)made["isStarter"]);
        Assert.Equal(2, made["panes"]![0]!["targets"]!.AsArray().Count);

        // Found by its subject, by words, and by nothing else.
        Assert.Contains("From my pattern", await teacher.Text("/activities?subject=knotting"));
        Assert.DoesNotContain("From circles", await teacher.Text("/activities?subject=knotting"));
        Assert.Contains("From circles", await teacher.Text("/activities?words=from+CIRCLES"));
        Assert.Contains("Nothing found", await teacher.Text("/activities?words=nothing-like-it"));
        // A copy keeps everything but its title.
        await teacher.Get("/activities");
        var second = await teacher.Post($"/activities?handler=Copy&id={copy}");
        Assert.Equal(
            "From my pattern (copy)",
            (string?)(await Draft(teacher, long.Parse(second.RequestMessage!.RequestUri!.Segments[^1])))["document"]!["title"]
        );
    }

    [Fact]
    public async Task An_earlier_version_is_listed_looked_at_and_gone_back_to()
    {
        var teacher = await server.Visitor().SignIn();
        var id = await teacher.Begin("Versions");
        (await teacher.Save(id, 1, Samples.Document(2))).EnsureSuccessStatusCode();
        var page = await teacher.Text($"/activities/{id}/history");
        var slot = System.Text.RegularExpressions.Regex.Match(page, "name=\"slot\" value=\"(\\d+)\"").Groups[1].Value;
        Assert.Contains("1 picture, 2 rows", page);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get($"/activities/{id}/try/screen?at=1")).StatusCode);
        server.Fenster.Execute($"update draft_version set saved_at = saved_at - 1200000, slot = slot - 2 where activity_id = {id}");
        slot = $"{long.Parse(slot, System.Globalization.CultureInfo.InvariantCulture) - 1200000}";
        (await teacher.Save(id, 2, Samples.Document(3))).EnsureSuccessStatusCode();
        // From a page that is older than the draft nothing is gone back to.
        Assert.Contains(
            "changed meanwhile",
            await (await teacher.Post($"/activities/{id}/history", ("slot", slot), ("version", "2"))).Content.ReadAsStringAsync()
        );
        (await teacher.Post($"/activities/{id}/history", ("slot", slot), ("version", "3"))).EnsureSuccessStatusCode();
        Assert.Contains("1 picture, 3 rows", await teacher.Text($"/activities/{id}/history"));
        Assert.Equal(4, (int?)(await Draft(teacher, id))["version"]);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await teacher.Post($"/activities/{id}/history", ("slot", "1"), ("version", "4"))).StatusCode
        );
    }

    [Fact]
    public async Task A_save_is_answered_with_the_rules_in_words_and_the_proof()
    {
        var teacher = await server.Visitor().SignIn();
        var id = await teacher.Begin("Answered");
        var document = JsonNode.Parse(Samples.Document(2))!;
        document["instructions"] = "<p onclick=\"x()\">Do <b>it</b></p><script>x()</script>";
        var says = (await Json(await teacher.Save(id, 1, document.ToJsonString()))).GetProperty("says");
        Assert.Equal(
            "check.checks",
            says.GetProperty("rules")
                .GetProperty("check")
                .EnumerateArray()
                .Select(word => word.GetProperty("choice"))
                .First(choice => choice.ValueKind == JsonValueKind.Object)
                .GetProperty("path")
                .GetString()
        );
        Assert.Single(says.GetProperty("paneRules").EnumerateArray());
        Assert.Contains("guessing earns", says.GetProperty("guess").GetString());
        Assert.Contains(says.GetProperty("remarks").EnumerateArray(), remark => remark.GetProperty("mend").GetString() == "addDistractor");
        Assert.Equal("<p>Do <b>it</b></p>", (string?)(await Draft(teacher, id))["document"]!["instructions"]);
    }

    [Fact]
    public async Task A_board_hangs_with_its_scale_and_further_pictures_get_panes_of_their_own()
    {
        var teacher = await server.Visitor().SignIn();
        var id = await teacher.Begin("Boards");
        var wish = new
        {
            kind = "numberLine",
            from = 0,
            to = 12,
            step = 1,
            names = Array.Empty<string>(),
            colour = "#ffffff",
        };
        var board = await Json(await teacher.PostJson($"/activities/{id}/picture?handler=Board", wish));
        var picture = new
        {
            media = board.GetProperty("hash").GetString(),
            width = 1,
            height = 1,
            altText = "",
            credit = "",
            margins = new
            {
                left = 0,
                top = 0,
                right = 0,
                bottom = 0,
            },
            preparation = (object?)null,
        };
        await Json(
            await teacher.PostJson(
                $"/activities/{id}/picture?handler=Hang",
                new
                {
                    version = 1,
                    picture,
                    pane = 0,
                    board = wish,
                }
            )
        );
        var pane = (await Draft(teacher, id))["document"]!["panes"]![0]!;
        Assert.Equal(12, (double?)pane["scale"]!["x"]!["toValue"]);
        await Json(
            await teacher.PostJson(
                $"/activities/{id}/picture?handler=Panes",
                new
                {
                    version = 2,
                    pane = 0,
                    pictures = new[] { picture.media, picture.media },
                }
            )
        );
        Assert.Equal(3, (await Draft(teacher, id))["document"]!["panes"]!.AsArray().Count);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await teacher.PostJson(
                    $"/activities/{id}/picture?handler=Panes",
                    new
                    {
                        version = 3,
                        pane = 0,
                        pictures = new[] { new string('0', 64) },
                    }
                )
            ).StatusCode
        );
        // The shelf says where the board is used.
        Assert.Contains("usedIn", await teacher.Text($"/activities/{id}/picture"));
    }

    [Fact]
    public async Task Captions_and_videos_are_taken_by_what_they_are()
    {
        var teacher = await server.Visitor().SignIn();
        await teacher.Get("/activities/1");
        var captions = await Json(
            await teacher.PostAsScript(
                "/captions",
                new ByteArrayContent(Encoding.UTF8.GetBytes("WEBVTT\n\n00:01.000 --> 00:02.000\nHello\n"))
            )
        );
        var served = await teacher.Get($"/media/{captions.GetProperty("hash").GetString()}/0");
        Assert.Equal("text/vtt", served.Content.Headers.ContentType!.MediaType);
        foreach (var path in (string[])["/captions", "/videos", "/sounds"])
        {
            var refused = await teacher.PostAsScript(path, new ByteArrayContent("nonsense"u8.ToArray()));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.EndsWith(".", JsonNode.Parse(await refused.Content.ReadAsStringAsync())!["error"]!.GetValue<string>());
            Assert.Equal(HttpStatusCode.Unauthorized, (await server.Visitor().PostAsScript(path, new ByteArrayContent([1]))).StatusCode);
        }
    }

    [Fact]
    public async Task What_is_there_to_learn_from_is_never_handed_in()
    {
        var teacher = await server.Visitor().SignIn();
        var document = JsonNode.Parse(Samples.Document(2))!;
        document["purpose"] = "learningOnly";
        var (_, code) = await teacher.Publish(document.ToJsonString());
        var student = server.Visitor();
        var before = await (await student.Ask(code, "Join", ("name", "Learner"))).Content.ReadAsStringAsync();
        Assert.Contains("nothing is scored or handed in", before);
        var page = await (await student.Ask(code, "Begin")).Content.ReadAsStringAsync();
        Assert.Contains("data-view", page);
        Assert.DoesNotContain("id=\"hand-in\"", page);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await student.HandIn(code)).StatusCode);
    }
}
