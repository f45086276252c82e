using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Testing;

/// <summary>Activities for tests. Ids in them are words that no student may ever be sent.</summary>
public static class Samples
{
    public const string PlantedMark = "planted";

    /// <summary>Practice: two checks, wrong labels go back, right ones are held fast.</summary>
    public static Rules Practice { get; } =
        new()
        {
            Check = new(2, WrongLabels.GoBack, RightLabels.HeldFast),
            Reveal = new()
            {
                Marks = Moment.Checked,
                Feedback = Moment.Checked,
                Key = Moment.HandedIn,
                Explanation = Moment.HandedIn,
            },
        };

    /// <summary>A test after which everything shows.</summary>
    public static readonly Rules Test = new()
    {
        Reveal = new() { Key = Moment.HandedIn, Explanation = Moment.HandedIn },
    };

    /// <summary>Ids of the document's things.</summary>
    public const string Pane = $"{PlantedMark}-pane";

    public static string Label(int number) => $"{PlantedMark}-label-{number}";

    public static string Zone(int number) => $"{PlantedMark}-zone-{number}";

    /// <param name="media">Hash of a stored picture; one that is not stored will do where nobody looks at it.</param>
    /// <param name="rules">Null for those of a test after which everything shows.</param>
    public static string Document(int zones, string? media = null, Rules? rules = null) =>
        ActivityDocument.Write(
            new Activity
            {
                Title = "Parts of something",
                Rules = rules ?? Test,
                Panes =
                [
                    new Pane
                    {
                        Id = Pane,
                        Picture = new(media ?? new string('0', 64), 1000, 700, "Something with parts"),
                        Labels = [.. Enumerable.Range(1, zones).Select(i => new Label { Id = Label(i), Text = $"Part {i}" })],
                        Targets =
                        [
                            .. Enumerable
                                .Range(1, zones)
                                .Select(i => new DropZone
                                {
                                    Id = Zone(i),
                                    Region = new Rectangle(20 + (i - 1) % 5 * 190, 40 + (i - 1) / 5 * 90, 150, 50),
                                    Accepts = [new(Label(i))],
                                    Feedback = new($"{PlantedMark}: yes, part {i}.", $"{PlantedMark}: no, look again."),
                                    Explanation = $"{PlantedMark}: because it is part {i}.",
                                }),
                        ],
                    },
                ],
            }
        );
}
