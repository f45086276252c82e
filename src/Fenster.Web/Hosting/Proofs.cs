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
    private const int MostRemembered = 128;

    private readonly Lru<string, PaneReading> readings = new(MostRemembered);

    public Reading Of(Activity activity) => Reading.Of(activity, Recall);

    private PaneReading Recall(PaneInQuestion question, Func<PaneReading> read)
    {
        var key = Convert.ToHexString(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(question, DocumentJson.Options)));
        if (!readings.TryGet(key, out var reading))
            readings.Put(key, reading = read());
        return reading;
    }
}
