using System.Globalization;
using Fenster.Store;
using Fenster.Web.Demo;
using Fenster.Web.Hosting;
using Fenster.Web.Pages;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.ResponseCompression;

// Numbers and dates look the same whatever the server's own language.
CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;

var builder = WebApplication.CreateBuilder(
    new WebApplicationOptions
    {
        Args = args,
        // Started from anywhere, the pages' files are found beside the program or in the project it was built from.
        ContentRootPath = ContentRoot.Find(),
    }
);
builder.Logging.ClearProviders().SetMinimumLevel(LogLevel.Error).AddSimpleConsole(console => console.SingleLine = true);
if (builder.Configuration["port"] is { } port)
    builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = 1024 * 1024;
});

var database = new Database(builder.Configuration["data"] ?? "data");
var services = builder.Services;
services.AddSingleton(TimeProvider.System);
services.AddSingleton(database);
services.AddSingleton<Teachers>();
services.AddSingleton<Drafts>();
services.AddSingleton<Publications>();
services.AddSingleton(provider => new Attempts(
    provider.GetRequiredService<Database>(),
    provider.GetRequiredService<Publications>(),
    provider.GetRequiredService<TimeProvider>()
));
services.AddSingleton(new PublicAddress(builder.Configuration["address"]));
services.AddSingleton<SameSite>();
services.AddSingleton<Media>();
services.AddSingleton<Shelf>();
services.AddSingleton<WrongGuesses>();
services.AddSingleton<Assets>();
services.AddSingleton<MediaUpload>();
services.AddSingleton<IPictureSearch, ShippedLibrary>();
services.AddSingleton<Students>();
services.AddSingleton<Starters>();
services.AddSingleton<Bundles>();
services
    .AddDataProtection()
    .PersistKeysToFileSystem(Directory.CreateDirectory(Path.Combine(database.Folder, "keys")))
    .SetApplicationName("Fenster");
services
    .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
    .AddCookie(cookie =>
    {
        cookie.Cookie.Name = "fenster-teacher";
        cookie.Cookie.SameSite = SameSiteMode.Lax;
        cookie.LoginPath = "/sign-in";
        cookie.ReturnUrlParameter = "then";
        cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
        cookie.Events.OnRedirectToLogin = SignedOut.Answer;
    });
services.AddAuthorization();
services.AddAntiforgery(antiforgery =>
{
    antiforgery.Cookie.Name = "fenster-form";
    antiforgery.HeaderName = "X-Form-Token";
});
services.AddRazorPages(pages =>
{
    foreach (
        var folder in (string[])["/Activities", "/Workbench", "/PictureRoom", "/Trial", "/Share", "/Results", "/History", "/Colleagues"]
    )
        pages.Conventions.AuthorizeFolder(folder);
});
services.AddResponseCompression(compression =>
{
    compression.Providers.Add<BrotliCompressionProvider>();
    compression.Providers.Add<GzipCompressionProvider>();
    compression.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "image/svg+xml"];
});
services.AddHealthChecks();

var app = builder.Build();
app.UseMiddleware<SecurityHeaders>();
app.UseStatusCodePagesWithReExecute("/problem/{0}");
app.UseExceptionHandler(Problems.Handle);
app.UseResponseCompression();
app.Services.GetRequiredService<Assets>().Serve(app);
app.UseRouting();
app.UseAuthentication();
app.UseAuthorization();
app.MapHealthChecks("/healthz");
app.MapRazorPages();
app.MapMedia();
app.MapStudent();

if (builder.Configuration["demo"] is { } demo)
    SailingSchool.Load(app.Services, demo);
app.Lifetime.ApplicationStarted.Register(() => Greeting.Print(app, builder.Configuration["demo"] is not null));
await app.RunAsync();

/// <summary>The entry point, named for the tests.</summary>
public partial class Program;
