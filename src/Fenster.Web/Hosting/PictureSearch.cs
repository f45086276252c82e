using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Web.Hosting;

/// <summary>A picture that a search found.</summary>
/// <param name="Id">What <see cref="IPictureSearch.Fetch"/> knows it by.</param>
/// <param name="AltText">What it shows, without naming its parts.</param>
public sealed record FoundPicture(string Id, string Title, string AltText, string Author, string Licence)
{
    public string Credit => $"{Title} by {Author}, {Licence}";
}

/// <summary>Where pictures can be looked for by words.</summary>
public interface IPictureSearch
{
    /// <summary>Pictures that all of the words fit, by title; all of them for no words.</summary>
    IReadOnlyList<FoundPicture> Find(string words);

    /// <summary>A picture that was found, and its bytes; null when there is none of this id.</summary>
    (FoundPicture Picture, byte[] Bytes)? Fetch(string id);
}

/// <summary>The drawings that ship with the program, in the place of a picture search on the network.</summary>
public sealed class ShippedLibrary : IPictureSearch
{
    private sealed record Entry(string File, string Title, string Words, string AltText, string Author, string Licence);

    private readonly string folder;
    private readonly Lazy<(FoundPicture Picture, string Words)[]> pictures;

    public ShippedLibrary(IWebHostEnvironment environment)
    {
        folder = Path.Combine(environment.WebRootPath, "library");
        pictures = new(() =>
            [
                .. JsonSerializer
                    .Deserialize<Entry[]>(File.ReadAllText(Path.Combine(folder, "library.json")), JsonSerializerOptions.Web)!
                    .OrderBy(entry => entry.Title, StringComparer.OrdinalIgnoreCase)
                    .Select(entry =>
                        (
                            new FoundPicture(entry.File, entry.Title, entry.AltText, entry.Author, entry.Licence),
                            $" {Fold(entry.Title)} {Fold(entry.Words)}"
                        )
                    ),
            ]
        );
    }

    public IReadOnlyList<FoundPicture> Find(string words)
    {
        var wanted = Fold(words).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return
        [
            .. pictures.Value.Where(picture => wanted.All(word => picture.Words.Contains($" {word}"))).Select(picture => picture.Picture),
        ];
    }

    public (FoundPicture Picture, byte[] Bytes)? Fetch(string id) =>
        pictures.Value.Select(picture => picture.Picture).FirstOrDefault(picture => picture.Id == id) is { } found
            ? (found, File.ReadAllBytes(Path.Combine(folder, found.Id)))
            : null;

    private static string Fold(string text) => Spellings.Fold(text, new SpellingRules(IgnoreAccents: true, IgnorePunctuation: true));
}
