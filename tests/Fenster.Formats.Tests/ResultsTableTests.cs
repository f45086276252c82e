using System.Text;
using Fenster.Formats.Tables;

namespace Fenster.Formats.Tests;

public sealed class ResultsTableTests
{
    private static readonly DateTimeOffset Noon = new(2026, 5, 4, 12, 0, 0, TimeSpan.Zero);

    [Fact]
    public void The_table_is_csv_as_rfc_4180_writes_it()
    {
        var bytes = ResultsTable.Write([
            new("Ada, the first", Noon, Noon.AddMinutes(9), 2.75m, 5, 5.5m, 10),
            new("Zoë \"Zed\"", Noon, null, null, null, null, null),
        ]);
        Assert.Equal(Encoding.UTF8.Preamble.ToArray(), bytes[..3]);
        Assert.Equal(
            "Name,Started,Handed in,Score,Possible,Grade,Maximum grade\r\n"
                + "\"Ada, the first\",2026-05-04T12:00:00Z,2026-05-04T12:09:00Z,2.75,5,5.5,10\r\n"
                + "\"Zoë \"\"Zed\"\"\",2026-05-04T12:00:00Z,,,,,\r\n",
            Encoding.UTF8.GetString(bytes[3..])
        );
    }

    [Theory]
    [InlineData("=HYPERLINK(\"x\")")]
    [InlineData("+1")]
    [InlineData("@cmd")]
    [InlineData("＝1+1")]
    [InlineData("＋1")]
    [InlineData("－1")]
    [InlineData("＠cmd")]
    public void A_name_is_never_a_formula(string name)
    {
        var line = Encoding.UTF8.GetString(ResultsTable.Write([new(name, Noon, null, null, null, null, null)])).Split("\r\n")[1];
        Assert.DoesNotMatch("^\"?[=+@＝＋－＠]", line);
    }
}
