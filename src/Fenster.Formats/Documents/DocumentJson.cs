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
            TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { NameKinds } },
        };
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.Converters.Add(new ExactNumberJson());
        options.MakeReadOnly();
        return options;
    }

    private static void NameKinds(JsonTypeInfo type)
    {
        // Of a record struct the reader would take half a point for a whole one.
        if (type.Type == typeof(Point))
            foreach (var coordinate in type.Properties.Where(property => property.Set is not null)) coordinate.IsRequired = true;
        if (type.Type == typeof(Region))
            Kinds(type, (typeof(Circle), "circle"), (typeof(Ellipse), "ellipse"), (typeof(Rectangle), "rectangle"), (typeof(Polygon), "polygon"));
        if (type.Type == typeof(Target))
            Kinds(type, (typeof(DropZone), "dropZone"), (typeof(HiddenZone), "hiddenZone"), (typeof(Hotspots), "hotspots"), (typeof(AnswerBox), "answerBox"),
                (typeof(QuestionPoint), "questionPoint"), (typeof(Fenster.Core.Model.Lock), "lock"), (typeof(OpenNote), "openNote"),
                (typeof(ScalePoint), "scalePoint"), (typeof(Matching), "matching"), (typeof(SortRegion), "sortRegion"), (typeof(InfoSpot), "infoSpot"));
        if (type.Type == typeof(Face)) Kinds(type, (typeof(PictureFace), "picture"), (typeof(SoundFace), "sound"));
        if (type.Type == typeof(Want)) Kinds(type, (typeof(WantSet), "set"), (typeof(WantCount), "count"), (typeof(WantTotal), "total"));
        if (type.Type == typeof(TypedAnswer)) Kinds(type, (typeof(TypedText), "text"), (typeof(TypedNumber), "number"));
        if (type.Type == typeof(Question)) Kinds(type, (typeof(ChoiceQuestion), "choice"), (typeof(TypedQuestion), "typed"));
        if (type.Type == typeof(Move))
            Kinds(type, (typeof(PutDown), "putDown"), (typeof(PinDown), "pinDown"), (typeof(TakeBack), "takeBack"), (typeof(MarkPoints), "markPoints"),
                (typeof(TypeText), "typeText"), (typeof(PickOptions), "pickOptions"), (typeof(DrawLinks), "drawLinks"), (typeof(TryCode), "tryCode"),
                (typeof(OpenSpot), "openSpot"), (typeof(LookAt), "lookAt"), (typeof(PressCheck), "pressCheck"));
        if (type.Type == typeof(TargetView))
            Kinds(type, (typeof(TargetView.Marking), "marking"), (typeof(TargetView.Typing), "typing"), (typeof(TargetView.Choosing), "choosing"),
                (typeof(TargetView.Answering), "answering"), (typeof(TargetView.Locked), "locked"), (typeof(TargetView.Noting), "noting"),
                (typeof(TargetView.Showing), "showing"), (typeof(TargetView.Linking), "linking"), (typeof(TargetView.Sorting), "sorting"), (typeof(TargetView.Telling), "telling"),
                (typeof(TargetView.Concealed), "concealed"));
    }

    private static void Kinds(JsonTypeInfo type, params (Type Type, string Name)[] kinds)
    {
        type.PolymorphismOptions = new() { TypeDiscriminatorPropertyName = "kind" };
        foreach (var kind in kinds) type.PolymorphismOptions.DerivedTypes.Add(new(kind.Type, kind.Name));
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
