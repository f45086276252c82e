using System.Collections.Concurrent;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>
/// The one writer that SQLite allows: one consumer of a queue of actions, on a thread of its own, since an action may take as long as
/// the disk does. Those that wait are committed together. Each is whole or not there, and nobody is answered before the commit has
/// reached the disk.
/// </summary>
internal sealed class Writer : IDisposable
{
    private const int MostTogether = 128;
    private const int CommitsBetweenCheckpoints = 200;

    private readonly ConcurrentQueue<Work> waiting = [];

    // The queue wakes its consumer by this, since a thread that waits for a task turns round on the spot for a while first.
    private readonly AutoResetEvent arrived = new(false);
    private readonly Func<WritingConnection> open;
    private readonly Thread consumer;
    private volatile bool hasEnded;
    private WritingConnection? connection;
    private int commits;
    private Task checkpoint = Task.CompletedTask;

    /// <summary>When the disk last took nothing, in milliseconds since the machine started; 0 for never.</summary>
    private long failedAt;

    private static readonly TimeSpan Lately = TimeSpan.FromSeconds(30);

    /// <inheritdoc cref="Database.HasFailedLately"/>
    public bool HasFailedLately =>
        Interlocked.Read(ref failedAt) is > 0 and var at && Environment.TickCount64 - at < Lately.TotalMilliseconds;

    public Writer(Func<WritingConnection> open)
    {
        this.open = open;
        consumer = new(Consume) { Name = "Writer", IsBackground = true };
        consumer.Start();
    }

    /// <summary>Runs an action in a transaction. It may run twice, so it must change nothing but the database.</summary>
    /// <exception cref="ObjectDisposedException">The writer has ended.</exception>
    public Task<T> Do<T>(Func<WritingConnection, T> action)
    {
        ObjectDisposedException.ThrowIf(hasEnded, this);
        var work = new Work<T>(action);
        waiting.Enqueue(work);
        arrived.Set();
        if (hasEnded)
            TurnAway();
        return work.Task;
    }

    private void Consume()
    {
        var together = new List<Work>(MostTogether);
        while (true)
        {
            together.Clear();
            while (together.Count < MostTogether && waiting.TryDequeue(out var work))
                together.Add(work);
            if (together.Count > 0)
                CommitAll(together);
            else if (hasEnded)
                break;
            else
                arrived.WaitOne();
        }
        connection?.Dispose();
    }

    private void CommitAll(List<Work> together)
    {
        try
        {
            connection ??= open();
            if (!Commit(connection, together))
                foreach (var work in together)
                    Commit(connection, [work]);
        }
        catch (Exception exception)
        {
            // The connection itself failed: everybody who waits is told, and the next action gets a new one.
            Note(exception);
            connection?.Dispose();
            connection = null;
            foreach (var work in together)
                work.Fail(exception);
        }
        if (++commits >= CommitsBetweenCheckpoints && checkpoint.IsCompleted)
        {
            commits = 0;
            checkpoint = Task.Run(Checkpoint);
        }
    }

    /// <summary>Moves committed pages into the database file, beside the writing and not in its way.</summary>
    private void Checkpoint()
    {
        using var beside = open();
        beside.Execute("pragma wal_checkpoint(passive)");
    }

    /// <summary>Whether the actions were committed. A single one that fails is told why and counts as done.</summary>
    private bool Commit(WritingConnection connection, IReadOnlyList<Work> together)
    {
        try
        {
            using var transaction = connection.BeginTransaction(deferred: false);
            foreach (var work in together)
                work.Run(connection);
            transaction.Commit();
        }
        catch (Exception exception) when (together.Count > 1 || exception is not OutOfMemoryException)
        {
            if (together.Count > 1)
                return false;
            Note(exception);
            together[0].Fail(exception);
            return true;
        }
        foreach (var work in together)
            work.Succeed();
        return true;
    }

    /// <summary>SQLite's primary result codes for a disk that takes nothing: read-only, failing, full, not there.</summary>
    internal static bool IsOfDisk(Exception? exception) => exception is SqliteException { SqliteErrorCode: 8 or 10 or 13 or 14 };

    private void Note(Exception exception)
    {
        if (IsOfDisk(exception))
            Interlocked.Exchange(ref failedAt, Environment.TickCount64);
    }

    /// <summary>Commits what waits, and takes nothing more.</summary>
    public void Dispose()
    {
        hasEnded = true;
        arrived.Set();
        TurnAway();
        checkpoint.Wait();
    }

    /// <summary>Tells those who came while the consumer was ending.</summary>
    private void TurnAway()
    {
        consumer.Join();
        while (waiting.TryDequeue(out var late))
            late.Fail(new ObjectDisposedException(nameof(Writer)));
    }

    private abstract class Work
    {
        public abstract void Run(WritingConnection connection);
        public abstract void Succeed();
        public abstract void Fail(Exception exception);
    }

    private sealed class Work<T>(Func<WritingConnection, T> action) : Work
    {
        private readonly TaskCompletionSource<T> done = new(TaskCreationOptions.RunContinuationsAsynchronously);
        private T result = default!;

        public Task<T> Task => done.Task;

        public override void Run(WritingConnection connection) => result = action(connection);

        public override void Succeed() => done.TrySetResult(result);

        public override void Fail(Exception exception) => done.TrySetException(exception);
    }
}
