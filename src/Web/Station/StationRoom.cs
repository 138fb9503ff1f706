using Microsoft.AspNetCore.Authorization;
using VelvetGate.Store.Station;

namespace VelvetGate.Web.Station;

/// <summary>What this room needs, and its ways in: the machine's page for everybody, and the session at the machine.</summary>
public static class StationRoom
{
    public static IServiceCollection AddStation(this IServiceCollection services) =>
        services
            .AddSingleton<StationStore>()
            .AddSingleton<ControllerStore>()
            .AddSingleton(s => ControllerSettings.Read(s.GetRequiredService<IConfiguration>()))
            .AddSingleton<ControllerLink>()
            .AddHostedService(s => s.GetRequiredService<ControllerLink>())
            .AddSingleton<FobStore>()
            .AddSingleton<PinStore>()
            .AddSingleton<DeviceStore>()
            .AddSingleton<PlaceCodeStore>()
            .AddSingleton<MachinePaperStore>()
            .AddSingleton<TapStore>()
            .AddSingleton<StationTaps>()
            .AddScoped<StationScreens>()
            .AddScoped<IAuthorizationHandler, AtMachineHandler>()
            .AddScoped<StationRoomViews>();

    public static void MapStationRoom(this IEndpointRouteBuilder app)
    {
        app.MapGuide();
        app.MapStations();
        app.MapControllers();
        app.MapScreens();
        app.MapFobs();
        app.MapPlace();
    }
}
