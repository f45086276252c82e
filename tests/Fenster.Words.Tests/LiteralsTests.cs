using System.Text.RegularExpressions;

namespace Fenster.Words.Tests;

/// <summary>What a person reads stands in the languages' files, and nowhere else.</summary>
public sealed partial class LiteralsTests
{
    /// <summary>
    /// Files whose sentences are English for whoever runs the server or writes documents by hand: its console and log, and what is
    /// wrong in a document, by the names that stand in it.
    /// </summary>
    private static readonly string[] Technical =
    [
        "src/Fenster.Core/Model/Soundness.cs",
        "src/Fenster.Formats/Documents/",
        "src/Fenster.Store/Backup.cs",
        "src/Fenster.Tool/",
        "src/Fenster.Web/Demo/",
        "src/Fenster.Web/Hosting/CanWrite.cs",
        "src/Fenster.Web/Hosting/Copies.cs",
        "src/Fenster.Web/Hosting/DataFolder.cs",
        "src/Fenster.Web/Hosting/Greeting.cs",
        "src/Fenster.Web/Hosting/Happenings.cs",
    ];

    private static IEnumerable<(string Path, string Text)> Sources(string extension) =>
        House.Sources().Where(source => source.Path.EndsWith(extension, StringComparison.Ordinal));

    [GeneratedRegex("(?:aria-label|title|placeholder|alt|label)=\"([^\"@]*[A-Za-z]{2}[^\"@]*)\"")]
    private static partial Regex Attribute();

    [GeneratedRegex(">([^<>@{};=]*[A-Za-z]{2}[^<>@{};=]*)<")]
    private static partial Regex Text();

    [GeneratedRegex(@"@\*.*?\*@|x-bind:[\w-]+=""[^""]*""", RegexOptions.Singleline)]
    private static partial Regex NoWords();

    [Fact]
    public void No_page_has_words_of_its_own()
    {
        var found = Sources(".cshtml")
            .SelectMany(page =>
                ((Regex[])[Attribute(), Text()])
                    .SelectMany(words => words.Matches(NoWords().Replace(page.Text, "")))
                    .Select(match => $"{page.Path}: {match.Groups[1].Value.Trim()}")
            )
            .Where(words => !words.EndsWith(": Fenster", StringComparison.Ordinal));
        Assert.Equal([], found);
    }

    [GeneratedRegex(@"^\s*(?://|\*|/\*)|@param|@type|@returns|import |new Error\(|throw new ")]
    private static partial Regex NoLineOfWords();

    [GeneratedRegex(@"'((?:[^'\\]|\\.)*)'|`((?:[^`\\]|\\.)*)`")]
    private static partial Regex InScript();

    [GeneratedRegex(@"[A-Z][a-z]+ [a-z]+|[a-z’]{2,} [a-z’]{2,} [a-z’]{2,}|[a-z] [a-z]+\.$|\w…|^[A-Z][a-z]{2,}$")]
    private static partial Regex Sentence();

    /// <summary>Words that browsers know: keys, and what a drop or a request carries.</summary>
    private static readonly string[] BrowsersWords = ["Escape", "Delete", "Backspace", "Enter", "Arrow", "Files", "Accept"];

    [GeneratedRegex(@"\$?\{[^}]*\}")]
    private static partial Regex Hole();

    [Fact]
    public void No_script_has_sentences_of_its_own()
    {
        var found =
            from script in Sources(".js").Where(script => script.Path.Contains("/wwwroot/", StringComparison.Ordinal))
            from line in script.Text.Split('\n')
            where !NoLineOfWords().IsMatch(line)
            from Match literal in InScript().Matches(line)
            let words = Hole().Replace(literal.Groups[1].Value + literal.Groups[2].Value, "")
            // Names of classes and fonts are no sentences.
            where
                Sentence().IsMatch(words)
                && !BrowsersWords.Contains(words)
                && !words.Contains("btn", StringComparison.Ordinal)
                && !words.Contains("px", StringComparison.Ordinal)
            select $"{script.Path}: {words}";
        Assert.Equal([], found);
    }

    [GeneratedRegex("\"((?:[^\"\\\\]|\\\\.)*)\"")]
    private static partial Regex InCode();

    [GeneratedRegex(@"^[A-Z][a-z’']+ [a-z].*[.!?]$")]
    private static partial Regex WholeSentence();

    [Fact]
    public void No_rule_and_no_answer_has_sentences_of_its_own()
    {
        var found =
            from source in Sources(".cs")
            where !Technical.Any(path => source.Path.StartsWith(path, StringComparison.Ordinal))
            from line in source.Text.Split('\n')
            where !line.TrimStart().StartsWith("//", StringComparison.Ordinal)
            from Match literal in InCode().Matches(line)
            let words = Hole().Replace(literal.Groups[1].Value, "")
            where WholeSentence().IsMatch(words) && !IsOfProgrammers(source.Text, literal.Value)
            select $"{source.Path}: {words}";
        Assert.Equal([], found);
    }

    /// <summary>Whether it is the message of an exception that only a fault of the program throws.</summary>
    private static bool IsOfProgrammers(string source, string literal)
    {
        var at = source.IndexOf(literal, StringComparison.Ordinal);
        var before = source[Math.Max(0, at - 200)..at];
        return ProgrammersException().IsMatch(before);
    }

    [GeneratedRegex(@"new (?:Argument\w*|InvalidOperation|KeyNotFound|Timeout|Format|Unreachable)Exception\([^;]*$")]
    private static partial Regex ProgrammersException();
}
