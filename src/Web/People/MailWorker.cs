using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using NodaTime;
using VelvetGate.Store.People;
using VelvetGate.Web.Ledger;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <summary>Where mail goes.</summary>
/// <param name="From">Sender, such as <c>gate@house.example</c>.</param>
/// <param name="Url">How people reach the application, for links.</param>
/// <param name="User">Name to sign in to the mail server with; null signs in to none.</param>
/// <param name="TlsRequired">No mail leaves on an open line.</param>
public sealed record MailSettings(
    string Host,
    int Port,
    string From,
    string Url,
    string? User = null,
    string? Password = null,
    bool TlsRequired = false
)
{
    /// <summary>Reads <c>VELVETGATE_MAIL</c>, such as <c>127.0.0.1:2525</c>; null sends no mail.</summary>
    /// <exception cref="InvalidOperationException">A setting cannot be read; the message names it.</exception>
    public static MailSettings? Read(IConfiguration config)
    {
        var parts = (config["VELVETGATE_MAIL"] ?? "").Split(':');
        if (parts.Length != 2 || !int.TryParse(parts[1], out var port))
            return null;
        var from = config["VELVETGATE_MAIL_FROM"] ?? "gate@house.example";
        if (!MailboxAddress.TryParse(from, out _))
            throw new InvalidOperationException($"VELVETGATE_MAIL_FROM is no mail address: {from}");
        return new MailSettings(
            Host: parts[0],
            Port: port,
            From: from,
            Url: config["VELVETGATE_URL"] ?? "http://127.0.0.1:5080",
            User: config["VELVETGATE_MAIL_USER"],
            Password: config["VELVETGATE_MAIL_PASSWORD"],
            TlsRequired: string.Equals(config["VELVETGATE_MAIL_TLS"], "required", StringComparison.OrdinalIgnoreCase)
        );
    }
}

/// <summary>Puts each message into its person's mail box, once, over SMTP.</summary>
public sealed class MailWorker(
    OutgoingMail mails,
    MailSettings settings,
    EventHub? hub,
    IClock clock,
    WorkHealth health,
    ILogger<MailWorker> log
) : BackgroundWork("mail", health, log)
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    private readonly EventHub.Subscription? _subscription = hub?.Subscribe();

    /// <summary>Sends all that waits, over one connection.</summary>
    public override async Task Once(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await mails.SwitchOn(now, cancel);
        using var smtp = new SmtpClient();
        while (await mails.SendNext(mail => Send(smtp, mail, cancel), now, cancel))
        {
            // One after another, so that a mail server that stops half way loses none.
        }
        if (smtp.IsConnected)
            await smtp.DisconnectAsync(true, cancel);
    }

    public override void Dispose()
    {
        _subscription?.Dispose();
        base.Dispose();
    }

    protected override async Task Rest(CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Round);
        if (_subscription is not null)
            await _subscription.Wait(0, patience.Token);
    }

    /// <summary>A mail that fails by itself says so; a server that is away is another matter, and ends the round.</summary>
    private async Task<MailOutcome> Send(SmtpClient smtp, Mail mail, CancellationToken cancel)
    {
        if (!MailboxAddress.TryParse(mail.To, out var to))
            return new MailOutcome.Failed("That is no mail address.", ForGood: true);
        if (!smtp.IsConnected)
            await Connect(smtp, cancel);
        using var message = new MimeMessage
        {
            Subject = mail.Title,
            MessageId = $"{mail.Id}@velvetgate",
            Date = mail.At.ToDateTimeOffset(),
            Body = new TextPart("plain") { Text = $"{mail.Body}\n\n{settings.Url}{mail.Link}\n" },
        };
        message.From.Add(MailboxAddress.Parse(settings.From));
        message.To.Add(new MailboxAddress(mail.Name, to.Address));
        try
        {
            await smtp.SendAsync(message, cancel);
            return new MailOutcome.Sent();
        }
        catch (SmtpCommandException e)
        {
            // RFC 5321, 4.2.1: 4yz may go well later, 5yz will not.
            return new MailOutcome.Failed($"{(int)e.StatusCode} {e.Message}", ForGood: (int)e.StatusCode >= 500);
        }
        catch (Exception e) when (e is FormatException or ArgumentException or NotSupportedException)
        {
            return new MailOutcome.Failed(e.Message, ForGood: true);
        }
    }

    private async Task Connect(SmtpClient smtp, CancellationToken cancel)
    {
        await smtp.ConnectAsync(
            settings.Host,
            settings.Port,
            settings.TlsRequired ? SecureSocketOptions.StartTls : SecureSocketOptions.StartTlsWhenAvailable,
            cancel
        );
        if (settings is { User: { } user, Password: { } password })
            await smtp.AuthenticateAsync(user, password, cancel);
    }
}
