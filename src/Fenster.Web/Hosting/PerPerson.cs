namespace Fenster.Web.Hosting;

/// <summary>One turn for each person: whoever has it is alone among that person's requests.</summary>
internal sealed class PerPerson
{
    private sealed class Turn
    {
        public SemaphoreSlim Free { get; } = new(1);
        public int Wanted { get; set; }
    }

    private readonly Dictionary<long, Turn> turns = [];

    /// <summary>Waits for the person's turn, which ends when the result is disposed of.</summary>
    public async Task<IDisposable> Enter(long person, CancellationToken stop)
    {
        Turn? turn;
        lock (turns)
        {
            if (!turns.TryGetValue(person, out turn))
                turns[person] = turn = new();
            turn.Wanted++;
        }
        try
        {
            await turn.Free.WaitAsync(stop);
        }
        catch
        {
            Leave(person, turn, wasIn: false);
            throw;
        }
        return new Leaving(this, person, turn);
    }

    private void Leave(long person, Turn turn, bool wasIn)
    {
        if (wasIn)
            turn.Free.Release();
        lock (turns)
            // Nobody remembers the turn of a person for whom nobody waits.
            if (--turn.Wanted == 0)
                turns.Remove(person);
    }

    private sealed class Leaving(PerPerson turns, long person, Turn turn) : IDisposable
    {
        private bool hasLeft;

        public void Dispose()
        {
            if (hasLeft)
                return;
            hasLeft = true;
            turns.Leave(person, turn, wasIn: true);
        }
    }
}
