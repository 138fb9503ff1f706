using NodaTime;
using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Station;

/// <summary>Somebody who taps: holds a fob, types a code, or is signed in on a device of their own.</summary>
/// <param name="Certified">Holds a certificate for this machine now.</param>
public sealed record Tapper(PersonId Person, bool Steward, bool Certified);

/// <summary>Somebody beside the person of the session, there for a moment.</summary>
public sealed record StandsBy(PersonId Person, Instant At, bool Steward, bool Certified);

/// <summary>The first of the two taps of a hand-over.</summary>
public sealed record HandOver(PersonId Person, Instant At);

/// <summary>What a tap at a machine with an open session is.</summary>
public enum TapMeans
{
    /// <summary>The person of the session, again.</summary>
    Here,

    /// <summary>The supervisor stands there.</summary>
    Supervises,

    /// <summary>A steward or another certified person stands there, as the session needs.</summary>
    StandsBy,

    /// <summary>The first of two taps: the other one within a quarter of a minute hands the machine over.</summary>
    Offers,

    /// <summary>The second of the two.</summary>
    TakesOver,
}

/// <summary>
/// Who is there is never taken from the one before: each is known by a tap of their own. Minutes and seconds are house practice.
/// </summary>
public static class Taps
{
    /// <summary>Both tap within this, and the machine is handed over.</summary>
    public static readonly Duration HandOverWithin = Duration.FromSeconds(15);

    /// <summary>Whoever tapped to stand by counts as being there for so long.</summary>
    public static readonly Duration StandsByFor = Duration.FromSeconds(60);

    /// <summary>A supervisor who tapped longer ago than this taps again before the next start.</summary>
    public static readonly Duration SupervisorEvery = Duration.FromMinutes(10);

    /// <summary>A tap that is heard later than this counts for nothing: nobody knows who stands there now.</summary>
    public static readonly Duration LateAfter = Duration.FromSeconds(10);

    /// <summary>What a tap was is shown on the screen for so long.</summary>
    public static readonly Duration ShownFor = Duration.FromSeconds(20);

    /// <summary>A tap so long before one’s duty already says that one is there.</summary>
    public static readonly Duration OnDutyFrom = Duration.FromMinutes(30);

    public static TapMeans Means(this StationSession s, Tapper by, Instant now) =>
        s.Supervisor == by.Person ? TapMeans.Supervises
        : s.Person != by.Person && s.AsksSomebody && (by.Steward || by.Certified) ? TapMeans.StandsBy
        : s.Over is { } first && now - first.At <= HandOverWithin && first.Person != by.Person && OneIsIts(s, first.Person, by.Person)
            ? TapMeans.TakesOver
        : s.Person == by.Person ? TapMeans.Here
        : TapMeans.Offers;

    private static bool OneIsIts(StationSession s, PersonId first, PersonId second) => s.Person == first || s.Person == second;

    /// <summary>Whom a tap that takes over makes the person of the session.</summary>
    public static PersonId Taker(this StationSession s, PersonId by) => s.Person == by ? s.Over!.Person : by;

    /// <summary>A tap that hands nothing over: what was on a screen stays good.</summary>
    public static StationSession Tapped(this StationSession s, Tapper by, Instant now) =>
        s.Means(by, now) switch
        {
            TapMeans.Supervises => s with { SupervisorAt = now },
            TapMeans.StandsBy => s with { Beside = new StandsBy(by.Person, now, by.Steward, by.Certified) },
            _ => s with
            {
                Over = new HandOver(by.Person, now),
                Beside = by.Steward && s.Person != by.Person ? new StandsBy(by.Person, now, by.Steward, by.Certified) : s.Beside,
            },
        };

    /// <summary>
    /// The machine is somebody else’s from now on, and a run that is on goes on. What the first one said of the sheet is said anew before
    /// the next start.
    /// </summary>
    /// <param name="against">What the gate has against the second, with the sheet that lies there.</param>
    /// <param name="elsewhere">Name of another machine at which they are tapped in; null for none.</param>
    public static Result<StationSession> HandedTo(
        this StationSession s,
        PersonId second,
        IReadOnlyList<Reason> against,
        string? elsewhere
    ) =>
        elsewhere is not null ? StationProblems.FobElsewhere.Refuse(null, elsewhere)
        : against.Count > 0 ? StationProblems.HandOverShut.Refuse(null, string.Join(" ", against.Select(r => r.Text)))
        : s with
        {
            Version = s.Version + 1,
            Person = second,
            BookedBy = s.BookedBy ?? s.Person,
            Supervisor = null,
            SupervisorAt = null,
            Over = null,
            Confirmed = false,
            Step = s.Step == StationStep.Confirm ? StationStep.Air : s.Step,
        };
}
