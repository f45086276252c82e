using System.Net;
using System.Text;
using Fenster.Testing;
using OpenQA.Selenium;

namespace Fenster.BrowserTests;

/// <summary>An activity inside a page of another site, in a browser that blocks cookies of other sites.</summary>
[Collection("screens")]
public sealed class EmbedTests(Demo demo)
{
    /// <summary>A site on another origin with one page.</summary>
    private sealed class OtherSite : IDisposable
    {
        private readonly HttpListener listener = new();

        public OtherSite(string page)
        {
            // A port that was free a moment ago.
            using (var probe = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0))
            {
                probe.Start();
                Address = $"http://localhost:{((IPEndPoint)probe.LocalEndpoint).Port}";
            }
            listener.Prefixes.Add($"{Address}/");
            listener.Start();
            _ = Serve(Encoding.UTF8.GetBytes(page));
        }

        public string Address { get; }

        private async Task Serve(byte[] page)
        {
            while (listener.IsListening)
            {
                try
                {
                    var context = await listener.GetContextAsync();
                    context.Response.ContentType = "text/html; charset=utf-8";
                    await context.Response.OutputStream.WriteAsync(page);
                    context.Response.Close();
                }
                catch (Exception exception) when (exception is HttpListenerException or ObjectDisposedException)
                {
                    return;
                }
            }
        }

        public void Dispose() => listener.Close();
    }

    [Fact]
    public async Task It_works_only_on_the_sites_named_and_elsewhere_says_where_it_may_be_seen()
    {
        using var teacher = await new Visitor(demo.Fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var frame = $"<h1>Elsewhere</h1><iframe src='{demo.Fenster.Address}embed/{code}' width='900' height='600'></iframe>";
        using var named = new OtherSite(frame);
        using var other = new OtherSite(frame);
        await teacher.Set(id, "sites", named.Address);

        using var browser = new Browser(demo.Fenster.Address, blocksOthersCookies: true);
        browser.Driver.Navigate().GoToUrl(other.Address);
        browser.Driver.SwitchTo().Frame(0);
        browser.SeeText("#says", $"inside {new Uri(named.Address).Authority}");
        Assert.False(browser.Driver.FindElement(By.Id("within")).Displayed);

        browser.Driver.SwitchTo().DefaultContent();
        browser.Driver.Navigate().GoToUrl(named.Address);
        browser.Driver.SwitchTo().Frame(0);
        browser.See("#within");
        Assert.False(browser.Driver.FindElement(By.Id("says")).Displayed);
        browser.Driver.SwitchTo().Frame("within");
        browser.Enter("Ada");
        browser.See(".bank .label");
        browser.Script<object?>("document.querySelector('.bank .label').click()");
        browser.Script<object?>("document.querySelector('.zone-button').click()");
        browser.SeeText("#progress", "1 of 3 placed. Saved.");
        browser.Click("#hand-in");
        browser.Click("#review-go");
        browser.See(".marked-list");
        Assert.Contains("Ada", await teacher.Text($"/activities/{id}/results"));
    }
}
