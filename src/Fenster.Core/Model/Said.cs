using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>A sentence for a person, by its name and with what fills its slots. Words are made where it is read, in that language.</summary>
/// <param name="Name">As in the languages' files, such as <c>proof.noPicture</c>.</param>
/// <param name="Slots">Texts of people, numbers, or further sentences.</param>
public sealed record Said(string Name, params ImmutableArray<(string Slot, object Value)> Slots)
{
    public bool Equals(Said? other) => other is not null && Name == other.Name && Slots.AsSpan().SequenceEqual(other.Slots.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Name, Slots.Length);

    public override string ToString() => $"{Name}{string.Concat(Slots.Select(slot => $" {slot.Slot}={slot.Value}"))}";
}

/// <summary>Something can't be taken, for a reason that a person is told.</summary>
public abstract class SaidException(Said said) : Exception(said.ToString())
{
    public Said Said { get; } = said;
}
