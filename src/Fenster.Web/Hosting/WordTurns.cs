using Fenster.Core.Giving;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Lets people try personal words at an assignment. Right words cost nothing, however many come at once. Wrong ones are counted by
/// assignment, from wherever they come: after <see cref="Free"/> of them, one more is taken every <see cref="Each"/>, and who is not known
/// waits for that in a queue, in which those come first whose device or address has got the fewest wrong. Whoever has worked at the
/// assignment before has an allowance of their own, on each of their devices.
/// </summary>
/// <remarks>docs/operating.md reckons how likely somebody's words are found so.</remarks>
public sealed class WordTurns(TimeProvider clock)
{
    /// <summary>Wrong words at one assignment that keep nobody waiting.</summary>
    public const int Free = 300;

    /// <summary>How long it takes until one more wrong word is taken, once these are used up.</summary>
    public static readonly TimeSpan Each = TimeSpan.FromSeconds(30);

    /// <summary>The longest that anybody waits.</summary>
    public static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(30);

    /// <summary>Wrong words that somebody who is known may type, and in which time one of them is given back.</summary>
    public const int FreeOfKnown = 10;

    public static readonly TimeSpan GivenBack = TimeSpan.FromHours(6);

    private const int MostWaiting = 300;
    private const int MostCounted = 20_000;

    private readonly Lru<long, Desk> desks = new(MostCounted);
    private readonly Lru<string, Allowance> known = new(MostCounted);
    private readonly Lock making = new();

    /// <summary>How much is left, and when that was so: it comes back by the time.</summary>
    private sealed class Allowance(double left, DateTimeOffset at)
    {
        public double Left { get; private set; } = left;
        private DateTimeOffset at = at;

        /// <summary>Brings it up to a moment.</summary>
        public void Refill(double most, TimeSpan each, DateTimeOffset now)
        {
            Left = Math.Min(most, Left + Math.Max(0, (now - at) / each));
            at = now;
        }

        public void Take() => Left--;

        public void GiveBack() => Left++;
    }

    /// <summary>Somebody who may try words now: what the try came to has to be said.</summary>
    public sealed class Turn
    {
        private readonly Action<bool> say;

        internal Turn(Action<bool> say) => this.say = say;

        /// <summary>Says whether it was the right word; a right one costs nothing.</summary>
        public void Was(bool right) => say(right);
    }

    /// <summary>Waits until words may be tried at an assignment.</summary>
    /// <returns>Null where it would take longer than <see cref="LongestWait"/>.</returns>
    public async Task<Turn?> At(HttpContext context, long assignment)
    {
        if (
            KnownDevice.Of(context, "word") is { } device
            && device.StartsWith($"word\n{assignment}.", StringComparison.Ordinal)
            && OfKnown(device) is { } own
        )
            return own;
        Desk desk;
        lock (making)
            if (!desks.TryGet(assignment, out desk!))
                desks.Put(assignment, desk = new(clock));
        return await desk.Enter($"{context.Connection.RemoteIpAddress}", context.RequestAborted);
    }

    /// <summary>Marks a device as one that somebody who knows the words has worked on.</summary>
    public static void Remember(HttpContext context, Student student) =>
        KnownDevice.Remember(context, "word", $"{student.AssignmentId}.{student.Id}");

    private Turn? OfKnown(string device)
    {
        lock (making)
        {
            if (!known.TryGet(device, out var allowance))
                known.Put(device, allowance = new(FreeOfKnown, clock.GetUtcNow()));
            allowance.Refill(FreeOfKnown, GivenBack, clock.GetUtcNow());
            if (allowance.Left < 1)
                return null;
            allowance.Take();
            return new(right =>
            {
                lock (making)
                    if (right)
                        allowance.GiveBack();
            });
        }
    }

    private sealed record Waiting(string Address, TaskCompletionSource<Turn> Granted);

    /// <summary>The tries at one assignment.</summary>
    private sealed class Desk(TimeProvider clock)
    {
        private readonly Lock turning = new();
        private readonly Allowance allowance = new(Free, clock.GetUtcNow());
        private readonly List<Waiting> waiting = [];

        /// <summary>How many wrong words came from where, since the desk was last at rest.</summary>
        private readonly Dictionary<string, int> wrong = [];

        public async Task<Turn?> Enter(string address, CancellationToken gone)
        {
            Waiting own;
            lock (turning)
            {
                if (waiting.Count >= MostWaiting)
                    return null;
                own = new(address, new(TaskCreationOptions.RunContinuationsAsynchronously));
                waiting.Add(own);
                GrantWhatMay();
            }
            try
            {
                var until = clock.GetUtcNow() + LongestWait;
                while (!own.Granted.Task.IsCompleted && clock.GetUtcNow() < until)
                {
                    // The next is due by the time, or as soon as somebody's word was right.
                    await Task.WhenAny(own.Granted.Task, Task.Delay(TimeSpan.FromMilliseconds(250), gone));
                    gone.ThrowIfCancellationRequested();
                    lock (turning)
                        GrantWhatMay();
                }
                return own.Granted.Task.IsCompleted ? await own.Granted.Task : null;
            }
            finally
            {
                lock (turning)
                    if (!waiting.Remove(own) && !own.Granted.Task.IsCompleted)
                        own.Granted.TrySetCanceled(CancellationToken.None);
            }
        }

        /// <summary>Lets those try for whom there is something left: first who has got the fewest wrong, then who came first.</summary>
        private void GrantWhatMay()
        {
            allowance.Refill(Free, Each, clock.GetUtcNow());
            if (allowance.Left >= Free)
                wrong.Clear();
            while (allowance.Left >= 1 && waiting.Count > 0)
            {
                var next = waiting.MinBy(each => wrong.GetValueOrDefault(each.Address))!;
                waiting.Remove(next);
                allowance.Take();
                next.Granted.SetResult(new(right => Said(next.Address, right)));
            }
        }

        private void Said(string address, bool right)
        {
            lock (turning)
            {
                if (right)
                    allowance.GiveBack();
                else if (wrong.Count < MostCounted || wrong.ContainsKey(address))
                    wrong[address] = wrong.GetValueOrDefault(address) + 1;
                GrantWhatMay();
            }
        }
    }
}
