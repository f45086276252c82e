using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace Fenster.Formats.Tables;

/// <summary>One attempt's line in the table of results, or that of a student who made none.</summary>
/// <param name="State">In words.</param>
/// <param name="Attempt">From 1; null for none.</param>
/// <param name="Counts">In words, where it is told which of several attempts counts.</param>
/// <param name="Score">Null until the work is handed in, and for who was absent or is excused; so are the other figures.</param>
public sealed record ResultLine(
    string Name,
    string State,
    long? Attempt,
    string Counts,
    DateTimeOffset? Started,
    DateTimeOffset? HandedIn,
    decimal? Score,
    decimal? Possible,
    decimal? Grade,
    decimal? MaximumGrade,
    decimal? Together
);

/// <summary>The table of results as comma-separated values (RFC 4180), in UTF-8 with a byte order mark for spreadsheets.</summary>
public static class ResultsTable
{
    /// <param name="headings">Of the columns, in the order of a line's values.</param>
    public static byte[] Write(IReadOnlyList<string> headings, IEnumerable<ResultLine> lines)
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
            foreach (var heading in headings)
                csv.WriteField(heading);
            csv.NextRecord();
            foreach (var line in lines)
            {
                csv.WriteField(line.Name);
                csv.WriteField(line.State);
                csv.WriteField(Number(line.Attempt));
                csv.WriteField(line.Counts);
                csv.WriteField(Time(line.Started));
                csv.WriteField(Time(line.HandedIn));
                csv.WriteField(Number(line.Score));
                csv.WriteField(Number(line.Possible));
                csv.WriteField(Number(line.Grade));
                csv.WriteField(Number(line.MaximumGrade));
                csv.WriteField(Number(line.Together));
                csv.NextRecord();
            }
        }
        return stream.ToArray();
    }

    private static string Time(DateTimeOffset? time) =>
        time?.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture) ?? "";

    private static string Number(decimal? number) => number?.ToString("0.####", CultureInfo.InvariantCulture) ?? "";
}
