using System.ComponentModel.DataAnnotations;
using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Who teaches with this server. Administrators let colleagues in, give roles and links for forgotten passwords, and remove.</summary>
public sealed class ColleaguesModel(Teachers teachers, PublicAddress address, PageLanguage words, ILogger<ColleaguesModel> log) : PageModel
{
    public IReadOnlyList<Teacher> Teachers { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? Done { get; private set; }

    /// <summary>A link with which somebody chooses a password; null when none was made.</summary>
    public string? Link { get; private set; }
    public string Name { get; private set; } = "";
    public string Email { get; private set; } = "";

    private string LastOne => words["colleagues.lastOne"];

    public void OnGet() => Teachers = teachers.All();

    public IActionResult OnPost(string? name, string? email)
    {
        if (!User.IsAdministrator())
            return NotFound();
        (Name, Email) = (SoundText.Of(name ?? "").Trim(), email?.Trim() ?? "");
        Problem =
            Name is not { Length: > 0 and <= 100 } ? words["colleagues.noName"]
            : Email is not { Length: > 2 and <= 200 } || !new EmailAddressAttribute().IsValid(Email) ? words["colleagues.noEmail"]
            : null;
        // Nobody can sign in before they have chosen a password by the link.
        var unusable = SignInModel.Hasher.HashPassword(null!, Guid.NewGuid().ToString());
        if (Problem is null && teachers.Add(Email, Name, unusable) is { } added)
        {
            Happenings.TeacherAdded(log, User.TeacherId(), added.Id);
            MakeLink(added, words["colleagues.letIn", ("name", Name)]);
            (Name, Email) = ("", "");
        }
        else
        {
            Problem ??= words["colleagues.hereAlready"];
        }
        OnGet();
        return Page();
    }

    public IActionResult OnPostLink(long id)
    {
        if (!User.IsAdministrator() || teachers.One(id) is not { } teacher)
            return NotFound();
        MakeLink(teacher, words["colleagues.newPassword", ("name", teacher.Name)]);
        OnGet();
        return Page();
    }

    public IActionResult OnPostRole(long id, string? role)
    {
        if (!User.IsAdministrator() || role is not (Teacher.Administrator or Teacher.Plain))
            return NotFound();
        if (teachers.GiveRole(id, role))
            Happenings.RoleGiven(log, User.TeacherId(), id, role);
        else
            Problem = LastOne;
        OnGet();
        return Page();
    }

    /// <param name="heir">Who gets the activities; 0 to delete them.</param>
    public IActionResult OnPostRemove(long id, long heir)
    {
        if (!User.IsAdministrator() || teachers.One(id) is not { } teacher || (heir != 0 && (heir == id || teachers.One(heir) is null)))
            return NotFound();
        if (teachers.Remove(id, heir == 0 ? null : heir))
        {
            Happenings.TeacherRemoved(log, User.TeacherId(), id, heir);
            Done = words["colleagues.gone", ("name", teacher.Name)];
        }
        else
        {
            Problem = LastOne;
        }
        OnGet();
        return Page();
    }

    private void MakeLink(Teacher teacher, string sentence)
    {
        Link = $"{address.Of(Request)}/new-password/{teachers.MakeLink(teacher.Id)}";
        Done = sentence;
        Response.Headers.CacheControl = "no-store";
        Happenings.LinkMade(log, User.TeacherId(), teacher.Id);
    }
}
