using Dapper;

namespace Fenster.Store;

/// <summary>Where teachers are signed in.</summary>
public sealed class Sessions(Database database, TimeProvider clock)
{
    /// <summary>Signs a teacher in.</summary>
    /// <returns>The secret for the browser to keep.</returns>
    public string Begin(long teacher)
    {
        var secret = Secret.New();
        database.Write(connection =>
            connection.Execute(
                """
                insert into session (hash, teacher_id, began_at)
                values (@hash, @teacher, @now)
                """,
                new
                {
                    hash = Secret.Hash(secret),
                    teacher,
                    now = clock.GetUtcNow(),
                }
            )
        );
        return secret;
    }

    /// <summary>The teacher whom a secret signs in; null when the session has ended or the teacher has left.</summary>
    public Teacher? TeacherOf(string secret) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Teacher>(
                $"""
                {Teachers.Columns}
                join session on session.teacher_id = teacher.id
                where session.hash = @hash and teacher.left_at is null
                """,
                new { hash = Secret.Hash(secret) }
            )
        );

    /// <summary>How long a session lasts that nobody uses: longer than a browser keeps its secret.</summary>
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(90);

    /// <summary>Removes sessions that no browser has the secret of any more.</summary>
    /// <returns>How many.</returns>
    public int Sweep() =>
        database.Write(connection =>
            connection.Execute("delete from session where began_at < @before", new { before = clock.GetUtcNow() - Lasts })
        );

    public void End(string secret) =>
        database.Write(connection => connection.Execute("delete from session where hash = @hash", new { hash = Secret.Hash(secret) }));

    /// <summary>Signs a teacher out everywhere, but for the browser with this secret.</summary>
    /// <param name="but">Null for everywhere.</param>
    public void EndAll(long teacher, string? but = null) =>
        database.Write(connection =>
            connection.Execute(
                "delete from session where teacher_id = @teacher and hash <> @kept",
                new { teacher, kept = but is null ? "" : Secret.Hash(but) }
            )
        );
}
