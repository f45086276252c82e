using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Data;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One student's work on one activity.</summary>
/// <param name="Seed">Orders the bank.</param>
/// <param name="IsFree">Whether whoever next joins under this name goes on with it.</param>
/// <param name="Responses">By pane id.</param>
/// <param name="Handed">Null while it is worked on.</param>
public sealed record Attempt(
    long Id, long PublicationId, long RevisionId, string Name, long Seed, DateTimeOffset StartedAt, bool IsFree,
    ImmutableDictionary<string, Response> Responses, HandedIn? Handed);

/// <summary>What handing in came to.</summary>
public sealed record HandedIn(DateTimeOffset At, decimal Score, decimal Possible, decimal Grade, decimal MaximumGrade);

/// <summary>A move as a device sends it.</summary>
/// <param name="Key">Made by the device; the same move sent twice has the same key.</param>
/// <param name="Pane">Id of the pane.</param>
public sealed record KeyedMove(string Key, string Pane, Move Move);

/// <summary>A student who joined, and the secret that lets this device come back.</summary>
public sealed record Joined(Attempt Attempt, string Secret);

/// <summary>A device that works on an attempt.</summary>
public sealed record Device(long AttemptId, long PublicationId, string SecretHash, Seat Seat);

public sealed class Attempts(Database database, Publications publications, TimeProvider clock)
{
    private const string Columns =
        """
        select id, publication_id, revision_id, name, secret_hash, seed, started_at, responses,
               handed_in_at, score, possible, grade, maximum_grade
        from attempt
        """;

    private sealed record Row
    {
        public long Id { get; init; }
        public long PublicationId { get; init; }
        public long RevisionId { get; init; }
        public required string Name { get; init; }
        public string? SecretHash { get; init; }
        public long Seed { get; init; }
        public DateTimeOffset StartedAt { get; init; }
        public string? Responses { get; init; }
        public DateTimeOffset? HandedInAt { get; init; }
        public decimal? Score { get; init; }
        public decimal? Possible { get; init; }
        public decimal? Grade { get; init; }
        public decimal? MaximumGrade { get; init; }
    }

    private sealed record MoveRow
    {
        public long AttemptId { get; init; }
        public required string Key { get; init; }
        public required string Pane { get; init; }
        public required string Move { get; init; }
    }

    /// <summary>An attempt in memory. Whoever holds its turn may change it, after the change is committed.</summary>
    private sealed class Live(Attempt attempt, string? secretHash, HashSet<string> keys)
    {
        public SemaphoreSlim Turn { get; } = new(1);
        public Attempt Attempt { get; set; } = attempt;
        public string? SecretHash { get; set; } = secretHash;
        public HashSet<string> Keys { get; } = keys;
        public bool IsForgotten { get; set; }
    }

    private const int MostRemembered = 20_000;
    private readonly ConcurrentDictionary<long, Live> live = new();
    private readonly ConcurrentDictionary<string, Device> devices = new();

    /// <summary>
    /// Starts an attempt under a name, or takes over the one of that name that was set free.
    /// Null when the name is in use on another device.
    /// </summary>
    public Joined? Join(Publication publication, string name)
    {
        var secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        var hash = Hash(secret);
        var id = database.Write(connection => connection.QuerySingleOrDefault<long?>(
            """
            insert into attempt (publication_id, revision_id, name, folded_name, secret_hash, seed, started_at)
            values (@Publication, @Revision, @Name, @Folded, @Hash, @Seed, @Now)
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
                Hash = hash,
                Seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
                Now = clock.GetUtcNow(),
            }));
        return id is { } attempt ? new(GiveTo(attempt, hash), secret) : null;
    }

    /// <summary>The device that a secret belongs to, when it works on an attempt at this publication.</summary>
    public Device? DeviceOf(long publication, string secret)
    {
        var hash = Hash(secret);
        if (!devices.TryGetValue(hash, out var device))
        {
            var row = database.Read(connection => connection.QuerySingleOrDefault<Row>($"{Columns} where secret_hash = @hash", new { hash }));
            if (row is null) return null;
            if (devices.Count >= MostRemembered) devices.Clear();
            device = devices.GetOrAdd(hash, new Device(row.Id, row.PublicationId, hash, new Seat(publications.Activity(row.RevisionId), row.Seed)));
        }
        return device.PublicationId == publication ? device : null;
    }

    /// <summary>The attempt that a device works on, as it stands; null when it was given to another device.</summary>
    public Task<Attempt?> Of(Device device) => Change(device, now => Task.FromResult(now.Attempt));

    /// <summary>All attempts at a publication, in the order of names.</summary>
    public IReadOnlyList<Attempt> All(long publication) => database.Read(connection =>
    {
        var moves = connection.Query<MoveRow>(
            """
            select move.attempt_id, move.key, move.pane, move.move
            from move
            join attempt on attempt.id = move.attempt_id
            where attempt.publication_id = @publication and attempt.handed_in_at is null
            order by move.id
            """, new { publication }).ToLookup(move => move.AttemptId);
        return connection.Query<Row>($"{Columns} where publication_id = @publication order by folded_name", new { publication })
            .Select(row => Read(row, moves[row.Id]))
            .ToList();
    });

    /// <summary>Lets whoever next joins under the attempt's name go on with it, on any device.</summary>
    public void SetFree(long publication, long id)
    {
        var changed = database.Write(connection => connection.Execute(
            """
            update attempt
            set secret_hash = null
            where id = @id and publication_id = @publication
            """, new { publication, id }));
        if (changed > 0) GiveTo(id, null);
        devices.Clear();
    }

    /// <summary>
    /// Adds moves to an attempt, in their order; those it already has change nothing. The whole is stored, or nothing.
    /// Moves that arrive after handing in are left out.
    /// </summary>
    /// <returns>The attempt as it is stored now; null when it was given to another device.</returns>
    /// <exception cref="MoveRefused">A move does not fit its pane.</exception>
    public Task<Attempt?> Append(Device device, IReadOnlyList<KeyedMove> moves) => Change(device, async now =>
    {
        if (now.Attempt.Handed is not null) return now.Attempt;
        var fresh = moves.Where(move => !now.Keys.Contains(move.Key)).DistinctBy(move => move.Key).ToList();
        if (fresh.Count == 0) return now.Attempt;
        var responses = now.Attempt.Responses;
        var made = new List<KeyedMove>();
        foreach (var move in fresh)
        {
            // What follows from a move is kept as moves of its own, so that a later change of the key does not change what was done.
            (var all, responses) = Progress.Make(device.Seat.Activity, responses, move.Pane, move.Move);
            made.AddRange(all.Select((each, i) => new KeyedMove(i == 0 ? move.Key : $"{move.Key}/{i}", move.Pane, each)));
        }
        await database.WriteAsync(connection => Insert(connection, device.AttemptId, made));
        now.Keys.UnionWith(made.Select(move => move.Key));
        return now.Attempt = now.Attempt with { Responses = responses };
    });

    /// <summary>Hands an attempt in and scores it. The second time changes nothing.</summary>
    /// <returns>The attempt as it is stored now; null when it was given to another device.</returns>
    public Task<Attempt?> HandIn(Device device) => Change(device, async now =>
    {
        if (now.Attempt.Handed is not null) return now.Attempt;
        var score = Scorer.Score(device.Seat.Activity, now.Attempt.Responses);
        var handed = new HandedIn(DateTimeOffset.FromUnixTimeMilliseconds(clock.GetUtcNow().ToUnixTimeMilliseconds()), score.Score, score.Possible, score.Grade, score.MaximumGrade);
        var json = ResponseDocument.Write(now.Attempt.Responses);
        await database.WriteAsync(connection => connection.Execute(
            """
            update attempt
            set handed_in_at = @At, responses = @json, score = @Score, possible = @Possible, grade = @Grade, maximum_grade = @MaximumGrade
            where id = @AttemptId
            """, new { device.AttemptId, json, handed.At, handed.Score, handed.Possible, handed.Grade, handed.MaximumGrade }));
        return now.Attempt = now.Attempt with { Handed = handed };
    });

    private int Insert(IDbConnection connection, long attempt, IReadOnlyList<KeyedMove> moves) => connection.Execute(
        """
        insert into move (attempt_id, key, pane, move, made_at)
        values (@attempt, @key, @pane, @json, @now)
        """,
        moves.Select(move => new
        {
            attempt,
            key = move.Key,
            pane = move.Pane,
            json = JsonSerializer.Serialize(move.Move, DocumentJson.Options),
            now = clock.GetUtcNow(),
        }));

    private async Task<Attempt?> Change(Device device, Func<Live, Task<Attempt>> change)
    {
        var now = await Enter(device.AttemptId);
        try
        {
            return now.SecretHash == device.SecretHash ? await change(now) : null;
        }
        finally
        {
            now.Turn.Release();
        }
    }

    /// <summary>Remembers which device has an attempt; null for none.</summary>
    private Attempt GiveTo(long id, string? secretHash)
    {
        var now = Enter(id).GetAwaiter().GetResult();
        now.SecretHash = secretHash;
        now.Attempt = now.Attempt with { IsFree = secretHash is null };
        now.Turn.Release();
        return now.Attempt;
    }

    /// <summary>The attempt in memory, with its turn taken.</summary>
    private async Task<Live> Enter(long id)
    {
        while (true)
        {
            if (live.Count > MostRemembered) ForgetTheIdle();
            var now = live.GetOrAdd(id, Load);
            await now.Turn.WaitAsync();
            if (!now.IsForgotten) return now;
            now.Turn.Release();
        }
    }

    private void ForgetTheIdle()
    {
        foreach (var (id, idle) in live)
        {
            if (!idle.Turn.Wait(0)) continue;
            idle.IsForgotten = true;
            live.TryRemove(id, out _);
            idle.Turn.Release();
        }
    }

    private Live Load(long id) => database.Read(connection =>
    {
        var row = connection.QuerySingle<Row>($"{Columns} where id = @id", new { id });
        var moves = connection.Query<MoveRow>(
            """
            select attempt_id, key, pane, move
            from move
            where attempt_id = @id
            order by id
            """, new { id }).ToList();
        return new Live(Read(row, moves), row.SecretHash, [.. moves.Select(move => move.Key)]);
    });

    private Attempt Read(Row row, IEnumerable<MoveRow> moves)
    {
        var activity = publications.Activity(row.RevisionId);
        return new(
            row.Id, row.PublicationId, row.RevisionId, row.Name, row.Seed, row.StartedAt, row.SecretHash is null,
            row.Responses is { } stored
                ? ResponseDocument.Read(stored)
                : moves.Aggregate(ResponseDocument.Empty, (done, move) => Moves.Apply(activity, done, move.Pane, JsonSerializer.Deserialize<Move>(move.Move, DocumentJson.Options)!)),
            row.HandedInAt is { } at ? new(at, row.Score!.Value, row.Possible!.Value, row.Grade!.Value, row.MaximumGrade!.Value) : null);
    }

    /// <summary>Names that differ only in capitals or blanks are one name.</summary>
    private static string Fold(string name) =>
        string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).ToUpperInvariant();

    private static string Hash(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
