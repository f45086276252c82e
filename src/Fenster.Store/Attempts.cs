using System.Collections.Immutable;
using System.Security.Cryptography;
using Dapper;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;

namespace Fenster.Store;

/// <summary>One student's work on one activity.</summary>
/// <param name="Seed">Orders the bank.</param>
/// <param name="Word">Lets another device in that knows it; null for none.</param>
/// <param name="Responses">By pane id.</param>
/// <param name="Handed">Null while it is worked on.</param>
public sealed record Attempt(
    long Id,
    long PublicationId,
    long RevisionId,
    string Name,
    long Seed,
    DateTimeOffset StartedAt,
    string? Word,
    ImmutableDictionary<string, Response> Responses,
    HandedIn? Handed
);

/// <summary>What handing in came to.</summary>
public sealed record HandedIn(DateTimeOffset At, decimal Score, decimal Possible, decimal Grade, decimal MaximumGrade);

/// <summary>An attempt as a list shows it.</summary>
/// <param name="Placed">How many answers it has.</param>
/// <param name="Handed">Null while it is worked on.</param>
public sealed record AttemptLine(long Id, long RevisionId, string Name, DateTimeOffset StartedAt, long Placed, HandedIn? Handed);

/// <summary>What all attempts at a publication come to.</summary>
public sealed record AttemptSums
{
    public long All { get; init; }
    public long HandedIn { get; init; }

    /// <summary>Of the scores of those that are handed in; null when none is.</summary>
    public double? Mean { get; init; }

    /// <summary>The most that can be earned in one that is handed in.</summary>
    public double Possible { get; init; }
}

/// <summary>A move as a device sends it.</summary>
/// <param name="Key">Made by the device; the same move sent twice has the same key.</param>
/// <param name="Pane">Id of the pane.</param>
public sealed record KeyedMove(string Key, string Pane, Move Move);

/// <summary>A move that was not made. Nothing else was left out because of it.</summary>
public sealed record RefusedMove(string Key, Refusal Refusal);

/// <summary>Why nothing of what a device sent was taken.</summary>
public enum Shut
{
    /// <summary>The attempt goes on with another device, or is gone.</summary>
    GivenAway,
    Closed,
}

/// <summary>What became of what a device sent.</summary>
/// <param name="Attempt">As it is stored now; null when nothing was taken.</param>
/// <param name="Refused">The moves that were not made; all others are stored, now or before.</param>
/// <param name="Shut">Null when it was taken.</param>
public sealed record Taken(Attempt? Attempt, ImmutableArray<RefusedMove> Refused, Shut? Shut = null);

/// <summary>A student who joined, and the secret that lets this device come back.</summary>
public sealed record Joined(Attempt Attempt, string Secret);

/// <summary>A device that works on an attempt.</summary>
public sealed record Device(long AttemptId, long PublicationId, string SecretHash, Seat Seat);

/// <param name="remembered">How many attempts and devices are kept in memory; what is stored is the truth all the same.</param>
public sealed class Attempts(Database database, Publications publications, TimeProvider clock, int remembered = 5000)
{
    private const string Columns = """
        select id, publication_id, revision_id, name, secret_hash, seed, started_at, word, version, placed,
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
        public string? Word { get; init; }
        public long Version { get; init; }
        public long Placed { get; init; }
        public DateTimeOffset? HandedInAt { get; init; }
        public decimal? Score { get; init; }
        public decimal? Possible { get; init; }
        public decimal? Grade { get; init; }
        public decimal? MaximumGrade { get; init; }

        public HandedIn? Handed => HandedInAt is { } at ? new(at, Score!.Value, Possible!.Value, Grade!.Value, MaximumGrade!.Value) : null;
        public AttemptLine Line => new(Id, RevisionId, Name, StartedAt, Placed, Handed);
    }

    /// <summary>How often an append is tried again that others have overtaken.</summary>
    private const int MostTurns = 50;

    private readonly Lru<long, LoggedAttempt> attempts = new(remembered);
    private readonly Lru<string, Device> devices = new(remembered);

    /// <summary>How many attempts are in memory.</summary>
    public int Remembered => attempts.Count;

    /// <summary>
    /// Starts an attempt under a name, or takes over the one of that name with the word that lets another device in. Null when the name
    /// is in use.
    /// </summary>
    /// <param name="word">As it was typed; null for none.</param>
    public Joined? Join(Publication publication, string name, string? word = null)
    {
        var secret = Secret.New();
        var id = database.Write(connection =>
            connection.QuerySingleOrDefault<long?>(
                """
                insert into attempt (publication_id, revision_id, name, folded_name, secret_hash, seed, started_at)
                values (@Publication, @Revision, @Name, @Folded, @Hash, @Seed, @Now)
                on conflict (publication_id, folded_name) do update
                    set secret_hash = excluded.secret_hash, word = null
                    where attempt.word = @Word
                returning id
                """,
                new
                {
                    Publication = publication.Id,
                    Revision = publication.RevisionId,
                    Name = name,
                    Folded = PersonName.Fold(name),
                    Hash = Secret.Hash(secret),
                    Seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
                    Now = clock.GetUtcNow(),
                    Word = word is null ? null : TwoWords.Tidy(word),
                }
            )
        );
        return id is { } attempt && Read(attempt) is { } read ? new(read.Attempt, secret) : null;
    }

    /// <summary>Whether an attempt of that name waits for another device with a word.</summary>
    public bool AwaitsWord(long publication, string name) =>
        database.Read(connection =>
            connection.ExecuteScalar<bool>(
                """
                select exists (
                    select 1
                    from attempt
                    where publication_id = @publication and folded_name = @folded and word is not null)
                """,
                new { publication, folded = PersonName.Fold(name) }
            )
        );

    /// <summary>The device that a secret belongs to, when it works on an attempt at this publication.</summary>
    public Device? DeviceOf(long publication, string secret)
    {
        var hash = Secret.Hash(secret);
        if (!devices.TryGet(hash, out var device))
        {
            var row = database.Read(connection =>
                connection.QuerySingleOrDefault<Row>($"{Columns} where secret_hash = @hash and deleted_at is null", new { hash })
            );
            if (row is null)
                return null;
            device = new(row.Id, row.PublicationId, hash, new Seat(publications.Activity(row.RevisionId), row.Seed));
            devices.Put(hash, device);
        }
        return device.PublicationId == publication ? device : null;
    }

    /// <summary>The attempt that a device works on, as it stands; null when it was given to another device.</summary>
    public Attempt? Of(Device device) => Read(device.AttemptId) is { } read && read.SecretHash == device.SecretHash ? read.Attempt : null;

    /// <summary>One attempt at a publication; null when there is none of this id.</summary>
    public Attempt? One(long publication, long id) =>
        Read(id) is { } read && read.Attempt.PublicationId == publication ? read.Attempt : null;

    /// <summary>The ids of the attempts before and after one, in the order of names.</summary>
    public (AttemptLine? Before, AttemptLine? After) Neighbours(long publication, Attempt attempt) =>
        database.Read(connection =>
        {
            var folded = PersonName.Fold(attempt.Name);
            return (
                connection
                    .QueryFirstOrDefault<Row>(
                        $"{Columns} where publication_id = @publication and deleted_at is null and "
                            + "folded_name < @folded order by folded_name desc limit 1",
                        new { publication, folded }
                    )
                    ?.Line,
                connection
                    .QueryFirstOrDefault<Row>(
                        $"{Columns} where publication_id = @publication and deleted_at is null "
                            + "and folded_name > @folded order by folded_name limit 1",
                        new { publication, folded }
                    )
                    ?.Line
            );
        });

    /// <summary>Attempts at a publication, in the order of names.</summary>
    /// <param name="skip">How many come before.</param>
    public IReadOnlyList<AttemptLine> Page(long publication, int skip = 0, int most = int.MaxValue) =>
        database.Read(connection =>
            connection
                .Query<Row>(
                    $"{Columns} where publication_id = @publication and deleted_at is null order by folded_name limit @most offset @skip",
                    new
                    {
                        publication,
                        skip,
                        most,
                    }
                )
                .Select(row => row.Line)
                .ToList()
        );

    public AttemptSums Sums(long publication) =>
        database.Read(connection =>
            connection.QuerySingle<AttemptSums>(
                """
                select count(*) as "all", count(handed_in_at) as handed_in,
                       avg(score_number) as mean, coalesce(max(possible_number), 0.0) as possible
                from attempt
                where publication_id = @publication and deleted_at is null
                """,
                new { publication }
            )
        );

    /// <summary>Lets another device go on with the attempt that knows the word; the device that has it may go on until then.</summary>
    /// <returns>The word; null when there is no such attempt.</returns>
    public string? LetIn(long publication, long id)
    {
        var word = TwoWords.New();
        var changed = database.Write(connection =>
            connection.Execute(
                """
                update attempt
                set word = @word
                where id = @id and publication_id = @publication and deleted_at is null
                """,
                new
                {
                    publication,
                    id,
                    word,
                }
            )
        );
        attempts.Forget(id);
        return changed == 1 ? word : null;
    }

    /// <summary>
    /// Adds moves to an attempt, each for itself, in their order; those it already has change nothing, and one that is refused
    /// takes no other with it. Moves that arrive after handing in are left out.
    /// </summary>
    /// <param name="received">When all of them had arrived.</param>
    public async Task<Taken> Append(Device device, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var read = Recall(device, turn > 0);
            if (read is null || read.SecretHash != device.SecretHash)
                return new(null, [], Shut.GivenAway);
            if (read.Attempt.Handed is not null)
                return new(read.Attempt, []);
            var next = Make(device.Seat.Activity, read, moves, received);
            if (next.Logged.Count == 0)
            {
                // What was refused or known already was so by a copy: by what is stored it has to be so too.
                if (turn > 0 || IsCurrent(read))
                    return IsShut(device, received) ? new(null, [], Shut.Closed) : new(read.Attempt, next.Refused);
                continue;
            }
            if (
                await database.WriteAsync(connection =>
                    AttemptLog.Append(connection, read, next.Logged, PlacedIn(next.After.Attempt), received)
                )
            )
            {
                attempts.Put(device.AttemptId, next.After);
                return new(next.After.Attempt, next.Refused);
            }
            attempts.Forget(device.AttemptId);
            if (IsShut(device, received))
                return new(null, [], Shut.Closed);
        }
        throw new TimeoutException("Others were always faster to change this attempt.");
    }

    /// <summary>Hands an attempt in and scores it. The second time changes nothing.</summary>
    /// <param name="received">When the wish had arrived.</param>
    public async Task<Taken> HandIn(Device device, DateTimeOffset received)
    {
        for (var turn = 0; turn < MostTurns; turn++)
        {
            var read = Recall(device, turn > 0);
            if (read is null || read.SecretHash != device.SecretHash)
                return new(null, [], Shut.GivenAway);
            if (read.Attempt.Handed is not null)
                return new(read.Attempt, []);
            var score = Scorer.Score(device.Seat.Activity, read.Attempt.Responses);
            var handed = new HandedIn(
                DateTimeOffset.FromUnixTimeMilliseconds(received.ToUnixTimeMilliseconds()),
                score.Score,
                score.Possible,
                score.Grade,
                score.MaximumGrade
            );
            var json = ResponseDocument.Write(WithoutEarlier(read.Attempt.Responses));
            var isStored = await database.WriteAsync(connection =>
            {
                if (!AttemptLog.Claim(connection, read, 0, PlacedIn(read.Attempt), received))
                    return false;
                connection.ExecutePrepared(
                    """
                    update attempt
                    set handed_in_at = @at, score = @score, possible = @possible, grade = @grade, maximum_grade = @maximum,
                        score_number = cast(@score as real), possible_number = cast(@possible as real)
                    where id = @id
                    """,
                    ("id", device.AttemptId),
                    ("at", handed.At),
                    ("score", handed.Score),
                    ("possible", handed.Possible),
                    ("grade", handed.Grade),
                    ("maximum", handed.MaximumGrade)
                );
                connection.ExecutePrepared(
                    "insert into response (attempt_id, responses) values (@id, @json)",
                    ("id", device.AttemptId),
                    ("json", json)
                );
                return true;
            });
            if (isStored)
            {
                var done = read with { Attempt = read.Attempt with { Handed = handed } };
                attempts.Put(device.AttemptId, done);
                return new(done.Attempt, []);
            }
            attempts.Forget(device.AttemptId);
            if (IsShut(device, received))
                return new(null, [], Shut.Closed);
        }
        throw new TimeoutException("Others were always faster to change this attempt.");
    }

    /// <summary>Why a move could not be added: whether the activity has closed.</summary>
    private bool IsShut(Device device, DateTimeOffset received) =>
        publications.One(device.PublicationId) is not { } publication || publication.IsShut(received);

    /// <summary>A copy of the attempt, which may be older than what is stored.</summary>
    /// <param name="isAnew">Whether what is stored is read.</param>
    private LoggedAttempt? Recall(Device device, bool isAnew) =>
        !isAnew && attempts.TryGet(device.AttemptId, out var known) ? known : Read(device.AttemptId);

    private bool IsCurrent(LoggedAttempt read) => RowOf(read.Attempt.Id) is { } row && IsOf(row, read);

    private static bool IsOf(Row row, LoggedAttempt read) =>
        row.Version == read.Version
        && row.SecretHash == read.SecretHash
        && row.Word == read.Attempt.Word
        && row.HandedInAt is null == read.Attempt.Handed is null;

    private Row? RowOf(long id) =>
        database.Read(connection => connection.QuerySingleOrDefault<Row>($"{Columns} where id = @id and deleted_at is null", new { id }));

    /// <summary>
    /// The attempt as it is stored, of which only the log is not read again that is known already; null when there is none.
    /// </summary>
    private LoggedAttempt? Read(long id)
    {
        if (RowOf(id) is not { } row)
            return null;
        if (attempts.TryGet(id, out var known) && IsOf(row, known))
            return known;
        var read = database.Read(connection =>
        {
            // The log may have grown since; it tells its version itself.
            var moves = AttemptLog.Read(connection, id);
            return new LoggedAttempt(
                new(
                    row.Id,
                    row.PublicationId,
                    row.RevisionId,
                    row.Name,
                    row.Seed,
                    row.StartedAt,
                    row.Word,
                    AttemptLog.Replay(moves),
                    row.Handed
                ),
                row.SecretHash,
                moves.Count,
                [.. moves.Select(move => move.Key).OfType<string>()],
                moves.Sum(move => (long)move.Move.Length),
                [
                    .. moves
                        .Where(move => move.MadeAt > clock.GetUtcNow() - Limits.CodesWithin && move.Read() is TryCode)
                        .Select(move => move.MadeAt),
                ]
            );
        });
        attempts.Put(id, read);
        return read;
    }

    private sealed record Made(IReadOnlyList<LoggedMove> Logged, ImmutableArray<RefusedMove> Refused, LoggedAttempt After);

    private static Made Make(Activity activity, LoggedAttempt before, IReadOnlyList<KeyedMove> moves, DateTimeOffset received)
    {
        var (after, logged, refused) = (before, new List<LoggedMove>(), ImmutableArray.CreateBuilder<RefusedMove>());
        foreach (var move in moves)
        {
            if (after.Keys.Contains(move.Key))
                continue;
            if (OfMuch(after, move.Move, received) is { } tooMuch)
            {
                refused.Add(new(move.Key, tooMuch));
                continue;
            }
            var made = Progress.Make(activity, after.Attempt.Responses, move.Pane, move.Move);
            if (made.Refusal is { } refusal)
            {
                refused.Add(new(move.Key, refusal));
                continue;
            }
            // What follows from a move is kept as moves of its own, so that a later change of the key does not change what was done.
            var all = made.Moves.Select((each, i) => LoggedMove.Of(i == 0 ? move.Key : null, move.Pane, each)).ToList();
            logged.AddRange(all);
            after = after with
            {
                Attempt = after.Attempt with { Responses = made.After },
                Version = after.Version + all.Count,
                Keys = after.Keys.Add(move.Key),
                Length = after.Length + all.Sum(each => each.Json.Length),
                Codes = move.Move is TryCode ? after.Codes.RemoveAll(at => at <= received - Limits.CodesWithin).Add(received) : after.Codes,
            };
        }
        return new(logged, refused.ToImmutable(), after);
    }

    /// <summary>Why there would be more than an attempt may have; null when there would not.</summary>
    private static Refusal? OfMuch(LoggedAttempt attempt, Move move, DateTimeOffset received) =>
        attempt.Version >= Limits.MostMoves || attempt.Length >= Limits.LongestMoves ? new(Refused.TooManyMoves)
        : move is TryCode && attempt.Codes.Count(at => at > received - Limits.CodesWithin) >= Limits.MostCodesWithin
            ? new(Refused.CodesTooFast)
        : null;

    private static int PlacedIn(Attempt attempt) => attempt.Responses.Values.Sum(response => response.Answers);

    private static ImmutableDictionary<string, Response> WithoutEarlier(ImmutableDictionary<string, Response> responses) =>
        responses.ToImmutableDictionary(response => response.Key, response => response.Value with { Earlier = [] });
}
