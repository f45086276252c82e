using System.Data;
using System.Threading.Channels;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>
/// The one writer that SQLite allows: one consumer of a queue of actions. Those that wait are committed together. Each is
/// whole or not there, and nobody is answered before the commit has reached the disk.
/// </summary>
internal sealed class Writer : IDisposable
{
    private const int MostTogether = 128;
    private const int CommitsBetweenCheckpoints = 200;

    private readonly Channel<Work> waiting = Channel.CreateUnbounded<Work>(new() { SingleReader = true });
    private readonly Func<SqliteConnection> open;
    private readonly Task consumer;
    private SqliteConnection? connection;
    private int commits;
    private Task checkpoint = Task.CompletedTask;

    public Writer(Func<SqliteConnection> open)
    {
        this.open = open;
        consumer = Task.Factory.StartNew(Consume, TaskCreationOptions.LongRunning);
    }

    /// <summary>Runs an action in a transaction. It may run twice, so it must change nothing but the database.</summary>
    /// <exception cref="ObjectDisposedException">The writer has ended.</exception>
    public Task<T> Do<T>(Func<IDbConnection, T> action)
    {
        var work = new Work<T>(action);
        ObjectDisposedException.ThrowIf(!waiting.Writer.TryWrite(work), this);
        return work.Task;
    }

    private void Consume()
    {
        var together = new List<Work>(MostTogether);
        // A thread of its own: an action may take as long as the disk does.
        while (waiting.Reader.WaitToReadAsync().AsTask().GetAwaiter().GetResult())
        {
            together.Clear();
            while (together.Count < MostTogether && waiting.Reader.TryRead(out var work))
                together.Add(work);
            CommitAll(together);
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
    private static bool Commit(SqliteConnection connection, IReadOnlyList<Work> together)
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
            together[0].Fail(exception);
            return true;
        }
        foreach (var work in together)
            work.Succeed();
        return true;
    }

    /// <summary>Commits what waits, and takes nothing more.</summary>
    public void Dispose()
    {
        waiting.Writer.TryComplete();
        consumer.GetAwaiter().GetResult();
        checkpoint.Wait();
    }

    private abstract class Work
    {
        public abstract void Run(IDbConnection connection);
        public abstract void Succeed();
        public abstract void Fail(Exception exception);
    }

    private sealed class Work<T>(Func<IDbConnection, T> action) : Work
    {
        private readonly TaskCompletionSource<T> done = new(TaskCreationOptions.RunContinuationsAsynchronously);
        private T result = default!;

        public Task<T> Task => done.Task;

        public override void Run(IDbConnection connection) => result = action(connection);

        public override void Succeed() => done.TrySetResult(result);

        public override void Fail(Exception exception) => done.TrySetException(exception);
    }
}
