namespace Fenster.Web.Hosting;

/// <summary>
/// What computes for long, in turns: one of a person at a time, and no more at once than leave a processor to everybody else. Who waits
/// holds no thread, since a request that finds none waits while the processors idle; and whose browser has gone waits no more.
/// </summary>
public sealed class LongWork : IDisposable
{
    private readonly SemaphoreSlim free = new(Math.Max(1, Environment.ProcessorCount / 2));
    private readonly PerPerson turns = new();

    /// <summary>Computes something on a thread of its own.</summary>
    /// <param name="gone">Ends the waiting, and is given to what computes.</param>
    public async Task<T> Run<T>(long person, Func<CancellationToken, T> compute, CancellationToken gone)
    {
        using var turn = await turns.Enter(person, gone);
        await free.WaitAsync(gone);
        try
        {
            return await Task.Factory.StartNew(
                () => compute(gone),
                gone,
                TaskCreationOptions.LongRunning | TaskCreationOptions.DenyChildAttach,
                TaskScheduler.Default
            );
        }
        finally
        {
            free.Release();
        }
    }

    public void Dispose() => free.Dispose();
}
