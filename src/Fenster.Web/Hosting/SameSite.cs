namespace Fenster.Web.Hosting;

/// <summary>
/// Whether a request that changes something comes from Fenster's own pages. A browser says so by <c>Sec-Fetch-Site</c>, which no
/// page can forge; an older one by <c>Origin</c>. Who says neither is refused.
/// </summary>
public sealed class SameSite(PublicAddress address)
{
    public bool Allows(HttpRequest request)
    {
        if (request.Headers["Sec-Fetch-Site"] is [{ Length: > 0 } site])
            return site == "same-origin";
        return request.Headers.Origin is [{ Length: > 0 } origin]
            && string.Equals(origin, address.Of(request), StringComparison.OrdinalIgnoreCase);
    }
}

/// <summary>Where people reach this Fenster: as the operator says, or as the request that came.</summary>
/// <param name="set">Such as <c>https://fenster.school.example</c>; null when the operator says nothing.</param>
public sealed class PublicAddress(string? set)
{
    /// <summary>Scheme, host and port, without a slash behind them.</summary>
    public string Of(HttpRequest request) => set?.TrimEnd('/') ?? $"{request.Scheme}://{request.Host}";
}
