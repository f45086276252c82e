using System.Diagnostics;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>One of the small programs that Fenster is measured beside.</summary>
internal sealed class Baseline : IDisposable
{
    private readonly Process process;
    public Uri Address { get; }

    /// <param name="more">What the kind needs to know.</param>
    public Baseline(string kind, params string[] more)
    {
        var dll = Path.Combine(RunningFenster.Repository, "bench/Fenster.Baselines/bin/Release/net10.0/Fenster.Baselines.dll");
        process = Process.Start(
            new ProcessStartInfo("dotnet", [dll, kind, .. more, "--urls", "http://127.0.0.1:0"])
            {
                RedirectStandardOutput = true,
                WorkingDirectory = Path.GetDirectoryName(dll),
            }
        )!;
        var line = process.StandardOutput.ReadLine() ?? throw new InvalidOperationException($"The baseline '{kind}' did not start.");
        Address = new(line["ready ".Length..]);
    }

    public void Dispose()
    {
        process.Kill();
        process.WaitForExit();
        process.Dispose();
    }
}
