using System.Net;
using System.Net.Sockets;

namespace Fenster.Core.Model;

/// <summary>
/// Which links of students may stand on what others open: addresses of the public web, and nothing of the network that a reader sits in.
/// </summary>
public static class WebAddress
{
    public const int Longest = 2000;

    /// <summary>Names that lead nowhere outside: RFC 6761 and 6762, RFC 8375, and ICANN's reserved "internal" (2024).</summary>
    private static readonly string[] OwnNetwork = ["localhost", "local", "internal", "home.arpa", "test", "example", "invalid", "onion"];

    /// <summary>Whether it is an http or https address of the public web, without a sign-in in it.</summary>
    public static bool IsPublic(string address) =>
        address.Length <= Longest
        && Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && (uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeHttp)
        && uri.UserInfo == ""
        && IsPublicHost(uri);

    private static bool IsPublicHost(Uri uri) =>
        uri.HostNameType switch
        {
            UriHostNameType.IPv4 or UriHostNameType.IPv6 => IPAddress.TryParse(uri.DnsSafeHost, out var ip) && IsPublic(ip),
            UriHostNameType.Dns => uri.IdnHost.TrimEnd('.') is var host
                && host.Contains('.')
                && !OwnNetwork.Any(name => host == name || host.EndsWith($".{name}", StringComparison.OrdinalIgnoreCase)),
            _ => false,
        };

    /// <summary>By IANA's registries of special-purpose addresses (RFC 6890 and what came after), as remembered.</summary>
    private static bool IsPublic(IPAddress ip)
    {
        if (ip.IsIPv4MappedToIPv6)
            ip = ip.MapToIPv4();
        var bytes = ip.GetAddressBytes();
        return ip.AddressFamily == AddressFamily.InterNetwork
            ? bytes[0] switch
            {
                0 or 10 or 127 or >= 224 => false,
                100 => bytes[1] is < 64 or > 127,
                169 => bytes[1] != 254,
                172 => bytes[1] is < 16 or > 31,
                192 => bytes[1] != 168 && !(bytes[1] == 0 && bytes[2] is 0 or 2),
                198 => bytes[1] is not (18 or 19) && !(bytes[1] == 51 && bytes[2] == 100),
                203 => !(bytes[1] == 0 && bytes[2] == 113),
                _ => true,
            }
            // What is given out of IPv6 lies in 2000::/3; of that, documentation and translation are not the web.
            : (bytes[0] & 0xE0) == 0x20
                && !(bytes[0] == 0x20 && bytes[1] == 0x01 && bytes[2] == 0x0D && bytes[3] == 0xB8)
                && !(bytes[0] == 0x20 && bytes[1] == 0x02);
    }
}
