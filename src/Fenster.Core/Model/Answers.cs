using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>What a student may type.</summary>
public abstract record TypedAnswer
{
    private protected TypedAnswer() { }

    internal abstract IEnumerable<string> Faults { get; }

    /// <summary>What a text earns, from 0 to 1.</summary>
    internal abstract decimal CreditOf(string typed);

    /// <summary>What texts have in common that come to the same answer.</summary>
    internal abstract string Alike(string typed);
}

/// <summary>Words, in any of several accepted spellings.</summary>
[KindName("text")]
public sealed record TypedText(ImmutableArray<Spelling> Spellings) : TypedAnswer
{
    public const int LongestText = 1000;

    public SpellingRules Rules { get; init; } = new();

    /// <summary>The first of the spellings that earn most.</summary>
    internal string Best => Spellings.MaxBy(spelling => spelling.Credit)!.Text;

    internal override decimal CreditOf(string typed) => Checking.Spellings.Credit(typed, this);

    internal override string Alike(string typed) => Checking.Spellings.Fold(typed, Rules);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Spellings.IsDefaultOrEmpty || Spellings.Any(s => string.IsNullOrWhiteSpace(s.Text)))
                yield return "has no accepted answer";
            else if (Spellings.Any(s => Alike(s.Text) == ""))
                yield return "has an accepted answer of which nothing is left where punctuation is ignored";
            else if (Spellings.Any(s => s.Text.Length > LongestText))
                yield return $"has an accepted answer of more than {LongestText} characters";
            else if (Spellings.Any(s => s.Credit is <= 0 or > 1))
                yield return "gives a credit that is not above 0 and at most 1";
            else if (Spellings.Select(s => Limits.Fault(s.Credit)).FirstOrDefault(fault => fault is not null) is { } credit)
                yield return $"gives a credit that {credit}";
        }
    }
}

/// <param name="Credit">More than 0, at most 1.</param>
public sealed record Spelling(string Text, decimal Credit = 1);

/// <summary>What makes no difference between an accepted spelling and what was typed.</summary>
/// <param name="IgnoreCapitals">Full case folding.</param>
/// <param name="IgnorePunctuation">Hyphens and apostrophes too.</param>
/// <param name="ForgiveSlips">At most one for each eight characters begun; none in three characters or fewer.</param>
public sealed record SpellingRules(
    bool IgnoreCapitals = true,
    bool IgnoreAccents = false,
    bool IgnorePunctuation = false,
    bool ForgiveSlips = false
);

/// <summary>A number, with a tolerance and units.</summary>
/// <param name="Value">In the first unit.</param>
[KindName("number")]
public sealed record TypedNumber(ExactNumber Value) : TypedAnswer
{
    /// <summary>In the first unit, 0 or more.</summary>
    public ExactNumber Within { get; init; } = ExactNumber.Zero;

    /// <summary>As a share of the answer's size, 0 or more.</summary>
    public ExactNumber WithinShare { get; init; } = ExactNumber.Zero;

    /// <summary>Units that may stand behind the number; a number alone is in the first. Empty when no unit may.</summary>
    public ImmutableArray<MeasureUnit> Units { get; init; } = [];

    /// <summary>Whether units read the same whatever their capitals: mW is MW then.</summary>
    public bool IgnoreUnitCapitals { get; init; }

    internal override decimal CreditOf(string typed) => Checking.Numbers.IsRight(typed, this) ? 1 : 0;

    internal override string Alike(string typed) =>
        Checking.Numbers.Readings(typed, Units, IgnoreUnitCapitals).ToList() is { Count: > 0 } readings
            ? string.Join(' ', readings)
            : Checking.Spellings.Fold(typed, new());

    internal override IEnumerable<string> Faults
    {
        get
        {
            foreach (
                var fault in ((ExactNumber[])[Value, Within, WithinShare, .. Units.Select(unit => unit.Factor)])
                    .Select(number => number.Fault)
                    .OfType<string>()
            )
                yield return fault;
            if (Within.IsNegative || WithinShare.IsNegative)
                yield return "has a tolerance below zero";
            if (Units.Any(unit => string.IsNullOrWhiteSpace(unit.Name) || unit.Factor.IsNegative || unit.Factor == ExactNumber.Zero))
                yield return "has a unit without a name or a factor above zero";
        }
    }
}

/// <param name="Factor">How many of the first unit one of this unit is.</param>
public sealed record MeasureUnit(string Name, ExactNumber Factor);

/// <summary>What a question point asks.</summary>
public abstract record Question
{
    private protected Question() { }

    public required string Text { get; init; }

    internal abstract IEnumerable<string> Faults { get; }
}

/// <summary>A choice among options; true or false is a choice of two.</summary>
[KindName("choice")]
public sealed record ChoiceQuestion : Question
{
    public required ImmutableArray<Option> Options { get; init; }

    /// <summary>Whether several options may be picked.</summary>
    public bool Multiple { get; init; }

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Options.Length < 2)
                yield return "has fewer than two options";
            if (Options.DistinctBy(option => option.Id).Count() < Options.Length)
                yield return "has two options of the same id";
            var right = Options.Count(option => option.IsRight);
            if (right == 0 || (!Multiple && right > 1))
                yield return $"is a choice with {right} right options";
        }
    }
}

/// <param name="Feedback">What a student is told who picked it and shouldn't have; empty for nothing.</param>
public sealed record Option(string Id, string Text, bool IsRight = false, string Feedback = "");

/// <summary>A short answer or a number, typed.</summary>
[KindName("typed")]
public sealed record TypedQuestion : Question
{
    public required TypedAnswer Answer { get; init; }

    internal override IEnumerable<string> Faults => Answer.Faults;
}
