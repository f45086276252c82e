using System.Security.Cryptography;
using System.Text;
using Microsoft.Extensions.FileProviders;

namespace Fenster.Web.Hosting;

/// <summary>
/// Scripts, styles and fonts, under an address that holds the version of all of them, so that browsers keep them for
/// good and never mix two versions.
/// </summary>
public sealed class Assets
{
    private readonly string root;
    private readonly string prefix;

    public Assets(IWebHostEnvironment environment)
    {
        root = environment.WebRootPath;
        var list = Directory.EnumerateFiles(root, "*", SearchOption.AllDirectories)
            .Order(StringComparer.Ordinal)
            .Select(file => $"{Path.GetRelativePath(root, file)} {new FileInfo(file).Length} {File.GetLastWriteTimeUtc(file).Ticks}");
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', list)));
        prefix = $"/assets/{Convert.ToHexStringLower(hash)[..12]}";
    }

    public string Url(string path) => $"{prefix}/{path}";

    public void Serve(IApplicationBuilder app) => app.UseStaticFiles(new StaticFileOptions
    {
        RequestPath = prefix,
        FileProvider = new PhysicalFileProvider(root),
        OnPrepareResponse = context => context.Context.Response.Headers.CacheControl = "public, max-age=31536000, immutable",
    });
}
