using System.Data;
using Dapper;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Store;

/// <summary>What lists show of an activity, and what a search looks at.</summary>
internal sealed record ActivitySummary(
    string PrivateName,
    bool IsStarter,
    string? Media,
    string AltText,
    int Panes,
    int Targets,
    string Language,
    string Kinds,
    IReadOnlyList<string> Subjects,
    string Search
)
{
    public static ActivitySummary Of(Activity activity)
    {
        var picture = activity.Panes.Select(pane => pane.Picture).FirstOrDefault(picture => picture is not null);
        IEnumerable<string> texts =
        [
            activity.Title,
            activity.PrivateName,
            activity.Description,
            .. activity.Keywords,
            .. activity.Panes.SelectMany(pane => pane.Labels).Select(label => label.Text),
        ];
        return new(
            activity.PrivateName,
            activity.IsStarter,
            picture?.Media,
            picture?.AltText ?? "",
            activity.Panes.Length,
            activity.Panes.Sum(pane => pane.Targets.Length),
            activity.Language,
            $" {string.Join(' ', activity.Panes.SelectMany(pane => pane.Targets).Select(KindNameAttribute.Of).Distinct())} ",
            [.. activity.Keywords.Distinct(StringComparer.OrdinalIgnoreCase)],
            Fold(string.Join('\n', texts.Where(text => text != "").Distinct()))
        );
    }

    /// <summary>A text as it is searched: without capitals and accents.</summary>
    public static string Fold(string text) =>
        string.Join('\n', text.Split('\n').Select(line => Spellings.Fold(line, new SpellingRules(IgnoreAccents: true))));

    public void Store(IDbConnection connection, long teacher, long activity)
    {
        connection.Execute(
            """
            update activity
            set private_name = @PrivateName, is_starter = @IsStarter, media = @Media, alt_text = @AltText,
                panes = @Panes, targets = @Targets, language = @Language, kinds = @Kinds, search = @Search
            where id = @activity;
            delete from activity_subject
            where teacher_id = @teacher and activity_id = @activity
            """,
            new
            {
                PrivateName,
                IsStarter,
                Media,
                AltText,
                Panes,
                Targets,
                Language,
                Kinds,
                Search,
                teacher,
                activity,
            }
        );
        connection.Execute(
            """
            insert into activity_subject (teacher_id, subject, activity_id)
            values (@teacher, @subject, @activity)
            on conflict do nothing
            """,
            Subjects.Select(subject => new
            {
                teacher,
                subject,
                activity,
            })
        );
    }
}
