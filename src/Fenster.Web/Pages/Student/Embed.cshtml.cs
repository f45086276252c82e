using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What a page of another site frames: it shows the activity where that is allowed, and else says where it may be seen.</summary>
public sealed class EmbedModel(Codes codes, Revisions revisions, PublicAddress address) : PageModel
{
    public string Code { get; private set; } = "";
    public string Title { get; private set; } = "";
    public string Says { get; private set; } = "";
    public bool IsFramable { get; private set; }
    public Language Language { get; private set; } = Language.English;
    public string Link => $"{address.Of(Request)}/do/{Code}";

    public IActionResult OnGet(string code)
    {
        Response.Headers.ContentSecurityPolicy = SecurityHeaders.PolicyFramedByAll;
        Response.Headers["Cross-Origin-Opener-Policy"] = "unsafe-none";
        Response.Headers.CacheControl = "no-store";
        Language = Languages.OfBrowser(Request);
        (Code, Title) = (JoinCode.Tidy(code), Language.Say("join.title"));
        if (codes.Find(HttpContext, Code, Language, out var problem) is not { } assignment)
        {
            Says = problem;
            return Page();
        }
        Language = Language.In(revisions.Activity(assignment.RevisionId).Language);
        IsFramable = !assignment.Terms.Sites.IsEmpty;
        Says = IsFramable
            ? Language.Say(
                "join.seenIn",
                ("sites", Language.ListedWithAnd([.. assignment.Terms.Sites.Select(site => new Uri(site).Authority)]))
            )
            : Language.Say("join.seenAlone");
        return Page();
    }
}
