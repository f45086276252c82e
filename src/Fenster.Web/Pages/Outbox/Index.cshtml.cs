using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MimeKit;

namespace Fenster.Web.Pages;

/// <summary>The letters that stand-in mail keeps, where no mail server is named.</summary>
public sealed class OutboxModel(IPost post) : PageModel
{
    public IReadOnlyList<MimeMessage> Letters { get; private set; } = [];

    public IActionResult OnGet()
    {
        if (post is not Outbox outbox || !User.IsAdministrator())
            return NotFound();
        Letters = outbox.Letters();
        return Page();
    }
}
