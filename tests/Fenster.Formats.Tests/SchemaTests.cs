using System.Text;
using System.Text.Json.Nodes;
using Fenster.Formats.Documents;
using NJsonSchema;
using NJsonSchema.Validation;

namespace Fenster.Formats.Tests;

/// <summary>The schemas in docs/formats against what the program writes and refuses, with a JSON Schema library.</summary>
public sealed class SchemaTests
{
    private static readonly Task<JsonSchema> Activities = Schema("activity.schema.json", isStrict: false);
    private static readonly Task<JsonSchema> Responses = Schema("responses.schema.json", isStrict: false);

    /// <param name="isStrict">Whether fields that the schema does not name are errors.</param>
    private static async Task<JsonSchema> Schema(string name, bool isStrict)
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !Directory.Exists(Path.Combine(folder.FullName, "docs", "formats")))
            folder = folder.Parent;
        var json = JsonNode.Parse(await File.ReadAllTextAsync(Path.Combine(folder!.FullName, "docs", "formats", name)))!;
        if (isStrict)
            Close(json);
        return await JsonSchema.FromJsonAsync(json.ToJsonString());
    }

    private static void Close(JsonNode? node)
    {
        if (node is JsonObject fields)
        {
            foreach (var (_, value) in fields.ToList())
                Close(value);
            if (fields.ContainsKey("properties") && !fields.ContainsKey("additionalProperties"))
                fields["additionalProperties"] = false;
        }
        else if (node is JsonArray items)
        {
            foreach (var item in items)
                Close(item);
        }
    }

    private static string ResponsesJson =>
        new JsonObject
        {
            ["fenster"] = 1,
            ["responses"] = new JsonArray(System.Text.Json.JsonSerializer.SerializeToNode(FullSample.Responses, DocumentJson.Options)),
        }.ToJsonString();

    private static string Errors(ICollection<ValidationError> errors) =>
        string.Join('\n', errors.Select(error => $"{error.Path} {error.Kind}"));

    [Fact]
    public void A_file_of_responses_is_read_piece_by_piece_as_it_is_read_at_once()
    {
        var many = string.Join(',', Enumerable.Range(0, 300).Select(i => $$"""{ "id": "{{new string('é', i)}} {{i}}", "panes": {} }"""));
        var text = $$"""{ "responses": [{{many}}], "more": [1, { "a": "]" }], "fenster": 1 }""";
        var all = ResponsesDocument.Read(text);
        Assert.Equal(300, all.Length);
        foreach (var (most, mark) in ((int, string)[])[(1, ""), (7, "\uFEFF"), (5000, "")])
        {
            using var slow = new SlowStream(Encoding.UTF8.GetBytes(mark + text), most);
            Assert.Equal(all.Select(each => each.Id), ResponsesDocument.ReadEach(slow).Select(each => each.Id));
        }
    }

    [Theory]
    [InlineData("{\"fenster\":1,\"responses\":[{\"id\":\"a\",\"panes\":{}},{\"id\":1,\"panes\":{}}]}", "near '$.responses[1].id'")]
    [InlineData("{\"fenster\":1,\"responses\":[{\"id\":\"a\",\"panes\":{}},null]}", "there is nothing at '$.responses[1]'")]
    [InlineData("{\"fenster\":1,\"responses\":[],\"responses\":[]}", "a name stands in it twice")]
    [InlineData("{\"fenster\":1,\"fenster\":1,\"responses\":[]}", "a name stands in it twice")]
    [InlineData("{\"fenster\":1,\"responses\":{}}", "near '$.responses'")]
    [InlineData("{\"fenster\":1,\"responses\":[]} 1", "not readable")]
    [InlineData("{\"fenster\":1,\"responses\":[", "not readable")]
    [InlineData("{\"fenster\":2,\"responses\":[]}", "of version 2")]
    [InlineData("{\"responses\":[]}", "is missing")]
    [InlineData("{\"fenster\":1}", "not readable")]
    [InlineData("[]", "not a JSON object")]
    [InlineData("", "not readable")]
    public void What_is_no_file_of_responses_is_refused_with_its_place(string text, string says) =>
        Assert.Contains(says, Assert.Throws<DocumentRefused>(() => ResponsesDocument.Read(text)).Message);

    /// <summary>Gives no more than so many bytes at a time.</summary>
    private sealed class SlowStream(byte[] bytes, int most) : MemoryStream(bytes)
    {
        public override int Read(Span<byte> buffer) => base.Read(buffer[..Math.Min(buffer.Length, most)]);
    }

    [Fact]
    public async Task What_the_program_writes_fulfils_the_schema_and_every_field_of_it_is_named_there()
    {
        var activity = ActivityDocument.Write(FullSample.Activity);
        Assert.Equal("", Errors((await Schema("activity.schema.json", isStrict: true)).Validate(activity)));
        Assert.Equal("", Errors((await Schema("responses.schema.json", isStrict: true)).Validate(ResponsesJson)));
        Assert.Equal("ada", Assert.Single(ResponsesDocument.Read(ResponsesJson)).Id);
        // A strict schema does tell: the same with one more field is refused.
        Assert.NotEmpty((await Schema("activity.schema.json", isStrict: true)).Validate(activity.Replace("\"altText\"", "\"oldText\"")));
    }

    /// <summary>One field of the full sample changed: both the schema and the reader refuse it.</summary>
    [Theory]
    [InlineData("\"fenster\":1", "\"fenster\":2")]
    [InlineData("\"title\":\"Parts of a boat\"", "\"title\":\"\"")]
    [InlineData("\"title\":\"Parts of a boat\"", "\"title\":7")]
    [InlineData("\"radius\":30", "\"radius\":-30")]
    [InlineData("\"radius\":30", "\"radius\":\"30\"")]
    [InlineData("\"kind\":\"circle\"", "\"kind\":\"moon\"")]
    [InlineData("\"kind\":\"hotspots\"", "\"kind\":\"hotspot\"")]
    [InlineData("\"credit\":0.5", "\"credit\":0")]
    [InlineData("\"points\":2", "\"points\":0")]
    [InlineData("\"capacity\":2", "\"capacity\":0")]
    [InlineData("\"needed\":1", "\"needed\":0")]
    [InlineData("\"copies\":1", "\"copies\":0")]
    [InlineData("\"weight\":1", "\"weight\":0")]
    [InlineData("\"reach\":20", "\"reach\":0")]
    [InlineData("\"key\":\"never\"", "\"key\":\"placed\"")]
    [InlineData("\"marks\":\"checked\"", "\"marks\":\"soon\"")]
    [InlineData("\"wrongCost\":0.25", "\"wrongCost\":-1")]
    [InlineData("\"from\":0.5", "\"from\":1.5")]
    [InlineData("\"direction\":\"leftToRight\"", "\"direction\":1")]
    public async Task What_the_schema_refuses_the_reader_refuses(string field, string spoilt)
    {
        var document = ActivityDocument.Write(FullSample.Activity);
        Assert.Empty((await Activities).Validate(document));
        Assert.Contains(field, document);
        var other = document.Replace(field, spoilt);
        Assert.NotEmpty((await Activities).Validate(other));
        Assert.Throws<DocumentRefused>(() => ActivityDocument.Read(other));
    }

    [Fact]
    public async Task The_smallest_documents_fulfil_the_schemas()
    {
        Assert.Empty((await Activities).Validate("""{"fenster": 1, "title": "T"}"""));
        Assert.Empty((await Responses).Validate("""{"fenster": 1, "responses": []}"""));
        Assert.Equal("T", ActivityDocument.Read("""{"fenster": 1, "title": "T"}""").Title);
    }

    [Fact]
    public void Spoilt_responses_never_do_worse_than_a_sentence() =>
        Spoiling.EachGetsASentence(ResponsesJson, text => MarkDocument.Write(FullSample.Activity, ResponsesDocument.Read(text)));
}
