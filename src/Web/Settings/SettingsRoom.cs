using VelvetGate.Store.Settings;

namespace VelvetGate.Web.Settings;

/// <summary>What this room needs, and its ways in: settings and calculators.</summary>
public static class SettingsRoom
{
    public static IServiceCollection AddSettings(this IServiceCollection services) =>
        services.AddSingleton<SettingStore>().AddSingleton<TestPieceStore>().AddSingleton<RunTimesStore>();

    public static void MapSettingsRoom(this IEndpointRouteBuilder app)
    {
        app.MapCalculators();
        app.MapSettings();
        app.MapTestPieces();
        app.MapRunTimes();
    }
}
