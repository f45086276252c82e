using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>All tests share one running Fenster, and run one after the other: a browser wants the machine for itself.</summary>
[CollectionDefinition("demo")]
public sealed class OneDemo : ICollectionFixture<Demo>;
