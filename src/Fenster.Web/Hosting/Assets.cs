using System.Collections.Concurrent;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.StaticFiles;

namespace Fenster.Web.Hosting;

/// <summary>
/// Scripts, styles and fonts, under an address that holds the version of all of them, so that browsers keep them for
/// good and never mix two versions. Each file is compressed once, as well as it can be, and kept in memory.
/// </summary>
public sealed class Assets
{
    private sealed record Asset(string ContentType, byte[] Plain, byte[]? Brotli);

    private static readonly string[] WorthCompressing = ["text/", "image/svg", "application/json"];

    private readonly string root;
    private readonly string prefix;
    private readonly Dictionary<string, string> files;
    private readonly ConcurrentDictionary<string, Asset> loaded = new();
    private readonly FileExtensionContentTypeProvider contentTypes = new();

    public Assets(IWebHostEnvironment environment)
    {
        root = environment.WebRootPath;
        files = Directory
            .EnumerateFiles(root, "*", SearchOption.AllDirectories)
            .ToDictionary(file => Path.GetRelativePath(root, file).Replace(Path.DirectorySeparatorChar, '/'), StringComparer.Ordinal);
        var list = files
            .OrderBy(file => file.Key, StringComparer.Ordinal)
            .Select(file => $"{file.Key} {new FileInfo(file.Value).Length} {File.GetLastWriteTimeUtc(file.Value).Ticks}");
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', list)));
        prefix = $"/assets/{Convert.ToHexStringLower(hash)[..12]}/";
    }

    public string Url(string path) => prefix + path;

    public void Serve(IApplicationBuilder app) =>
        app.Use(
            async (context, next) =>
            {
                var path = context.Request.Path.Value ?? "";
                if (!path.StartsWith(prefix, StringComparison.Ordinal) || !files.TryGetValue(path[prefix.Length..], out var file))
                {
                    await next(context);
                    return;
                }
                var asset = loaded.GetOrAdd(file, Load);
                var headers = context.Response.Headers;
                headers.CacheControl = "public, max-age=31536000, immutable";
                headers.Vary = "Accept-Encoding";
                context.Response.ContentType = asset.ContentType;
                var body = asset.Plain;
                if (asset.Brotli is { } brotli && context.Request.Headers.AcceptEncoding.ToString().Contains("br"))
                {
                    headers.ContentEncoding = "br";
                    body = brotli;
                }
                context.Response.ContentLength = body.Length;
                await context.Response.Body.WriteAsync(body);
            }
        );

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
