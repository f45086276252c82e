using System.Data;
using System.Text.RegularExpressions;
using Dapper;
using Fenster.Formats.Bundles;

namespace Fenster.Store;

/// <summary>Which activities show or play a file, or have made a picture from it.</summary>
internal static partial class MediaUse
{
    [GeneratedRegex("\"(?:media|captions)\"\\s*:\\s*\"([0-9a-f]{64})\"")]
    private static partial Regex Shown();

    /// <summary>
    /// Notes the files that a document of an activity names. What earlier ones named stays noted, since the history keeps them.
    /// </summary>
    /// <remarks>
    /// A file is shown only by who brought it in, or where it is shown already: knowing the hash of what lies under somebody's
    /// cover patches does not open it.
    /// </remarks>
    public static void Add(IDbConnection connection, long activity, string document)
    {
        var shown = Shown().Matches(document).Select(match => match.Groups[1].Value).ToHashSet();
        connection.Execute(
            """
            insert into media_use (hash, activity_id, is_shown)
            values (@hash, @activity, @isShown and (
                exists (select 1 from media_use as other where other.hash = @hash and other.is_shown = 1)
                or exists (
                    select 1
                    from media_owner
                    join activity on activity.teacher_id = media_owner.teacher_id
                    where media_owner.hash = @hash and activity.id = @activity)))
            on conflict (hash, activity_id) do update set is_shown = max(is_shown, excluded.is_shown)
            """,
            Bundle
                .HashesIn(document)
                .Select(hash => new
                {
                    hash,
                    activity,
                    isShown = shown.Contains(hash),
                })
        );
    }
}
