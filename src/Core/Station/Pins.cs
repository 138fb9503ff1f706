using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Station;

/// <summary>A PIN beside the fob, where the house asks for it: a fob is lent and lost. House practice.</summary>
public static class Pins
{
    /// <summary>Typed within this after the fob was held at the reader.</summary>
    public static readonly Duration TypeWithin = Duration.FromSeconds(60);

    private const int Shortest = 4;
    private const int Longest = 8;

    /// <summary>Four to eight figures, and not those that are guessed first: all the same, or counted up or down.</summary>
    public static Refusal? Check(string pin) =>
        pin.Length is < Shortest or > Longest || !pin.All(char.IsAsciiDigit) || Steps(pin) is [0 or 1 or -1]
            ? StationProblems.PinForm.Refuse("pin", Shortest, Longest)
            : null;

    private static int[] Steps(string pin) => [.. pin.Zip(pin.Skip(1), (a, b) => b - a).Distinct()];

    /// <summary>Whoever begins, or takes over, types it; whoever only stands by, supervises or is tapped in already does not.</summary>
    /// <param name="there">Open at the machine; null for nobody.</param>
    public static bool Asked(HouseRules rules, StationSession? there, PersonId by) =>
        rules.PinWithFob && (there is null || (there.Person != by && there.Supervisor != by && !there.AsksSomebody));

    /// <param name="right">Null where they have set none.</param>
    public static Refusal? May(bool? right) =>
        right switch
        {
            true => null,
            false => StationProblems.PinWrong.Refuse("pin"),
            null => StationProblems.PinUnset.Refuse("pin"),
        };

    /// <summary>A PIN alone counts for the fob that was held here a moment ago.</summary>
    public static Result<PersonId> Of(PersonId? waits) => waits is { } who ? who : StationProblems.PinNobody.Refuse("pin");

    public static Refusal Wanted() => StationProblems.PinWanted.Refuse(null, TypeWithin.TotalSeconds);
}
