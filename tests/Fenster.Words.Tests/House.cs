using System.Runtime.CompilerServices;
using System.Text.Json;

namespace Fenster.Words.Tests;

/// <summary>The files of the house, as far as words are in them.</summary>
internal static class House
{
    public static string Root([CallerFilePath] string here = "") => Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../.."));

    /// <summary>One file a language.</summary>
    public static IReadOnlyList<JsonElement> Languages { get; } =
    [
        .. Directory
            .EnumerateFiles(Path.Combine(Root(), "src/Fenster.Words/Languages"))
            .Order()
            .Select(file => JsonDocument.Parse(File.ReadAllText(file)).RootElement),
    ];

    public static string Code(this JsonElement language) => language.GetProperty("language").GetProperty("code").GetString()!;

    public static JsonElement English => Languages.Single(language => language.Code() == "en");

    /// <param name="part">Who reads them: <c>students</c> or <c>teachers</c>.</param>
    public static Dictionary<string, JsonElement> Sentences(this JsonElement language, string part) =>
        language.TryGetProperty(part, out var sections)
            ? sections
                .EnumerateObject()
                .SelectMany(section => section.Value.EnumerateObject().Select(entry => ($"{section.Name}.{entry.Name}", entry.Value)))
                .ToDictionary()
            : [];

    /// <summary>The one form of a sentence, or each of its forms.</summary>
    public static IEnumerable<string> Forms(this JsonElement sentence) =>
        sentence.ValueKind == JsonValueKind.String
            ? [sentence.GetString()!]
            : sentence.EnumerateObject().Select(form => form.Value.GetString()!);

    /// <summary>All sources in which a sentence may be named, by their path from the root.</summary>
    public static IEnumerable<(string Path, string Text)> Sources() =>
        Directory
            .EnumerateFiles(Path.Combine(Root(), "src"), "*", SearchOption.AllDirectories)
            .Where(file => Path.GetExtension(file) is ".cs" or ".cshtml" or ".js")
            .Select(file => (Path.GetRelativePath(Root(), file), file))
            .Where(file => !file.Item1.Split('/').Any(folder => folder is "obj" or "bin" or "lib"))
            .Select(file => (file.Item1, File.ReadAllText(file.file)));
}
