using VelvetGate.Store.Booking;
using VelvetGate.Store.Db;

namespace VelvetGate.Web.Booking;

/// <summary>What this room needs, and its ways in: machine time.</summary>
public static class BookingRoom
{
    public static IServiceCollection AddBooking(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, BookingTasks>()
            .AddSingleton<BookingStore>()
            .AddSingleton<BookingDetails>()
            .AddSingleton<BookingChanges>()
            .AddSingleton<WaitingStore>()
            .AddSingleton<OfferRound>()
            .AddSingleton<EndingRound>()
            .AddHostedService<OfferWorker>()
            .AddSingleton<JobStore>()
            .AddSingleton<FeedStore>()
            .AddSingleton(new Core.House.Calendars.WrittenEntries())
            .AddSingleton<FixtureStore>()
            .AddSingleton<TryStore>()
            .AddSingleton<ActiveBookings>()
            .AddHostedService<ActiveBookingsWorker>();

    public static void MapBookingRoom(this IEndpointRouteBuilder app)
    {
        app.MapBookings();
        app.MapBookingChanges();
        app.MapJobs();
        app.MapSoonest();
        app.MapWaiting();
        app.MapFeeds();
        app.MapFixtures();
    }
}
