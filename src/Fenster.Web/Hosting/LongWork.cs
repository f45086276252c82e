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
    /// <param name="compute">May let others go first, between its pieces.</param>
    /// <param name="gone">Ends the waiting, and what computes where it lets others go first.</param>
    public async Task<T> Run<T>(long person, Func<Turn, T> compute, CancellationToken gone)
    {
        using var own = await turns.Enter(person, gone);
        await free.WaitAsync(gone);
        using var turn = new Turn(free, gone);
        return await Task.Factory.StartNew(
            () => compute(turn),
            gone,
            TaskCreationOptions.LongRunning | TaskCreationOptions.DenyChildAttach,
            TaskScheduler.Default
        );
    }

    /// <summary>A turn of the processors.</summary>
    public sealed class Turn(SemaphoreSlim free, CancellationToken gone) : IDisposable
    {
        private bool isHeld = true;

        /// <summary>Lets those go first who wait.</summary>
        /// <exception cref="OperationCanceledException">Nobody waits for this any more.</exception>
        public void Yield()
        {
            Dispose();
            free.Wait(gone);
            isHeld = true;
        }

        public void Dispose()
        {
            if (isHeld)
                free.Release();
            isHeld = false;
        }
    }

    public void Dispose() => free.Dispose();
}
