using Npgsql;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Web.Shared;

/// <param name="Status">ready, or why not.</param>
/// <param name="Schema">Newest script this version knows.</param>
/// <param name="StandingLag">Entries of the record that the re-deciding of standing bookings has not read yet.</param>
/// <param name="Parked">Things that background work could not do.</param>
/// <param name="DiskFreeMb">Free space where the server runs, in MB.</param>
public sealed record ReadyResponse(
    string Status,
    string Schema,
    long StandingLag,
    int Parked,
    long DiskFreeMb,
    IReadOnlyList<WorkState> Work
);

/// <summary>Whether this instance may serve: it knows the schema, and its background work goes on.</summary>
public static class Readiness
{
    public static void MapReadiness(this IEndpointRouteBuilder app)
    {
        app.MapGet("/livez", () => TypedResults.Text("alive")).AllowAnonymous().ExcludeFromDescription();
        app.MapGet("/readyz", Ready).AllowAnonymous().ExcludeFromDescription();
        app.MapGet("/healthz", Ready).AllowAnonymous().ExcludeFromDescription();
    }

    private static async Task<IResult> Ready(
        NpgsqlDataSource db,
        LedgerStore ledger,
        ParkedWork parked,
        WorkHealth health,
        CancellationToken cancel
    )
    {
        var wrong = await Schema.Wrong(db, cancel);
        if (wrong is not null)
            return TypedResults.Json(
                new ReadyResponse(wrong, Schema.Newest, 0, 0, DiskFreeMb(), health.All),
                statusCode: StatusCodes.Status503ServiceUnavailable
            );
        var stuck = health.Stuck;
        var answer = new ReadyResponse(
            stuck.Count == 0
                ? "ready"
                : $"Background work has failed for {WorkHealth.Patience.TotalMinutes:0} minutes: {string.Join(", ", stuck)}. Look "
                    + "into the log.",
            Schema.Newest,
            await ledger.Lag("standing", cancel),
            (await parked.All(cancel)).Count,
            DiskFreeMb(),
            health.All
        );
        return TypedResults.Json(answer, statusCode: stuck.Count == 0 ? StatusCodes.Status200OK : StatusCodes.Status503ServiceUnavailable);
    }

    /// <summary>Of the volume the server runs on; the database's own is its administrator's.</summary>
    internal static long DiskFreeMb()
    {
        try
        {
            return new DriveInfo(AppContext.BaseDirectory).AvailableFreeSpace / 1_000_000;
        }
        catch (IOException)
        {
            return -1;
        }
    }
}

/// <summary>
/// Refuses to serve on a database that another version made: at the start where the database answers, else with the first request.
/// </summary>
public sealed class SchemaGuard(NpgsqlDataSource db) : IHostedService
{
    private volatile bool _known;

    public async Task StartAsync(CancellationToken cancellationToken)
    {
        try
        {
            if ((await Schema.Wrong(db, cancellationToken) ?? await Schema.TooMuch(db, cancellationToken)) is { } wrong)
                throw new SchemaException(wrong);
            _known = true;
        }
        catch (Exception e) when (e is NpgsqlException or TimeoutException)
        {
            // It is away: looked at again with each request until it answers.
        }
    }

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    /// <returns>Null once the schema is known to be this version's.</returns>
    public async Task<string?> Wrong(CancellationToken cancel)
    {
        if (_known)
            return null;
        var wrong = await Schema.Wrong(db, cancel);
        _known = wrong is null;
        return wrong;
    }
}

public static class SchemaGuarding
{
    public static void UseSchemaGuard(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (
                    context.Request.Path.StartsWithSegments("/api")
                    && await context.RequestServices.GetRequiredService<SchemaGuard>().Wrong(context.RequestAborted) is { } wrong
                )
                    await Problems.Of(RequestProblems.SchemaUnknown.Refuse(null, wrong)).ExecuteAsync(context);
                else
                    await next(context);
            }
        );
}
