using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
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
    public string Rules => Activity is null ? "" : new RuleSentences(Language).Short(Activity);

    /// <summary>The activity's, once it is known which.</summary>
    public Language Language => Activity is null ? Languages.OfBrowser(Request) : Language.In(Activity.Language);
    public bool IsRightToLeft => Activity is null ? Language.IsRightToLeft : Activity.Direction == WritingDirection.RightToLeft;

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
            NameFault.Empty => Language.Say("join.noName"),
            NameFault.TooLong => Language.Say("join.longName", ("most", PersonName.Longest)),
            NameFault.Unreadable => Language.Say("join.unreadableName"),
            NameFault.MixedAlphabets => Language.Say("join.mixedName"),
            null when joins.TooFast(HttpContext, publication.Id) => Language.Say("join.manyJoin"),
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
                !AsksWords ? Language.Say("join.nameTaken", ("name", Name))
                : words is { Length: > 0 } ? Language.Say("join.wrongWords")
                : Language.Say("join.typeWords", ("name", Name));
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
            Problem = Language.Say("join.wait", ("count", Math.Ceiling(wait.TotalSeconds)));
            return null;
        }
        if (publications.ByCode(Code) is not { } publication)
        {
            guesses.Add(HttpContext, "code");
            Problem = Language.Say("join.noActivity", ("code", Code.Length > 12 ? Code[..12] + "…" : Code));
            return null;
        }
        Activity = publications.Activity(publication.RevisionId);
        IsClosed = publication.ClosedAt is not null;
        return publication;
    }
}
