using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Fenster.Words;

/// <summary>
/// A language that is made from English, for looking at layouts: a word that was not taken from a file stands out. The tags are those of
/// CLDR's pseudo-locales.
/// </summary>
internal sealed partial record PseudoLanguage(string Name, string Direction, string Culture, Func<string, string> Dress)
{
    public static PseudoLanguage? Of(string tag) =>
        tag switch
        {
            "en-XA" => new("Accented", "ltr", "en-GB", Accented),
            "ar-XB" => new("Mirrored", "rtl", "en-GB", Mirrored),
            _ => null,
        };

    /// <summary>The file of English as this language's: every sentence dressed, its slots left alone.</summary>
    public JsonElement File(JsonElement english)
    {
        var file = JsonObject.Create(english.Clone())!;
        var about = file["language"]!;
        foreach (var part in file.Select(part => part.Value!).Where(part => part != about))
            DressAll(part.AsObject());
        (about["name"], about["direction"], about["culture"]) = (Name, Direction, Culture);
        return file.Deserialize<JsonElement>();
    }

    private void DressAll(JsonObject sentences)
    {
        foreach (var (name, sentence) in sentences.ToList())
            if (sentence is JsonObject several)
                DressAll(several);
            else
                sentences[name] = BetweenSlots().Replace(sentence!.GetValue<string>(), words => Dress(words.Value));
    }

    [GeneratedRegex(@"(?<=^|\})[^{}]+")]
    private static partial Regex BetweenSlots();

    private const string Plain = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ";
    private const string WithAccents = "åƀçðéƒĝĥîĵķļɱñöþɋŕšţûṽŵẋýžÅƁÇÐÉƑĜĤÎĴĶĻṀÑÖÞɊŔŠŢÛṼŴẊÝŽ";

    /// <summary>With accents, and about a third longer, as German and Finnish are.</summary>
    private static string Accented(string text)
    {
        var said = new StringBuilder();
        foreach (var c in text)
            said.Append(Plain.IndexOf(c, StringComparison.Ordinal) is var at and >= 0 ? WithAccents[at] : c);
        var letters = text.Count(char.IsLetter);
        return letters == 0 ? text : said.Insert(text.TrimEnd().Length, More(letters)).ToString();
    }

    private static string More(int letters) => string.Concat(Enumerable.Repeat("~", (letters + 2) / 3));

    /// <summary>Written from the right, by the overriding marks of Unicode's bidirectional algorithm.</summary>
    private static string Mirrored(string text) => text.Any(char.IsLetter) ? $"\u202E{text}\u202C" : text;
}
