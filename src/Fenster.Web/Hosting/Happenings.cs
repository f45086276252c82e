namespace Fenster.Web.Hosting;

/// <summary>What the log says of who did what: numbers, no names or addresses.</summary>
internal static partial class Happenings
{
    [LoggerMessage(1, LogLevel.Information, "Teacher {Teacher} signed in.")]
    public static partial void SignedIn(ILogger log, long teacher);

    [LoggerMessage(2, LogLevel.Warning, "A wrong password for teacher {Teacher} (0: nobody here).")]
    public static partial void SignInFailed(ILogger log, long teacher);

    [LoggerMessage(3, LogLevel.Information, "Teacher {Teacher} changed the password of teacher {Whose}.")]
    public static partial void PasswordChanged(ILogger log, long teacher, long whose);

    [LoggerMessage(4, LogLevel.Information, "Teacher {Teacher} made a link for the password of teacher {Whose}.")]
    public static partial void LinkMade(ILogger log, long teacher, long whose);

    [LoggerMessage(5, LogLevel.Information, "Teacher {Teacher} gave teacher {Whose} the role {Role}.")]
    public static partial void RoleGiven(ILogger log, long teacher, long whose, string role);

    [LoggerMessage(6, LogLevel.Information, "Teacher {Teacher} added teacher {Whose}.")]
    public static partial void TeacherAdded(ILogger log, long teacher, long whose);

    [LoggerMessage(7, LogLevel.Information, "Teacher {Teacher} removed teacher {Whose}; the work went to teacher {Heir} (0: deleted).")]
    public static partial void TeacherRemoved(ILogger log, long teacher, long whose, long heir);

    [LoggerMessage(8, LogLevel.Information, "Teacher {Teacher} deleted {Kind} {Id}.")]
    public static partial void WasDeleted(ILogger log, long teacher, string kind, long id);

    [LoggerMessage(9, LogLevel.Information, "Teacher {Teacher} brought {Kind} {Id} back.")]
    public static partial void BroughtBack(ILogger log, long teacher, string kind, long id);

    [LoggerMessage(10, LogLevel.Information, "Gone for good: {Count} things.")]
    public static partial void Swept(ILogger log, int count);

    [LoggerMessage(11, LogLevel.Error, "Sweeping failed; it is tried again tomorrow.")]
    public static partial void SweepFailed(ILogger log, Exception exception);

    [LoggerMessage(13, LogLevel.Error, "Handing in what ran out failed; it is tried again in a second.")]
    public static partial void HandingInFailed(ILogger log, Exception exception);

    [LoggerMessage(14, LogLevel.Error, "Attempt {Attempt} could not be handed in when its time was over; it is tried again in a minute.")]
    public static partial void HandingInOneFailed(ILogger log, long attempt, Exception exception);

    [LoggerMessage(12, LogLevel.Information, "Attempt {Attempt} was handed in.")]
    public static partial void HandedIn(ILogger log, long attempt);
}
