using System.Text;
using Fenster.Formats.Tables;

namespace Fenster.Formats.Tests;

public sealed class ResultsTableTests
{
    private static readonly DateTimeOffset Noon = new(2026, 5, 4, 12, 0, 0, TimeSpan.Zero);

    [Fact]
    public void The_table_is_csv_as_rfc_4180_writes_it()
    {
        var bytes = ResultsTable.Write(
            ["Name", "State", "Attempt", "Counts", "Started", "Handed in", "Score", "Possible", "Grade", "Maximum grade", "Together"],
            [
                new("Ada, the first", "Handed in", 2, "counts", Noon, Noon.AddMinutes(9), 2.75m, 5, 5.5m, 10, 6.25m),
                new("Zoë \"Zed\"", "Working", 1, "", Noon, null, null, null, null, null, null),
                new("Kai", "Excused", null, "", null, null, null, null, null, null, null),
            ]
        );
        Assert.Equal(Encoding.UTF8.Preamble.ToArray(), bytes[..3]);
        Assert.Equal(
            "Name,State,Attempt,Counts,Started,Handed in,Score,Possible,Grade,Maximum grade,Together\r\n"
                + "\"Ada, the first\",Handed in,2,counts,2026-05-04T12:00:00Z,2026-05-04T12:09:00Z,2.75,5,5.5,10,6.25\r\n"
                + "\"Zoë \"\"Zed\"\"\",Working,1,,2026-05-04T12:00:00Z,,,,,,\r\n"
                + "Kai,Excused,,,,,,,,,\r\n",
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
        var line = Encoding
            .UTF8.GetString(ResultsTable.Write(["Name"], [new(name, "", 1, "", Noon, null, null, null, null, null, null)]))
            .Split("\r\n")[1];
        Assert.DoesNotMatch("^\"?[=+@＝＋－＠]", line);
    }
}
