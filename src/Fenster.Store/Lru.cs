using System.Collections.Concurrent;
using System.Diagnostics.CodeAnalysis;

namespace Fenster.Store;

/// <summary>
/// Remembers a bounded number of things, and forgets first what was not asked for the longest. Asking takes no lock, since all
/// students' requests ask.
/// </summary>
/// <param name="most">How many are remembered. Where there would be more, a sixteenth of them is forgotten at once.</param>
public sealed class Lru<TKey, TValue>(int most)
    where TKey : notnull
{
    private sealed class Entry(TValue value)
    {
        public readonly TValue Value = value;
        public long Asked;
    }

    private readonly ConcurrentDictionary<TKey, Entry> known = [];
    private readonly Lock forgetting = new();
    private long clock;

    public int Count => known.Count;

    public bool TryGet(TKey key, [MaybeNullWhen(false)] out TValue value)
    {
        if (known.TryGetValue(key, out var entry))
        {
            entry.Asked = Interlocked.Increment(ref clock);
            value = entry.Value;
            return true;
        }
        value = default;
        return false;
    }

    public void Put(TKey key, TValue value)
    {
        var isNew = !known.ContainsKey(key);
        known[key] = new(value) { Asked = Interlocked.Increment(ref clock) };
        if (isNew && known.Count > most)
            ForgetOldest();
    }

    public void Forget(TKey key) => known.TryRemove(key, out _);

    public void Clear() => known.Clear();

    private void ForgetOldest()
    {
        lock (forgetting)
        {
            var tooMany = known.Count - most;
            if (tooMany <= 0)
                return;
            // Copied first: while they are sorted, others go on asking.
            var oldest = known.Select(entry => (entry.Key, entry.Value, entry.Value.Asked)).OrderBy(entry => entry.Asked);
            foreach (var (key, entry, _) in oldest.Take(tooMany + most / 16).ToList())
                known.TryRemove(new(key, entry));
        }
    }
}
