using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Fenster.Web.Hosting;

/// <summary>
/// A request for something that a page does not do is none for the page: without this it would be drawn although nothing of it was read.
/// </summary>
internal sealed class OnlyWhatIsThere : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        if (context.HandlerMethod is not null || context.ActionDescriptor.HandlerMethods.Count == 0)
            return next();
        context.Result = new NotFoundResult();
        return Task.CompletedTask;
    }
}
