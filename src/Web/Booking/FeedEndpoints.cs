using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Net.Http.Headers;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;
using VelvetGate.Web.Upkeep;

namespace VelvetGate.Web.Booking;

/// <param name="Kind">mine, machine, rota, wall or upkeep.</param>
/// <param name="MachineId">With the kind machine alone.</param>
public sealed record FeedRequest(string? Kind = null, string? MachineId = null);

/// <param name="Url">The secret address; shown this once.</param>
public sealed record FeedAddress(Guid Id, FeedKind Kind, MachineId? MachineId, string Url);

/// <param name="ReadAt">When a calendar elsewhere last read it, to within ten minutes; null for never.</param>
public sealed record FeedAnswer(Guid Id, FeedKind Kind, MachineId? MachineId, Instant MadeAt, Instant? ReadAt);

public sealed record FeedList(IReadOnlyList<FeedAnswer> Items);

/// <summary>Machine time for calendars elsewhere (RFC 5545), each at a secret address that can be renewed.</summary>
public static class FeedEndpoints
{
    public static void MapFeeds(this IEndpointRouteBuilder app)
    {
        var feeds = app.MapGroup("/api/feeds").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        feeds.MapPost("", Make).WithName("MakeFeed").ProducesProblem(400).ProducesProblem(403).ProducesProblem(409);
        feeds.MapGet("", List).WithName("ListFeeds");
        feeds.MapDelete("/{id:guid}", Withdraw).WithName("WithdrawFeed").ProducesProblem(404);
        app.MapGet("/feeds/{secret}.ics", Read)
            .WithTags("Bookings")
            .WithName("ReadFeed")
            .AllowAnonymous()
            .Produces(200, contentType: "text/calendar")
            .ProducesProblem(404)
            .ProducesProblem(410);
    }

    private static async Task<Results<Created<FeedAddress>, ProblemHttpResult>> Make(
        FeedRequest request,
        CurrentUser user,
        FeedStore feeds,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var read = Feeds.Kind(request.Kind);
        if (read.Refusal is { } unknown)
            return Problems.Of(unknown);
        var kind = read.Value;
        var secret = Feeds.Secret();
        var machine = string.IsNullOrWhiteSpace(request.MachineId) ? (MachineId?)null : MachineId.From(request.MachineId.Trim());
        var made = await feeds.Make(user.Id, kind, machine, secret, await user.SeesNames(), clock.GetCurrentInstant(), cancel);
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created(
                $"/api/feeds/{made.Value.Id}",
                new FeedAddress(
                    made.Value.Id,
                    kind,
                    machine,
                    address.Of(kind == FeedKind.Wall ? $"/wall/{secret}" : $"/feeds/{secret}.ics")
                )
            );
    }

    private static async Task<Ok<FeedList>> List(CurrentUser user, FeedStore feeds, CancellationToken cancel) =>
        TypedResults.Ok(
            new FeedList([.. (await feeds.Of(user.Id, cancel)).Select(f => new FeedAnswer(f.Id, f.Kind, f.MachineId, f.MadeAt, f.ReadAt))])
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Withdraw(
        Guid id,
        CurrentUser user,
        FeedStore feeds,
        IClock clock,
        CancellationToken cancel
    ) =>
        await feeds.Withdraw(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("calendar address of yours");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Read(
        string secret,
        HttpContext http,
        FeedStore feeds,
        PeopleStore people,
        HouseStore house,
        UpkeepDays due,
        IClock clock,
        WrittenEntries written,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await feeds.Find(secret, now, cancel) is not { Kind: not FeedKind.Wall } feed)
            return Problems.NotFound("calendar at this address");
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        // Whoever left the house reads nothing of it any more.
        if (Feeds.MayRead(feed.EndedAt) is { } revoked)
            return Problems.Of(revoked);
        if (await people.Find(feed.PersonId, now, cancel) is not { } owner)
            return Problems.NotFound("calendar at this address");
        var whole = owner.Roles.Any(r => r.Role is Role.Steward or Role.Trainer or Role.Keeper);
        var entries =
            feed.Kind == FeedKind.Upkeep
                ? await due.Of(rules, now, cancel)
                : await feeds.Entries(feed, whole, rules.HouseName, now, cancel);
        var machine = feed.MachineId is { } id
            ? (await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id)?.Spec.Name ?? id.Value
            : null;
        var text = FeedCalendar.Write(Feeds.Name(feed.Kind, rules.HouseName, machine), rules.ZoneId, entries, written);
        var bytes = Encoding.UTF8.GetBytes(text);
        var tag = new EntityTagHeaderValue($"\"{Convert.ToHexStringLower(SHA256.HashData(bytes))[..32]}\"");
        http.Response.Headers.CacheControl = "private, no-cache";
        return TypedResults.File(bytes, "text/calendar; charset=utf-8", entityTag: tag);
    }
}
