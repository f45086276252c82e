using System.Security.Cryptography;
using System.Text;

namespace Fenster.Store;

/// <summary>Secrets that nobody can guess, of which only a hash is stored.</summary>
internal static class Secret
{
    /// <summary>256 random bits.</summary>
    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    public static string Hash(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
