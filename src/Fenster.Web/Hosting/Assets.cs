using System.Collections.Concurrent;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Fenster.Store;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.StaticFiles;

namespace Fenster.Web.Hosting;

/// <summary>
/// Scripts, styles and fonts, under an address that holds the version of all of them, so that browsers keep them for
/// good and never mix two versions. Each file is compressed once, as well as it can be, and kept in memory.
/// </summary>
public sealed partial class Assets
{
    private sealed record Asset(string ContentType, byte[] Plain, byte[]? Brotli);

    private static readonly string[] WorthCompressing = ["text/", "image/svg", "application/json"];

    private const string Reader = "/lib/tesseract/worker.min.js";

    private readonly string root;
    private readonly string prefix;
    private readonly Dictionary<string, string> files;
    private readonly ConcurrentDictionary<string, Asset> loaded = new();
    private readonly ConcurrentDictionary<string, IReadOnlyList<string>> modules = new();
    private readonly Lazy<string[]> studentScripts;
    private readonly ConcurrentDictionary<string, HtmlString> icons = new();
    private readonly FileExtensionContentTypeProvider contentTypes = new();

    /// <summary>How long the files of an earlier build are served, to pages that were open when it was replaced.</summary>
    public static readonly TimeSpan ServedOn = TimeSpan.FromDays(14);

    private readonly EarlierAssets earlier;

    public Assets(IWebHostEnvironment environment, Database database, TimeProvider clock)
    {
        root = environment.WebRootPath;
        files = Directory
            .EnumerateFiles(root, "*", SearchOption.AllDirectories)
            .ToDictionary(file => Path.GetRelativePath(root, file).Replace(Path.DirectorySeparatorChar, '/'), StringComparer.Ordinal);
        var list = files
            .OrderBy(file => file.Key, StringComparer.Ordinal)
            .Select(file => $"{file.Key} {new FileInfo(file.Value).Length} {File.GetLastWriteTimeUtc(file.Value).Ticks}");
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', list)));
        var build = Convert.ToHexStringLower(hash)[..12];
        prefix = $"/assets/{build}/";
        studentScripts = new(() =>
            [.. Reached("js/student/first.js", AtAnyTime).Union(Reached("js/student/entry.js", AtAnyTime)).Select(Url)]
        );
        earlier = new(Path.Combine(database.Folder, "builds"), clock);
        earlier.Keep(build, files.Where(file => file.Key.StartsWith("js/", StringComparison.Ordinal)));
    }

    public string Url(string path) => prefix + path;

    /// <summary>An icon, drawn in the page itself: one in a file of its own is a request and a document more for a phone.</summary>
    /// <param name="name">In <c>lib/icons</c>, of Bootstrap's icons.</param>
    public IHtmlContent Icon(string name) =>
        icons.GetOrAdd(name, known =>
            new(
                Attributes.Replace(
                    File.ReadAllText(files[$"lib/icons/{known}.svg"]),
                    "<svg class=\"icon\" viewBox=\"0 0 16 16\" aria-hidden=\"true\">"
                )
            )
        );

    [GeneratedRegex("<svg[^>]*>")]
    private static partial Regex Attributes { get; }

    /// <summary>A script and all that it imports at once: a browser that is told of them need not find them one after the other.</summary>
    /// <param name="path">Within wwwroot.</param>
    public IReadOnlyList<string> Modules(string path) => modules.GetOrAdd(path, first => Reached(first, AtOnce));

    /// <summary>The scripts of a student's page and all that they may import at any time, for a time without a connection; a JSON array of addresses.</summary>
    public Task AnswerScripts(HttpContext context)
    {
        context.Response.Headers.CacheControl = "no-cache";
        return context.Response.WriteAsJsonAsync(studentScripts.Value);
    }

    private List<string> Reached(string first, Regex import)
    {
        var found = new List<string> { first };
        for (var i = 0; i < found.Count; i++)
        {
            var folder = new Uri(new Uri("file:///"), found[i]);
            found.AddRange(
                import
                    .Matches(File.ReadAllText(files[found[i]]))
                    .Select(match => new Uri(folder, match.Groups[1].Value).AbsolutePath[1..])
                    .Where(file => !found.Contains(file))
                    .Distinct()
            );
        }
        return found;
    }

    [GeneratedRegex("""(?:\bfrom|^import|;import)\s*["'`](\.[^"'`]+)["'`]""", RegexOptions.Multiline)]
    private static partial Regex AtOnce { get; }

    [GeneratedRegex("""(?:\bfrom|^import|;import|\bimport\()\s*["'`](\.[^"'`]+)["'`]""", RegexOptions.Multiline)]
    private static partial Regex AtAnyTime { get; }

    /// <summary>The script that opens activities without a connection. Its address stays the same, as browsers want it of such a script.</summary>
    public Task AnswerWorker(HttpContext context)
    {
        context.Response.Headers.CacheControl = "no-cache";
        context.Response.ContentType = "text/javascript";
        return context.Response.SendFileAsync(files["js/student/worker.js"]);
    }

    /// <summary>Answers what asks for a file, and passes on what does not.</summary>
    public static RequestDelegate Serve(RequestDelegate next) =>
        context => context.RequestServices.GetRequiredService<Assets>().Answer(context, next);

    private Task Answer(HttpContext context, RequestDelegate next)
    {
        var path = context.Request.Path.Value ?? "";
        if ((FileAt(path) ?? earlier.FileAt(path)) is not { } file)
            return next(context);
        var asset = loaded.GetOrAdd(file, Load);
        var headers = context.Response.Headers;
        headers.CacheControl = "public, max-age=31536000, immutable";
        headers.Vary = "Accept-Encoding";
        if (path.EndsWith(Reader, StringComparison.Ordinal))
            headers.ContentSecurityPolicy = SecurityHeaders.PolicyOfReader;
        context.Response.ContentType = asset.ContentType;
        var body = asset.Plain;
        if (asset.Brotli is { } brotli && context.Request.Headers.AcceptEncoding.ToString().Contains("br"))
        {
            headers.ContentEncoding = "br";
            body = brotli;
        }
        context.Response.ContentLength = body.Length;
        return context.Response.Body.WriteAsync(body).AsTask();
    }

    private string? FileAt(string path) =>
        path.StartsWith(prefix, StringComparison.Ordinal) ? files.GetValueOrDefault(path[prefix.Length..]) : null;

    private Asset Load(string file)
    {
        var contentType = contentTypes.TryGetContentType(file, out var known) ? known : "application/octet-stream";
        var plain = File.ReadAllBytes(file);
        return new(contentType, plain, WorthCompressing.Any(contentType.StartsWith) ? Compress(plain) : null);
    }

    private static byte[] Compress(byte[] bytes)
    {
        using var packed = new MemoryStream();
        // The smallest size of a large file takes seconds.
        using (var brotli = new BrotliStream(packed, bytes.Length < 300_000 ? CompressionLevel.SmallestSize : CompressionLevel.Optimal))
            brotli.Write(bytes);
        return packed.ToArray();
    }
}
