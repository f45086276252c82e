using Ganss.Xss;

namespace Fenster.Formats.Documents;

/// <summary>
/// Cleans what teachers write with formats: a few elements and a few classes stay, everything else goes. Plain text stays
/// as it is, but for characters that mean something in HTML.
/// </summary>
public static class WritingCleaner
{
    private static readonly HtmlSanitizer Sanitizer = Make();

    private static HtmlSanitizer Make()
    {
        var sanitizer = new HtmlSanitizer();
        sanitizer.AllowedTags.Clear();
        sanitizer.AllowedTags.UnionWith(["p", "br", "b", "strong", "i", "em", "u", "s", "sub", "sup", "ul", "ol", "li", "span"]);
        sanitizer.AllowedAttributes.Clear();
        sanitizer.AllowedAttributes.UnionWith(["class", "dir"]);
        sanitizer.AllowedClasses.UnionWith([
            "ql-align-center",
            "ql-align-right",
            "ql-align-justify",
            "ql-size-small",
            "ql-size-large",
            "ql-size-huge",
            "ql-direction-rtl",
            "paper-honey",
            "paper-sky",
            "paper-leaf",
            "paper-rose",
            "paper-lilac",
        ]);
        sanitizer.AllowedCssProperties.Clear();
        sanitizer.AllowedSchemes.Clear();
        sanitizer.KeepChildNodes = true;
        sanitizer.RemovingTag += (_, removing) =>
        {
            // Of these not even the words inside are meant to be read.
            if (removing.Tag.TagName.ToUpperInvariant() is "SCRIPT" or "STYLE" or "TEMPLATE" or "IFRAME" or "OBJECT" or "SVG" or "MATH")
                removing.Tag.TextContent = "";
        };
        return sanitizer;
    }

    /// <summary>The markup with nothing in it that could act.</summary>
    public static string Clean(string markup) => markup.AsSpan().IndexOfAny('<', '&') < 0 ? markup : Sanitizer.Sanitize(markup);
}
