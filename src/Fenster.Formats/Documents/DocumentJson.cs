using System.Text;
using System.Text.Encodings.Web;
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

    /// <summary>
    /// The same for what is stored and never stands in a page: letters of all scripts as they are, so that a text is as long as it is
    /// long, and not five times as long.
    /// </summary>
    public static readonly JsonSerializerOptions Stored = new(Options) { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

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
        options.Converters.Add(new SoundTextJson());
        options.Converters.Add(new ExactNumberJson());
        options.Converters.Add(new RuleWordsJson());
        options.MakeReadOnly();
        return options;
    }

    private static void Adapt(JsonTypeInfo type)
    {
        // Of a record struct the reader would take half a point for a whole one.
        if (type.Type == typeof(Point) || type.Type == typeof(Bounds))
            foreach (var coordinate in type.Properties.Where(property => property.Set is not null))
                coordinate.IsRequired = true;
        // The reader asks for this itself, but not of properties beside those of a constructor.
        foreach (var property in type.Properties.Where(property => property is { IsSetNullable: false, Set: not null }))
            if (!property.PropertyType.IsValueType && property.Set is { } set)
                property.Set = (owner, value) => set(owner, value ?? throw new JsonException());
        var kinds = KindNameAttribute.KindsOf(type.Type).ToList();
        if (kinds.Count == 0)
            return;
        type.PolymorphismOptions = new() { TypeDiscriminatorPropertyName = "kind" };
        foreach (var (kind, name) in kinds)
            type.PolymorphismOptions.DerivedTypes.Add(new(kind, name));
    }
}

/// <summary>Exact numbers as JSON numbers, digit by digit.</summary>
internal sealed class ExactNumberJson : JsonConverter<ExactNumber>
{
    public override ExactNumber Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.Number)
            throw new JsonException();
        var text = Encoding.ASCII.GetString(
            reader.HasValueSequence ? System.Buffers.BuffersExtensions.ToArray(reader.ValueSequence) : reader.ValueSpan
        );
        return ExactNumber.Parse(text) ?? throw new JsonException();
    }

    public override void Write(Utf8JsonWriter writer, ExactNumber value, JsonSerializerOptions options) =>
        writer.WriteRawValue(value.ToString());
}
