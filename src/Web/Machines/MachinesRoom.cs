namespace VelvetGate.Web.Machines;

/// <summary>What this room needs, and its ways in: the machines as they stand, and their emergency cards.</summary>
public static class MachinesRoom
{
    public static void MapMachinesRoom(this IEndpointRouteBuilder app)
    {
        app.MapEmergency();
    }
}
