using System.Text;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Tests;

public sealed class SoundTextTests
{
    [Theory]
    [InlineData("a\ufffeb", "ab")]
    [InlineData("\uffff", "")]
    [InlineData("x\ufdd0y\ufdefz", "xyz")]
    [InlineData("\ud83f\udffe and \udbff\udfff", " and ")] // U+1FFFE, U+10FFFF
    [InlineData("a\0b\u0001\u001bc\u007f\u0085", "abc")]
    [InlineData("tab\tline\r\nnext", "tab\tline\r\nnext")]
    [InlineData("\ufefe\ufdcf\ufdf0\ufffd", "\ufefe\ufdcf\ufdf0\ufffd")]
    [InlineData("سلمى حداد 王小明 👩‍👩‍👧 \u202b\u2066", "سلمى حداد 王小明 👩‍👩‍👧 \u202b\u2066")]
    public void What_is_no_text_is_left_out_and_all_else_stays(string typed, string sound) => Assert.Equal(sound, SoundText.Of(typed));

    [Fact]
    public void Halves_of_pairs_go_and_pairs_stay()
    {
        Assert.Equal("left  alone", SoundText.Of("left \ud83d alone"));
        Assert.Equal("\ud83d\ude00", SoundText.Of("\udc00\ud83d\ude00\ud83d"));
        Assert.Equal("a\u0007b", SoundText.WithControls("a\u0007\ud83d\ufffeb"));
    }

    // The sixty-six noncharacters of The Unicode Standard, 23.7.
    [Fact]
    public void Of_all_code_points_those_go_that_are_noncharacters_controls_or_halves_and_what_stays_can_be_normalised()
    {
        var gone = 0;
        for (var value = 0; value <= 0x10FFFF; value++)
        {
            if (value is >= 0xD800 and <= 0xDFFF)
            {
                Assert.Equal("", SoundText.Of(((char)value).ToString()));
                continue;
            }
            var text = char.ConvertFromUtf32(value);
            var sound = SoundText.Of(text);
            Assert.True(sound == text || sound == "");
            if (sound == "")
                gone++;
            _ = sound.Normalize(NormalizationForm.FormKC);
        }
        // 65 controls without tab, line feed and carriage return.
        Assert.Equal(66 + 65 - 3, gone);
    }

    [Fact]
    public void Whatever_was_typed_is_compared_and_read()
    {
        var rules = new SpellingRules(IgnoreCapitals: true, IgnoreAccents: true, IgnorePunctuation: true);
        foreach (var typed in (string[])["a\ufffeb", "\ud83d", "5\udc00 m", "½\uffff"])
        {
            _ = Spellings.Fold(typed, rules);
            _ = Spellings.Fold(typed, new());
            _ = PersonName.Tidy(typed);
            _ = PersonName.Fold(typed);
        }
        Assert.Equal("ab", Spellings.Fold("A\ufffeB", rules));
    }
}
