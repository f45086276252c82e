using System.Security.Cryptography;
using System.Text;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// The words that make the first teacher of a new server, who is its administrator: they stand in what the start writes, so that whoever
/// comes first by the network is not it. They are new at each start, and of no use once there is a teacher.
/// </summary>
public sealed class FirstWords
{
    public string Words { get; } = PersonalWords.New();

    /// <summary>Whether these are the words, told in a time that does not depend on them.</summary>
    public bool Are(string typed) =>
        CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(PersonalWords.Tidy(typed)), Encoding.UTF8.GetBytes(Words));
}
