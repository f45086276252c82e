using Fenster.Store;
using Fenster.Words;

namespace Fenster.Web.Hosting;

/// <summary>What a code leads to, of which nobody can try out many.</summary>
public sealed class Codes(Assignments assignments, Guesses guesses)
{
    /// <param name="code">Tidied.</param>
    /// <param name="problem">Why it leads nowhere, for a person.</param>
    public Assignment? Find(HttpContext context, string code, Language language, out string problem)
    {
        problem = "";
        if (guesses.Wait(context, "code") is { } wait)
        {
            problem = language.Say("join.wait", ("count", Math.Ceiling(wait.TotalSeconds)));
            return null;
        }
        if (assignments.ByCode(code) is { } assignment)
            return assignment;
        guesses.Add(context, "code");
        problem = language.Say("join.noActivity", ("code", code.Length > 12 ? code[..12] + "…" : code));
        return null;
    }
}
