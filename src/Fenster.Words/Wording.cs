using System.Collections.Immutable;
using System.Globalization;

namespace Fenster.Words;

/// <summary>A piece of a sentence about the rules: words, or a word that a teacher can change.</summary>
public sealed record Wording(string Text, WordChoice? Choice = null)
{
    /// <summary>A word that is one of several.</summary>
    /// <param name="usual">See <see cref="WordChoice"/>.</param>
    internal static Wording Choose(string path, string value, string text, ImmutableArray<WordOption> options, string? usual) =>
        new(text, new(path, value, options, usual));

    /// <summary>A word that is one of several, and reads as the option does.</summary>
    internal static Wording Choose(string path, string value, ImmutableArray<WordOption> options, string? usual) =>
        Choose(path, value, options.First(option => option.Value == value).Text, options, usual);

    /// <summary>A number that is typed.</summary>
    /// <param name="text">What stands there where it is not typed: the number, or a word for none.</param>
    internal static Wording Type(string path, string value, string text, string? usual) => new(text, new(path, value, [], usual));

    /// <summary>A number that is typed, and reads as it is.</summary>
    internal static Wording Type(string path, string value, string? usual) => Type(path, value, value, usual);

    /// <summary>A value as a document has it.</summary>
    public static string Value<T>(T value)
        where T : struct, Enum
    {
        var name = value.ToString();
        return char.ToLowerInvariant(name[0]) + name[1..];
    }

    /// <summary>A number with up to four decimals; empty for none.</summary>
    internal static string Value(decimal? number) => number?.ToString("0.####", CultureInfo.InvariantCulture) ?? "";
}

/// <summary>What a word in a sentence about the rules can be changed to.</summary>
/// <param name="Path">The field of the rules, such as <c>reveal.marks</c>; <c>purpose</c> is the activity's own; of a target its own
/// field, such as <c>points</c>.</param>
/// <param name="Value">As the document has it, shares in per cent; empty for none.</param>
/// <param name="Options">Empty for a number.</param>
/// <param name="Usual">What it is where nothing of its own is said: a pane's word follows its activity, a target's the usual; null when
/// there is nothing to go back to.</param>
public sealed record WordChoice(string Path, string Value, ImmutableArray<WordOption> Options, string? Usual)
{
    /// <summary>Whether it was changed at this level. It is set, not worked out, so that it is written with the rest.</summary>
    public bool IsOwn { get; init; } = Usual is not null && Usual != Value;
}

/// <param name="Value">As the document has it.</param>
public sealed record WordOption(string Value, string Text);
