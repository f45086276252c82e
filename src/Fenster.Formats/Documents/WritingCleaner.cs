using System.Text.RegularExpressions;
using Ganss.Xss;

namespace Fenster.Formats.Documents;

/// <summary>
/// Cleans what teachers write with formats: a few elements and a few classes stay, everything else goes. Plain text stays
/// as it is, but for characters that mean something in HTML.
/// </summary>
public static partial class WritingCleaner
{
    [GeneratedRegex("^ql-(align-(center|right|justify)|size-(small|large|huge)|direction-rtl|indent-[1-8])$|^paper-(honey|sky|leaf|rose|lilac)$")]
    private static partial Regex Class { get; }

    [GeneratedRegex("<[^>]*>")]
    private static partial Regex Element { get; }

    private static readonly HtmlSanitizer Sanitizer = Make();

    private static HtmlSanitizer Make()
    {
        var sanitizer = new HtmlSanitizer();
        sanitizer.AllowedTags.Clear();
        sanitizer.AllowedTags.UnionWith(["p", "br", "b", "strong", "i", "em", "u", "s", "sub", "sup", "ul", "ol", "li", "span"]);
        sanitizer.AllowedAttributes.Clear();
        sanitizer.AllowedAttributes.UnionWith(["class", "dir"]);
        sanitizer.AllowedClasses.Clear();
        sanitizer.AllowedCssProperties.Clear();
        sanitizer.AllowedSchemes.Clear();
        sanitizer.KeepChildNodes = true;
        sanitizer.RemovingTag += (_, removing) =>
        {
            // Of these not even the words inside are meant to be read.
            if (removing.Tag.TagName is "SCRIPT" or "STYLE" or "TEMPLATE" or "IFRAME" or "OBJECT" or "SVG" or "MATH") removing.Tag.TextContent = "";
        };
        sanitizer.RemovingCssClass += (_, removing) => removing.Cancel = Class.IsMatch(removing.CssClass);
        return sanitizer;
    }

    /// <summary>The markup with nothing in it that could act.</summary>
    public static string Clean(string markup) => markup.AsSpan().IndexOfAny('<', '&') < 0 ? markup : Sanitizer.Sanitize(markup);

    /// <summary>The words alone.</summary>
    public static string Words(string markup) => System.Net.WebUtility.HtmlDecode(Element.Replace(markup, " ")).Trim();
}
