using System.Globalization;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>
/// Somebody taps at a machine: by a fob, a tap-in code, or signed in on a device of their own. Its screen says what came of it.
/// </summary>
public sealed class StationTaps(
    ControllerSettings settings,
    HouseStore house,
    PeopleStore people,
    BookingStore bookings,
    StationStore stations,
    TapStore taps,
    FobStore fobs,
    PinStore pins,
    IClock clock
)
{
    /// <param name="id">Of the session that begins, client-made.</param>
    /// <returns>Null where it went well.</returns>
    public Task<Refusal?> Tap(MachineId machine, PersonId person, Guid id, CancellationToken cancel) =>
        Tap(machine, person, id, atScreen: false, cancel);

    private async Task<Refusal?> Tap(MachineId machine, PersonId person, Guid id, bool atScreen, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == machine) is not { Spec: var spec })
            return CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”");
        var duty = await taps.Seen(machine, person, now, cancel);
        var tapped = await Once(spec, person, id, duty, now, cancel);
        // Anybody reads the screen; whoever is signed in reads their own answer.
        var shown = tapped.Refusal is { } no ? PublicWords.Of(no, await Name(person, cancel)) : tapped;
        await Say(machine, person, shown, now, cancel);
        return atScreen ? shown.Refusal : tapped.Refusal;
    }

    private Task Say(MachineId machine, PersonId? person, Result<string> tapped, Instant now, CancellationToken cancel) =>
        taps.Keep(machine, person, new LastTap(now, tapped.Refusal?.Code, tapped.Refusal is { } no ? no.Text : tapped.Value), cancel);

    /// <summary>A fob at the reader of a machine’s controller: somebody’s, or one that is to be learnt.</summary>
    /// <param name="at">When it was held there.</param>
    public async Task AtReader(MachineId machine, string code, Instant at, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (Fobs.MayCount(code, at, now) is { } not)
        {
            await Say(machine, null, not, now, cancel);
            return;
        }
        var learnt = await fobs.LearnAwaited(machine, settings.Keys!.Fob(code), now, cancel);
        // Somebody’s already: they tap in, whoever else waits for a fob here.
        if (learnt.Refusal?.Problem == StationProblems.FobKnown)
            await Fob(machine, code, null, Guid.NewGuid(), cancel);
        else if (learnt.Refusal is { } refused)
            await Say(machine, null, refused, now, cancel);
        else if (learnt.Value.Person is { } whose)
            await Say(machine, whose, StationWords.Learnt(await Name(whose, cancel)), now, cancel);
        else
            await Fob(machine, code, null, Guid.NewGuid(), cancel);
    }

    /// <summary>A fob, as its code is read.</summary>
    /// <param name="pin">Typed with it; null where it is to follow, if the house asks for one.</param>
    public async Task<Refusal?> Fob(MachineId machine, string code, string? pin, Guid id, CancellationToken cancel)
    {
        if (Fobs.MayBeKept(settings.Keys is not null) is { } off)
            return off;
        var now = clock.GetCurrentInstant();
        var who = Fobs.Of(await fobs.Holder(settings.Keys!.Fob(code), now, cancel));
        if (who.Refusal is not null || await house.Rules(now, cancel) is not { } rules)
            return await Named(machine, who, id, cancel);
        var there = await stations.Open(machine, cancel);
        if (!Pins.Asked(rules, there is not null && !StationDoor.IsLeft(there, now) ? there : null, who.Value))
            return await Named(machine, who, id, cancel);
        await pins.Await(machine, who.Value, now, cancel);
        if (pin is not null)
            return await Pin(machine, pin, id, cancel);
        await Say(machine, who.Value, Pins.Wanted(), now, cancel);
        return Pins.Wanted();
    }

    /// <summary>The PIN that goes with the fob that was held here a moment ago.</summary>
    public async Task<Refusal?> Pin(MachineId machine, string pin, Guid id, CancellationToken cancel)
    {
        if (Fobs.MayBeKept(settings.Keys is not null) is { } off)
            return off;
        var who = Pins.Of(await pins.Awaited(machine, clock.GetCurrentInstant(), cancel));
        if (who.Refusal is { } nobody)
            return nobody;
        if (Pins.May(await pins.Is(who.Value, settings.Keys!.Pin(who.Value, pin), cancel)) is { } not)
            return not;
        await pins.Typed(machine, cancel);
        return await Named(machine, who, id, cancel);
    }

    /// <summary>A tap-in code, typed at the machine’s screen.</summary>
    public async Task<Refusal?> Code(MachineId machine, string code, Guid id, CancellationToken cancel) =>
        Fobs.MayBeKept(settings.Keys is not null)
        ?? await Named(
            machine,
            Fobs.OfCode(await fobs.Take(settings.Keys!.TapInCode(code), clock.GetCurrentInstant(), cancel)),
            id,
            cancel
        );

    private async Task<Refusal?> Named(MachineId machine, Result<PersonId> who, Guid id, CancellationToken cancel)
    {
        if (who.Refusal is not { } unknown)
            return await Tap(machine, who.Value, id, atScreen: true, cancel);
        await Say(machine, null, unknown, clock.GetCurrentInstant(), cancel);
        return unknown;
    }

    /// <summary>A learner with a booking, chosen at the machine while their supervisor stands there.</summary>
    /// <param name="by">Who chooses; null for a screen of the machine.</param>
    public async Task<Refusal?> Choose(MachineId machine, Guid booking, Guid id, PersonId? by, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Core.Gating.GateProblems.HouseNoRulesYet.Refuse();
        if (
            (await bookings.Between(now, now + Duration.FromHours(24), null, cancel)).FirstOrDefault(b =>
                b.Id == booking && b.MachineId == machine && b.End > now
            )
            is not { } booked
        )
            return CommonProblems.NotFound.Refuse(null, "booking at this machine");
        var there = await taps.Supervising(machine, now, cancel);
        if (
            (
                StationDoor.MayChoose(booked.Ask.SupervisorId, there, by, now)
                ?? StationDoor.MayTapIn("this machine", booked.Start, rules, now)
            ) is
            { } not
        )
            return not;
        var session = await stations.TapIn(id, booked, now, cancel, there!.Value.At);
        return session.Refusal is { } shut ? PublicWords.Of(shut, await Name(booked.PersonId, cancel)) : null;
    }

    private async Task<Result<string>> Once(
        MachineSpec spec,
        PersonId person,
        Guid id,
        Instant? duty,
        Instant now,
        CancellationToken cancel
    )
    {
        var machine = spec.Id;
        if (await house.Rules(now, cancel) is not { } rules)
            return Core.Gating.GateProblems.HouseNoRulesYet.Refuse();
        if (await stations.Open(machine, cancel) is { } there && !StationDoor.IsLeft(there, now))
        {
            var made = await taps.Tapped(machine, person, now, cancel);
            if (made.Refusal is { } not)
                return not;
            if (made.Value is { Means: { } means, Session: { } session })
                return means == TapMeans.Offers
                    ? StationDoor.NotYours(await Name(session.Person, cancel))
                    : StationWords.Tapped(means, await Name(means == TapMeans.TakesOver ? session.Person : person, cancel));
        }
        var here = (await bookings.Between(now, now + Duration.FromHours(24), null, cancel))
            .Where(b => b.MachineId == machine && b.End > now)
            .OrderBy(b => b.Start)
            .ToList();
        var mine = here.FirstOrDefault(b => b.PersonId == person);
        if (mine is null && here.Any(b => b.Ask.SupervisorId == person && StationDoor.MayTapIn(spec.Name, b.Start, rules, now) is null))
        {
            await taps.Supervises(machine, person, now, cancel);
            return StationWords.Supervises(await Name(person, cancel));
        }
        if (mine is null && duty is { } until)
            return StationWords.OnDuty(await Name(person, cancel), rules.Clock.At(until).ToString("HH:mm", CultureInfo.InvariantCulture));
        if (StationDoor.MayTapIn(spec.Name, mine?.Start, rules, now) is { } early)
            return early;
        var begun = await stations.TapIn(id, mine!, now, cancel);
        return begun.Refusal is { } refusal ? refusal : StationWords.TappedIn(await Name(person, cancel));
    }

    /// <summary>For a screen that anybody may look at.</summary>
    private async Task<string> Name(PersonId person, CancellationToken cancel) =>
        await PeopleNames.Of(person, people, whole: false, clock, cancel) ?? "Somebody";
}
