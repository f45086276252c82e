using System.Diagnostics.CodeAnalysis;

namespace Fenster.Store;

/// <summary>Remembers a bounded number of things, and forgets first what was not asked for the longest.</summary>
/// <param name="most">How many are remembered.</param>
public sealed class Lru<TKey, TValue>(int most)
    where TKey : notnull
{
    private readonly Dictionary<TKey, LinkedListNode<(TKey Key, TValue Value)>> known = [];
    private readonly LinkedList<(TKey Key, TValue Value)> byUse = [];

    public int Count
    {
        get
        {
            lock (known)
                return known.Count;
        }
    }

    public bool TryGet(TKey key, [MaybeNullWhen(false)] out TValue value)
    {
        lock (known)
        {
            if (known.TryGetValue(key, out var node))
            {
                byUse.Remove(node);
                byUse.AddFirst(node);
                value = node.Value.Value;
                return true;
            }
            value = default;
            return false;
        }
    }

    public void Put(TKey key, TValue value)
    {
        lock (known)
        {
            if (known.Remove(key, out var before))
                byUse.Remove(before);
            known[key] = byUse.AddFirst((key, value));
            if (known.Count <= most)
                return;
            known.Remove(byUse.Last!.Value.Key);
            byUse.RemoveLast();
        }
    }

    public void Forget(TKey key)
    {
        lock (known)
            if (known.Remove(key, out var node))
                byUse.Remove(node);
    }
}
