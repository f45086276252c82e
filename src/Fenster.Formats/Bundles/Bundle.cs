using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;

namespace Fenster.Formats.Bundles;

/// <summary>A file of a bundle that the activity shows or plays.</summary>
/// <param name="Hash">Under which the activity names it.</param>
/// <param name="Extension">Without a dot.</param>
public sealed record BundledFile(string Hash, string Extension, byte[] Bytes);

/// <summary>
/// An activity in one file, a zip archive: <c>activity.json</c> and, in <c>media/</c>, each file that it names by its content hash.
/// </summary>
/// <param name="Document">The activity as a JSON document.</param>
public sealed partial record Bundle(string Document, IReadOnlyList<BundledFile> Files)
{
    public const string DocumentName = "activity.json";

    /// <summary>The most files in a bundle.</summary>
    public const int MostFiles = 1000;

    /// <summary>The most bytes of a bundle, unpacked.</summary>
    public const long MostBytes = 500L * 1024 * 1024;

    [GeneratedRegex("\"([0-9a-f]{64})\"")]
    private static partial Regex NamedHash { get; }

    [GeneratedRegex("^media/([0-9a-f]{64})\\.([a-z0-9]{2,5})$")]
    private static partial Regex MediaName { get; }

    /// <summary>The content hashes that a document names, each once.</summary>
    public static IReadOnlyList<string> HashesIn(string document) =>
        [.. NamedHash.Matches(document).Select(match => match.Groups[1].Value).Distinct()];

    /// <summary>The document with other hashes in place of those that it names.</summary>
    /// <param name="hashes">New by old.</param>
    public static string Renamed(string document, IReadOnlyDictionary<string, string> hashes) =>
        NamedHash.Replace(document, match => $"\"{hashes.GetValueOrDefault(match.Groups[1].Value, match.Groups[1].Value)}\"");

    public void Write(Stream stream)
    {
        using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true);
        Put(zip, DocumentName, Encoding.UTF8.GetBytes(Document));
        foreach (var file in Files)
            Put(zip, $"media/{file.Hash}.{file.Extension}", file.Bytes);
    }

    private static void Put(ZipArchive zip, string name, byte[] bytes)
    {
        using var entry = zip.CreateEntry(name).Open();
        entry.Write(bytes);
    }

    /// <exception cref="BundleRefused">The bytes are no bundle, lack something, or unpack to more than a bundle may hold.</exception>
    public static Bundle Read(byte[] bytes)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            if (zip.Entries.Count > MostFiles)
                throw new BundleRefused($"The bundle holds {zip.Entries.Count} files; up to {MostFiles} are taken.");
            var left = MostBytes;
            string? document = null;
            var files = new List<BundledFile>();
            foreach (var entry in zip.Entries)
            {
                var media = MediaName.Match(entry.FullName);
                // What is neither is left out: names are never used as paths.
                if (entry.FullName != DocumentName && !media.Success)
                    continue;
                var content = Unpack(entry, ref left);
                if (media.Success)
                    files.Add(new(media.Groups[1].Value, media.Groups[2].Value, content));
                else
                    document = Encoding.UTF8.GetString(content);
            }
            return new(document ?? throw new BundleRefused($"This is not an activity's file: it holds no {DocumentName}."), files);
        }
        catch (InvalidDataException)
        {
            throw new BundleRefused(
                "This file can't be read. An activity that was saved as a file ends in .zip; copy it again from where it came."
            );
        }
    }

    private static byte[] Unpack(ZipArchiveEntry entry, ref long left)
    {
        using var content = new MemoryStream();
        using var stream = entry.Open();
        var buffer = new byte[81920];
        int read;
        // What an archive says of its sizes may be wrong, so that what comes out is counted.
        while ((read = stream.Read(buffer)) > 0)
        {
            if ((left -= read) < 0)
                throw new BundleRefused($"The bundle unpacks to more than {MostBytes / (1024 * 1024)} MB.");
            content.Write(buffer, 0, read);
        }
        return content.ToArray();
    }
}

/// <summary>A file that can't become an activity. The message is a sentence for the teacher.</summary>
public sealed class BundleRefused(string message) : Exception(message);
