using System.Globalization;
using Dapper;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;

namespace Fenster.Store;

/// <summary>A stored file of a picture or a sound.</summary>
public sealed record MediaFile(string Path, string ContentType);

/// <summary>A picture's size in pixels, upright.</summary>
public sealed record MediaSize
{
    public required string Hash { get; init; }
    public int Width { get; init; }
    public int Height { get; init; }
}

/// <summary>Pictures and sounds by the hash of their content; the bytes lie in files beside the database.</summary>
public sealed class Media(Database database, TimeProvider clock)
{
    /// <summary>Stores a picture; the same content twice is stored once.</summary>
    /// <param name="original">The bytes it was made from, which are kept and never served.</param>
    public void Save(PreparedPicture picture, byte[] original)
    {
        var folder = Directory.CreateDirectory(FolderOf(picture.Hash)).FullName;
        foreach (var file in picture.Files)
            Keep(Path.Combine(folder, NameOf(file)), file.Bytes);
        Keep(Path.Combine(folder, "original"), original);
        database.Write(connection =>
            connection.Execute(
                """
                insert into media (hash, width, height, files, created_at)
                values (@Hash, @Width, @Height, @Files, @Now)
                on conflict (hash) do nothing
                """,
                new
                {
                    picture.Hash,
                    picture.Width,
                    picture.Height,
                    Files = string.Join(' ', picture.Files.Select(NameOf)),
                    Now = clock.GetUtcNow(),
                }
            )
        );
    }

    /// <summary>Stores a sound; the same content twice is stored once.</summary>
    public void Save(PreparedSound sound)
    {
        var folder = Directory.CreateDirectory(FolderOf(sound.Hash)).FullName;
        Keep(Path.Combine(folder, $"0.{sound.Extension}"), sound.Bytes);
        database.Write(connection =>
            connection.Execute(
                """
                insert into media (hash, width, height, files, created_at)
                values (@Hash, 0, 0, @Files, @Now)
                on conflict (hash) do nothing
                """,
                new
                {
                    sound.Hash,
                    Files = $"0.{sound.Extension}",
                    Now = clock.GetUtcNow(),
                }
            )
        );
    }

    /// <summary>Written beside and renamed, so that a file under its own name is always whole.</summary>
    internal static void Keep(string path, byte[] bytes)
    {
        if (File.Exists(path))
            return;
        var unfinished = $"{path}.{Guid.NewGuid():n}";
        File.WriteAllBytes(unfinished, bytes);
        File.Move(unfinished, path, overwrite: true);
    }

    /// <summary>A stored picture's size; null when it is not here.</summary>
    public MediaSize? SizeOf(string hash) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<MediaSize>(
                """
                select hash, width, height
                from media
                where hash = @hash
                """,
                new { hash }
            )
        );

    /// <summary>The smallest stored size that is at least so wide, or else the largest; null when the picture is not here.</summary>
    /// <param name="width">In pixels.</param>
    public MediaFile? Find(string hash, int width)
    {
        var files = database.Read(connection =>
            connection.QuerySingleOrDefault<string>(
                """
                select files
                from media
                where hash = @hash
                """,
                new { hash }
            )
        );
        return files is null ? null : FileIn(FolderOf(hash), files, width);
    }

    /// <summary>The smallest of some files that is at least so wide, or else the largest.</summary>
    /// <param name="files">Their names, from the smallest to the largest, with blanks between.</param>
    internal static MediaFile FileIn(string folder, string files, int width)
    {
        var names = files.Split(' ');
        var name = names.FirstOrDefault(name => int.Parse(Path.GetFileNameWithoutExtension(name), CultureInfo.InvariantCulture) >= width)
            ?? names[^1];
        return new(
            Path.Combine(folder, name),
            Path.GetExtension(name) switch
            {
                ".jpg" => "image/jpeg",
                ".webp" => "image/webp",
                ".gif" => "image/gif",
                ".mp3" => "audio/mpeg",
                ".ogg" => "audio/ogg",
                ".wav" => "audio/wav",
                ".m4a" => "audio/mp4",
                ".mp4" => "video/mp4",
                // A player of sounds takes it too.
                ".webm" => "video/webm",
                ".vtt" => "text/vtt; charset=utf-8",
                ".svg" => "image/svg+xml",
                var other => throw new InvalidOperationException($"No content type is known for {other}."),
            }
        );
    }

    private readonly Lru<string, bool> shown = new(10_000);

    /// <summary>Notes who brought a file in.</summary>
    public void Give(string hash, long teacher) =>
        database.Write(connection =>
            connection.Execute(
                """
                insert into media_owner (hash, teacher_id)
                values (@hash, @teacher)
                on conflict do nothing
                """,
                new { hash, teacher }
            )
        );

    /// <summary>Whether some activity shows or plays the file, so that whoever knows its hash may have it.</summary>
    public bool IsShown(string hash)
    {
        if (shown.TryGet(hash, out _))
            return true;
        var isShown = database.Read(connection =>
            connection.ExecuteScalar<bool>("select exists (select 1 from media_use where hash = @hash and is_shown = 1)", new { hash })
        );
        if (isShown)
            shown.Put(hash, true);
        return isShown;
    }

    /// <summary>Whether a teacher brought the file in, or made a picture from it.</summary>
    public bool IsOf(string hash, long teacher) =>
        database.Read(connection =>
            connection.ExecuteScalar<bool>(
                $"""
                select exists (select 1 from media_owner where hash = @hash and teacher_id = @teacher)
                    or exists (
                        select 1
                        from media_use
                        join activity on activity.id = media_use.activity_id
                        where media_use.hash = @hash and {Drafts.OfTeacher})
                """,
                new { hash, teacher }
            )
        );

    /// <summary>The largest stored file of a picture, or the only one of a sound; null when it is not here.</summary>
    public MediaFile? Largest(string hash) => Find(hash, int.MaxValue);

    /// <summary>The bytes that a stored picture was made from.</summary>
    /// <exception cref="IOException">They are not here.</exception>
    public byte[] Original(string hash) => File.ReadAllBytes(Path.Combine(FolderOf(hash), "original"));

    private string FolderOf(string hash) => FolderOf(database.Folder, hash);

    internal static string FolderOf(string data, string hash) => Path.Combine(data, "media", hash[..2], hash);

    internal static string NameOf(PictureFile file) => $"{file.Width.ToString(CultureInfo.InvariantCulture)}.{file.Extension}";
}
