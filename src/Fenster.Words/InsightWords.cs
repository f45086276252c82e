using Fenster.Core.Insight;
using Fenster.Core.Model;

namespace Fenster.Words;

/// <summary>The figures of a class and what is found in them, in plain sentences for a teacher.</summary>
public static class InsightWords
{
    /// <summary>A finding as a sentence.</summary>
    public static string Of(Language language, Finding finding)
    {
        string Name(Pane pane, Target target) => TargetWords.Of(language, pane, target, Response.Empty).Name;
        string Given(Pane pane, Target target, Response response) => TargetWords.Of(language, pane, target, response).Given;
        return finding switch
        {
            Finding.KeyDoubt { Pane: { } pane, Target: { } target } doubt => language.Say(
                "insight.found.keyDoubt",
                ("target", Name(pane, target)),
                ("answer", Given(pane, target, doubt.Given)),
                ("count", doubt.Count),
                ("best", doubt.Best)
            ),
            Finding.MixedUp { Pane: { } pane, Target: { } target } mixed => language.Say(
                "insight.found.mixedUp",
                ("one", Name(pane, target)),
                ("other", Name(pane, mixed.Other)),
                ("count", mixed.There),
                ("back", mixed.Back),
                ("all", mixed.Works)
            ),
            Finding.MixedPairs mixed => language.Say(
                "insight.found.mixedUp",
                ("one", mixed.One.Text),
                ("other", mixed.Other.Text),
                ("count", mixed.There),
                ("back", mixed.Back),
                ("all", mixed.Works)
            ),
            Finding.Misread { Pane: { } pane, Target: { } target } misread => language.Say(
                misread.How == Misreading.WrongEnd ? "insight.found.wrongEnd" : "insight.found.swappedAxes",
                ("target", Name(pane, target)),
                ("count", misread.Count),
                ("all", misread.Works)
            ),
            Finding.TooSmall { Pane: { } pane, Target: { } target } small => language.Say(
                "insight.found.tooSmall",
                ("target", Name(pane, target)),
                ("count", small.Near),
                ("wrong", small.Wrong)
            ),
            Finding.BestMiss { Pane: { } pane, Target: { } target } => language.Say(
                "insight.found.bestMiss",
                ("target", Name(pane, target))
            ),
            Finding.CommonWrong { Pane: { } pane, Target: { } target } common => language.Say(
                "insight.found.commonWrong",
                ("label", common.Label.Text),
                ("target", Name(pane, target)),
                ("count", common.Count),
                ("all", common.Works)
            ),
            Finding.CommonAnswer { Pane: { } pane, Target: { } target } common => language.Say(
                "insight.found.commonAnswer",
                ("answer", Given(pane, target, common.Given)),
                ("target", Name(pane, target)),
                ("count", common.Count),
                ("all", common.Works)
            ),
            Finding.Hardly { Pane: { } pane, Target: { } target } hardly => language.Say(
                hardly.Count == 0 ? "insight.found.nobody" : "insight.found.hardly",
                ("target", Name(pane, target)),
                ("count", hardly.Count),
                ("all", hardly.Works)
            ),
            Finding.LeftOut { Pane: { } pane, Target: { } target } left => language.Say(
                "insight.found.leftOut",
                ("target", Name(pane, target)),
                ("count", left.Count),
                ("all", left.Works)
            ),
            Finding.Slow { Pane: { } pane, Target: { } target } slow => language.Say(
                "insight.found.slow",
                ("target", Name(pane, target)),
                ("count", Math.Round(slow.Seconds)),
                ("times", Math.Round((decimal)slow.Times, 1))
            ),
            Finding.Needs { Pane: { } pane, Target: { } target } needs => language.Say(
                "insight.found.needs",
                ("target", Name(pane, target)),
                ("other", Name(needs.OtherPane, needs.Other)),
                ("count", needs.Missed)
            ),
            Finding.Guessed guessed => language.Say(
                "insight.found.guessed",
                ("mean", Percent(language, guessed.Mean)),
                ("guess", Percent(language, guessed.Guess))
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(finding), finding, "This finding is not known."),
        };
    }

    /// <summary>What a facility says. Bands as is common practice.</summary>
    public static string OfFacility(Language language, double facility) =>
        double.IsNaN(facility)
            ? ""
            : language.Say(
                facility switch
                {
                    >= 0.85 => "insight.facility.easy",
                    <= 0.3 => "insight.facility.hard",
                    _ => "insight.facility.middle",
                }
            );

    /// <summary>What a discrimination says. Bands after Ebel and Frisbie, "Essentials of Educational Measurement" (1991), as remembered.</summary>
    public static string OfDiscrimination(Language language, double discrimination) =>
        language.Say(
            discrimination switch
            {
                double.NaN => "insight.discrimination.none",
                >= 0.3 => "insight.discrimination.well",
                >= 0.15 => "insight.discrimination.some",
                > -0.15 => "insight.discrimination.little",
                _ => "insight.discrimination.backwards",
            }
        );

    /// <summary>What alpha says. Bands as is common practice, after Nunnally's 0.7.</summary>
    public static string OfAlpha(Language language, double alpha) =>
        language.Say(
            alpha switch
            {
                double.NaN => "insight.alpha.none",
                >= 0.8 => "insight.alpha.high",
                >= 0.7 => "insight.alpha.enough",
                >= 0.5 => "insight.alpha.little",
                _ => "insight.alpha.low",
            }
        );

    /// <summary>An answer of a tally as it is read: a label, an option, a spot's number, or typed words.</summary>
    public static string Answer(Language language, Pane pane, Target target, Tallied tallied) =>
        target switch
        {
            Zone or SortRegion => pane.Labels.FirstOrDefault(label => label.Id == tallied.Answer)?.Text ?? tallied.Answer,
            QuestionPoint { Question: ChoiceQuestion choice } => choice.Options.FirstOrDefault(option => option.Id == tallied.Answer)?.Text
                ?? tallied.Answer,
            Hotspots => language.Say("insight.spot", ("number", tallied.Answer)),
            _ => tallied.Answer,
        };

    private static string Percent(Language language, double share) => share.ToString("P0", language.Culture);
}
