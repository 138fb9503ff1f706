using VelvetGate.Tests.Support;
using Xunit;

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

/// <summary>
/// Each of these has a demo house of its own. Two of them are tried at once (xunit.runner.json); tests that share a house run one at a
/// time, for some say what must not happen meanwhile.
/// </summary>
public static class Houses
{
    public const string Look = nameof(Look);
    public const string Training = nameof(Training);
    public const string House = nameof(House);
    public const string Sheets = nameof(Sheets);
}

[CollectionDefinition(Houses.Look)]
public sealed class LookHouse : ICollectionFixture<LiveServer>;

[CollectionDefinition(Houses.Training)]
public sealed class TrainingHouse : ICollectionFixture<LiveServer>;

[CollectionDefinition(Houses.House)]
public sealed class MainHouse : ICollectionFixture<LiveServer>;

[CollectionDefinition(Houses.Sheets)]
public sealed class SheetsHouse : ICollectionFixture<LiveServer>;
