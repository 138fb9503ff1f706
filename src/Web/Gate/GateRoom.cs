using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;

namespace VelvetGate.Web.Gate;

/// <summary>What this room needs, and its ways in: the decision, and what stewards are asked.</summary>
public static class GateRoom
{
    public static IServiceCollection AddGate(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, GateTasks>()
            .AddSingleton<FactLoader>()
            .AddSingleton<DecisionStore>()
            .AddSingleton<StewardRequestStore>();

    public static void MapGateRoom(this IEndpointRouteBuilder app)
    {
        app.MapGate();
    }
}
