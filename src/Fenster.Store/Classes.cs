using System.Data;
using Dapper;
using Fenster.Core.Model;

namespace Fenster.Store;

/// <summary>A list of names that belongs to a teacher, or to several.</summary>
public sealed record SchoolClass
{
    public long Id { get; init; }
    public required string Name { get; init; }

    /// <summary>A BCP 47 tag.</summary>
    public required string Language { get; init; }
    public DateTimeOffset? ArchivedAt { get; init; }

    /// <summary>How many months work is kept after it was archived; null for what the server's operator says.</summary>
    public long? KeepMonths { get; init; }
    public long Members { get; init; }
}

/// <summary>One name in a class.</summary>
public sealed record Member
{
    public long Id { get; init; }
    public long ClassId { get; init; }
    public required string Name { get; init; }

    /// <summary>Two short words by which they come in.</summary>
    public required string Word { get; init; }

    /// <summary>In per cent of a time limit.</summary>
    public long ExtraTime { get; init; }

    /// <summary>One a line.</summary>
    public required string Tags { get; init; }
}

/// <summary>Classes and who is in them.</summary>
public sealed class Classes(Database database, TimeProvider clock)
{
    internal const string MemberColumns = """
        select member.id, member.class_id, member.name, member.word, member.extra_time, member.tags
        from member
        """;

    /// <summary>The most names of one class.</summary>
    public const int MostMembers = 2000;

    private const string Columns = """
        select class.id, class.name, class.language, class.archived_at, class.keep_months,
               (select count(*) from member where member.class_id = class.id and member.removed_at is null) as members
        from class
        join class_teacher on class_teacher.class_id = class.id
        """;

    /// <summary>A teacher's classes, those that are taught before those that are archived.</summary>
    public IReadOnlyList<SchoolClass> Of(long teacher) =>
        database.Read(connection =>
            connection
                .Query<SchoolClass>(
                    $"""
                    {Columns}
                    where class_teacher.teacher_id = @teacher and class.deleted_at is null
                    order by class.archived_at is not null, class.name collate nocase, class.id
                    """,
                    new { teacher }
                )
                .AsList()
        );

    /// <summary>A class of a teacher; null when there is none.</summary>
    public SchoolClass? One(long teacher, long id) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<SchoolClass>(
                $"{Columns} where class_teacher.teacher_id = @teacher and class.id = @id and class.deleted_at is null",
                new { teacher, id }
            )
        );

    /// <summary>In which a class's names are sorted; null when there is no such class.</summary>
    public string? LanguageOf(long id) =>
        database.Read(connection => connection.ExecuteScalar<string?>("select language from class where id = @id", new { id }));

    public long Make(long teacher, string name, string language) =>
        database.Write(connection =>
        {
            var id = connection.ExecuteScalar<long>(
                "insert into class (identity, name, language, created_at) values (@identity, @name, @language, @now) returning id",
                new
                {
                    identity = Identity.New(),
                    name,
                    language,
                    now = clock.GetUtcNow(),
                }
            );
            connection.Execute("insert into class_teacher (teacher_id, class_id) values (@teacher, @id)", new { teacher, id });
            return id;
        });

    public void Rename(long id, string name, string language) =>
        database.Write(connection =>
        {
            var before = connection.ExecuteScalar<string?>("select language from class where id = @id", new { id });
            connection.Execute(
                "update class set name = @name, language = @language where id = @id",
                new
                {
                    id,
                    name,
                    language,
                }
            );
            if (before != language)
                Students.SortAnew(connection, "assignment_id in (select id from assignment where class_id = @id)", new { id });
            return 0;
        });

    /// <summary>Puts a class away at the year's end, or takes it out again.</summary>
    public void Archive(long id, bool isAway) =>
        Set(id, "archived_at = @at", new { id, at = isAway ? clock.GetUtcNow() : (DateTimeOffset?)null });

    /// <summary>How long work is kept after the class was put away, in months; null for what the server's operator says.</summary>
    public void Keep(long id, int? months) => Set(id, "keep_months = @months", new { id, months });

    /// <summary>
    /// A class of the next year: the same names with their tags and extra time, each with a new word, and the same teachers. The class of
    /// before is put away with all its work.
    /// </summary>
    /// <returns>The id of the new one.</returns>
    public long MoveUp(SchoolClass group, string name) =>
        database.Write(connection =>
        {
            var now = clock.GetUtcNow();
            var next = connection.ExecuteScalar<long>(
                """
                insert into class (identity, name, language, created_at, keep_months)
                values (@identity, @name, @Language, @now, @KeepMonths)
                returning id
                """,
                new
                {
                    identity = Identity.New(),
                    name,
                    group.Language,
                    now,
                    group.KeepMonths,
                }
            );
            connection.Execute(
                """
                insert into class_teacher (teacher_id, class_id) select teacher_id, @next from class_teacher where class_id = @Id;
                update class set archived_at = coalesce(archived_at, @now) where id = @Id
                """,
                new
                {
                    next,
                    group.Id,
                    now,
                }
            );
            var words = new HashSet<string>();
            foreach (
                var member in connection
                    .Query<Member>($"{MemberColumns} where member.class_id = @Id and member.removed_at is null", new { group.Id })
                    .AsList()
            )
                connection.Execute(
                    """
                    insert into member (identity, class_id, name, folded_name, word, extra_time, tags, added_at)
                    values (@identity, @next, @Name, @folded, @word, @ExtraTime, @Tags, @now)
                    """,
                    new
                    {
                        identity = Identity.New(),
                        next,
                        member.Name,
                        folded = PersonName.Fold(member.Name),
                        word = Unlike(words, group.Language),
                        member.ExtraTime,
                        member.Tags,
                        now,
                    }
                );
            return next;
        });

    private void Set(long id, string set, object parameters) =>
        database.Write(connection => connection.Execute($"update class set {set} where id = @id", parameters));

    /// <summary>Shares a class with a colleague, who may do all with it from then on.</summary>
    public void Share(long id, long colleague) =>
        database.Write(connection =>
            connection.Execute(
                "insert into class_teacher (teacher_id, class_id) values (@colleague, @id) on conflict do nothing",
                new { id, colleague }
            )
        );

    /// <summary>Who teaches a class, by name.</summary>
    public IReadOnlyList<Teacher> TeachersOf(long id) =>
        database.Read(connection =>
            connection
                .Query<Teacher>(
                    $"""
                    {Teachers.Columns}
                    join class_teacher on class_teacher.teacher_id = teacher.id
                    where class_teacher.class_id = @id and teacher.left_at is null
                    order by teacher.name
                    """,
                    new { id }
                )
                .AsList()
        );

    /// <summary>Who is in a class, in the order in which their language sorts names.</summary>
    public IReadOnlyList<Member> Members(SchoolClass group) =>
        [
            .. database
                .Read(connection =>
                    connection.Query<Member>($"{MemberColumns} where member.class_id = @Id and member.removed_at is null", new { group.Id })
                )
                .OrderBy(member => member.Name, NameOrder.Of(group.Language))
                .ThenBy(member => member.Id),
        ];

    /// <summary>The tags that members have, in the order of their language.</summary>
    public IReadOnlyList<string> TagsOf(SchoolClass group) =>
        [
            .. Members(group)
                .SelectMany(member => member.Tags.Split('\n', StringSplitOptions.RemoveEmptyEntries))
                .Distinct()
                .Order(NameOrder.Of(group.Language)),
        ];

    public Member? Member(long group, long id) =>
        database.Read(connection =>
            connection.QuerySingleOrDefault<Member>(
                $"{MemberColumns} where member.class_id = @group and member.id = @id and member.removed_at is null",
                new { group, id }
            )
        );

    /// <summary>
    /// Adds names that are not on the list; who was taken off it comes back as they were. Each gets a word that nobody else in the class
    /// has.
    /// </summary>
    /// <param name="names">Tidied, each with its tags, one a line.</param>
    /// <returns>How many were added.</returns>
    public int Enrol(SchoolClass group, IReadOnlyList<(string Name, string Tags)> names) =>
        database.Write(connection =>
        {
            var there = connection
                .Query<(string Folded, bool IsIn)>(
                    "select folded_name, removed_at is null from member where class_id = @Id order by removed_at is not null",
                    new { group.Id }
                )
                .ToLookup(row => row.Folded, row => row.IsIn);
            var words = connection.Query<string>("select word from member where class_id = @Id", new { group.Id }).ToHashSet();
            var (added, seen) = (0, new HashSet<string>());
            foreach (var (name, tags) in names)
            {
                var folded = PersonName.Fold(name);
                if (!seen.Add(folded) || there[folded].Any(isIn => isIn))
                    continue;
                added++;
                if (there[folded].Any())
                {
                    var back = connection.ExecuteScalar<long>(
                        """
                        update member
                        set removed_at = null, name = @name
                        where id = (select max(id) from member where class_id = @Id and folded_name = @folded)
                        returning id
                        """,
                        new
                        {
                            group.Id,
                            folded,
                            name,
                        }
                    );
                    Editions.RaiseOfMember(connection, back);
                    Students.SortAnew(connection, "member_id = @back", new { back });
                }
                else
                    connection.Execute(
                        """
                        insert into member (identity, class_id, name, folded_name, word, tags, added_at)
                        values (@identity, @Id, @name, @folded, @word, @tags, @now)
                        """,
                        new
                        {
                            identity = Identity.New(),
                            group.Id,
                            name,
                            folded,
                            word = Unlike(words, group.Language),
                            tags,
                            now = clock.GetUtcNow(),
                        }
                    );
            }
            return added;
        });

    private static string Unlike(HashSet<string> words, string language)
    {
        while (true)
        {
            var word = PersonalWords.New(language);
            if (words.Add(word))
                return word;
        }
    }

    /// <summary>Renames a member; false when somebody else in the class is called so.</summary>
    public bool Rename(Member member, string name) =>
        database.Write(connection =>
        {
            var isRenamed =
                connection.Execute(
                    """
                    update member
                    set name = @name, folded_name = @folded
                    where id = @Id and not exists (
                        select 1
                        from member as other
                        where other.class_id = @ClassId and other.folded_name = @folded and other.removed_at is null and other.id <> @Id)
                    """,
                    new
                    {
                        member.Id,
                        member.ClassId,
                        name,
                        folded = PersonName.Fold(name),
                    }
                ) == 1;
            if (isRenamed)
            {
                Editions.RaiseOfMember(connection, member.Id);
                Students.SortAnew(connection, "member_id = @Id", new { member.Id });
            }
            return isRenamed;
        });

    /// <summary>Sets a member's tags and extra time; the time of sittings that go on follows.</summary>
    /// <param name="tags">One a line.</param>
    /// <param name="extraTime">In per cent of a time limit.</param>
    public void Set(Member member, string tags, int extraTime) =>
        database.Write(connection =>
        {
            connection.Execute(
                "update member set tags = @tags, extra_time = @extraTime where id = @Id",
                new
                {
                    member.Id,
                    tags,
                    extraTime,
                }
            );
            var running = connection.Query<long>(
                """
                select distinct attempt.assignment_id
                from student
                join attempt on attempt.student_id = student.id
                where student.member_id = @Id and attempt.handed_in_at is null and attempt.deleted_at is null
                """,
                new { member.Id }
            );
            foreach (var assignment in running.AsList())
                if (Assignments.One(connection, assignment) is { } found)
                    Assignments.Retime(connection, found);
            return 0;
        });

    /// <summary>Makes the words of a class anew, or of one member.</summary>
    /// <param name="member">Null for all.</param>
    public void NewWords(SchoolClass group, long? member = null) =>
        database.Write(connection =>
        {
            var words = connection.Query<string>("select word from member where class_id = @Id", new { group.Id }).ToHashSet();
            var ids = connection.Query<long>(
                "select id from member where class_id = @Id and removed_at is null and (@member is null or id = @member)",
                new { group.Id, member }
            );
            foreach (var id in ids.AsList())
                connection.Execute("update member set word = @word where id = @id", new { id, word = Unlike(words, group.Language) });
            return 0;
        });

    /// <summary>Takes a member off the list. Their work stays where it is, and they come back with it when they are added again.</summary>
    public void Remove(Member member) =>
        database.Write(connection =>
            connection.Execute("update member set removed_at = @now where id = @Id", new { member.Id, now = clock.GetUtcNow() })
        );
}
