using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Web.Ledger;

/// <summary>What this room needs, and its ways in: the record and its events.</summary>
public static class LedgerRoom
{
    public static IServiceCollection AddLedger(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, ParkedTasks>()
            .AddSingleton<LedgerStore>()
            .AddSingleton<ParkedWork>()
            .AddSingleton<EventHub>()
            .AddHostedService(s => s.GetRequiredService<EventHub>());

    public static void MapLedgerRoom(this IEndpointRouteBuilder app)
    {
        app.MapLedger();
    }
}
