using System.Data;
using System.Reflection;
using Dapper;
using DbUp;
using DbUp.Engine.Output;
using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>The SQLite file in a data folder, with its schema brought up to date when it is opened.</summary>
public sealed class Database : IDisposable
{
    static Database()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.RemoveTypeMap(typeof(DateTimeOffset));
        SqlMapper.AddTypeHandler(new UnixMilliseconds());
    }

    private readonly string connectionString;

    private readonly Writer writer;

    /// <summary>The folder that holds everything: the database and the media.</summary>
    public string Folder { get; }

    /// <exception cref="IOException">The folder can't be made.</exception>
    /// <exception cref="SqliteException">The file can't be opened or brought up to date.</exception>
    public Database(string folder)
    {
        Folder = Directory.CreateDirectory(folder).FullName;
        var file = Path.Combine(Folder, "fenster.db");
        connectionString = new SqliteConnectionStringBuilder
        {
            DataSource = file,
            ForeignKeys = true,
            DefaultTimeout = 5,
        }.ToString();

        var isNew = !File.Exists(file);
        using (var connection = OpenToWrite())
            connection.Execute("pragma auto_vacuum = incremental; pragma journal_mode = wal");
        if (isNew || !IsCurrent())
            Upgrade(isNew);
        writer = new(OpenToWrite);
        Upgrades.Run(this);
    }

    /// <summary>Ends the writer; what it was given is committed first.</summary>
    public void Dispose() => writer.Dispose();

    private static string[] Scripts =>
        [.. Assembly.GetExecutingAssembly().GetManifestResourceNames().Where(name => name.EndsWith(".sql", StringComparison.Ordinal))];

    private bool IsCurrent() =>
        Read(connection =>
            connection.ExecuteScalar<bool>("select exists (select 1 from sqlite_master where name = 'SchemaVersions')")
            && connection.ExecuteScalar<int>("select count(*) from SchemaVersions") == Scripts.Length
        );

    private void Upgrade(bool isNew)
    {
        if (!isNew)
            CopyTo(Path.Combine(Folder, $"before-upgrade-{DateTime.UtcNow:yyyyMMdd-HHmmss}.db"));
        var result = DeployChanges
            .To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly())
            .WithTransactionPerScript()
            .LogTo(new NoUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
            throw result.Error;
        // A file of before gives room back only as a whole. That is changed once, while nobody works.
        using var connection = OpenToWrite();
        if (connection.ExecuteScalar<int>("pragma auto_vacuum") != Incremental)
            connection.Execute($"pragma auto_vacuum = {Incremental}; vacuum");
    }

    /// <summary>As SQLite counts its ways to give room back.</summary>
    private const int Incremental = 2;

    /// <summary>
    /// Writes the log of changes into the file and empties it, so that nothing of what was deleted is left in it. Where somebody reads
    /// just then it is left for the next time, and nobody waits.
    /// </summary>
    public void Settle()
    {
        using var connection = OpenToWrite();
        connection.Execute("pragma busy_timeout = 0; pragma wal_checkpoint(truncate)");
    }

    /// <summary>Gives room back that is not needed any more, in steps between which others write.</summary>
    /// <param name="cancellation">Ends it after a step.</param>
    public void Shrink(CancellationToken cancellation = default)
    {
        var (free, before) = (Step(), long.MaxValue);
        while (free > 0 && free < before && !cancellation.IsCancellationRequested)
            (free, before) = (Step(), free);
        Settle();

        long Step() =>
            Write(connection =>
            {
                connection.Execute($"pragma incremental_vacuum({PagesOfStep})");
                return connection.ExecuteScalar<long>("pragma freelist_count");
            });
    }

    /// <summary>Of 4 kB: some milliseconds of work.</summary>
    private const int PagesOfStep = 256;

    /// <summary>
    /// Whether something can be stored at this moment, that needs as much room as what people do may need: changing a number where it
    /// stands succeeds on many a disk on which nothing else does.
    /// </summary>
    /// <exception cref="SqliteException">It can't.</exception>
    public void TryWriting() =>
        Write(connection =>
            connection.Execute(
                """
                update written set at = @now;
                insert into room (filling) values (zeroblob(@Room));
                delete from room
                """,
                new { now = DateTimeOffset.UtcNow, Room }
            )
        );

    /// <summary>In bytes.</summary>
    private const int Room = 64 * 1024;

    /// <summary>Whether something that somebody did could not be stored in the last half minute, for want of a disk that takes it.</summary>
    public bool HasFailedLately => writer.HasFailedLately;

    /// <summary>A consistent copy of the running database.</summary>
    public void CopyTo(string file)
    {
        using var connection = Open();
        connection.Execute("vacuum into @file", new { file });
    }

    /// <summary>Runs queries outside a transaction.</summary>
    public T Read<T>(Func<IDbConnection, T> query)
    {
        using var connection = Open();
        return query(connection);
    }

    /// <summary>Runs queries that see the database as it is at one moment, whatever is written meanwhile.</summary>
    public T ReadAtOnce<T>(Func<IDbConnection, T> query)
    {
        using var connection = Open();
        using var transaction = connection.BeginTransaction(deferred: true);
        return query(connection);
    }

    /// <summary>
    /// Runs one user action in one transaction; nothing of it stays when it throws. The action may run twice, so it
    /// changes nothing but the database.
    /// </summary>
    public T Write<T>(Func<WritingConnection, T> action) => writer.Do(action).GetAwaiter().GetResult();

    /// <inheritdoc cref="Write"/>
    public Task<T> WriteAsync<T>(Func<WritingConnection, T> action) => writer.Do(action);

    private SqliteConnection Open()
    {
        var connection = new SqliteConnection(connectionString);
        connection.Open();
        return connection;
    }

    private WritingConnection OpenToWrite()
    {
        var connection = new WritingConnection(connectionString);
        connection.Open();
        // A commit is on the disk before anybody is answered, so that it survives a loss of power too.
        // The writer moves pages into the file from time to time; only a very long log makes a commit wait for that.
        // Another process on the same folder writes in turn with this one.
        connection.Execute(
            "pragma busy_timeout = 5000; pragma synchronous = full; pragma secure_delete = on; pragma wal_autocheckpoint = 20000"
        );
        return connection;
    }

    private sealed class UnixMilliseconds : SqlMapper.TypeHandler<DateTimeOffset>
    {
        public override DateTimeOffset Parse(object value) => DateTimeOffset.FromUnixTimeMilliseconds((long)value);

        public override void SetValue(IDbDataParameter parameter, DateTimeOffset value) => parameter.Value = value.ToUnixTimeMilliseconds();
    }

    private sealed class NoUpgradeLog : IUpgradeLog
    {
        public void LogTrace(string format, params object[] args) { }

        public void LogDebug(string format, params object[] args) { }

        public void LogInformation(string format, params object[] args) { }

        public void LogWarning(string format, params object[] args) { }

        public void LogError(string format, params object[] args) { }

        public void LogError(Exception ex, string format, params object[] args) { }
    }
}
