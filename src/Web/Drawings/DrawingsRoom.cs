using VelvetGate.Store.Drawings;

namespace VelvetGate.Web.Drawings;

/// <summary>What this room needs, and its ways in: drawings, their findings and mends.</summary>
public static class DrawingsRoom
{
    public static IServiceCollection AddDrawings(this IServiceCollection services) =>
        services.AddSingleton<DrawingStore>().AddSingleton<MendRoom>().AddSingleton<PieceRoom>().AddSingleton<DrawingReader>();

    public static void MapDrawingsRoom(this IEndpointRouteBuilder app)
    {
        app.MapDrawings();
        app.MapMends();
        app.MapClamps();
        app.MapDrawingColours();
    }
}
