using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A student's way in: a code, then a name.</summary>
public sealed class JoinModel(Publications publications, Attempts attempts, WrongGuesses guesses) : PageModel
{
    public const int LongestName = 60;

    public string? Code { get; private set; }
    public string? Name { get; private set; }
    public string? Problem { get; private set; }

    /// <summary>Whether the work of that name waits for the two words of another device.</summary>
    public bool AsksWords { get; private set; }
    public Activity? Activity { get; private set; }
    public bool IsClosed { get; private set; }
    public string Rules => Activity is null ? "" : RuleSentences.Short(Activity);

    public IActionResult OnGet(string? code)
    {
        if (Find(code) is not { } publication)
            return Page();
        if (
            Request.Cookies[DeviceCookie.Name(publication)] is { } secret
            && attempts.DeviceOf(publication.Id, secret) is { } device
            && attempts.Of(device) is { } attempt
            && (!IsClosed || attempt.Handed is not null)
        )
            return Redirect($"/do/{publication.Code}");
        return Page();
    }

    /// <param name="words">The two words that let another device in; null when they were not asked for.</param>
    public IActionResult OnPost(string? code, string? name, string? words)
    {
        if (Find(code) is not { } publication || IsClosed)
            return Page();
        Name = string.Join(' ', (name ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        Problem =
            Name.Length == 0 ? "Type your name, so that your teacher knows whose work it is."
            : Name.Length > LongestName ? $"That name is too long. It holds up to {LongestName} characters."
            : Name.Any(char.IsControl) ? "That name has a character that can't be shown. Type it again."
            : null;
        if (Problem is not null)
            return Page();
        if (attempts.Join(publication, Name, words) is not { } joined)
        {
            AsksWords = attempts.AwaitsWord(publication.Id, Name);
            if (AsksWords && words is { Length: > 0 })
                guesses.Add(HttpContext, "code");
            Problem =
                !AsksWords
                    ? $"Somebody called {Name} is already working on another device. If that is you, go on there, or ask "
                        + "your teacher to let you in here. If not, add the first letter of your surname."
                : words is { Length: > 0 } ? "Those are not the two words. Ask your teacher to show them to you."
                : $"{Name} has begun on another device. Type the two words that your teacher gives you.";
            return Page();
        }
        DeviceCookie.Set(HttpContext, publication, joined.Secret);
        return Redirect($"/do/{publication.Code}");
    }

    private Publication? Find(string? code)
    {
        Code = JoinCode.Tidy(code);
        if (Code.Length == 0)
            return null;
        if (guesses.TooMany(HttpContext, "code"))
        {
            Problem = "Too many wrong codes came from here. Wait a minute, then try again.";
            return null;
        }
        if (publications.ByCode(Code) is not { } publication)
        {
            guesses.Add(HttpContext, "code");
            Problem = $"There is no activity with the code {(Code.Length > 12 ? Code[..12] + "…" : Code)}. Check it with your teacher.";
            return null;
        }
        Activity = publications.Activity(publication.RevisionId);
        IsClosed = publication.ClosedAt is not null;
        return publication;
    }
}
