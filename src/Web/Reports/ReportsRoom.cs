using VelvetGate.Store.Reports;

namespace VelvetGate.Web.Reports;

/// <summary>What this room needs, and its ways in: figures over all rooms.</summary>
public static class ReportsRoom
{
    public static IServiceCollection AddReports(this IServiceCollection services) => services.AddSingleton<UseStore>();

    public static void MapReportsRoom(this IEndpointRouteBuilder app)
    {
        app.MapUse();
        app.MapWhatIf();
        app.MapTrends();
    }
}
