using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Fenster.Core.Model;

namespace Fenster.Formats.Tables;

/// <summary>What a column of a list of names holds.</summary>
public enum ColumnMeaning
{
    LeftOut,
    Name,
    FirstName,
    Surname,
    Tag,
}

/// <summary>A name that was read, or why it is none.</summary>
/// <param name="Name">As it is written in one piece, tidied.</param>
/// <param name="Tags">One a line.</param>
/// <param name="Fault">Null when it can be taken.</param>
public sealed record ListedName(string Name, string Tags, NameFault? Fault);

/// <summary>
/// A list of names as a teacher has it: a name a line, or a table of any usual shape, with commas, semicolons or tabs, with a heading
/// or without, with names in one column or in two.
/// </summary>
public sealed class ClassList
{
    /// <summary>The most characters, rows and columns that are read.</summary>
    public const int MostCharacters = 500_000;
    public const int MostRows = 5000;
    private const int MostColumns = 30;

    static ClassList() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    private ClassList(
        ImmutableArray<ImmutableArray<string>> rows,
        ImmutableArray<string> headings,
        ImmutableArray<ColumnMeaning> meanings
    ) => (Rows, Headings, Meanings) = (rows, headings, meanings);

    /// <summary>Without a heading; each has as many cells as there are columns.</summary>
    public ImmutableArray<ImmutableArray<string>> Rows { get; }

    /// <summary>Of the columns; empty where the list has none.</summary>
    public ImmutableArray<string> Headings { get; }

    /// <summary>What the columns seem to hold.</summary>
    public ImmutableArray<ColumnMeaning> Meanings { get; }

    /// <summary>A file as text: UTF-8 with its mark or without, UTF-16 with its mark, or else Windows-1252.</summary>
    /// <returns>Null when it is no text, such as a spreadsheet's own file.</returns>
    public static string? Decode(byte[] bytes) => Decoded(bytes) is { } text ? SoundText.Of(text) : null;

    private static string? Decoded(byte[] bytes)
    {
        if (bytes is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..])
            return (bytes[0] == 0xFF ? Encoding.Unicode : Encoding.BigEndianUnicode).GetString(bytes, 2, bytes.Length - 2);
        if (bytes.Contains((byte)0))
            return null;
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes is [0xEF, 0xBB, 0xBF, ..] ? bytes[3..] : bytes);
        }
        catch (DecoderFallbackException)
        {
            return Encoding.GetEncoding(1252).GetString(bytes);
        }
    }

    public static ClassList Read(string text)
    {
        var lines = Cells(text);
        var columns = lines.Select(line => line.Length).DefaultIfEmpty(0).Max();
        var rows = lines.Select(line => (ImmutableArray<string>)[.. line, .. Enumerable.Repeat("", columns - line.Length)]).ToList();
        var known = rows.Count == 0 ? [] : rows[0].Select(Known).ToList();
        var hasHeading = known.Any(meaning => meaning is not (null or ColumnMeaning.Tag)) && rows.Count > 1;
        var headings = hasHeading ? rows[0] : [];
        var body = rows.Skip(hasHeading ? 1 : 0).Take(MostRows).ToImmutableArray();
        return new(body, headings, hasHeading ? Told(known, body) : Guessed(body, columns));
    }

    /// <summary>The names under what the columns are said to hold, in the order of the list; empty lines are left out.</summary>
    public IEnumerable<ListedName> Names(IReadOnlyList<ColumnMeaning> meanings)
    {
        foreach (var row in Rows)
        {
            string Of(ColumnMeaning meaning) =>
                string.Join(' ', row.Where((cell, i) => i < meanings.Count && meanings[i] == meaning && cell != ""));
            var whole = string.Join(
                ' ',
                ((string[])[Of(ColumnMeaning.FirstName), Turned(Of(ColumnMeaning.Name)), Of(ColumnMeaning.Surname)]).Where(part =>
                    part != ""
                )
            );
            if (whole == "")
                continue;
            var (name, fault) = PersonName.Tidy(whole);
            // What a spreadsheet would work out is nobody's name.
            if (fault is null && name[0] is '=' or '+' or '@' or '-')
                fault = NameFault.Unreadable;
            var tags = row.Where((cell, i) => i < meanings.Count && meanings[i] == ColumnMeaning.Tag && cell != "");
            yield return new(name, string.Join('\n', tags), fault);
        }
    }

    /// <summary>"Low, Mia" is Mia Low.</summary>
    private static string Turned(string name) =>
        name.Split(',') is [{ Length: > 0 } surname, { Length: > 0 } first] ? $"{first.Trim()} {surname.Trim()}" : name;

    private static List<string[]> Cells(string text)
    {
        text = text.Length > MostCharacters ? text[..MostCharacters] : text;
        var delimiter = Delimiter(text);
        var rows = new List<string[]>();
        // A list with one name a line may have commas within a name.
        if (delimiter is null)
        {
            foreach (var line in text.Split('\n'))
                if (line.Trim().Trim('"') is { Length: > 0 } cell)
                    rows.Add([cell.Trim()]);
            return rows;
        }
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            Delimiter = delimiter,
            BadDataFound = null,
            MissingFieldFound = null,
            TrimOptions = TrimOptions.Trim,
        };
        using var parser = new CsvParser(new StringReader(text), configuration);
        while (rows.Count <= MostRows && parser.Read())
            if (parser.Record is { } record && record.Any(cell => cell.Trim() != ""))
                rows.Add([.. record.Take(MostColumns).Select(cell => cell.Trim())]);
        return rows;
    }

    /// <summary>The sign that stands as often in nearly every line; null for a list with a name a line.</summary>
    private static string? Delimiter(string text)
    {
        var lines = text.Split('\n').Where(line => line.Trim() != "").Take(50).ToList();
        return ((string[])["\t", ";", ","])
            .Where(delimiter =>
            {
                var counts = lines.Select(line => Outside(line, delimiter[0])).ToList();
                // A single comma in each line divides a surname from what follows it as well as two columns.
                return counts.Count > 0
                    && counts.Count(count => count > 0) * 10 >= counts.Count * 9
                    && (
                        delimiter != ","
                        || lines.Any(line => line.Contains('"'))
                        || counts.Max() > 1
                        || Known(lines[0].Split(',')[0]) is not null
                        || counts.All(count => count == 1) && !lines.Any(line => line.Contains(", ", StringComparison.Ordinal))
                    );
            })
            .FirstOrDefault();
    }

    private static int Outside(string line, char delimiter)
    {
        var (count, isQuoted) = (0, false);
        foreach (var character in line)
            if (character == '"')
                isQuoted = !isQuoted;
            else if (character == delimiter && !isQuoted)
                count++;
        return count;
    }

    // Common headings of lists in the languages of the pages, folded. From memory.
    private static readonly Dictionary<string, ColumnMeaning> Headed = new(StringComparer.OrdinalIgnoreCase)
    {
        ["name"] = ColumnMeaning.Name,
        ["full name"] = ColumnMeaning.Name,
        ["student"] = ColumnMeaning.Name,
        ["student name"] = ColumnMeaning.Name,
        ["pupil"] = ColumnMeaning.Name,
        ["schüler"] = ColumnMeaning.Name,
        ["schülerin"] = ColumnMeaning.Name,
        ["schüler/in"] = ColumnMeaning.Name,
        ["élève"] = ColumnMeaning.Name,
        ["alumno"] = ColumnMeaning.Name,
        ["nombre completo"] = ColumnMeaning.Name,
        ["nom complet"] = ColumnMeaning.Name,
        ["الاسم"] = ColumnMeaning.Name,
        ["اسم"] = ColumnMeaning.Name,
        ["الاسم الكامل"] = ColumnMeaning.Name,
        ["first name"] = ColumnMeaning.FirstName,
        ["firstname"] = ColumnMeaning.FirstName,
        ["given name"] = ColumnMeaning.FirstName,
        ["forename"] = ColumnMeaning.FirstName,
        ["vorname"] = ColumnMeaning.FirstName,
        ["rufname"] = ColumnMeaning.FirstName,
        ["prénom"] = ColumnMeaning.FirstName,
        ["prenom"] = ColumnMeaning.FirstName,
        ["nombre"] = ColumnMeaning.FirstName,
        ["الاسم الأول"] = ColumnMeaning.FirstName,
        ["surname"] = ColumnMeaning.Surname,
        ["last name"] = ColumnMeaning.Surname,
        ["lastname"] = ColumnMeaning.Surname,
        ["family name"] = ColumnMeaning.Surname,
        ["nachname"] = ColumnMeaning.Surname,
        ["familienname"] = ColumnMeaning.Surname,
        ["nom"] = ColumnMeaning.Surname,
        ["nom de famille"] = ColumnMeaning.Surname,
        ["apellido"] = ColumnMeaning.Surname,
        ["apellidos"] = ColumnMeaning.Surname,
        ["اللقب"] = ColumnMeaning.Surname,
        ["اسم العائلة"] = ColumnMeaning.Surname,
        ["class"] = ColumnMeaning.Tag,
        ["group"] = ColumnMeaning.Tag,
        ["tag"] = ColumnMeaning.Tag,
        ["klasse"] = ColumnMeaning.Tag,
        ["gruppe"] = ColumnMeaning.Tag,
        ["classe"] = ColumnMeaning.Tag,
        ["groupe"] = ColumnMeaning.Tag,
        ["clase"] = ColumnMeaning.Tag,
        ["grupo"] = ColumnMeaning.Tag,
    };

    private static ColumnMeaning? Known(string heading) =>
        Headed.TryGetValue(heading.Trim().Trim('"', '\u200F', '\u200E').Normalize(), out var meaning) ? meaning : null;

    /// <summary>What a heading says; a first name without a surname is the whole name.</summary>
    private static ImmutableArray<ColumnMeaning> Told(List<ColumnMeaning?> known, ImmutableArray<ImmutableArray<string>> rows)
    {
        var hasBoth = known.Contains(ColumnMeaning.FirstName) && known.Contains(ColumnMeaning.Surname);
        var hasName = known.Contains(ColumnMeaning.Name);
        return
        [
            .. known.Select(
                (meaning, i) =>
                    meaning switch
                    {
                        // Beside a surname, the heading "name" means the first one.
                        ColumnMeaning.Name when known.Contains(ColumnMeaning.Surname) && !hasBoth => ColumnMeaning.FirstName,
                        ColumnMeaning.Name when known.Contains(ColumnMeaning.FirstName) && !hasBoth => ColumnMeaning.Surname,
                        ColumnMeaning.FirstName or ColumnMeaning.Surname when hasBoth && hasName => ColumnMeaning.LeftOut,
                        ColumnMeaning.FirstName or ColumnMeaning.Surname when !hasBoth && !hasName => ColumnMeaning.Name,
                        null => ColumnMeaning.LeftOut,
                        { } told => told,
                    }
            ),
        ];
    }

    /// <summary>
    /// What the columns of a list without a heading seem to hold: two columns of letters are a surname and a first name, in the order
    /// that most lists have; one is the name.
    /// </summary>
    private static ImmutableArray<ColumnMeaning> Guessed(ImmutableArray<ImmutableArray<string>> rows, int columns)
    {
        var lettered = Enumerable
            .Range(0, columns)
            .Where(i =>
                rows.Count(row => row[i].Any(char.IsLetter) && !row[i].Any(char.IsDigit) && !row[i].Contains('@')) * 10 >= rows.Length * 8
            )
            .ToList();
        var isTwo =
            lettered.Count >= 2
            && lettered[1] == lettered[0] + 1
            && !rows.Any(row => row[lettered[0]].Contains(' ') && row[lettered[1]] == "");
        return
        [
            .. Enumerable
                .Range(0, columns)
                .Select(i =>
                    columns == 1 ? ColumnMeaning.Name
                    : lettered.Count == 0 || i != lettered[0] && (!isTwo || i != lettered[1]) ? ColumnMeaning.LeftOut
                    : !isTwo ? ColumnMeaning.Name
                    : i == lettered[0] ? ColumnMeaning.Surname
                    : ColumnMeaning.FirstName
                ),
        ];
    }
}
