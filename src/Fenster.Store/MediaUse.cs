using System.Data;
using Dapper;
using Fenster.Formats.Bundles;

namespace Fenster.Store;

/// <summary>Which activities show or play a file.</summary>
internal static class MediaUse
{
    /// <summary>
    /// Notes the files that a document of an activity names. What earlier ones named stays noted, since the history keeps them.
    /// </summary>
    public static void Add(IDbConnection connection, long activity, string document) =>
        connection.Execute(
            """
            insert into media_use (hash, activity_id)
            values (@hash, @activity)
            on conflict do nothing
            """,
            Bundle.HashesIn(document).Select(hash => new { hash, activity })
        );
}
