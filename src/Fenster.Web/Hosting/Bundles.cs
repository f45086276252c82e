using Fenster.Core.Model;
using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>Activities as single files, out and in. What comes in goes the way of every upload.</summary>
public sealed class Bundles(Media media, MediaUpload upload)
{
    /// <summary>A bundle is made on the disk, so that memory holds one file of it.</summary>
    public FileStream Pack(Draft draft)
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
        var stream = TemporaryFile.New();
        new Bundle(draft.Document, files).Write(stream);
        stream.Position = 0;
        return stream;
    }

    /// <summary>Stores what a bundle shows and plays, and gives its activity with the names under which that is stored here.</summary>
    /// <param name="bundle">Can be read at any place.</param>
    /// <exception cref="BundleRefused">It is no bundle, or lacks a file that the activity names.</exception>
    /// <exception cref="DocumentRefused">Its activity can't be read.</exception>
    /// <exception cref="PictureRefused">One of its pictures can't be read.</exception>
    /// <exception cref="SoundRefused">One of its sounds, videos or captions can't be read.</exception>
    public async Task<(Activity Activity, string Document)> Unpack(Stream bundle, long teacher, CancellationToken stop)
    {
        using var reader = new BundleReader(bundle);
        // Read before anything is stored, so that a refused bundle leaves nothing behind.
        _ = ActivityDocument.Read(reader.Document);
        var named = Bundle.HashesIn(reader.Document);
        if (Missing(named.Except(reader.Hashes)) is var missing and > 0)
            throw new BundleRefused(new("bundle.lacks", ("count", missing)));
        var stored = new Dictionary<string, string>();
        // One file after the other, each in its turn among all uploads.
        foreach (var hash in named.Intersect(reader.Hashes))
            stored[hash] = await upload.InTurn(teacher, BundleReader.MostFile, () => reader.File(hash), file => Keep(teacher, file), stop);
        return ActivityDocument.ReadAndWrite(Bundle.Renamed(reader.Document, stored));
    }

    /// <summary>How many pictures, sounds and videos of a document are not on the server.</summary>
    public int MissingOf(string document) => Missing(Bundle.HashesIn(document));

    private int Missing(IEnumerable<string> hashes) => hashes.Count(hash => media.Largest(hash) is null);

    private string Keep(long teacher, BundledFile file)
    {
        var hash = Store(file);
        media.Give(hash, teacher);
        return hash;
    }

    private string Store(BundledFile file)
    {
        PreparedSound? played = file.Extension switch
        {
            "vtt" => CaptionsReader.Read(file.Bytes),
            "mp4" => SoundReader.ReadVideo(file.Bytes),
            "mp3" or "ogg" or "wav" or "m4a" or "webm" => file.Bytes.Length > SoundReader.MostBytes
                ? SoundReader.ReadVideo(file.Bytes)
                : SoundReader.Read(file.Bytes),
            _ => null,
        };
        if (played is not null)
        {
            media.Save(played);
            return played.Hash;
        }
        var picture = PictureReader.Read(file.Bytes);
        media.Save(picture, file.Bytes);
        return picture.Hash;
    }
}
