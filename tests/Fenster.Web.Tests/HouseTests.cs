using System.Text.RegularExpressions;
using System.Xml.Linq;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>What docs/architecture.md says of the house, held against the house.</summary>
public sealed partial class HouseTests
{
    /// <summary>The arrows of docs/architecture.md: Web to Store and Formats, all of them and Words to Core, and Core to nothing of ours.</summary>
    [Theory]
    [InlineData("Core", "")]
    [InlineData("Formats", "Core Words")]
    [InlineData("Store", "Core Formats")]
    [InlineData("Tool", "Core Formats Words")]
    [InlineData("Words", "Core")]
    [InlineData("Web", "Core Formats Store Words")]
    public void Imports_point_one_way(string project, string mayUse)
    {
        var file = XDocument.Load(Path.Combine(RunningFenster.Repository, $"src/Fenster.{project}/Fenster.{project}.csproj"));
        var used = file.Descendants("ProjectReference")
            .Select(r => Regex.Match(r.Attribute("Include")!.Value, @"Fenster\.(\w+)\.csproj").Groups[1].Value);
        Assert.Subset(mayUse.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToHashSet(), used.ToHashSet());
    }

    [GeneratedRegex("^- `(src/[^`]+)`( \\*)?$", RegexOptions.Multiline)]
    private static partial Regex Listed { get; }

    /// <summary>The list under "A new kind": the files that know the plainest kind, with those that the compiler names.</summary>
    [Fact]
    public void The_list_of_files_that_a_new_kind_touches_is_right()
    {
        var text = File.ReadAllText(Path.Combine(RunningFenster.Repository, "docs", "architecture.md"));
        var listed = Listed.Matches(text).Select(match => (File: match.Groups[1].Value, IsNamed: match.Groups[2].Success));
        var sources = Directory
            .EnumerateFiles(Path.Combine(RunningFenster.Repository, "src"), "*", SearchOption.AllDirectories)
            .Where(file =>
                !Regex.IsMatch(file, @"/(bin|obj|lib)/|/contract\.d\.ts$") && Regex.IsMatch(file, @"\.(cs|js|ts|css|cshtml|sql)$")
            )
            .Select(file => (File: Path.GetRelativePath(RunningFenster.Repository, file), Text: File.ReadAllText(file)))
            .Where(source => source.Text.Contains("nfoSpot", StringComparison.Ordinal))
            .Select(source => (source.File, IsNamed: source.Text.Contains("ITargetCases<", StringComparison.Ordinal)));
        Assert.Equal(
            sources.OrderBy(source => source.File, StringComparer.Ordinal),
            listed.OrderBy(source => source.File, StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Every_namespace_is_that_of_its_whole_file()
    {
        var folders = (string[])["src", "tests", "bench"];
        var files = folders
            .SelectMany(folder =>
                Directory.EnumerateFiles(Path.Combine(RunningFenster.Repository, folder), "*.cs", SearchOption.AllDirectories)
            )
            .Where(file => !Regex.IsMatch(file, "/(bin|obj|node_modules)/"))
            .ToList();
        Assert.NotEmpty(files);
        Assert.DoesNotContain(files, file => File.ReadLines(file).Any(line => Regex.IsMatch(line, @"^namespace [\w.]+\s*\{?\s*$")));
    }
}
