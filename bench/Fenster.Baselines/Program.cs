// What Fenster is measured beside: "razor" is an empty Razor Pages application, "echo" a bare Kestrel endpoint
// that answers with the JSON it was sent, "picture" a page that shows the picture of a file and does nothing.

var builder = WebApplication.CreateBuilder(args);
builder.Logging.ClearProviders();
if (args[0] == "razor")
    builder.Services.AddRazorPages();
var app = builder.Build();
if (args[0] == "razor")
{
    app.MapRazorPages();
}
else if (args[0] == "picture")
{
    var picture = File.ReadAllBytes(args[1]);
    app.MapGet("/", () => Results.Content("<!doctype html><title>A picture</title><img src=picture width=360>", "text/html"));
    app.MapGet("/picture", () => Results.Bytes(picture, "image/jpeg"));
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
