using Fenster.Store;
using Fenster.Testing;
using Fenster.Web.Pages;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;

namespace Fenster.Web.Tests;

/// <summary>Fenster in this process, over real HTTP, with a clock that the test moves.</summary>
public sealed class FensterWithClock : WebApplicationFactory<Program>
{
    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }

    private readonly MovedClock clock;
    private readonly string folder;
    private readonly bool isBeside;

    /// <param name="beside">Another server, with which this one shares the data folder and the clock; null for its own.</param>
    public FensterWithClock(FensterWithClock? beside = null)
    {
        (clock, folder) = beside is null ? (new(), Directory.CreateTempSubdirectory("fenster-").FullName) : (beside.clock, beside.folder);
        isBeside = beside is not null;
        UseKestrel(0);
        StartServer();
        if (isBeside)
            return;
        Services
            .GetRequiredService<Teachers>()
            .AddFirst(RunningFenster.DemoEmail, "Robin", SignInModel.Hasher.HashPassword(null!, RunningFenster.DemoPassword));
    }

    public Uri Address => ClientOptions.BaseAddress;
    public DateTimeOffset Now => clock.GetUtcNow();
    public string Folder => folder;

    public void Move(TimeSpan ahead) => clock.Ahead += ahead;

    public T Get<T>()
        where T : notnull => Services.GetRequiredService<T>();

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseWebRoot(Path.Combine(RunningFenster.Repository, "src", "Fenster.Web", "wwwroot"));
        builder.UseSetting("data", folder);
        builder.ConfigureServices(services => services.AddSingleton<TimeProvider>(clock));
    }

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        if (!isBeside && Directory.Exists(folder))
            Directory.Delete(folder, recursive: true);
    }
}
