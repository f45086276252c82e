// What Fenster is measured beside: "razor" is an empty Razor Pages application, "echo" a bare Kestrel endpoint
// that answers with the JSON it was sent.

var builder = WebApplication.CreateBuilder(args);
builder.Logging.ClearProviders();
if (args[0] == "razor")
    builder.Services.AddRazorPages();
var app = builder.Build();
if (args[0] == "razor")
{
    app.MapRazorPages();
}
else
{
    app.Run(async context =>
    {
        context.Response.ContentType = "application/json";
        await context.Request.Body.CopyToAsync(context.Response.Body);
    });
}
app.Lifetime.ApplicationStarted.Register(() => Console.WriteLine($"ready {app.Urls.First()}"));
app.Run();
