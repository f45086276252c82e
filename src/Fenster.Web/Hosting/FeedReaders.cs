using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;

namespace Fenster.Web.Hosting;

/// <summary>
/// How far those have come who read live events and say so: whoever is slow is not sent more than is soon read, since what waits in the
/// buffers of a line is old when it is seen.
/// </summary>
public sealed class FeedReaders
{
    private readonly ConcurrentDictionary<string, long> read = [];

    /// <returns>The reader's name, which nobody can guess.</returns>
    public string Begin()
    {
        var name = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));
        read[name] = 0;
        return name;
    }

    /// <summary>What an event is called, so that <see cref="Got"/> knows which it was.</summary>
    public static string NameOf(string reader, long number) => string.Create(CultureInfo.InvariantCulture, $"{reader}-{number}");

    /// <summary>Says that an event was read, and all before it.</summary>
    /// <returns>False where this process sends nothing to a reader of the name.</returns>
    public bool Got(string name)
    {
        if (
            name.Split('-') is not [var reader, var number]
            || !long.TryParse(number, CultureInfo.InvariantCulture, out var got)
            || !read.TryGetValue(reader, out var before)
        )
            return false;
        if (got > before)
            read.TryUpdate(reader, got, before);
        return true;
    }

    /// <summary>The number of the last event that was read; 0 before any.</summary>
    public long Of(string reader) => read.GetValueOrDefault(reader);

    public void End(string reader) => read.TryRemove(reader, out _);
}
