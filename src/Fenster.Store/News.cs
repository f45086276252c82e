using Dapper;
using Fenster.Core.Geometry;

namespace Fenster.Store;

/// <summary>Something that a teacher tells students while they work.</summary>
public sealed record NewsLine
{
    public long Id { get; init; }
    public required string Text { get; init; }
    public string? Pane { get; init; }
    internal double? X { get; init; }
    internal double? Y { get; init; }

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
        database.Read(connection =>
            connection
                .Query<NewsLine>(
                    """
                    select id, text, pane, x, y
                    from news
                    where assignment_id = @AssignmentId and id > @after and (attempt_id is null or attempt_id = @Id) and at >= @StartedAt
                    order by id
                    """,
                    new
                    {
                        attempt.AssignmentId,
                        after,
                        attempt.Id,
                        attempt.StartedAt,
                    }
                )
                .AsList()
        );
}
