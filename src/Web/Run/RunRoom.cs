using VelvetGate.Store.Db;
using VelvetGate.Store.Run;

namespace VelvetGate.Web.Run;

/// <summary>What this room needs, and its ways in: what was run.</summary>
public static class RunRoom
{
    public static IServiceCollection AddRun(this IServiceCollection services) =>
        services.AddSingleton<IStewardTasks, RunTasks>().AddSingleton<RunStore>();

    public static void MapRunRoom(this IEndpointRouteBuilder app)
    {
        app.MapRuns();
    }
}
