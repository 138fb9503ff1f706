using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Store.Upkeep;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <summary>
/// What the clock alone brings about: no-shows released where the house says so, people told of lapses, texts erased when law no longer
/// wants them, old drawings deleted, old readings thinned. Safe on any number of instances.
/// </summary>
public sealed class HouseWorker(
    HouseStore house,
    BookingStore bookings,
    PersonalDataStore data,
    MatrixStore certificates,
    SignInGuardStore signIns,
    SessionStore sessions,
    DrawingStore drawings,
    TrendStore readings,
    IClock clock,
    WorkHealth health,
    ILogger<HouseWorker> log
) : BackgroundWork("house", health, log)
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(30);
    private LocalDate? _reminded;

    public override async Task Once(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await data.EraseOverdue(now, cancel);
        await signIns.Tidy(SystemClock.Instance.GetCurrentInstant(), cancel);
        await sessions.Tidy(SystemClock.Instance.GetCurrentInstant(), cancel);
        if (await house.Rules(now, cancel) is not { } rules)
            return;
        // Once a house day is enough: a lapse lies days ahead.
        if (rules.Clock.DateOf(now) is var today && today != _reminded)
        {
            await certificates.Remind(rules, now, cancel);
            await drawings.DeleteOlder(DrawingRoom.KeptSince(now, rules), now, cancel);
            await readings.Thin(now, cancel);
            _reminded = today;
        }
        if (!rules.ReleaseNoShows)
            return;
        foreach (var booking in await bookings.NoShows(rules.NoShowGraceMinutes, now, cancel))
            await bookings.ReleaseNoShow(booking.Id, null, rules.NoShowGraceMinutes, now, cancel);
    }

    protected override Task Rest(CancellationToken cancel) => Task.Delay(Round, cancel);
}
