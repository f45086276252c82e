using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Testing;

/// <summary>Activities for tests. Ids in them are words that no student may ever be sent.</summary>
public static class Samples
{
    public const string PlantedMark = "planted";

    /// <param name="media">Hash of a stored picture; one that is not stored will do where nobody looks at it.</param>
    public static string Document(int zones, string? media = null) => ActivityDocument.Write(new Activity
    {
        Title = "Parts of something",
        Panes =
        [
            new Pane
            {
                Id = $"{PlantedMark}-pane",
                Picture = new(media ?? new string('0', 64), 1000, 700, "Something with parts"),
                Labels = [.. Enumerable.Range(1, zones).Select(i => new Label { Id = $"{PlantedMark}-label-{i}", Text = $"Part {i}" })],
                Targets = [.. Enumerable.Range(1, zones).Select(i => new DropZone
                {
                    Id = $"{PlantedMark}-zone-{i}",
                    Region = new Rectangle(20 + (i - 1) % 5 * 190, 40 + (i - 1) / 5 * 90, 150, 50),
                    Accepts = [new($"{PlantedMark}-label-{i}")],
                })],
            },
        ],
    });
}
