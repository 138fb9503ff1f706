using VelvetGate.Store.Upkeep;

namespace VelvetGate.Web.Upkeep;

/// <summary>What this room needs, and its ways in: tasks, readings, faults, and the return of a machine.</summary>
public static class UpkeepRoom
{
    public static IServiceCollection AddUpkeep(this IServiceCollection services) =>
        services
            .AddSingleton<UpkeepStore>()
            .AddSingleton<ReadingStore>()
            .AddSingleton<TrendStore>()
            .AddSingleton<FaultStore>()
            .AddSingleton<ReturnStore>()
            .AddSingleton<BreakStore>()
            .AddSingleton<KitStore>()
            .AddSingleton<ConsumableStore>()
            .AddSingleton<LockStore>()
            .AddSingleton<UpkeepPhotoStore>()
            .AddSingleton<UpkeepDays>()
            .AddSingleton<Store.Db.IStewardTasks, UpkeepTasks>();

    public static void MapUpkeepRoom(this IEndpointRouteBuilder app)
    {
        app.MapUpkeep();
        app.MapFaults();
        app.MapReturns();
        app.MapBreaks();
        app.MapKit();
        app.MapStock();
        app.MapLocks();
        app.MapUpkeepPhotos();
    }
}
