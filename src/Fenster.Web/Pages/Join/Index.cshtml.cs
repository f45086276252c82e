using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A student's way in: a code, then a name.</summary>
public sealed class JoinModel(Publications publications, Attempts attempts, Guesses guesses, Joins joins) : PageModel
{
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
        (Name, var fault) = PersonName.Tidy(name);
        Problem = fault switch
        {
            NameFault.Empty => "Type your name, so that your teacher knows whose work it is.",
            NameFault.TooLong => $"That name is too long. It holds up to {PersonName.Longest} characters.",
            NameFault.Unreadable => "That name has a character that can't be shown. Type it again.",
            NameFault.MixedAlphabets => "That name mixes letters of two alphabets that look alike. Type it in one of them.",
            null when joins.TooFast(HttpContext, publication.Id) =>
                "Very many are joining at this moment. Wait a few seconds, then try again.",
            _ => null,
        };
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
        KnownDevice.Remember(HttpContext, "code");
        DeviceCookie.Set(HttpContext, publication, joined.Secret);
        return Redirect($"/do/{publication.Code}");
    }

    private Publication? Find(string? code)
    {
        Code = JoinCode.Tidy(code);
        if (Code.Length == 0)
            return null;
        if (guesses.Wait(HttpContext, "code") is { } wait)
        {
            Problem = $"Too many wrong codes came from here. Wait {Math.Ceiling(wait.TotalSeconds)} seconds, then try again.";
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
