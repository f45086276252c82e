using System.Text.RegularExpressions;

namespace Fenster.Web.Hosting;

/// <summary>
/// The scripts of the builds before this one, kept in the data folder: a page that was open while Fenster was replaced loads
/// those that it needs later as it was built with them.
/// </summary>
/// <param name="folder">Holds a folder for each build, named by it.</param>
internal sealed partial class EarlierAssets(string folder, TimeProvider clock)
{
    [GeneratedRegex("^/assets/([0-9a-f]{12})/(js(?:/[A-Za-z0-9._-]+)+)$")]
    private static partial Regex Address { get; }

    /// <summary>Keeps a build's files, and lets go of builds that were replaced long enough ago.</summary>
    /// <param name="files">By path within the build.</param>
    public void Keep(string build, IEnumerable<KeyValuePair<string, string>> files)
    {
        var kept = Path.Combine(folder, build);
        if (!Directory.Exists(kept))
        {
            // Complete before it has its name.
            var begun = Path.Combine(folder, $"{build}.{Guid.NewGuid():n}");
            foreach (var (path, file) in files)
            {
                var copy = Path.Combine(begun, path);
                Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
                File.Copy(file, copy);
            }
            try
            {
                Directory.Move(begun, kept);
            }
            catch (IOException) when (Directory.Exists(kept))
            {
                // Another process on the same folder was faster.
                Directory.Delete(begun, recursive: true);
            }
        }
        // Each by when it began; one that comes back begins anew. A build was in use until its follower began.
        if (Builds()[^1].Name != build)
            Directory.SetLastWriteTimeUtc(kept, clock.GetUtcNow().UtcDateTime);
        var builds = Builds();
        foreach (var (old, follower) in builds.Zip(builds.Skip(1)))
            if (clock.GetUtcNow() - follower.LastWriteTimeUtc > Assets.ServedOn)
                old.Delete(recursive: true);
    }

    private List<DirectoryInfo> Builds() => [.. new DirectoryInfo(folder).GetDirectories().OrderBy(build => build.LastWriteTimeUtc)];

    /// <summary>The file that an address of an earlier build names; null for none.</summary>
    public string? FileAt(string address) =>
        Address.Match(address) is { Success: true } match
        && !address.Contains("..", StringComparison.Ordinal)
        && Path.Combine(folder, match.Groups[1].Value, match.Groups[2].Value) is var file
        && File.Exists(file)
            ? file
            : null;
}
