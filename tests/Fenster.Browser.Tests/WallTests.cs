using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>A teacher watches students at work, tells them something, and marks what they did.</summary>
[Collection("screens")]
public sealed class WallTests(Demo demo)
{
    [Fact]
    public async Task A_teacher_sees_a_label_move_tells_one_student_points_and_pauses_and_the_student_sees_it()
    {
        using var teacher = demo.Open();
        using var student = demo.Open(360, 740, phone: true);
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        var of = await visitor.AssignmentOf(10);
        student.Go(await demo.JoinPath(10));
        student.Enter("Watched");
        student.See("#work[data-ready]");
        teacher.SignIn();
        teacher.Go($"/activities/10/wall?of={of}");
        string Tile() =>
            teacher.Script<string>(
                "const tile = [...document.querySelectorAll('.tile')].find(tile => tile.textContent.includes('Watched')); return tile ? `[data-id='${tile.dataset.id}']` : ''"
            );
        teacher.Until(() => Tile() != "", "the tile");
        var tile = Tile();
        teacher.Script<object?>("document.querySelector(arguments[0]).scrollIntoView({ block: 'center' }); return null", tile);
        teacher.See($"{tile} .stage");
        Assert.Equal(0, teacher.Count($"{tile} .label.placed"));
        student.Tap(student.Spot(".bank .label"));
        student.Tap(student.Spot(".stage", 0.2, 0.5));
        teacher.Until(() => teacher.Count($"{tile} .stage .label") > 0, "what the student put down");
        // What lies half under the head of the page is too small to be pressed there; at the top nothing does.
        teacher.Script<object?>("scrollTo(0, 0); return null");
        Assert.Empty(teacher.AxeViolations());

        teacher.Script<object?>("document.querySelector(arguments[0]).scrollIntoView({ block: 'center' }); return null", tile);
        teacher.Click($"{tile} .tile-note");
        teacher.SeeText("#note-to", "Note to Watched");
        teacher.See("#note-text").SendKeys("Look at the list once more.");
        teacher.Click("#note-dialog .btn-primary");
        student.SeeText("#told", "Look at the list once more.");
        student.Click("#told button");
        teacher.Click("#pointing");
        teacher.ClickAt(teacher.Spot($"{tile} .stage", 0.5, 0.5));
        student.See(".stage .glow");
        student.SeeText("#told", "Look here.");
        Assert.Empty(student.AxeViolations());

        teacher.Click("#pause");
        teacher.SeeText("#pause", "Go on");
        teacher.Click("#pause");
        teacher.SeeText("#pause", "Pause for all");
        // Before a class: no names.
        teacher.Click("#names");
        Assert.Equal("hidden", teacher.See(".wall").FindElement(By.CssSelector($"{tile} .tile-name")).GetCssValue("visibility"));
        Assert.Empty(teacher.ConsoleErrors().Concat(student.ConsoleErrors()));
    }

    [Fact]
    public async Task A_note_is_marked_with_a_comment_on_a_spot_and_the_waiting_student_sees_it_by_itself()
    {
        using var teacher = demo.Open();
        using var student = demo.Open(360, 740, phone: true);
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        student.Go(await demo.JoinPath(12));
        student.Enter("Waits");
        student.Fill("[data-target] textarea[aria-label='Why there?']", "Good holding ground.");
        student.Click("#hand-in");
        student.Click("#review-go");
        student.See(".work.done");
        student.SeeText("#progress", "Your teacher decides");
        teacher.SignIn();
        teacher.Go($"/activities/12/results?of={await visitor.AssignmentOf(12)}&show=waits");
        teacher.Driver.FindElement(By.LinkText("Waits")).Click();
        teacher.See(".one-panes .stage");
        foreach (var field in teacher.Driver.FindElements(By.CssSelector(".criterion input")))
            field.SendKeys("1");
        teacher.ClickAt(teacher.Spot(".one-panes .stage", 0.55, 0.45));
        teacher.See(".spot-comments textarea").SendKeys("Why so near the wreck?");
        teacher.See(".spoken-number");
        Assert.Empty(teacher.AxeViolations());
        teacher.Click(".mark-acts button:last-child");
        teacher.SeeText(".remark", "Why so near the wreck?");
        teacher.Driver.FindElement(By.CssSelector("button[name=on]")).Click();
        teacher.SeeText("main", "Released to Waits");
        // Nobody touches the student's phone.
        student.SeeText("#progress", "3 of 6 points");

        student.SeeText("#notes", "Why so near the wreck?");
        student.See(".stage .spoken-number");
        Assert.Empty(teacher.ConsoleErrors().Concat(student.ConsoleErrors()));
    }

    [Fact]
    public async Task One_students_page_follows_what_is_done_and_becomes_the_marking_page_when_it_is_handed_in()
    {
        using var teacher = demo.Open();
        using var student = demo.Open(360, 740, phone: true);
        using var visitor = await new Visitor(demo.Fenster.Address).SignIn();
        student.Go(await demo.JoinPath(10));
        student.Enter("Followed");
        student.See("#work[data-ready]");
        teacher.SignIn();
        teacher.Go($"/activities/10/results?of={await visitor.AssignmentOf(10)}&show=working");
        teacher.Driver.FindElement(By.LinkText("Followed")).Click();
        teacher.See(".one-panes .stage");
        Assert.Equal("0", teacher.See("#move").GetAttribute("max"));
        student.Tap(student.Spot(".bank .label"));
        student.Tap(student.Spot(".stage", 0.2, 0.5));
        teacher.Until(() => teacher.See("#move").GetAttribute("max") == "1", "the move on the slider");
        teacher.Until(() => teacher.Count(".one-panes .stage .label") > 0, "the label on the picture");
        Assert.Empty(teacher.AxeViolations());
        student.Click("#hand-in");
        student.Click("#review-go");
        student.See(".work.done");
        teacher.See(".mark-acts .btn");
        Assert.Empty(teacher.ConsoleErrors().Concat(student.ConsoleErrors()));
    }
}
