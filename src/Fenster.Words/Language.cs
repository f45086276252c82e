using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Unicode;
using Fenster.Core.Model;

namespace Fenster.Words;

/// <summary>
/// The sentences of one language, each whole, with named slots in braces and a form for each plural category that the language has.
/// A sentence is named by its section and its own name, such as <c>screen.saved</c>. The browser says its own from the same file.
/// </summary>
public sealed class Language
{
    private static readonly ConcurrentDictionary<string, Language> known = new();
    private readonly Dictionary<string, Sentence> sentences;
    private readonly Lazy<PluralRules> plurals;
    private readonly string cultureName;
    private readonly Lazy<CultureInfo> culture;

    /// <summary>What is told in each language, and what only teachers read.</summary>
    private const string OfStudents = "students",
        OfTeachers = "teachers";

    private Language(string code, JsonElement file)
    {
        var about = file.GetProperty("language");
        string About(string field) => about.GetProperty(field).GetString()!;
        Tag = code;
        Name = About("name");
        IsRightToLeft = About("direction") == "rtl";
        // What only some pages need is made when it is needed.
        cultureName = About("culture");
        culture = new(() => CultureInfo.GetCultureInfo(cultureName));
        var rules = about
            .GetProperty("plurals")
            .EnumerateObject()
            .Select(rule => KeyValuePair.Create(rule.Name, rule.Value.GetString()!))
            .ToList();
        plurals = new(() => new(rules));
        IsForTeachers = file.TryGetProperty(OfTeachers, out _);
        sentences = ((string[])[OfStudents, OfTeachers])
            .Where(part => file.TryGetProperty(part, out _))
            .SelectMany(part => file.GetProperty(part).EnumerateObject())
            .SelectMany(section => section.Value.EnumerateObject().Select(entry => (Name: $"{section.Name}.{entry.Name}", entry.Value)))
            .ToDictionary(entry => entry.Name, entry => Sentence.Of(entry.Value));
    }

    /// <summary>A sentence as the file has it: one form, or one for each plural category of the slot <c>count</c>.</summary>
    private sealed record Sentence(string? Text, Dictionary<string, string>? Forms)
    {
        public static Sentence Of(JsonElement entry) =>
            entry.ValueKind == JsonValueKind.String
                ? new(entry.GetString(), null)
                : new(null, entry.EnumerateObject().ToDictionary(form => form.Name, form => form.Value.GetString()!));
    }

    /// <summary>Whether these are the words of a language too.</summary>
    /// <param name="language">A BCP 47 tag.</param>
    public bool Speaks(string language) => Find(language)?.Tag == Tag;

    /// <summary>As a BCP 47 tag.</summary>
    public string Tag { get; }

    /// <summary>In the language itself.</summary>
    public string Name { get; }
    public bool IsRightToLeft { get; }
    public string Direction => IsRightToLeft ? "rtl" : "ltr";

    /// <summary>How numbers and dates are written.</summary>
    public CultureInfo Culture => culture.Value;

    /// <summary>Whether teachers' screens can be read in it, not only students'.</summary>
    public bool IsForTeachers { get; }

    /// <summary>The languages that there is a file for, by their own names. The pseudo-languages are not among them.</summary>
    public static ImmutableArray<Language> All => all.Value;

    private static readonly Lazy<ImmutableArray<Language>> all = new(() =>
        [
            .. typeof(Language)
                .Assembly.GetManifestResourceNames()
                .Select(name => In(Path.GetFileNameWithoutExtension(name)))
                .OrderBy(language => language.Name, StringComparer.InvariantCulture),
        ]
    );

    /// <summary>The words of English, in which everything can be said.</summary>
    public static Language English => In("en");

    /// <summary>
    /// The words of a language or, where there is no file for it, of a language that it belongs to; otherwise English. The
    /// pseudo-locales of CLDR are made from English: <c>en-XA</c> is accented and longer, <c>ar-XB</c> is mirrored.
    /// </summary>
    /// <param name="language">A BCP 47 tag.</param>
    public static Language In(string language) => Find(language) ?? English;

    /// <summary>The words of a language, or of one that it belongs to; null where there are none.</summary>
    /// <param name="name">A BCP 47 tag.</param>
    public static Language? Find(string name)
    {
        for (var tag = name; tag != ""; tag = tag[..Math.Max(0, tag.LastIndexOf('-'))])
        {
            if (known.TryGetValue(tag, out var language))
                return language;
            if (Read(tag) is { } read)
                return known.GetOrAdd(tag, read);
        }
        return null;
    }

    private static Language? Read(string tag)
    {
        var pseudo = PseudoLanguage.Of(tag);
        using var file = typeof(Language).Assembly.GetManifestResourceStream($"{(pseudo is null ? tag : "en")}.json");
        if (file is null)
            return null;
        using var json = JsonDocument.Parse(file);
        return new(tag, pseudo?.File(json.RootElement) ?? json.RootElement);
    }

    /// <summary>A sentence with its slots filled. Numbers are written as the language does; what people wrote is isolated.</summary>
    /// <exception cref="KeyNotFoundException">There is no such sentence, or a slot of it is not filled.</exception>
    public string Say(string name, params ReadOnlySpan<(string Slot, object Value)> slots)
    {
        var said = new StringBuilder();
        foreach (var (text, slot) in Parts(name, slots))
            said.Append(slot is null ? text : Written(slot));
        return said.ToString();
    }

    /// <inheritdoc cref="Say(string, ReadOnlySpan{ValueTuple{string, object}})"/>
    public string Say(Said said) => Say(said.Name, said.Slots.AsSpan());

    /// <summary>Why something can't be taken. What is wrong in a document is told as its reader put it.</summary>
    public string Say(Exception exception) => exception is SaidException { Said: var said } ? Say(said) : exception.Message;

    /// <summary>A sentence in its pieces: words of its own, and what fills its slots, in the order of the language.</summary>
    /// <returns>Of each piece either the words or what fills the slot.</returns>
    /// <inheritdoc cref="Say"/>
    public ImmutableArray<(string Text, object? Slot)> Parts(string name, params ReadOnlySpan<(string Slot, object Value)> slots)
    {
        var text = Form(name, slots);
        var parts = ImmutableArray.CreateBuilder<(string, object?)>();
        for (var at = 0; at < text.Length; )
        {
            var (open, close) = (text.IndexOf('{', at), text.IndexOf('}', at));
            if (open < 0)
                open = close = text.Length;
            if (open > at)
                parts.Add((text[at..open], null));
            if (open == text.Length)
                break;
            parts.Add(("", Filling(name, text[(open + 1)..close], slots)));
            at = close + 1;
        }
        return parts.ToImmutable();
    }

    private string Form(string name, ReadOnlySpan<(string Slot, object Value)> slots)
    {
        if (!sentences.TryGetValue(name, out var sentence))
            throw new KeyNotFoundException($"There is no sentence '{name}' in '{Tag}'.");
        if (sentence.Text is { } text)
            return text;
        var count = Convert.ToDecimal(Filling(name, "count", slots), CultureInfo.InvariantCulture);
        return sentence.Forms!.TryGetValue(plurals.Value.Of(count), out var form) ? form : sentence.Forms["other"];
    }

    private static object Filling(string name, string slot, ReadOnlySpan<(string Slot, object Value)> slots)
    {
        foreach (var (known, value) in slots)
            if (known == slot)
                return value;
        throw new KeyNotFoundException($"The sentence '{name}' has a slot '{slot}' that nothing fills.");
    }

    /// <summary>What fills a slot, as it stands in a sentence.</summary>
    public string Written(object value) =>
        value switch
        {
            string text => Isolated(text),
            Said said => Say(said),
            decimal or double or int or long => Number(Convert.ToDecimal(value, CultureInfo.InvariantCulture)),
            _ => throw new ArgumentException($"A slot can't hold a {value.GetType().Name}.", nameof(value)),
        };

    /// <summary>A number with up to four decimals, as the language writes it.</summary>
    public string Number(decimal number) => number.ToString("0.####", Culture);

    /// <summary>
    /// A text of somebody inside a sentence, between the isolating marks of Unicode's bidirectional algorithm (UAX 9) where the two
    /// could run in different directions.
    /// </summary>
    public string Isolated(string text) => IsRightToLeft || text.Any(IsOfRightToLeft) ? $"\u2068{text}\u2069" : text;

    // The blocks of Unicode that are written from right to left lie together; the high surrogates are those of plane 1's.
    private static bool IsOfRightToLeft(char c) =>
        c
            is (>= '\u0590' and <= '\u08FF')
                or (>= '\uFB1D' and <= '\uFDFF')
                or (>= '\uFE70' and <= '\uFEFC')
                or '\uD802'
                or '\uD803'
                or '\uD83A'
                or '\uD83B';

    /// <summary>Several texts as a list without a word between the last two.</summary>
    public string Listed(IEnumerable<string> texts) =>
        texts
            .Where(text => text != "")
            .Select(Isolated)
            .Aggregate("", (list, next) => list == "" ? next : Joined("list.comma", list, "next", next));

    /// <summary>Several texts as a list whose last two are joined by the word for "and".</summary>
    public string ListedWithAnd(IReadOnlyList<string> texts) => ListedWith("list.and", texts);

    /// <summary>Several texts as a list whose last two are joined by the word for "or".</summary>
    public string ListedWithOr(IReadOnlyList<string> texts) => ListedWith("list.or", texts);

    private string ListedWith(string joint, IReadOnlyList<string> texts) =>
        texts.Count < 2 ? Listed(texts) : Joined(joint, Listed(texts.SkipLast(1)), "last", Isolated(texts[^1]));

    // The parts are sentences of ours or isolated already.
    private string Joined(string name, string first, string slot, string second) =>
        string.Concat(Parts(name, ("first", first), (slot, second)).Select(part => part.Slot ?? part.Text));

    /// <summary>A sentence that begins with a capital where the language has any.</summary>
    public string Capital(string sentence) => sentence == "" ? "" : char.ToUpper(sentence[0], Culture) + sentence[1..];

    /// <summary>What the browser needs to say some of the sentences, as JSON that may stand in a page.</summary>
    /// <param name="names">Of whole sections, or of single sentences.</param>
    public string Json(params ReadOnlySpan<string> names)
    {
        using var json = new MemoryStream();
        using (var writer = new Utf8JsonWriter(json, inPage))
        {
            writer.WriteStartObject();
            writer.WriteString("language", Tag);
            writer.WriteString("culture", cultureName);
            writer.WriteString("direction", Direction);
            writer.WriteStartObject("sentences");
            foreach (var (key, sentence) in sentences)
            {
                if (!IsOf(key, names))
                    continue;
                if (sentence.Text is { } text)
                {
                    writer.WriteString(key, text);
                    continue;
                }
                writer.WriteStartObject(key);
                foreach (var (category, form) in sentence.Forms!)
                    writer.WriteString(category, form);
                writer.WriteEndObject();
            }
            writer.WriteEndObject();
            writer.WriteEndObject();
        }
        return Encoding.UTF8.GetString(json.ToArray());
    }

    private static bool IsOf(string key, ReadOnlySpan<string> names)
    {
        foreach (var name in names)
            if (key == name || (key.StartsWith(name, StringComparison.Ordinal) && key.Length > name.Length && key[name.Length] == '.'))
                return true;
        return false;
    }

    // Letters of all scripts stand as they are; what could end a script's element does not.
    private static readonly JsonWriterOptions inPage = new() { Encoder = JavaScriptEncoder.Create(UnicodeRanges.All) };
}
