using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;

namespace Fenster.Web.Tests;

/// <summary>
/// What server and browser agree on is written once, in C#, and generated for the browser. Written anew by <c>./fenster contract</c>.
/// </summary>
public sealed partial class ContractTests
{
    private static string Scripts([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "../../../src/Fenster.Web/wwwroot/js");

    [Fact]
    public void The_types_are_those_of_the_server() =>
        IsCurrent(
            "contract.d.ts",
            "// Written by ./fenster contract from the types of Fenster.Core: change those. What may be left out in a document is optional.\n\n"
                + ScriptTypes.Of([typeof(Activity), typeof(Move)], [typeof(StudentView), typeof(BoardView)])
        );

    [Fact]
    public void Usual_values_limits_and_thresholds_are_those_of_the_rules() =>
        IsCurrent(
            "usual.js",
            $"""
            // Written by ./fenster contract from Fenster.Core: change it there.

            export const usual = {Script(
                ("hiddenRadius", Usual.HiddenRadius),
                ("shapeReach", Usual.ShapeReach),
                ("spelling", Usual.Spelling),
                ("tolerance", Usual.Tolerance)
            )}

            export const limits = {Script(("longestText", Limits.LongestText), ("longestAnswer", Limits.LongestAnswer), ("mostLabels", Soundness.MostLabels), ("mostMatched", Limits.MostMatched), ("mostOwnSpots", Limits.MostOwnSpots), ("longestSpotTitle", Limits.LongestSpotTitle), ("longestSpotText", Limits.LongestSpotText), ("longestSource", Limits.LongestSource), ("longestLink", WebAddress.Longest))}

            /** In CSS pixels. */
            export const thresholds = {Script(
                ("advisedFingertip", Proof.AdvisedFingertip),
                ("narrowestScreen", Proof.NarrowestScreen),
                ("smallPicture", Proof.NarrowestPicture)
            )}

            """
        );

    /// <summary>Values by name as the scripts' formatter writes them.</summary>
    private static string Script(params (string Name, object Value)[] values) =>
        $"{{\n{string.Concat(values.Select(value => $"  {value.Name}: {Written(value.Value)},\n"))}}}";

    private static string Written(object value) =>
        Name().Replace(JsonSerializer.Serialize(value, DocumentJson.Options), " $1: ").Replace("}", " }", StringComparison.Ordinal);

    [GeneratedRegex("\"([A-Za-z]+)\":")]
    private static partial Regex Name();

    private static void IsCurrent(string name, string now)
    {
        var file = Path.Combine(Scripts(), name);
        if (Environment.GetEnvironmentVariable("FENSTER_CONTRACT") == "write")
            File.WriteAllText(file, now);
        Assert.Equal(now, File.ReadAllText(file));
    }
}
