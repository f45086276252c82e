using System.Collections.Immutable;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using NodaTime;

namespace Fenster.Words;

/// <summary>The terms of an assignment in plain words, made from the terms themselves so that they are always true.</summary>
/// <param name="language">In which they are said.</param>
public sealed class TermsSentences(Language language)
{
    /// <summary>What one student needs to know before they begin.</summary>
    /// <param name="time">Says a time as the student's clock shows it.</param>
    public IReadOnlyList<string> ForStudents(Terms terms, Allowance allowance, Func<Instant, string> time)
    {
        var sentences = new List<string>();
        if (Timing.LimitFor(terms, allowance) is { } limit)
            sentences.Add(language.Say("terms.limit", ("count", Math.Round((decimal)limit.TotalMinutes, 2))));
        if (Timing.EndFor(terms, new(), allowance) is { } end)
            sentences.Add(language.Say("terms.closes", ("time", time(end))));
        if (terms.Attempts is not 1)
        {
            sentences.Add(
                terms.Attempts is { } attempts ? language.Say("terms.attempts", ("count", attempts)) : language.Say("terms.anyAttempts")
            );
            sentences.Add(language.Say($"terms.counts.{Wording.Value(terms.Counts)}"));
        }
        return sentences;
    }

    /// <summary>All of the terms, with the words that the teacher can change. What does not apply is not said.</summary>
    /// <param name="isOfClass">Whether it is given to a class.</param>
    /// <param name="mayWait">Whether something of the rules waits for the teacher's word.</param>
    /// <param name="typed">A time as the teacher's clock shows it, as a field for times has it.</param>
    public ImmutableArray<Wording> ForTeacher(Terms terms, bool isOfClass, bool mayWait, Func<Instant, string> typed)
    {
        var sentences = new WordingBuilder(language);
        Wording Time(string path, string none, Instant? at) =>
            Wording.Choose(
                path,
                at is { } known ? typed(known) : "",
                at is { } shown ? typed(shown) : language.Say(none),
                [new("", language.Say(none)), new("at", language.Say("give.atATime"))],
                ""
            );
        sentences.Add(
            "give.when",
            ("opens", Time("opens", "give.opens.now", terms.Opens)),
            ("closes", Time("closes", "give.closes.byHand", terms.Closes))
        );
        if (mayWait)
            sentences.Add("give.releases", ("releases", Time("releases", "give.releases.byHand", terms.Releases)));
        var limit = terms.TimeLimit is { } known ? Wording.Value((decimal)known.TotalMinutes) : "";
        sentences.Add("give.limit", ("limit", Wording.Type("limit", limit, limit == "" ? language.Say("give.limit.none") : limit, "")));
        sentences.Add(
            "give.attempts",
            (
                "attempts",
                Wording.Choose(
                    "attempts",
                    Wording.Value(terms.Attempts),
                    Attempts(terms.Attempts),
                    [.. Offered(terms.Attempts).Select(count => new WordOption(Wording.Value(count), Attempts(count)))],
                    "1"
                )
            )
        );
        if (terms.Attempts != 1)
        {
            sentences.Add("give.counts", ("counts", Of("counts", terms.Counts, AttemptPolicy.Best)));
            sentences.Add("give.between", ("what", Yes("practice", terms.IsPractice)));
        }
        if (isOfClass)
            sentences.Add("give.joining", ("joining", Of("joining", terms.Joining, Joining.MembersByWord)));
        sentences.Add("give.begin", ("together", Yes("together", terms.BeginsTogether)));
        sentences.Add("give.device", ("forgets", Yes("forgets", terms.ForgetsDevices)));
        if (terms.Resit is { } resit)
            sentences.Add("give.follows", ("resit", Of("resit", resit, Resit.Best)));
        var sites = string.Join(' ', terms.Sites);
        sentences.Add("give.framed", ("sites", Wording.Type("sites", sites, sites == "" ? language.Say("give.sites.none") : sites, "")));
        return sentences.Made();
    }

    private static IEnumerable<int?> Offered(int? attempts) => ((int?[])[1, 2, 3, 5, null, attempts]).Distinct();

    private string Attempts(int? attempts) =>
        attempts is { } count ? language.Say("give.attempts.count", ("count", count)) : language.Say("give.attempts.any");

    private Wording Of<T>(string path, T value, T usual)
        where T : struct, Enum =>
        Wording.Choose(
            path,
            Wording.Value(value),
            [
                .. Enum.GetValues<T>()
                    .Select(each => new WordOption(Wording.Value(each), language.Say($"give.{path}.{Wording.Value(each)}"))),
            ],
            Wording.Value(usual)
        );

    private Wording Yes(string path, bool value) =>
        Wording.Choose(
            path,
            value ? "true" : "false",
            [new("false", language.Say($"give.{path}.no")), new("true", language.Say($"give.{path}.yes"))],
            "false"
        );
}
