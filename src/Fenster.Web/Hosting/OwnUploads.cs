using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>A file that a student brought in, as the browser is told.</summary>
/// <param name="IsSharp">False of a picture that looks blurred.</param>
public sealed record OwnTaken(string Media, int Width, int Height, bool IsSharp);

/// <summary>
/// Takes files of students in, in pieces, so that a slow line can break and go on where it was. One file of an attempt is under way at a
/// time; what a broken line leaves behind goes after a while, and sooner where others need its place. It is read like every upload, and nothing of what was sent is kept.
/// </summary>
public sealed class OwnUploads(OwnFiles files, MediaUpload upload, TimeProvider clock) : IDisposable
{
    /// <summary>Bytes of one piece, at most.</summary>
    public const int MostPiece = 1024 * 1024;

    /// <summary>Something that is under way is let go when nothing has come for so long.</summary>
    private static readonly TimeSpan LongestBreak = TimeSpan.FromMinutes(20);

    /// <summary>As many files are open at once, at most, and hold as many bytes together.</summary>
    private const int MostUnderWay = 400;
    private const long MostBytesUnderWay = 2L * 1024 * 1024 * 1024;

    /// <summary>What is younger is not let go for others.</summary>
    private static readonly TimeSpan Youth = TimeSpan.FromSeconds(10);

    private sealed record UnderWay(string Key, FileStream File, DateTimeOffset Since)
    {
        public DateTimeOffset At { get; set; }

        /// <summary>Bytes a second since it began, pauses included.</summary>
        public double Pace(DateTimeOffset now) => File.Length / (now - Since).TotalSeconds;
    }

    private readonly Dictionary<long, UnderWay> underWay = [];
    private readonly PerPerson turns = new();

    /// <summary>How much of a file is here, in bytes, 0 for nothing.</summary>
    public long Have(long attempt, string key)
    {
        lock (underWay)
            return underWay.GetValueOrDefault(attempt) is { } known && known.Key == key ? known.File.Length : 0;
    }

    /// <summary>Gives up what is under way.</summary>
    public void Cancel(long attempt, string key)
    {
        lock (underWay)
            if (underWay.GetValueOrDefault(attempt) is { } known && known.Key == key)
                Drop(attempt);
    }

    private void Drop(long attempt)
    {
        if (underWay.Remove(attempt, out var gone))
            gone.File.Dispose();
    }

    /// <summary>Adds a piece.</summary>
    /// <param name="key">Made by the browser, another one for each file; a new one takes the place of what was under way.</param>
    /// <param name="from">Where the piece begins, in bytes.</param>
    /// <param name="size">Of the whole file, in bytes.</param>
    /// <returns>How much is here now; less than was sent where it does not follow what was here.</returns>
    /// <exception cref="PictureRefused">The file is too large, or too much is under way.</exception>
    public async Task<long> Add(long attempt, string key, long from, long size, Stream piece, CancellationToken stop)
    {
        if (size is <= 0 or > PictureReader.MostBytes)
            throw new PictureRefused(new("file.tooLarge", ("most", PictureReader.MostBytes / (1024 * 1024))));
        using var turn = await turns.Enter(attempt, stop);
        UnderWay here;
        lock (underWay)
        {
            var now = clock.GetUtcNow();
            foreach (var old in underWay.Where(known => now - known.Value.At > LongestBreak).Select(known => known.Key).ToList())
                Drop(old);
            if (underWay.GetValueOrDefault(attempt) is { } other && other.Key != key)
                Drop(attempt);
            if (!underWay.TryGetValue(attempt, out here!))
            {
                MakePlace(now);
                underWay[attempt] = here = new(key, TemporaryFile.New(), now);
            }
            here.At = now;
        }
        if (from != here.File.Length)
            return here.File.Length;
        try
        {
            here.File.Position = from;
            var buffer = new byte[81920];
            int read;
            while (
                here.File.Length < Math.Min(size, from + MostPiece)
                && (read = await piece.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, size - here.File.Length)), stop)) > 0
            )
                await here.File.WriteAsync(buffer.AsMemory(0, read), stop);
            await here.File.FlushAsync(stop);
            return here.File.Length;
        }
        catch (ObjectDisposedException)
        {
            // It was let go for others while this piece was on its way.
            throw new PictureRefused(new("making.busy"));
        }
    }

    /// <summary>Lets go of what comes slowest, counted from its beginning, until there is a place for one more.</summary>
    /// <exception cref="PictureRefused">All places are taken by what has only just begun.</exception>
    private void MakePlace(DateTimeOffset now)
    {
        while (underWay.Count >= MostUnderWay || underWay.Values.Sum(known => known.File.Length) >= MostBytesUnderWay)
        {
            var old = underWay.Where(known => now - known.Value.Since >= Youth).ToList();
            if (old.Count == 0)
                throw new PictureRefused(new("making.busy"));
            Drop(old.MinBy(known => known.Value.Pace(now)).Key);
        }
    }

    /// <summary>Reads what has arrived whole, and keeps it for the attempt.</summary>
    /// <exception cref="PictureRefused">It is no picture that can be used, or the attempt has brought in enough.</exception>
    /// <exception cref="SoundRefused">It is no sound that can be used.</exception>
    public async Task<OwnTaken> Finish(long attempt, string key, bool isSound, CancellationToken stop)
    {
        UnderWay? here;
        lock (underWay)
            if (!underWay.Remove(attempt, out here) || here.Key != key)
            {
                if (here is not null)
                    underWay[attempt] = here;
                throw new PictureRefused(new("file.empty"));
            }
        await using var file = here.File;
        return await upload.InTurn(
            // Attempts and teachers wait apart.
            -attempt,
            file.Length,
            () =>
            {
                var bytes = new byte[file.Length];
                file.Position = 0;
                file.ReadExactly(bytes);
                return bytes;
            },
            bytes => Keep(attempt, bytes, isSound),
            stop
        );
    }

    /// <summary>Keeps a drawing of the library for the attempt.</summary>
    /// <exception cref="PictureRefused">The attempt has brought in enough.</exception>
    public Task<OwnTaken> Take(long attempt, byte[] bytes, CancellationToken stop) =>
        upload.InTurn(-attempt, bytes.Length, () => bytes, given => Keep(attempt, given, isSound: false), stop);

    private OwnTaken Keep(long attempt, byte[] bytes, bool isSound)
    {
        if (files.RoomOf(attempt).IsFull)
            throw new PictureRefused(new("making.full", ("files", Limits.MostOwnFiles), ("most", Limits.MostOwnBytes / (1024 * 1024))));
        if (isSound)
            return new(files.Keep(attempt, SoundReader.Read(bytes)).Name, 0, 0, IsSharp: true);
        var picture = PictureReader.Read(bytes);
        var kept = files.Keep(attempt, picture);
        return new(kept.Name, kept.Width, kept.Height, IsSharpIn(picture));
    }

    /// <summary>Measured at about the size in which it fills a screen.</summary>
    private static bool IsSharpIn(PreparedPicture picture)
    {
        var shown = picture.Files.LastOrDefault(file => file.Width <= 1920) ?? picture.Files[0];
        // A drawing of lines and areas is as sharp as the screen.
        if (shown.Extension == "svg")
            return true;
        using var stream = new MemoryStream(shown.Bytes);
        return Sharpness.Of(PicturePixels.Read(stream)).IsSharp;
    }

    public void Dispose()
    {
        lock (underWay)
            foreach (var attempt in underWay.Keys.ToList())
                Drop(attempt);
    }
}
