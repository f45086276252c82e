using System.Data;
using System.Security.Cryptography;
using Dapper;
using Fenster.Core.Model;

namespace Fenster.Store;

/// <summary>Pictures of students that are shown to their class.</summary>
/// <param name="Until">When it closes by itself.</param>
/// <param name="ShowsNames">Whether it says whose each is.</param>
/// <param name="Pieces">In an order that tells nothing of who made them; the withdrawn ones too.</param>
public sealed record Gallery(DateTimeOffset OpenedAt, DateTimeOffset Until, bool ShowsNames, IReadOnlyList<GalleryPiece> Pieces)
{
    public bool IsOpenAt(DateTimeOffset at) => OpenedAt <= at && at < Until;
}

/// <param name="Pane">Id of the pane that it was made on.</param>
public sealed record GalleryPiece(long AttemptId, string Pane, string Name, bool IsWithdrawn);

/// <summary>A piece as the class sees it: the files under names that are the gallery's own.</summary>
/// <param name="Name">Whose it is; null where that is not said.</param>
/// <param name="IsOwn">Whether it is of who looks.</param>
public sealed record ShownPiece(long AttemptId, string Pane, string? Name, bool IsOwn, IReadOnlyDictionary<string, string> Files);

/// <summary>
/// Opens, closes and reads galleries. Until one is open, nothing leads from one student to another's work; a piece that is withdrawn is gone
/// at once, its files too.
/// </summary>
public sealed class Galleries(Database database, TimeProvider clock)
{
    private const string IsOpen = "gallery.opened_at <= @now and gallery.until > @now";

    /// <summary>Of a piece, its gallery and its attempt: whether anybody may see it at <c>@now</c>.</summary>
    internal const string IsShown =
        $"{IsOpen} and gallery_piece.withdrawn_at is null and attempt.deleted_at is null and attempt.handed_in_at is not null";

    public Gallery? Of(long assignment) => database.Read(connection => Of(connection, assignment));

    private static Gallery? Of(IDbConnection connection, long assignment)
    {
        if (
            connection.QuerySingleOrDefault<Row>(
                "select opened_at, until, shows_names from gallery where assignment_id = @assignment",
                new { assignment }
            )
            is not { } row
        )
            return null;
        var pieces = connection
            .Query<PieceRow>(
                """
                select gallery_piece.attempt_id, gallery_piece.pane, coalesce(member.name, student.name) as name,
                       gallery_piece.withdrawn_at is not null as is_withdrawn
                from gallery_piece
                join attempt on attempt.id = gallery_piece.attempt_id and attempt.deleted_at is null and attempt.handed_in_at is not null
                join student on student.id = attempt.student_id
                left join member on member.id = student.member_id
                where gallery_piece.assignment_id = @assignment
                order by gallery_piece.place
                """,
                new { assignment }
            )
            .Select(piece => new GalleryPiece(piece.AttemptId, piece.Pane, piece.Name, piece.IsWithdrawn));
        return new(row.OpenedAt, row.Until, row.ShowsNames, [.. pieces]);
    }

    private sealed record Row
    {
        public DateTimeOffset OpenedAt { get; init; }
        public DateTimeOffset Until { get; init; }
        public bool ShowsNames { get; init; }
    }

    private sealed record PieceRow
    {
        public long AttemptId { get; init; }
        public required string Pane { get; init; }
        public required string Name { get; init; }
        public bool IsWithdrawn { get; init; }
    }

    /// <summary>
    /// Opens a gallery, or changes one. A piece that was withdrawn stays withdrawn unless it is named again; one that is not named is
    /// withdrawn.
    /// </summary>
    /// <param name="pieces">Work that is handed in, with what it shows.</param>
    /// <param name="among">The attempts of which that is said; those of others stay as they are. Null for all.</param>
    public void Open(
        long assignment,
        DateTimeOffset until,
        bool showsNames,
        IEnumerable<(long Attempt, string Pane, IReadOnlyList<string> Files)> pieces,
        IReadOnlyCollection<long>? among = null
    ) =>
        database.Write(connection =>
        {
            var now = clock.GetUtcNow();
            connection.Execute(
                """
                insert into gallery (assignment_id, opened_at, until, shows_names)
                values (@assignment, @now, @until, @showsNames)
                on conflict (assignment_id) do update set opened_at = min(opened_at, @now), until = @until, shows_names = @showsNames
                """,
                new
                {
                    assignment,
                    now,
                    until,
                    showsNames,
                }
            );
            var those = among is null ? "assignment_id = @assignment" : "assignment_id = @assignment and attempt_id in @among";
            connection.Execute(
                $"""
                update gallery_piece set withdrawn_at = coalesce(withdrawn_at, @now) where {those};
                delete from gallery_file where {those}
                """,
                new
                {
                    assignment,
                    now,
                    among,
                }
            );
            foreach (var (attempt, pane, files) in pieces)
            {
                connection.Execute(
                    """
                    insert into gallery_piece (assignment_id, attempt_id, pane, place)
                    values (@assignment, @attempt, @pane, @place)
                    on conflict do update set withdrawn_at = null
                    """,
                    new
                    {
                        assignment,
                        attempt,
                        pane,
                        place = RandomNumberGenerator.GetInt32(int.MaxValue),
                    }
                );
                foreach (var file in files)
                    connection.Execute(
                        """
                        insert into gallery_file (name, file, assignment_id, attempt_id, pane)
                        select @name, own_file.name, @assignment, @attempt, @pane
                        from own_file
                        where own_file.name = @file and own_file.attempt_id = @attempt
                        """,
                        new
                        {
                            name = OwnFiles.NewName(),
                            file,
                            assignment,
                            attempt,
                            pane,
                        }
                    );
            }
            return 0;
        });

    /// <summary>Takes a piece away at once; false when there is none that is shown.</summary>
    public bool Withdraw(long assignment, long attempt, string pane) =>
        database.Write(connection =>
        {
            var parameters = new
            {
                assignment,
                attempt,
                pane,
                now = clock.GetUtcNow(),
            };
            connection.Execute(
                "delete from gallery_file where assignment_id = @assignment and attempt_id = @attempt and pane = @pane",
                parameters
            );
            return connection.Execute(
                    """
                    update gallery_piece
                    set withdrawn_at = @now
                    where assignment_id = @assignment and attempt_id = @attempt and pane = @pane and withdrawn_at is null
                    """,
                    parameters
                ) == 1;
        });

    /// <summary>Closes it at once; false when there is none that is open.</summary>
    public bool Close(long assignment) =>
        database.Write(connection =>
            connection.Execute(
                "update gallery set until = @now where assignment_id = @assignment and until > @now",
                new { assignment, now = clock.GetUtcNow() }
            ) == 1
        );

    /// <summary>Whether there is a gallery that <see cref="ShownTo"/> shows, without reading it.</summary>
    public bool IsOpenTo(Student student) =>
        student.MemberId is not null
        && database.Read(connection =>
            connection.ExecuteScalar<bool>(
                $"select exists (select 1 from gallery where assignment_id = @AssignmentId and {IsOpen})",
                new { student.AssignmentId, now = clock.GetUtcNow() }
            )
        );

    /// <summary>
    /// What a member of the class may see; null where no gallery is open to them. Guests see none: it is for members alone.
    /// </summary>
    public IReadOnlyList<ShownPiece>? ShownTo(Student student) =>
        student.MemberId is null
            ? null
            : database.Read(connection =>
                Of(connection, student.AssignmentId) is { } gallery && gallery.IsOpenAt(clock.GetUtcNow())
                    ? (IReadOnlyList<ShownPiece>)[.. Shown(connection, gallery, student)]
                    : null
            );

    private static IEnumerable<ShownPiece> Shown(IDbConnection connection, Gallery gallery, Student student)
    {
        var files = connection
            .Query<(string Name, string File, long Attempt, string Pane)>(
                "select name, file, attempt_id, pane from gallery_file where assignment_id = @AssignmentId",
                new { student.AssignmentId }
            )
            .ToLookup(file => (file.Attempt, file.Pane));
        var own = connection.Query<long>("select id from attempt where student_id = @Id", new { student.Id }).ToHashSet();
        return gallery
            .Pieces.Where(piece => !piece.IsWithdrawn)
            .Select(piece => new ShownPiece(
                piece.AttemptId,
                piece.Pane,
                gallery.ShowsNames ? piece.Name : null,
                own.Contains(piece.AttemptId),
                files[(piece.AttemptId, piece.Pane)].ToDictionary(file => file.File, file => file.Name)
            ));
    }

    /// <summary>The work of a piece under the names that the class has for its files; a file that has none is left out.</summary>
    public static OwnWork UnderNamesOf(ShownPiece piece, OwnWork work) =>
        work with
        {
            Picture =
                work.Picture is { } picture && piece.Files.TryGetValue(picture.Media, out var name) ? picture with { Media = name } : null,
            Spots =
            [
                .. work.Spots.Select(spot =>
                    spot.Face is { } face
                        ? spot with
                        {
                            Face = piece.Files.TryGetValue(face.Media, out var other) ? face with { Media = other } : null,
                        }
                        : spot
                ),
            ],
        };
}
