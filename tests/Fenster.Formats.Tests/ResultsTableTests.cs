using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Xml.Linq;
using ClosedXML.Excel;
using Fenster.Formats.Tables;

namespace Fenster.Formats.Tests;

public sealed class ResultsTableTests
{
    private static readonly DateTime Noon = new(2026, 5, 4, 12, 0, 0);

    private static readonly ResultsTable Table = new(
        ["Name", "State", "Attempt", "Started", "Score"],
        [
            ["Ada, the first", "Handed in", 2m, Noon, 2.75m],
            ["Zoë \"Zed\"", "Working", 1m, Noon.AddMinutes(9), null],
            ["Kai; the third", "Excused", null, null, 0.5m],
        ]
    );

    [Fact]
    public void The_table_is_csv_as_rfc_4180_writes_it()
    {
        var bytes = Table.Csv(CultureInfo.GetCultureInfo("en"));
        Assert.Equal(Encoding.UTF8.Preamble.ToArray(), bytes[..3]);
        Assert.Equal(
            "Name,State,Attempt,Started,Score\r\n"
                + "\"Ada, the first\",Handed in,2,2026-05-04 12:00:00,2.75\r\n"
                + "\"Zoë \"\"Zed\"\"\",Working,1,2026-05-04 12:09:00,\r\n"
                + "Kai; the third,Excused,,,0.5\r\n",
            Encoding.UTF8.GetString(bytes[3..])
        );
    }

    [Fact]
    public void Where_decimals_have_a_comma_fields_are_separated_by_semicolons() =>
        Assert.Equal(
            "Name;State;Attempt;Started;Score\r\n"
                + "Ada, the first;Handed in;2;2026-05-04 12:00:00;2,75\r\n"
                + "\"Zoë \"\"Zed\"\"\";Working;1;2026-05-04 12:09:00;\r\n"
                + "\"Kai; the third\";Excused;;;0,5\r\n",
            Encoding.UTF8.GetString(Table.Csv(CultureInfo.GetCultureInfo("de"))[3..])
        );

    [Theory]
    [InlineData("=HYPERLINK(\"x\")")]
    [InlineData("+1")]
    [InlineData("@cmd")]
    [InlineData("-2+3")]
    [InlineData("＝1+1")]
    [InlineData("＋1")]
    [InlineData("－1")]
    [InlineData("＠cmd")]
    public void A_name_is_never_a_formula(string name)
    {
        var table = new ResultsTable(
            ["Name"],
            [
                [name],
            ]
        );
        var line = Encoding.UTF8.GetString(table.Csv(CultureInfo.InvariantCulture)).Split("\r\n")[1];
        Assert.DoesNotMatch("^\"?[=+@＝＋－＠-]", line);
        using var book = new XLWorkbook(new MemoryStream(table.Spreadsheet("Marks")));
        var cell = book.Worksheets.First().Cell(2, 1);
        Assert.Equal((name, XLDataType.Text, false), (cell.GetString(), cell.DataType, cell.HasFormula));
    }

    /// <summary>Read by nothing of ours: the parts of the package as ECMA-376 names them.</summary>
    [Fact]
    public void The_spreadsheet_has_typed_cells_and_a_heading_that_stands_fast()
    {
        using var package = new ZipArchive(new MemoryStream(Table.Spreadsheet("Marks: [2026]/*")));
        XNamespace main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        XDocument Part(string name)
        {
            using var stream = package.GetEntry(name)!.Open();
            return XDocument.Load(stream);
        }
        Assert.Equal("Marks 2026", Part("xl/workbook.xml").Descendants(main + "sheet").Single().Attribute("name")!.Value);
        var sheet = Part("xl/worksheets/sheet1.xml");
        Assert.StartsWith("frozen", sheet.Descendants(main + "pane").Single().Attribute("state")!.Value);
        var score = sheet.Descendants(main + "c").Single(cell => cell.Attribute("r")!.Value == "E2");
        Assert.Equal("2.75", score.Element(main + "v")!.Value);
        Assert.NotEqual("s", score.Attribute("t")?.Value);
        // Days since the end of 1899, as spreadsheets count them.
        Assert.Equal(
            "46146.5",
            sheet.Descendants(main + "c").Single(cell => cell.Attribute("r")!.Value == "D2").Element(main + "v")!.Value
        );
        Assert.Equal("s", sheet.Descendants(main + "c").Single(cell => cell.Attribute("r")!.Value == "A2").Attribute("t")!.Value);
    }

    [Fact]
    public void What_xml_cannot_hold_and_what_is_too_long_for_a_cell_is_left_out()
    {
        using var book = new XLWorkbook(
            new MemoryStream(
                new ResultsTable(
                    ["Comment"],
                    [
                        ["a\u0001b\u000Bc"],
                        [new string('x', 40_000)],
                    ]
                ).Spreadsheet("'")
            )
        );
        var sheet = book.Worksheets.First();
        Assert.Equal(("abc", 32_767), (sheet.Cell(2, 1).GetString(), sheet.Cell(3, 1).GetString().Length));
    }

    /// <summary>RFC 4180, 2.6: a field with a line end stands in quotes, whichever sign ends the line; CsvHelper reads it back.</summary>
    [Fact]
    public void Comments_of_several_lines_stay_in_their_cell_and_begin_no_formula()
    {
        string[] comments = ["one\n=HYPERLINK(\"http://evil.example\")", "two\r@SUM(1)", "three\r\n+1", "a \"word\"\nand more", "plain"];
        foreach (var culture in (CultureInfo[])[CultureInfo.InvariantCulture, CultureInfo.GetCultureInfo("de")])
        {
            var csv = new ResultsTable(["Name", "Comment"], [.. comments.Select(comment => (IReadOnlyList<object?>)["Ana", comment])]).Csv(
                culture
            );
            using var text = new StreamReader(new MemoryStream(csv));
            using var read = new CsvHelper.CsvReader(
                text,
                new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    Delimiter = culture.NumberFormat.NumberDecimalSeparator == "," ? ";" : ",",
                }
            );
            var rows = new List<string[]>();
            while (read.Read())
                rows.Add(read.Parser.Record!);
            Assert.Equal(comments.Length + 1, rows.Count);
            Assert.All(rows.Skip(1), row => Assert.Equal("Ana", row[0]));
            Assert.Equal(comments, rows.Skip(1).Select(row => row[1]));
        }
    }
}
