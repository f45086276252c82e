using System.Collections.Immutable;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>One class: who is in it, and what was given to it.</summary>
public sealed class ClassModel(
    Classes classes,
    Assignments assignments,
    Drafts drafts,
    Teachers teachers,
    Deletions deletions,
    PageLanguage words,
    ILogger<ClassModel> log
) : PageModel
{
    public const int LongestTags = 200;

    /// <summary>Ten years.</summary>
    public const int MostMonths = 120;

    /// <summary>How long work is kept where the class says nothing.</summary>
    public string KeptBy => deletions.KeepMonths is { } months ? $"{months}" : words["classes.always"];

    public SchoolClass Class { get; private set; } = null!;
    public IReadOnlyList<Member> Members { get; private set; } = [];
    public string TaughtBy { get; private set; } = "";
    public IReadOnlyList<(Assignment Assignment, string Title)> Given { get; private set; } = [];
    public string? Problem { get; private set; }
    public bool ShowsNeeds { get; private set; }

    /// <summary>What a page showed that goes on somewhere else.</summary>
    [TempData]
    public string? Done { get; set; }

    /// <summary>A list that was read and waits for the teacher's word; null for none.</summary>
    public Preview? Read { get; private set; }

    /// <param name="Text">As it came.</param>
    /// <param name="Names">Under what the columns are said to hold.</param>
    public sealed record Preview(string Text, ClassList List, ImmutableArray<ColumnMeaning> Meanings, IReadOnlyList<PreviewLine> Names)
    {
        public int New => Names.Count(name => name.State == PreviewState.New);
    }

    public sealed record PreviewLine(string Name, string Tags, PreviewState State);

    public enum PreviewState
    {
        New,

        /// <summary>On the list of the class already.</summary>
        Known,

        /// <summary>It stands in the file twice.</summary>
        Doubled,

        /// <summary>It can't be shown, or is no name.</summary>
        NoName,
    }

    /// <param name="needs">Whether tags and extra time are shown, which tell of needs.</param>
    public IActionResult OnGet(long id, bool needs = false)
    {
        ShowsNeeds = needs;
        return Load(id) ? Page() : NotFound();
    }

    /// <summary>Reads a list that was typed, pasted or chosen as a file, and shows what was understood.</summary>
    /// <param name="means">What the columns are said to hold; none for what they seem to.</param>
    public async Task<IActionResult> OnPostReadAsync(long id, string? names, IFormFile? file, ColumnMeaning[] means)
    {
        if (!Load(id))
            return NotFound();
        var text = names ?? "";
        if (file is { Length: > 0 })
        {
            using var memory = new MemoryStream();
            await file.CopyToAsync(memory, HttpContext.RequestAborted);
            if (ClassList.Decode(memory.ToArray()) is not { } decoded)
            {
                Problem = words["classes.noTextFile"];
                return Page();
            }
            text = decoded;
        }
        if (text.Length > ClassList.MostCharacters)
        {
            Problem = words["classes.tooLong", ("most", Classes.MostMembers)];
            return Page();
        }
        Read = PreviewOf(text, means);
        if (Read.Names.Count == 0)
            (Problem, Read) = (words["classes.noNames"], null);
        return Page();
    }

    /// <summary>Takes the names of a list that are new.</summary>
    public IActionResult OnPostTake(long id, string? names, ColumnMeaning[] means)
    {
        if (!Load(id))
            return NotFound();
        var preview = PreviewOf(names ?? "", means);
        var fresh = preview.Names.Where(name => name.State == PreviewState.New).Select(name => (name.Name, name.Tags)).ToList();
        if (Members.Count + fresh.Count > Classes.MostMembers)
        {
            (Problem, Read) = (words["classes.tooMany", ("most", Classes.MostMembers)], preview);
            return Page();
        }
        Done = words["classes.added", ("count", classes.Enrol(Class, fresh))];
        return RedirectToPage();
    }

    private Preview PreviewOf(string text, ColumnMeaning[] means)
    {
        var list = ClassList.Read(text);
        var meanings = means.Length == list.Meanings.Length ? [.. means] : list.Meanings;
        var there = Members.Select(member => PersonName.Fold(member.Name)).ToHashSet();
        var seen = new HashSet<string>();
        return new(
            text,
            list,
            meanings,
            [
                .. list.Names(meanings)
                    .Select(name =>
                    {
                        var folded = PersonName.Fold(name.Name);
                        return new PreviewLine(
                            name.Name,
                            name.Tags.Length > LongestTags ? name.Tags[..LongestTags] : name.Tags,
                            name.Fault is not null ? PreviewState.NoName
                                : there.Contains(folded) ? PreviewState.Known
                                : seen.Add(folded) ? PreviewState.New
                                : PreviewState.Doubled
                        );
                    }),
            ]
        );
    }

    public IActionResult OnPostMember(long id, long member, string? name, string? tags, int extraTime)
    {
        if (!Load(id) || classes.Member(id, member) is not { } found)
            return NotFound();
        ShowsNeeds = true;
        var (tidied, fault) = PersonName.Tidy(name);
        Problem =
            fault is not null ? words["classes.noSuchName", ("name", name ?? "")]
            : extraTime is < 0 or > Terms.MostExtraTime ? words["classes.noSuchTime", ("most", Terms.MostExtraTime)]
            : (tags?.Length ?? 0) > LongestTags ? words["classes.longTags", ("most", LongestTags)]
            : tidied != found.Name && !classes.Rename(found, tidied) ? words["classes.nameThere", ("name", tidied)]
            : null;
        if (Problem is not null)
            return Page();
        classes.Set(
            found,
            string.Join('\n', (tags ?? "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)),
            extraTime
        );
        return RedirectToPage(new { needs = true });
    }

    public IActionResult OnPostRemove(long id, long member)
    {
        if (!Load(id) || classes.Member(id, member) is not { } found)
            return NotFound();
        classes.Remove(found);
        Done = words["classes.isOff", ("name", found.Name)];
        return RedirectToPage();
    }

    /// <summary>Makes words anew; those of before let nobody in any more.</summary>
    /// <param name="member">0 for all.</param>
    public IActionResult OnPostWords(long id, long member)
    {
        if (!Load(id))
            return NotFound();
        classes.NewWords(Class, member == 0 ? null : member);
        Done = words["classes.wordsAreNew"];
        return RedirectToPage();
    }

    public IActionResult OnPostRename(long id, string? name, string? language)
    {
        if (!Load(id))
            return NotFound();
        if (SoundText.Of(name ?? "").Trim() is not { Length: > 0 and <= ClassesModel.LongestName } tidied)
        {
            Problem = words["classes.noName"];
            return Page();
        }
        classes.Rename(id, tidied, Fenster.Words.Language.In(language ?? Class.Language).Tag);
        return RedirectToPage();
    }

    /// <summary>Says how long work is kept after the class was put away.</summary>
    public IActionResult OnPostKeep(long id, string? months)
    {
        if (!Load(id))
            return NotFound();
        if (string.IsNullOrWhiteSpace(months))
            classes.Keep(id, null);
        else if (int.TryParse(months, out var number) && number is >= 1 and <= MostMonths)
            classes.Keep(id, number);
        else
        {
            Problem = words["classes.noMonths", ("most", MostMonths)];
            return Page();
        }
        return RedirectToPage();
    }

    /// <summary>Makes the class of the next year with the same names, and puts this one away.</summary>
    public IActionResult OnPostMoveUp(long id, string? name)
    {
        if (!Load(id))
            return NotFound();
        if (SoundText.Of(name ?? "").Trim() is not { Length: > 0 and <= ClassesModel.LongestName } tidied)
        {
            Problem = words["classes.noName"];
            return Page();
        }
        Done = words["classes.movedUp", ("name", Class.Name)];
        return Redirect($"/classes/{classes.MoveUp(Class, tidied)}");
    }

    public IActionResult OnPostArchive(long id, bool away)
    {
        if (!Load(id))
            return NotFound();
        classes.Archive(id, away);
        return RedirectToPage();
    }

    public IActionResult OnPostShare(long id, string? email)
    {
        if (!Load(id))
            return NotFound();
        if (teachers.ByEmail(email?.Trim() ?? "") is not { } colleague)
        {
            Problem = words["share.nobody"];
            return Page();
        }
        classes.Share(id, colleague.Id);
        Done = words["classes.shared", ("name", colleague.Name)];
        return RedirectToPage();
    }

    public IActionResult OnPostDelete(long id)
    {
        if (!Load(id) || !deletions.DeleteClass(User.TeacherId(), id))
            return NotFound();
        Happenings.WasDeleted(log, User.TeacherId(), "class", id);
        TempData["DeletedName"] = Class.Name;
        return Redirect("/classes");
    }

    private bool Load(long id)
    {
        if (classes.One(User.TeacherId(), id) is not { } found)
            return false;
        Class = found;
        Members = classes.Members(found);
        TaughtBy = words.Language.ListedWithAnd([.. classes.TeachersOf(id).Select(teacher => teacher.Name)]);
        Given =
        [
            .. assignments
                .OfClass(id)
                .Select(assignment => (assignment, drafts.TitleOf(User.TeacherId(), assignment.ActivityId)))
                .Where(given => given.Item2 is not null)
                .Select(given => (given.assignment, given.Item2!)),
        ];
        return true;
    }
}
