using Fenster.Words;

namespace Fenster.Web.Pages;

/// <param name="AreRules">Whether they are of the rules, which follow the activity where nothing of their own is said.</param>
public sealed record TermsShown(IReadOnlyList<Wording> Words, bool AreRules);
