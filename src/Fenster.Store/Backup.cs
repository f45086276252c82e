using Dapper;
using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>A folder that can't be copied, or not be copied into. The message is a sentence for the operator.</summary>
public sealed class BackupRefused(string message) : Exception(message);

/// <summary>Copies of a data folder: of a running one too, since the database is copied as it was at one moment.</summary>
public static class Backup
{
    private const string DatabaseFile = "fenster.db",
        DeletionsFile = "deletions.log";

    private static readonly string[] Folders = ["media", "own", "keys"];

    /// <summary>Copies a data folder into a new one, and opens the copy to see that it is whole.</summary>
    /// <returns>How many files besides the database were copied.</returns>
    /// <exception cref="BackupRefused">There is nothing to copy, or something lies where the copy should.</exception>
    /// <exception cref="IOException">Something can't be read or written.</exception>
    public static int Make(string data, string target)
    {
        if (!File.Exists(Path.Combine(data, DatabaseFile)))
            throw new BackupRefused($"There is no Fenster data in '{data}'. Say which folder with --data.");
        RequireEmpty(target);
        MakeOwn(target);
        // The database comes first: a file that comes in meanwhile is copied without a row, never a row without its file.
        using (var connection = Open(Path.Combine(data, DatabaseFile)))
            connection.Execute("vacuum into @file", new { file = Path.Combine(target, DatabaseFile) });
        var copied = Folders.Sum(folder => CopyAll(Path.Combine(data, folder), Path.Combine(target, folder)));
        if (File.Exists(Path.Combine(data, DeletionsFile)))
            File.Copy(Path.Combine(data, DeletionsFile), Path.Combine(target, DeletionsFile));
        foreach (var folder in Directory.EnumerateDirectories(target, "*", SearchOption.AllDirectories))
            MakeOwn(folder);
        foreach (var file in Directory.EnumerateFiles(target, "*", SearchOption.AllDirectories))
            if (!OperatingSystem.IsWindows())
                File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Check(target);
        return copied;
    }

    /// <summary>Copies a backup into an empty data folder, in which the deletions that were made since are done again.</summary>
    /// <exception cref="BackupRefused">It is no backup, or the data folder is in use.</exception>
    /// <exception cref="IOException">Something can't be read or written.</exception>
    public static void Restore(string backup, string data, TimeProvider clock)
    {
        if (!File.Exists(Path.Combine(backup, DatabaseFile)))
            throw new BackupRefused($"There is no backup in '{backup}'.");
        Check(backup);
        if (File.Exists(Path.Combine(data, DatabaseFile)))
            throw new BackupRefused(
                $"There is data in '{data}' already. Stop Fenster, move the folder away, and leave only its {DeletionsFile} there."
            );
        MakeOwn(data);
        File.Copy(Path.Combine(backup, DatabaseFile), Path.Combine(data, DatabaseFile));
        foreach (var folder in Folders)
            CopyAll(Path.Combine(backup, folder), Path.Combine(data, folder));
        var known = Path.Combine(data, DeletionsFile);
        if (!File.Exists(known) && File.Exists(Path.Combine(backup, DeletionsFile)))
            File.Copy(Path.Combine(backup, DeletionsFile), known);
        using var database = new Database(data);
        new Deletions(database, clock).Repeat();
    }

    /// <summary>Makes a folder that only its owner reads: what people did stands in it.</summary>
    private static void MakeOwn(string folder)
    {
        Directory.CreateDirectory(folder);
        if (!OperatingSystem.IsWindows())
            File.SetUnixFileMode(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
    }

    private static void RequireEmpty(string folder)
    {
        if (File.Exists(folder) || (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any()))
            throw new BackupRefused($"There is something in '{folder}' already. Give a folder that is empty or not there yet.");
    }

    private static int CopyAll(string from, string to)
    {
        if (!Directory.Exists(from))
            return 0;
        var copied = 0;
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var target = Path.Combine(to, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            try
            {
                File.Copy(file, target, overwrite: true);
                copied++;
            }
            catch (FileNotFoundException)
            {
                // An upload that was renamed or given up meanwhile is no part of the copy.
            }
        }
        return copied;
    }

    /// <summary>Opens a copy and sees that it is whole, and that each file which it names is there.</summary>
    private static void Check(string folder)
    {
        using var connection = Open(Path.Combine(folder, DatabaseFile));
        if (connection.ExecuteScalar<string>("pragma integrity_check") is not "ok")
            throw new BackupRefused($"The database in '{folder}' is damaged.");
        var lost = connection
            .Query<(string Hash, string Files)>("select hash, files from media")
            .SelectMany(media => media.Files.Split(' ').Select(file => Path.Combine(Media.FolderOf(folder, media.Hash), file)))
            .Concat(
                connection
                    .Query<(string Name, string Files)>("select name, files from own_file")
                    .SelectMany(own => own.Files.Split(' ').Select(file => Path.Combine(OwnFiles.FolderOf(folder, own.Name), file)))
            )
            .FirstOrDefault(file => !File.Exists(file));
        if (lost is not null)
            throw new BackupRefused($"The copy in '{folder}' lacks the file '{Path.GetRelativePath(folder, lost)}'.");
    }

    private static SqliteConnection Open(string file)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = file,
                Mode = SqliteOpenMode.ReadWrite,
                Pooling = false,
            }.ToString()
        );
        connection.Open();
        return connection;
    }
}
