using VelvetGate.Store.Db;
using VelvetGate.Store.Founding;
using VelvetGate.Store.House;

namespace VelvetGate.Web.House;

/// <summary>What this room needs, and its ways in: the house itself: its forms, rules, calendar and founding.</summary>
public static class HouseRoom
{
    public static IServiceCollection AddHouse(this IServiceCollection services) =>
        services
            .AddSingleton<PaperStore>()
            .AddSingleton<IStewardTasks, HouseTasks>()
            .AddSingleton<HouseStore>()
            .AddSingleton<SheetStore>()
            .AddSingleton<CommissioningStore>()
            .AddSingleton<CalendarStore>()
            .AddSingleton<ClosureImport>()
            .AddSingleton<FoundingOfHouse>()
            .AddSingleton<FoundingCode>()
            .AddSingleton<StillMissing>()
            .AddHostedService(s => s.GetRequiredService<FoundingCode>())
            .AddHostedService<HouseWorker>();

    public static void MapHouseRoom(this IEndpointRouteBuilder app)
    {
        app.MapSetUp();
        app.MapHouse();
        app.MapSheetsOfHouse();
        app.MapCommissioning();
        app.MapRules();
        app.MapCalendar();
        app.MapMonth();
        app.MapClosureFile();
        app.MapHousePapers();
    }
}
