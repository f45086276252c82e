using System.Collections.Immutable;
using System.Data;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One student's work on one activity.</summary>
public sealed record Attempt
{
    public long Id { get; init; }
    public long PublicationId { get; init; }
    public long RevisionId { get; init; }
    public required string Name { get; init; }
    public long Seed { get; init; }
    public DateTimeOffset StartedAt { get; init; }
    public DateTimeOffset? HandedInAt { get; init; }
    public decimal? Score { get; init; }
    public decimal? Possible { get; init; }
    public decimal? Grade { get; init; }
    public decimal? MaximumGrade { get; init; }

    /// <summary>Whether whoever next joins under this name goes on with it.</summary>
    public bool IsFree { get; init; }

    /// <summary>As stored; read it with <see cref="ReadResponses"/>.</summary>
    public required string Responses { get; init; }

    /// <summary>By pane id.</summary>
    public ImmutableDictionary<string, Response> ReadResponses() => ResponseDocument.Read(Responses);
}

/// <summary>A move as a device sends it.</summary>
/// <param name="Key">Made by the device; the same move sent twice has the same key.</param>
/// <param name="Pane">Id of the pane.</param>
public sealed record KeyedMove(string Key, string Pane, Move Move);

/// <summary>A student who joined, and the secret that lets this device come back.</summary>
public sealed record Joined(Attempt Attempt, string Secret);

public sealed class Attempts(Database database, TimeProvider clock)
{
    private const string Columns =
        """
        select id, publication_id, revision_id, name, seed, started_at, handed_in_at, score, possible, grade, maximum_grade, secret_hash is null as is_free, responses
        from attempt
        """;

    /// <summary>
    /// Starts an attempt under a name, or takes over the one of that name that was set free.
    /// Null when the name is in use on another device.
    /// </summary>
    public Joined? Join(Publication publication, string name) => database.Write(connection =>
    {
        var secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        var id = connection.ExecuteScalar<long?>(
            """
            insert into attempt (publication_id, revision_id, name, folded_name, secret_hash, seed, started_at, responses)
            values (@Publication, @Revision, @Name, @Folded, @Secret, @Seed, @Now, @Responses)
            on conflict (publication_id, folded_name) do update
                set secret_hash = excluded.secret_hash
                where attempt.secret_hash is null
            returning id
            """,
            new
            {
                Publication = publication.Id,
                Revision = publication.RevisionId,
                Name = name,
                Folded = Fold(name),
                Secret = Hash(secret),
                Seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
                Now = clock.GetUtcNow(),
                Responses = ResponseDocument.Write(ResponseDocument.Empty),
            });
        return id is { } attempt ? new Joined(connection.QuerySingle<Attempt>($"{Columns} where id = @attempt", new { attempt }), secret) : null;
    });

    /// <summary>The attempt that a device's secret opens.</summary>
    public Attempt? BySecret(long publication, string secret) => database.Read(connection => connection.QuerySingleOrDefault<Attempt>(
        $"{Columns} where publication_id = @publication and secret_hash = @hash", new { publication, hash = Hash(secret) }));

    public Attempt? Find(long publication, long id) => database.Read(connection => connection.QuerySingleOrDefault<Attempt>(
        $"{Columns} where id = @id and publication_id = @publication", new { publication, id }));

    /// <summary>In the order of names.</summary>
    public IReadOnlyList<Attempt> Of(long publication) => database.Read(connection => connection.Query<Attempt>(
        $"{Columns} where publication_id = @publication order by folded_name", new { publication }).AsList());

    /// <summary>Lets whoever next joins under the attempt's name go on with it, on any device.</summary>
    public void SetFree(long publication, long id) => database.Write(connection => connection.Execute(
        """
        update attempt
        set secret_hash = null
        where id = @id and publication_id = @publication
        """, new { publication, id }));

    /// <summary>
    /// Adds moves to an attempt, in their order; those it already has change nothing. The whole is stored, or nothing.
    /// Moves that arrive after handing in are left out.
    /// </summary>
    /// <returns>The attempt as it stands now.</returns>
    /// <exception cref="MoveRefused">A move does not fit its pane.</exception>
    public Attempt Append(long id, Activity activity, IReadOnlyList<KeyedMove> moves) => database.Write(connection =>
    {
        var attempt = connection.QuerySingle<Attempt>($"{Columns} where id = @id", new { id });
        if (attempt.HandedInAt is not null) return attempt;

        var responses = attempt.ReadResponses();
        var changed = false;
        foreach (var move in moves)
        {
            if (!Record(connection, id, move)) continue;
            var response = responses.GetValueOrDefault(move.Pane, Response.Empty);
            responses = responses.SetItem(move.Pane, Moves.Apply(activity.Pane(move.Pane), response, move.Move));
            changed = true;
        }
        if (!changed) return attempt;

        attempt = attempt with { Responses = ResponseDocument.Write(responses) };
        connection.Execute(
            """
            update attempt
            set responses = @Responses
            where id = @Id
            """, new { attempt.Responses, attempt.Id });
        return attempt;
    });

    private bool Record(IDbConnection connection, long attempt, KeyedMove move) => 1 == connection.Execute(
        """
        insert into move (attempt_id, sequence, key, pane, move, made_at)
        values (@attempt, (select coalesce(max(sequence), 0) + 1 from move where attempt_id = @attempt), @key, @pane, @json, @now)
        on conflict (attempt_id, key) do nothing
        """,
        new
        {
            attempt,
            key = move.Key,
            pane = move.Pane,
            json = JsonSerializer.Serialize(move.Move, DocumentJson.Options),
            now = clock.GetUtcNow(),
        });

    /// <summary>Hands an attempt in and scores it. The second time changes nothing.</summary>
    public Attempt HandIn(long id, Activity activity) => database.Write(connection =>
    {
        var attempt = connection.QuerySingle<Attempt>($"{Columns} where id = @id", new { id });
        if (attempt.HandedInAt is not null) return attempt;

        var score = Scorer.Score(activity, attempt.ReadResponses());
        connection.Execute(
            """
            update attempt
            set handed_in_at = @Now, score = @Score, possible = @Possible, grade = @Grade, maximum_grade = @MaximumGrade
            where id = @Id
            """, new { Id = id, Now = clock.GetUtcNow(), score.Score, score.Possible, score.Grade, score.MaximumGrade });
        return connection.QuerySingle<Attempt>($"{Columns} where id = @id", new { id });
    });

    /// <summary>Names that differ only in capitals or blanks are one name.</summary>
    private static string Fold(string name) =>
        string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).ToUpperInvariant();

    private static string Hash(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
