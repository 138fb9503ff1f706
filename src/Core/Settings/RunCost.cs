using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings;

/// <summary>What a run costs where the house sets a price for a minute of it.</summary>
/// <param name="Amount">To two places; a half goes up.</param>
/// <param name="Currency">As the house writes it.</param>
public sealed record RunCost(decimal Amount, string Currency, decimal PerMinute)
{
    /// <returns>Null where the house sets no price.</returns>
    public static RunCost? Of(double seconds, HouseRules rules) =>
        rules.RunMinutePrice is > 0 and var price
            ? new(Math.Round(price * (decimal)seconds / 60, 2, MidpointRounding.AwayFromZero), rules.Currency, price)
            : null;
}

/// <summary>What a run takes from the wall, with cooling and extraction, as the machine’s form states it.</summary>
/// <param name="WattHours">P · t, to a tenth.</param>
public sealed record RunEnergy(decimal WattHours, decimal Watts)
{
    /// <returns>Null where nobody measured what the machine takes.</returns>
    public static RunEnergy? Of(double seconds, MachineSpec machine) =>
        machine.Station?.WallW is > 0 and var watts ? new(Math.Round(watts * (decimal)seconds / 3600, 1), watts) : null;
}
