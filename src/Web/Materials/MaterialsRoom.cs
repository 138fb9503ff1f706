using VelvetGate.Store.Db;
using VelvetGate.Store.Materials;

namespace VelvetGate.Web.Materials;

/// <summary>What this room needs, and its ways in: the list of materials, sheets and rulings.</summary>
public static class MaterialsRoom
{
    public static IServiceCollection AddMaterials(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, MaterialTasks>()
            .AddSingleton<MaterialStore>()
            .AddSingleton<RulingStore>()
            .AddSingleton<SheetDeskStore>()
            .AddSingleton<IdentificationStore>()
            .AddSingleton<RulingRequestStore>();

    public static void MapMaterialsRoom(this IEndpointRouteBuilder app)
    {
        app.MapMaterials();
        app.MapRulings();
        app.MapSheetDesk();
        app.MapSheetPrints();
        app.MapPublicList();
        app.MapIdentification();
        app.MapRulingRequests();
        app.MapExchange();
    }
}
