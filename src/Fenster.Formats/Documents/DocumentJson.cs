using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

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
        options.MakeReadOnly();
        return options;
    }

    private static void NameKinds(JsonTypeInfo type)
    {
        if (type.Type == typeof(Region))
            Kinds(type, (typeof(Circle), "circle"), (typeof(Ellipse), "ellipse"), (typeof(Rectangle), "rectangle"), (typeof(Polygon), "polygon"));
        if (type.Type == typeof(Target)) Kinds(type, (typeof(DropZone), "dropZone"));
        if (type.Type == typeof(Move)) Kinds(type, (typeof(PutDown), "putDown"), (typeof(TakeBack), "takeBack"));
    }

    private static void Kinds(JsonTypeInfo type, params (Type Type, string Name)[] kinds)
    {
        type.PolymorphismOptions = new() { TypeDiscriminatorPropertyName = "kind" };
        foreach (var kind in kinds) type.PolymorphismOptions.DerivedTypes.Add(new(kind.Type, kind.Name));
    }
}
