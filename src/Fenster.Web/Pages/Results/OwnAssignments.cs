using Fenster.Store;

namespace Fenster.Web.Pages;

/// <summary>What a teacher gave, as the addresses of pages name it.</summary>
public sealed class OwnAssignments(Drafts drafts, Assignments assignments)
{
    /// <summary>An assignment of a teacher's activity, with the activity's title; null when there is none.</summary>
    public (string Title, Assignment Assignment)? Find(long teacher, long activity, long assignment) =>
        drafts.TitleOf(teacher, activity) is { } title && assignments.One(assignment) is { } found && found.ActivityId == activity
            ? (title, found)
            : null;
}
