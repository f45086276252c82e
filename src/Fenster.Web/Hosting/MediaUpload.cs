using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;
using Microsoft.AspNetCore.Http.Features;

namespace Fenster.Web.Hosting;

/// <summary>
/// Takes pictures, sounds, videos and captions in. One file of a person is worked on at a time, and of all large ones one, so
/// that nobody waits for another's and memory holds few.
/// </summary>
public sealed class MediaUpload(Media media, Shelf shelf) : IDisposable
{
    private const long MostHeardOut = 300L * 1024 * 1024;

    private const long LargeFile = 4L * 1024 * 1024;
    private const int MostSmallAtOnce = 4;

    private readonly SemaphoreSlim large = new(1);
    private readonly SemaphoreSlim small = new(MostSmallAtOnce);
    private readonly PerPerson turns = new();

    /// <param name="isLabel">Whether it becomes a label: trimmed, and as high as all of them.</param>
    /// <param name="name">What the picture is called on the teacher's shelf; null for one that does not go there.</param>
    /// <exception cref="PictureRefused">The body is no picture that can be used.</exception>
    public Task<MediaSize> Take(HttpContext context, string? name, bool isLabel) => Receive(context, PictureReader.MostBytes, bytes =>
        {
            var picture = Keep(context.User.TeacherId(), bytes, isLabel);
            if (name is not null)
                shelf.Put(context.User.TeacherId(), picture.Hash, name);
            return picture;
        });

    /// <summary>Makes a label of a picture that is stored.</summary>
    public Task<MediaSize> LabelOf(long teacher, string hash, CancellationToken stop) =>
        InTurn(teacher, LargeFile, () => media.Original(hash), bytes => Keep(teacher, bytes, isLabel: true), stop);

    private MediaSize Keep(long teacher, byte[] bytes, bool isLabel)
    {
        var picture = isLabel ? PictureReader.ReadLabel(bytes) : PictureReader.Read(bytes);
        media.Save(picture, bytes);
        media.Give(picture.Hash, teacher);
        return new()
        {
            Hash = picture.Hash,
            Width = picture.Width,
            Height = picture.Height,
        };
    }

    /// <returns>The hash under which the sound is stored.</returns>
    /// <exception cref="SoundRefused">The body is no sound that can be used.</exception>
    public Task<string> TakeSound(HttpContext context) =>
        Receive(context, PictureReader.MostBytes, bytes => Keep(context, SoundReader.Read(bytes)));

    /// <returns>The hash under which the video is stored.</returns>
    /// <exception cref="SoundRefused">The body is no video that can be used.</exception>
    public Task<string> TakeVideo(HttpContext context) =>
        Receive(context, SoundReader.MostVideoBytes, bytes => Keep(context, SoundReader.ReadVideo(bytes)));

    /// <returns>The hash under which the captions are stored.</returns>
    /// <exception cref="SoundRefused">The body is no captions that can be used.</exception>
    public Task<string> TakeCaptions(HttpContext context) =>
        Receive(context, PictureReader.MostBytes, bytes => Keep(context, CaptionsReader.Read(bytes)));

    private string Keep(HttpContext context, PreparedSound sound)
    {
        media.Save(sound);
        media.Give(sound.Hash, context.User.TeacherId());
        return sound.Hash;
    }

    /// <summary>What arrives waits on the disk for its turn, so that only one file is in memory.</summary>
    private async Task<T> Receive<T>(HttpContext context, int most, Func<byte[], T> take)
    {
        context.Features.GetRequiredFeature<IHttpMaxRequestBodySizeFeature>().MaxRequestBodySize = MostHeardOut;
        await using var waiting = TemporaryFile.New();
        await ReadBody(context, most, waiting);
        return await InTurn(
            context.User.TeacherId(),
            waiting.Length,
            () =>
            {
                var bytes = new byte[waiting.Length];
                waiting.Position = 0;
                waiting.ReadExactly(bytes);
                return bytes;
            },
            take,
            context.RequestAborted
        );
    }

    /// <summary>Works on a file when it is its turn: one of a person at a time, and one large one of all.</summary>
    /// <param name="length">About how many bytes it has.</param>
    /// <param name="stop">Ends the waiting, and the work between reading and taking.</param>
    public async Task<TOut> InTurn<TIn, TOut>(long person, long length, Func<TIn> read, Func<TIn, TOut> take, CancellationToken stop)
    {
        using var own = await turns.Enter(person, stop);
        var room = length > LargeFile ? large : small;
        await room.WaitAsync(stop);
        try
        {
            return await Task.Run(
                () =>
                {
                    var given = read();
                    stop.ThrowIfCancellationRequested();
                    return take(given);
                },
                stop
            );
        }
        finally
        {
            // Large files in a row would each be kept until memory runs short; so they go while others are served.
            if (room == large)
                GC.Collect(GC.MaxGeneration, GCCollectionMode.Forced, blocking: false);
            room.Release();
        }
    }

    /// <summary>
    /// The whole body. One that is too large is read to its end and dropped, since browsers show a broken connection,
    /// not the answer, when a server stops listening to them.
    /// </summary>
    private static async Task ReadBody(HttpContext context, int most, FileStream to)
    {
        var isTooLarge = context.Request.ContentLength > most;
        var buffer = new byte[81920];
        int read;
        while ((read = await context.Request.Body.ReadAsync(buffer, context.RequestAborted)) > 0)
        {
            isTooLarge |= to.Length + read > most;
            if (!isTooLarge)
                await to.WriteAsync(buffer.AsMemory(0, read), context.RequestAborted);
        }
        if (isTooLarge)
            throw new PictureRefused(new("file.tooLarge", ("most", most / (1024 * 1024))));
    }

    public void Dispose()
    {
        large.Dispose();
        small.Dispose();
    }
}
