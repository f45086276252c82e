using System.Net;
using Fenster.Store;
using Fenster.Testing;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Http;
using static Fenster.Web.Tests.Classroom;

namespace Fenster.Web.Tests;

/// <summary>Words let in who has them, whatever others try, and nobody finds them.</summary>
public sealed class PersonalWordsTests
{
    /// <summary>The reckoning of docs/operating.md, for a class of thirty whose words are tried all year round as fast as that is let.</summary>
    [Theory]
    [InlineData("en")]
    [InlineData("de")]
    [InlineData("fr")]
    [InlineData("es")]
    [InlineData("ar")]
    public void Finding_the_words_of_any_of_a_class_in_a_year_is_less_likely_than_one_in_a_thousand(string language)
    {
        var year = TimeSpan.FromDays(365);
        var tries = WordTurns.Free + year / WordTurns.Each + 30 * (WordTurns.FreeOfKnown + year / WordTurns.GivenBack);
        var different = Math.Pow(PersonalWords.Count(language), PersonalWords.Together);
        Assert.InRange(30 * tries / different, 0, 0.001);
        // And they are as many as they are said to be.
        var made = Enumerable.Range(0, 2000).Select(_ => PersonalWords.New(language)).ToList();
        Assert.Equal(made.Count, made.Distinct().Count());
        Assert.All(made, words => Assert.Equal(words, PersonalWords.Tidy(words)));
        Assert.All(made, words => Assert.Equal(PersonalWords.Together, words.Split(' ').Length));
        Assert.All(made, words => Assert.InRange(words.Length, 8, 60));
    }

    [Theory]
    [InlineData(" Éléphant-Œuf  ßee, Lampe ", "elephant oeuf ssee lampe")]
    [InlineData("otter.lamp\tviolin\u00a0cactus", "otter lamp violin cactus")]
    [InlineData("باب بحر", "باب بحر")]
    public void What_is_typed_is_read_as_it_is_meant(string typed, string meant) => Assert.Equal(meant, PersonalWords.Tidy(typed));

    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }

    private static HttpContext From(string address)
    {
        var context = new DefaultHttpContext();
        context.Connection.RemoteIpAddress = IPAddress.Parse(address);
        return context;
    }

    [Fact]
    public async Task Right_words_wait_for_nobody_and_wrong_ones_wait_for_the_time()
    {
        var clock = new MovedClock();
        var turns = new WordTurns(clock);
        // Eight classes behind one address.
        for (var i = 0; i < 240; i++)
            (await turns.At(From("10.0.0.1"), 7))!.Was(right: true);
        for (var i = 0; i < WordTurns.Free; i++)
            (await turns.At(From("10.0.0.9"), 7))!.Was(right: false);
        clock.Ahead += WordTurns.Each * 0.8;
        // Somebody goes on guessing; those who come behind, from elsewhere, come before.
        var guesses = Enumerable.Range(0, 5).Select(_ => turns.At(From("10.0.0.9"), 7)).ToList();
        var honest = Enumerable.Range(0, 9).Select(_ => turns.At(From("10.0.0.1"), 7)).ToList();
        Assert.All(guesses.Concat(honest), turn => Assert.False(turn.IsCompleted));
        // At another assignment nobody knows of it.
        (await turns.At(From("10.0.0.9"), 8))!.Was(right: true);
        clock.Ahead += WordTurns.Each * 0.3;
        foreach (var (turn, i) in honest.Select((turn, i) => (turn, i)))
            Assert.True(await turn is { } granted && Say(granted), $"{i} was not let");
        static bool Say(WordTurns.Turn turn)
        {
            turn.Was(right: true);
            return true;
        }
        var first = await await Task.WhenAny(guesses);
        first!.Was(right: false);
        Assert.Equal(1, guesses.Count(turn => turn.IsCompleted));
        // The longest that anybody waits is over: of those that were left none was taken.
        clock.Ahead += WordTurns.LongestWait * 0.8;
        var rest = await Task.WhenAll(guesses);
        Assert.InRange(rest.Count(turn => turn is not null), 1, 2);
    }

    [Fact]
    public async Task Nine_with_the_right_words_are_in_while_somebody_guesses_from_the_same_address_and_old_slips_still_work()
    {
        string[] names = [.. Enumerable.Range(1, 9).Select(i => $"Student {i}")];
        using var room = await Open(Samples.Document(2), names);
        // A slip of before had two words.
        room.Get<Database>()
            .Write(connection => Dapper.SqlMapper.Execute(connection, "update member set word = 'amber kite' where name = 'Student 1'"));
        using var guesser = new Visitor(room.Fenster.Address);
        for (var i = 0; i < 60; i++)
            Assert.Contains("Nobody has these words", await Said(guesser.Ask(room.Code, "Join", ("word", $"wrong words {i}"))));
        foreach (var name in names)
        {
            using var student = new Visitor(room.Fenster.Address);
            var word = name == "Student 1" ? "Amber-Kite" : room.Members[name].Word;
            Assert.Contains($"Are you {name}?", await Said(student.Ask(room.Code, "Join", ("word", word))));
            await student.Ask(room.Code, "Join", ("word", word), ("yes", "true"));
            Assert.Contains("data-view", await Said(student.Ask(room.Code, "Begin")));
        }
    }

    [Fact]
    public async Task Who_was_here_by_words_has_an_allowance_of_their_own_when_others_have_used_up_all()
    {
        using var room = await Open(Samples.Document(2), "Ana");
        using var ana = await room.Begins("Ana");
        var turns = room.Get<WordTurns>();
        for (var i = 0; i < WordTurns.Free; i++)
            (await turns.At(From("10.0.0.9"), room.Given.Id))!.Was(right: false);
        Assert.Contains("Are you Ana?", await Said(ana.Ask(room.Code, "Join", ("word", room.Members["Ana"].Word))));
    }

    [Fact]
    public async Task Sixty_marks_of_devices_are_worth_no_more_wrong_codes_than_one_address()
    {
        using var room = await Open(null, "Ana");
        var given = room.Get<Assignments>().Of(await room.Give(room.Teacher, Samples.Document(2), 0))[0];
        var wrong = 0;
        for (var i = 0; i < 60; i++)
        {
            using var device = new Visitor(room.Fenster.Address);
            await device.Join(given.Code, $"Guest {i}");
            for (var t = 0; t < Guesses.FreeByAddress; t++)
            {
                var said = await Said(device.Get($"/do/ZZZZ{t:00}{i:00}/now"));
                if (said.Contains("wait", StringComparison.OrdinalIgnoreCase))
                    break;
                wrong++;
            }
        }
        Assert.InRange(wrong, Guesses.FreeByKnown, Guesses.FreeByKnown + 3 * Guesses.FreeByAddress);
    }
}
