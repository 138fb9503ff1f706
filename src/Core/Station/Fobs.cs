using NodaTime;

namespace VelvetGate.Core.Station;

/// <summary>How a person is known at a machine: a fob that was learnt, or a tap-in code on their own phone.</summary>
public static class Fobs
{
    /// <summary>A steward chose whose fob is learnt: the next one at that reader within this is it. House practice.</summary>
    public static readonly Duration LearnWithin = Duration.FromSeconds(60);

    /// <summary>A tap-in code is good for so long, and once.</summary>
    public static readonly Duration CodeFor = Duration.FromSeconds(30);

    /// <summary>A million: guessed within half a minute by nobody whom the guard against guessing slows down.</summary>
    public const int CodeDigits = 6;

    private const int Shortest = 4;
    private const int Longest = 100;
    private const int NameLongest = 40;

    /// <summary>A fob’s code as it is read: letters and figures, no blank in it.</summary>
    public static Refusal? Check(string code) =>
        code.Length is < Shortest or > Longest || code.Any(c => c is <= ' ' or > '~') ? StationProblems.FobCode.Refuse("code") : null;

    /// <param name="known">Somebody has it, and it was not revoked.</param>
    public static Refusal? MayLearn(string name, bool known) =>
        name.Length is 0 or > NameLongest ? StationProblems.FobName.Refuse("name", NameLongest)
        : known ? StationProblems.FobKnown.Refuse("code")
        : null;
}
