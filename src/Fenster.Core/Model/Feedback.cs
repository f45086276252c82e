namespace Fenster.Core.Model;

/// <summary>What a student is told of a target when feedback may be seen; empty for nothing.</summary>
/// <param name="Right">When it is earned in full.</param>
/// <param name="Wrong">When something that earned less was put there.</param>
public sealed record Feedback(string Right = "", string Wrong = "")
{
    public const int LongestText = 2000;

    public static readonly Feedback None = new();

    internal IEnumerable<string> Faults =>
        Right.Length > LongestText || Wrong.Length > LongestText ? [$"has a feedback of more than {LongestText} characters"] : [];
}

/// <summary>What a student is told whose score is in a band.</summary>
/// <param name="From">The share of the possible score from which the band begins, from 0 to 1; it ends where the next begins.</param>
public sealed record ScoreBand(decimal From, string Text);
