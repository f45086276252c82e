using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using Fenster.Core.Model;
using SkiaSharp;

namespace Fenster.Formats.Pictures;

/// <summary>A drawing that can't do anything but be looked at.</summary>
/// <param name="Width">In pixels: its own, or as many as make it sharp on the largest screen, since it is drawn at any size.</param>
public sealed record CleanDrawing(byte[] Bytes, int Width, int Height);

/// <summary>
/// Takes out of an SVG drawing everything that acts or reaches outside: only elements and attributes stay that are known
/// to draw. Written after the element and attribute tables of SVG 1.1 and 2.
/// </summary>
public static partial class SvgCleaner
{
    public const int MostBytes = 5 * 1024 * 1024;
    private const int MostElements = 50_000;
    private const int DeepestElement = 100;

    /// <summary>How deep elements may lie once those that are used lie where they are used.</summary>
    private const int DeepestDrawn = 300;
    private const int WidestDrawing = 100_000;

    /// <summary>
    /// A drawing that says it is smaller is given this width in pixels, as far as its height then stays within the longest side.
    /// </summary>
    private const int SharpWidth = 1920;
    private const int LongestSide = 4096;

    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";
    private static readonly XNamespace XLink = "http://www.w3.org/1999/xlink";

    private static readonly HashSet<string> Elements =
    [
        "svg",
        "g",
        "defs",
        "symbol",
        "use",
        "title",
        "desc",
        "path",
        "rect",
        "circle",
        "ellipse",
        "line",
        "polyline",
        "polygon",
        "text",
        "tspan",
        "textPath",
        "linearGradient",
        "radialGradient",
        "stop",
        "pattern",
        "clipPath",
        "mask",
        "marker",
        "image",
        "style",
        "switch",
        "filter",
        "feBlend",
        "feColorMatrix",
        "feComponentTransfer",
        "feComposite",
        "feConvolveMatrix",
        "feDiffuseLighting",
        "feDisplacementMap",
        "feDistantLight",
        "feDropShadow",
        "feFlood",
        "feFuncA",
        "feFuncB",
        "feFuncG",
        "feFuncR",
        "feGaussianBlur",
        "feMerge",
        "feMergeNode",
        "feMorphology",
        "feOffset",
        "fePointLight",
        "feSpecularLighting",
        "feSpotLight",
        "feTile",
        "feTurbulence",
    ];

    /// <summary>Attributes of one element: no drawing program writes so many.</summary>
    private const int MostAttributes = 200;

    private static readonly string[] PictureTypes = ["image/png", "image/jpeg", "image/jpg", "image/gif", "image/webp"];

    /// <exception cref="PictureRefused">It is no SVG, has entities, or is too large.</exception>
    public static CleanDrawing Clean(byte[] bytes)
    {
        if (bytes.Length > MostBytes)
            throw new PictureRefused(
                new("picture.drawingBytes", ("size", bytes.Length / (1024 * 1024)), ("most", MostBytes / (1024 * 1024)))
            );
        var root = Parse(bytes);
        if (root.Name.LocalName != "svg")
            throw new PictureRefused(new("picture.noDrawing"));
        var count = 0;
        var clean = CleanElement(root, 0, ref count) ?? throw new PictureRefused(new("picture.emptyDrawing"));
        if (new Drawn(clean).Count(clean) > MostElements)
            throw new PictureRefused(TooManyParts);
        var (width, height) = SizeOf(clean);
        clean.SetAttributeValue(
            "viewBox",
            clean.Attribute("viewBox")?.Value ?? string.Create(CultureInfo.InvariantCulture, $"0 0 {width} {height}")
        );
        var larger = Math.Max(1, Math.Min((double)SharpWidth / width, (double)LongestSide / height));
        (width, height) = ((int)Math.Round(width * larger), (int)Math.Round(height * larger));
        clean.SetAttributeValue("width", width);
        clean.SetAttributeValue("height", height);
        using var stream = new MemoryStream();
        using (var writer = XmlWriter.Create(stream, new() { Encoding = new UTF8Encoding(false), OmitXmlDeclaration = true }))
            clean.Save(writer);
        return new(stream.ToArray(), width, height);
    }

    private static readonly Said TooManyParts = new("picture.manyParts");

    /// <summary>How many elements a browser draws: a few that use each other can stand for more than it will ever finish.</summary>
    private sealed class Drawn(XElement root)
    {
        private readonly Dictionary<string, XElement> named = root.DescendantsAndSelf()
            .Where(element => element.Attribute("id") is not null)
            .DistinctBy(element => element.Attribute("id")!.Value)
            .ToDictionary(element => element.Attribute("id")!.Value);
        private readonly Dictionary<XElement, long> counted = [];

        /// <exception cref="PictureRefused">Parts use parts that use parts, deeper than anybody draws.</exception>
        public long Count(XElement element, int depth = 0)
        {
            if (depth > DeepestDrawn)
                throw new PictureRefused(TooManyParts);
            if (counted.TryGetValue(element, out var known))
                return known;
            // What uses itself is not drawn.
            counted[element] = 0;
            var count = 1 + element.Elements().Sum(child => Count(child, depth + 1));
            if (
                element.Name.LocalName == "use"
                && element.Attribute("href")?.Value is ['#', .. var id]
                && named.TryGetValue(id, out var used)
            )
                count += Count(used, depth + 1);
            return counted[element] = Math.Min(count, MostElements + 1);
        }
    }

    /// <summary>A reference that stays within the drawing, or a picture that stands in it; null for any other.</summary>
    private static string? HarmlessReference(string reference)
    {
        var trimmed = reference.Trim();
        if (trimmed.StartsWith('#'))
            return trimmed.Any(char.IsWhiteSpace) ? null : trimmed;
        if (!trimmed.StartsWith("data:", StringComparison.OrdinalIgnoreCase) || trimmed.IndexOf(',') is not (> 0 and var comma))
            return null;
        if (
            trimmed[5..comma].Split(';') is not [var type, var coding]
            || !string.Equals(coding, "base64", StringComparison.OrdinalIgnoreCase)
        )
            return null;
        return PictureTypes.Contains(type, StringComparer.OrdinalIgnoreCase) && IsHarmlessPicture(trimmed[(comma + 1)..]) ? trimmed : null;
    }

    /// <summary>Whether a picture inside the drawing is one, and no larger than a picture may be.</summary>
    private static bool IsHarmlessPicture(string base64)
    {
        try
        {
            using var data = SKData.CreateCopy(Convert.FromBase64String(base64));
            using var codec = SKCodec.Create(data);
            return codec is not null && (long)codec.Info.Width * codec.Info.Height <= PictureReader.MostPixels;
        }
        catch (FormatException)
        {
            return false;
        }
    }

    private static XElement Parse(byte[] bytes)
    {
        try
        {
            Measure(bytes);
            using var reader = ReaderOf(bytes);
            return XElement.Load(reader);
        }
        catch (XmlException exception)
        {
            throw new PictureRefused(new("picture.damagedDrawing", ("line", exception.LineNumber)));
        }
    }

    private static XmlReader ReaderOf(byte[] bytes) =>
        XmlReader.Create(
            new MemoryStream(bytes),
            new()
            {
                DtdProcessing = DtdProcessing.Ignore,
                XmlResolver = null,
                MaxCharactersInDocument = MostBytes,
                IgnoreComments = true,
                IgnoreProcessingInstructions = true,
            }
        );

    /// <summary>Refuses what is too deep or has too many parts while it is read, before a tree is made of it.</summary>
    private static void Measure(byte[] bytes)
    {
        using var reader = ReaderOf(bytes);
        var elements = 0;
        while (reader.Read())
            if (
                reader.NodeType == XmlNodeType.Element
                && (reader.Depth > DeepestElement || ++elements > MostElements || reader.AttributeCount > MostAttributes)
            )
                throw new PictureRefused(TooManyParts);
    }

    private static XElement? CleanElement(XElement element, int depth, ref int count)
    {
        if (depth > DeepestElement || ++count > MostElements)
            throw new PictureRefused(TooManyParts);
        if ((element.Name.Namespace != Svg && element.Name.Namespace != XNamespace.None) || !Elements.Contains(element.Name.LocalName))
            return null;
        var clean = new XElement(Svg + element.Name.LocalName);
        foreach (var attribute in element.Attributes())
            if (CleanAttribute(attribute) is { } kept)
                clean.Add(kept);
        if (clean.Name.LocalName == "style")
        {
            // A sheet in pieces, with elements between them, is no style that anybody draws with.
            if (element.HasElements || StyleCleaner.CleanSheet(element.Value) is not { Length: > 0 } sheet)
                return null;
            clean.Add(new XText(sheet));
            return clean;
        }
        if (clean.Name.LocalName is "image" or "use" && clean.Attribute("href") is null)
            return null;
        foreach (var node in element.Nodes())
        {
            if (node is XElement child && CleanElement(child, depth + 1, ref count) is { } cleanChild)
                clean.Add(cleanChild);
            else if (node is XText text)
                clean.Add(new XText(text.Value));
        }
        return clean;
    }

    private static XAttribute? CleanAttribute(XAttribute attribute)
    {
        var (name, value) = (attribute.Name, attribute.Value);
        if (attribute.IsNamespaceDeclaration)
            return null;
        if (name == XLink + "href" || name == "href")
            return HarmlessReference(value) is { } reference ? new("href", reference) : null;
        if (name.Namespace == XNamespace.Xml && name.LocalName is "space" or "lang")
            return new(attribute);
        if (name.Namespace != XNamespace.None || name.LocalName.StartsWith("on", StringComparison.OrdinalIgnoreCase))
            return null;
        return StyleCleaner.IsHarmless(value) ? new(name.LocalName, value) : null;
    }

    /// <summary>The drawing's own size: width and height where they are lengths, otherwise its view box.</summary>
    private static (int Width, int Height) SizeOf(XElement svg)
    {
        var box = svg.Attribute("viewBox")
            ?.Value.Split([' ', ',', '\t', '\n'], StringSplitOptions.RemoveEmptyEntries)
            .Select(Number)
            .ToArray()
            is [_, _, var w, var h]
            ? (Width: w, Height: h)
            : (null, null);
        var (width, height) = (Length(svg.Attribute("width")?.Value), Length(svg.Attribute("height")?.Value));
        // A missing side follows the other by the shape of the view box.
        if (width is null && height is not null && box is ({ } bw, { } bh) && bh > 0)
            width = height * bw / bh;
        if (height is null && width is not null && box is ({ } cw, { } ch) && cw > 0)
            height = width * ch / cw;
        (width, height) = (width ?? box.Item1 ?? 300, height ?? box.Item2 ?? 150);
        if (!(width > 0 && height > 0 && width <= WidestDrawing && height <= WidestDrawing))
            throw new PictureRefused(new("picture.noSize"));
        return ((int)Math.Ceiling(width.Value), (int)Math.Ceiling(height.Value));
    }

    private static double? Number(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;

    /// <summary>A length in CSS pixels; null for none, and for shares of something else.</summary>
    private static double? Length(string? text)
    {
        if (text is null || LengthShape().Match(text.Trim()) is not { Success: true } match)
            return null;
        var factor = match.Groups[2].Value switch
        {
            "" or "px" => 1,
            "pt" => 96 / 72.0,
            "pc" => 16,
            "mm" => 96 / 25.4,
            "cm" => 96 / 2.54,
            "in" => 96,
            _ => 0,
        };
        return factor == 0 ? null : Number(match.Groups[1].Value) * factor;
    }

    [GeneratedRegex(@"^([\d.]+(?:e[+-]?\d+)?)([a-z%]*)$", RegexOptions.IgnoreCase)]
    private static partial Regex LengthShape();
}
