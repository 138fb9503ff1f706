using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>
/// Where schools differ: attention counts from the beam permit, or on some machines from tapping in, also while somebody connects, homes
/// and sets. Ours counts from the permit unless the machine’s form says otherwise. Common practice, both.
/// </summary>
public static class TapInAttention
{
    public const string Code = "attention.prepared";

    /// <returns>Until when somebody does something or says that they are here; null where nothing of it is asked now.</returns>
    public static Instant? Until(StationSession s, MachineSpec machine, HouseRules rules) =>
        machine.Station?.AttentionFromTapIn == true && s.Step <= StationStep.Confirm
            ? (s.SeenAt ?? s.TappedIn) + Duration.FromMinutes(Attention.Minutes(machine, rules))
            : null;

    /// <summary>Nobody was there for too long: what was looked at and said is looked at and said anew.</summary>
    public static StationSession Lapsed(StationSession s, MachineSpec machine, Instant now) =>
        s with
        {
            Places = PlaceChecks.For(machine, null, s.Person, now),
            Looked = [],
            FanOn = null,
            Confirmed = false,
            Focus = null,
            Step = StationStep.Checks,
            Unattended = true,
        };

    public static string Says(MachineSpec machine, HouseRules rules) =>
        $"Nobody said for {Attention.Minutes(machine, rules)} min that they were here: {machine.Name} is looked at anew, "
        + "from the walk round.";
}
