using VelvetGate.Store.Db;
using VelvetGate.Store.Incidents;

namespace VelvetGate.Web.Incidents;

/// <summary>What this room needs, and its ways in: incidents, near misses, and how often there are any.</summary>
public static class IncidentsRoom
{
    public static IServiceCollection AddIncidents(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, IncidentTasks>()
            .AddSingleton<IncidentStore>()
            .AddSingleton<IncidentHoldStore>()
            .AddSingleton<FireWatchStore>()
            .AddSingleton<InvestigationStore>()
            .AddSingleton<IncidentPapers>()
            .AddSingleton<IncidentReading>()
            .AddSingleton<IncidentFigures>()
            .AddSingleton<NearMissStore>()
            .AddSingleton<HeadCountStore>()
            .AddSingleton(TimeProvider.System)
            .AddSingleton<NearMissCounts>()
            .AddScoped<IncidentAnswers>()
            .AddHostedService<IncidentWorker>();

    public static void MapIncidentsRoom(this IEndpointRouteBuilder app)
    {
        app.MapIncidents();
        app.MapIncidentHolds();
        app.MapInvestigations();
        app.MapIncidentPapers();
        app.MapIncidentFigures();
        app.MapNearMisses();
        app.MapHeadCount();
    }
}
