using Microsoft.Data.Sqlite;

namespace Fenster.Store;

/// <summary>The connection that writes. What is said to it again and again is prepared once.</summary>
public sealed class WritingConnection(string connectionString) : SqliteConnection(connectionString)
{
    private readonly Dictionary<string, SqliteCommand> prepared = [];

    /// <summary>Runs a statement that is kept prepared for as long as the connection is open.</summary>
    /// <param name="sql">One of few: each is kept.</param>
    /// <param name="values">By the names of the statement's parameters, without their sign.</param>
    /// <returns>How many rows it changed.</returns>
    public int ExecutePrepared(string sql, params ReadOnlySpan<(string Name, object? Value)> values)
    {
        if (!prepared.TryGetValue(sql, out var command))
        {
            command = CreateCommand();
            command.CommandText = sql;
            foreach (var (name, _) in values)
                command.Parameters.Add(new SqliteParameter { ParameterName = "@" + name });
            prepared.Add(sql, command);
        }
        command.Transaction = Transaction;
        for (var i = 0; i < values.Length; i++)
            command.Parameters[i].Value = Stored(values[i].Value);
        return command.ExecuteNonQuery();
    }

    private static object Stored(object? value) =>
        value switch
        {
            null => DBNull.Value,
            DateTimeOffset at => at.ToUnixTimeMilliseconds(),
            _ => value,
        };

    protected override void Dispose(bool disposing)
    {
        foreach (var command in prepared.Values)
            command.Dispose();
        prepared.Clear();
        base.Dispose(disposing);
    }
}
