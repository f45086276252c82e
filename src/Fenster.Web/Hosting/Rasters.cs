using Fenster.Core.Geometry;
using Fenster.Formats.Pictures;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Pictures that are being worked on as pixels, a few at a time. Drawings are kept as vectors, which the teacher's browser draws.
/// </summary>
public sealed class Rasters(Media media)
{
    private const int MostRemembered = 6;

    private readonly Lru<string, Raster> known = new(MostRemembered);

    /// <summary>Null for a drawing that the teacher's browser has not sent as pixels lately.</summary>
    /// <exception cref="PictureRefused">What is stored can't be read.</exception>
    public Raster? Of(long teacher, string hash)
    {
        if (known.TryGet(hash, out var raster) || known.TryGet(DrawnBy(teacher, hash), out raster))
            return raster;
        if (media.Find(hash, PicturePixels.LongestSide) is not { } file || file.Path.EndsWith(".svg", StringComparison.Ordinal))
            return null;
        using var stream = File.OpenRead(file.Path);
        known.Put(hash, raster = PicturePixels.Read(stream));
        return raster;
    }

    /// <summary>Takes a drawing as a teacher's browser draws it; it serves that teacher alone.</summary>
    /// <exception cref="PictureRefused">It is no picture, or has too many pixels.</exception>
    public void Take(long teacher, string hash, Stream drawn) => known.Put(DrawnBy(teacher, hash), PicturePixels.Read(drawn));

    private static string DrawnBy(long teacher, string hash) => $"{teacher} {hash}";
}
