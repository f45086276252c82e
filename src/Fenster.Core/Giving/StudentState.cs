namespace Fenster.Core.Giving;

/// <summary>Where a student is at an assignment.</summary>
public enum StudentState
{
    NotBegun,
    Working,
    HandedIn,

    /// <summary>Something of theirs came too late and waits for the teacher's word.</summary>
    Late,

    /// <summary>By the teacher's word; never a score of 0.</summary>
    Absent,

    /// <summary>By the teacher's word; never a score of 0.</summary>
    Excused,
}

public static class StudentStates
{
    /// <summary>A state by its name; null for none.</summary>
    /// <exception cref="ArgumentException">There is no such state.</exception>
    public static StudentState? Read(string? name) => name is null ? null : Enum.Parse<StudentState>(name, ignoreCase: true);

    /// <summary>The teacher's word comes first, then what waits for it, then what the student does.</summary>
    /// <param name="away">What the teacher said; null for nothing.</param>
    /// <param name="begun">How many attempts were begun.</param>
    /// <param name="isWorking">Whether one of them is not handed in.</param>
    /// <param name="late">How many moves came too late.</param>
    public static StudentState Of(StudentState? away, long begun, bool isWorking, long late) =>
        away
        ?? (
            late > 0 ? StudentState.Late
            : isWorking ? StudentState.Working
            : begun > 0 ? StudentState.HandedIn
            : StudentState.NotBegun
        );
}
