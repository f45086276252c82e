using Fenster.Core.Model;

namespace Fenster.Core.Tests;

public sealed class PersonNameTests
{
    [Theory]
    [InlineData("  Ada   Quill ", "Ada Quill")]
    [InlineData("Ada\u202EQuill\u202C", "AdaQuill")]
    [InlineData("A\u200Bda", "Ada")]
    [InlineData("Ada\u00A0Quill", "Ada Quill")]
    [InlineData("Ada\u3164", "Ada")]
    [InlineData("Zoe\u0301", "Zoé")]
    [InlineData("محمد", "محمد")]
    [InlineData("می\u200Cشود", "می\u200Cشود")]
    [InlineData("李小龍", "李小龍")]
    [InlineData("Саша", "Саша")]
    [InlineData("O’Neill-Пётр", null)]
    public void What_nobody_sees_is_left_out(string typed, string? name)
    {
        var (tidy, fault) = PersonName.Tidy(typed);
        Assert.Equal(name is null ? null : name, fault is null ? tidy : null);
    }

    [Theory]
    [InlineData("", NameFault.Empty)]
    [InlineData("\u200B\u2060\uFEFF", NameFault.Empty)]
    [InlineData("\u3164\u2800", NameFault.Empty)]
    [InlineData(". -", NameFault.Empty)]
    [InlineData("bell\u0007", NameFault.Unreadable)]
    [InlineData("\uE000x", NameFault.Unreadable)]
    [InlineData("Z\u0300\u0301\u0302\u0303\u0304\u0305\u0306", NameFault.Unreadable)]
    [InlineData("Аdа", NameFault.MixedAlphabets)]
    [InlineData("Εmma", NameFault.MixedAlphabets)]
    public void What_is_no_name_is_told(string typed, NameFault fault) => Assert.Equal(fault, PersonName.Tidy(typed).Fault);

    [Fact]
    public void A_long_name_is_told_and_kept()
    {
        var (name, fault) = PersonName.Tidy(new string('a', 300));
        Assert.Equal((300, NameFault.TooLong), (name.Length, fault));
    }

    [Theory]
    [InlineData("Ada Quill", " ada\u200B  QUILL ")]
    [InlineData("COP", "СОР")]
    [InlineData("Ａｄａ", "Ada")]
    public void Names_that_a_reader_can_not_tell_apart_are_one(string one, string other) =>
        Assert.Equal(PersonName.Fold(one), PersonName.Fold(other));
}
