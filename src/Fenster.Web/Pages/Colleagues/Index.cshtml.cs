using System.ComponentModel.DataAnnotations;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Who teaches with this server. Administrators let colleagues in, give roles and links for forgotten passwords, and remove.</summary>
public sealed class ColleaguesModel(Teachers teachers, PublicAddress address, ILogger<ColleaguesModel> log) : PageModel
{
    public IReadOnlyList<Teacher> Teachers { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? Done { get; private set; }

    /// <summary>A link with which somebody chooses a password; null when none was made.</summary>
    public string? Link { get; private set; }
    public string Name { get; private set; } = "";
    public string Email { get; private set; } = "";

    private const string LastOne = "Somebody has to be administrator. Make somebody else one first.";

    public void OnGet() => Teachers = teachers.All();

    public IActionResult OnPost(string? name, string? email)
    {
        if (!User.IsAdministrator())
            return NotFound();
        (Name, Email) = (name?.Trim() ?? "", email?.Trim() ?? "");
        Problem =
            Name is not { Length: > 0 and <= 100 } ? "Type the colleague's name."
            : Email is not { Length: > 2 and <= 200 } || !new EmailAddressAttribute().IsValid(Email)
                ? "Type the colleague's e-mail address."
            : null;
        // Nobody can sign in before they have chosen a password by the link.
        var unusable = SignInModel.Hasher.HashPassword(null!, Guid.NewGuid().ToString());
        if (Problem is null && teachers.Add(Email, Name, unusable) is { } added)
        {
            Happenings.TeacherAdded(log, User.TeacherId(), added.Id);
            MakeLink(added, $"{Name} is let in. Give them this link, with which they choose a password:");
            (Name, Email) = ("", "");
        }
        else
        {
            Problem ??= "Somebody with that address is here already.";
        }
        OnGet();
        return Page();
    }

    public IActionResult OnPostLink(long id)
    {
        if (!User.IsAdministrator() || teachers.One(id) is not { } teacher)
            return NotFound();
        MakeLink(teacher, $"With this link {teacher.Name} chooses a new password:");
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
            Done = $"{teacher.Name} teaches here no more.";
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
