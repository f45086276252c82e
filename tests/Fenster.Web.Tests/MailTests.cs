using System.Net;
using System.Net.Sockets;
using System.Text;
using Fenster.Testing;
using MimeKit;

namespace Fenster.Web.Tests;

/// <summary>Invitations by mail, to a mail server in the test and to the outbox of the demo.</summary>
public sealed class MailTests
{
    /// <summary>A mail server (RFC 5321, as much of it as a letter needs) that keeps what it is sent, and knows nobody of one name.</summary>
    private sealed class Post : IDisposable
    {
        private readonly TcpListener listener = new(IPAddress.Loopback, 0);

        public List<MimeMessage> Letters { get; } = [];
        public int Port => ((IPEndPoint)listener.LocalEndpoint).Port;

        public Post()
        {
            listener.Start();
            _ = Task.Run(Accept);
        }

        private async Task Accept()
        {
            while (true)
            {
                try
                {
                    using var client = await listener.AcceptTcpClientAsync();
                    await Serve(client.GetStream());
                }
                catch (Exception exception) when (exception is SocketException or ObjectDisposedException)
                {
                    return;
                }
                catch (IOException)
                {
                    // Whoever it was has hung up.
                }
            }
        }

        private async Task Serve(NetworkStream stream)
        {
            using var reader = new StreamReader(stream, Encoding.Latin1);
            await using var writer = new StreamWriter(stream, Encoding.Latin1) { NewLine = "\r\n", AutoFlush = true };
            await writer.WriteLineAsync("220 here");
            while (await reader.ReadLineAsync() is { } line)
            {
                var command = line.Split(' ')[0].ToUpperInvariant();
                var answer = command switch
                {
                    "RCPT" when line.Contains("nobody", StringComparison.Ordinal) => "550 unknown here",
                    "DATA" => "354 go on",
                    "QUIT" => "221 good-bye",
                    _ => "250 OK",
                };
                await writer.WriteLineAsync(answer);
                if (command == "QUIT")
                    return;
                if (command != "DATA")
                    continue;
                var text = new StringBuilder();
                while (await reader.ReadLineAsync() is { } part && part != ".")
                    text.Append(part.StartsWith('.') ? part[1..] : part).Append("\r\n");
                var letter = await MimeMessage.LoadAsync(new MemoryStream(Encoding.Latin1.GetBytes(text.ToString())));
                lock (Letters)
                    Letters.Add(letter);
                await writer.WriteLineAsync("250 kept");
            }
        }

        public void Dispose() => listener.Stop();
    }

    private static async Task<string> Invite(Visitor teacher, long id, string addresses)
    {
        var page = await teacher.Text($"/activities/{id}/share");
        var assignment = System.Text.RegularExpressions.Regex.Match(page, "data-assignment=\"(\\d+)\"").Groups[1].Value;
        return WebUtility.HtmlDecode(
            await (
                await teacher.Post($"/activities/{id}/share?handler=Invite", ("assignment", assignment), ("addresses", addresses))
            ).Content.ReadAsStringAsync()
        );
    }

    [Fact]
    public async Task Each_who_is_invited_gets_a_letter_of_their_own_and_whom_it_did_not_reach_is_told()
    {
        using var post = new Post();
        // Nobody is written to while the demo is loaded, though a mail server is there.
        var data = Directory.CreateTempSubdirectory("fenster-mail-");
        using var fenster = new RunningFenster(
            data: data.FullName,
            options:
            [
                "--mail-host",
                "127.0.0.1",
                "--mail-port",
                $"{post.Port}",
                "--mail-tls",
                "none",
                "--mail-from",
                "fenster@school.example",
            ]
        );
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var said = await Invite(teacher, id, "mia@school.example, nobody@school.example\nben@school.example; MIA@school.example");
        Assert.Contains("2 letters are on their way", said);
        Assert.Contains("1 letter could not be sent: nobody@school.example", said);
        Assert.Equal(["ben@school.example", "mia@school.example"], post.Letters.Select(letter => letter.To.ToString()).Order());
        var text = post.Letters[0].TextBody;
        Assert.Contains($"/do/{code}", text);
        Assert.Contains("Robin Teasel invites you", text);
        Assert.Equal("\"Robin Teasel\" <fenster@school.example>", post.Letters[0].From.ToString());

        // Nothing is sent where one is no address, and nothing can be put into a letter's head.
        foreach (var wrong in (string[])["mia", "mia@school.example\r\nBcc: all@school.example", "@", "a@b@c", ""])
            Assert.Contains("role=\"alert\"", await Invite(teacher, id, wrong));
        Assert.Contains(
            "Up to 200 letters",
            await Invite(teacher, id, string.Join(',', Enumerable.Range(0, 201).Select(i => $"s{i}@school.example")))
        );
        Assert.Equal(2, post.Letters.Count);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get("/outbox")).StatusCode);
        fenster.Kill();
        data.Delete(recursive: true);
    }

    [Fact]
    public async Task Without_a_mail_server_the_demo_keeps_letters_in_an_outbox_and_any_other_server_offers_none()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        Assert.Contains("1 letter is on its way", await Invite(teacher, id, "mia@school.example"));
        Assert.Contains(code, await teacher.Text("/outbox"));
        using var plain = new FensterWithClock();
        using var other = await new Visitor(plain.Address).SignIn();
        var (own, _) = await other.Publish(Samples.Document(3));
        Assert.DoesNotContain("Invite by e-mail", await other.Text($"/activities/{own}/share"));
        Assert.Equal(HttpStatusCode.NotFound, (await other.Get("/outbox")).StatusCode);
    }

    [Fact]
    public async Task A_mail_server_that_is_not_there_loses_no_page()
    {
        using var fenster = new RunningFenster(
            options: ["--mail-host", "127.0.0.1", "--mail-port", "9", "--mail-from", "f@school.example"]
        );
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, _) = await teacher.Publish(Samples.Document(3));
        Assert.Contains("1 letter could not be sent", await Invite(teacher, id, "mia@school.example"));
    }
}
