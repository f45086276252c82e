using System.Text.Json;
using System.Text.RegularExpressions;

namespace Fenster.Words.Tests;

public sealed partial class LanguagesTests
{
    [GeneratedRegex(@"\{(\w+)\}")]
    private static partial Regex Slot();

    private static SortedSet<string> SlotsOf(JsonElement sentence) =>
        [.. sentence.Forms().SelectMany(form => Slot().Matches(form)).Select(slot => slot.Groups[1].Value)];

    [Theory]
    [InlineData("students")]
    [InlineData("teachers")]
    public void Every_language_says_what_English_says_with_the_same_slots(string part)
    {
        var english = House.English.Sentences(part);
        foreach (var language in House.Languages)
        {
            var sentences = language.Sentences(part);
            // A language may be there for students alone.
            if (part == "teachers" && sentences.Count == 0)
                continue;
            Assert.Equal(english.Keys.Order(), sentences.Keys.Order());
            foreach (var (name, sentence) in english)
            {
                var (ours, theirs) = (SlotsOf(sentence), SlotsOf(sentences[name]));
                // A form for one or two may say the number as a word.
                if (sentence.ValueKind == JsonValueKind.Object)
                    (_, _) = (ours.Remove("count"), theirs.Remove("count"));
                Assert.True(ours.SetEquals(theirs), $"{language.Code()}: {name} has the slots {string.Join(", ", theirs)}");
                Assert.True(
                    sentence.ValueKind == sentences[name].ValueKind,
                    $"{language.Code()}: {name} counts in one of the two languages only"
                );
                Assert.All(sentences[name].Forms(), form => Assert.False(string.IsNullOrWhiteSpace(form), $"{language.Code()}: {name}"));
            }
        }
    }

    [Fact]
    public void What_counts_has_a_form_for_every_category_that_a_count_can_fall_into()
    {
        foreach (var language in House.Languages)
        {
            var plurals = new PluralRules(
                language
                    .GetProperty("language")
                    .GetProperty("plurals")
                    .EnumerateObject()
                    .Select(rule => KeyValuePair.Create(rule.Name, rule.Value.GetString()!))
            );
            var needed = Enumerable.Range(0, 1000).Select(count => plurals.Of(count)).Append(plurals.Of(0.5m)).Distinct().Order().ToList();
            foreach (var part in (string[])["students", "teachers"])
            foreach (var (name, sentence) in language.Sentences(part).Where(entry => entry.Value.ValueKind == JsonValueKind.Object))
                Assert.True(
                    needed.SequenceEqual(sentence.EnumerateObject().Select(form => form.Name).Order()),
                    $"{language.Code()}: {name} has not the forms {string.Join(", ", needed)}"
                );
        }
    }

    [Fact]
    public void Every_refusal_is_said_in_every_language_of_students()
    {
        foreach (var tag in (string[])["en", "de", "fr", "es", "ar"])
        foreach (var why in Enum.GetValues<Fenster.Core.Model.Refused>())
            Assert.NotEmpty(Language.In(tag).Say(new Fenster.Core.Model.Refusal(why, 7)));
    }

    [GeneratedRegex("""["'`]([a-z]\w*\.[a-zA-Z]\w*(?:\.\w+)*)["'`]""")]
    private static partial Regex Named();

    [Fact]
    public void No_sentence_is_missing_and_none_is_unused()
    {
        var known = House.English.Sentences("students").Concat(House.English.Sentences("teachers")).ToDictionary();
        var sections = known.Keys.Select(name => name.Split('.')[0]).ToHashSet();
        var named = House.Sources().SelectMany(source => Named().Matches(source.Text)).Select(match => match.Groups[1].Value).ToHashSet();
        // The words of the rules are fields of a document too.
        var asked = named.Where(name => sections.Contains(name.Split('.')[0]) && !name.StartsWith("rules.", StringComparison.Ordinal));
        Assert.Equal([], asked.Where(name => !known.ContainsKey(name)));
        var byValue = ByValue().ToHashSet();
        Assert.Equal([], byValue.Where(name => !known.ContainsKey(name)));
        Assert.Equal([], known.Keys.Where(name => !named.Contains(name) && !byValue.Contains(name)));
    }

    /// <summary>What the scripts of a page say, their page tells them: whole sections, or single sentences.</summary>
    [Theory]
    [InlineData("workbench", "bench common share.check share.reveal matching room")]
    [InlineData("room", "room common frame.page bench.picture bench.thereIsNoPictureInWhat bench.thePictureCouldNotBeSent")]
    [InlineData("trial", "trial")]
    [InlineData("share", "share.copied share.pressCtrlC")]
    [InlineData("results", "making matching singly.region putRight.says.nobody putRight.says.changes putRight.says.passing")]
    [InlineData("wall", "wall matching singly.region")]
    [InlineData("scene", "")]
    [InlineData("board", "board game cards matching singly.region")]
    [InlineData("student", "cards gallery making matching refused.settled clock aids singly")]
    public void A_page_tells_its_scripts_what_they_say(string folder, string told)
    {
        string[] all = ["list", "screen", "result", "page", "place", .. told.Split(' ', StringSplitOptions.RemoveEmptyEntries)];
        var sections = House
            .English.Sentences("students")
            .Concat(House.English.Sentences("teachers"))
            .Select(entry => entry.Key)
            .ToHashSet();
        var named = WithImports($"src/Fenster.Web/wwwroot/js/{folder}/")
            .SelectMany(text => Named().Matches(text))
            .Select(match => match.Groups[1].Value)
            .Where(sections.Contains);
        Assert.Equal([], named.Where(name => !all.Any(part => name == part || name.StartsWith($"{part}.", StringComparison.Ordinal))));
        // And the page says the same.
        var pages = House
            .Sources()
            .Where(source =>
                source.Path.EndsWith(".cshtml", StringComparison.Ordinal)
                || source.Path.EndsWith("StudentWork.cs", StringComparison.Ordinal)
            );
        Assert.All(told.Split(' ', StringSplitOptions.RemoveEmptyEntries), part =>
            Assert.Contains(pages, page => page.Text.Contains($"\"{part}\"", StringComparison.Ordinal))
        );
    }

    /// <summary>The texts of a folder's scripts, and of all that they import at once.</summary>
    private static IEnumerable<string> WithImports(string folder)
    {
        var scripts = House
            .Sources()
            .Where(source => source.Path.EndsWith(".js", StringComparison.Ordinal))
            .ToDictionary(source => source.Path, source => source.Text);
        var all = scripts.Keys.Where(path => path.StartsWith(folder, StringComparison.Ordinal)).ToHashSet();
        for (var fresh = all.ToList(); fresh.Count > 0; )
            fresh =
            [
                .. fresh
                    .SelectMany(path => Imported().Matches(scripts[path]).Select(match => (path, match.Groups[1].Value)))
                    .Select(import => Path.GetRelativePath(".", Path.Combine(Path.GetDirectoryName(import.path)!, import.Value)))
                    .Where(path => scripts.ContainsKey(path) && all.Add(path)),
            ];
        return all.Select(path => scripts[path]);
    }

    [GeneratedRegex(@"from '(\.[^']+\.js)'")]
    private static partial Regex Imported();

    /// <summary>The words that can be changed in the terms of an assignment, its rules included.</summary>
    private static readonly string[] WordsOfTerms =
    [
        .. "opens closes releases limit attempts counts practice joining together forgets resit sites".Split(' '),
        .. "check.checks check.wrong check.right reveal.marks reveal.score reveal.key reveal.feedback reveal.explanation".Split(' '),
        .. "score.manner score.wrongCost score.tryCost score.maximumGrade score.passMark".Split(' '),
    ];

    /// <summary>Those that are named by a value of a kind.</summary>
    private static IEnumerable<string> ByValue()
    {
        static string Camel<T>(T value)
            where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
        static IEnumerable<string> All<T>(string prefix)
            where T : struct, Enum => Enum.GetValues<T>().Select(value => prefix + Camel(value));
        return
        [
            .. All<Core.Model.Refused>("refused."),
            .. "awarded agreed secondMarked remarked remarkWithdrawn givenBack lateCounted merged released releasedToOne releaseWithdrawn releaseWithdrawnWith regraded regradeUndone"
                .Split(' ')
                .Select(kind => $"results.record.{kind}"),
            .. ((string[])["targets", "grade", "started", "took", "tags"]).Select(column => $"results.column.{column}"),
            .. All<Core.Model.TakenOut>("putRight.takenOut."),
            .. ((string[])["targets", "panes", "attempts"]).Select(column => $"results.oneColumn.{column}"),
            .. ((string[])["nobodyLoses", "forAll"]).Select(manner => $"putRight.manner.{manner}"),
            .. ((string[])["counted", "first", "all"]).Select(which => $"insight.attempts.{which}"),
            .. All<Core.Model.Moment>("rules.moment."),
            .. All<Core.Model.Purpose>("rules.purpose."),
            .. All<Core.Model.ScoreManner>("rules.manner."),
            .. All<Core.Model.WrongLabels>("rules.wrong."),
            .. All<Core.Model.RightLabels>("rules.right."),
            .. ((string[])["marks", "score", "key", "feedback", "explanation"]).Select(thing => $"rules.things.{thing}"),
            .. ((string[])["saved", "saving", "offline", "soundFace", "videoFace", "pictureFace"]).Select(name => $"screen.{name}"),
            .. All<Core.Model.Aid>("aids."),
            .. ((string[])["upper", "middle", "lower"]).SelectMany(row =>
                (string[])[$"place.{row}.left", $"place.{row}.middle", $"place.{row}.right"]
            ),
            .. ((string[])["question", "lock", "info", "answer", "note"]).Select(kind => $"screen.{kind}"),
            .. ((string[])["picture", "sound", "video"]).Select(face => $"bench.away.{face}"),
            .. ((string[])["smaller", "larger"]).Select(size => $"room.caption.{size}"),
            .. ((string[])["phone", "tablet", "laptop"]).Select(screen => $"trial.{screen}"),
            .. All<Core.Scoring.AttemptPolicy>("terms.counts."),
            .. All<Core.Scoring.AttemptPolicy>("give.counts."),
            .. All<Core.Giving.Joining>("give.joining."),
            .. All<Core.Giving.Resit>("give.resit."),
            .. All<Core.Giving.TermsFault>("give.fault."),
            .. All<Core.Giving.StudentState>("who.state."),
            .. ((string[])["practice", "together", "forgets"]).SelectMany(path => (string[])[$"give.{path}.no", $"give.{path}.yes"]),
            .. WordsOfTerms.Select(path => $"give.word.{path}"),
            .. ((string[])["all", "open", "needsMe", "drafts", "starters", "archived"]).Select(which => $"activities.which.{which}"),
            .. Core.Model.KindNameAttribute.KindsOf(typeof(Core.Model.Target)).Select(kind => $"school.kind.{kind.Name}"),
            .. ((string[])["leftOut", "name", "firstName", "surname", "tag"]).Select(meaning => $"classes.means.{meaning}"),
            .. ((string[])["known", "doubled", "noName"]).Select(state => $"classes.is.{state}"),
            .. ((string[])["activity", "class", "assignment", "work"]).Select(kind => $"deleted.{kind}"),
            .. ((string[])["all", "working", "handedIn", "waits", "late", "differs"]).Select(filter => $"results.show.{filter}"),
            .. All<Core.Model.Verdict>("result.").Where(name => name != "result.unscored"),
        ];
    }

    [Fact]
    public void What_people_wrote_is_isolated_where_it_could_run_the_other_way()
    {
        Assert.Equal("Mast put into zone 3.", Language.English.Say("screen.putInto", ("label", "Mast"), ("number", 3)));
        Assert.Equal("\u2068صاري\u2069 put into zone 3.", Language.English.Say("screen.putInto", ("label", "صاري"), ("number", 3)));
        Assert.StartsWith("\u2068Mast\u2069", Language.In("ar").Say("screen.putInto", ("label", "Mast"), ("number", 3)));
    }

    [Fact]
    public void Numbers_and_plurals_are_the_languages_own()
    {
        Assert.Equal("0,5 Punkte", Language.In("de").Say("rules.points", ("count", 0.5m)));
        Assert.Equal("0,5 point", Language.In("fr").Say("rules.points", ("count", 0.5m)));
        Assert.Equal("1.5 points", Language.English.Say("rules.points", ("count", 1.5m)));
        Assert.Equal("نقطتان", Language.In("ar").Say("rules.points", ("count", 2)));
        Assert.Equal("3 نقاط", Language.In("ar").Say("rules.points", ("count", 3)));
    }

    [Fact]
    public void A_language_is_found_by_its_tag_or_by_one_that_it_belongs_to()
    {
        Assert.Equal("de", Language.In("de-CH").Tag);
        Assert.Equal("en", Language.In("la").Tag);
        Assert.Equal("en", Language.In("").Tag);
        Assert.Null(Language.Find("la"));
        Assert.True(Language.In("ar").IsRightToLeft);
        Assert.Equal(House.Languages.Select(language => language.Code()), Language.All.Select(language => language.Tag).Order());
    }

    [Fact]
    public void The_pseudo_languages_dress_all_words_and_no_slot()
    {
        var accented = Language.In("en-XA").Say("screen.putInto", ("label", "Mast"), ("number", 3));
        Assert.StartsWith("Mast ", accented);
        Assert.Contains(" 3", accented);
        Assert.DoesNotContain("put", accented);
        Assert.True(accented.Length > Language.English.Say("screen.putInto", ("label", "Mast"), ("number", 3)).Length);
        var mirrored = Language.In("ar-XB");
        Assert.True(mirrored.IsRightToLeft);
        Assert.Contains("\u2068Mast\u2069", mirrored.Say("screen.putInto", ("label", "Mast"), ("number", 3)));
        Assert.Contains("{label}", Language.In("en-XA").Json("screen.putInto"));
    }

    [Fact]
    public void A_sentence_that_is_not_there_and_a_slot_that_is_not_filled_are_faults()
    {
        Assert.Throws<KeyNotFoundException>(() => Language.English.Say("screen.nothing"));
        Assert.Throws<KeyNotFoundException>(() => Language.English.Say("screen.putDown"));
        Assert.Throws<KeyNotFoundException>(() => Language.English.Say("screen.pinned"));
    }
}
