// ./fenster storm: what becomes of a class's work while the server dies again and again.
// ./fenster walks: whole attempts by the accessibility tree, by keyboard and by touch alone.
// ./fenster reading: how well printed names are read.
// ./fenster bench [NAME…] [--json FILE]: each line beside its own baseline, measured in the same run.

using System.Globalization;
using System.Text.Json;
using Fenster.Bench;

if (args is ["reading"])
    return await ReadingCorpus.Run();
if (args is ["storm"])
    return await Storm.Run();
if (args is ["walks", .. var activities])
    return await Walks.Run(activities);

var names = new List<string>();
string? json = null;
for (var i = 0; i < args.Length; i++)
{
    if (args[i] != "--json")
        names.Add(args[i]);
    else if (++i < args.Length)
        json = args[i];
    else
        return Complain("--json takes a file.");
}

var all = new Dictionary<string, Func<Task<Line[]>>>
{
    ["weight"] = Weight.Measure,
    ["cold"] = Cold.Measure,
    ["open"] = Open.Measure,
    ["lighthouse"] = Lighthouse.Measure,
    ["place"] = Place.Measure,
    ["hand-in"] = HandIn.Measure,
    ["check-hidden"] = Rules.CheckHidden,
    ["regrade"] = Rules.Regrade,
    ["picture-in"] = PictureIn.Measure,
    ["proof"] = Rules.ProofOfHundred,
    ["proof-one-of-twenty"] = Saves.ProofOneOfTwenty,
    ["shelf"] = Lists.Shelf,
    ["results"] = Lists.Results,
    ["insight"] = Lists.Insight,
    ["what-if"] = Lists.WhatIf,
    ["beside"] = Lists.Beside,
    ["wall"] = Wall.Measure,
    ["drag"] = Drag.Measure,
};
if (names.Except(all.Keys).FirstOrDefault() is { } unknown)
    return Complain($"There is no line '{unknown}'. There are: {string.Join(", ", all.Keys)}.");

var lines = new List<Line>();
foreach (var name in names.Count > 0 ? names : [.. all.Keys])
{
    foreach (var line in await all[name]())
    {
        lines.Add(line);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{line.Name, -18} ours {line.Ours, 12:0.##}  baseline {line.Baseline, 12:0.##}  ratio "
                    + $"{line.Ratio, 7:0.###}  target {line.Target, -7}  {(line.Met ? "met" : "NOT MET")}"
            )
        );
    }
}

if (json is not null)
    await File.WriteAllTextAsync(
        json,
        JsonSerializer.Serialize(lines, new JsonSerializerOptions(JsonSerializerDefaults.Web) { WriteIndented = true })
    );
return lines.All(line => line.Met) ? 0 : 1;

static int Complain(string sentence)
{
    Console.Error.WriteLine(sentence);
    return 2;
}
