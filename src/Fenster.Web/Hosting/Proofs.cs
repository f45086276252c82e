using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Formats.Documents;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>The proofs of drafts. What was read of a pane lately is remembered, so that a save proves the pane that it changes.</summary>
public sealed class Proofs
{
    private const int MostRemembered = 512;

    private readonly Lru<(string Pane, ScoreRules? Rules), PaneReading> readings = new(MostRemembered);

    /// <summary>A pane is told from others by what it holds, which is worked out once for as long as it is in memory.</summary>
    private readonly ConditionalWeakTable<Pane, string> hashes = [];

    public Reading Of(Activity activity) => Reading.Of(activity, Recall);

    private PaneReading Recall(PaneInQuestion question, Func<PaneReading> read)
    {
        var key = (hashes.GetValue(question.Pane, HashOf), question.Rules);
        if (!readings.TryGet(key, out var reading))
            readings.Put(key, reading = read());
        return reading;
    }

    private static string HashOf(Pane pane) =>
        Convert.ToHexString(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(pane, DocumentJson.Options)));
}
