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
