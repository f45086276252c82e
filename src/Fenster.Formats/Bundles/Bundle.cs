using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Bundles;

/// <summary>A file of a bundle that the activity shows or plays.</summary>
/// <param name="Hash">Under which the activity names it.</param>
/// <param name="Extension">Without a dot.</param>
public sealed record BundledFile(string Hash, string Extension, byte[] Bytes);

/// <summary>
/// An activity in one file, a zip archive: <c>activity.json</c> and, in <c>media/</c>, each file that it names by its content hash.
/// </summary>
/// <param name="Document">The activity as a JSON document.</param>
public sealed partial record Bundle(string Document, IEnumerable<BundledFile> Files)
{
    public const string DocumentName = "activity.json";

    /// <summary>The most files in a bundle.</summary>
    public const int MostFiles = 1000;

    /// <summary>The most bytes of a bundle, unpacked.</summary>
    public const long MostBytes = 500L * 1024 * 1024;

    [GeneratedRegex("\"([0-9a-f]{64})\"")]
    private static partial Regex NamedHash { get; }

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
}

/// <summary>A bundle that is read: its document at once, its files one after the other, so that memory holds one.</summary>
public sealed partial class BundleReader : IDisposable
{
    /// <summary>The most bytes of one file.</summary>
    public const int MostFile = 200 * 1024 * 1024;

    [GeneratedRegex("^media/([0-9a-f]{64})\\.([a-z0-9]{2,5})$")]
    private static partial Regex MediaName { get; }

    private readonly ZipArchive zip;
    private readonly Dictionary<string, ZipArchiveEntry> media = [];
    private long left = Bundle.MostBytes;

    /// <summary>The activity as a JSON document.</summary>
    public string Document { get; }

    /// <summary>The hashes under which there are files.</summary>
    public IEnumerable<string> Hashes => media.Keys;

    /// <param name="stream">Can be read at any place; it is read until the reader is disposed of, and stays open then.</param>
    /// <exception cref="BundleRefused">It is no bundle, lacks something, or holds more than a bundle may.</exception>
    public BundleReader(Stream stream)
    {
        try
        {
            zip = new(stream, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > Bundle.MostFiles)
                throw new BundleRefused(new("bundle.manyFiles", ("files", zip.Entries.Count), ("most", Bundle.MostFiles)));
            ZipArchiveEntry? document = null;
            foreach (var entry in zip.Entries)
                // What is neither is left out: names are never used as paths.
                if (entry.FullName == Bundle.DocumentName)
                    document = entry;
                else if (MediaName.Match(entry.FullName) is { Success: true } name)
                    media.TryAdd(name.Groups[1].Value, entry);
            if (document is null)
                throw new BundleRefused(new("bundle.noDocument", ("document", Bundle.DocumentName)));
            Document = Encoding.UTF8.GetString(Unpack(document, ActivityDocument.MostBytes));
        }
        catch (Exception exception) when (IsDamage(exception))
        {
            throw new BundleRefused(Unreadable);
        }
    }

    private static readonly Said Unreadable = new("bundle.unreadable");

    // An archive that points to before its beginning or behind its end is damaged too, as each kind of stream puts it.
    private static bool IsDamage(Exception exception) => exception is InvalidDataException or ArgumentOutOfRangeException or IOException;

    /// <summary>The file under a hash.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    /// <exception cref="BundleRefused">It is damaged, or more than a bundle may hold.</exception>
    public BundledFile File(string hash)
    {
        var entry = media[hash];
        try
        {
            return new(hash, MediaName.Match(entry.FullName).Groups[2].Value, Unpack(entry, MostFile));
        }
        catch (Exception exception) when (IsDamage(exception))
        {
            throw new BundleRefused(Unreadable);
        }
    }

    private byte[] Unpack(ZipArchiveEntry entry, long most)
    {
        using var content = new MemoryStream();
        using var stream = entry.Open();
        var buffer = new byte[81920];
        int read;
        // What an archive says of its sizes may be wrong, so that what comes out is counted.
        while ((read = stream.Read(buffer)) > 0)
        {
            if ((left -= read) < 0)
                throw new BundleRefused(new("bundle.unpacked", ("most", Bundle.MostBytes / (1024 * 1024))));
            if (content.Length + read > most)
                throw new BundleRefused(new("bundle.largeFile", ("most", most / (1024 * 1024))));
            content.Write(buffer, 0, read);
        }
        return content.ToArray();
    }

    public void Dispose() => zip.Dispose();
}

/// <summary>A file that can't become an activity. The message is a sentence for the teacher.</summary>
public sealed class BundleRefused(Said said) : SaidException(said);
