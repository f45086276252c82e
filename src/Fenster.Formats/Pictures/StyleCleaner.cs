using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Css;
using AngleSharp.Css.Dom;
using AngleSharp.Css.Parser;

namespace Fenster.Formats.Pictures;

/// <summary>
/// Style sheets and style values of drawings, parsed as a browser parses them, so that only what is known to draw stays: rules
/// of selectors and media, and values whose functions are known and reach nowhere outside the drawing.
/// </summary>
internal static partial class StyleCleaner
{
    private static readonly CssParserOptions Options = new()
    {
        IsIncludingUnknownDeclarations = true,
        IsIncludingUnknownRules = false,
        IsToleratingInvalidSelectors = false,
    };

    /// <summary>Functions that draw: of colours, lengths, transforms, shapes and filters. Others may load something.</summary>
    private static readonly HashSet<string> Drawing = new(StringComparer.OrdinalIgnoreCase)
    {
        "rgb",
        "rgba",
        "hsl",
        "hsla",
        "hwb",
        "lab",
        "lch",
        "oklab",
        "oklch",
        "color",
        "color-mix",
        "calc",
        "min",
        "max",
        "clamp",
        "var",
        "cubic-bezier",
        "steps",
        "matrix",
        "matrix3d",
        "translate",
        "translatex",
        "translatey",
        "translate3d",
        "scale",
        "scalex",
        "scaley",
        "scale3d",
        "rotate",
        "rotatex",
        "rotatey",
        "rotatez",
        "rotate3d",
        "skew",
        "skewx",
        "skewy",
        "perspective",
        "circle",
        "ellipse",
        "inset",
        "polygon",
        "path",
        "rect",
        "blur",
        "brightness",
        "contrast",
        "drop-shadow",
        "grayscale",
        "hue-rotate",
        "invert",
        "opacity",
        "saturate",
        "sepia",
        "linear-gradient",
        "radial-gradient",
        "repeating-linear-gradient",
        "repeating-radial-gradient",
        "conic-gradient",
    };

    [GeneratedRegex(@"([\w-]+)\(\s*(['""]?#)?", RegexOptions.CultureInvariant)]
    private static partial Regex Function();

    /// <summary>Whether a value does nothing but draw. What is escaped can't be told and is none.</summary>
    public static bool IsHarmless(string value)
    {
        if (value.Contains('\\') || value.Contains('@') || value.Contains("javascript:", StringComparison.OrdinalIgnoreCase))
            return false;
        foreach (Match function in Function().Matches(value))
        {
            var name = function.Groups[1].Value;
            var staysInside = string.Equals(name, "url", StringComparison.OrdinalIgnoreCase) && function.Groups[2].Success;
            if (!staysInside && !Drawing.Contains(name))
                return false;
        }
        return true;
    }

    /// <summary>A sheet with the rules and declarations that only draw; empty when there are none.</summary>
    public static string CleanSheet(string sheet)
    {
        if (sheet.Contains('\\') || sheet.Contains('<'))
            return "";
        var clean = new StringBuilder();
        Write(new CssParser(Options).ParseStyleSheet(sheet).Rules, clean);
        return clean.ToString();
    }

    [GeneratedRegex(@"url\(""(#[^""()\s]*)""\)", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex QuotedReference();

    /// <summary>References within the drawing as they are usually written.</summary>
    private static string Plain(string value) => QuotedReference().Replace(value, "url($1)");

    private static void Write(ICssRuleList rules, StringBuilder clean)
    {
        foreach (var rule in rules)
        {
            if (rule is ICssStyleRule { SelectorText: { Length: > 0 } selector } style)
            {
                var declarations = style
                    .Style.Where(declaration => IsHarmless(declaration.Value))
                    .Select(declaration => $"{declaration.Name}:{Plain(declaration.Value)}{(declaration.IsImportant ? "!important" : "")}")
                    .ToList();
                if (declarations.Count > 0 && !selector.Contains('<'))
                    clean.Append(selector).Append('{').AppendJoin(';', declarations).Append('}');
            }
            else if (rule is ICssMediaRule media && IsHarmless(media.Media.MediaText) && !media.Media.MediaText.Contains('<'))
            {
                clean.Append("@media ").Append(media.Media.MediaText).Append('{');
                Write(media.Rules, clean);
                clean.Append('}');
            }
        }
    }
}
