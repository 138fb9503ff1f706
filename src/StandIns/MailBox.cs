using System.Buffers;
using System.Collections.Concurrent;
using System.Text;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace VelvetGate.StandIns;

/// <summary>Stands in for a house's mail server: takes every mail over SMTP and keeps it as a file. Loopback only, no sign-in.</summary>
public sealed class MailBox : IMessageStore, IAsyncDisposable
{
    private readonly CancellationTokenSource _end = new();
    private readonly string? _folder;
    private readonly Task _running;

    // Later starts sort later: no mail of an earlier one is written over.
    private readonly long _started = TimeProvider.System.GetUtcNow().ToUnixTimeSeconds();
    private int _count;

    /// <param name="folder">Where mails are kept as .eml files; null keeps them in memory only.</param>
    public MailBox(int port, string? folder)
    {
        _folder = folder;
        if (folder is not null)
            Directory.CreateDirectory(folder);
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(this);
        var options = new SmtpServerOptionsBuilder()
            .ServerName("localhost")
            .Endpoint(e =>
                e.Endpoint(new System.Net.IPEndPoint(System.Net.IPAddress.Loopback, port)).AllowUnsecureAuthentication(true).Build()
            )
            .Build();
        _running = new SmtpServer.SmtpServer(options, services).StartAsync(_end.Token);
    }

    /// <summary>Whole mails as they came, in order.</summary>
    public ConcurrentQueue<string> Mails { get; } = new();

    public Task Ended => _running;

    public async Task<SmtpResponse> SaveAsync(
        ISessionContext context,
        IMessageTransaction transaction,
        ReadOnlySequence<byte> buffer,
        CancellationToken cancellationToken
    )
    {
        var bytes = buffer.ToArray();
        Mails.Enqueue(Encoding.UTF8.GetString(bytes));
        if (_folder is not null)
            await File.WriteAllBytesAsync(
                Path.Combine(_folder, $"{_started:x}-{Interlocked.Increment(ref _count):00000}.eml"),
                bytes,
                cancellationToken
            );
        return SmtpResponse.Ok;
    }

    public async ValueTask DisposeAsync()
    {
        await _end.CancelAsync();
        await Task.WhenAny(_running, Task.Delay(2000));
        _end.Dispose();
    }
}
