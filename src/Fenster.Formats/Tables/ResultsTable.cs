using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace Fenster.Formats.Tables;

/// <summary>One student's line in the table of results.</summary>
/// <param name="Score">Null until the work is handed in; so are the other figures.</param>
public sealed record ResultLine(
    string Name,
    DateTimeOffset Started,
    DateTimeOffset? HandedIn,
    decimal? Score,
    decimal? Possible,
    decimal? Grade,
    decimal? MaximumGrade
);

/// <summary>The table of results as comma-separated values (RFC 4180), in UTF-8 with a byte order mark for spreadsheets.</summary>
public static class ResultsTable
{
    public static byte[] Write(IEnumerable<ResultLine> lines)
    {
        using var stream = new MemoryStream();
        using (var text = new StreamWriter(stream, new System.Text.UTF8Encoding(encoderShouldEmitUTF8Identifier: true)))
        using (
            var csv = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    NewLine = "\r\n",
                    // A name such as "=1+1" stays a name when a spreadsheet opens the file.
                    InjectionOptions = InjectionOptions.Escape,
                    InjectionCharacters = ['=', '@', '+', '-', '\t', '\r', '＝', '＠', '＋', '－'],
                }
            )
        )
        {
            foreach (var heading in (string[])["Name", "Started", "Handed in", "Score", "Possible", "Grade", "Maximum grade"])
                csv.WriteField(heading);
            csv.NextRecord();
            foreach (var line in lines)
            {
                csv.WriteField(line.Name);
                csv.WriteField(Time(line.Started));
                csv.WriteField(Time(line.HandedIn));
                csv.WriteField(Number(line.Score));
                csv.WriteField(Number(line.Possible));
                csv.WriteField(Number(line.Grade));
                csv.WriteField(Number(line.MaximumGrade));
                csv.NextRecord();
            }
        }
        return stream.ToArray();
    }

    private static string Time(DateTimeOffset? time) =>
        time?.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture) ?? "";

    private static string Number(decimal? number) => number?.ToString("0.####", CultureInfo.InvariantCulture) ?? "";
}
