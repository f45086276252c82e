using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>How students' screens show an activity. Nothing of it changes a score.</summary>
public sealed record Screen
{
    public static Screen Usual { get; } = new();

    /// <summary>Whether work begins with one place after the other; students can always change.</summary>
    public bool BeginsSingly { get; init; }

    /// <summary>Whether what is found right sounds and moves, and all of it is cheered.</summary>
    public bool Cheers { get; init; }

    /// <summary>What students may use beside the picture.</summary>
    public ImmutableArray<Aid> Aids { get; init; } = [];

    /// <summary>What comes of handing in while something is open.</summary>
    public Leaving Leaving { get; init; } = Leaving.AskedOnce;
}

public enum Aid
{
    Calculator,
    Ruler,
    Magnifier,
}

public enum Leaving
{
    /// <summary>What is open is named, and may stay so.</summary>
    AskedOnce,

    /// <summary>It has to be confirmed once more.</summary>
    AskedTwice,

    /// <summary>Nothing that counts may be left open. When the time is over, what is there is handed in all the same.</summary>
    NotPossible,
}
