using Fenster.Store;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>Who teaches with this server.</summary>
public sealed class ColleaguesModel(Teachers teachers) : PageModel
{
    private const int ShortestPassword = 8;

    public IReadOnlyList<Teacher> Teachers { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? Done { get; private set; }
    public string Name { get; private set; } = "";
    public string Email { get; private set; } = "";

    public void OnGet() => Teachers = teachers.All();

    public void OnPost(string? name, string? email, string? password)
    {
        (Name, Email) = (name?.Trim() ?? "", email?.Trim() ?? "");
        Problem =
            Name is not { Length: > 0 and <= 100 } ? "Type the colleague's name."
            : Email is not { Length: > 2 and <= 200 } || !Email.Contains('@') ? "Type the colleague's e-mail address."
            : (password?.Length ?? 0) < ShortestPassword ? $"The first password needs at least {ShortestPassword} characters."
            : teachers.ByEmail(Email) is not null ? "Somebody with that address is here already."
            : null;
        if (Problem is null)
        {
            teachers.Add(Email, Name, SignInModel.Hasher.HashPassword(null!, password!));
            Done = $"{Name} can sign in now with {Email} and that password.";
            (Name, Email) = ("", "");
        }
        OnGet();
    }
}
