using System.Globalization;
using ClosedXML.Excel;
using CsvHelper;
using CsvHelper.Configuration;
using Fenster.Core.Model;

namespace Fenster.Formats.Tables;

/// <summary>A table of results: headings, and lines of as many cells.</summary>
/// <param name="Lines">A cell is a text, a decimal number, a moment by the clock of whoever reads it, or null for nothing.</param>
public sealed record ResultsTable(IReadOnlyList<string> Headings, IReadOnlyList<IReadOnlyList<object?>> Lines)
{
    /// <summary>
    /// As comma-separated values (RFC 4180), in UTF-8 with a byte order mark for spreadsheets. Where the language writes decimals with a
    /// comma, fields are separated by semicolons, as its spreadsheets expect.
    /// </summary>
    public byte[] Csv(CultureInfo culture)
    {
        using var stream = new MemoryStream();
        using (var text = new StreamWriter(stream, new System.Text.UTF8Encoding(encoderShouldEmitUTF8Identifier: true)))
        using (
            var csv = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    NewLine = "\r\n",
                    // A line end within a cell is the cell's (RFC 4180, 2.6), whichever sign it is.
                    ShouldQuote = field => ConfigurationFunctions.ShouldQuote(field) || field.Field?.AsSpan().IndexOfAny('\n', '\r') >= 0,
                    Delimiter = culture.NumberFormat.NumberDecimalSeparator == "," ? ";" : ",",
                    // A name such as "=1+1" stays a name when a spreadsheet opens the file.
                    InjectionOptions = InjectionOptions.Escape,
                    InjectionCharacters = ['=', '@', '+', '-', '\t', '\r', '＝', '＠', '＋', '－'],
                }
            )
        )
        {
            foreach (var heading in Headings)
                csv.WriteField(heading);
            csv.NextRecord();
            foreach (var line in Lines)
            {
                foreach (var cell in line)
                    csv.WriteField(
                        cell switch
                        {
                            null => "",
                            decimal number => number.ToString("0.####", culture),
                            DateTime time => time.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
                            _ => $"{cell}",
                        }
                    );
                csv.NextRecord();
            }
        }
        return stream.ToArray();
    }

    /// <summary>As a spreadsheet (Office Open XML): numbers and times are such, the heading stands fast, texts are never formulas.</summary>
    /// <param name="name">Of the sheet.</param>
    public byte[] Spreadsheet(string name)
    {
        using var book = new XLWorkbook();
        var sheet = book.Worksheets.Add(NameOf(name));
        for (var column = 0; column < Headings.Count; column++)
        {
            Put(sheet.Cell(1, column + 1), Headings[column]);
            sheet.Cell(1, column + 1).Style.Font.Bold = true;
            // As wide as what stands in it, within reason; a font is not measured, since the server has none.
            var longest = Lines.Select(line => $"{line[column]}".Length).Append(Headings[column].Length).Max();
            sheet.Column(column + 1).Width = Math.Clamp(longest + 2, 8, 48);
        }
        for (var row = 0; row < Lines.Count; row++)
        for (var column = 0; column < Headings.Count; column++)
            Put(sheet.Cell(row + 2, column + 1), Lines[row][column]);
        sheet.SheetView.FreezeRows(1);
        using var stream = new MemoryStream();
        book.SaveAs(stream);
        return stream.ToArray();
    }

    private static void Put(IXLCell cell, object? value)
    {
        switch (value)
        {
            case decimal number:
                cell.SetValue((double)number);
                cell.Style.NumberFormat.Format = "0.####";
                break;
            case DateTime time:
                cell.SetValue(time);
                cell.Style.DateFormat.Format = "yyyy-mm-dd hh:mm:ss";
                break;
            case string { Length: > 0 } text:
                // Whatever it looks like, it is a text.
                cell.SetValue(Readable(text));
                cell.DataType = XLDataType.Text;
                cell.Style.IncludeQuotePrefix = text[0] is '=' or '+' or '-' or '@';
                break;
        }
    }

    private const int LongestCell = 32_767;

    /// <summary>Of a sheet, in characters.</summary>
    private const int LongestName = 31;

    /// <summary>Without what XML can't hold, and not longer than a cell may be.</summary>
    private static string Readable(string text)
    {
        return SoundText.Beginning(SoundText.Of(text), LongestCell);
    }

    private static string NameOf(string name)
    {
        var plain = string.Concat(SoundText.Of(name).Where(letter => letter >= ' ' && !"[]:*?/\\'".Contains(letter))).Trim();
        return plain.Length == 0 ? "Fenster" : SoundText.Beginning(plain, LongestName);
    }
}
