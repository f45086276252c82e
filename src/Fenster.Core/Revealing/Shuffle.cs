using System.Collections.Immutable;

namespace Fenster.Core.Revealing;

/// <summary>
/// Orders that depend on nothing but a seed, the same on every machine and in every version.
/// Source: SplitMix64 (Steele, Lea and Flood, 2014) with the shuffle of Fisher and Yates.
/// </summary>
public static class Shuffle
{
    public static ImmutableArray<T> Of<T>(IEnumerable<T> items, long seed)
    {
        var array = items.ToArray();
        var state = (ulong)seed;
        for (var i = array.Length - 1; i > 0; i--)
        {
            var j = (int)(Next(ref state) % (ulong)(i + 1));
            (array[i], array[j]) = (array[j], array[i]);
        }
        return [.. array];
    }

    private static ulong Next(ref ulong state)
    {
        var z = state += 0x9E3779B97F4A7C15;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }
}
