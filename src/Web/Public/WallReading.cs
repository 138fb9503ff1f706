using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Public;

/// <summary>What a screen on the wall shows of today, as anybody may read it.</summary>
internal static class WallReading
{
    public static async Task<WallDay> Read(
        HouseRules rules,
        HouseStore house,
        BookingStore bookings,
        CalendarStore calendar,
        PeopleStore people,
        Instant now,
        CancellationToken cancel
    )
    {
        var day = rules.Clock.Day(rules.Clock.DateOf(now));
        var planned = await calendar.Within(day, cancel);
        var duty = planned.Where(p => p.Kind == PlanKind.Duty && p.During.Contains(now)).Select(p => p.PersonId).OfType<PersonId>();
        var names = (await people.Names([.. duty.Distinct()], cancel)).Select(p =>
            PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole: false)
        );
        var times = (await bookings.Between(day.Start, day.End, null, cancel)).Select(b => new WallDay.Time(
            b.MachineId,
            Ages.On(b.BirthDate, now) < PersonName.AdultAge
                ? null
                : PersonName.For(b.GivenName, b.FamilyName, Ages.On(b.BirthDate, now), whole: false),
            b.Start,
            b.End,
            b.ArrivedAt is not null
        ));
        var notices = planned
            .Where(p => p.Kind != PlanKind.Duty && p.During.End > now)
            .Select(p => $"{(p.Kind == PlanKind.Closure ? "Closed" : "Class")}: {p.Title}, {At(p.During.Start)} to {At(p.During.End)}");
        return WallDay.Of(
            rules,
            [.. (await house.MachinesHere(now, cancel)).Select(m => (m.Spec.Id, m.Spec.Name, m.Stop is not null))],
            [.. times],
            [.. names],
            [.. notices],
            now
        );

        string At(Instant at) =>
            at <= day.Start ? "all day"
            : at >= day.End ? "the end of the day"
            : $"{rules.Clock.At(at):HH:mm}";
    }
}
