using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Reports;

/// <summary>A time somebody asked for: booked, or refused.</summary>
/// <param name="At">When they asked.</param>
/// <param name="FreedAt">When it was given back or released; null where it was kept.</param>
/// <param name="Codes">Of a refused try: what the gate had against it; empty for a booking.</param>
public sealed record AskedTime(
    PersonId PersonId,
    MachineId MachineId,
    Instant At,
    Instant Start,
    int Minutes,
    bool Booked,
    Instant? FreedAt,
    bool NoShow,
    IReadOnlyList<string> Codes
)
{
    public Instant End => Start + Duration.FromMinutes(Minutes);
}

/// <summary>What becomes of an asked time when it is played again.</summary>
/// <param name="Against">Empty where it is served.</param>
/// <param name="Other">Refused for something that no calendar and no limit changes: a certificate, a sheet, the room.</param>
public sealed record PlayedTime(AskedTime Asked, IReadOnlyList<Reason> Against, bool Other)
{
    public bool Served => !Other && Against.Count == 0;
}

/// <summary>One side of the comparison.</summary>
/// <param name="Gini">Of the hours served, by person.</param>
public sealed record WhatIfSide(int Served, int Refused, double Hours, double? Gini);

/// <param name="Setting">The house rule that says no, where one does.</param>
public sealed record WhatIfReason(string Code, string? Setting, string Says, int Count);

/// <param name="Why">What is against it under the rules that refuse it.</param>
public sealed record WhatIfLine(MachineId MachineId, Instant Start, int Minutes, string Why);

/// <summary>Who would have been served or refused, without names.</summary>
/// <param name="Asked">Bookings and refused tries that were played.</param>
/// <param name="Other">Refused for what these rules do not decide.</param>
/// <param name="CannotKnow">What no such play can tell.</param>
public sealed record WhatIfResult(
    int Asked,
    int Booked,
    int Tries,
    int Other,
    WhatIfSide Now,
    WhatIfSide Changed,
    int PeopleRefused,
    int PeopleServed,
    IReadOnlyList<WhatIfReason> Reasons,
    IReadOnlyList<WhatIfLine> Refused,
    IReadOnlyList<WhatIfLine> Served,
    IReadOnlyList<string> CannotKnow
);

/// <summary>
/// Bookings and refused tries of some weeks, played in the order of asking against one calendar: once under the rules as they are and once
/// under others. Both are played, so that what the play itself gets wrong stands on both sides.
/// </summary>
public static class WhatIf
{
    /// <summary>So many are shown one by one.</summary>
    public const int MostLines = 100;

    /// <summary>How often somebody is told how far it is.</summary>
    private const int TellEvery = 20;

    private static readonly HashSet<string> TimeCodes =
    [
        .. Codes.All.Where(c => c.Post == Post.Time).Select(c => c.Code),
        Codes.PersonElsewhere.Code,
    ];

    public static IReadOnlyList<string> CannotKnow { get; } =
    [
        "Whether somebody refused would have taken another time, or somebody served would have come.",
        "Who did not ask because the rules as they are already said no, and tries older than 90 days: those are not kept.",
        "Where a booking was moved, its first time: it is played with the last.",
        "Supervisors, fixtures, stewards on duty and the rosters of classes: the calendar of machine and person alone is played.",
        "Opening hours and rules of the past: the rules as they are today stand on one side throughout.",
    ];

    /// <summary>Whether there is something to try.</summary>
    /// <param name="named">Some rule was named at all.</param>
    /// <param name="differences">From the rules that hold now.</param>
    /// <returns>Null where there is.</returns>
    public static Refusal? MayTry(bool named, int differences) =>
        !named ? ReportsProblems.WhatIfRules.Refuse("rules")
        : differences == 0 ? ReportsProblems.WhatIfSame.Refuse("rules")
        : null;

    /// <summary>Plays the asked times.</summary>
    /// <param name="asked">In any order.</param>
    /// <param name="told">Hears how many of them were played.</param>
    /// <exception cref="OperationCanceledException">It was called off.</exception>
    public static IReadOnlyList<PlayedTime> Play(
        IReadOnlyList<AskedTime> asked,
        HouseRules rules,
        IReadOnlyDictionary<MachineId, MachineSpec> machines,
        IReadOnlyList<ClosedTime> closed,
        Action<int> told,
        CancellationToken cancel
    )
    {
        var ofMachine = machines.Keys.ToDictionary(m => m, _ => new List<AskedTime>());
        var ofPerson = asked.Select(a => a.PersonId).Distinct().ToDictionary(p => p, _ => new List<AskedTime>());
        var missed = asked.Select(a => a.PersonId).Distinct().ToDictionary(p => p, _ => new List<Instant>());
        var played = new List<PlayedTime>(asked.Count);
        foreach (var a in asked.OrderBy(a => a.At).ThenBy(a => a.Start))
        {
            if (played.Count % TellEvery == 0)
            {
                cancel.ThrowIfCancellationRequested();
                told(played.Count);
            }
            if (!a.Booked && a.Codes.Any(c => !TimeCodes.Contains(c)))
            {
                played.Add(new PlayedTime(a, [], Other: true));
                continue;
            }
            var mine = Held(ofPerson[a.PersonId], a.At);
            var time = new TimeFacts(
                MachineTaken: Fact.Known<IReadOnlyList<Span>>(Held(ofMachine[a.MachineId], a.At)),
                FixtureTaken: Fact.Known<IReadOnlyList<Span>>([]),
                PersonBooked: Fact.Known<IReadOnlyList<Span>>(mine),
                Closures:
                [
                    .. closed
                        .Where(c => c.MachineIds.Count == 0 || c.MachineIds.Contains(a.MachineId))
                        .Select(c => new ClosureFacts(default, "closed", Span.Of(c.During))),
                ],
                NoShows: [.. missed[a.PersonId]]
            );
            var ask = new GateQuestion(
                MemberId: a.PersonId,
                MachineId: a.MachineId,
                Items: [],
                Fixture: null,
                SupervisorId: null,
                Start: a.Start,
                Minutes: a.Minutes
            );
            IReadOnlyList<Reason> against = TimeRules.Against(ask, a.At, rules, machines[a.MachineId], time);
            if (against.Count == 0 && mine.Any(m => m.Overlaps(a.Start, a.End)))
                against =
                [
                    new Reason(Codes.PersonElsewhere.Code, Standing.Shut, "Attends another booking then.", Codes.PersonElsewhere.Source),
                ];
            played.Add(new PlayedTime(a, against, Other: false));
            if (against.Count > 0)
                continue;
            ofMachine[a.MachineId].Add(a);
            ofPerson[a.PersonId].Add(a);
            if (a.NoShow)
                missed[a.PersonId].Add(a.Start);
        }
        told(played.Count);
        return played;
    }

    /// <summary>Both plays, side by side.</summary>
    public static WhatIfResult Compare(IReadOnlyList<PlayedTime> now, IReadOnlyList<PlayedTime> changed, HouseRules rules)
    {
        // Two tries may be alike in everything: each is itself.
        var before = new Dictionary<AskedTime, PlayedTime>(ReferenceEqualityComparer.Instance);
        foreach (var p in now)
            before[p.Asked] = p;
        var refused = changed.Where(p => !p.Served && before[p.Asked].Served).ToList();
        var served = changed.Where(p => p.Served && !before[p.Asked].Served).ToList();
        return new WhatIfResult(
            Asked: changed.Count,
            Booked: changed.Count(p => p.Asked.Booked),
            Tries: changed.Count(p => !p.Asked.Booked),
            Other: changed.Count(p => p.Other),
            Now: Side(now),
            Changed: Side(changed),
            PeopleRefused: refused.Select(p => p.Asked.PersonId).Distinct().Count(),
            PeopleServed: served.Select(p => p.Asked.PersonId).Distinct().Count(),
            Reasons:
            [
                .. refused
                    .SelectMany(p => p.Against.Select(r => (r.Code, Setting: r.Settings.Count > 0 ? r.Settings[0] : null)).Distinct())
                    .GroupBy(r => r)
                    .Select(g => new WhatIfReason(g.Key.Code, g.Key.Setting, Says(g.Key.Code, g.Key.Setting, rules), g.Count()))
                    .OrderByDescending(r => r.Count),
            ],
            Refused: [.. refused.Take(MostLines).Select(p => Line(p.Asked, p.Against))],
            Served: [.. served.Take(MostLines).Select(p => Line(p.Asked, before[p.Asked].Against))],
            CannotKnow: CannotKnow
        );
    }

    private static string Says(string code, string? setting, HouseRules rules) =>
        setting is null ? Codes.All.First(c => c.Code == code).Means : SheetChecks.Says(setting, rules).Label;

    private static WhatIfLine Line(AskedTime a, IReadOnlyList<Reason> against) =>
        new(a.MachineId, a.Start, a.Minutes, string.Join(" ", against.Select(r => r.Text)));

    private static WhatIfSide Side(IReadOnlyList<PlayedTime> played)
    {
        var served = played.Where(p => p.Served).ToList();
        var hours = served.GroupBy(p => p.Asked.PersonId).Select(g => g.Sum(p => p.Asked.Minutes / 60.0)).ToList();
        return new WhatIfSide(served.Count, played.Count(p => p is { Served: false, Other: false }), hours.Sum(), Fairness.Gini(hours));
    }

    /// <summary>What stood at a time: what was given back before it does not.</summary>
    private static List<Span> Held(List<AskedTime> served, Instant at) =>
        [.. served.Where(s => s.FreedAt is not { } freed || freed > at).Select(s => new Span(s.Start, s.End))];
}
