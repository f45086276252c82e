using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>One running Fenster for all tests that don't need one of their own.</summary>
public sealed class Server : IDisposable
{
    public RunningFenster Fenster { get; } = new();

    public Visitor Visitor(bool followRedirects = true) => new(Fenster.Address, followRedirects);

    public Uri Address => Fenster.Address;

    public Task<Visitor> Teacher() => Visitor().SignIn();

    public void Dispose() => Fenster.Dispose();
}

[CollectionDefinition(nameof(Server))]
public sealed class ServerCollection : ICollectionFixture<Server>;
