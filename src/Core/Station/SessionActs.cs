using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station.Controllers;

namespace VelvetGate.Core.Station;

/// <summary>What an act is judged by, as it is now.</summary>
/// <param name="Against">What the gate has against the sheet as measured and set, from “ask a steward” upwards.</param>
/// <param name="Time">Seconds of the run, low and high; null where nobody knows.</param>
/// <param name="GivenBack">The booking was cancelled since.</param>
/// <param name="CareMeasure">Stock brought in, or plywood: three places are measured.</param>
public sealed record StationFacts(
    MachineSpec Machine,
    HouseRules Rules,
    IReadOnlyList<Reason> Against,
    (double Low, double High)? Time,
    decimal TagMm,
    bool CareMeasure,
    bool HeavyResidue,
    bool GivenBack = false
)
{
    /// <summary>What the machine’s controller says; null without one.</summary>
    public MachineLive? Live { get; init; }

    /// <summary>What the gate only cautions of.</summary>
    public IReadOnlyList<Reason> Mind { get; init; } = [];

    /// <summary>Somebody has the machine later on the same day; told where the session comes to its end.</summary>
    public bool ComesAfter { get; init; }

    /// <summary>The code that stands at the machine; null where none was made.</summary>
    public string? PlaceCode { get; init; }

    /// <summary>When a run that starts now ends at the latest.</summary>
    public Instant FixedEnd { get; init; } = Instant.MaxValue;
}

/// <summary>
/// A session goes from step to step by what people do. Pure: the time is given. A start switches no beam: it is leave to press the
/// machine’s own start, no more. Sources: common practice; minutes and counts are house practice where they say so.
/// </summary>
public static class SessionActs
{
    /// <summary>The extraction was seen so long ago at most when a beam starts. House practice.</summary>
    private static readonly Duration AirSeenFor = Duration.FromMinutes(10);

    /// <summary>A sheet and its tag may differ so much. House practice.</summary>
    private const decimal TagApart = 0.15m;

    /// <summary>An extra pass takes at most this part of the first. House practice.</summary>
    private const decimal ExtraPart = 0.5m;

    /// <summary>A second lapse in one session waits for a steward. House practice.</summary>
    public const int LapsesAlone = 1;

    public static Result<StationSession> After(this StationSession s, StationAct act, StationFacts facts, Instant now)
    {
        // A press says that somebody is here; anything else does too, and where it comes too late it is not done.
        if (TapInAttention.Until(s, facts.Machine, facts.Rules) is { } until && !(act.Deed is Deed.Stop or Deed.Call or Deed.TapOut))
        {
            if (now > until)
                return Anew(TapInAttention.Lapsed(s, facts.Machine, now));
            if (act.Deed == Deed.Press)
                return Anew(s);
        }
        if (Wanted(act.Deed) is { } step && s.Step != step)
            return StationProblems.StationStep.Refuse();
        var after = act.Deed switch
        {
            Deed.Check => Check(s, act, now),
            Deed.Sheet => Sheet(s, act, facts),
            Deed.Focus => Focus(s, act, facts),
            Deed.Settings => Settings(s, act),
            Deed.Frame => s with { Framed = true, Step = StationStep.Air },
            Deed.Air => Air(s, act, facts, now),
            Deed.Confirm => Confirm(s, act),
            Deed.Start => Start(s, act, facts, now),
            Deed.Press => Press(s, facts, now),
            Deed.Pause => RunPauses.Begin(s, facts, now),
            Deed.Resume => RunPauses.End(s, facts, now),
            Deed.Look => Look(s, act, facts, now),
            Deed.Stop when s.Step == StationStep.Running => Stop(s, act.Why, facts, now),
            Deed.Stop => WhyStopped(s, act, facts),
            Deed.OwnStop => s.BeamUnknown ? s.OffFrom(now) with { Run = s.Run! with { SaidOffAt = now } } : s,
            Deed.LidOpened => LidOpened(s, now),
            Deed.StillSmoke => StillSmoke(s, now),
            Deed.Outcome => Outcome(s, act, now),
            Deed.Next => Next(s, act, facts, now),
            Deed.Close => Close(s, act),
            Deed.Here => PlaceCodes.Scanned(s, act.Code, facts.PlaceCode, now),
            Deed.Call => s,
            _ => TapOut(s, now),
        };
        return after.Refusal is { } refusal ? refusal : Anew(after.Value);

        StationSession Anew(StationSession done) =>
            done with
            {
                Version = s.Version + 1,
                SeenAt = now,
                Unattended = done.Unattended && done.Step == StationStep.Checks,
            };
    }

    /// <summary>The step at which a deed is done; null for what may come at any.</summary>
    private static StationStep? Wanted(Deed deed) =>
        deed switch
        {
            Deed.Check => StationStep.Checks,
            Deed.Sheet => StationStep.Sheet,
            Deed.Focus => StationStep.Focus,
            Deed.Settings => StationStep.Settings,
            Deed.Frame => StationStep.Frame,
            Deed.Confirm or Deed.Start => StationStep.Confirm,
            Deed.Press or Deed.Look or Deed.Pause or Deed.Resume => StationStep.Running,
            Deed.OwnStop or Deed.LidOpened or Deed.StillSmoke => StationStep.Wait,
            Deed.Outcome => StationStep.Unload,
            Deed.Next => StationStep.Next,
            Deed.Close => StationStep.Close,
            _ => null,
        };

    private static Result<StationSession> Check(StationSession s, StationAct act, Instant now)
    {
        var open = s.Places.FirstOrDefault(p => s.Looked.All(l => l.Id != p.Id));
        if (open is null || act.Item != open.Id)
            return StationProblems.StationStep.Refuse("item");
        if (!act.Ok)
        {
            var wrong = string.IsNullOrWhiteSpace(act.Note) ? open.Title : act.Note.Trim();
            return s with { Looked = [.. s.Looked, new(open.Id, now, wrong)], Held = $"{open.Title}: {wrong}" };
        }
        var looked = s.Looked.Append(new PlaceLooked(open.Id, now)).ToList();
        return s with
        {
            Looked = looked,
            FanOn = open.FanRuns ? now : s.FanOn,
            Step = looked.Count == s.Places.Count ? StationStep.Sheet : StationStep.Checks,
        };
    }

    private static Result<StationSession> Sheet(StationSession s, StationAct act, StationFacts facts)
    {
        if (s.On.SheetTag is { } tag && act.Tag != tag)
            return StationProblems.SheetTag.Refuse("tag", tag);
        var places = facts.CareMeasure ? 3 : 1;
        if (act.ThicknessMm.Count < places || act.ThicknessMm.Any(mm => mm <= 0))
            return StationProblems.SheetMeasure.Refuse(
                "thicknessMm",
                places == 1 ? "once" : "at three places",
                places == 1 ? "no sheet is as thick as it is called" : "it is stock of uneven thickness"
            );
        var seen = new SheetSeen(act.Tag, act.ThicknessMm);
        if (s.On.SheetTag is not null && Apart(seen, facts.TagMm) is { } mm)
            return StationProblems.SheetThickness.Refuse("thicknessMm", mm, facts.TagMm);
        return s with { Sheet = seen, Focus = null, Confirmed = false, Step = StationStep.Focus };
    }

    private static decimal? Apart(SheetSeen seen, decimal tagMm) =>
        tagMm <= 0 ? null : seen.Mm.Where(mm => Math.Abs(mm - tagMm) > TagApart * tagMm).Cast<decimal?>().FirstOrDefault();

    private static Result<StationSession> Focus(StationSession s, StationAct act, StationFacts facts)
    {
        var methods = facts.Machine.Station?.FocusMethods is { Count: > 0 } own ? own : (IReadOnlyList<string>)["gauge"];
        if (act.Method is not { } method || !methods.Contains(method))
            return StationProblems.FocusMethod.Refuse("method", string.Join(", ", methods));
        if (IsAutomatic(method) && s.Fixture is not null)
            return StationProblems.FocusAutomatic.Refuse("method");
        if (!IsAutomatic(method) && !act.GaugeBack)
            return StationProblems.FocusGauge.Refuse("gaugeBack");
        // With the sheet still clamped, what was framed and set stays.
        var step =
            s.Set is null ? StationStep.Settings
            : !s.Framed ? StationStep.Frame
            : s.AirSeen is null ? StationStep.Air
            : StationStep.Confirm;
        return s with { Focus = method, Step = step };
    }

    private static bool IsAutomatic(string method) => method.Contains("auto", StringComparison.OrdinalIgnoreCase);

    private static Result<StationSession> Settings(StationSession s, StationAct act)
    {
        if (act.Set is not { PowerPercent: > 0 and <= 100, SpeedMmPerS: > 0, Passes: > 0 } set)
            return StationProblems.SettingsUnknown.Refuse("settings");
        if (s.Extra && s.Set is { } first && set.Dose > ExtraPart * first.Dose)
            return StationProblems.RerunEnergy.Refuse("settings");
        return s with { Set = set, Step = s.Framed ? StationStep.Confirm : StationStep.Frame };
    }

    /// <summary>May be said again before a start, when the last look was long ago.</summary>
    private static Result<StationSession> Air(StationSession s, StationAct act, StationFacts facts, Instant now)
    {
        if (s.Step is not (StationStep.Air or StationStep.Confirm))
            return StationProblems.StationStep.Refuse();
        if ((s.Controlled ? Unready(facts, now) : Unseen(act)) is { } not)
            return not;
        if (!act.Assist && WantsAssist(s, facts.Machine))
            return StationProblems.StartAssist.Refuse("assist");
        return s with { AirSeen = now, Assist = act.Assist, FanOn = s.FanOn ?? now, Step = StationStep.Confirm };
    }

    private static Refusal? Unseen(StationAct act) =>
        !act.Seen ? StationProblems.StartAir.Refuse("seen", AirSeenFor.TotalMinutes)
        : !act.LidShut ? StationProblems.StartLid.Refuse("lidShut")
        : null;

    /// <summary>What a controller reads is not asked of anybody: without its word nothing starts.</summary>
    internal static Refusal? Unready(StationFacts facts, Instant now) =>
        facts.Live?.Fresh(now) is not { } read ? StationProblems.StartOffline.Refuse(null, facts.Machine.Name)
        : read.KeyOut ? StationProblems.StartKey.Refuse()
        : read.LidShut != true ? StationProblems.StartLid.Refuse("lidShut")
        : facts.Live.AirSince is null ? StationProblems.StartNoAir.Refuse(null, Airflow(read), MachineLive.AirflowLimit(facts.Machine))
        : null;

    private static string Airflow(Sensors read) =>
        read.AirflowM3PerHour is { } flow
            ? string.Create(System.Globalization.CultureInfo.InvariantCulture, $"is {flow:0.#} m³/h")
            : "is not read";

    /// <summary>A cut on a machine that has air assist.</summary>
    public static bool WantsAssist(StationSession s, MachineSpec machine) =>
        s.On.Operations.Contains(Operation.Cut) && machine.Station?.AirAssist is { } assist && assist != AirAssist.None;

    private static Result<StationSession> Confirm(StationSession s, StationAct act) =>
        act is { Height: true, Material: true, Stay: true } ? s with { Confirmed = true } : StationProblems.StartConfirm.Refuse();

    private static Result<StationSession> Start(StationSession s, StationAct act, StationFacts facts, Instant now)
    {
        if (s.Held is { } held)
            return StationProblems.CheckWrong.Refuse(null, held);
        if (facts.GivenBack)
            return StationProblems.StationGivenBack.Refuse();
        if (s.Lapses > LapsesAlone && !act.Steward && s.BesideAt(now) is null)
            return StationProblems.AttentionLapsed.Refuse();
        if (s.Supervisor is not null && (s.SupervisorAt is not { } there || now - there > Taps.SupervisorEvery))
            return StationProblems.StartSupervisor.Refuse(null, Taps.SupervisorEvery.TotalMinutes);
        if (s.Set is null || s.Sheet is null)
            return StationProblems.SettingsUnknown.Refuse("settings");
        // One press held under the whole sentence says all three of the same sheet again.
        if (!s.Confirmed || !act.Stay)
            return StationProblems.StartConfirm.Refuse();
        if (PlaceCodes.Due(s, facts.PlaceCode, act.AtScreen, now))
            return StationProblems.StartHere.Refuse("code", facts.Machine.Name, PlaceCodes.GoodFor.TotalMinutes);
        if (s.Controlled && Unready(facts, now) is { } not)
            return not;
        if (Lead(s, facts, now) is > 0 and var lead)
            return StationProblems.StartLead.Refuse(null, lead);
        if (!s.Controlled && (s.AirSeen is not { } seen || now - seen > AirSeenFor))
            return StationProblems.StartAir.Refuse(null, AirSeenFor.TotalMinutes);
        if (Against(act, facts) is { Count: > 0 } against)
            return StationProblems.StationShut.Refuse(null, PublicWords.Of(against, act.AtScreen));
        if (facts.Time is not { } time)
            return StationProblems.StationShut.Refuse(null, "How long this runs is not known: give the drawing, or say it when you book.");
        var high = s.Extra ? time.High / 2 : time.High;
        if (now + Duration.FromSeconds(high) + AfterRun(facts) > s.Until)
            return StationProblems.StartTime.Refuse(
                null,
                Minutes(Duration.FromSeconds(high) + AfterRun(facts)),
                facts.Rules.Clock.At(s.Until).ToString("HH:mm", null)
            );
        return s with
        {
            Step = StationStep.Running,
            HereAt = null,
            Run = new BeamRun(
                Start: now,
                LowSeconds: s.Extra ? time.Low / 2 : time.Low,
                HighSeconds: high,
                Deadline: now + Duration.FromMinutes(Attention.Minutes(facts.Machine, facts.Rules)),
                Extra: s.Extra
            )
            {
                FixedEnd = facts.FixedEnd,
            },
        };
    }

    /// <summary>A steward who stands there decides what a reading leaves to them.</summary>
    private static List<Reason> Against(StationAct act, StationFacts facts) =>
        [.. facts.Against.Where(r => !(act.Steward && r.Standing == Standing.Ask && StewardsDecide.Contains(r.Code)))];

    private static readonly IReadOnlySet<string> StewardsDecide = new HashSet<string>
    {
        Codes.MachineAirflowLow.Code,
        Codes.MachineCoolantHot.Code,
    };

    /// <summary>Seconds of extraction still to run before the beam; 0 or less once it has.</summary>
    public static int Lead(StationSession s, StationFacts facts, Instant now) =>
        FanOn(s, facts.Live) is { } on
            ? (int)Math.Ceiling(facts.Machine.ExtractionLeadSeconds - (now - on).TotalSeconds)
            : facts.Machine.ExtractionLeadSeconds;

    /// <summary>Since when the extraction draws: as it is measured, or as somebody saw it.</summary>
    public static Instant? FanOn(StationSession s, MachineLive? live) => s.Controlled ? live?.AirSince : s.FanOn;

    private static Duration AfterRun(StationFacts facts) =>
        Duration.FromSeconds(LidWait.Of(facts.Machine, facts.Rules, null, BeamLeft.Smoke).Seconds ?? 0)
        + Duration.FromMinutes((double)(facts.HeavyResidue ? facts.Rules.CleanDownResidueMinutes : facts.Rules.CleanDownMinutes));

    private static string Minutes(Duration d) => $"{Math.Ceiling(d.TotalMinutes):0} min";

    private static Result<StationSession> Press(StationSession s, StationFacts facts, Instant now) =>
        s.Run!.PausedAt is not null ? StationProblems.PauseOn.Refuse()
        : now > s.Run!.Deadline || s.Run.OffAt is not null ? StationProblems.AttentionLapsed.Refuse()
        : Renewed(s, facts, now, lapsed: false);

    /// <summary>With a controller the beam is off, and a second time it comes back by a steward alone.</summary>
    private static Result<StationSession> Look(StationSession s, StationAct act, StationFacts facts, Instant now) =>
        now <= s.Run!.Deadline || s.Run.PausedAt is not null ? StationProblems.StationStep.Refuse()
        : s.Controlled && s.Lapses >= LapsesAlone && !act.Steward && s.BesideAt(now) is null ? StationProblems.AttentionLapsed.Refuse()
        : s.Controlled && Unready(facts, now) is { } not ? not
        : Renewed(s, facts, now, lapsed: true);

    private static StationSession Renewed(StationSession s, StationFacts facts, Instant now, bool lapsed) =>
        s with
        {
            Lapses = s.Lapses + (lapsed ? 1 : 0),
            Run = s.Run! with
            {
                Deadline = now + Duration.FromMinutes(Attention.Minutes(facts.Machine, facts.Rules)),
                Lapses = s.Run.Lapses + (lapsed ? 1 : 0),
                OffAt = null,
            },
        };

    /// <param name="why">Null where the beam goes off first, and the reason is asked after.</param>
    private static Result<StationSession> Stop(StationSession s, StopWhy? why, StationFacts facts, Instant now)
    {
        var wait = LidWait.Of(facts.Machine, facts.Rules, facts.Live?.Fresh(now)?.AirflowM3PerHour, LeftBy(why));
        var lapsed = now > s.Run!.Deadline && s.Run.PausedAt is null ? 1 : 0;
        return s with
        {
            Step = StationStep.Wait,
            Lapses = s.Lapses + lapsed,
            Run = s.Run with
            {
                End = now,
                BrokenOff = why != StopWhy.Ended,
                Lapses = s.Run.Lapses + lapsed,
                SeenOffAt = s.Run.OffAt,
                AsksWhy = why is null,
            },
            Lid = new LidShut(now, wait.Seconds is { } seconds ? now + Duration.FromSeconds(seconds) : null, wait.Why)
            {
                Seconds = wait.Seconds,
                Left = LeftBy(why),
            },
            Held = HeldBy(why) ?? s.Held,
            LooksAgain = s.LooksAgain || why == StopWhy.Alarm,
        };
    }

    /// <summary>Why it was stopped, said after the beam is off.</summary>
    private static Result<StationSession> WhyStopped(StationSession s, StationAct act, StationFacts facts)
    {
        if (s is not { Step: StationStep.Wait, Run: { AsksWhy: true } run, Lid: { } lid } || act.Why is not { } why)
            return StationProblems.StationStep.Refuse();
        var wait = LidWait.Of(facts.Machine, facts.Rules, null, LeftBy(why));
        // A reason may make the wait longer, never shorter.
        var longer = LeftBy(why) != BeamLeft.Smoke;
        return s with
        {
            Run = run with { AsksWhy = false, BrokenOff = why != StopWhy.Ended },
            LooksAgain = s.LooksAgain || why == StopWhy.Alarm,
            Held = HeldBy(why) ?? s.Held,
            Lid = longer
                ? lid with
                {
                    Until = wait.Seconds is { } seconds ? lid.From + Duration.FromSeconds(seconds) : null,
                    Seconds = wait.Seconds,
                    Left = LeftBy(why),
                    Why = wait.Why,
                }
                : lid,
        };
    }

    private static BeamLeft LeftBy(StopWhy? why) =>
        why switch
        {
            StopWhy.Flame => BeamLeft.FlameOrGlow,
            StopWhy.Smell => BeamLeft.Choking,
            StopWhy.Alarm => BeamLeft.LeftHot,
            _ => BeamLeft.Smoke,
        };

    private static string? HeldBy(StopWhy? why) =>
        why is StopWhy.Flame or StopWhy.Smell or StopWhy.Misbehaves ? $"The run was stopped: {Says(why.Value)}" : null;

    public static string Says(StopWhy why) =>
        why switch
        {
            StopWhy.Ended => "it came to its end",
            StopWhy.SheetMoved => "the sheet moved",
            StopWhy.WrongSettings => "wrong settings",
            StopWhy.ByMistake => "by mistake",
            StopWhy.Flame => "a flame or a glow",
            StopWhy.Smell => "a bad smell",
            StopWhy.Alarm => "the building’s alarm",
            _ => "the machine misbehaves",
        };

    private static Result<StationSession> LidOpened(StationSession s, Instant now)
    {
        if (s.Run is { AsksWhy: true })
            return StationProblems.StopWhyFirst.Refuse();
        if (s.BeamUnknown)
            return StationProblems.LidBeam.Refuse();
        if (s.Lid!.Until is not { } until)
            return StationProblems.LidSteward.Refuse();
        return now < until || s.Lid.Open
            ? StationProblems.LidEarly.Refuse(null, Math.Ceiling(Math.Max((until - now).TotalSeconds, s.Lid.Open ? s.Lid.Seconds ?? 0 : 0)))
            : s with
            {
                Step = StationStep.Unload,
            };
    }

    private static Result<StationSession> StillSmoke(StationSession s, Instant now) =>
        s.Lid!.Until is { } until
            ? s with
            {
                Lid = s.Lid with { Until = Instant.Max(until, now) + Duration.FromSeconds(LidWait.StillSmokeSeconds) },
            }
            : StationProblems.LidSteward.Refuse();

    private static Result<StationSession> Outcome(StationSession s, StationAct act, Instant now)
    {
        var run = s.Run!;
        var told = new RunTold(
            Id: act.RunId,
            Item: s.Item,
            Start: run.Start,
            End: run.End ?? now,
            Outcome: act.Result switch
            {
                PartResult.Flame => Core.Run.Outcome.Flame,
                PartResult.Smell => Core.Run.Outcome.Abandoned,
                _ when run.BrokenOff => Core.Run.Outcome.Abandoned,
                PartResult.Through => Core.Run.Outcome.Clean,
                PartResult.NotThrough => Core.Run.Outcome.NotThrough,
                _ => Core.Run.Outcome.Charred,
            },
            Moved: act.Moved,
            Extra: run.Extra
        );
        return s with
        {
            Runs = [.. s.Runs, told],
            Run = null,
            Extra = false,
            Held = act.Result is PartResult.Flame or PartResult.Smell
                ? $"The part: {(act.Result == PartResult.Flame ? "flame or glow" : "a bad smell")}"
                : s.Held,
            Step = StationStep.Next,
        };
    }

    private static Result<StationSession> Next(StationSession s, StationAct act, StationFacts facts, Instant now)
    {
        var last = s.Runs[^1];
        return act.Next switch
        {
            // Whoever booked after may have cancelled since the tap-in.
            NextWhat.Finish => s with { Step = StationStep.Close, ShortClosing = StationDoor.ShortClosing(facts.Rules, facts.ComesAfter) },
            _ when s.Held is { } held => StationProblems.CheckWrong.Refuse(null, held),
            NextWhat.Extra when last.Moved => StationProblems.RerunMoved.Refuse(),
            NextWhat.Extra when last.Extra => StationProblems.RerunSecond.Refuse(),
            NextWhat.Extra when last.Outcome != Core.Run.Outcome.NotThrough => StationProblems.RerunPartial.Refuse(),
            // Same focus, nothing moved: only the machine is set anew.
            NextWhat.Extra => s with { Extra = true, Step = StationStep.Settings },
            NextWhat.Piece when s.LooksAgain => LookedAnew(s, facts, now),
            NextWhat.Piece when !facts.Rules.RefocusPieces => s with { Step = StationStep.Settings },
            NextWhat.Piece => s with { Focus = null, Step = StationStep.Focus },
            NextWhat.Job when s.Item + 1 < s.Items.Count => LookedAnew(s, facts, now) with { Item = s.Item + 1, Set = null },
            NextWhat.Job => StationProblems.StationStep.Refuse("next"),
            _ => LookedAnew(s, facts, now),
        };
    }

    /// <summary>Left alone with hot work, the machine is looked at anew, whatever comes: nobody knows who was here meanwhile.</summary>
    private static StationSession LookedAnew(StationSession s, StationFacts facts, Instant now) =>
        s.LooksAgain
            ? Fresh(s) with
            {
                Places = PlaceChecks.For(facts.Machine, null, s.Person, now),
                Looked = [],
                LooksAgain = false,
                Step = StationStep.Checks,
            }
            : Fresh(s);

    /// <summary>Another sheet: measured, focused, framed and confirmed anew.</summary>
    private static StationSession Fresh(StationSession s) =>
        s with
        {
            Sheet = null,
            Focus = null,
            Framed = false,
            Confirmed = false,
            Step = StationStep.Sheet,
        };

    /// <summary>By place: the bed and the bins; head, fixture and offcut; fan, computer and stick.</summary>
    public static IReadOnlyList<(string Id, string Title)> Closing { get; } =
    [("bed", "Bed and bins"), (Overnight, "Head and fixture"), ("fan", "Fan, computer, stick")];

    /// <summary>Of these, what some houses leave to the last of the day.</summary>
    internal const string Overnight = "head";

    /// <summary>
    /// The fixture lies where it lives again: with the head, or when the person leaves. What is wrong with it is in the note.
    /// </summary>
    public static bool PutsFixtureBack(StationAct act) => act is { Deed: Deed.TapOut } or { Deed: Deed.Close, Item: Overnight };

    private static Result<StationSession> Close(StationSession s, StationAct act) =>
        s.ToClose.Any(c => c.Id == act.Item) && !s.Closed.Contains(act.Item!)
            ? s with
            {
                Closed = [.. s.Closed, act.Item!],
            }
            : StationProblems.StationStep.Refuse("item");

    /// <summary>Before the first beam nobody owes anything; after it, the bed is left as it was found.</summary>
    private static Result<StationSession> TapOut(StationSession s, Instant now)
    {
        if (s.Step is StationStep.Running or StationStep.Wait or StationStep.Unload)
            return StationProblems.StationStep.Refuse();
        var open = s.ToClose.Where(c => !s.Closed.Contains(c.Id)).Select(c => c.Title).ToList();
        return s.Runs.Count > 0 && open.Count > 0 && s.Held is null
            ? StationProblems.CloseOpen.Refuse(null, string.Join(", ", open))
            : s with
            {
                TappedOut = now,
            };
    }
}
