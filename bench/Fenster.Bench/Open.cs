using System.Globalization;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// From the navigation to the first label that can be moved, on a phone whose processor is slowed four times and which has nothing in its
/// cache, beside a page that shows the same picture and does nothing. In milliseconds.
/// </summary>
internal static class Open
{
    private const int Slowed = 4;

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        using var phone = new Browser(fenster.Address, width: 360, height: 740, phone: true);
        var address = await teacher.JoinPath(1);
        phone.Go(address);
        phone.Enter("Open");
        phone.See("#work[data-ready]");
        var shown = phone.Script<string>("return document.querySelector('.stage-picture').currentSrc");
        var picture = Path.GetTempFileName();
        using (var http = new HttpClient())
            await File.WriteAllBytesAsync(picture, await http.GetByteArrayAsync(shown));
        using var page = new Baseline("picture", picture);
        using var plain = new Browser(page.Address, width: 360, height: 740, phone: true);
        try
        {
            foreach (var browser in (Browser[])[phone, plain])
            {
                browser.Cdp("Network.enable");
                browser.Cdp("Network.setBypassServiceWorker", ("bypass", true));
                browser.Cdp("Emulation.setCPUThrottlingRate", ("rate", Slowed));
            }
            var (ours, baseline) = (new List<double>(), new List<double>());
            for (var run = 0; run < 25; run++)
            {
                ours.Add(Time(phone, address, "performance.getEntriesByName('ready')[0]?.startTime ?? 0"));
                baseline.Add(Time(plain, "/", "performance.getEntriesByType('navigation')[0].loadEventEnd"));
            }
            return [Line.AtMost("open", Line.Median(ours), Line.Median(baseline), 2)];
        }
        finally
        {
            File.Delete(picture);
        }
    }

    /// <summary>From an empty page: what it takes to leave the page before is not what it takes to open this one.</summary>
    /// <param name="ready">When it was ready, and 0 until then.</param>
    private static double Time(Browser browser, string path, string ready)
    {
        browser.Driver.Navigate().GoToUrl("about:blank");
        browser.Cdp("Network.clearBrowserCache");
        browser.Go(path);
        double Now() => Convert.ToDouble(browser.Script<object>($"return {ready}"), CultureInfo.InvariantCulture);
        browser.Until(() => Now() > 0, "the page");
        return Now();
    }
}
