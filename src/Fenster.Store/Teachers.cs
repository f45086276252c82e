using Dapper;

namespace Fenster.Store;

public sealed record Teacher
{
    public long Id { get; init; }
    public required string Email { get; init; }
    public required string Name { get; init; }
    public required string PasswordHash { get; init; }
}

public sealed class Teachers(Database database, TimeProvider clock)
{
    public bool Any() => database.Read(connection => connection.ExecuteScalar<bool>("select exists (select 1 from teacher)"));

    public Teacher? ByEmail(string email) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Teacher>(
                """
                select id, email, name, password_hash
                from teacher
                where email = @email
                """,
                new { email }
            )
        );

    /// <summary>Everybody who teaches with this server, by name.</summary>
    public IReadOnlyList<Teacher> All() =>
        database.Read(connection =>
            connection
                .Query<Teacher>(
                    """
                    select id, email, name, password_hash
                    from teacher
                    order by name, id
                    """
                )
                .AsList()
        );

    public Teacher Add(string email, string name, string passwordHash) =>
        database.Write(connection =>
        {
            var id = connection.ExecuteScalar<long>(
                """
                insert into teacher (email, name, password_hash, created_at)
                values (@email, @name, @passwordHash, @now)
                returning id
                """,
                new
                {
                    email,
                    name,
                    passwordHash,
                    now = clock.GetUtcNow(),
                }
            );
            return new Teacher
            {
                Id = id,
                Email = email,
                Name = name,
                PasswordHash = passwordHash,
            };
        });

    /// <summary>Makes the first teacher; null when there is one already.</summary>
    public Teacher? AddFirst(string email, string name, string passwordHash)
    {
        lock (this)
            return Any() ? null : Add(email, name, passwordHash);
    }

    public void ChangePassword(long id, string passwordHash) =>
        database.Write(connection =>
            connection.Execute(
                """
                update teacher
                set password_hash = @passwordHash
                where id = @id
                """,
                new { id, passwordHash }
            )
        );
}
