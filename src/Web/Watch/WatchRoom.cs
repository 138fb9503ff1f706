using VelvetGate.Store.Watch;

namespace VelvetGate.Web.Watch;

/// <summary>What this room needs, and its ways in: what needs a hand now.</summary>
public static class WatchRoom
{
    public static IServiceCollection AddWatch(this IServiceCollection services) => services.AddSingleton<WatchStore>();

    public static void MapWatchRoom(this IEndpointRouteBuilder app)
    {
        app.MapWatch();
    }
}
