using Fenster.Testing;

namespace Fenster.BrowserTests;

// Two collections run side by side, each with a Fenster of its own; the tests of one run one after the other.

/// <summary>The screens: a teacher builds, and every screen is looked at.</summary>
[CollectionDefinition("screens")]
public sealed class Screens : ICollectionFixture<Demo>;

/// <summary>The kinds of targets, and students who work on them.</summary>
[CollectionDefinition("targets")]
public sealed class Targets : ICollectionFixture<Demo>;
