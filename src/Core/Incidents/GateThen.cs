using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Incidents;

/// <summary>What would have caught it: which reasons of the gate stood when it was booked, and which when it ran.</summary>
public static class GateThen
{
    /// <param name="booked">The stored outcome of the booking; null where none stands behind the run.</param>
    /// <param name="against">Codes that stood against the run itself.</param>
    public static IReadOnlyList<string> Says(StoredOutcome? booked, IReadOnlyCollection<string> against) =>
        [
            .. (booked?.Posts ?? [])
                .SelectMany(p => p.Codes)
                .Where(c => c.Standing > Standing.Clear)
                .Select(c => $"when it was booked: {Codes.Says([c.Code])}"),
            .. against.Select(c => $"when it ran: {Codes.Says([c])}"),
        ];
}
