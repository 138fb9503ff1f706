using NodaTime;

namespace VelvetGate.Core.Incidents;

/// <summary>What a look found.</summary>
public enum Found
{
    Nothing,

    /// <summary>Warm to the back of the hand: nobody opens it. Leave, and call.</summary>
    Warm,

    /// <summary>Smoke, glow or flame: leave, and call.</summary>
    Burning,
}

public enum LookState
{
    /// <summary>Somebody looked.</summary>
    Done,

    /// <summary>It is time.</summary>
    Due,

    /// <summary>Its time is over, and nobody looked.</summary>
    Missed,
    ToCome,
}

/// <param name="Minute">After the watch began.</param>
public sealed record Look(int Minute, Instant At, LookState State);

/// <summary>
/// Watching after a flame: looks at fixed minutes, felt with the back of the hand on filter casing and duct, and into outlet and bin.
/// Hot-work codes and insurers ask for an hour (from memory); house practice.
/// </summary>
public static class WatchPlan
{
    private static readonly int[] Minutes = [0, 10, 20, 30, 45, 60];

    /// <summary>A look that nobody answers for so long calls the steward on duty.</summary>
    public static readonly Duration Patience = Duration.FromMinutes(5);

    public const string HowTo =
        "Filter casing and duct: feel with the back of the hand. Outlet and bin: look. Never open a warm filter: leave, call. "
        + "A room that was shut for fume is looked at through the door.";

    /// <summary>The looks of a watch of so many minutes.</summary>
    public static IReadOnlyList<int> Of(int minutes) => [.. Minutes.Where(m => m < minutes), minutes];

    /// <summary>Where each look stands.</summary>
    /// <param name="done">Minutes of the looks that were made.</param>
    public static IReadOnlyList<Look> Looks(Instant began, int minutes, IReadOnlyCollection<int> done, Instant now)
    {
        var plan = Of(minutes);
        var looks = new List<Look>();
        for (var i = 0; i < plan.Count; i++)
        {
            var at = began + Duration.FromMinutes(plan[i]);
            // A look may be answered until the next one is due; the last one for as long as nobody has.
            var over = i + 1 < plan.Count ? began + Duration.FromMinutes(plan[i + 1]) : Instant.MaxValue;
            var state =
                done.Contains(plan[i]) ? LookState.Done
                : now < at ? LookState.ToCome
                : now >= over ? LookState.Missed
                : LookState.Due;
            looks.Add(new Look(plan[i], at, state));
        }
        return looks;
    }

    /// <summary>The watch is over once its last look was made; that one is never missed, only late.</summary>
    public static bool Runs(int minutes, IReadOnlyCollection<int> done) => !done.Contains(minutes);

    /// <summary>Looks that nobody answered for longer than <see cref="Patience"/>, and that somebody has to be called for.</summary>
    public static bool WantsACall(IReadOnlyList<Look> looks, Instant now) =>
        looks.Any(l => l.State == LookState.Due && now >= l.At + Patience || l.State == LookState.Missed);

    /// <returns>Null when somebody may write down this look.</returns>
    public static Refusal? MayLook(IReadOnlyList<Look> looks, int minute) =>
        looks.FirstOrDefault(l => l.Minute == minute) switch
        {
            null => IncidentsProblems.LookNone.Refuse("minute", string.Join(", ", looks.Select(l => l.Minute))),
            { State: LookState.ToCome } => IncidentsProblems.LookEarly.Refuse("minute"),
            { State: LookState.Done } => IncidentsProblems.LookDone.Refuse("minute"),
            { State: LookState.Missed } => IncidentsProblems.LookMissed.Refuse("minute"),
            _ => null,
        };
}
