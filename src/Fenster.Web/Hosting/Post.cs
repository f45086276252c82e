using System.Globalization;
using Fenster.Core.Model;
using Fenster.Words;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;

namespace Fenster.Web.Hosting;

/// <summary>A letter to one person.</summary>
/// <param name="To">An e-mail address.</param>
public sealed record Letter(string To, string Subject, string Text)
{
    /// <summary>An invitation to an activity, in its language.</summary>
    public static Letter Inviting(string to, string teacher, Activity activity, string code, string link)
    {
        var language = Language.In(activity.Language);
        return new(
            to,
            language.Say("letter.subject", ("title", activity.Title)),
            language.Say("letter.text", ("name", teacher), ("title", activity.Title), ("link", link), ("code", code))
        );
    }
}

/// <summary>Where letters go.</summary>
public interface IPost
{
    /// <summary>Whether letters can be sent at all.</summary>
    bool IsOpen { get; }

    /// <summary>Sends letters, each for itself.</summary>
    /// <param name="from">Name of the teacher who sends them.</param>
    /// <returns>The addresses that could not be reached.</returns>
    Task<IReadOnlyList<string>> Send(string from, IReadOnlyList<Letter> letters, CancellationToken stop);
}

/// <summary>Where a server takes letters, as the operator says it.</summary>
/// <param name="Tls"><c>none</c>, <c>starttls</c> or <c>tls</c>.</param>
/// <param name="Sender">The address that letters come from.</param>
/// <param name="User">Null where nobody signs in.</param>
public sealed record MailSettings(string Host, int Port, string Tls, string Sender, string? User, string? Password)
{
    /// <summary>Of the command line or the environment; null where no host is named.</summary>
    /// <exception cref="InvalidOperationException">A part is missing or is none.</exception>
    public static MailSettings? Of(IConfiguration configuration)
    {
        if (configuration["mail-host"] is not { Length: > 0 } host)
            return null;
        var tls = configuration["mail-tls"] ?? "starttls";
        if (tls is not ("none" or "starttls" or "tls"))
            throw new InvalidOperationException($"--mail-tls is none, starttls or tls, and not '{tls}'.");
        if (!MailboxAddress.TryParse(configuration["mail-from"], out _))
            throw new InvalidOperationException("--mail-from names the address that letters come from.");
        var port = configuration["mail-port"] ?? (tls == "tls" ? "465" : "587");
        return int.TryParse(port, CultureInfo.InvariantCulture, out var number) && number is > 0 and < 65536
            ? new(
                host,
                number,
                tls,
                configuration["mail-from"]!,
                configuration["mail-user"],
                configuration["mail-password"] ?? configuration["FENSTER_MAIL_PASSWORD"]
            )
            : throw new InvalidOperationException($"--mail-port is a port, and not '{port}'.");
    }
}

/// <summary>Letters by SMTP.</summary>
internal sealed class SmtpPost(MailSettings settings) : IPost
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    public bool IsOpen => true;

    public async Task<IReadOnlyList<string>> Send(string from, IReadOnlyList<Letter> letters, CancellationToken stop)
    {
        using var smtp = new SmtpClient { Timeout = (int)Patience.TotalMilliseconds };
        var (lost, tried) = (new List<string>(), 0);
        try
        {
            await Connect(smtp, stop);
            foreach (var letter in letters)
            {
                // After a refusal some servers hang up.
                if (!smtp.IsConnected)
                    await Connect(smtp, stop);
                using var message = Message(settings.Sender, from, letter);
                tried++;
                try
                {
                    await smtp.SendAsync(message, stop);
                }
                catch (Exception exception) when (IsTheirs(exception))
                {
                    lost.Add(letter.To);
                }
            }
            if (smtp.IsConnected)
                await smtp.DisconnectAsync(quit: true, stop);
            return lost;
        }
        catch (Exception exception) when (IsTheirs(exception))
        {
            // Nobody is there, or nobody any more: what was not sent is lost.
            return [.. lost, .. letters.Skip(tried).Select(letter => letter.To)];
        }
    }

    private async Task Connect(SmtpClient smtp, CancellationToken stop)
    {
        await smtp.ConnectAsync(settings.Host, settings.Port, Security, stop);
        if (settings.User is { Length: > 0 } user)
            await smtp.AuthenticateAsync(user, settings.Password ?? "", stop);
    }

    private SecureSocketOptions Security =>
        settings.Tls switch
        {
            "none" => SecureSocketOptions.None,
            "tls" => SecureSocketOptions.SslOnConnect,
            _ => SecureSocketOptions.StartTls,
        };

    /// <summary>What a mail server or the way to it does.</summary>
    private static bool IsTheirs(Exception exception) =>
        exception
            is SmtpCommandException
                or SmtpProtocolException
                or AuthenticationException
                or SslHandshakeException
                or System.Net.Sockets.SocketException
                or IOException
                or TimeoutException
                or MailKit.ServiceNotConnectedException
                or NotSupportedException;

    internal static MimeMessage Message(string sender, string from, Letter letter)
    {
        var message = new MimeMessage
        {
            Subject = letter.Subject,
            Body = new TextPart("plain") { Text = letter.Text },
        };
        message.From.Add(new MailboxAddress(from, sender));
        message.To.Add(MailboxAddress.Parse(letter.To));
        return message;
    }
}

/// <summary>Stands in for a mail server: letters are files in a folder, and are shown to who sent them.</summary>
internal sealed class Outbox(string folder, TimeProvider clock) : IPost
{
    private const string Sender = "fenster@localhost";

    public bool IsOpen => true;

    public async Task<IReadOnlyList<string>> Send(string from, IReadOnlyList<Letter> letters, CancellationToken stop)
    {
        Directory.CreateDirectory(folder);
        foreach (var letter in letters)
        {
            using var message = SmtpPost.Message(Sender, from, letter);
            message.Date = clock.GetUtcNow();
            var name = $"{clock.GetUtcNow():yyyyMMdd-HHmmssfff}-{Guid.NewGuid():n}.eml";
            await message.WriteToAsync(Path.Combine(folder, name), stop);
        }
        return [];
    }

    /// <summary>How many letters are shown.</summary>
    private const int MostShown = 50;

    /// <summary>The last letters, the newest first.</summary>
    public IReadOnlyList<MimeMessage> Letters() =>
        Directory.Exists(folder)
            ?
            [
                .. Directory
                    .EnumerateFiles(folder, "*.eml")
                    .OrderDescending(StringComparer.Ordinal)
                    .Take(MostShown)
                    .Select(file => MimeMessage.Load(file)),
            ]
            : [];
}

/// <summary>Where no mail server was named: nothing is sent, and nothing is offered.</summary>
internal sealed class NoPost : IPost
{
    public bool IsOpen => false;

    public Task<IReadOnlyList<string>> Send(string from, IReadOnlyList<Letter> letters, CancellationToken stop) =>
        Task.FromResult<IReadOnlyList<string>>([.. letters.Select(letter => letter.To)]);
}
