using Dapper;
using Fenster.Core.Geometry;

namespace Fenster.Store;

/// <summary>Something that a teacher tells students while they work.</summary>
public sealed record NewsLine
{
    public long Id { get; init; }

    /// <summary>Null for everybody.</summary>
    public long? AttemptId { get; init; }
    public required string Text { get; init; }
    public string? Pane { get; init; }
    internal double? X { get; init; }
    internal double? Y { get; init; }
    public required string Teacher { get; init; }
    public DateTimeOffset At { get; init; }

    /// <summary>In pu; null for no spot.</summary>
    public Point? Spot => this is { X: { } x, Y: { } y } ? new(x, y) : null;
}

/// <summary>What teachers tell students while they work. It is kept with the assignment.</summary>
public sealed class News(Database database, TimeProvider clock)
{
    public const int LongestText = 500;

    /// <param name="attempt">Null for everybody.</param>
    /// <param name="text">Empty for a spot alone.</param>
    public void Tell(long teacher, long assignment, long? attempt, string text, string? pane = null, Point? spot = null) =>
        database.Write(connection =>
            connection.Execute(
                """
                insert into news (assignment_id, attempt_id, text, pane, x, y, teacher_id, at)
                values (@assignment, @attempt, @text, @pane, @x, @y, @teacher, @now)
                """,
                new
                {
                    assignment,
                    attempt,
                    text,
                    pane,
                    x = spot?.X,
                    y = spot?.Y,
                    teacher,
                    now = clock.GetUtcNow(),
                }
            )
        );

    /// <summary>What an attempt was told since, the first first; nothing of before it was begun.</summary>
    /// <param name="after">The number of the last that is known.</param>
    public IReadOnlyList<NewsLine> For(Attempt attempt, long after) =>
        Lines(
            "news.id > @after and (news.attempt_id is null or news.attempt_id = @attempt) and news.at >= @started",
            attempt.AssignmentId,
            after,
            attempt.Id,
            attempt.StartedAt
        );

    /// <summary>All that was told at an assignment, the first first.</summary>
    public IReadOnlyList<NewsLine> Of(long assignment) => Lines("true", assignment, 0, 0, default);

    private List<NewsLine> Lines(string where, long assignment, long after, long attempt, DateTimeOffset started) =>
        database.Read(connection =>
            connection
                .Query<NewsLine>(
                    $"""
                    select news.id, news.attempt_id, news.text, news.pane, news.x, news.y, teacher.name as teacher, news.at
                    from news
                    join teacher on teacher.id = news.teacher_id
                    where news.assignment_id = @assignment and {where}
                    order by news.id
                    """,
                    new
                    {
                        assignment,
                        after,
                        attempt,
                        started,
                    }
                )
                .AsList()
        );
}
