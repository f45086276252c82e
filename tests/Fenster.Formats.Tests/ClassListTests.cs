using System.Text;
using Fenster.Core.Model;
using Fenster.Formats.Tables;

namespace Fenster.Formats.Tests;

/// <summary>Lists of names as teachers have them.</summary>
public sealed class ClassListTests
{
    private static IEnumerable<string> Names(string text) =>
        ClassList.Read(text) is var list ? list.Names(list.Meanings).Select(name => name.Name) : [];

    [Theory]
    [InlineData("Mia Low\nEmre Öztürk\n")]
    [InlineData("Mia Low\r\n\r\nEmre Öztürk")]
    [InlineData("Low, Mia\nÖztürk, Emre")]
    [InlineData("Low;Mia\nÖztürk;Emre")]
    [InlineData("Low,Mia\nÖztürk,Emre")]
    [InlineData("Low\tMia\t13\nÖztürk\tEmre\t14")]
    [InlineData("Surname,First name\nLow,Mia\nÖztürk,Emre")]
    [InlineData("Nr;Vorname;Nachname;Klasse\n1;Mia;Low;8b\n2;Emre;Öztürk;8b")]
    [InlineData("Prénom;Nom\nMia;Low\nEmre;Öztürk")]
    [InlineData("Nombre;Apellidos\nMia;Low\nEmre;Öztürk")]
    [InlineData("\"Name\",\"Mail\"\n\"Low, Mia\",m@x.example\n\"Öztürk, Emre\",e@x.example")]
    [InlineData("name\nMia Low\nEmre Öztürk")]
    public void Names_are_read_from_any_usual_shape(string text) => Assert.Equal(["Mia Low", "Emre Öztürk"], Names(text));

    [Fact]
    public void Names_of_all_scripts_are_names_and_formulas_are_none()
    {
        Assert.Equal(["سلمى حداد", "王小明", "Łucja Żak"], Names("الاسم\nسلمى حداد\n王小明\nŁucja Żak"));
        var list = ClassList.Read("=HYPERLINK(\"x\")\n+49 30 1\n@Mia\n\u0007\nMia");
        Assert.Equal(
            [NameFault.Unreadable, NameFault.Unreadable, NameFault.Unreadable, NameFault.Empty, null],
            list.Names(list.Meanings).Select(name => name.Fault)
        );
    }

    [Fact]
    public void A_column_can_be_a_tag_or_left_out()
    {
        var list = ClassList.Read("First name;Surname;Group\nMia;Low;a\nEmre;Öztürk;b");
        Assert.Equal([ColumnMeaning.FirstName, ColumnMeaning.Surname, ColumnMeaning.Tag], list.Meanings.AsEnumerable());
        Assert.Equal(["a", "b"], list.Names(list.Meanings).Select(name => name.Tags));
        Assert.Equal(["Low", "Öztürk"], list.Names([ColumnMeaning.LeftOut, ColumnMeaning.Name]).Select(name => name.Name));
    }

    [Fact]
    public void A_file_is_text_in_UTF_8_UTF_16_or_Windows_1252_or_none()
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        const string Text = "Öztürk;Åse";
        foreach (
            var encoding in (Encoding[])
                [new UTF8Encoding(false), new UTF8Encoding(true), Encoding.Unicode, Encoding.BigEndianUnicode, Encoding.GetEncoding(1252)]
        )
            Assert.Equal(Text, ClassList.Decode([.. encoding.GetPreamble(), .. encoding.GetBytes(Text)]));
        // The first bytes of a zip, as spreadsheets are.
        Assert.Null(ClassList.Decode([0x50, 0x4B, 3, 4, 20, 0, 6, 0]));
    }

    [Fact]
    public void However_much_there_is_what_is_read_is_bounded()
    {
        Assert.Equal(
            ClassList.MostRows,
            ClassList.Read(string.Join('\n', Enumerable.Range(0, 20_000).Select(i => $"Name {i}"))).Rows.Length
        );
        Assert.NotEmpty(
            ClassList
                .Read(new string(';', 400_000) + "\n" + new string('"', 5000))
                .Rows.Concat([
                    [],
                ])
        );
    }
}
