using System.Collections.Immutable;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Pictures that students bring: in pieces over a bad line, without what tells of them, marked, and shown to their class.</summary>
public sealed partial class OwnPictureTests
{
    private const string Document = """
        { "fenster": 1, "title": "My river", "panes": [{ "id": "pane-1", "targets": [
            { "kind": "ownPicture", "id": "own", "points": 10, "fewest": 1, "needsSources": true,
              "criteria": [{ "text": "Place", "points": 6 }, { "text": "Source", "points": 4 }] }] }] }
        """;

    private const string PlantedPlace = "Plantedlane 7, Plantedplace";

    /// <summary>A photograph with what a phone writes into it: a camera, and where it was taken.</summary>
    private static byte[] Photograph()
    {
        var jpeg = File.ReadAllBytes(Path.Combine(RunningFenster.Repository, "demo", "sailing-school", "pictures", "harbour-entrance.jpg"));
        static byte[] Segment(byte[] content) => [0xFF, 0xE1, (byte)((content.Length + 2) >> 8), (byte)(content.Length + 2), .. content];
        // A camera's name in the first directory, and a position in the one that it leads to.
        byte[] tiff =
        [
            .. "MM"u8,
            .. (byte[])[0, 42, 0, 0, 0, 8, 0, 2],
            .. (byte[])[0x01, 0x0F, 0, 2, 0, 0, 0, 12, 0, 0, 0, 38],
            .. (byte[])[0x88, 0x25, 0, 4, 0, 0, 0, 1, 0, 0, 0, 50],
            .. (byte[])[0, 0, 0, 0],
            .. "PlantedCam1\0"u8,
            .. (byte[])[0, 1, 0, 1, 0, 2, 0, 0, 0, 2, (byte)'N', 0, 0, 0, 0, 0, 0, 0],
        ];
        return
        [
            .. jpeg[..2],
            .. Segment([.. "Exif\0\0"u8, .. tiff]),
            .. Segment([.. "http://ns.adobe.com/xap/1.0/\0"u8, .. Encoding.UTF8.GetBytes($"<x:xmpmeta>{PlantedPlace}</x:xmpmeta>")]),
            .. jpeg[2..],
        ];
    }

    private sealed record Class(FensterWithClock Fenster, Visitor Teacher, long Id, Assignment Given, IReadOnlyList<Member> Members)
        : IDisposable
    {
        public static async Task<Class> Open(Terms? terms = null)
        {
            var fenster = new FensterWithClock();
            var teacher = await new Visitor(fenster.Address).SignIn();
            var (id, _) = await teacher.Publish(Document);
            var classes = fenster.Get<Classes>();
            var group = classes.One(1, classes.Make(1, "Crew", "en"))!;
            classes.Enrol(group, [("Ann", ""), ("Ben", ""), ("Cem", "")]);
            var given = fenster
                .Get<Assignments>()
                .Give(id, fenster.Get<Revisions>().Latest(id)!.Id, group.Id, (terms ?? new()) with { Joining = Joining.MembersByWord });
            return new(fenster, teacher, id, given, classes.Members(group));
        }

        public string Code => Given.Code;

        public async Task<Visitor> Enter(int member)
        {
            var student = new Visitor(Fenster.Address);
            await student.Ask(Code, "Join", ("word", Members[member].Word), ("yes", "true"));
            await student.Ask(Code, "Begin");
            return student;
        }

        public Attempt AttemptOf(int member) =>
            Fenster
                .Get<Attempts>()
                .Anywhere(Fenster.Get<Attempts>().Watched(Given.Id).Single(line => line.Name == Members[member].Name).Id)!;

        public void Dispose()
        {
            Teacher.Dispose();
            Fenster.Dispose();
        }
    }

    private static async Task<JsonElement> Json(Task<HttpResponseMessage> response) =>
        JsonDocument.Parse(await (await response).Content.ReadAsStringAsync()).RootElement;

    private static Task<HttpResponseMessage> Post(Visitor student, string code, HttpContent content, string what)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"/do/{code}/{what}&attempt=1") { Content = content };
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        if (student.SecretFor(code) is { } secret)
            request.Headers.Add("Fenster-Device", secret);
        return student.Send(request);
    }

    /// <summary>A piece of an upload, as the script sends it.</summary>
    private static Task<HttpResponseMessage> Piece(
        Visitor student,
        string code,
        string key,
        byte[] file,
        int from,
        int length,
        string more = ""
    ) =>
        Post(
            student,
            code,
            new ByteArrayContent(file[from..Math.Min(file.Length, from + length)]),
            $"own?upload={key}&from={from}&size={file.Length}{more}&kind=picture"
        );

    private static Task<HttpResponseMessage> Whole(Visitor student, string code, byte[] file) =>
        Piece(student, code, Convert.ToHexStringLower(Guid.NewGuid().ToByteArray()), file, 0, file.Length);

    private static async Task<string> Brings(Visitor student, string code, byte[]? file = null) =>
        (await Json(Whole(student, code, file ?? Photograph()))).GetProperty("media").GetString()!;

    private static int moves;

    private static Task<HttpResponseMessage> Move(Visitor student, string code, object move) =>
        student.SendMoves(
            code,
            [
                new
                {
                    key = $"d.{Interlocked.Increment(ref moves)}",
                    pane = "p1",
                    move,
                },
            ]
        );

    private static object Bring(string media) =>
        new
        {
            kind = "bringPicture",
            target = "t1",
            picture = new
            {
                media,
                width = 1600,
                height = 1000,
                altText = "A harbour.",
            },
        };

    private static object Spot(string title, string link = "", string source = "My own eyes") =>
        new
        {
            kind = "putSpot",
            target = "t1",
            spot = new
            {
                id = "s1",
                at = new { x = 100, y = 100 },
                title,
                text = "",
                link,
                source,
            },
        };

    private static string RefusalIn(JsonElement answer) => answer.GetProperty("refused")[0].GetProperty("sentence").GetString()!;

    private static async Task Makes(Visitor student, Class group, string title)
    {
        await Move(student, group.Code, Bring(await Brings(student, group.Code)));
        await Move(student, group.Code, Spot(title));
        Assert.Equal(HttpStatusCode.OK, (await student.HandIn(group.Code)).StatusCode);
    }

    [Fact]
    public async Task From_a_phones_photograph_to_a_marked_and_shown_picture_with_the_place_gone_from_every_file()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        using var ben = await group.Enter(1);
        await Makes(ann, group, "The bar");
        await Makes(ben, group, "The quay");
        // Marked by its criteria.
        var attempt = group.AttemptOf(0);
        var page = WebUtility.HtmlDecode(await group.Teacher.Text($"/activities/{group.Id}/results/{attempt.Id}"));
        Assert.Contains("A picture with 1 spot", page);
        Assert.Contains("The bar", page);
        await group.Teacher.Post(
            $"/activities/{group.Id}/results/{attempt.Id}?handler=Mark",
            ("Seen", "0"),
            ("Parts[0.0.0]", "6"),
            ("Parts[0.0.1]", "2")
        );
        Assert.Equal(8, group.AttemptOf(0).Handed!.Score);
        // Before the gallery opens, nothing of Ann is anywhere in what Ben gets.
        Assert.DoesNotContain("The bar", await Now(ben, group.Code));
        Assert.DoesNotContain("data-act=\"gallery\"", await Now(ben, group.Code));
        var path = $"/activities/{group.Id}/gallery";
        Assert.Contains("The class sees none of these", await group.Teacher.Text($"{path}?of={group.Given.Id}"));
        var until = group.Fenster.Now.AddDays(3).ToString("yyyy-MM-ddTHH:mm", System.Globalization.CultureInfo.InvariantCulture);
        await group.Teacher.Post(
            $"{path}?handler=Open&of={group.Given.Id}",
            ("until", until),
            ("pieces", $"{attempt.Id}/pane-1"),
            ("pieces", $"{group.AttemptOf(1).Id}/pane-1")
        );
        var shown = await Now(ben, group.Code, "?gallery=true");
        Assert.Contains("The bar", shown);
        Assert.DoesNotContain("Ann", shown);
        var media = Media().Matches(WebUtility.HtmlDecode(shown)).Select(match => match.Groups[1].Value).ToList();
        Assert.Equal(2, media.Count);
        foreach (var name in media)
            Assert.Equal(HttpStatusCode.OK, (await ben.Get($"/media/{name}/960")).StatusCode);
        // No guest, and nobody without a device, gets there.
        using var stranger = new Visitor(group.Fenster.Address);
        Assert.DoesNotContain("The bar", await Now(stranger, group.Code, "?gallery=true"));
        // Withdrawn at once: the files too.
        await group.Teacher.Post($"{path}?handler=Withdraw&of={group.Given.Id}&piece={attempt.Id}/pane-1");
        Assert.DoesNotContain("The bar", await Now(ben, group.Code, "?gallery=true"));
        Assert.Single(media, name => ben.Get($"/media/{name}/960").GetAwaiter().GetResult().StatusCode == HttpStatusCode.NotFound);
        // And the day comes.
        group.Fenster.Move(TimeSpan.FromDays(4));
        Assert.DoesNotContain("The quay", await Now(ann, group.Code, "?gallery=true"));
        Assert.All(media, name => Assert.Equal(HttpStatusCode.NotFound, ben.Get($"/media/{name}/960").GetAwaiter().GetResult().StatusCode));
        // The student's own data has the picture in it.
        var record = await group.Teacher.Text($"/activities/{group.Id}/results/{attempt.Id}?handler=Record");
        Assert.StartsWith(
            "data:image/jpeg;base64,",
            Assert
                .Single(JsonDocument.Parse(record).RootElement.GetProperty("attempts")[0].GetProperty("files").EnumerateObject())
                .Value.GetString()
        );
        // The teacher's own download has both, and none of the place; nor has any file that is kept.
        var download = await (
            await group.Teacher.Get($"{path}?handler=File&of={group.Given.Id}&names=true")
        ).Content.ReadAsByteArrayAsync();
        using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(download));
        Assert.Equal(["1.jpg", "2.jpg", "index.html"], zip.Entries.Select(entry => entry.FullName).Order());
        Assert.All(zip.Entries, entry => Assert.False(Holds(entry.Open())));
        var files = Directory.GetFiles(group.Fenster.Folder, "*", SearchOption.AllDirectories);
        Assert.Contains(files, file => file.Contains($"{Path.DirectorySeparatorChar}own{Path.DirectorySeparatorChar}"));
        Assert.All(files, file => Assert.False(Holds(File.Open(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite)), file));
        Assert.True(Holds(new MemoryStream(Photograph())));
    }

    private static bool Holds(Stream stream)
    {
        using var memory = new MemoryStream();
        using (stream)
            stream.CopyTo(memory);
        var text = Encoding.Latin1.GetString(memory.ToArray());
        return text.Contains("PlantedCam", StringComparison.Ordinal) || text.Contains("Plantedlane", StringComparison.Ordinal);
    }

    [GeneratedRegex("\"media\":\\s*\"([0-9a-f]{64})\"")]
    private static partial Regex Media();

    private static async Task<string> Now(Visitor student, string code, string query = "")
    {
        var request = new HttpRequestMessage(HttpMethod.Get, $"/do/{code}/now{query}");
        if (student.SecretFor(code) is { } secret)
            request.Headers.Add("Fenster-Device", secret);
        return WebUtility.HtmlDecode(await (await student.Send(request)).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task An_upload_that_broke_goes_on_where_it_was_and_can_be_given_up()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        var (file, key) = (Photograph(), "00112233aabb");
        Assert.Equal(100_000, (await Json(Piece(ann, group.Code, key, file, 0, 100_000))).GetProperty("have").GetInt32());
        // A piece that does not follow changes nothing, one sent twice neither.
        Assert.Equal(100_000, (await Json(Piece(ann, group.Code, key, file, 200_000, 50_000))).GetProperty("have").GetInt32());
        Assert.Equal(100_000, (await Json(Piece(ann, group.Code, key, file, 0, 100_000))).GetProperty("have").GetInt32());
        var asked = new HttpRequestMessage(HttpMethod.Get, $"/do/{group.Code}/own?attempt=1&upload={key}");
        asked.Headers.Add("Fenster-Device", ann.SecretFor(group.Code));
        Assert.Equal(100_000, (await Json(ann.Send(asked))).GetProperty("have").GetInt32());
        var taken = await Json(Piece(ann, group.Code, key, file, 100_000, file.Length));
        Assert.Equal((1600, true), (taken.GetProperty("width").GetInt32(), taken.GetProperty("isSharp").GetBoolean()));
        Assert.Equal(HttpStatusCode.OK, (await ann.Get($"/media/{taken.GetProperty("media").GetString()}/480")).StatusCode);
        // Given up, it begins anew.
        await Piece(ann, group.Code, key, file, 0, 100_000);
        await Piece(ann, group.Code, key, file, 0, 0, "&cancel=true");
        Assert.Equal(0, (await Json(Piece(ann, group.Code, key, file, 100_000, 1000))).GetProperty("have").GetInt32());
        // Another file takes its place; one is under way at a time.
        await Piece(ann, group.Code, key, file, 0, 100_000);
        await Piece(ann, group.Code, "ffeeddcc0011", file, 0, 1000);
        Assert.Equal(0, (await Json(Piece(ann, group.Code, key, file, 100_000, 1000))).GetProperty("have").GetInt32());
    }

    [Theory]
    [InlineData("empty", "", HttpStatusCode.BadRequest)]
    [InlineData("page", "no picture that can be used", HttpStatusCode.UnprocessableEntity)]
    [InlineData("video", "This is a video, whatever its name says", HttpStatusCode.UnprocessableEntity)]
    [InlineData("huge", "larger than 50 MB", HttpStatusCode.UnprocessableEntity)]
    [InlineData("cut", "damaged or cut off", HttpStatusCode.UnprocessableEntity)]
    public async Task What_is_no_picture_is_refused_by_a_sentence_for_students(string what, string sentence, HttpStatusCode status)
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        byte[] file = what switch
        {
            "page" => [.. "<html><script>alert(1)</script></html>"u8],
            "video" => [0, 0, 0, 0x20, .. "ftypisom"u8, .. new byte[400]],
            "cut" => Photograph()[..60_000],
            _ => [1],
        };
        var size = what switch
        {
            "huge" => 50 * 1024 * 1024 + 1,
            "empty" => -1,
            _ => file.Length,
        };
        var answer = await Post(
            ann,
            group.Code,
            new ByteArrayContent(file),
            $"own?upload=0011223344&from={(size < 0 ? -1 : 0)}&size={size}&kind=picture"
        );
        Assert.Equal(status, answer.StatusCode);
        Assert.Contains(sentence, (await Json(Task.FromResult(answer))).GetProperty("error").GetString());
        Assert.False(Directory.Exists(Path.Combine(group.Fenster.Folder, "own")));
    }

    [Fact]
    public async Task Files_of_others_links_into_a_network_and_what_comes_after_the_end_are_refused()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        using var ben = await group.Enter(1);
        var media = await Brings(ann, group.Code);
        Assert.Contains("not one that you brought in", RefusalIn(await Json(Move(ben, group.Code, Bring(media)))));
        Assert.Contains("address of the public web", RefusalIn(await Json(Move(ann, group.Code, Spot("A", "javascript:alert(1)")))));
        Assert.Contains("address of the public web", RefusalIn(await Json(Move(ann, group.Code, Spot("A", "http://192.168.0.1/")))));
        Assert.Contains("up to 1000 characters", RefusalIn(await Json(Move(ann, group.Code, Spot("A", source: new('x', 5000))))));
        // What is lacking is told with each answer.
        var made = (await Json(Move(ann, group.Code, Spot("A", source: ""))))
            .GetProperty("work")
            .GetProperty("panes")[0]
            .GetProperty("done")[0];
        Assert.Equal(
            ["making.lacksPicture", "making.lacksSources"],
            made.GetProperty("lacks").EnumerateArray().Select(lack => lack.GetProperty("name").GetString()!)
        );
        // From another site, and without a device, nothing comes in.
        var foreign = new HttpRequestMessage(
            HttpMethod.Post,
            $"/do/{group.Code}/own?attempt=1&upload=0011223344&from=0&size=9&kind=picture"
        )
        {
            Content = new ByteArrayContent([1]),
        };
        foreign.Headers.Add("Sec-Fetch-Site", "cross-site");
        foreign.Headers.Add("Fenster-Device", ann.SecretFor(group.Code));
        Assert.Equal(HttpStatusCode.Forbidden, (await ann.Send(foreign)).StatusCode);
        using var stranger = new Visitor(group.Fenster.Address);
        Assert.Equal(HttpStatusCode.Forbidden, (await Whole(stranger, group.Code, Photograph())).StatusCode);
        // Handed in while the last piece is on its way: nothing is added.
        var file = Photograph();
        await Piece(ann, group.Code, "aabbccdd00", file, 0, file.Length - 10);
        await ann.HandIn(group.Code);
        Assert.Equal(HttpStatusCode.Conflict, (await Piece(ann, group.Code, "aabbccdd00", file, file.Length - 10, 10)).StatusCode);
        Assert.Equal(1, group.Fenster.Get<OwnFiles>().RoomOf(group.AttemptOf(0).Id).Files);
    }

    [Fact]
    public async Task An_attempt_has_room_for_so_many_files()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        byte[] small =
        [
            .. "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"900\" height=\"600\"><rect width=\"9\" height=\"9\"/></svg>"u8,
        ];
        for (var i = 0; i < Limits.MostOwnFiles; i++)
            await Brings(ann, group.Code, small);
        var answer = await Whole(ann, group.Code, small);
        Assert.Contains("as much as there is room for", (await Json(Task.FromResult(answer))).GetProperty("error").GetString());
        // Others have room of their own.
        using var ben = await group.Enter(1);
        await Brings(ben, group.Code, small);
    }

    [Fact]
    public async Task A_drawing_of_the_library_is_found_and_taken()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        var asked = new HttpRequestMessage(HttpMethod.Get, $"/do/{group.Code}/library?attempt=1&words=fish");
        asked.Headers.Add("Fenster-Device", ann.SecretFor(group.Code));
        var found = (await Json(ann.Send(asked))).GetProperty("found")[0];
        var taken = await Json(Post(ann, group.Code, new StringContent(""), $"library?id={found.GetProperty("id").GetString()}"));
        Assert.True(taken.GetProperty("isSharp").GetBoolean());
        Assert.Empty(
            (await Json(Move(ann, group.Code, Bring(taken.GetProperty("media").GetString()!)))).GetProperty("refused").EnumerateArray()
        );
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await Post(ann, group.Code, new StringContent(""), "library?id=../../appsettings.json")).StatusCode
        );
    }

    [Fact]
    public async Task A_gallery_without_a_class_a_day_or_a_piece_is_not_opened()
    {
        using var group = await Class.Open();
        using var ann = await group.Enter(0);
        await Makes(ann, group, "The bar");
        var path = $"/activities/{group.Id}/gallery?handler=Open&of={group.Given.Id}";
        await group.Teacher.Get($"/activities/{group.Id}/gallery?of={group.Given.Id}");
        var piece = ("pieces", $"{group.AttemptOf(0).Id}/pane-1");
        async Task<string> Said(params (string, string)[] fields) =>
            WebUtility.HtmlDecode(await (await group.Teacher.Post(path, fields)).Content.ReadAsStringAsync());
        Assert.Contains("Choose a time to come", await Said(("until", "2020-01-01T10:00"), piece));
        Assert.Contains("Choose a time to come", await Said(("until", "soon"), piece));
        Assert.Contains("Tick at least one picture", await Said(("until", "2190-01-01T10:00")));
        var open = await group.Teacher.AssignmentOf(group.Id);
        Assert.Null(group.Fenster.Get<Galleries>().Of(group.Given.Id));
        // What is a colleague's is nobody else's.
        using var stranger = new Visitor(group.Fenster.Address, followRedirects: false);
        Assert.Equal(HttpStatusCode.Redirect, (await stranger.Get($"/activities/{group.Id}/gallery?of={open}")).StatusCode);
    }

    [Fact]
    public async Task On_the_board_nothing_is_stored_and_answers_have_no_names()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(
            $$"""
            { "fenster": 1, "title": "Boat", "panes": [{ "id": "p", "picture": { "media": "{{new string(
                'a',
                64
            )}}", "width": 1000, "height": 600, "altText": "A boat" },
              "labels": [{ "id": "l", "text": "Mast" }, { "id": "m", "text": "Boom" }], "targets": [
              { "kind": "dropZone", "id": "z", "accepts": [{ "label": "l" }], "region": { "kind": "rectangle", "x": 10, "y": 10, "width": 90, "height": 40 } },
              { "kind": "answerBox", "id": "b", "answer": { "kind": "text", "spellings": [{ "text": "oak" }] }, "region": { "kind": "rectangle", "x": 300, "y": 10, "width": 90, "height": 40 } }] }] }
            """
        );
        var students = new List<Visitor>();
        (string Name, string Word)[] all = [("Plantedann", "oak"), ("Plantedben", "oak"), ("Plantedcem", "my dog Rex")];
        foreach (var (name, word) in all)
        {
            var student = new Visitor(fenster.Address);
            students.Add(student);
            await student.Join(code, name);
            var labels = (await student.View(code)).GetProperty("panes")[0].GetProperty("labels").EnumerateArray();
            var boom = labels.Single(label => label.GetProperty("text").GetString() == "Boom").GetProperty("id").GetString();
            await student.SendMoves(
                code,
                [
                    new
                    {
                        key = $"{name}.1",
                        pane = "p1",
                        move = new
                        {
                            kind = "putDown",
                            label = boom,
                            copy = 0,
                            zone = "z1",
                        },
                    },
                    new
                    {
                        key = $"{name}.2",
                        pane = "p1",
                        move = new
                        {
                            kind = "typeText",
                            target = "t1",
                            text = word,
                        },
                    },
                ]
            );
        }
        var page = WebUtility.HtmlDecode(await teacher.Text($"/activities/{id}/board"));
        Assert.Contains("\"spots\"", page);
        Assert.DoesNotContain("Planted", page);
        var answers = await teacher.Text($"/activities/{id}/board?handler=Answers&of={await teacher.AssignmentOf(id)}");
        Assert.DoesNotContain("Planted", answers);
        // What one alone typed may tell who it was.
        Assert.DoesNotContain("Rex", answers);
        var told = JsonDocument.Parse(answers).RootElement;
        Assert.Equal(3, told.GetProperty("works").GetInt32());
        var zone = told.GetProperty("targets").GetProperty("0/z");
        Assert.Equal(
            (3, "Boom", 3, false),
            (
                zone.GetProperty("count").GetInt32(),
                zone.GetProperty("given")[0].GetProperty("answer").GetString(),
                zone.GetProperty("given")[0].GetProperty("count").GetInt32(),
                zone.GetProperty("given")[0].GetProperty("isRight").GetBoolean()
            )
        );
        var box = told.GetProperty("targets").GetProperty("0/b");
        Assert.Equal((2, 1), (box.GetProperty("given")[0].GetProperty("count").GetInt32(), box.GetProperty("others").GetInt32()));
        students.ForEach(student => student.Dispose());
        // A pane without cards is no game; its page leads to the board.
        Assert.EndsWith("/board", (await teacher.Get($"/activities/{id}/game")).RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get("/activities/999/board")).StatusCode);
        using var stranger = new Visitor(fenster.Address, followRedirects: false);
        Assert.Equal(HttpStatusCode.Redirect, (await stranger.Get($"/activities/{id}/board")).StatusCode);
    }

    [Fact]
    public async Task A_gallery_of_many_is_paged_and_all_of_it_is_shown_or_taken_out_at_once()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, _) = await teacher.Publish(Document);
        var classes = fenster.Get<Classes>();
        var group = classes.One(1, classes.Make(1, "Crew", "en"))!;
        classes.Enrol(group, [.. Enumerable.Range(1, 520).Select(number => ($"Student {number:000}", ""))]);
        var given = fenster
            .Get<Assignments>()
            .Give(id, fenster.Get<Revisions>().Latest(id)!.Id, group.Id, new() { Joining = Joining.MembersByWord });
        var (students, attempts) = (fenster.Get<Students>(), fenster.Get<Attempts>());
        foreach (var member in classes.Members(group))
        {
            var came = students.Let(given, member, knowsWord: true).In!;
            var device = attempts.DeviceOf(given.Id, came.Secret, attempts.Begin(given, came.Student)!.Number)!;
            var file = fenster
                .Get<OwnFiles>()
                .Keep(device.AttemptId, new Formats.Pictures.PreparedPicture(new string('a', 64), 8, 6, [new(8, "webp", [1, 2, 3])]));
            await attempts.Append(device, [new("k.1", "pane-1", new BringPicture("own", new(file.Name, 8, 6)))], fenster.Now);
            await attempts.HandIn(device, fenster.Now);
        }
        var path = $"/activities/{id}/gallery";
        int Shown() => fenster.Get<Galleries>().Of(given.Id)!.Pieces.Count(piece => !piece.IsWithdrawn);
        IReadOnlyList<string> Keys(string page) =>
            [.. Regex.Matches(page, "name=\"pieces\" value=\"([^\"]+)\"").Select(match => match.Groups[1].Value)];
        var last = await teacher.Text($"{path}?of={given.Id}&show=11");
        Assert.Equal(20, Keys(last).Count);
        Assert.Contains("Student 520", last);
        var first = Keys(await teacher.Text($"{path}?of={given.Id}"));
        Assert.Equal(50, first.Count);
        (string, string)[] Form(IEnumerable<string> pieces, bool rest) =>
            [
                ("until", fenster.Now.AddDays(3).ToString("yyyy-MM-ddTHH:mm", System.Globalization.CultureInfo.InvariantCulture)),
                ("rest", rest ? "true" : "false"),
                .. pieces.Select(piece => ("pieces", piece)),
            ];
        await teacher.Post($"{path}?handler=Open&of={given.Id}", Form(first.Skip(1), rest: true));
        Assert.Equal(519, Shown());
        // What isn't on the page stays as it is.
        await teacher.Post($"{path}?handler=Open&of={given.Id}&show=11", Form([], rest: false));
        Assert.Equal(499, Shown());
        await teacher.Post($"{path}?handler=Withdraw&of={given.Id}&show=2&piece={first[7]}");
        Assert.Equal(498, Shown());
        using var zip = new System.IO.Compression.ZipArchive(
            await (await teacher.Get($"{path}?handler=File&of={given.Id}&names=true")).Content.ReadAsStreamAsync()
        );
        Assert.Equal(521, zip.Entries.Count);
        using var index = new StreamReader(zip.GetEntry("index.html")!.Open());
        Assert.Contains("Student 520", await index.ReadToEndAsync());
    }

    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }

    [Fact]
    public async Task Half_of_a_file_that_somebody_leaves_keeps_nobody_elses_out()
    {
        var clock = new MovedClock();
        using var uploads = new Hosting.OwnUploads(null!, null!, clock);
        Task<long> Add(long attempt, long from, int bytes) =>
            uploads.Add(attempt, $"{attempt:x8}", from, 1_000_000, new MemoryStream(new byte[bytes]), CancellationToken.None);
        for (var attempt = 1; attempt <= 399; attempt++)
            Assert.Equal(1, await Add(attempt, 0, 1));
        Assert.Equal(500_000, await Add(400, 0, 500_000));
        // All at once: nobody can tell yet who is slow.
        await Assert.ThrowsAsync<Formats.Pictures.PictureRefused>(() => Add(500, 0, 1));
        clock.Ahead = TimeSpan.FromSeconds(11);
        // The one that goes on by a byte now and then is let go as well as the others; the one that is half way is not.
        await Add(7, 1, 1);
        for (var attempt = 500; attempt < 899; attempt++)
            Assert.Equal(100_000, await Add(attempt, 0, 100_000));
        Assert.Equal(500_000, uploads.Have(400, $"{400:x8}"));
        Assert.Equal(0, uploads.Have(7, $"{7:x8}"));
        Assert.Equal(1_000_000, await Add(400, 500_000, 500_000));
    }
}
