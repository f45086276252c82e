using System.Security.Cryptography;

namespace Fenster.Store;

/// <summary>
/// The short code that lets students in: six characters, of those that look alike (0 O Q, 1 I L, 2 Z, 5 S, 6 G, 8 B, U V) at most one,
/// and no vowels that could make a word. 19⁶ is about 47 million.
/// </summary>
public static class JoinCode
{
    public const int Length = 6;

    public const string Alphabet = "3479CDFHJKMNPRTWXYG";

    public static string New() => RandomNumberGenerator.GetString(Alphabet, Length);

    /// <summary>What a person typed, as the code it means: without blanks and hyphens, in capitals.</summary>
    public static string Tidy(string? typed) =>
        string.Concat((typed ?? "").Where(c => !char.IsWhiteSpace(c) && c is not ('-' or '–'))).ToUpperInvariant();
}
