using System.Globalization;
using Fenster.Words;
using NodaTime;

namespace Fenster.Web.Hosting;

/// <summary>Times as a student's device shows them: in its own zone, which is named.</summary>
public sealed class StudentTimes(HttpContext context, Language language)
{
    private readonly TimeZoneInfo zone = Languages.ZoneOf(context);

    /// <summary>Day, time and zone, such as "Monday, 1 March 2027 10:00 (Berlin)".</summary>
    public string Say(Instant at)
    {
        var local = TimeZoneInfo.ConvertTime(at.ToDateTimeOffset(), zone);
        var name = zone == TimeZoneInfo.Utc ? "UTC" : zone.Id.Split('/')[^1].Replace('_', ' ');
        return string.Create(CultureInfo.InvariantCulture, $"{local.ToString("f", language.Culture)} ({name})");
    }
}
