using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>
/// The class of a machine as it is used. A class that rests on interlocks holds only while somebody has tried them, and tried them lately:
/// else the machine counts as class 4 until they are. Source: common practice (a class is read from label and manual, and never derived);
/// how old a trial may be is a house rule.
/// </summary>
public static class ClassInUse
{
    /// <returns>Why it counts as class 4, a sentence; null where it is what its form says.</returns>
    /// <param name="at">Until when the interlocks have to be shown.</param>
    public static string? WhyFour(MachineSpec machine, SetUpFacts? setUp, HouseRules rules, Instant at)
    {
        if (setUp is null || machine.BeamCanReachPeople)
            return null;
        if (!setUp.ControllerShown)
            return $"Nobody has written down who wired our controller into {machine.Name}, with whose consent, and the class after it: "
                + "it counts as class 4 until that is shown.";
        if (setUp.InterlocksAt is not { } tried)
            return $"Nobody has written down that the interlocks of {machine.Name} were tried: it counts as class 4 until they are.";
        return at > tried + Duration.FromDays(rules.InterlockDays)
            ? $"The interlocks of {machine.Name} were last tried on {HouseDates.Day(tried, rules)}, more than {rules.InterlockDays} days "
                + "before: it counts as class 4 until they are tried."
            : null;
    }

    /// <summary>The machine as it counts: open and of class 4 where that is so.</summary>
    public static MachineSpec Of(MachineSpec machine, SetUpFacts? setUp, HouseRules rules, Instant at) =>
        WhyFour(machine, setUp, rules, at) is null
            ? machine
            : machine with
            {
                LaserClass = "4",
                Station = machine.Station is { } station ? station with { EnclosureKind = EnclosureKind.Unverified } : null,
            };
}
