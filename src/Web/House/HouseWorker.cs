using NodaTime;
using Npgsql;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;

namespace VelvetGate.Web.House;

/// <summary>What the clock alone brings about: no-shows released where the house says so, people told of lapses, texts erased when law no longer wants them. Safe on any number of instances.</summary>
public sealed partial class HouseWorker(HouseStore house, BookingStore bookings, PersonalDataStore data, MatrixStore certificates, IClock clock, ILogger<HouseWorker> log) : BackgroundService
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(30);
    private LocalDate? _reminded;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Round);
        do
        {
            try
            {
                await Once(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException or IOException or InvalidOperationException)
            {
                Failed(log, e.Message);
            }
        }
        while (await Next(timer, stoppingToken));
    }

    /// <summary>One round of the work.</summary>
    public async Task Once(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await data.EraseOverdue(now, cancel);
        if (await house.Rules(now, cancel) is not { } rules) return;
        // Once a house day is enough: a lapse lies days ahead.
        if (rules.Clock.DateOf(now) is var today && today != _reminded)
        {
            await certificates.Remind(rules, now, cancel);
            _reminded = today;
        }
        if (!rules.ReleaseNoShows) return;
        foreach (var booking in await bookings.NoShows(rules.NoShowGraceMinutes, now, cancel))
            await bookings.ReleaseNoShow(booking.Id, null, rules.NoShowGraceMinutes, now, cancel);
    }

    private static async Task<bool> Next(PeriodicTimer timer, CancellationToken cancel)
    {
        try
        {
            return await timer.WaitForNextTickAsync(cancel);
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The house's clock work failed, trying later: {Why}")]
    private static partial void Failed(ILogger log, string why);
}
