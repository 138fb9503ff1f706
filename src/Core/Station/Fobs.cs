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

    /// <param name="keys">The house has a station key.</param>
    public static Refusal? MayBeKept(bool keys) => keys ? null : StationProblems.FobOff.Refuse();

    /// <summary>A tap at a reader counts while whoever tapped still stands there.</summary>
    public static Refusal? MayCount(string code, Instant at, Instant now) =>
        now - at > Taps.LateAfter ? StationProblems.FobLate.Refuse() : Check(code);

    /// <param name="holder">Of the fob; null where nobody has it.</param>
    public static Result<PersonId> Of(PersonId? holder) => holder is { } who ? who : StationProblems.FobUnknown.Refuse("fob");

    /// <param name="holder">Of the tap-in code; null where it is nobody’s, or no longer.</param>
    public static Result<PersonId> OfCode(PersonId? holder) => holder is { } who ? who : StationProblems.CodeWrong.Refuse("code");

    /// <summary>Guessing is slowed down by these.</summary>
    public static bool IsGuess(Refusal? refusal) =>
        refusal?.Problem is { } what
        && (what == StationProblems.CodeWrong || what == StationProblems.FobUnknown || what == StationProblems.PinWrong);

    /// <summary>Signed in, one taps in as oneself; a fob or a code counts at a screen of the machine alone.</summary>
    /// <param name="named">A fob or a code; null for none.</param>
    /// <param name="signedIn">Null for nobody.</param>
    public static Refusal? MayTap(string? named, PersonId? signedIn, bool atScreen) =>
        named is null
            ? signedIn is null
                ? StationProblems.FobNothing.Refuse()
                : null
            : atScreen
                ? null
                : StationProblems.FobNotHere.Refuse();

    /// <summary>One’s own, or by those who look after them.</summary>
    public static Refusal? MayRevoke(bool own, bool staff) => own || staff ? null : StationProblems.FobGone.Refuse();

    /// <param name="name">Of a screen that is to stand at a machine.</param>
    public static Refusal? MayEnrol(string name) =>
        name.Length is 0 or > ScreenNameLongest ? StationProblems.DeviceName.Refuse("name", ScreenNameLongest) : null;

    private const int ScreenNameLongest = 60;

    /// <param name="known">Somebody has it, and it was not revoked.</param>
    public static Refusal? MayLearn(string name, bool known) =>
        name.Length is 0 or > NameLongest ? StationProblems.FobName.Refuse("name", NameLongest)
        : known ? StationProblems.FobKnown.Refuse("code")
        : null;
}
