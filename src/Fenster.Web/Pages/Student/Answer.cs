using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Words;

namespace Fenster.Web.Pages;

/// <summary>
/// What the server says to moves: the work as it stands, of which only the panes that were worked on are told, and each move that was
/// not made.
/// </summary>
/// <param name="Refused">All other moves that were sent are stored.</param>
/// <param name="IsLate">Whether what was sent came after the end, and waits for the teacher.</param>
/// <param name="Version">How many moves the log has.</param>
/// <param name="Answers">How many answers the work has, by which a browser sees whether it shows the same.</param>
internal sealed record Answer(WorkView Work, ImmutableArray<RefusedView> Refused, bool IsLate, long Version, int Answers)
{
    /// <param name="language">Of the activity.</param>
    public static Answer Of(
        WorkView work,
        IEnumerable<RefusedMove> refused,
        Language language,
        bool isLate = false,
        long version = 0,
        int answers = 0
    ) => new(work, [.. refused.Select(move => new RefusedView(move.Key, language.Say(move.Refusal)))], isLate, version, answers);

    public Task Write(HttpResponse response)
    {
        var body = JsonSerializer.SerializeToUtf8Bytes(this, DocumentJson.Options);
        response.ContentType = "application/json";
        response.ContentLength = body.Length;
        return response.Body.WriteAsync(body).AsTask();
    }
}

/// <param name="Key">Of the move.</param>
internal sealed record RefusedView(string Key, string Sentence);
