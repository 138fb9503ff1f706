using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>What the screen at a machine shows, as the one who looks may see it.</summary>
public sealed class StationRoomViews(
    CurrentUser user,
    HouseStore house,
    BookingStore bookings,
    StationStore stations,
    TapStore taps,
    StationScreens screens,
    PeopleStore people,
    IClock clock,
    DrawingStore drawings
)
{
    /// <returns>Null where there is no such machine.</returns>
    public async Task<StationResponse?> Of(string machine, Instant now, CancellationToken cancel)
    {
        if (
            (await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == machine) is not { Spec: var spec }
            || await house.Rules(now, cancel) is not { } rules
        )
            return null;
        var session = await stations.Open(machine, cancel);
        var day = await bookings.Between(now, now + Duration.FromHours(24), null, cancel);
        var here = day.Where(b => b.MachineId == machine && b.End > now).OrderBy(b => b.Start).ToList();
        var names = await user.SeesNames();
        var screen = user.IdOrNull is null && await screens.StandsHere();
        var sees = session is not null && (screen || session.Person == user.IdOrNull || await user.Is(Role.Steward, Role.Trainer));
        var who = session is null ? null : await PeopleNames.Of(session.Person, people, (sees && !screen) || names, clock, cancel);
        var last = await taps.Last(spec.Id, now, cancel);
        var live = await stations.Live(spec.Id, cancel);
        return new StationResponse(
            MachineId: spec.Id,
            MachineName: spec.Name,
            Step: session is null ? "idle" : System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(session.Step.ToString()),
            Version: session?.Version ?? 0,
            Beam: live?.Beam ?? false,
            SecondsLeft: session is { Beam: true, Run: { } running } ? Left(running.Deadline, now) : null,
            WaitSecondsLeft: session is { Step: StationStep.Wait, Lid.Until: { } until } ? Left(until, now) : null,
            Live: live is null ? null : Read(live, spec, session is { FanMeant: true }, now),
            HomeCorner: spec.HomeCorner,
            Framing: spec.Station?.Framing,
            Session: sees ? await Session(session!, who, screen, spec, rules, now, cancel) : null,
            Busy: session is not null && !sees ? new StationNext(who ?? "Somebody", session.TappedIn) : null,
            Booking: session is null || StationDoor.IsLeft(session, now) ? Mine(here, spec.Name, rules, now) : null,
            Next: here.FirstOrDefault(b => b.Id != session?.Booking && b.Start >= now) is { } next
                ? new StationNext(Name(next, names), next.Start)
                : null,
            Stops: [.. (spec.Station?.StopDevices ?? []).Where(s => s.CutsTube && !s.OpensLid).Select(s => new KeptAt(s.Name, s.Where))],
            KeptAt: spec.Station?.KeptAt ?? [],
            Safety: live is null
                ? $"This screen cannot stop {spec.Name}. Its own stops and lid switch protect you."
                : $"This takes the beam’s permit away, no more. {spec.Name}’s own stops and lid switch protect you."
        )
        {
            Screen = screen,
            Tap = last is null ? null : new StationTap(last.At, last.Code, last.Says),
            Learners = await Learners(here, spec, session, screen, now, cancel),
            WalkUp = StationDoor.TakesWalkUps(rules),
            Service = live?.Sensors is { KeyOut: true } ? ServiceKey.Says(spec) : null,
            TakesOver =
                user.IdOrNull is { } me
                && session?.Over is { } first
                && now - first.At <= Taps.HandOverWithin
                && first.Person != me
                && (session.Person == me || session.Person == first.Person),
        };
    }

    private async Task<IReadOnlyList<StationLearner>> Learners(
        IReadOnlyList<BookedTime> here,
        MachineSpec spec,
        StationSession? session,
        bool screen,
        Instant now,
        CancellationToken cancel
    ) =>
        session is null && await taps.Supervising(spec.Id, now, cancel) is { } by && (screen || user.IdOrNull == by.Person)
            ?
            [
                .. here.Where(b => b.Ask.SupervisorId == by.Person && b.Start - now <= Core.Run.RunLog.ArriveFrom)
                    .Select(b => new StationLearner(b.Id, Name(b, whole: !screen), b.Start)),
            ]
            : [];

    private static double Left(Instant until, Instant now) => Math.Max(0, Math.Round((until - now).TotalSeconds, 1));

    private static StationLive Read(MachineLive live, MachineSpec spec, bool fanOn, Instant now) =>
        new(
            Silent: live.IsSilent(now),
            Lost: live.IsLost(now),
            ReadAt: live.ReadAt,
            Beam: live.Beam,
            RelayAt: live.RelayAt,
            LidShut: live.Sensors?.LidShut,
            KeyOut: live.Sensors?.KeyOut ?? false,
            Readings:
            [
                .. ReadingRules
                    .Of(spec, (live.Sensors ?? new Sensors()).Read(fanOn))
                    .Select(r => new StationReading(
                        What: r.What,
                        Unit: r.Unit,
                        Value: r.Value,
                        Code: r.Code,
                        GoodFrom: r.Good.From,
                        GoodTo: r.Good.To,
                        ShutFrom: r.ShutFrom,
                        ShutTo: r.ShutTo,
                        Says: r.Says
                    )),
            ]
        );

    private static string Name(BookedTime b, bool whole) => PersonName.For(b.GivenName, b.FamilyName, Ages.On(b.BirthDate, b.Start), whole);

    private StationBooking? Mine(IReadOnlyList<BookedTime> here, string machine, HouseRules rules, Instant now) =>
        here.FirstOrDefault(b => b.PersonId == user.IdOrNull) is { } mine
            ? new StationBooking(mine.Id, mine.Start, mine.End, StationDoor.MayTapIn(machine, mine.Start, rules, now)?.Text)
            : null;

    private async Task<StationSessionResponse> Session(
        StationSession s,
        string? who,
        bool screen,
        MachineSpec spec,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var facts = await stations.FactsOf(s, now, cancel);
        var material = await stations.MaterialName(s.On.MaterialId, cancel);
        return new StationSessionResponse(
            Id: s.Id,
            Version: s.Version,
            Step: s.Step,
            Name: who ?? "",
            Mine: screen || s.Person == user.IdOrNull,
            TappedIn: s.TappedIn,
            Until: s.Until,
            Item: s.Item,
            Items: s.Items.Count,
            Operations: s.On.Operations,
            Places:
            [
                .. s.Places.Select(p => new StationPlace(
                    p.Id,
                    p.Title,
                    p.Lines,
                    s.Looked.All(l => l.Id != p.Id),
                    s.Looked.FirstOrDefault(l => l.Id == p.Id)?.Wrong
                )),
            ],
            Sheet: new StationSheet(
                s.On.SheetTag,
                s.On.MaterialId,
                material,
                facts.Refusal is null && facts.Value.TagMm > 0 ? facts.Value.TagMm : s.On.ThicknessMm,
                facts.Refusal is null && facts.Value.CareMeasure ? 3 : 1,
                s.Sheet?.Mm ?? []
            ),
            FocusMethods: spec.Station?.FocusMethods is { Count: > 0 } methods ? methods : ["gauge"],
            Set: s.Set is { } set ? new StationSettings(set.Id, set.PowerPercent, set.SpeedMmPerS, set.Passes) : null,
            Booked: s.On.SettingIds ?? [],
            Box: await BoxOf(s, cancel),
            AsksAssist: SessionActs.WantsAssist(s, spec),
            LeadUntil: SessionActs.FanOn(s, facts.Refusal is null ? facts.Value.Live : null)
                + Duration.FromSeconds(spec.ExtractionLeadSeconds),
            Confirmed: s.Confirmed,
            Extra: s.Extra,
            Run: s.Run is { End: null } run
                ? new StationRun(
                    Start: run.Start,
                    LowSeconds: run.LowSeconds,
                    HighSeconds: run.HighSeconds,
                    Deadline: run.Deadline,
                    WarnSeconds: Attention.WarnSeconds,
                    Extra: run.Extra,
                    Lapses: run.Lapses
                )
                {
                    PausedUntil = run.PausedAt + Duration.FromMinutes(RunPauses.Minutes(spec, rules)),
                    On = s.Controlled ? run is { OnAt: not null, OffAt: null } : null,
                }
                : null,
            Lid: s.Step == StationStep.Wait && s.Lid is { } lid
                ? new StationLid(
                    From: lid.From,
                    Until: lid.Until,
                    Why: lid.Why,
                    Open: lid.Open,
                    SeenOff: s.Run?.SeenOffAt,
                    BeamUnknown: s.BeamUnknown,
                    AsksWhy: s.Run?.AsksWhy ?? false
                )
                : null,
            Runs: [.. s.Runs.Select(r => new StationTold(r.Item, r.Start, r.End, r.Outcome, r.Extra))],
            Closing:
            [
                .. s.ToClose.Select(c => new StationClose(
                    c.Id,
                    c.Title,
                    ClosingPlaces.Lines(
                        c.Id,
                        spec,
                        residue: facts.Refusal is not null || facts.Value.HeavyResidue,
                        comesAfter: facts.Refusal is null && facts.Value.ComesAfter
                    ),
                    s.Closed.Contains(c.Id)
                )),
            ],
            Open: facts.Refusal is { } refusal
                ? [new StationReason(refusal.Code, refusal.Text, null)]
                :
                [
                    .. facts.Value.Against.Select(r =>
                        screen && PublicWords.IsPersonal(r.Code)
                            ? new StationReason(r.Code, PublicWords.Personal, null)
                            : new StationReason(r.Code, r.Text, r.Remedy?.Text)
                    ),
                ],
            MayExtra: s.MayExtra,
            Held: s.Held,
            Controlled: s.Controlled,
            Found: s.Found
        )
        {
            Watch = s.Step is StationStep.Confirm or StationStep.Running ? RunWatch.For(spec) : [],
            Attend = TapInAttention.Until(s, spec, rules) is { } until ? new StationAttend(until, Attention.WarnSeconds) : null,
            Fixture = s.Fixture,
            HereDue = facts.Refusal is null && PlaceCodes.Due(s, facts.Value.PlaceCode, screen, now),
            Mind =
            [
                .. s.Unattended ? [new StationReason(TapInAttention.Code, TapInAttention.Says(spec, rules), null)] : (StationReason[])[],
                .. facts.Refusal is null ? Minded(facts.Value.Mind, screen) : [],
            ],
            MayPause = s is { Controlled: true, Beam: true, Run: { PausedAt: null, OffAt: null } } && RunPauses.Minutes(spec, rules) > 0,
            SupervisorDue = s.Supervisor is not null && (s.SupervisorAt is not { } there || now - there > Taps.SupervisorEvery),
            Beside = s.BesideAt(now) is { } by ? await PeopleNames.Of(by.Person, people, whole: false, clock, cancel) : null,
        };
    }

    private static IEnumerable<StationReason> Minded(IReadOnlyList<Core.Gating.Reason> all, bool screen) =>
        all.Where(r => !(screen && PublicWords.IsPersonal(r.Code))).Select(r => new StationReason(r.Code, r.Text, r.Remedy?.Text));

    private async Task<StationBox?> BoxOf(StationSession s, CancellationToken cancel) =>
        s.On.DrawingId is { } id && (await drawings.Find(id, cancel))?.Summary.Reach is { } reach
            ? new StationBox((decimal)Math.Round(reach.Width, 1), (decimal)Math.Round(reach.Height, 1))
            : null;
}
