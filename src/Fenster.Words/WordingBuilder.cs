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
            words.Add(new(" "));
        foreach (var (text, slot) in language.Parts(name, slots))
            words.Add(slot as Wording ?? new(slot is null ? text : language.Written(slot)));
    }

    public ImmutableArray<Wording> Made() => words.ToImmutable();
}
