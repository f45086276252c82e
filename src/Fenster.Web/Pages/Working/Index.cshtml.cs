using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>How far something is that takes long, with a way to stop it.</summary>
public sealed class WorkingModel(Jobs jobs) : PageModel
{
    public Job Job { get; private set; } = null!;

    /// <summary>Whether it was stopped before its end.</summary>
    public bool WasStopped => Job.End.IsCanceled;

    /// <summary>Whether a file lies ready; it is fetched by a link, so that the page stays to go back from.</summary>
    public bool HasFile => Job.End is { IsCompletedSuccessfully: true, Result: JobEnd.Gives };

    public IActionResult OnGet(string id)
    {
        if (jobs.Find(User.TeacherId(), id) is not { } job)
            return NotFound();
        Job = job;
        return job.End.IsCompleted && !WasStopped && !HasFile ? Jobs.Ended(job)! : Page();
    }

    public IActionResult OnGetFile(string id) =>
        jobs.Find(User.TeacherId(), id) is { End.IsCompletedSuccessfully: true } job ? Jobs.Ended(job)! : NotFound();

    public IActionResult OnPostStop(string id)
    {
        if (jobs.Find(User.TeacherId(), id) is not { } job)
            return NotFound();
        job.Stop();
        return RedirectToPage(new { id });
    }
}
