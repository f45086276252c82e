using Fenster.Core.Checking;

namespace Fenster.Core.Model;

/// <summary>Which targets a student does not know of yet: concealed spots before they are found, and what lies behind a lock.</summary>
public static class Hiding
{
    public static bool IsHidden(Pane pane, Response response, Target target) =>
        (target.FoundAt is not null && !response.Opened.Contains(target.Id)) || IsBehindLock(pane, response, target.Id);

    internal static bool IsBehindLock(Pane pane, Response response, string target)
    {
        foreach (var other in pane.Targets)
            if (other is Lock @lock && @lock.Opens.Contains(target))
                return !IsOpen(@lock, response) || IsBehindLock(pane, response, @lock.Id);
        return false;
    }

    /// <summary>Whether a code that opens the lock was tried.</summary>
    public static bool IsOpen(Lock @lock, Response response) =>
        response.Codes.TryGetValue(@lock.Id, out var codes) && codes.Any(code => Spellings.Credit(code, @lock.Code) > 0);
}
