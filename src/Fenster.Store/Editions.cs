using System.Data;
using Dapper;

namespace Fenster.Store;

/// <summary>
/// The one counter of an attempt that goes up with whatever changes it: moves, checks, handing in, points, remarks, regrades, releases,
/// its end, whose it is. Who stores what was worked out from an attempt claims the edition that was read, in the transaction that stores
/// it; who keeps one in memory compares the edition, and nothing else.
/// </summary>
internal static class Editions
{
    /// <summary>In an <c>update</c> of attempts: each that is changed gets a new edition.</summary>
    public const string Raised = "edition = edition + 1";

    /// <summary>Whether an attempt is still what was read; it has a new edition then.</summary>
    public static bool Claim(IDbConnection connection, Attempt read) =>
        connection.Execute(
            $"update attempt set {Raised} where id = @Id and identity = @Identity and edition = @Edition and deleted_at is null",
            read
        ) == 1;

    /// <summary>Attempts of a student have changed by what is kept of the student, such as the name or the device.</summary>
    public static void RaiseOf(IDbConnection connection, long student) =>
        connection.Execute($"update attempt set {Raised} where student_id = @student", new { student });

    /// <inheritdoc cref="RaiseOf"/>
    public static void RaiseOfMember(IDbConnection connection, long member) =>
        connection.Execute(
            $"update attempt set {Raised} where student_id in (select id from student where member_id = @member)",
            new { member }
        );
}
