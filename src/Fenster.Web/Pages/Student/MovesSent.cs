using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;

namespace Fenster.Web.Pages;

/// <summary>Moves as a browser sends them, with the names that its view gave to things.</summary>
public sealed record MovesSent(MoveSent?[]? Moves)
{
    public const int Most = 500;

    /// <summary>The moves with the pane's own ids.</summary>
    /// <param name="sent">Null when the body was not JSON of this shape.</param>
    /// <exception cref="MoveRefused">A move can't be read or does not fit the activity.</exception>
    public static IReadOnlyList<KeyedMove> Resolve(MovesSent? sent, Seat seat)
    {
        if (sent?.Moves is not { } moves) throw new MoveRefused("The moves could not be read.");
        if (moves.Length > Most) throw new MoveRefused($"More than {Most} moves came at once.");
        return [.. moves.Select(move => (move ?? throw new MoveRefused("A move was empty.")).Resolve(seat))];
    }
}

/// <param name="Key">Made by the device, one for each move.</param>
/// <param name="Pane">The pane's name in the view.</param>
public sealed record MoveSent(string Key, string Pane, JsonElement Move)
{
    private const int LongestKey = 64;

    public KeyedMove Resolve(Seat seat)
    {
        if (Key is not { Length: > 0 and <= LongestKey }) throw new MoveRefused("A move came without a key.");
        var (pane, move) = seat.Resolve(Pane, Read());
        return new(Key, pane, move);
    }

    private Move Read()
    {
        try
        {
            return Move.Deserialize<Move>(DocumentJson.Options) ?? throw new MoveRefused("A move was empty.");
        }
        catch (Exception exception) when (exception is JsonException or InvalidOperationException or NotSupportedException)
        {
            throw new MoveRefused("A move could not be read.");
        }
    }
}
