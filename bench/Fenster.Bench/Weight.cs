using System.Globalization;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>Compressed bytes of all that the student's screen loads, without its pictures, as a browser counts them.</summary>
internal static class Weight
{
    private const double Baseline = 150_000;

    public static Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var browser = new Browser(fenster.Address);
        browser.SignIn();
        browser.Go("/activities/1/share");
        var link = browser.See(".way-in-link a").Text;
        using var student = new Browser(fenster.Address);
        student.Driver.Navigate().GoToUrl(link);
        student.Enter("Weight");
        student.See(".bank .label");
        // Once more with an empty cache, so that nothing from the joining page is left out.
        student.Cdp("Network.clearBrowserCache");
        // What a service worker gives out has no compressed size.
        student.Cdp("Network.enable");
        student.Cdp("Network.setBypassServiceWorker", ("bypass", true));
        student.Driver.Navigate().Refresh();
        student.See(".bank .label");
        student.Until(() => student.Script<bool>("return document.fonts.status === 'loaded'"), "fonts");
        var bytes = student.Script<object>(
            """
            return [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')]
              .filter(entry => !entry.name.includes('/media/'))
              .reduce((sum, entry) => sum + entry.encodedBodySize, 0)
            """
        );
        return Task.FromResult<Line[]>([Line.AtMost("weight", Convert.ToDouble(bytes, CultureInfo.InvariantCulture), Baseline, 0.7)]);
    }
}
