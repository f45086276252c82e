using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Revealing;

namespace Fenster.Formats.Documents;

/// <summary>How Fenster writes its data as JSON: camel case, enumerations as words, a <c>kind</c> on each choice of types.</summary>
public static class DocumentJson
{
    /// <summary>Deeper documents are refused.</summary>
    public const int MaximumDepth = 32;

    public static readonly JsonSerializerOptions Options = Make();

    private static JsonSerializerOptions Make()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            AllowOutOfOrderMetadataProperties = true,
            DefaultIgnoreCondition = JsonIgnoreCondition.Never,
            IgnoreReadOnlyProperties = true,
            MaxDepth = MaximumDepth,
            NumberHandling = JsonNumberHandling.Strict,
            PropertyNameCaseInsensitive = false,
            RespectNullableAnnotations = true,
            RespectRequiredConstructorParameters = true,
            TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { Adapt } },
        };
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.Converters.Add(new ExactNumberJson());
        options.MakeReadOnly();
        return options;
    }

    private static void Adapt(JsonTypeInfo type)
    {
        // Of a record struct the reader would take half a point for a whole one.
        if (type.Type == typeof(Point) || type.Type == typeof(Bounds))
            foreach (var coordinate in type.Properties.Where(property => property.Set is not null)) coordinate.IsRequired = true;
        if (Families.TryGetValue(type.Type, out var common)) NameKinds(type, common);
    }

    /// <summary>The choices of types that a document makes by name, each with the word that its names have in common.</summary>
    private static readonly Dictionary<Type, string> Families = new()
    {
        [typeof(Region)] = "", [typeof(Target)] = "", [typeof(Face)] = "Face", [typeof(Fixing)] = "Fixing", [typeof(Want)] = "Want", [typeof(TypedAnswer)] = "Typed",
        [typeof(Question)] = "Question", [typeof(Move)] = "", [typeof(TargetView)] = "",
    };

    /// <summary>The name of a kind is that of its type, without what all of them have in common: <c>WantSet</c> is a <c>set</c>.</summary>
    private static void NameKinds(JsonTypeInfo type, string common)
    {
        type.PolymorphismOptions = new() { TypeDiscriminatorPropertyName = "kind" };
        foreach (var kind in type.Type.Assembly.GetTypes().Where(kind => kind is { IsAbstract: false } && kind.IsSubclassOf(type.Type)))
            type.PolymorphismOptions.DerivedTypes.Add(new(kind, JsonNamingPolicy.CamelCase.ConvertName(common.Length == 0 ? kind.Name : kind.Name.Replace(common, ""))));
    }
}

/// <summary>Exact numbers as JSON numbers, digit by digit.</summary>
internal sealed class ExactNumberJson : JsonConverter<ExactNumber>
{
    public override ExactNumber Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.Number) throw new JsonException();
        var text = Encoding.ASCII.GetString(reader.HasValueSequence ? System.Buffers.BuffersExtensions.ToArray(reader.ValueSequence) : reader.ValueSpan);
        return ExactNumber.Parse(text) ?? throw new JsonException();
    }

    public override void Write(Utf8JsonWriter writer, ExactNumber value, JsonSerializerOptions options) => writer.WriteRawValue(value.ToString());
}
