using System.Net;
using System.Text.Json;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>What a wall is told while students work, as server-sent events (WHATWG HTML, 9.2), and what it tells students.</summary>
public sealed class WallTests
{
    /// <summary>An open wall, as a browser reads it.</summary>
    private sealed class Wall : IDisposable
    {
        private readonly HttpResponseMessage response;
        private readonly StreamReader lines;

        private Wall(HttpResponseMessage response, Stream body) => (this.response, lines) = (response, new(body));

        public static async Task<Wall> Open(Visitor teacher, string path)
        {
            var response = await teacher.Begin(new HttpRequestMessage(HttpMethod.Get, path));
            Assert.Equal("text/event-stream", response.Content.Headers.ContentType?.MediaType);
            return new(response, await response.Content.ReadAsStreamAsync());
        }

        /// <summary>The next event that fulfils a condition.</summary>
        public async Task<JsonElement> Next(Func<JsonElement, bool> condition)
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(30));
            while (await lines.ReadLineAsync(limit.Token) is { } line)
                if (
                    line.StartsWith("data: ", StringComparison.Ordinal)
                    && JsonSerializer.Deserialize<JsonElement>(line[6..]) is var told
                    && condition(told)
                )
                    return told;
            throw new InvalidOperationException("The line was closed.");
        }

        /// <summary>The name of the next event, and how many moves it tells of; null where the line is closed.</summary>
        public async Task<(string Name, int Placed)?> Event()
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(30));
            var name = "";
            while (await lines.ReadLineAsync(limit.Token) is { } line)
                if (line.StartsWith("id: ", StringComparison.Ordinal))
                    name = line[4..];
                else if (line.StartsWith("data: ", StringComparison.Ordinal))
                    return (
                        name,
                        JsonSerializer
                            .Deserialize<JsonElement>(line[6..])
                            .GetProperty("tiles")
                            .EnumerateArray()
                            .Sum(tile => tile.GetProperty("version").GetInt32())
                    );
            return null;
        }

        public Task<JsonElement> Tile(Func<JsonElement, bool> condition) => Tiles(tile => condition(tile));

        private async Task<JsonElement> Tiles(Func<JsonElement, bool> condition) =>
            (await Next(told => told.GetProperty("tiles").EnumerateArray().Any(condition)))
                .GetProperty("tiles")
                .EnumerateArray()
                .First(condition);

        public void Dispose()
        {
            lines.Dispose();
            response.Dispose();
        }
    }

    [Fact]
    public async Task A_wall_is_told_each_move_and_who_comes_back_everything_once()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var of = await teacher.AssignmentOf(id);
        using var ann = new Visitor(fenster.Address);
        await ann.Join(code, "Ann <b>");
        using (var wall = await Wall.Open(teacher, $"/activities/{id}/wall?handler=Feed&of={of}"))
        {
            var first = await wall.Next(_ => true);
            Assert.Equal(3, first.GetProperty("frames").EnumerateObject().Single().Value[0].GetProperty("zones").GetArrayLength());
            Assert.Equal("Ann <b>", first.GetProperty("tiles")[0].GetProperty("name").GetString());
            var view = (await ann.View(code)).GetProperty("panes")[0];
            await ann.Move(
                code,
                "d.1",
                view.GetProperty("labels")[0].GetProperty("id").GetString()!,
                view.GetProperty("zones")[0].GetProperty("id").GetString()!
            );
            var tile = await wall.Tile(tile => tile.GetProperty("placed").GetInt32() == 1);
            // Verdicts, under names that are the same for everybody; no key.
            var pane = tile.GetProperty("work").GetProperty("panes")[0];
            Assert.Single(pane.GetProperty("marks").GetProperty("placed").EnumerateArray());
            Assert.Equal(JsonValueKind.Null, pane.GetProperty("key").ValueKind);
            using var ben = new Visitor(fenster.Address);
            await ben.Join(code, "Ben");
            await wall.Tile(tile => tile.GetProperty("name").GetString() == "Ben");
            await ann.HandIn(code);
            await wall.Tile(tile => tile.GetProperty("handedAt").ValueKind == JsonValueKind.String);
            // A colleague renames nobody's work, but a deletion takes the tile away.
            var attempt = tile.GetProperty("id").GetInt64();
            await teacher.Post($"/activities/{id}/results/{attempt}?handler=Delete");
            await wall.Next(told => told.GetProperty("left").EnumerateArray().Any(left => left.GetInt64() == attempt));
            await teacher.Post($"/activities/{id}/wall?handler=Pause&of={of}&on=true");
            await wall.Next(told => told.GetProperty("isPaused").GetBoolean());
            Assert.Equal(HttpStatusCode.Locked, (await ben.Move(code, "d.1", "l1", "z1")).StatusCode);
            await teacher.Post($"/activities/{id}/wall?handler=Pause&of={of}&on=false");
            await wall.Next(told => !told.GetProperty("isPaused").GetBoolean());
        }
        using var again = await Wall.Open(teacher, $"/activities/{id}/wall?handler=Feed&of={of}");
        Assert.Equal("Ben", (await again.Next(_ => true)).GetProperty("tiles").EnumerateArray().Single().GetProperty("name").GetString());
    }

    [Fact]
    public async Task Notes_reach_whom_they_are_for_and_a_spot_under_the_students_own_names()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var of = await teacher.AssignmentOf(id);
        using var ann = new Visitor(fenster.Address);
        using var ben = new Visitor(fenster.Address);
        await ann.Join(code, "Ann");
        await ben.Join(code, "Ben");
        using var wall = await Wall.Open(teacher, $"/activities/{id}/wall?handler=Feed&of={of}");
        var told = await wall.Tile(tile => tile.GetProperty("name").GetString() == "Ann");
        Task<HttpResponseMessage> Tell(string query) => teacher.Post($"/activities/{id}/wall?handler=Tell&of={of}&{query}");
        Assert.Equal(HttpStatusCode.NoContent, (await Tell("text=Five%20more%20minutes")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await Tell($"attempt={told.GetProperty("id")}&pane=0&x=400.5&y=300")).StatusCode);
        foreach (var bad in (string[])["text=", $"text={new string('x', 501)}", "pane=7&x=1&y=1", "pane=0&x=NaN&y=1"])
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await Tell(bad)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await Tell("attempt=999999&text=x")).StatusCode);
        var toAnn = (await ann.Told(code, 0)).EnumerateArray().ToList();
        Assert.Equal(["Five more minutes", ""], toAnn.Select(line => line.GetProperty("text").GetString()));
        Assert.Equal(("p1", 400.5), (toAnn[1].GetProperty("pane").GetString(), toAnn[1].GetProperty("at").GetProperty("x").GetDouble()));
        Assert.Equal("Five more minutes", Assert.Single((await ben.Told(code, 0)).EnumerateArray()).GetProperty("text").GetString());
        Assert.Empty((await ann.Told(code, toAnn[1].GetProperty("id").GetInt64())).EnumerateArray());
        // Who comes later was not meant.
        using var late = new Visitor(fenster.Address);
        await late.Join(code, "Late");
        Assert.Empty((await late.Told(code, 0)).EnumerateArray());
        // Nobody else watches.
        using var stranger = new Visitor(fenster.Address, followRedirects: false);
        Assert.NotEqual(HttpStatusCode.OK, (await stranger.Get($"/activities/{id}/wall?of={of}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get($"/activities/{id}/wall?of=999")).StatusCode);
    }

    [Fact]
    public async Task What_a_slow_reader_has_not_read_is_replaced_and_never_queued()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var of = await teacher.AssignmentOf(id);
        using var ann = new Visitor(fenster.Address);
        await ann.Join(code, "Ann");
        using var wall = await Wall.Open(teacher, $"/activities/{id}/wall?handler=Feed&of={of}&says=true");
        // It reads nothing for so long that each of these could have had its event.
        for (var move = 1; move <= 20; move++)
        {
            await ann.Move(code, $"d.{move}", $"l{move % 3 + 1}", $"z{move % 2 + 1}");
            await Task.Delay(250);
        }
        var told = new List<(string Name, int Placed)>();
        while (told.Count == 0 || told[^1].Placed < 20)
        {
            told.Add((await wall.Event()).GetValueOrDefault());
            Assert.True(told.Count <= 5, "more was queued than is on the way at most");
            await teacher.Post($"/activities/{id}/wall?handler=Got&read={told[^1].Name}");
        }
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Post($"/activities/{id}/wall?handler=Got&read=x-y-z")).StatusCode);
    }

    [Fact]
    public async Task A_line_ends_when_its_teacher_signs_out()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, _) = await teacher.Publish(Samples.Document(3));
        var of = await teacher.AssignmentOf(id);
        using var wall = await Wall.Open(teacher, $"/activities/{id}/wall?handler=Feed&of={of}");
        Assert.NotNull(await wall.Event());
        await teacher.Text("/activities");
        Assert.True((await teacher.Post("/sign-out")).IsSuccessStatusCode);
        Assert.Null(await wall.Event());
    }
}
