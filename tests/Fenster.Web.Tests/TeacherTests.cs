using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Web.Tests;

[Collection(nameof(Server))]
public sealed class TeacherTests(Server server)
{
    [Fact]
    public async Task It_answers_when_it_is_ready() => Assert.Equal("Healthy", await server.Visitor().Text("/healthz"));

    [Theory]
    [InlineData("/activities")]
    [InlineData("/activities/1")]
    [InlineData("/activities/1/try")]
    [InlineData("/activities/1/share")]
    [InlineData("/activities/1/results")]
    [InlineData("/activities/1/results/1")]
    public async Task Nobody_sees_a_teachers_page_without_signing_in(string path)
    {
        var response = await server.Visitor(followRedirects: false).Get(path);
        Assert.Equal(HttpStatusCode.Redirect, response.StatusCode);
        Assert.StartsWith("/sign-in", response.Headers.Location!.OriginalString);
    }

    [Fact]
    public async Task A_script_without_a_session_is_told_that_nothing_is_lost()
    {
        var visitor = server.Visitor();
        await visitor.Get("/sign-in");
        var response = await visitor.Save(1, 1, Samples.Document(1));
        Assert.Equal(HttpStatusCode.Unauthorized, response.StatusCode);
        Assert.Contains("nothing is lost", await response.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_wrong_password_is_a_clear_sentence_and_many_are_slowed_down()
    {
        using var own = new RunningFenster();
        var visitor = new Visitor(own.Address);
        await visitor.Get("/sign-in");
        async Task<string> Try() =>
            await (await visitor.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", "guess"))).Content.ReadAsStringAsync();
        Assert.Contains("belong together", WebUtility.HtmlDecode(await Try()));
        for (var i = 1; i < 20; i++)
            await Try();
        Assert.Contains("Too many wrong passwords", await Try());
        var right = await visitor.Post("/sign-in", ("Email", RunningFenster.DemoEmail), ("Password", RunningFenster.DemoPassword));
        Assert.Contains("Too many wrong passwords", await right.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task The_first_run_makes_the_first_teacher_and_no_second_one()
    {
        using var own = new RunningFenster(demo: false);
        var visitor = new Visitor(own.Address);
        Assert.Contains("The first teacher", await visitor.Text("/"));
        Assert.Contains(
            "too short",
            await (
                await visitor.Post(
                    "/first-run",
                    ("Words", own.FirstWords),
                    ("Name", "T"),
                    ("Email", "t@school.example"),
                    ("Password", "short")
                )
            ).Content.ReadAsStringAsync()
        );
        // Whoever comes first by the network alone is not let in.
        foreach (var words in (string[])["", "no such words here", own.FirstWords + " more"])
            Assert.Contains(
                "not the first words",
                await (
                    await visitor.Post(
                        "/first-run",
                        ("Words", words),
                        ("Name", "T"),
                        ("Email", "t@school.example"),
                        ("Password", "long enough")
                    )
                ).Content.ReadAsStringAsync()
            );
        var made = await visitor.Post(
            "/first-run",
            ("Words", own.FirstWords.ToUpperInvariant()),
            ("Name", "T"),
            ("Email", "t@school.example"),
            ("Password", "long enough")
        );
        Assert.EndsWith("/activities", made.RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Contains("Your first activity", await made.Content.ReadAsStringAsync());
        var other = new Visitor(own.Address);
        Assert.EndsWith("/sign-in", (await other.Get("/first-run")).RequestMessage!.RequestUri!.AbsolutePath);
        Assert.EndsWith(
            "/sign-in",
            (
                await other.Post(
                    "/first-run",
                    ("Words", own.FirstWords),
                    ("Name", "U"),
                    ("Email", "u@school.example"),
                    ("Password", "long enough")
                )
            )
                .RequestMessage!
                .RequestUri!
                .AbsolutePath
        );
    }

    [Theory]
    [InlineData("", "Type a title first")]
    [InlineData("   ", "Type a title first")]
    public async Task An_empty_title_gets_a_sentence(string title, string words)
    {
        var teacher = await server.Teacher();
        Assert.Contains(words, await (await teacher.Post("/activities", ("title", title))).Content.ReadAsStringAsync());
        Assert.Contains("too long", await (await teacher.Post("/activities", ("title", new string('x', 201)))).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_form_without_its_token_changes_nothing()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Mine");
        var save = new HttpRequestMessage(HttpMethod.Post, $"/activities/{id}?handler=Save")
        {
            Content = new StringContent("""{"version":1,"document":{"fenster":1,"title":"Theirs"}}""", Encoding.UTF8, "application/json"),
        };
        Assert.Equal(HttpStatusCode.BadRequest, (await teacher.Send(save)).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await teacher.Send(new(HttpMethod.Post, "/pictures") { Content = new ByteArrayContent([1]) })).StatusCode
        );
        Assert.DoesNotContain("Theirs", await teacher.Text("/activities"));
    }

    [Fact]
    public async Task A_second_window_is_told_and_overwrites_nothing()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Two windows");
        Assert.Equal(HttpStatusCode.OK, (await teacher.Save(id, 1, Samples.Document(1))).StatusCode);
        var second = await teacher.Save(id, 1, Samples.Document(2));
        Assert.Equal(HttpStatusCode.Conflict, second.StatusCode);
        var answer = JsonSerializer.Deserialize<JsonElement>(await second.Content.ReadAsStringAsync());
        Assert.Equal(2, answer.GetProperty("version").GetInt64());
        Assert.Contains("another window", answer.GetProperty("error").GetString());
        Assert.Equal(HttpStatusCode.OK, (await teacher.Save(id, 2, Samples.Document(2))).StatusCode);
    }

    [Fact]
    public async Task A_picture_that_is_lost_is_said_before_publishing()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Lost picture");
        await teacher.Save(id, 1, Samples.Document(1, new string('0', 64)));
        Assert.Contains("can't be found on the server", WebUtility.HtmlDecode(await teacher.Text($"/activities/{id}/share")));
        var uploaded = JsonSerializer.Deserialize<JsonElement>(
            await (
                await teacher.Upload(
                    await File.ReadAllBytesAsync(
                        Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg")
                    )
                )
            ).Content.ReadAsStringAsync()
        );
        await teacher.Save(id, 2, Samples.Document(1, uploaded.GetProperty("hash").GetString()!));
        Assert.DoesNotContain("be found on the server", await teacher.Text($"/activities/{id}/share"));
    }

    [Fact]
    public async Task A_save_that_is_sent_again_because_its_answer_was_lost_is_no_second_window()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Sent twice");
        await teacher.Save(id, 1, Samples.Document(1));
        var again = await teacher.Save(id, 1, Samples.Document(1));
        Assert.Equal(HttpStatusCode.OK, again.StatusCode);
        Assert.Equal(2, JsonSerializer.Deserialize<JsonElement>(await again.Content.ReadAsStringAsync()).GetProperty("version").GetInt64());
    }

    [Fact]
    public async Task Of_panes_that_are_named_nothing_is_said_again_until_something_that_concerns_them_changes()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("In parts");
        var document = JsonNode.Parse(Samples.Document(2))!;
        var panes = document["panes"]!.AsArray();
        panes.Add(panes[0]!.DeepClone());
        panes[1]!["id"] = "second";
        var first = await Says(1);
        Assert.DoesNotContain(JsonValueKind.Null, first.Rules);
        Assert.Equal([0, 1], first.About.Distinct());

        panes[1] = "second";
        panes[0]!["labels"]![0]!["text"] = "Another";
        var second = await Says(2);
        Assert.Equal([JsonValueKind.Object, JsonValueKind.Null], second.Rules);
        Assert.Equal([0], second.About.Distinct());

        // What was saved already may not have been heard.
        var again = await Says(2);
        Assert.DoesNotContain(JsonValueKind.Null, again.Rules);
        // Other rules concern every pane.
        document["rules"]!["check"]!["checks"] = 7;
        var ruled = await Says(3);
        Assert.DoesNotContain(JsonValueKind.Null, ruled.Rules);

        panes[1] = "third";
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await teacher.Save(id, 4, document.ToJsonString())).StatusCode);

        async Task<(JsonValueKind[] Rules, int[] About)> Says(long version)
        {
            var response = await teacher.Save(id, version, document.ToJsonString());
            var says = JsonSerializer
                .Deserialize<JsonElement>(await response.EnsureSuccessStatusCode().Content.ReadAsStringAsync())
                .GetProperty("says");
            return (
                [.. says.GetProperty("paneRules").EnumerateArray().Select(rules => rules.ValueKind)],
                [.. says.GetProperty("remarks").EnumerateArray().Select(remark => remark.GetProperty("pane").GetInt32())]
            );
        }
    }

    [Fact]
    public async Task A_document_that_can_not_be_read_is_refused_with_its_place()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Bad input");
        var response = await teacher.Save(id, 1, Samples.Document(1).Replace("\"width\":150", "\"width\":-1"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, response.StatusCode);
        Assert.Contains("has no size", await response.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Without_a_zone_nothing_is_published()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Empty");
        Assert.Contains("no picture yet", await teacher.Text($"/activities/{id}/share"));
        var published = await teacher.Post($"/activities/{id}/share?handler=Give", ("to", "0"));
        Assert.DoesNotContain("join-code", await published.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Another_teachers_work_is_nowhere_to_be_found()
    {
        var teacher = await server.Teacher();
        foreach (
            var path in (string[])
                [
                    "/activities/999999",
                    "/activities/999999/share",
                    "/activities/999999/try",
                    "/activities/999999/results",
                    "/activities/1/results/999999",
                    "/activities/1?handler=Draft&id=999999",
                ]
        )
            Assert.Equal(path.Contains("Draft") ? HttpStatusCode.OK : HttpStatusCode.NotFound, (await teacher.Get(path)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Save(999999, 1, Samples.Document(1))).StatusCode);
    }

    public static TheoryData<string, byte[]> NoPictures =>
        new()
        {
            { "is empty", [] },
            { "web page", "<html><body>picture.png</body></html>"u8.ToArray() },
            { "not a picture", Encoding.UTF8.GetBytes(new string('x', 5000)) },
        };

    [Theory, MemberData(nameof(NoPictures))]
    public async Task What_is_no_picture_gets_a_sentence(string words, byte[] bytes)
    {
        var teacher = await server.Teacher();
        var response = await teacher.Upload(bytes);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, response.StatusCode);
        Assert.Contains(words, await response.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Sixty_megabytes_get_a_sentence_and_not_a_broken_connection()
    {
        var teacher = await server.Teacher();
        var response = await teacher.Upload(new byte[60 * 1024 * 1024]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, response.StatusCode);
        Assert.Contains("larger than 50 MB", await response.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_picture_comes_back_in_the_size_asked_for_and_may_be_kept_for_good()
    {
        var teacher = await server.Teacher();
        var photograph = await File.ReadAllBytesAsync(
            Path.Combine(RunningFenster.Repository, "demo/sailing-school/pictures/harbour-entrance.jpg")
        );
        var stored = JsonSerializer.Deserialize<JsonElement>(await (await teacher.Upload(photograph)).Content.ReadAsStringAsync());
        Assert.Equal((1600, 1000), (stored.GetProperty("width").GetInt32(), stored.GetProperty("height").GetInt32()));
        var small = await server.Visitor().Get($"/media/{stored.GetProperty("hash").GetString()}/480");
        Assert.Equal("image/jpeg", small.Content.Headers.ContentType!.MediaType);
        Assert.Contains("immutable", small.Headers.CacheControl!.ToString());
        Assert.True(small.Content.Headers.ContentLength < photograph.Length / 4);
        Assert.Equal(HttpStatusCode.NotFound, (await server.Visitor().Get("/media/..%2f..%2fkeys/480")).StatusCode);
    }

    [Fact]
    public async Task Results_are_a_table_and_a_file()
    {
        var teacher = await server.Teacher();
        var page = await teacher.Text("/activities/1/results");
        Assert.Contains("<b>16</b> of <b>18</b> handed in", page);
        Assert.Contains("Amara Quill", page);
        var file = await teacher.Get("/activities/1/results?handler=Csv");
        Assert.Equal("text/csv", file.Content.Headers.ContentType!.MediaType);
        Assert.Equal(19, (await file.Content.ReadAsStringAsync()).Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length);
    }

    [Fact]
    public async Task Drawings_of_the_library_are_found_by_words_and_taken_with_their_credit()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Cells");
        async Task<JsonElement> Search(string words) =>
            JsonSerializer.Deserialize<JsonElement>(await teacher.Text($"/activities/{id}/picture?handler=Search&words={words}"));
        Assert.InRange((await Search("")).GetArrayLength(), 40, 100);
        Assert.Contains("plant-cell.svg", (await Search("nucleus")).EnumerateArray().Select(found => found.GetProperty("id").GetString()));
        Assert.Equal(0, (await Search("zeppelin")).GetArrayLength());
        await teacher.Get($"/activities/{id}/picture");
        var taken = JsonSerializer.Deserialize<JsonElement>(
            await (
                await teacher.PostJson($"/activities/{id}/picture?handler=Take&picture=plant-cell.svg", new { })
            ).Content.ReadAsStringAsync()
        );
        Assert.Contains("CC0", taken.GetProperty("credit").GetString());
        var file = await teacher.Get($"/media/{taken.GetProperty("hash").GetString()}/960");
        Assert.Equal("image/svg+xml", file.Content.Headers.ContentType!.MediaType);
        Assert.Contains("sandbox", file.Headers.GetValues("Content-Security-Policy").Single());
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await teacher.PostJson($"/activities/{id}/picture?handler=Take&picture=../fenster.svg", new { })).StatusCode
        );
        Assert.Contains("Plant cell", await teacher.Text($"/activities/{id}/picture"));
    }

    /// <summary>Every drawing that ships: read by the same reader as a teacher's own, and its alt text names none of its parts.</summary>
    [Fact]
    public async Task Every_drawing_of_the_library_can_be_taken()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("All of them");
        await teacher.Get($"/activities/{id}/picture");
        var all = JsonSerializer.Deserialize<JsonElement>(await teacher.Text($"/activities/{id}/picture?handler=Search"));
        foreach (var drawing in all.EnumerateArray())
        {
            var answer = await teacher.PostJson(
                $"/activities/{id}/picture?handler=Take&picture={drawing.GetProperty("id").GetString()}",
                new { }
            );
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.InRange(drawing.GetProperty("altText").GetString()!.Length, 20, 200);
        }
    }

    [Fact]
    public async Task A_board_is_drawn_and_a_bad_wish_gets_a_sentence()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Boards");
        await teacher.Get($"/activities/{id}/picture");
        var made = await teacher.PostJson(
            $"/activities/{id}/picture?handler=Board",
            new
            {
                kind = "numberLine",
                from = 0,
                to = 12,
                step = 1,
                names = Array.Empty<string>(),
                colour = "#ffffff",
            }
        );
        Assert.Equal(1920, JsonSerializer.Deserialize<JsonElement>(await made.Content.ReadAsStringAsync()).GetProperty("width").GetInt32());
        var refused = await teacher.PostJson(
            $"/activities/{id}/picture?handler=Board",
            new
            {
                kind = "axes",
                from = 5,
                to = 1,
                step = 1,
                colour = "#ffffff",
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains("must end above", await refused.Content.ReadAsStringAsync());
        Assert.NotEqual(
            HttpStatusCode.InternalServerError,
            (await teacher.PostJson($"/activities/{id}/picture?handler=Board", new { kind = 7 })).StatusCode
        );
    }

    [Fact]
    public async Task A_picture_that_is_not_stored_is_not_hung_and_a_stranger_hangs_none()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Hanging");
        await teacher.Get($"/activities/{id}/picture");
        var answer = await teacher.PostJson(
            $"/activities/{id}/picture?handler=Hang",
            new
            {
                version = 1,
                picture = new
                {
                    media = new string('9', 64),
                    width = 5,
                    height = 5,
                },
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await teacher.PostJson($"/activities/{id}/picture?handler=Hang", new { version = 1 })).StatusCode
        );
        var stranger = server.Visitor();
        await stranger.Get("/");
        Assert.DoesNotContain("easel", await stranger.Text($"/activities/{id}/picture"));
    }
}
