using System.Security.Claims;
using System.Text.RegularExpressions;
using Fenster.Words;

namespace Fenster.Web.Hosting;

/// <summary>In which language a page speaks where no activity says it.</summary>
internal static partial class Languages
{
    /// <summary>The signed-in teacher's; the browser's for anybody else.</summary>
    public static Language Of(HttpContext context) =>
        Language.Find(context.User.FindFirstValue(Person.LanguageClaim) ?? "")
        ?? OfBrowser(context.Request, language => language.IsForTeachers);

    /// <summary>The same where nothing is said that only teachers read: any language that there is for who is not signed in.</summary>
    public static Language OfAnybody(HttpContext context) => context.User.IsTeacher() ? Of(context) : OfBrowser(context.Request);

    /// <summary>The cookie in which a browser says where it is.</summary>
    private const string ZoneCookie = "fenster-zone";

    /// <summary>The header in which a student's script says the same, where cookies may be blocked.</summary>
    private const string ZoneHeader = "Fenster-Zone";

    /// <summary>In which the signed-in teacher is told times: what they chose, or else where their browser is; UTC otherwise.</summary>
    public static TimeZoneInfo ZoneOf(HttpContext context)
    {
        var name = context.User.FindFirstValue(Person.TimeZoneClaim)
            ?? context.Request.Headers[ZoneHeader].FirstOrDefault()
            ?? context.Request.Cookies[ZoneCookie]
            ?? "";
        return name.Length < 64 && ZoneName().IsMatch(name) && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone)
            ? zone
            : TimeZoneInfo.Utc;
    }

    /// <summary>Zones are files: a name from a browser must not lead out of their folder.</summary>
    [GeneratedRegex(@"^[A-Za-z][\w+-]*(?:/[\w+-]+)*\z", RegexOptions.ECMAScript)]
    private static partial Regex ZoneName();

    /// <summary>The first that the browser asks for and there is; English otherwise.</summary>
    public static Language OfBrowser(HttpRequest request) => OfBrowser(request, _ => true);

    private static Language OfBrowser(HttpRequest request, Func<Language, bool> suits) =>
        request
            .GetTypedHeaders()
            .AcceptLanguage.OrderByDescending(language => language.Quality ?? 1)
            .Select(language => Language.Find(language.Value.ToString()))
            .OfType<Language>()
            .FirstOrDefault(suits)
        ?? Language.English;
}
