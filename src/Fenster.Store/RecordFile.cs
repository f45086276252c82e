using System.Data;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Dapper;

namespace Fenster.Store;

/// <summary>
/// All that is kept of one student at one assignment, as one document: for the student, for a complaint, for an inspection. The activity
/// is in it as it was given, with the rules that held, every move with its time, what people decided and said, and what changed.
/// </summary>
public sealed class RecordFile(Database database, Revisions revisions)
{
    /// <param name="student">Id of a student at an assignment.</param>
    /// <returns>Null when there is none.</returns>
    public string? Of(long student) => database.Read(connection => At(connection, student)?.ToJsonString(Readable));

    /// <summary>All that is kept of a member of a class: at everything of the teacher's that the class was given.</summary>
    /// <returns>Null when there is no such member.</returns>
    public string? OfMember(long teacher, long member) =>
        database.Read(connection =>
        {
            if (One(connection, "select * from member where id = @id", member) is not { } person)
                return null;
            // What lets somebody in is not told to whoever reads the file.
            person.Remove("word");
            var all = connection
                .Query<long>(
                    $"""
                    select student.id
                    from student
                    join assignment on assignment.id = student.assignment_id and assignment.deleted_at is null
                    join activity on activity.id = assignment.activity_id and activity.deleted_at is null
                    where student.member_id = @member and student.deleted_at is null and {Drafts.OfTeacher}
                    order by student.id
                    """,
                    new { teacher, member }
                )
                .AsList();
            person["work"] = new JsonArray([.. all.Select(student => At(connection, student))]);
            return person.ToJsonString(Readable);
        });

    /// <summary>What the student brought in, by name, each largest size as a <c>data:</c> address (RFC 2397).</summary>
    private JsonObject FilesOf(IDbConnection connection, long attempt) =>
        new(
            connection
                .Query<(string Name, string Files)>("select name, files from own_file where attempt_id = @attempt", new { attempt })
                .Select(own => (own.Name, File: Media.FileIn(OwnFiles.FolderOf(database.Folder, own.Name), own.Files, int.MaxValue)))
                .Select(own =>
                    KeyValuePair.Create(
                        own.Name,
                        (JsonNode?)$"data:{own.File.ContentType};base64,{Convert.ToBase64String(File.ReadAllBytes(own.File.Path))}"
                    )
                )
        );

    private JsonObject? At(IDbConnection connection, long student)
    {
        if (One(connection, "select * from student where id = @id and deleted_at is null", student) is not { } person)
            return null;
        // What lets a device or a person in is nobody's to read.
        person.Remove("secret_hash");
        person.Remove("word");
        person.Remove("sort_key");
        var attempts = new JsonArray();
        foreach (
            var attempt in Rows(connection, "select * from attempt where student_id = @id and deleted_at is null order by number", student)
        )
        {
            var id = attempt["id"]!.GetValue<long>();
            attempt["moves"] = Many(connection, "select number, pane, move, made_at from move where attempt_id = @id order by number", id);
            attempt["files"] = FilesOf(connection, id);
            attempt["lateMoves"] = Many(connection, "select pane, move, received_at from late_move where attempt_id = @id order by id", id);
            attempt["awards"] = Many(
                connection,
                """
                select award.pane, award.target, award.credit, award.parts, award.at, teacher.name as teacher
                from award join teacher on teacher.id = award.teacher_id
                where award.attempt_id = @id order by award.id
                """,
                id
            );
            attempt["secondMarks"] = Many(
                connection,
                """
                select own.pane, own.target, own.credit, own.parts, own.at, teacher.name as teacher
                from second_mark as own join teacher on teacher.id = own.teacher_id
                where own.attempt_id = @id order by own.id
                """,
                id
            );
            attempt["remarks"] = Many(
                connection,
                """
                select remark.pane, remark.target, remark.x, remark.y, remark.text, remark.at, remark.withdrawn_at, teacher.name as teacher
                from remark join teacher on teacher.id = remark.teacher_id
                where remark.attempt_id = @id order by remark.id
                """,
                id
            );
            attempt["regrades"] = Many(
                connection,
                """
                select regrade.at, teacher.name as teacher, regrade.reason, regrade.manner, own.revision_id as revision_before,
                       regrade.to_revision, own.before_score, own.after_score
                from regrade_change as own
                join regrade on regrade.id = own.regrade_id
                join teacher on teacher.id = regrade.teacher_id
                where own.attempt_id = @id order by regrade.id
                """,
                id
            );
            attempt["record"] = Many(
                connection,
                """
                select record.at, record.kind, record.before, record.after, teacher.name as teacher
                from record join teacher on teacher.id = record.teacher_id
                where record.attempt_id = @id order by record.id
                """,
                id
            );
            attempt["activity"] = JsonNode.Parse(revisions.Document(attempt["revision_id"]!.GetValue<long>()));
            attempts.Add((JsonNode)attempt);
        }
        person["assignment"] = One(
            connection,
            "select assignment.* from assignment join student on student.assignment_id = assignment.id where student.id = @id",
            student
        );
        person["told"] = Many(
            connection,
            """
            select news.text, news.pane, news.x, news.y, news.at, teacher.name as teacher
            from news
            join student on student.assignment_id = news.assignment_id and student.id = @id
            join teacher on teacher.id = news.teacher_id
            where news.attempt_id is null or news.attempt_id in (select id from attempt where student_id = @id)
            order by news.id
            """,
            student
        );
        person["attempts"] = attempts;
        return person;
    }

    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static JsonObject? One(IDbConnection connection, string sql, long id) => Rows(connection, sql, id).FirstOrDefault();

    private static JsonArray Many(IDbConnection connection, string sql, long id) => new([.. Rows(connection, sql, id)]);

    private static IEnumerable<JsonObject> Rows(IDbConnection connection, string sql, long id) =>
        connection
            .Query(sql, new { id })
            .Select(row => new JsonObject(
                ((IDictionary<string, object?>)row).Select(column => KeyValuePair.Create(column.Key, Told(column.Key, column.Value)))
            ));

    /// <summary>Times as ISO 8601 writes them, what is JSON as such, and everything else as it is.</summary>
    private static JsonNode? Told(string name, object? value) =>
        value switch
        {
            null => null,
            long time when name == "at" || name.EndsWith("_at", StringComparison.Ordinal) => DateTimeOffset
                .FromUnixTimeMilliseconds(time)
                .ToString("O", CultureInfo.InvariantCulture),
            long number => number,
            double number => number,
            string text when name is "move" or "rules" or "parts" => JsonNode.Parse(text),
            _ => $"{value}",
        };
}
