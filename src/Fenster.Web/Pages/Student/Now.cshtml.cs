using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What a device is shown of an assignment at this moment, as a piece of the student's page.</summary>
[IgnoreAntiforgeryToken]
public sealed class NowModel(
    Codes codes,
    Assignments assignments,
    Revisions revisions,
    Students students,
    Attempts attempts,
    Standings standings,
    Guesses guesses,
    Joins joins,
    WordTurns turns,
    Galleries galleries,
    SameSite sameSite,
    TimeProvider clock
) : PageModel
{
    /// <summary>The header in which a device brings its secret, and gets a new one.</summary>
    public const string DeviceHeader = "Fenster-Device";

    /// <summary>The header that tells a device to keep its secret no longer.</summary>
    private const string ForgetHeader = "Fenster-Forget";

    /// <summary>The header that tells for which code the secret is, where it is another.</summary>
    private const string CodeHeader = "Fenster-Code";

    /// <summary>What is shown.</summary>
    public enum Stage
    {
        /// <summary>Who are you?</summary>
        Who,

        /// <summary>Are you the one whose word it is?</summary>
        Confirm,

        /// <summary>Go on as the one who worked here?</summary>
        Again,

        /// <summary>What there is to do, and the button to begin.</summary>
        Before,
        Work,

        /// <summary>All that a member's class was given.</summary>
        Mine,

        /// <summary>What the teacher shows to the class.</summary>
        Gallery,

        /// <summary>It is handed in, and this device shows it no more.</summary>
        Forgotten,
    }

    public Stage Shows { get; private set; }
    public Assignment Assignment { get; private set; } = null!;
    public Activity Activity { get; private set; } = null!;
    public Language Language => Language.In(Activity.Language);
    public StudentTimes Times => field ??= new(HttpContext, Language);
    public Terms Terms => Assignment.Terms;
    public AssignmentState State => Assignment.StateAt(clock.GetUtcNow());
    public Student? Student { get; private set; }
    public string Name { get; private set; } = "";
    public string Word { get; private set; } = "";
    public string? Problem { get; private set; }

    /// <summary>Whether the name alone is not enough.</summary>
    public bool AsksWord { get; private set; }

    /// <summary>Whether the word was made just now, and is shown this once.</summary>
    public bool IsNew { get; private set; }

    /// <summary>Whether the device that was let in just now follows another.</summary>
    public bool TookOver { get; private set; }

    /// <summary>Whether a sitting ends by the clock if it is not handed in before.</summary>
    public bool EndsByItself => Terms.TimeLimit is not null || Terms.Closes is not null;

    /// <summary>With the part to be played, as the Media Fragments recommendation of the W3C writes it.</summary>
    public static string AddressOf(PlayedFace face) =>
        FormattableString.Invariant(
            $"/media/{face.Media}/0{(face.From > 0 || face.To is not null ? $"#t={face.From}{(face.To is { } to ? FormattableString.Invariant($",{to}") : "")}" : "")}"
        );

    /// <summary>What the message is called that a player plays.</summary>
    public string MessageName => Activity.MessageText is "" ? Language.Say("page.message") : Activity.MessageText;
    public StudentWork Work { get; private set; } = null!;
    public Attempt? Attempt { get; private set; }

    /// <summary>All attempts that are handed in, where there are several; the first first.</summary>
    public IReadOnlyList<AttemptLine> Several { get; private set; } = [];

    /// <summary>What counts of them, as a sentence; empty where that may not be seen yet.</summary>
    public string CountsSaid { get; private set; } = "";

    /// <summary>Whether something of what is handed in still comes, so that the page looks for it.</summary>
    public bool WaitsForMore { get; private set; }

    /// <summary>What the teacher said when results were taken back that the student had seen; null while they are not.</summary>
    public string? TakenBack { get; private set; }

    /// <summary>Whether something shows that the teacher can take back, so that the page looks now and then.</summary>
    public bool MayBeTakenBack { get; private set; }

    /// <summary>Why another attempt can't be begun; null when it can.</summary>
    public Hindrance? Hindrance { get; private set; }
    public string Rules => new RuleSentences(Language).Short(Activity);
    public IReadOnlyList<string> TermsSaid =>
        new TermsSentences(Language).ForStudents(Terms, Student?.Allowance ?? Allowance.None, Times.Say);

    /// <summary>Something that the member's class was given.</summary>
    /// <param name="State">Where it and the member are, as a sentence.</param>
    public sealed record MyActivity(long Id, string Title, string State, bool IsThis);

    /// <summary>What can be earned at the activity.</summary>
    public decimal Points => Math.Round(Activity.Panes.Sum(pane => pane.Weight * pane.PossiblePoints), 2);

    /// <summary>The newest first.</summary>
    public IReadOnlyList<MyActivity> All { get; private set; } = [];

    /// <summary>
    /// Whether the student is a member who came by the personal word, and so may see what else the class was given: a name alone
    /// opens nothing else.
    /// </summary>
    public bool IsMember => Student?.MemberId is not null && Terms.Joining == Joining.MembersByWord;

    /// <param name="again">Whether the page was opened anew, so that somebody else may sit here.</param>
    /// <param name="handedIn">Whether the work was handed in just now.</param>
    /// <param name="mine">Whether all that is the member's is asked for.</param>
    /// <param name="gallery">Whether the pictures of the class are asked for.</param>
    /// <param name="attempt">The number of an attempt that is handed in, where another is asked for than the one that counts.</param>
    public IActionResult OnGet(string code, bool again, bool handedIn, bool mine, bool gallery, long? attempt = null)
    {
        if (Find(code) is { } refused)
            return refused;
        if (Known() is not { } student)
            return Show(Stage.Who);
        (Student, Name) = (student, student.Name);
        if (handedIn && Terms.ForgetsDevices)
        {
            Response.Headers[ForgetHeader] = "true";
            known = null;
            return Show(Stage.Forgotten);
        }
        return again ? Show(Stage.Again)
            : gallery && galleries.ShownTo(student) is { } pieces ? ShowGallery(pieces)
            : mine && IsMember && Assignment.ClassId is { } group ? ShowMine(group, student)
            : ShowWork(student, attempt);
    }

    /// <summary>Whether the class may see each other's pictures now, beside work that is handed in.</summary>
    public bool HasGallery { get; private set; }

    /// <param name="Name">Whose it is; null where that is not said.</param>
    public sealed record PieceShown(string? Name, bool IsOwn, GalleryModel.PieceSent Piece);

    /// <summary>What a gallery shows, for the script.</summary>
    public string PiecesJson { get; private set; } = "";

    private PageResult ShowGallery(IReadOnlyList<ShownPiece> pieces)
    {
        PiecesJson = System.Text.Json.JsonSerializer.Serialize(
            pieces.SelectMany(piece =>
                attempts.Anywhere(piece.AttemptId) is { Handed: not null } attempt
                && revisions.Activity(attempt.RevisionId).Panes.FirstOrDefault(pane => pane.Id == piece.Pane) is { } pane
                && attempt.Responses.GetValueOrDefault(pane.Id) is { } response
                    ? pane
                        .Targets.OfType<OwnPicture>()
                        .Where(target => response.Own.ContainsKey(target.Id))
                        .Select(target => new PieceShown(
                            piece.Name,
                            piece.IsOwn,
                            GalleryModel.Sent(pane, target, Galleries.UnderNamesOf(piece, response.Own[target.Id]))
                        ))
                    : []
            ),
            Fenster.Formats.Documents.DocumentJson.Options
        );
        return Show(Stage.Gallery);
    }

    private PageResult ShowMine(long group, Student student)
    {
        var now = clock.GetUtcNow();
        var made = attempts.OfMember(student.MemberId ?? 0);
        All =
        [
            .. assignments
                .OfClass(group)
                .Select(given => new MyActivity(
                    given.Id,
                    revisions.Activity(given.RevisionId).Title,
                    StateOf(given, [.. made[given.Id]], now),
                    given.Id == Assignment.Id
                )),
        ];
        return Show(Stage.Mine);
    }

    private string StateOf(Assignment given, IReadOnlyList<AttemptLine> attempted, DateTimeOffset now) =>
        attempted.Count > 0 && attempted[^1].Handed is null ? Language.Say("mine.working")
        : attempted.Count > 0 && Timing.IsReleased(given.Terms, given.Course, now.ToInstant()) ? Language.Say("mine.released")
        : attempted.Count > 0 ? Language.Say("mine.handedIn")
        : given.StateAt(now) switch
        {
            AssignmentState.Planned => Language.Say("mine.opens", ("time", Times.Say(given.Terms.Opens!.Value))),
            AssignmentState.Closed or AssignmentState.Closing => Language.Say("mine.closed"),
            _ when given.Terms.Closes is { } closes => Language.Say("mine.openUntil", ("time", Times.Say(closes))),
            _ => Language.Say("mine.open"),
        };

    /// <summary>Lets a member's device in to something else that the class was given.</summary>
    public IActionResult OnPostGo(string code, long to)
    {
        if (Find(code) is { } refused)
            return refused;
        if (
            Known() is not { MemberId: { } id }
            || Terms.Joining != Joining.MembersByWord
            || Assignment.ClassId is not { } group
            || students.MemberOf(group, id) is not { } member
            || assignments.One(to) is not { } other
            || other.ClassId != group
            || students.Let(other, member, knowsWord: true).In is not { } entered
        )
            return Show(Stage.Who);
        Response.Headers[DeviceHeader] = entered.Secret;
        Response.Headers[CodeHeader] = other.Code;
        DeviceCookie.Follow(HttpContext, other.Code, entered.Secret);
        return new EmptyResult();
    }

    /// <param name="word">As it was typed.</param>
    /// <param name="yes">Whether the student said that it is them.</param>
    public async Task<IActionResult> OnPostJoinAsync(string code, string? name, string? word, bool yes)
    {
        if (Find(code) is { } refused)
            return refused;
        (Name, Word) = (name ?? "", PersonalWords.Tidy(word ?? ""));
        // Who has done it comes back to see it; nobody else comes in any more.
        if (State == AssignmentState.Closed && (Word == "" || !MayComeBack()))
            return Ask(Language.Say("join.closed"));
        if (joins.TooFast(HttpContext, Assignment.Id))
            return Ask(Language.Say("join.manyJoin"));
        return Terms.Joining switch
        {
            Joining.MembersByWord when Assignment.ClassId is { } group => await ByWord(group, yes),
            Joining.Members when Assignment.ClassId is { } group => await ByName(group),
            Joining.MembersByWord or Joining.Members or Joining.FreeNames => await AsGuest(),
            _ => throw new InvalidOperationException($"Nobody knows how to join by {Terms.Joining}."),
        };
    }

    /// <summary>Whether words can be somebody's who was here: a name that nobody came under is no guest's.</summary>
    private bool MayComeBack() =>
        Terms.Joining is Joining.MembersByWord or Joining.Members && Assignment.ClassId is not null
        || students.IsGuest(Assignment.Id, PersonName.Tidy(Name).Name);

    private async Task<IActionResult> ByWord(long group, bool yes)
    {
        if (Word == "")
            return Ask(Language.Say("join.noWord"));
        if (await Trying(() => students.ByWord(group, Word)) is not { } found)
            return Ask(Language.Say("join.wait", ("count", WordTurns.LongestWait.TotalSeconds)));
        if (found.Value is not { } member)
            return Ask(Language.Say("join.wrongPersonalWord"));
        Name = member.Name;
        return yes ? Enter(students.Let(Assignment, member, knowsWord: true)) : Show(Stage.Confirm);
    }

    private async Task<IActionResult> ByName(long group)
    {
        if (Tidied() is { } fault)
            return Ask(fault);
        if (guesses.Wait(HttpContext, "name") is { } wait)
            return Ask(Language.Say("join.wait", ("count", Math.Ceiling(wait.TotalSeconds))));
        if (students.OnList(group, Name) is not { } member)
        {
            guesses.Add(HttpContext, "name");
            return Ask(Language.Say("join.notOnTheList"));
        }
        if (Word == "")
            return Enter(students.Let(Assignment, member, knowsWord: false));
        if (await Trying(() => member.Word == Word ? member : null) is not { } found)
            return Ask(Language.Say("join.wait", ("count", WordTurns.LongestWait.TotalSeconds)));
        if (found.Value is not null)
            return Enter(students.Let(Assignment, member, knowsWord: true));
        AsksWord = true;
        return Ask(Language.Say("join.wrongWords"));
    }

    private async Task<IActionResult> AsGuest()
    {
        if (Tidied() is { } fault)
            return Ask(fault);
        if (Word == "")
            return Enter(students.Guest(Assignment, Name, null));
        var entry = default((CameIn? In, NoEntry? Why));
        if (await Trying(() => (entry = students.Guest(Assignment, Name, Word)).In) is null)
            return Ask(Language.Say("join.wait", ("count", WordTurns.LongestWait.TotalSeconds)));
        return Enter(entry);
    }

    private sealed record Found<T>(T? Value);

    /// <summary>Tries the words that were typed, when it is their turn; null where that takes too long.</summary>
    private async Task<Found<T>?> Trying<T>(Func<T?> find)
        where T : class
    {
        if (await turns.At(HttpContext, Assignment.Id) is not { } turn)
            return null;
        var value = find();
        turn.Was(right: value is not null);
        return new(value);
    }

    private string? Tidied()
    {
        (Name, var fault) = PersonName.Tidy(Name);
        return fault switch
        {
            NameFault.Empty => Language.Say("join.noName"),
            NameFault.TooLong => Language.Say("join.longName", ("most", PersonName.Longest)),
            NameFault.Unreadable => Language.Say("join.unreadableName"),
            NameFault.MixedAlphabets => Language.Say("join.mixedName"),
            _ => null,
        };
    }

    private IActionResult Enter((CameIn? In, NoEntry? Why) entry)
    {
        if (entry.In is not { } entered)
        {
            AsksWord = true;
            return Ask(Language.Say(entry.Why == NoEntry.WrongWord ? "join.wrongWords" : "join.nameTaken", ("name", Name)));
        }
        KnownDevice.Remember(HttpContext, "code");
        // Whoever came by words, or was given new ones, is known by them.
        if (Word != "" || entered.Student.MemberId is null)
            WordTurns.Remember(HttpContext, entered.Student);
        Response.Headers[DeviceHeader] = known = entered.Secret;
        (Student, IsNew, TookOver) = (entered.Student, entered.Student.MemberId is null && Word == "", entered.TookOver);
        return ShowWork(entered.Student);
    }

    /// <summary>Begins an attempt, or goes on with the one that is not handed in.</summary>
    public IActionResult OnPostBegin(string code)
    {
        if (Find(code) is { } refused)
            return refused;
        if (Known() is not { } student)
            return Show(Stage.Who);
        var begun = attempts.Begin(Assignment, student);
        return begun is null ? ShowBefore(student) : ShowWork(student);
    }

    /// <param name="number">Of an attempt that is handed in; null for the one to go on with, or that counts.</param>
    private IActionResult ShowWork(Student student, long? number = null)
    {
        (Student, Name) = (student, student.Name);
        var all = attempts.OfStudent(student.Id);
        // Where there is only something to learn, nothing is counted before it begins.
        if (all.Count == 0 && Activity.Purpose == Purpose.LearningOnly && !IsNew && attempts.Begin(Assignment, student) is not null)
            all = attempts.OfStudent(student.Id);
        if (all.Count == 0)
            return ShowBefore(student);
        var attempt = attempts.One(Assignment.Id, all[^1].Id)!;
        if (attempt.Handed is null && attempts.HandInDue(attempt.Id).GetAwaiter().GetResult() is { } handed)
            attempt = handed;
        var now = clock.GetUtcNow();
        Hindrance = Timing.HindranceAt(Terms, Assignment.Course, student.Allowance, all.Count, now.ToInstant());
        if (attempt.Handed is not null && all.Count > 1)
            attempt = OfSeveral(attempt, attempts.OfStudent(student.Id), student, number);
        Attempt = attempt;
        HasGallery = attempt.Handed is not null && galleries.IsOpenTo(student);
        var seat = new Seat(revisions.Activity(attempt.RevisionId, attempt.Rules), attempt.Seed);
        var reach = StudentEndpoints.ReachOf(Assignment, attempt, student, all.Count, now);
        Work = StudentWork.Of(Assignment, attempt, student, seat, reach, now) with { TookOver = TookOver && attempt.Handed is null };
        if (Several.Count > 0)
            SayWhatCounts(student, attempt);
        var releases = attempt.Handed is not null && seat.Activity.WaitsFor(Moment.Released);
        if (releases && reach.IsReleased && attempt.SawAt is null)
            attempts.Saw(attempt);
        (TakenBack, MayBeTakenBack) = (reach.IsReleased ? null : attempt.TakenBack, releases && reach.IsReleased);
        WaitsForMore =
            attempt.Handed is not null
            && (
                Work.View.Work.Score is { IsSoFar: true }
                || (releases && !reach.IsReleased)
                || (seat.Activity.WaitsFor(Moment.Closed) && !reach.IsClosed)
            );
        return Show(Stage.Work);
    }

    /// <summary>
    /// Of several attempts that are handed in the one that is shown: that is asked for, or else that counts, so that a student reads
    /// first what holds. Where its score may not be seen yet, it is the last: which is the best would tell too much.
    /// </summary>
    private Attempt OfSeveral(Attempt last, IReadOnlyList<AttemptLine> all, Student student, long? number)
    {
        var now = clock.GetUtcNow();
        Several = [.. all.Where(line => line.Handed is not null)];
        Shown = Several
            .Where(line =>
                StudentEndpoints
                    .ReachOfHanded(Assignment, line.ReleasedAt, student, all.Count, now)
                    .Has(revisions.Activity(line.RevisionId, last.Rules).Rules.Reveal.Score)
            )
            .Select(line => line.Id)
            .ToHashSet();
        var counted = Several.Where(line => line.Counts).ToList();
        Counted = counted.Count > 0 && counted.TrueForAll(line => Shown.Contains(line.Id)) ? counted : [];
        var shown = Several.FirstOrDefault(line => line.Number == number) ?? (Counted is [var only] ? only : null);
        return shown is null ? last : attempts.One(Assignment.Id, shown.Id) ?? last;
    }

    /// <summary>Ids of the attempts whose score may be seen.</summary>
    private HashSet<long> Shown { get; set; } = [];

    /// <summary>The attempts that count, where all of their scores may be seen; none where one may not.</summary>
    private IReadOnlyList<AttemptLine> Counted { get; set; } = [];

    private void SayWhatCounts(Student student, Attempt shown)
    {
        if (Counted.Count == 0 || standings.Of(Assignment, [student.Id])[student.Id] is not { Score: { } worth } standing)
            return;
        var isMean = Terms.Counts == AttemptPolicy.Mean;
        CountsSaid = isMean ? Language.Say("attempts.mean") : Language.Say("attempts.counts", ("number", Counted[0].Number));
        if (Work.View.Work.Score is { } own)
            Work = Work with
            {
                View = Work.View with
                {
                    Work = Work.View.Work with
                    {
                        Score =
                            isMean || Counted.Any(line => line.Id == shown.Id)
                                ? own.Saying(worth, standing.Passed)
                                : own.OfOneThatDoesNotCount(),
                    },
                },
            };
    }

    /// <summary>What an attempt earned, as the buttons say it that lead to it.</summary>
    public string NameOf(AttemptLine line) =>
        Shown.Contains(line.Id) && line.Handed is { } handed
            ? Language.Say(
                line.Waits ? "attempts.earnedSoFar" : "attempts.earned",
                ("number", line.Number),
                ("score", Math.Round(handed.Score, 2)),
                ("possible", Math.Round(handed.Possible, 2))
            )
            : Language.Say("attempts.one", ("number", line.Number));

    private IActionResult ShowBefore(Student student)
    {
        (Student, Name) = (student, student.Name);
        Hindrance = Timing.HindranceAt(
            Terms,
            Assignment.Course,
            student.Allowance,
            attempts.OfStudent(student.Id).Count,
            clock.GetUtcNow().ToInstant()
        );
        students.Seen(student.Id);
        return Show(Stage.Before);
    }

    private IActionResult Ask(string problem)
    {
        Problem = problem;
        return Show(Stage.Who);
    }

    private PageResult Show(Stage stage)
    {
        Shows = stage;
        Response.Headers.CacheControl = "no-store";
        DeviceCookie.Follow(HttpContext, Assignment.Code, known);
        return Page();
    }

    /// <summary>The secret of the device; null for one that is nobody's.</summary>
    private string? known;

    private Student? Known()
    {
        if (Request.Headers[DeviceHeader] is not [{ Length: > 0 and < 200 } secret])
            return null;
        var student = students.BySecret(Assignment.Id, secret);
        known = student is null ? null : secret;
        return student;
    }

    private IActionResult? Find(string code)
    {
        if (!HttpMethods.IsGet(Request.Method) && !sameSite.Allows(Request))
            return StatusCode(StatusCodes.Status403Forbidden);
        if (codes.Find(HttpContext, JoinCode.Tidy(code), Languages.OfBrowser(Request), out var problem) is not { } assignment)
            return new ContentResult { StatusCode = StatusCodes.Status404NotFound, Content = problem };
        Assignment = assignment;
        Activity = revisions.Activity(assignment.RevisionId, assignment.Rules);
        return null;
    }
}
