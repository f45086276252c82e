using System.Globalization;
using System.Net;
using System.Text.Encodings.Web;
using System.Text.Unicode;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Demo;
using Fenster.Web.Hosting;
using Fenster.Web.Pages;
using Fenster.Words;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Mvc.Controllers;
using Microsoft.AspNetCore.ResponseCompression;

// Numbers and dates look the same whatever the server's own language.
CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;

if (args is ["backup" or "restore", ..])
    return Copies.Run(args);

var builder = WebApplication.CreateSlimBuilder(
    new WebApplicationOptions
    {
        // Nothing that is set changes while the program runs, so no folder is watched for it.
        Args = [.. args, "--hostBuilder:reloadConfigOnChange=false"],
        // Started from anywhere, the pages' files are found beside the program or in the project it was built from.
        ContentRootPath = ContentRoot.Find(),
    }
);
builder.Logging.ClearProviders().AddSimpleConsole(console => console.SingleLine = true);
builder.Logging.SetMinimumLevel(LogLevel.Error).AddFilter("Fenster", LogLevel.Information);
if (builder.Configuration["port"] is { } port)
    builder.WebHost.UseUrls($"http://127.0.0.1:{port}");

// Certificates are loaded only by who asks for them.
if (builder.Configuration["urls"]?.Contains("https://", StringComparison.OrdinalIgnoreCase) == true)
    builder.WebHost.UseKestrelHttpsConfiguration();
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = 1024 * 1024;
});

// Whatever is going on, the program has ended five seconds after it was asked to.
builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = TimeSpan.FromSeconds(4));

// The database is opened, and the words of the first page are read, while the rest is put together.
var folder = builder.Configuration["data"] ?? "data";
var opening = Task.Run(() => DataFolder.Open(folder));
_ = opening.ContinueWith(_ => Language.English, TaskScheduler.Default);
var services = builder.Services;
services.AddSingleton(TimeProvider.System);
services.AddSingleton<Teachers>();
services.AddSingleton<Sessions>();
services.AddSingleton<Drafts>();
services.AddSingleton<Revisions>();
services.AddSingleton<Assignments>();
services.AddSingleton<Classes>();
services.AddSingleton<Students>();
services.AddSingleton<Standings>();
services.AddSingleton<Records>();
services.AddSingleton<News>();
services.AddSingleton<Releases>();
services.AddSingleton<Works>();
services.AddSingleton<Regrades>();
services.AddSingleton<WorksLately>();
services.AddSingleton<OwnAssignments>();
services.AddSingleton<RecordFile>();
services.AddSingleton<Codes>();
services.AddSingleton(provider => new Attempts(
    provider.GetRequiredService<Database>(),
    provider.GetRequiredService<Revisions>(),
    provider.GetRequiredService<TimeProvider>()
));
services.AddSingleton<Media>();
services.AddSingleton<OwnFiles>();
services.AddSingleton<Galleries>();
services.AddSingleton<OwnUploads>();
services.AddSingleton<FeedReaders>();
services.AddSingleton<LongWork>();
services.AddSingleton<Jobs>();
services.AddSingleton<Shelf>();
services.AddSingleton(provider => new Deletions(
    provider.GetRequiredService<Database>(),
    provider.GetRequiredService<TimeProvider>(),
    int.TryParse(builder.Configuration["keep-months"], out var months) && months > 0 ? months : null
));
services.AddSingleton<Guesses>();
services.AddSingleton<Joins>();
services.AddSingleton<WordTurns>();
services.AddSingleton<FirstWords>();
services.AddSingleton<Invitations>();
services.AddSingleton<Assets>();
services.AddSingleton<MediaUpload>();
services.AddSingleton<Rasters>();
services.AddSingleton<IPictureSearch, ShippedLibrary>();
services.AddSingleton(new PublicAddress(builder.Configuration["address"]));
services.AddSingleton<SameSite>();
services.AddSingleton<StudentDesk>();
services.AddSingleton<StudentFiles>();
services.AddSingleton<Starters>();

// Letters go where the operator says; the demo keeps them in a folder and shows them.
var mail = MailSettings.Of(builder.Configuration);
services.AddSingleton<IPost>(provider =>
    mail is not null ? new SmtpPost(mail)
    : builder.Configuration["demo"] is not null ? new Outbox(Path.Combine(folder, "outbox"), provider.GetRequiredService<TimeProvider>())
    : new NoPost()
);

// Letters of all scripts stand in pages as they are.
services.AddSingleton(HtmlEncoder.Create(UnicodeRanges.All));
services.AddHttpContextAccessor();
services.AddScoped<PageLanguage>();
services.AddSingleton<Proofs>();
services.AddSingleton<Bundles>();
services.AddHostedService<Sweeper>();
services.AddHostedService<Clockwork>();
if (builder.Configuration["lively"] is not null)
    services.AddHostedService<LivelyClass>();
services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(folder, "keys"))).SetApplicationName("Fenster");
services
    .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
    .AddCookie(cookie =>
    {
        cookie.Cookie.Name = "fenster-teacher";
        cookie.Cookie.SameSite = SameSiteMode.Lax;
        cookie.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        cookie.LoginPath = "/sign-in";
        cookie.AccessDeniedPath = "/problem/404";
        cookie.ReturnUrlParameter = "then";
        cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
        cookie.Events.OnRedirectToLogin = SignedOut.Answer;
        cookie.Events.OnValidatePrincipal = Person.Validate;
    });
services.AddAuthorization();
services.AddAntiforgery(antiforgery =>
{
    antiforgery.Cookie.Name = "fenster-form";
    antiforgery.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
    antiforgery.HeaderName = "X-Form-Token";
});
services
    .AddRazorPages(pages =>
    {
        // A page is for teachers who are signed in, unless it is named here.
        pages.Conventions.AuthorizeFolder("/");
        foreach (var folder in (string[])["/FirstRun", "/Home", "/Join", "/NewPassword", "/Problem", "/SignIn", "/Student"])
            pages.Conventions.AllowAnonymousToFolder(folder);
    })
    .AddMvcOptions(mvc => mvc.Filters.Add<OnlyWhatIsThere>())
    .AddJsonOptions(json => json.JsonSerializerOptions.Converters.Add(new SoundTextJson()))
    // There are no controllers, and looking for them loads every type.
    .ConfigureApplicationPartManager(parts =>
    {
        foreach (var provider in parts.FeatureProviders.OfType<ControllerFeatureProvider>().ToList())
            parts.FeatureProviders.Remove(provider);
    });
services.AddResponseCompression(compression =>
{
    compression.Providers.Add<BrotliCompressionProvider>();
    compression.Providers.Add<GzipCompressionProvider>();
    compression.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "image/svg+xml"];
});
services.AddHealthChecks().AddCheck<CanWrite>("writing");

// Where a request came from is believed of a proxy that the operator named, and of nobody else.
if (builder.Configuration["proxy"] is { } proxies)
    services.Configure<ForwardedHeadersOptions>(forwarded =>
    {
        forwarded.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
        forwarded.KnownProxies.Clear();
        forwarded.KnownIPNetworks.Clear();
        foreach (var proxy in proxies.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
            forwarded.KnownProxies.Add(IPAddress.Parse(proxy));
    });

services.AddSingleton(_ => opening.Result ?? throw new InvalidOperationException("The data folder is not open."));
var app = builder.Build();
if (await opening is null)
    return 1;
var headStart = Task.Run(() => HeadStart.Take(app.Services));
if (builder.Configuration["proxy"] is not null)
    app.UseForwardedHeaders();
app.UseMiddleware<SecurityHeaders>();
app.UseStatusCodePagesWithReExecute("/problem/{0}");
app.UseExceptionHandler(Problems.Options);
app.Use(
    (context, next) =>
    {
        SoundInput.Use(context);
        return next(context);
    }
);
app.UseResponseCompression();
app.Use(Assets.Serve);
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
await headStart;
await app.RunAsync();
return 0;

/// <summary>The entry point, named for the tests.</summary>
public partial class Program;
