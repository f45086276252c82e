using Microsoft.AspNetCore.Html;
using QRCoder;

namespace Fenster.Web.Hosting;

/// <summary>Links as QR codes, drawn as SVG.</summary>
public static class QrCode
{
    /// <param name="name">What a screen reader says of it.</param>
    public static IHtmlContent Of(string link, string name)
    {
        var data = QRCodeGenerator.GenerateQrCode(link, QRCodeGenerator.ECCLevel.M);
        var size = data.ModuleMatrix.Count;
        var path = new System.Text.StringBuilder();
        for (var y = 0; y < size; y++)
        for (var x = 0; x < size; x++)
            if (data.ModuleMatrix[y][x])
                path.Append(System.Globalization.CultureInfo.InvariantCulture, $"M{x} {y}h1v1h-1z");
        // Dark on white whatever the theme, with the quiet zone that the code has around it.
        return new HtmlString(
            $"""
            <svg class="qr" viewBox="0 0 {size} {size}" role="img" aria-label="{System.Net.WebUtility.HtmlEncode(
                name
            )}" shape-rendering="crispEdges"
            ><rect width="{size}" height="{size}" fill="#fff"/><path d="{path}" fill="#000"/></svg>
            """
        );
    }
}
