using System.Reflection;

namespace Fenster.Core.Model;

/// <summary>The name of a kind in documents and in what the browser is given. It stays when the type is renamed.</summary>
[AttributeUsage(AttributeTargets.Class, Inherited = false)]
public sealed class KindNameAttribute(string name) : Attribute
{
    public string Name => name;

    /// <summary>The name of the kind of a thing; null when its type has none.</summary>
    public static string? Of(object thing) => thing.GetType().GetCustomAttribute<KindNameAttribute>()?.Name;

    /// <summary>The kinds of a family with their names; empty when the type is no family of named kinds.</summary>
    public static IEnumerable<(Type Kind, string Name)> KindsOf(Type family) =>
        family is { IsClass: true, IsAbstract: true }
            ? family
                .Assembly.GetTypes()
                .Where(kind => !kind.IsAbstract && kind.IsSubclassOf(family))
                .Select(kind => (kind, kind.GetCustomAttribute<KindNameAttribute>()?.Name))
                .Where(kind => kind.Name is not null)
                .Select(kind => (kind.kind, kind.Name!))
            : [];
}
