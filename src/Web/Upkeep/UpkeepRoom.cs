using VelvetGate.Store.House;

namespace VelvetGate.Web.Upkeep;

/// <summary>What this room needs, and its ways in: what is due on a machine.</summary>
public static class UpkeepRoom
{
    public static IServiceCollection AddUpkeep(this IServiceCollection services) => services.AddSingleton<UpkeepStore>();

    public static void MapUpkeepRoom(this IEndpointRouteBuilder app)
    {
        app.MapUpkeep();
    }
}
