using System.Globalization;

namespace Fenster.Store;

/// <summary>The order of names in a language.</summary>
public static class NameOrder
{
    /// <param name="language">A BCP 47 tag; one that the platform does not know is taken as English.</param>
    public static IComparer<string> Of(string language) => Comparer<string>.Create(InfoOf(language).Compare);

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
