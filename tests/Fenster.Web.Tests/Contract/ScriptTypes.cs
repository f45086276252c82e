using System.Collections.Immutable;
using System.Reflection;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;

namespace Fenster.Web.Tests;

/// <summary>The types of what passes between server and browser, written as TypeScript from how the server reads and writes them.</summary>
internal sealed class ScriptTypes
{
    private readonly NullabilityInfoContext nullability = new();
    private readonly SortedDictionary<string, string> written = new(StringComparer.Ordinal);
    private readonly HashSet<Type> sent;

    /// <param name="documents">What browsers send too: what has a usual value there may be left out.</param>
    /// <param name="views">What only the server writes, whole.</param>
    public static string Of(IEnumerable<Type> documents, IEnumerable<Type> views)
    {
        var types = new ScriptTypes(documents);
        foreach (var type in documents.Concat(views))
            types.NameOf(type);
        return $"declare namespace Sent {{\n{string.Join("\n", types.written.Values)}}}\n";
    }

    private ScriptTypes(IEnumerable<Type> documents)
    {
        // Types that stand in documents, however deep.
        sent = [];
        foreach (var type in documents)
            Reach(type);
    }

    private static JsonTypeInfo InfoOf(Type type) => DocumentJson.Options.GetTypeInfo(type);

    private void Reach(Type type)
    {
        if (!sent.Add(type))
            return;
        foreach (var part in PartsOf(type))
            Reach(part);
    }

    private static IEnumerable<Type> PartsOf(Type type)
    {
        if (Nullable.GetUnderlyingType(type) is { } value)
            return [value];
        var info = InfoOf(type);
        if (info.ElementType is { } element)
            return [element];
        return (info.PolymorphismOptions?.DerivedTypes ?? [])
            .Select(derived => derived.DerivedType)
            .Concat(Fields(info).Select(field => field.PropertyType));
    }

    private static IEnumerable<JsonPropertyInfo> Fields(JsonTypeInfo info) =>
        info.Kind == JsonTypeInfoKind.Object
            ? info.Properties.Where(property => property.Set is not null || property.AssociatedParameter is not null)
            : [];

    private string NameOf(Type type)
    {
        if (Nullable.GetUnderlyingType(type) is { } value)
            return $"{NameOf(value)} | null";
        if (type == typeof(string) || type == typeof(Guid))
            return "string";
        if (type == typeof(bool))
            return "boolean";
        if (type.IsPrimitive || type == typeof(decimal) || type == typeof(ExactNumber))
            return "number";
        // Written by a converter of its own: its groups, with only the words that are named.
        if (type == typeof(RuleWords))
            return "Partial<Rules>";
        if (type == typeof(JsonElement))
            return "unknown";
        if (type.IsEnum)
            return Write(type.Name, own =>
                $"type {own} = {string.Join(" | ", Enum.GetNames(type).Select(name => $"'{JsonNamingPolicy.CamelCase.ConvertName(name)}'"))}\n"
            );
        var info = InfoOf(type);
        if (info.Kind == JsonTypeInfoKind.Dictionary)
            return $"Record<string, {NameOf(info.ElementType!)}>";
        if (info.Kind == JsonTypeInfoKind.Enumerable)
            return NameOf(info.ElementType!) is var item && item.Contains('|', StringComparison.Ordinal) ? $"({item})[]" : $"{item}[]";
        return info.PolymorphismOptions is { DerivedTypes.Count: > 0 } kinds
            ? Write(type.Name, own =>
                $"type {own} = {string.Join(" | ", kinds.DerivedTypes.Select(kind => KindOf(kind.DerivedType, (string)kind.TypeDiscriminator!)))}\n"
            )
            : Write(type.Name, own => $"type {own} = {Shape(info, null)}\n");
    }

    // Views of targets are named like what students do there, as some words of the rules are too.
    private string KindOf(Type type, string name) =>
        Write(type.BaseType == typeof(TargetView) ? $"{type.Name}View" : type.Name, own => $"type {own} = {Shape(InfoOf(type), name)}\n");

    private string Write(string name, Func<string, string> text)
    {
        if (!written.ContainsKey(name))
        {
            // Named first, since a type may hold itself.
            written[name] = "";
            written[name] = text(name);
        }
        return name;
    }

    private string Shape(JsonTypeInfo info, string? kind)
    {
        var shape = new StringBuilder("{");
        if (kind is not null)
            shape.Append(System.Globalization.CultureInfo.InvariantCulture, $"\n  kind: '{kind}'");
        foreach (var field in Fields(info))
        {
            var isOptional = sent.Contains(info.Type) && !field.IsRequired && HasUsual(info.Type, field);
            shape.Append(System.Globalization.CultureInfo.InvariantCulture, $"\n  {field.Name}{(isOptional ? "?" : "")}: {TypeOf(field)}");
        }
        return shape.Append("\n}").ToString();
    }

    /// <summary>Whether a document may leave the field out: it is neither required nor a parameter without a usual value.</summary>
    private static bool HasUsual(Type type, JsonPropertyInfo field) =>
        field.AssociatedParameter is not { } parameter ? true : parameter.HasDefaultValue;

    private string TypeOf(JsonPropertyInfo field)
    {
        var name = NameOf(field.PropertyType);
        var isNull =
            !field.PropertyType.IsValueType
            && field.AttributeProvider is PropertyInfo property
            && nullability.Create(property).ReadState == NullabilityState.Nullable;
        return isNull ? $"{name} | null" : name;
    }
}
