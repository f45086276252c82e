using System.Globalization;

namespace Fenster.Store;

/// <summary>The order of names in a language.</summary>
public static class NameOrder
{
    /// <param name="language">A BCP 47 tag; one that the platform does not know is taken as English.</param>
    public static IComparer<string> Of(string language) => Comparer<string>.Create(InfoOf(language).Compare);

    /// <summary>Bytes whose order is that of names in a language, as long as the platform sorts by the same version.</summary>
    /// <param name="language">Null where names are of no one language.</param>
    public static byte[] KeyOf(string name, string? language) =>
        (language is null ? CultureInfo.InvariantCulture.CompareInfo : InfoOf(language)).GetSortKey(name).KeyData;

    /// <summary>Of the platform's rules by which names are sorted.</summary>
    public static string Version => CultureInfo.InvariantCulture.CompareInfo.Version.FullVersion.ToString(CultureInfo.InvariantCulture);

    private static CompareInfo InfoOf(string language)
    {
        try
        {
            return CultureInfo.GetCultureInfo(language).CompareInfo;
        }
        catch (CultureNotFoundException)
        {
            return CultureInfo.GetCultureInfo("en").CompareInfo;
        }
    }
}
