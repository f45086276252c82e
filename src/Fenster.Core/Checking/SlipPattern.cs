using System.Text;

namespace Fenster.Core.Checking;

/// <summary>
/// A text that others are measured against, by their optimal string alignment distance in characters: insertions, deletions,
/// exchanges, and swaps of two neighbours, none of them touched twice.
/// </summary>
/// <remarks>
/// Sources: the restricted form of Damerau's distance (1964); computed 64 characters at a time, by Hyyrö's bit-vector algorithm for
/// it (2003), with its additions and shifts carried over all words.
/// </remarks>
public sealed class SlipPattern
{
    private const int Word = 64;

    /// <summary>Where each character stands, a bit a place.</summary>
    private readonly Dictionary<Rune, ulong[]> places = [];
    private readonly ulong[] nowhere;

    public SlipPattern(string text)
    {
        Text = text;
        var runes = text.EnumerateRunes().ToArray();
        Length = runes.Length;
        nowhere = new ulong[(Length + Word - 1) / Word];
        for (var i = 0; i < runes.Length; i++)
        {
            if (!places.TryGetValue(runes[i], out var at))
                places[runes[i]] = at = new ulong[nowhere.Length];
            at[i / Word] |= 1UL << (i % Word);
        }
    }

    public string Text { get; }

    /// <summary>In characters.</summary>
    public int Length { get; }

    /// <summary>Whether a text is at most so far away. Stops as soon as it can't be.</summary>
    public bool IsWithin(string other, int most) => Distance(other, most) <= most;

    /// <summary>How far another text is away.</summary>
    public int Distance(string other) => Distance(other, int.MaxValue);

    /// <param name="most">Past it some number above it is enough of an answer.</param>
    private int Distance(string other, int most)
    {
        var left = other.EnumerateRunes().Count();
        if (Length == 0)
            return left;
        var (words, last) = (nowhere.Length, 1UL << ((Length - 1) % Word));
        // How each row differs from the one above it, and which cells are as small as the one up and to the left of them.
        var (more, less, same) = (new ulong[words], new ulong[words], new ulong[words]);
        Array.Fill(more, ulong.MaxValue);
        var (distance, before) = (Length, nowhere);
        foreach (var rune in other.EnumerateRunes())
        {
            var here = places.GetValueOrDefault(rune, nowhere);
            var (sumCarry, swapCarry, upCarry, downCarry) = (0UL, 0UL, 1UL, 0UL);
            for (var w = 0; w < words; w++)
            {
                var differed = ~same[w] & here[w];
                var swapped = ((differed << 1) | swapCarry) & before[w];
                swapCarry = differed >> (Word - 1);
                var sum = (UInt128)(here[w] & more[w]) + more[w] + sumCarry;
                sumCarry = (ulong)(sum >> Word);
                same[w] = ((ulong)sum ^ more[w]) | here[w] | less[w] | swapped;
                var (up, down) = (less[w] | ~(same[w] | more[w]), same[w] & more[w]);
                if (w == words - 1)
                    distance +=
                        (up & last) != 0 ? 1
                        : (down & last) != 0 ? -1
                        : 0;
                var (upNext, downNext) = (up >> (Word - 1), down >> (Word - 1));
                (up, down) = ((up << 1) | upCarry, (down << 1) | downCarry);
                (upCarry, downCarry) = (upNext, downNext);
                (more[w], less[w]) = (down | ~(same[w] | up), same[w] & up);
            }
            before = here;
            // Each character that is left takes one away at most.
            if (distance - --left > most)
                return distance - left;
        }
        return distance;
    }
}
