using NodaTime;
using NodaTime.Text;
using NodaTime.TimeZones;

namespace Fenster.Core.Giving;

/// <summary>Times as a teacher types them, in the zone that the teacher's clock shows.</summary>
public static class LocalTimes
{
    /// <summary>A zone of the IANA time zone database; UTC for a name that is not in it.</summary>
    public static DateTimeZone Zone(string? name) => DateTimeZoneProviders.Tzdb.GetZoneOrNull(name ?? "") ?? DateTimeZone.Utc;

    /// <summary>
    /// When something opens. In the hour that a clock leaves out, the same time after the change; in the hour that it shows twice,
    /// the first.
    /// </summary>
    /// <param name="typed">As <c>2027-03-28T02:30</c>.</param>
    /// <returns>Null when it is no time.</returns>
    public static Instant? Opening(string? typed, DateTimeZone zone) => At(typed, zone, Opens);

    /// <summary>
    /// When something closes. In the hour that a clock leaves out, the same time after the change; in the hour that it shows twice,
    /// the second, so that nobody has less time than they read.
    /// </summary>
    /// <inheritdoc cref="Opening"/>
    public static Instant? Closing(string? typed, DateTimeZone zone) => At(typed, zone, Closes);

    /// <summary>As it is typed.</summary>
    public static string Typed(Instant at, DateTimeZone zone) => Minutes.Format(at.InZone(zone).LocalDateTime);

    private static readonly LocalDateTimePattern Minutes = LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm");

    private static readonly ZoneLocalMappingResolver Opens = Resolvers.CreateMappingResolver(
        Resolvers.ReturnEarlier,
        Resolvers.ReturnForwardShifted
    );

    private static readonly ZoneLocalMappingResolver Closes = Resolvers.CreateMappingResolver(
        Resolvers.ReturnLater,
        Resolvers.ReturnForwardShifted
    );

    private static Instant? At(string? typed, DateTimeZone zone, ZoneLocalMappingResolver resolver) =>
        Minutes.Parse(typed ?? "") is { Success: true, Value: { Year: >= 2000 and < 2200 } local }
            ? zone.ResolveLocal(local, resolver).ToInstant()
            : null;
}
