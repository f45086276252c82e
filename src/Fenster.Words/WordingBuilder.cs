using System.Collections.Immutable;

namespace Fenster.Words;

/// <summary>Sentences one after the other, in the pieces that a teacher reads and changes.</summary>
internal sealed class WordingBuilder(Language language)
{
    private readonly ImmutableArray<Wording>.Builder words = ImmutableArray.CreateBuilder<Wording>();

    /// <param name="slots">Each is a <see cref="Wording"/> that can be changed, or what a sentence says.</param>
    public void Add(string name, params ReadOnlySpan<(string Slot, object Value)> slots)
    {
        if (words.Count > 0)
            Add(new Wording(" "));
        foreach (var (text, slot) in language.Parts(name, slots))
            Add(slot as Wording ?? new(slot is null ? text : language.Written(slot)));
    }

    /// <summary>What can't be changed stands in one piece.</summary>
    private void Add(Wording word)
    {
        if (word.Choice is null && words.Count > 0 && words[^1] is { Choice: null } before)
            words[^1] = new(before.Text + word.Text);
        else
            words.Add(word);
    }

    public ImmutableArray<Wording> Made() => words.ToImmutable();
}
