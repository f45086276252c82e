using System.Globalization;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;
using OpenQA.Selenium.Support.UI;

namespace Fenster.Testing;

/// <summary>A headless Chromium with a fresh profile.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    private readonly string profile = Directory.CreateTempSubdirectory("fenster-profile-").FullName;
    private readonly ChromeDriver driver;
    private readonly Uri address;
    private readonly Action<Browser>? giveBack;

    public IWebDriver Driver => driver;

    /// <param name="phone">Whether it has the screen and the touch of a phone.</param>
    /// <param name="giveBack">What becomes of it when it is no longer wanted; null to end it.</param>
    /// <param name="blocksOthersCookies">Whether what a site keeps is kept from it inside pages of other sites.</param>
    public Browser(
        Uri address,
        int width = 1280,
        int height = 800,
        bool phone = false,
        bool dark = false,
        Action<Browser>? giveBack = null,
        bool blocksOthersCookies = false
    )
    {
        this.address = address;
        this.giveBack = giveBack;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--use-fake-device-for-media-stream",
            "--use-fake-ui-for-media-stream",
            $"--user-data-dir={profile}",
            $"--window-size={width},{height}"
        );
        if (blocksOthersCookies)
        {
            options.AddUserProfilePreference("profile.block_third_party_cookies", true);
            options.AddUserProfilePreference("profile.cookie_controls_mode", 1);
        }
        options.SetLoggingPreference(LogType.Browser, LogLevel.Warning);
        driver = new(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), options);
        Become(width, height, phone, dark);
    }

    /// <summary>Takes on the screen of a device.</summary>
    internal void Become(int width, int height, bool phone, bool dark)
    {
        Cdp("Emulation.setDeviceMetricsOverride", ("width", width), ("height", height), ("deviceScaleFactor", 1), ("mobile", phone));
        Cdp("Emulation.setTouchEmulationEnabled", ("enabled", phone), ("maxTouchPoints", 1));
        Darken(dark);
    }

    /// <summary>Shows dark colours from now on, or light ones.</summary>
    public void Darken(bool dark) =>
        // Without movement nothing has to be waited for.
        Cdp(
            "Emulation.setEmulatedMedia",
            (
                "features",
                new[] { ("prefers-color-scheme", dark ? "dark" : "light"), ("prefers-reduced-motion", "reduce") }
                    .Select(feature => new Dictionary<string, object> { ["name"] = feature.Item1, ["value"] = feature.Item2 })
                    .ToArray()
            )
        );

    /// <summary>Makes it like new: it shows nothing, and nothing that it kept is left.</summary>
    internal void Renew()
    {
        Offline(false);
        Reads("");
        driver.Navigate().GoToUrl("about:blank");
        Cdp("Storage.clearDataForOrigin", ("origin", address.GetLeftPart(UriPartial.Authority)), ("storageTypes", "all"));
        Cdp("Network.clearBrowserCookies");
        _ = ConsoleErrors().Count();
    }

    public void Cdp(string command, params (string Name, object? Value)[] parameters) =>
        driver.ExecuteCdpCommand(command, parameters.ToDictionary(p => p.Name, p => p.Value));

    /// <summary>As <see cref="Cdp"/>, with the answer.</summary>
    public Dictionary<string, object> Call(string command, params (string Name, object? Value)[] parameters) =>
        (Dictionary<string, object>)driver.ExecuteCdpCommand(command, parameters.ToDictionary(p => p.Name, p => p.Value))!;

    /// <summary>Where other tools find this browser.</summary>
    public string DebuggerAddress =>
        (string)((Dictionary<string, object>)driver.Capabilities.GetCapability("goog:chromeOptions")!)["debuggerAddress"];

    public void Go(string path) => driver.Navigate().GoToUrl(new Uri(address, path));

    public string Path => new Uri(driver.Url).PathAndQuery;

    /// <summary>Waits until a condition holds, and answers with what it gave.</summary>
    public T Until<T>(Func<T?> condition, string what)
        where T : class
    {
        var wait = new DefaultWait<IWebDriver>(driver)
        {
            Timeout = Patience,
            PollingInterval = TimeSpan.FromMilliseconds(30),
            Message = what,
        };
        wait.IgnoreExceptionTypes(
            typeof(NoSuchElementException),
            typeof(StaleElementReferenceException),
            typeof(ElementNotInteractableException)
        );
        return wait.Until(_ => condition())!;
    }

    public void Until(Func<bool> condition, string what) => Until(() => condition() ? "yes" : null, what);

    public IWebElement See(string css) =>
        Until(() => driver.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed), $"{css} to be seen");

    public int Count(string css) => driver.FindElements(By.CssSelector(css)).Count;

    public void SeeText(string css, string text)
    {
        var seen = "";
        try
        {
            Until(() => (seen = See(css).Text).Contains(text), $"“{text}” in {css}");
        }
        catch (WebDriverTimeoutException exception)
        {
            throw new WebDriverTimeoutException($"{css} reads “{seen}”, not “{text}”.", exception);
        }
    }

    public void Click(string css) =>
        Until(
            () =>
            {
                See(css).Click();
                return true;
            },
            $"a click on {css}"
        );

    /// <summary>Types over what a field holds, as a person does.</summary>
    public void Fill(string css, string text)
    {
        var (control, none, delete) = (OpenQA.Selenium.Keys.Control, OpenQA.Selenium.Keys.Null, OpenQA.Selenium.Keys.Delete);
        See(css).SendKeys(control + "a" + none + (text == "" ? delete : text));
    }

    /// <summary>On the page of an assignment: comes in under a name and begins.</summary>
    public void Enter(string name)
    {
        Fill("#name", name);
        Click("button.btn-primary");
        Click("#begin");
        See("#work[data-ready]");
    }

    public void Keys(params string[] keys)
    {
        foreach (var key in keys)
            new Actions(driver).SendKeys(key).Perform();
    }

    /// <summary>Presses a key with Control held.</summary>
    public void Ctrl(string key) =>
        new Actions(driver).KeyDown(OpenQA.Selenium.Keys.Control).SendKeys(key).KeyUp(OpenQA.Selenium.Keys.Control).Perform();

    public T Script<T>(string script, params object[] arguments) => (T)driver.ExecuteScript(script, arguments)!;

    /// <summary>What a script hands to its last argument, a function; where it fails, its error as words.</summary>
    public object ScriptAsync(string script, params object[] arguments) => driver.ExecuteAsyncScript(script, arguments)!;

    /// <summary>The draft of the activity that is open in the workbench, as it is stored, with its version.</summary>
    public string Draft() =>
        Script<string>(
            "const r = new XMLHttpRequest(); r.open('GET', location.pathname + '?handler=Draft', false); r.send(); return r.responseText"
        );

    /// <summary>Whether the element that has the focus fits a selector.</summary>
    public bool HasFocus(string css) => Script<bool>("return document.activeElement.matches(arguments[0])", css);

    /// <summary>The middle of an element, or a spot within it as shares of its size, in CSS pixels of the window.</summary>
    public (int X, int Y) Spot(string css, double across = 0.5, double down = 0.5)
    {
        See(css);
        var box = Script<Dictionary<string, object>>(
            "const e = document.querySelector(arguments[0]); e.scrollIntoView({ block: 'nearest', inline: 'nearest' "
                + "}); const b = e.getBoundingClientRect(); return {x: b.x, y: b.y, w: b.width, h: b.height}",
            css
        );
        double Number(string name) => Convert.ToDouble(box[name], CultureInfo.InvariantCulture);
        return ((int)(Number("x") + Number("w") * across), (int)(Number("y") + Number("h") * down));
    }

    private static readonly PointerInputDevice Mouse = new(PointerKind.Mouse, "mouse");

    public void ClickAt((int X, int Y) spot) => Drag(spot);

    /// <summary>Presses the mouse at the first spot, moves it over the others, and lets go.</summary>
    public void Drag(params (int X, int Y)[] spots)
    {
        Hold(spots);
        LetGo();
    }

    /// <summary>As <see cref="Drag"/>, but the mouse is not let go.</summary>
    public void Hold(params (int X, int Y)[] spots)
    {
        var actions = new ActionBuilder();
        actions.AddAction(Mouse.CreatePointerMove(CoordinateOrigin.Viewport, spots[0].X, spots[0].Y, TimeSpan.Zero));
        actions.AddAction(Mouse.CreatePointerDown(MouseButton.Left));
        foreach (var (x, y) in spots.Skip(1))
            actions.AddAction(Mouse.CreatePointerMove(CoordinateOrigin.Viewport, x, y, TimeSpan.FromMilliseconds(60)));
        driver.PerformActions(actions.ToActionSequenceList());
    }

    public void LetGo()
    {
        var actions = new ActionBuilder();
        actions.AddAction(Mouse.CreatePointerUp(MouseButton.Left));
        driver.PerformActions(actions.ToActionSequenceList());
    }

    public void Tap((int X, int Y) spot) => Swipe(spot);

    /// <summary>Two taps a tenth of a second apart by the events' own clock, however long they take to arrive.</summary>
    public void DoubleTap((int X, int Y) spot)
    {
        var at = DateTimeOffset.UtcNow.ToUnixTimeMilliseconds() / 1000.0;
        foreach (var (type, after) in ((string, double)[])[("touchStart", 0), ("touchEnd", 0.02), ("touchStart", 0.1), ("touchEnd", 0.12)])
            Cdp(
                "Input.dispatchTouchEvent",
                ("type", type),
                ("touchPoints", type == "touchStart" ? Points(spot) : []),
                ("timestamp", at + after)
            );
    }

    /// <summary>Puts a finger down at the first spot, moves it over the others, and lifts it.</summary>
    public void Swipe(params (int X, int Y)[] spots)
    {
        Cdp("Input.dispatchTouchEvent", ("type", "touchStart"), ("touchPoints", Points(spots[0])));
        foreach (var spot in spots.Skip(1))
            Cdp("Input.dispatchTouchEvent", ("type", "touchMove"), ("touchPoints", Points(spot)));
        Cdp("Input.dispatchTouchEvent", ("type", "touchEnd"), ("touchPoints", Array.Empty<object>()));
    }

    private static object[] Points((int X, int Y) spot) => [new Dictionary<string, object> { ["x"] = spot.X, ["y"] = spot.Y }];

    /// <summary>Asks for pages in a language, as an <c>Accept-Language</c> header says it; empty for the usual.</summary>
    public void Reads(string language)
    {
        Cdp("Network.enable");
        Cdp(
            "Network.setExtraHTTPHeaders",
            ("headers", language == "" ? new Dictionary<string, object>() : new() { ["Accept-Language"] = language })
        );
    }

    public void Offline(bool offline) => Network(offline, 0);

    /// <summary>Lets every request take so many milliseconds longer.</summary>
    public void Slow(int latency) => Network(false, latency);

    private void Network(bool offline, int latency)
    {
        Cdp("Network.enable");
        Cdp(
            "Network.emulateNetworkConditions",
            ("offline", offline),
            ("latency", latency),
            ("downloadThroughput", -1),
            ("uploadThroughput", -1)
        );
    }

    /// <summary>Ends it at once, as a crash would; it is of no more use then.</summary>
    public void Crash()
    {
        using var kill = System.Diagnostics.Process.Start("pkill", ["-9", "-f", profile]);
        kill.WaitForExit();
        End();
    }

    public void SignIn()
    {
        Go("/sign-in");
        Fill("#Email", RunningFenster.DemoEmail);
        Fill("#Password", RunningFenster.DemoPassword);
        Click("button.btn-primary");
        See(".cards");
    }

    /// <summary>Every error that the page's console shows, but those of requests that a test made fail.</summary>
    public IEnumerable<string> ConsoleErrors() =>
        driver
            .Manage()
            .Logs.GetLog(LogType.Browser)
            .Select(entry => entry.Message)
            .Where(message => !message.Contains("Failed to load resource") && !message.Contains("net::ERR_"));

    /// <summary>What axe-core, the accessibility engine, finds on the page.</summary>
    public IReadOnlyList<string> AxeViolations()
    {
        Script<object?>(File.ReadAllText(System.IO.Path.Combine(RunningFenster.Repository, "node_modules/axe-core/axe.min.js")));
        driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(30);
        var found =
            (IReadOnlyCollection<object>)
                driver.ExecuteAsyncScript(
                    """
                    const done = arguments[arguments.length - 1]
                    axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] })
                      .then(result => done(result.violations.flatMap(v => v.nodes.map(n => `${v.id}: ${n.target.join(' ')} ${n.failureSummary}`))))
                    """
                )!;
        return [.. found.Select(violation => $"{violation}")];
    }

    /// <summary>Saves what the window shows as PNG.</summary>
    public void Shoot(string file)
    {
        Until(
            () =>
                Script<bool>(
                    "return document.fonts.status === 'loaded' && [...document.images].every(i => i.complete || i.loading === 'lazy')"
                ),
            "fonts and pictures"
        );
        driver.GetScreenshot().SaveAsFile(file);
    }

    public void Dispose()
    {
        if (giveBack is null)
            End();
        else
            giveBack(this);
    }

    internal void End()
    {
        driver.Quit();
        driver.Dispose();
        Directory.Delete(profile, recursive: true);
    }
}

/// <summary>One running Fenster with demo data, and the browsers that visit it, for tests that run one after the other.</summary>
public sealed class Demo : IDisposable
{
    public RunningFenster Fenster { get; } = new();

    // A browser takes seconds to start, so that one test hands it on to the next.
    private readonly Stack<Browser> spare = [];

    public Browser Open(int width = 1280, int height = 800, bool phone = false, bool dark = false)
    {
        if (!spare.TryPop(out var browser))
            return new(Fenster.Address, width, height, phone, dark, TakeBack);
        browser.Become(width, height, phone, dark);
        return browser;
    }

    private void TakeBack(Browser browser)
    {
        browser.Renew();
        spare.Push(browser);
    }

    /// <summary>The newest assignment of one of the demo's activities.</summary>
    public long AssignmentOf(int activity)
    {
        using var teacher = new Visitor(Fenster.Address).SignIn().GetAwaiter().GetResult();
        return teacher.AssignmentOf(activity).GetAwaiter().GetResult();
    }

    /// <summary>The path by which students come to one of the demo's activities.</summary>
    public async Task<string> JoinPath(int activity)
    {
        using var teacher = await new Visitor(Fenster.Address).SignIn();
        return await teacher.JoinPath(activity);
    }

    public void Dispose()
    {
        foreach (var browser in spare)
            browser.End();
        Fenster.Dispose();
    }
}
