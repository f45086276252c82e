using System.Security.Cryptography;

namespace Fenster.Store;

/// <summary>
/// What names a row for whatever outlives it: lists of deletions, devices, what is kept in memory for good. SQLite gives the largest
/// freed number out again, and a restored copy brings old numbers back, so that a number alone may mean another row later.
/// </summary>
internal static class Identity
{
    /// <summary>128 random bits, which never come again.</summary>
    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));
}
