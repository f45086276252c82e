namespace Fenster.Core.Model;

/// <summary>A word of the rules that is named, or not: what is not named follows the rules around it.</summary>
/// <param name="IsNamed">False for the default value.</param>
public readonly record struct Word<T>(bool IsNamed, T Value)
{
    public static implicit operator Word<T>(T value) => new(true, value);

    public T Or(T other) => IsNamed ? Value : other;

    public Word<T> Or(Word<T> other) => IsNamed ? this : other;
}

/// <summary>
/// Words that replace those of other rules: a pane's own replace the activity's, an assignment's replace both. Whole
/// <see cref="Rules"/> name every word.
/// </summary>
public sealed record RuleWords
{
    /// <summary>No word is named.</summary>
    public static RuleWords None { get; } = new();

    public Word<int?> Checks { get; init; }
    public Word<WrongLabels> Wrong { get; init; }
    public Word<RightLabels> Right { get; init; }
    public Word<Moment> Marks { get; init; }
    public Word<Moment> ScoreShows { get; init; }
    public Word<Moment> Feedback { get; init; }
    public Word<Moment> Key { get; init; }
    public Word<Moment> Explanation { get; init; }
    public Word<ScoreManner> Manner { get; init; }
    public Word<decimal> WrongCost { get; init; }
    public Word<decimal> TryCost { get; init; }
    public Word<decimal?> MaximumGrade { get; init; }
    public Word<decimal?> PassMark { get; init; }

    public static implicit operator RuleWords(Rules rules) =>
        new()
        {
            Checks = rules.Check.Checks,
            Wrong = rules.Check.Wrong,
            Right = rules.Check.Right,
            Marks = rules.Reveal.Marks,
            ScoreShows = rules.Reveal.Score,
            Feedback = rules.Reveal.Feedback,
            Key = rules.Reveal.Key,
            Explanation = rules.Reveal.Explanation,
            Manner = rules.Score.Manner,
            WrongCost = rules.Score.WrongCost,
            TryCost = rules.Score.TryCost,
            MaximumGrade = rules.Score.MaximumGrade,
            PassMark = rules.Score.PassMark,
        };

    /// <summary>The words of others with these in the place of theirs.</summary>
    public RuleWords Over(RuleWords others) =>
        new()
        {
            Checks = Checks.Or(others.Checks),
            Wrong = Wrong.Or(others.Wrong),
            Right = Right.Or(others.Right),
            Marks = Marks.Or(others.Marks),
            ScoreShows = ScoreShows.Or(others.ScoreShows),
            Feedback = Feedback.Or(others.Feedback),
            Key = Key.Or(others.Key),
            Explanation = Explanation.Or(others.Explanation),
            Manner = Manner.Or(others.Manner),
            WrongCost = WrongCost.Or(others.WrongCost),
            TryCost = TryCost.Or(others.TryCost),
            MaximumGrade = MaximumGrade.Or(others.MaximumGrade),
            PassMark = PassMark.Or(others.PassMark),
        };

    /// <summary>The rules with these words in the place of theirs.</summary>
    public Rules Over(Rules rules) =>
        new()
        {
            Check = new(Checks.Or(rules.Check.Checks), Wrong.Or(rules.Check.Wrong), Right.Or(rules.Check.Right)),
            Reveal = new()
            {
                Marks = Marks.Or(rules.Reveal.Marks),
                Score = ScoreShows.Or(rules.Reveal.Score),
                Feedback = Feedback.Or(rules.Reveal.Feedback),
                Key = Key.Or(rules.Reveal.Key),
                Explanation = Explanation.Or(rules.Reveal.Explanation),
            },
            Score = new()
            {
                Manner = Manner.Or(rules.Score.Manner),
                WrongCost = WrongCost.Or(rules.Score.WrongCost),
                TryCost = TryCost.Or(rules.Score.TryCost),
                MaximumGrade = MaximumGrade.Or(rules.Score.MaximumGrade),
                PassMark = PassMark.Or(rules.Score.PassMark),
            },
        };
}
