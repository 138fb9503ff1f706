using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

public enum FixtureState
{
    Here,
    Out,
    Overdue,
    Damaged,
}

/// <param name="With">Who has it: for staff, and for themselves.</param>
/// <param name="Mine">The person who looks has it.</param>
/// <param name="Wrong">What was wrong as it came back, in somebody’s own words: for staff.</param>
/// <param name="NextAt">Start of the next booking with it.</param>
public sealed record FixtureResponse(
    string Id,
    IReadOnlyList<MachineId> MachineIds,
    FixtureState State,
    string? With,
    bool Mine,
    Instant? Since,
    Instant? Due,
    string? Wrong,
    Instant? NextAt
);

public sealed record FixtureList(IReadOnlyList<FixtureResponse> Items);

/// <param name="MemberId">Left out: the person who asks.</param>
/// <param name="Due">RFC 3339 with an offset; left out, the end of their booking, or four hours.</param>
public sealed record FixtureOutRequest(string? MemberId = null, string? Due = null);

/// <param name="Note">What is wrong, where it is damaged.</param>
public sealed record FixtureBackRequest(bool? Damaged = null, string? Note = null);

/// <summary>Fixtures of the house, handed out and taken back with their condition.</summary>
public static class FixtureEndpoints
{
    public static void MapFixtures(this IEndpointRouteBuilder app)
    {
        var fixtures = app.MapGroup("/api/fixtures").WithTags("Bookings").RequireAuthorization(Policy.SignedIn);
        fixtures.MapGet("", List).WithName("ListFixtures");
        fixtures
            .MapPost("/{id}/out", Out)
            .WithName("HandOutFixture")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        fixtures.MapPost("/{id}/back", Back).WithName("TakeBackFixture").ProducesProblem(400).ProducesProblem(403).ProducesProblem(409);
        fixtures.MapPost("/{id}/right", Right).WithName("PutFixtureRight").RequireAuthorization(Policy.Steward).ProducesProblem(404);
    }

    private static async Task<Ok<FixtureList>> List(
        CurrentUser user,
        FixtureStore fixtures,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var all = await fixtures.All(now, cancel);
        var whole = await user.SeesNames();
        var names = await PeopleNames.Of(all.Select(f => f.Out?.PersonId).OfType<PersonId>(), people, whole, clock, cancel);
        return TypedResults.Ok(new FixtureList([.. all.Select(f => Of(f, user.Id, whole, names, now))]));
    }

    private static FixtureResponse Of(FixtureNow f, PersonId asker, bool whole, Dictionary<PersonId, string> names, Instant now) =>
        new(
            Id: f.Id,
            MachineIds: f.MachineIds,
            State: f.Out is { } held ? (held.Due <= now ? FixtureState.Overdue : FixtureState.Out)
                : f.Damaged is not null ? FixtureState.Damaged
                : FixtureState.Here,
            With: f.Out is { } o && (whole || o.PersonId == asker) ? names.GetValueOrDefault(o.PersonId) : null,
            Mine: f.Out?.PersonId == asker,
            Since: f.Out?.Since ?? f.Damaged?.At,
            Due: f.Out?.Due,
            Wrong: whole ? f.Damaged?.What : null,
            NextAt: f.NextAt
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Out(
        string id,
        FixtureOutRequest request,
        CurrentUser user,
        FixtureStore fixtures,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var due = request.Due is null ? null : errors.Moment("due", request.Due, "Give the moment with its offset.");
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        var staff = await user.Is(Role.Steward, Role.Trainer);
        var person = string.IsNullOrWhiteSpace(request.MemberId) ? user.Id : new PersonId(request.MemberId.Trim());
        if (person != user.Id && await people.Find(person, now, cancel) is null)
            return Problems.NotFound("person");
        var done = await fixtures.HandOut(id, person, due, user.Id, staff, now, cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Back(
        string id,
        FixtureBackRequest request,
        CurrentUser user,
        FixtureStore fixtures,
        IClock clock,
        CancellationToken cancel
    )
    {
        var staff = await user.Is(Role.Steward, Role.Trainer);
        var done = await fixtures.TakeBack(id, request.Damaged == true, request.Note, user.Id, staff, clock.GetCurrentInstant(), cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Right(
        string id,
        CurrentUser user,
        FixtureStore fixtures,
        IClock clock,
        CancellationToken cancel
    ) =>
        await fixtures.PutRight(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("damaged fixture of that name");
}
