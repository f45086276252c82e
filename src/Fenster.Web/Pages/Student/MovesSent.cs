using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>Moves as a browser sends them, with the names that its view gave to things.</summary>
/// <param name="Knows">The version of the log that the browser shows, with the moves that it sends added to it; null when all is to be told.</param>
public sealed record MovesSent(MoveSent?[]? Moves, long? Knows = null)
{
    public const int Most = 500;

    /// <summary>The moves with the pane's own ids, and those that can't be read or name what is not there.</summary>
    /// <param name="sent">Null when the body was not JSON of this shape.</param>
    /// <exception cref="MovesRefused">Nothing of what was sent can be told apart.</exception>
    public static (IReadOnlyList<KeyedMove> Moves, ImmutableArray<RefusedMove> Refused) Resolve(MovesSent? sent, Seat seat)
    {
        var language = Language.In(seat.Activity.Language);
        if (sent?.Moves is not { } moves)
            throw new MovesRefused(language.Say(new Refusal(Refused.Unreadable)));
        if (moves.Length > Most)
            throw new MovesRefused(language.Say(new Refusal(Refused.TooManyAtOnce, Most)));
        var (resolved, refused) = (new List<KeyedMove>(), ImmutableArray.CreateBuilder<RefusedMove>());
        foreach (var move in moves)
        {
            if (move?.Key is not { Length: > 0 and <= MoveSent.LongestKey } key)
                throw new MovesRefused(language.Say(new Refusal(Refused.Unreadable)));
            var (known, refusal) = (default((string Pane, Move Move)?), (Refusal?)null);
            if (move.Read() is { } read)
                known = seat.Resolve(move.Pane ?? "", read, out refusal);
            if (known is var (pane, made))
                resolved.Add(new(key, pane, made, move.Seen));
            else
                refused.Add(new(key, refusal ?? new(Refused.Unreadable)));
        }
        return (resolved, refused.ToImmutable());
    }
}

/// <summary>A request whose moves can't be told apart. The message is a sentence for the student.</summary>
public sealed class MovesRefused(string sentence) : Exception(sentence);

/// <param name="Key">Made by the device, one for each move.</param>
/// <param name="Pane">The pane's name in the view.</param>
/// <param name="Seen">The version of the log that the device had seen when it made the move; null where nobody asks.</param>
public sealed record MoveSent(string? Key, string? Pane, JsonElement Move, long? Seen = null)
{
    public const int LongestKey = 64;

    /// <summary>The move; null when it can't be read.</summary>
    public Move? Read()
    {
        try
        {
            return Move.Deserialize<Move>(DocumentJson.Options);
        }
        catch (Exception exception) when (exception is JsonException or InvalidOperationException or NotSupportedException)
        {
            return null;
        }
    }
}
