using NodaTime;
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
    IClock clock
)
{
    /// <param name="id">Of the session that begins, client-made.</param>
    /// <returns>Null where it went well.</returns>
    public async Task<Refusal?> Tap(MachineId machine, PersonId person, Guid id, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var tapped = await Once(machine, person, id, now, cancel);
        await taps.Keep(machine, person, new LastTap(now, tapped.Refusal?.Code, tapped.Refusal is { } no ? no.Text : tapped.Value), cancel);
        return tapped.Refusal;
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
        return session.Refusal;
    }

    /// <summary>A fob at the reader of a machine’s controller: somebody’s, or one that is to be learnt.</summary>
    /// <param name="at">When it was held there.</param>
    public async Task AtReader(MachineId machine, string code, Instant at, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (now - at > Taps.LateAfter)
            await Say(machine, StationProblems.FobLate.Refuse(), cancel);
        else if (Fobs.Check(code) is { } unreadable)
            await Say(machine, unreadable, cancel);
        else if (await fobs.LearnAwaited(machine, settings.Keys!.Fob(code), now, cancel) is { } learnt)
            await taps.Keep(
                machine,
                learnt.Refusal is null ? learnt.Value : default(PersonId?),
                new LastTap(
                    now,
                    learnt.Refusal?.Code,
                    learnt.Refusal is { } not ? not.Text : StationWords.Learnt(await Name(learnt.Value, cancel))
                ),
                cancel
            );
        else
            await Fob(machine, code, Guid.NewGuid(), cancel);
    }

    /// <summary>A fob, as its code is read.</summary>
    public async Task<Refusal?> Fob(MachineId machine, string code, Guid id, CancellationToken cancel) =>
        settings.Keys is not { } keys ? StationProblems.FobOff.Refuse()
        : await fobs.Holder(keys.Fob(code), clock.GetCurrentInstant(), cancel) is { } person ? await Tap(machine, person, id, cancel)
        : await Say(machine, StationProblems.FobUnknown.Refuse("fob"), cancel);

    /// <summary>A tap-in code, typed at the machine’s screen.</summary>
    public async Task<Refusal?> Code(MachineId machine, string code, Guid id, CancellationToken cancel) =>
        settings.Keys is not { } keys ? StationProblems.FobOff.Refuse()
        : await fobs.Take(keys.TapInCode(code), clock.GetCurrentInstant(), cancel) is { } person ? await Tap(machine, person, id, cancel)
        : await Say(machine, StationProblems.CodeWrong.Refuse("code"), cancel);

    private async Task<Refusal> Say(MachineId machine, Refusal refusal, CancellationToken cancel)
    {
        await taps.Keep(machine, null, new LastTap(clock.GetCurrentInstant(), refusal.Code, refusal.Text), cancel);
        return refusal;
    }

    private async Task<Result<string>> Once(MachineId machine, PersonId person, Guid id, Instant now, CancellationToken cancel)
    {
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == machine) is not { Spec: var spec })
            return CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”");
        if (await house.Rules(now, cancel) is not { } rules)
            return Core.Gating.GateProblems.HouseNoRulesYet.Refuse();
        if (
            await stations.Open(machine, cancel) is { } there
            && !StationDoor.IsLeft(there, now)
            && await taps.Tapped(machine, person, now, cancel) is { } tapped
        )
            return tapped.Refusal is { } not ? not
                : tapped.Value.Means == TapMeans.Offers ? StationDoor.NotYours(await Name(tapped.Value.Session.Person, cancel))
                : StationWords.Tapped(
                    tapped.Value.Means,
                    await Name(tapped.Value.Means == TapMeans.TakesOver ? tapped.Value.Session.Person : person, cancel)
                );
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
        if (StationDoor.MayTapIn(spec.Name, mine?.Start, rules, now) is { } early)
            return early;
        var session = await stations.TapIn(id, mine!, now, cancel);
        return session.Refusal is { } refusal ? refusal : StationWords.TappedIn(await Name(person, cancel));
    }

    /// <summary>For a screen that anybody may look at.</summary>
    private async Task<string> Name(PersonId person, CancellationToken cancel) =>
        await PeopleNames.Of(person, people, whole: false, clock, cancel) ?? "Somebody";
}
