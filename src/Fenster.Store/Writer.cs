using System.Collections.Concurrent;
using System.Data;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>
/// The one writer that SQLite allows. Whoever comes first commits; actions that arrive meanwhile are committed
/// together after it. Each is whole or not there, and nobody is answered before the commit.
/// </summary>
internal sealed class Writer(Func<SqliteConnection> open)
{
    private const int MostTogether = 128;
    private const int CommitsBetweenCheckpoints = 200;

    private readonly ConcurrentQueue<Work> waiting = new();
    private int busy;
    private SqliteConnection? connection;
    private int commits;
    private Task checkpoint = Task.CompletedTask;

    /// <summary>Runs an action in a transaction. It may run twice, so it must change nothing but the database.</summary>
    public Task<T> Do<T>(Func<IDbConnection, T> action)
    {
        var work = new Work<T>(action);
        waiting.Enqueue(work);
        while (!waiting.IsEmpty && Interlocked.CompareExchange(ref busy, 1, 0) == 0)
        {
            CommitWaiting();
            Volatile.Write(ref busy, 0);
        }
        return work.Task;
    }

    private void CommitWaiting()
    {
        var together = new List<Work>();
        while (together.Count < MostTogether && waiting.TryDequeue(out var work)) together.Add(work);
        if (together.Count == 0) return;
        try
        {
            connection ??= open();
            if (!Commit(connection, together))
                foreach (var work in together) Commit(connection, [work]);
        }
        catch (Exception exception)
        {
            // The connection itself failed: everybody who waits is told, and the next action gets a new one.
            connection?.Dispose();
            connection = null;
            foreach (var work in together) work.Fail(exception);
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
            foreach (var work in together) work.Run(connection);
            transaction.Commit();
        }
        catch (Exception exception) when (together.Count > 1 || exception is not OutOfMemoryException)
        {
            if (together.Count > 1) return false;
            together[0].Fail(exception);
            return true;
        }
        foreach (var work in together) work.Succeed();
        return true;
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
