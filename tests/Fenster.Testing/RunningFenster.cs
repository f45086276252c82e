using System.Diagnostics;
using Microsoft.Data.Sqlite;

namespace Fenster.Testing;

/// <summary>Fenster as a program of its own on a free port, with a data folder that goes when it goes.</summary>
public sealed class RunningFenster : IDisposable
{
    public const string DemoEmail = "teacher@tideford.example";
    public const string DemoPassword = "high-water";

    private Process process;
    private readonly bool demo;
    private readonly string? keptData;
    private readonly string[] options;

    public string Data { get; }

    /// <summary>What makes the first teacher, as the start writes it; empty where there is one.</summary>
    public string FirstWords { get; private set; } = "";
    public Uri Address { get; private set; }

    /// <param name="demo">Whether the demo data is loaded.</param>
    /// <param name="data">A folder that stays; null for one of its own.</param>
    /// <param name="options">More of the command line.</param>
    /// <exception cref="InvalidOperationException">It did not start.</exception>
    public RunningFenster(bool demo = true, string? data = null, string[]? options = null)
    {
        this.options = options ?? [];
        this.demo = demo;
        keptData = data;
        Data = data ?? Directory.CreateTempSubdirectory("fenster-").FullName;
        if (demo && data is null)
            Copy(Loaded.Value, Data);
        (process, Address) = Start("http://127.0.0.1:0");
    }

    /// <summary>A data folder with the demo loaded: that takes many times as long as copying it, and is done once for a whole run.</summary>
    private static readonly Lazy<string> Loaded = new(() =>
    {
        var folder = Directory.CreateTempSubdirectory("fenster-demo-").FullName;
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        using var loading = new RunningFenster(data: folder);
        return folder;
    });

    private static void Copy(string from, string to)
    {
        foreach (var folder in Directory.EnumerateDirectories(from, "*", SearchOption.AllDirectories))
            Directory.CreateDirectory(Path.Combine(to, Path.GetRelativePath(from, folder)));
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
            File.Copy(file, Path.Combine(to, Path.GetRelativePath(from, file)));
    }

    /// <summary>The folder that holds <c>Fenster.slnx</c>.</summary>
    public static string Repository { get; } = FindRepository();

    /// <summary>The most memory that the program has held so far, in bytes, as Linux counts it.</summary>
    public long PeakMemory =>
        File.ReadLines($"/proc/{process.Id}/status")
            .Where(line => line.StartsWith("VmHWM:", StringComparison.Ordinal))
            .Select(line =>
                1024
                * long.Parse(
                    line.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)[1],
                    System.Globalization.CultureInfo.InvariantCulture
                )
            )
            .Single();

    /// <summary>How long its processor has worked so far.</summary>
    public TimeSpan ProcessorTime
    {
        get
        {
            process.Refresh();
            return process.TotalProcessorTime;
        }
    }

    /// <summary>Changes what is stored behind the program's back, such as a time.</summary>
    public void Execute(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(Data, "fenster.db")};Pooling=False;Default Timeout=10");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    /// <summary>Ends the program at once, as a crash would.</summary>
    public void Kill()
    {
        process.Kill();
        process.WaitForExit();
    }

    /// <summary>Starts it again on the same address and data.</summary>
    public void Restart()
    {
        process.Dispose();
        (process, Address) = Start(Address.ToString().TrimEnd('/'));
    }

    /// <summary>Lets the program write no file beyond a length, as on a disk that is full; null for as long as the disk has room.</summary>
    public void LimitFiles(long? bytes)
    {
        using var limit = Process.Start(
            "prlimit",
            ["--pid", $"{process.Id}", $"--fsize={(bytes is { } most ? $"{most}" : "unlimited")}:unlimited"]
        );
        limit.WaitForExit();
        if (limit.ExitCode != 0)
            throw new InvalidOperationException("The limit could not be set.");
    }

    private (Process, Uri) Start(string urls)
    {
        // A program that meets a limit of file lengths is told so, and not ended.
        var start = new ProcessStartInfo("bash") { RedirectStandardOutput = true };
        foreach (var argument in (string[])["-c", "trap '' XFSZ; exec dotnet \"$@\"", "fenster"])
            start.ArgumentList.Add(argument);
        start.ArgumentList.Add(
            Environment.GetEnvironmentVariable("FENSTER_PROGRAM")
                ?? Path.Combine(Repository, "src", "Fenster.Web", "bin", Configuration, "net10.0", "Fenster.Web.dll")
        );
        foreach (var argument in (string[])["--data", Data, "--urls", urls, .. options])
            start.ArgumentList.Add(argument);
        if (demo)
        {
            start.ArgumentList.Add("--demo");
            start.ArgumentList.Add(Path.Combine(Repository, "demo", "sailing-school"));
        }
        var started = Process.Start(start) ?? throw new InvalidOperationException("Fenster could not be started.");
        var said = new List<string>();
        while (started.StandardOutput.ReadLine() is { } line)
        {
            said.Add(line);
            // What it says last.
            if (!line.StartsWith("Ctrl-C", StringComparison.Ordinal))
                continue;
            // Read on, so that the program never waits for a full pipe.
            _ = started.StandardOutput.BaseStream.CopyToAsync(Stream.Null);
            FirstWords = After("First words: ") ?? "";
            return (started, new Uri(After("Fenster is ready: ")!.Trim() + "/"));
        }

        string? After(string beginning) => said.Find(line => line.StartsWith(beginning, StringComparison.Ordinal))?[beginning.Length..];
        throw new InvalidOperationException($"Fenster did not start: {string.Join('\n', said)}");
    }

    private static string Configuration =>
#if DEBUG
        "Debug";
#else
        "Release";
#endif

    private static string FindRepository()
    {
        for (var folder = new DirectoryInfo(AppContext.BaseDirectory); folder is not null; folder = folder.Parent)
            if (File.Exists(Path.Combine(folder.FullName, "Fenster.slnx")))
                return folder.FullName;
        throw new InvalidOperationException("Fenster.slnx is in no folder above the program.");
    }

    public void Dispose()
    {
        if (!process.HasExited)
            Kill();
        process.Dispose();
        if (keptData is null)
            Directory.Delete(Data, recursive: true);
    }
}
