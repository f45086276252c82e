using System.Collections.Frozen;
using System.Reflection;
using System.Security.Cryptography;
using System.Text;

namespace Fenster.Store;

/// <summary>
/// Some short words that are easy to say, to hear and to type, such as "otter lamp violin cactus", by which somebody comes in or comes
/// back. How many there are, and how fast somebody may try them, is reckoned in docs/operating.md.
/// </summary>
public static class PersonalWords
{
    /// <summary>How many of them stand together.</summary>
    public const int Together = 4;

    // Things that a child knows, written without accents, so that they are typed on any keyboard: our own, and one-word names of things
    // from Unicode's CLDR annotations.
    private static readonly FrozenDictionary<string, string[]> Lists = ((string[])["en", "de", "fr", "es", "ar"]).ToFrozenDictionary(
        language => language,
        Read
    );

    private static string[] Read(string language)
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Fenster.Store.PersonalWords.{language}.txt")!;
        using var text = new StreamReader(stream);
        return text.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries);
    }

    /// <summary>How many different words of a language there are in one place.</summary>
    /// <param name="language">A BCP 47 tag.</param>
    public static int Count(string language) => Of(language).Length;

    /// <param name="language">A BCP 47 tag; for one that has no words of its own, they are English.</param>
    public static string New(string language = "en") =>
        string.Join(' ', Enumerable.Range(0, Together).Select(_ => Of(language)[RandomNumberGenerator.GetInt32(Of(language).Length)]));

    private static string[] Of(string language) => Lists.GetValueOrDefault(language.Split('-')[0]) ?? Lists["en"];

    /// <summary>
    /// What a person typed, as the words it means: in small letters without the accents of Latin letters, with one blank between.
    /// </summary>
    public static string Tidy(string typed)
    {
        var plain = new StringBuilder(typed.Length);
        foreach (var letter in typed.ToLowerInvariant())
            if (letter is 'ß')
                plain.Append("ss");
            else if (letter is 'œ')
                plain.Append("oe");
            else if (letter is >= '\u00C0' and <= '\u024F')
                plain.Append(letter.ToString().Normalize(NormalizationForm.FormD)[0]);
            // Marks that a keyboard sets behind a letter.
            else if (letter is not (>= '\u0300' and <= '\u036F'))
                plain.Append(letter);
        return string.Join(
            ' ',
            plain.ToString().Split([' ', '-', ',', '.', '\t', '\n', '\r', '\u00A0'], StringSplitOptions.RemoveEmptyEntries)
        );
    }
}
