using Fenster.Store;
using Microsoft.Data.Sqlite;

namespace Fenster.Web.Hosting;

/// <summary><c>backup FOLDER</c> and <c>restore FOLDER</c>, each with <c>--data DIR</c>.</summary>
internal static class Copies
{
    public static int Run(string[] args)
    {
        var (what, folder) = (args[0], args.ElementAtOrDefault(1) ?? "-");
        if (folder.StartsWith('-') || args[2..] is not ([] or ["--data", _]))
        {
            Console.Error.WriteLine("Usage: fenster backup FOLDER [--data DIR], or fenster restore FOLDER [--data DIR]");
            return 2;
        }
        var data = args.ElementAtOrDefault(3) ?? "data";
        try
        {
            if (what == "backup")
                Console.WriteLine($"Copied the database and {Backup.Make(data, folder)} files to {folder}. The copy opens and is whole.");
            else
            {
                Backup.Restore(folder, data, TimeProvider.System);
                Console.WriteLine($"Restored {folder} to {data}. What was deleted since is deleted again.");
            }
            return 0;
        }
        catch (Exception exception) when (exception is BackupRefused or IOException or UnauthorizedAccessException or SqliteException)
        {
            Console.Error.WriteLine(exception.Message);
            return 1;
        }
    }
}
