using System.Data;
using System.Security.Cryptography;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;

namespace Fenster.Store;

/// <summary>A file that a student brought into an attempt.</summary>
/// <param name="Name">64 lower-case hexadecimal digits that nobody can guess; who knows them may have the file.</param>
/// <param name="Width">In pixels; 0 of a sound.</param>
public sealed record OwnFile(string Name, int Width, int Height);

/// <summary>What one attempt has brought in so far.</summary>
public readonly record struct OwnRoom(long Files, long Bytes)
{
    public bool IsFull => Files >= Limits.MostOwnFiles || Bytes >= Limits.MostOwnBytes;
}

/// <summary>
/// Files of students. Unlike a teacher's, each lies by itself under the attempt that it belongs to, and nothing of what was uploaded is kept
/// but what was written anew: so it goes with the attempt, and nobody learns that somebody else has the same.
/// </summary>
public sealed class OwnFiles(Database database, TimeProvider clock)
{
    public OwnFile Keep(long attempt, PreparedPicture picture) =>
        Keep(attempt, picture.Width, picture.Height, [.. picture.Files.Select(file => (Media.NameOf(file), file.Bytes))]);

    public OwnFile Keep(long attempt, PreparedSound sound) => Keep(attempt, 0, 0, [($"0.{sound.Extension}", sound.Bytes)]);

    private OwnFile Keep(long attempt, int width, int height, IReadOnlyList<(string Name, byte[] Bytes)> files)
    {
        var name = NewName();
        var folder = Directory.CreateDirectory(FolderOf(database.Folder, name)).FullName;
        foreach (var (file, bytes) in files)
            Media.Keep(Path.Combine(folder, file), bytes);
        try
        {
            database.Write(connection =>
                connection.Execute(
                    """
                    insert into own_file (name, attempt_id, at, width, height, files, bytes)
                    values (@name, @attempt, @now, @width, @height, @files, @bytes)
                    """,
                    new
                    {
                        name,
                        attempt,
                        now = clock.GetUtcNow(),
                        width,
                        height,
                        files = string.Join(' ', files.Select(file => file.Name)),
                        bytes = files.Sum(file => (long)file.Bytes.Length),
                    }
                )
            );
        }
        catch
        {
            // The attempt may be gone by now; nothing of it stays.
            Directory.Delete(folder, recursive: true);
            throw;
        }
        return new(name, width, height);
    }

    internal static string NewName() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    public OwnRoom RoomOf(long attempt) =>
        database.Read(connection =>
        {
            var (files, bytes) = connection.QuerySingle<(long, long)>(
                "select count(*), coalesce(sum(bytes), 0) from own_file where attempt_id = @attempt",
                new { attempt }
            );
            return new OwnRoom(files, bytes);
        });

    /// <summary>Of some names those that are no files of an attempt.</summary>
    public IReadOnlySet<string> Strangers(long attempt, IEnumerable<string> names)
    {
        var asked = names.ToHashSet();
        if (asked.Count > 0)
            asked.ExceptWith(
                database.Read(connection =>
                    connection.Query<string>(
                        "select name from own_file where attempt_id = @attempt and name in @asked",
                        new { attempt, asked }
                    )
                )
            );
        return asked;
    }

    private sealed record Row
    {
        public required string Name { get; init; }
        public required string Files { get; init; }
    }

    /// <summary>
    /// The smallest stored size that is at least so wide, or else the largest; null when there is none of this name, when the attempt is
    /// deleted, or when the name is a gallery's that is not open to anybody now.
    /// </summary>
    /// <param name="width">In pixels.</param>
    public MediaFile? Find(string name, int width) =>
        database.Read(connection =>
            connection.QueryFirstOrDefault<Row>(
                $"""
                select own_file.name, own_file.files
                from own_file
                join attempt on attempt.id = own_file.attempt_id
                where own_file.name = @name and attempt.deleted_at is null
                union all
                select own_file.name, own_file.files
                from gallery_file
                join own_file on own_file.name = gallery_file.file
                join gallery_piece on gallery_piece.assignment_id = gallery_file.assignment_id
                    and gallery_piece.attempt_id = gallery_file.attempt_id and gallery_piece.pane = gallery_file.pane
                join gallery on gallery.assignment_id = gallery_file.assignment_id
                join attempt on attempt.id = gallery_file.attempt_id
                where gallery_file.name = @name and {Galleries.IsShown}
                """,
                new { name, now = clock.GetUtcNow() }
            )
        )
            is { } row
            ? Media.FileIn(FolderOf(database.Folder, row.Name), row.Files, width)
            : null;

    /// <summary>Takes rows away whose attempts go; the caller removes the folders of what it returns.</summary>
    /// <param name="attempts">A condition on <c>attempt_id</c>.</param>
    internal static IReadOnlyList<string> Remove(IDbConnection connection, string attempts, object? parameters = null)
    {
        connection.Execute($"delete from gallery_file where {attempts}; delete from gallery_piece where {attempts}", parameters);
        return connection.Query<string>($"delete from own_file where {attempts} returning name", parameters).AsList();
    }

    /// <summary>Files that came in so long ago and that no work shows: what a student took away again is not kept.</summary>
    /// <param name="before">When.</param>
    /// <returns>Names, whose folders the caller removes.</returns>
    internal static IReadOnlyList<string> RemoveUnused(Database database, DateTimeOffset before)
    {
        // All old work is looked through without keeping anybody from writing; what is found there is looked at again before it goes.
        var attempts = database.Read(connection =>
            connection
                .Query<long>("select distinct attempt_id from own_file where at < @before", new { before })
                .AsList()
                .FindAll(attempt => Unused(connection, attempt, before).Count > 0)
        );
        return attempts.Count == 0
            ? []
            : database.Write(connection =>
            {
                var gone = attempts.SelectMany(attempt => Unused(connection, attempt, before)).ToList();
                connection.Execute(
                    "delete from gallery_file where file = @name; delete from own_file where name = @name",
                    gone.Select(name => new { name })
                );
                return gone;
            });
    }

    private static List<string> Unused(IDbConnection connection, long attempt, DateTimeOffset before)
    {
        var shown = AttemptLog
            .Replay(AttemptLog.Read(connection, attempt))
            .Values.SelectMany(response => response.Own.Values)
            .SelectMany(own => own.Files())
            .ToHashSet();
        return connection
            .Query<string>("select name from own_file where attempt_id = @attempt and at < @before", new { attempt, before })
            .AsList()
            .FindAll(name => !shown.Contains(name));
    }

    internal static void DeleteFolders(string data, IEnumerable<string> names)
    {
        foreach (var folder in names.Select(name => FolderOf(data, name)).Where(Directory.Exists))
            Directory.Delete(folder, recursive: true);
    }

    internal static string FolderOf(string data, string name) => Path.Combine(data, "own", name[..2], name);
}
