namespace Fenster.Core.Checking;

/// <summary>Things that are joined into sets, each named by one of them.</summary>
internal readonly struct DisjointSets
{
    private readonly int[] parent;

    /// <param name="count">How many things there are, each in a set of its own.</param>
    public DisjointSets(int count)
    {
        parent = new int[count];
        for (var i = 0; i < count; i++)
            parent[i] = i;
    }

    public int Root(int i)
    {
        while (parent[i] != i)
            i = parent[i] = parent[parent[i]];
        return i;
    }

    public void Join(int one, int other) => parent[Root(one)] = Root(other);
}
