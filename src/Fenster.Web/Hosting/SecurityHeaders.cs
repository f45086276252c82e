namespace Fenster.Web.Hosting;

/// <summary>What browsers are told to forbid, on every response; and the methods that no page uses.</summary>
internal sealed class SecurityHeaders(RequestDelegate next)
{
    private const string Rest =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; media-src 'self' blob:; "
        + "connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; ";

    private const string Policy = Rest + "frame-ancestors 'none'";

    /// <summary>Of a page that Fenster itself shows inside another of its pages.</summary>
    public const string PolicyOfFramed = Rest + "frame-ancestors 'self'";

    /// <summary>Of a page that these sites may frame, and Fenster itself.</summary>
    public static string PolicyFramedBy(IEnumerable<string> sites) => $"{PolicyOfFramed} {string.Join(' ', sites)}";

    /// <summary>Of a page that anybody may frame.</summary>
    public const string PolicyFramedByAll = Rest + "frame-ancestors *";

    /// <summary>Of the script that reads pictures apart from the page: it runs WebAssembly, and asks nobody but Fenster.</summary>
    public const string PolicyOfReader = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'";

    public Task InvokeAsync(HttpContext context)
    {
        context.Response.OnStarting(Set, context);
        // No page asks in another way, and none would know an answer.
        if (
            HttpMethods.IsGet(context.Request.Method)
            || HttpMethods.IsHead(context.Request.Method)
            || HttpMethods.IsPost(context.Request.Method)
        )
            return next(context);
        context.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
        context.Response.Headers.Allow = "GET, HEAD, POST";
        return Task.CompletedTask;
    }

    // When the response starts, since an error page is written to headers that were cleared before.
    private static Task Set(object state)
    {
        var context = (HttpContext)state;
        var headers = context.Response.Headers;
        if (context.Request.IsHttps)
            headers.StrictTransportSecurity = "max-age=31536000";
        if (headers.ContentSecurityPolicy.Count == 0)
            headers.ContentSecurityPolicy = Policy;
        // What is saved as a file is of people, and stays in no cache.
        if (headers.ContentDisposition.Count > 0 && headers.CacheControl.Count == 0)
            headers.CacheControl = "no-store";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Permissions-Policy"] = "camera=(), geolocation=(), microphone=(self)";
        headers.TryAdd("Cross-Origin-Opener-Policy", "same-origin");
        return Task.CompletedTask;
    }
}
