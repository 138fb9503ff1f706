using VelvetGate.Core.House;

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
