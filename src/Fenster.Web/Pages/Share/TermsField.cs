using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using NodaTime;

namespace Fenster.Web.Pages;

/// <summary>One word of the terms of an assignment, as a page has it: by the path that its sentence gives it.</summary>
internal static class TermsField
{
    /// <summary>The terms with one word changed; null when the value is none for it.</summary>
    /// <param name="path">Such as <c>closes</c>, or <c>check.checks</c> for a word of the rules.</param>
    /// <param name="value">As it was typed or chosen; empty for none.</param>
    /// <param name="zone">That the teacher's clock shows.</param>
    public static Terms? With(Terms terms, string path, string value, DateTimeZone zone, Instant now) =>
        path switch
        {
            "opens" => At(value, LocalTimes.Opening, NextHour(now), zone) is var (ok, at) && ok ? terms with { Opens = at } : null,
            "closes" => At(value, LocalTimes.Closing, NextHour(now) + Duration.FromDays(7), zone) is var (ok, at) && ok
                ? terms with
                {
                    Closes = at,
                }
                : null,
            "releases" => At(value, LocalTimes.Opening, NextHour(now) + Duration.FromDays(7), zone) is var (ok, at) && ok
                ? terms with
                {
                    Releases = at,
                }
                : null,
            "limit" => value == "" ? terms with { TimeLimit = null }
            : decimal.TryParse(value.Replace(',', '.'), NumberStyles.Number, CultureInfo.InvariantCulture, out var minutes)
            && minutes is > 0 and < 10_000
                ? terms with
                {
                    TimeLimit = Duration.FromSeconds((double)Math.Round(minutes * 60)),
                }
            : null,
            "attempts" => value == "" ? terms with { Attempts = null }
            : int.TryParse(value, CultureInfo.InvariantCulture, out var attempts) ? terms with { Attempts = attempts }
            : null,
            "counts" => Read<AttemptPolicy>(value) is { } counts ? terms with { Counts = counts } : null,
            "practice" => terms with { IsPractice = value == "true" },
            "joining" => Read<Joining>(value) is { } joining ? terms with { Joining = joining } : null,
            "together" => terms with { BeginsTogether = value == "true" },
            "forgets" => terms with { ForgetsDevices = value == "true" },
            "resit" => Read<Resit>(value) is { } resit ? terms with { Resit = resit } : null,
            "sites" => Sites(value) is { } sites ? terms with { Sites = sites } : null,
            _ => Rule(terms, path, value),
        };

    private static Instant NextHour(Instant now) => Instant.FromUnixTimeSeconds((now.ToUnixTimeSeconds() / 3600 + 1) * 3600);

    private static (bool Ok, Instant? At) At(string value, Func<string?, DateTimeZone, Instant?> read, Instant usual, DateTimeZone zone) =>
        value switch
        {
            "" => (true, null),
            "at" => (true, usual),
            _ => read(value, zone) is { } at ? (true, at) : (false, null),
        };

    private static T? Read<T>(string value)
        where T : struct, Enum =>
        !int.TryParse(value, CultureInfo.InvariantCulture, out _) && Enum.TryParse<T>(value, ignoreCase: true, out var read) ? read : null;

    private const int MostSites = 10;

    /// <summary>Addresses of sites, without a path; null when one of them is none.</summary>
    private static ImmutableArray<string>? Sites(string value)
    {
        var sites = value.Split([' ', ',', ';', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries).Distinct().ToList();
        if (sites.Count > MostSites)
            return null;
        var read = sites
            .Select(site => site.Contains("://", StringComparison.Ordinal) ? site : $"https://{site}")
            .Select(site =>
                Uri.TryCreate(site, UriKind.Absolute, out var uri)
                && uri is { Scheme: "http" or "https", Host.Length: > 0, UserInfo: "" }
                && Uri.CheckHostName(uri.IdnHost) != UriHostNameType.Unknown
                    ? $"{uri.Scheme}://{uri.IdnHost}{(uri.IsDefaultPort ? "" : $":{uri.Port}")}"
                    : null
            )
            .ToList();
        return read.Contains(null) ? null : [.. read.OfType<string>().Distinct()];
    }

    /// <summary>A word of the rules; empty and named <c>-path</c> for following the activity again.</summary>
    private static Terms? Rule(Terms terms, string path, string value)
    {
        var isBack = path.StartsWith('-');
        if (path.TrimStart('-').Split('.') is not [var group, var name])
            return null;
        var rules = JsonNode.Parse(RuleWordsDocument.Write(terms.Rules))!.AsObject();
        if (rules[group] is not JsonObject words)
            rules[group] = words = [];
        words.Remove(name);
        if (!isBack)
            words[name] = Node(group, name, value);
        try
        {
            var read = RuleWordsDocument.Read(rules.ToJsonString());
            // A path that names nothing leaves nothing behind.
            return isBack || read != terms.Rules || RuleWordsDocument.Write(read).Contains($"\"{name}\"", StringComparison.Ordinal)
                ? terms with
                {
                    Rules = read,
                }
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static JsonNode? Node(string group, string name, string value)
    {
        if (value == "")
            return null;
        if (decimal.TryParse(value.Replace(',', '.'), NumberStyles.Number, CultureInfo.InvariantCulture, out var number))
            // Shares are told in per cent.
            return (group, name) == ("score", "tryCost") ? number / 100 : number;
        return value;
    }
}
