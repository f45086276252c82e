using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

public sealed class ActivityDocumentTests
{
    private static readonly Activity Sample = new()
    {
        Title = "Parts of a boat",
        Instructions = "Name them.",
        Panes =
        [
            new Pane
            {
                Id = "pane-1",
                Picture = new(new string('0', 64), 800, 600, "A boat"),
                Labels = [new() { Id = "a", Text = "Mast" }, new() { Id = "b", Text = "حبل", Copies = null }],
                Targets =
                [
                    new DropZone { Id = "z1", Region = new Circle(new(100.5, 20), 30), Accepts = [new("a"), new("b", 0.5m)], Points = 2 },
                    new HiddenZone { Id = "h", Region = new Polygon([new(0, 0), new(9, 0), new(0, 9)]), Accepts = [new("a")], Tolerance = new(3) { Bands = [new(9, 0.5m)] } },
                    new Hotspots { Id = "s", Needed = 1, Spots = [new(new Ellipse(new(5, 5), 3, 2))] },
                    new AnswerBox { Id = "w", Region = new Circle(new(1, 1), 1), Answer = new TypedText([new("mast")]) { Rules = new(ForgiveSlips: true) } },
                    new AnswerBox { Id = "n", Region = new Circle(new(1, 1), 1), Answer = new TypedNumber(6.62607015e-27m) { Within = 0.1m, Units = [new("kg", 1m), new("g", 0.001m)] } },
                    new QuestionPoint { Id = "c", At = new(4, 4), Question = new ChoiceQuestion { Text = "?", Options = [new("x", "X", true), new("y", "Y")] } },
                    new Core.Model.Lock { Id = "l", At = new(4, 4), Code = new([new("1234")]) },
                    new OpenNote { Id = "o", Region = new Circle(new(1, 1), 1) },
                    new DropZone { Id = "z2", Region = new Rectangle(1, 2, 30, 40, 15), Accepts = [new("b")], Capacity = 2, Group = "g" },
                ],
            },
        ],
        Rules = new() { Score = new() { WrongCost = 0.25m, MaximumGrade = 10 }, Reveal = new() { Key = Moment.Never } },
    };

    [Fact]
    public void What_is_written_reads_back_as_the_same()
    {
        var text = ActivityDocument.Write(Sample);
        Assert.Equal(text, ActivityDocument.Write(ActivityDocument.Read(text)));
        Assert.Equal(new Circle(new(100.5, 20), 30), ((DropZone)ActivityDocument.Read(text).Panes[0].Targets[0]).Region);
        Assert.StartsWith("""{"fenster":1,"title":"Parts of a boat",""", text);
        Assert.Contains("\"kind\":\"dropZone\"", text);
    }

    [Fact]
    public void What_a_person_leaves_out_has_its_usual_value()
    {
        var activity = ActivityDocument.Read("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "labels": [{"text": "A", "id": "a"}]}]}""");
        Assert.Equal(1, activity.Panes[0].Labels[0].Copies);
        Assert.Equal(Moment.HandedIn, activity.Rules.Reveal.Key);
    }

    [Theory]
    [InlineData("", "readable")]
    [InlineData("[]", "not a JSON object")]
    [InlineData("{", "readable")]
    [InlineData("{}", "'fenster'")]
    [InlineData("""{"fenster": "1", "title": "T"}""", "'fenster'")]
    [InlineData("""{"fenster": 7, "title": "T"}""", "version 7")]
    [InlineData("""{"fenster": 1}""", "readable")]
    [InlineData("""{"fenster": 1, "title": null}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "  "}""", "no title")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": null}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "moon", "id": "z"}]}]}""", "panes[0].targets[0]")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {"x": "NaN", "y": 0}, "radius": 3}}]}]}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {"x": 1, "y": 0}, "radius": -3}}]}]}""", "'z' has no size")]
    [InlineData("""{"fenster": 1, "title": "T", "title": "U"}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "labels": [null]}]}""", "panes[0].labels[0]")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "lock", "id": "x", "at": {"x": 1, "y": 1}, "code": {"spellings": []}}]}]}""", "'x' has no accepted answer")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "hotspots", "id": "x", "needed": 3, "spots": []}]}]}""", "'x' asks for 3 of 0 spots")]
    public void What_can_not_be_read_gets_a_sentence(string text, string words) =>
        Assert.Contains(words, Assert.Throws<DocumentRefused>(() => ActivityDocument.Read(text)).Message);

    [Fact]
    public void Documents_as_deep_as_a_well_are_refused() =>
        Assert.Throws<DocumentRefused>(() => ActivityDocument.Read($$"""{"fenster": 1, "title": {{new string('[', 100_000)}}"""));

    [Fact]
    public void Spoilt_documents_never_do_worse_than_a_sentence()
    {
        var random = new Random(17);
        var text = ActivityDocument.Write(Sample);
        for (var i = 0; i < 3000; i++)
        {
            var spoilt = text.ToCharArray();
            for (var n = random.Next(1, 4); n > 0; n--) spoilt[random.Next(spoilt.Length)] = "{}[]\":,0-9eakx\\"[random.Next(15)];
            var start = random.Next(4) == 0 ? random.Next(spoilt.Length) : spoilt.Length;
            try
            {
                ActivityDocument.Read(new string(spoilt, 0, start));
            }
            catch (DocumentRefused refused)
            {
                Assert.NotEmpty(refused.Message);
            }
        }
    }
}
