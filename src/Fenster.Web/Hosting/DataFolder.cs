using Fenster.Store;
using Microsoft.Data.Sqlite;

namespace Fenster.Web.Hosting;

/// <summary>The folder with everything that is kept, readable by its owner alone.</summary>
internal static class DataFolder
{
    /// <summary>Opens it; null when that can't be done, which is said on the console.</summary>
    public static Database? Open(string folder)
    {
        try
        {
            Directory.CreateDirectory(folder);
            if (!OperatingSystem.IsWindows())
                File.SetUnixFileMode(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
            return new Database(folder);
        }
        catch (Exception exception) when (exception is IOException or UnauthorizedAccessException or SqliteException)
        {
            Console.Error.WriteLine(
                $"Fenster can't keep its data in '{Path.GetFullPath(folder)}': {exception.Message} "
                    + "Give a folder that this user may write to with --data."
            );
            return null;
        }
    }
}
