using System.Collections.Concurrent;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc;

namespace Fenster.Web.Hosting;

/// <summary>What comes of a job.</summary>
public abstract record JobEnd
{
    private JobEnd() { }

    /// <summary>A page.</summary>
    public sealed record Leads(string Url) : JobEnd;

    /// <summary>A file.</summary>
    public sealed record Gives(byte[] Bytes, string ContentType, string Name) : JobEnd;
}

/// <summary>Something that takes long, whose progress its teacher sees and which the teacher can stop.</summary>
/// <param name="what">In the teacher's words.</param>
/// <param name="back">Where the teacher comes from.</param>
/// <param name="all">Steps that it has.</param>
/// <param name="isWhole">Whether nothing of it stays when it is stopped; else what was done stays.</param>
public sealed class Job(string id, long teacher, string what, string back, int all, bool isWhole) : IDisposable
{
    private readonly CancellationTokenSource stopping = new();
    private int done;

    public string Id => id;
    public long Teacher => teacher;
    public string What => what;
    public string Back => back;
    public int All => all;
    public bool IsWhole => isWhole;
    public int Done => Math.Min(all, Volatile.Read(ref done));
    internal CancellationToken Stopping => stopping.Token;
    internal LongWork.Turn? Turn { get; set; }
    public Task<JobEnd> End { get; set; } = Task.FromResult<JobEnd>(new JobEnd.Leads(back));

    /// <summary>So many steps more are done; who waits for a processor goes first now.</summary>
    /// <exception cref="OperationCanceledException">It was stopped.</exception>
    public void Step(int steps)
    {
        stopping.Token.ThrowIfCancellationRequested();
        Turn?.Yield();
        Interlocked.Add(ref done, steps);
    }

    public void Stop() => stopping.Cancel();

    public void Dispose() => stopping.Dispose();
}

/// <summary>Jobs under way and lately ended, in the turns of <see cref="LongWork"/>. They end with the process.</summary>
public sealed class Jobs(LongWork longWork, TimeProvider clock)
{
    /// <summary>A job that ends so soon is answered at once, without a page of its own.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    /// <summary>What it came to can be fetched for so long.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(10);

    private readonly ConcurrentDictionary<string, (Job Job, DateTimeOffset At)> jobs = [];

    public Job? Find(long teacher, string id) => jobs.TryGetValue(id, out var known) && known.Job.Teacher == teacher ? known.Job : null;

    /// <summary>Begins a job, and answers with what comes of it, or with the page that shows how far it is.</summary>
    /// <param name="work">Says each <see cref="Job.Step"/>. It runs after the request may have ended.</param>
    public async Task<IActionResult> Run(long teacher, string what, string back, int all, bool isWhole, Func<Job, JobEnd> work)
    {
        var now = clock.GetUtcNow();
        foreach (var (id, (old, at)) in jobs)
            if (old.End.IsCompleted && now - at > Kept && jobs.TryRemove(id, out _))
                old.Dispose();
        var job = new Job(Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)), teacher, what, back, all, isWhole);
        // A teacher's jobs wait for one another, and nothing else of the teacher's for them.
        job.End = longWork.Run(
            -teacher,
            turn =>
            {
                job.Turn = turn;
                return work(job);
            },
            job.Stopping
        );
        jobs[job.Id] = (job, now);
        await Task.WhenAny(job.End, Task.Delay(Patience));
        return job.End.IsCompleted ? Ended(job) ?? new RedirectResult(job.Back) : new RedirectResult($"/working/{job.Id}");
    }

    /// <summary>What came of a job that has ended; null where it was stopped.</summary>
    public static IActionResult? Ended(Job job) =>
        job.End.IsCanceled
            ? null
            : job.End.GetAwaiter().GetResult() switch
            {
                JobEnd.Leads(var url) => new RedirectResult(url),
                JobEnd.Gives(var bytes, var type, var name) => new FileContentResult(bytes, type) { FileDownloadName = name },
                var end => throw new ArgumentOutOfRangeException(nameof(job), end, "What came of it is not known."),
            };
}
