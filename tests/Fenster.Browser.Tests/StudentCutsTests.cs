using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>What becomes of each kind of action when the network goes in the middle of it; and devices that keep nothing.</summary>
[Collection("screens")]
public sealed class StudentCutsTests(Demo demo)
{
    /// <summary>Two moves of a kind, made of what the browser was given, as the screen's own gestures send them.</summary>
    private const string MovesOf = """
        const [pane, kind] = arguments
        const frame = JSON.parse(document.getElementById('work').dataset.view).panes[pane]
        const { labels, zones, targets } = frame
        const [first, second] = [{ x: 210, y: 130 }, { x: 320, y: 240 }]
        const of = (...kinds) => targets.filter(target => kinds.includes(target.kind))
        const moves = {
          putDown: () => [0, 1].map(i => ({ kind, label: labels[i].id, copy: 0, zone: zones[i].id })),
          takeBack: () => [{ kind: 'putDown', label: labels[0].id, copy: 0, zone: zones[0].id }, { kind, label: labels[0].id, copy: 0 }],
          pinDown: () => [first, second].map(at => ({ kind, label: labels[0].id, copy: 0, at })),
          markPoints: () => [[first], [second]].map(points => ({ kind, target: of('marking', 'showing', 'noting').find(target => target.pins !== 0).id, points })),
          typeText: () => ['a', 'ab'].map(text => ({ kind, target: of('typing', 'noting')[0].id, text })),
          pickOptions: () => [0, 1].map(i => ({ kind, target: of('choosing')[0].id, options: [of('choosing')[0].options[i].id] })),
          drawLinks: () => [0, 1].map(i => ({ kind, target: of('linking')[0].id,
            links: [{ left: of('linking')[0].left[0].id, right: of('linking')[0].right[i].id }] })),
          openSpot: () => [0, 1].map(i => ({ kind, target: of('telling')[i].id })),
          tryCode: () => ['1', '2'].map(code => ({ kind, target: of('locked')[0].id, code })),
          lookAt: () => [first, second].map(at => ({ kind, at })),
          pressCheck: () => [{ kind: 'pinDown', label: labels[0].id, copy: 0, at: first }, { kind }],
        }[kind]()
        return moves.map(move => JSON.stringify({ pane: frame.id, move }))
        """;

    public static TheoryData<int, int, string> Actions =>
        new()
        {
            { 2, 0, "putDown" },
            { 2, 0, "takeBack" },
            { 4, 0, "pinDown" },
            { 7, 0, "markPoints" },
            { 8, 1, "markPoints" },
            { 12, 0, "markPoints" },
            { 6, 0, "typeText" },
            { 12, 0, "typeText" },
            { 5, 0, "pickOptions" },
            { 3, 0, "drawLinks" },
            { 11, 0, "openSpot" },
            { 11, 0, "tryCode" },
            { 11, 0, "lookAt" },
            { 15, 0, "pressCheck" },
        };

    [Theory]
    [MemberData(nameof(Actions))]
    public async Task An_action_during_which_the_network_goes_is_stored_once_and_so_is_the_next(int activity, int pane, string kind)
    {
        using var browser = demo.Open();
        browser.Go(await demo.JoinPath(activity));
        browser.Enter($"Cut {kind} {activity}");
        browser.See("#work[data-ready]");
        var moves = browser.Script<IReadOnlyCollection<object>>(MovesOf, pane, kind).Cast<string>().ToList();
        long Version() =>
            (long)
                browser.ScriptAsync(
                    """
                    const done = arguments[arguments.length - 1]
                    const key = Object.keys(localStorage).find(name => name.startsWith('fenster-device-') && location.pathname.endsWith(name.slice(15)))
                    fetch(location.pathname + '/now', { headers: { 'Fenster-Device': localStorage.getItem(key) } }).then(answer => answer.text())
                      .then(text => done(Number(/data-version="(\d+)"/.exec(text)?.[1] ?? 0)))
                    """
                );
        var before = Version();
        // The first reaches the server, and its answer gets lost.
        browser.Script<object?>(
            """
            const usual = window.fetch
            window.isCut = true
            window.fetch = async (...request) => {
              const answer = await usual(...request)
              if (window.isCut && String(request[0]).includes('/place')) throw new TypeError('Failed to fetch')
              return answer
            }
            return null
            """
        );
        Play(browser, moves[0]);
        browser.Until(() => browser.Script<string>("return document.getElementById('work').dataset.link") == "offline", "offline");
        browser.Offline(true);
        browser.Script<object?>("window.isCut = false; return null");
        Play(browser, moves[1]);
        browser.Offline(false);
        browser.Until(() => browser.Script<string>("return document.getElementById('work').dataset.link") == "saved", "saved");
        Assert.Equal(before + 2, Version());
        Assert.Empty(browser.ConsoleErrors());
    }

    private static void Play(Browser browser, string detail) =>
        browser.Script<object?>(
            "document.getElementById('work').dispatchEvent(new CustomEvent('play', { detail: JSON.parse(arguments[0]) })); return null",
            detail
        );

    [Fact]
    public async Task A_device_that_keeps_nothing_works_says_so_and_hands_in()
    {
        using var browser = new Browser(demo.Fenster.Address);
        // As where a browser is told to refuse sites any storage.
        browser.Cdp(
            "Page.addScriptToEvaluateOnNewDocument",
            (
                "source",
                """
                for (const name of ['localStorage', 'sessionStorage', 'caches'])
                  Object.defineProperty(window, name, { get() { throw new DOMException('The operation is insecure.', 'SecurityError') } })
                """
            )
        );
        browser.Go(await demo.JoinPath(2));
        browser.Enter("Keeps nothing");
        browser.See("#work[data-ready]");
        browser.ClickAt(browser.Spot(".bank .label"));
        browser.ClickAt(browser.Spot(".zone-button"));
        browser.SeeText("#progress", "1 of 12 placed. Saved.");
        browser.SeeText("#trouble", "This device keeps nothing.");
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.See(".work.done");
        Assert.Empty(browser.ConsoleErrors());
    }
}
