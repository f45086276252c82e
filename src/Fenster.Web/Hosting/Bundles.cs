using Fenster.Core.Model;
using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>Activities as single files, out and in. What comes in goes the way of every upload.</summary>
public sealed class Bundles(Media media)
{
    public byte[] Pack(Draft draft)
    {
        var files = Bundle
            .HashesIn(draft.Document)
            .Select(hash => (Hash: hash, File: media.Largest(hash)))
            .Where(found => found.File is not null)
            .Select(found => new BundledFile(
                found.Hash,
                Path.GetExtension(found.File!.Path).TrimStart('.'),
                File.ReadAllBytes(found.File.Path)
            ));
        using var stream = new MemoryStream();
        new Bundle(draft.Document, [.. files]).Write(stream);
        return stream.ToArray();
    }

    /// <summary>Stores what a bundle shows and plays, and gives its activity with the names under which that is stored here.</summary>
    /// <exception cref="BundleRefused">It is no bundle, or lacks a file that the activity names.</exception>
    /// <exception cref="DocumentRefused">Its activity can't be read.</exception>
    /// <exception cref="PictureRefused">One of its pictures can't be read.</exception>
    /// <exception cref="SoundRefused">One of its sounds, videos or captions can't be read.</exception>
    public (Activity Activity, string Document) Unpack(byte[] bytes)
    {
        var bundle = Bundle.Read(bytes);
        // Read before anything is stored, so that a refused bundle leaves nothing behind.
        _ = ActivityDocument.Read(bundle.Document);
        var named = Bundle.HashesIn(bundle.Document);
        if (Missing(named.Except(bundle.Files.Select(file => file.Hash))) is var missing and > 0)
            throw new BundleRefused($"The bundle lacks {missing} {(missing == 1 ? "file" : "files")} that its activity shows or plays.");
        var stored = bundle
            .Files.Where(file => named.Contains(file.Hash))
            .DistinctBy(file => file.Hash)
            .ToDictionary(file => file.Hash, Keep);
        var document = Bundle.Renamed(bundle.Document, stored);
        var activity = ActivityDocument.Read(document);
        return (activity, ActivityDocument.Write(activity, document));
    }

    /// <summary>How many pictures, sounds and videos of a document are not on the server.</summary>
    public int MissingOf(string document) => Missing(Bundle.HashesIn(document));

    private int Missing(IEnumerable<string> hashes) => hashes.Count(hash => media.Largest(hash) is null);

    private string Keep(BundledFile file)
    {
        switch (file.Extension)
        {
            case "vtt":
                return Keep(CaptionsReader.Read(file.Bytes));
            case "mp4":
                return Keep(SoundReader.ReadVideo(file.Bytes));
            case "mp3" or "ogg" or "wav" or "m4a" or "webm":
                return Keep(file.Bytes.Length > SoundReader.MostBytes ? SoundReader.ReadVideo(file.Bytes) : SoundReader.Read(file.Bytes));
            default:
                var picture = PictureReader.Read(file.Bytes);
                media.Save(picture, file.Bytes);
                return picture.Hash;
        }
    }

    private string Keep(PreparedSound sound)
    {
        media.Save(sound);
        return sound.Hash;
    }
}
