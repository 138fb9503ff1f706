using VelvetGate.Tests.Support;
using Xunit;

// They run one at a time (xunit.runner.json): they share one house, and some say what must not happen meanwhile.
[assembly: AssemblyFixture(typeof(VelvetGate.Browser.Tests.LiveServer))]

namespace VelvetGate.Browser.Tests;

/// <summary>The published application on a demo house of its own.</summary>
public sealed class LiveServer : IAsyncLifetime
{
    private ServerProcess? _server;

    public TestDatabase Db { get; private set; } = null!;

    public string Address => _server!.Address;

    public async ValueTask InitializeAsync()
    {
        Db = await TestDatabase.Demo();
        _server = await ServerProcess.Start(Db);
    }

    public async ValueTask DisposeAsync()
    {
        _server?.Dispose();
        await Db.DisposeAsync();
    }
}
