using NodaTime;
using Npgsql;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Web.House;

/// <summary>What the clock alone brings about: no-shows released where the house says so, texts erased when law no longer wants them. Safe on any number of instances.</summary>
public sealed partial class HouseWorker(HouseStore house, BookingStore bookings, PersonalDataStore data, IClock clock, ILogger<HouseWorker> log) : BackgroundService
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(30);

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
        if (await house.Rules(now, cancel) is not { ReleaseNoShows: true } rules) return;
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
