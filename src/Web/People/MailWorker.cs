using MailKit;
using MailKit.Net.Smtp;
using MimeKit;
using NodaTime;
using Npgsql;
using VelvetGate.Store.People;
using VelvetGate.Web.Ledger;

namespace VelvetGate.Web.People;

/// <summary>Where mail goes.</summary>
/// <param name="From">Sender, such as <c>gate@house.example</c>.</param>
/// <param name="Url">How people reach the application, for links.</param>
public sealed record MailSettings(string Host, int Port, string From, string Url)
{
    /// <summary>Reads <c>VELVETGATE_MAIL</c>, such as <c>127.0.0.1:2525</c>; null sends no mail.</summary>
    public static MailSettings? Read(IConfiguration config)
    {
        var parts = (config["VELVETGATE_MAIL"] ?? "").Split(':');
        return parts.Length == 2 && int.TryParse(parts[1], out var port)
            ? new MailSettings(parts[0], port, config["VELVETGATE_MAIL_FROM"] ?? "gate@house.example", config["VELVETGATE_URL"] ?? "http://127.0.0.1:5080")
            : null;
    }
}

/// <summary>Puts each message into its person's mail box, once, over SMTP.</summary>
public sealed partial class MailWorker(OutgoingMail mails, MailSettings settings, EventHub hub, IClock clock, ILogger<MailWorker> log) : BackgroundService
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var subscription = hub.Subscribe();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Once(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or IOException or TimeoutException or System.Net.Sockets.SocketException or ProtocolException or CommandException or InvalidOperationException)
            {
                Failed(log, e.Message);
            }
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken);
            patience.CancelAfter(Round);
            await subscription.Wait(0, patience.Token);
        }
    }

    /// <summary>Sends all that waits, over one connection.</summary>
    public async Task Once(CancellationToken cancel)
    {
        using var smtp = new SmtpClient();
        while (await mails.SendNext(mail => Send(smtp, mail, cancel), clock.GetCurrentInstant(), cancel))
        {
            // One after another, so that a mail server that stops half way loses none.
        }
        if (smtp.IsConnected) await smtp.DisconnectAsync(true, cancel);
    }

    private async Task Send(SmtpClient smtp, Mail mail, CancellationToken cancel)
    {
        if (!smtp.IsConnected) await smtp.ConnectAsync(settings.Host, settings.Port, MailKit.Security.SecureSocketOptions.StartTlsWhenAvailable, cancel);
        var message = new MimeMessage { Subject = mail.Title, MessageId = $"{mail.Id}@velvetgate", Date = mail.At.ToDateTimeOffset(), Body = new TextPart("plain") { Text = $"{mail.Body}\n\n{settings.Url}{mail.Link}\n" } };
        message.From.Add(MailboxAddress.Parse(settings.From));
        message.To.Add(new MailboxAddress(mail.Name, mail.To));
        await smtp.SendAsync(message, cancel);
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Mail could not be sent, trying later: {Why}")]
    private static partial void Failed(ILogger log, string why);
}
