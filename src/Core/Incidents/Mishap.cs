using NodaTime;

namespace VelvetGate.Core.Incidents;

/// <summary>What happened at a machine, or in the room.</summary>
public enum Mishap
{
    /// <summary>A flame that did not die within 2 or 3 seconds.</summary>
    Flame,

    /// <summary>Embers that glow, without a flame.</summary>
    Glow,

    /// <summary>More smoke than usual, or a smell, that nobody choked on.</summary>
    Smoke,

    /// <summary>A choking or strange smell: something that may be poison.</summary>
    Fume,
    LidTooSoon,
    WrongSheet,
    NobodyThere,
    HeadHit,

    /// <summary>The lid was open and the beam came on, or could have.</summary>
    InterlockFailed,
    Other,
}

/// <summary>How bad it was. “The fire service was called to be safe” raises it by nothing.</summary>
public enum Severity
{
    NearMiss = 1,
    NoHarm = 2,
    DamageOrFirstAid = 3,
    DoctorOrFireService = 4,
    LastingOrBuilding = 5,
}

/// <summary>Words for what happened.</summary>
public static class Mishaps
{
    /// <summary>What a near miss can be: a choking smell and a failed interlock are told with a name, since somebody has to act.</summary>
    public static IReadOnlyList<Mishap> OfNearMisses { get; } =
    [Mishap.Flame, Mishap.Glow, Mishap.Smoke, Mishap.LidTooSoon, Mishap.WrongSheet, Mishap.NobodyThere, Mishap.HeadHit, Mishap.Other];

    /// <summary>Somebody looks at the machine before it starts again, and the steward on duty is told.</summary>
    public static bool WantsALook(Mishap what) => what is Mishap.Flame or Mishap.Glow or Mishap.Smoke;

    /// <summary>Told later than this, nothing smoulders any more that a watch would find. House practice.</summary>
    public static readonly Duration WatchedWithin = Duration.FromHours(12);

    /// <summary>After it a named person watches: embers are found late.</summary>
    public static bool WantsAWatch(Mishap what, Instant at, Instant told) =>
        what is Mishap.Flame or Mishap.Glow && told - at < WatchedWithin;

    /// <summary>The machine is out of service from the moment it is told.</summary>
    public static bool StopsAtOnce(Mishap what) => what is Mishap.Flame or Mishap.Glow or Mishap.InterlockFailed;

    /// <summary>Everybody is out, and the sheet with its batch is held, from the moment it is told.</summary>
    public static bool ShutsTheRoom(Mishap what) => what == Mishap.Fume;

    /// <summary>The words of its button.</summary>
    public static string Says(Mishap what) =>
        what switch
        {
            Mishap.Flame => "Flame that stayed",
            Mishap.Glow => "Glow or embers",
            Mishap.Smoke => "Smoke or smell",
            Mishap.Fume => "Choking or strange smell",
            Mishap.LidTooSoon => "Lid opened too soon",
            Mishap.WrongSheet => "Wrong material",
            Mishap.NobodyThere => "Laser running, nobody there",
            Mishap.HeadHit => "The laser head hit something",
            Mishap.InterlockFailed => "Beam on with the lid open",
            _ => "Something else",
        };

    /// <summary>In a sentence, after “somebody told of”.</summary>
    public static string InWords(Mishap what) =>
        what switch
        {
            Mishap.Flame => "a flame that stayed",
            Mishap.Glow => "glow or embers",
            Mishap.Smoke => "smoke or a smell",
            Mishap.Fume => "a choking or strange smell",
            Mishap.LidTooSoon => "a lid that was opened too soon",
            Mishap.WrongSheet => "wrong material",
            Mishap.NobodyThere => "a laser running with nobody there",
            Mishap.HeadHit => "a laser head that hit something",
            Mishap.InterlockFailed => "a beam that came on with the lid open",
            _ => "something that went wrong",
        };

    public static string Says(Severity severity) =>
        severity switch
        {
            Severity.NearMiss => "near miss",
            Severity.NoHarm => "flame or fume, no harm",
            Severity.DamageOrFirstAid => "damage or first aid",
            Severity.DoctorOrFireService => "a doctor, or the fire service put it out",
            _ => "lasting injury, or the building",
        };
}
