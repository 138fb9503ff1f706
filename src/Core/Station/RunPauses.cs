using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>
/// A pause takes the beam away and gives it back, on machines whose own pause does, with a controller, and for as long as the house
/// allows. Somebody who was away longer does not know what the bed looked like meanwhile. Source: common practice.
/// </summary>
public static class RunPauses
{
    /// <returns>Minutes; 0 where nothing is paused.</returns>
    public static int Minutes(MachineSpec machine, HouseRules rules) => machine.Station?.PauseStopsBeam == true ? rules.PauseMinutes : 0;

    internal static Result<StationSession> Begin(StationSession s, StationFacts facts, Instant now) =>
        !s.Controlled || Minutes(facts.Machine, facts.Rules) == 0 ? StationProblems.PauseNone.Refuse(null, facts.Machine.Name)
        : s.Run!.PausedAt is not null ? StationProblems.PauseOn.Refuse()
        : s.Run.OffAt is not null || now > s.Run.Deadline ? StationProblems.AttentionLapsed.Refuse()
        : s with { Run = s.Run with { PausedAt = now } };

    internal static Result<StationSession> End(StationSession s, StationFacts facts, Instant now) =>
        s.Run!.PausedAt is not { } since ? StationProblems.StationStep.Refuse()
        : now > since + Duration.FromMinutes(Minutes(facts.Machine, facts.Rules))
            ? StationProblems.PauseOver.Refuse(null, Minutes(facts.Machine, facts.Rules))
        : SessionActs.Unready(facts, now) is { } not ? not
        : s with
        {
            Run = s.Run with
            {
                PausedAt = null,
                OffAt = null,
                Deadline = now + Duration.FromMinutes(Attention.Minutes(facts.Machine, facts.Rules)),
            },
        };
}
