using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Picked options against the right ones.</summary>
public static class Choices
{
    /// <summary>
    /// From 0 to 1. A single choice is right or not; of several, each right pick counts, each wrong one takes that back,
    /// and it never falls below 0: max(0, right picks − wrong picks) ÷ right options.
    /// </summary>
    public static decimal Credit(IReadOnlyCollection<string> picked, ChoiceQuestion question)
    {
        var right = question.Options.Where(option => option.IsRight).Select(option => option.Id).ToHashSet();
        var good = picked.Distinct().Count(right.Contains);
        var bad = picked.Distinct().Count() - good;
        if (!question.Multiple)
            return good == 1 && bad == 0 ? 1 : 0;
        return good - bad == right.Count ? 1 : Math.Max(0, good - bad) / (decimal)right.Count;
    }
}
