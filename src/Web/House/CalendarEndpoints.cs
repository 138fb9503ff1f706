using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Kind">closure, class or duty.</param>
/// <param name="Starts">Wall-clock time, such as 10:00; an end before the start is on the next day.</param>
/// <param name="Rule">RFC 5545, such as <c>FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270131</c>; empty for once.</param>
/// <param name="PersonId">Duty: the steward; class: the supervising adult.</param>
/// <param name="MachineIds">Class: its machines. Closure: those closed, none for the whole house.</param>
/// <param name="AtOnce">Class: how many may run at one time.</param>
public sealed record PlanRequest(
    string? Kind = null,
    string? Title = null,
    string? FirstDay = null,
    string? Starts = null,
    string? Ends = null,
    string? Rule = null,
    IReadOnlyList<string>? Except = null,
    string? PersonId = null,
    IReadOnlyList<string>? MachineIds = null,
    IReadOnlyList<string>? Roster = null,
    int? AtOnce = null
);

public sealed record TimeResponse(Instant Start, Instant End);

/// <param name="Roster">Names, for staff and those on it.</param>
public sealed record PlanResponse(
    Guid Id,
    PlanKind Kind,
    string Title,
    string When,
    string? Person,
    IReadOnlyList<MachineId> MachineIds,
    int? AtOnce,
    IReadOnlyList<string>? Roster,
    IReadOnlyList<TimeResponse> Next
);

public sealed record PlanList(IReadOnlyList<PlanResponse> Items);

/// <param name="Hit">Standing bookings in its times: each is decided again within a minute, and its person told.</param>
public sealed record PlanMade(Guid? Id, int Times, IReadOnlyList<BookingResponse> Hit);

/// <summary>Closures, class blocks and the steward rota.</summary>
public static class CalendarEndpoints
{
    private const int NextShown = 3;

    public static void MapCalendar(this IEndpointRouteBuilder app)
    {
        var calendar = app.MapGroup("/api/calendar").WithTags("Calendar");
        calendar.MapGet("/", List).WithName("ListCalendar").RequireAuthorization(Policy.SignedIn);
        calendar
            .MapPost("/", Add)
            .WithName("AddToCalendar")
            .RequireAuthorization(Policy.Calendar)
            .Produces<PlanMade>(201)
            .ProducesProblem(400)
            .ProducesProblem(409);
        calendar.MapPost("/preview", Preview).WithName("PreviewCalendar").RequireAuthorization(Policy.Calendar).ProducesProblem(400);
        calendar.MapPost("/{id:guid}/end", End).WithName("EndCalendarLine").RequireAuthorization(Policy.Calendar).ProducesProblem(404);
    }

    private static async Task<Results<Ok<PlanList>, ProblemHttpResult>> List(
        CurrentUser user,
        CalendarStore calendar,
        PeopleStore people,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var whole = await user.SeesNames();
        var names = (await people.All(now, cancel)).ToDictionary(
            p => p.Id,
            p => PersonName.For(p.GivenName, p.FamilyName, Ages.On(p.BirthDate, now), whole || p.Id == user.Id)
        );
        return TypedResults.Ok(
            new PlanList([
                .. (await calendar.Coming(now, NextShown, cancel)).Select(p => new PlanResponse(
                    Id: p.Id,
                    Kind: p.Kind,
                    Title: p.Title,
                    When: p.Says ?? new Recurrence(p.FirstDay, p.Starts, p.Ends, p.Rule).Words(),
                    Person: p.PersonId is { } person ? names.GetValueOrDefault(person, "gone") : null,
                    MachineIds: p.MachineIds,
                    AtOnce: p.AtOnce,
                    Roster: whole || p.Roster.Contains(user.Id) ? [.. p.Roster.Select(r => names.GetValueOrDefault(r, "gone"))] : null,
                    Next: [.. p.Next.Select(n => new TimeResponse(n.Start, n.End))]
                )),
            ])
        );
    }

    /// <summary>What a line would hit, without writing it.</summary>
    private static async Task<Results<Ok<PlanMade>, ProblemHttpResult>> Preview(
        PlanRequest request,
        CurrentUser user,
        CalendarStore calendar,
        BookingStore bookings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (Read(request, rules, out var plan) is { } problem)
            return problem;
        var times = plan!.When.Occurrences(rules.Clock);
        if (times.Refusal is { } refusal)
            return Problems.Of(refusal);
        return TypedResults.Ok(new PlanMade(null, times.Value.Count, await Hit(plan, times.Value, user, calendar, bookings, now, cancel)));
    }

    private static async Task<Results<Created<PlanMade>, ProblemHttpResult>> Add(
        PlanRequest request,
        CurrentUser user,
        CalendarStore calendar,
        BookingStore bookings,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (Read(request, rules, out var plan) is { } problem)
            return problem;
        var added = await calendar.Add(plan!, rules.Clock, user.Id, now, cancel);
        if (added.Refusal is { } refusal)
            return Problems.Of(refusal);
        var times = plan!.When.Occurrences(rules.Clock).Value;
        return TypedResults.Created(
            $"/api/calendar/{added.Value}",
            new PlanMade(added.Value, times.Count, await Hit(plan, times, user, calendar, bookings, now, cancel))
        );
    }

    private static async Task<IReadOnlyList<BookingResponse>> Hit(
        NewPlan plan,
        IReadOnlyList<Interval> times,
        CurrentUser user,
        CalendarStore calendar,
        BookingStore bookings,
        Instant now,
        CancellationToken cancel
    )
    {
        if (plan.Kind == PlanKind.Duty)
            return [];
        var ids = await calendar.Hit(times, plan.MachineIds, now, cancel);
        return
        [
            .. (await bookings.Of(ids, cancel))
                .Where(b => plan.Kind != PlanKind.Class || !plan.Roster.Contains(b.PersonId))
                .Select(b => BookingResponses.Of(b, user.Id, true)),
        ];
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        CurrentUser user,
        CalendarStore calendar,
        IClock clock,
        CancellationToken cancel
    ) =>
        await calendar.End(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("line of the calendar");

    private static ProblemHttpResult? Read(PlanRequest request, HouseRules rules, out NewPlan? plan)
    {
        plan = null;
        var errors = new FieldErrors();
        var kind = errors.Word<PlanKind>("kind", request.Kind, "Say closure, class or duty.");
        if (string.IsNullOrWhiteSpace(request.Title) && kind != PlanKind.Duty)
            errors.Add("title", "Say in a few words what it is.");
        errors.AtMost("title", request.Title, FormField.LongestText);
        var first = errors.NeedDay("firstDay", request.FirstDay, "Give the first day, such as 2026-12-01.");
        var starts = errors.Time("starts", request.Starts);
        var ends = errors.Time("ends", request.Ends);
        if (starts is not null && starts == ends && starts != LocalTime.Midnight)
            errors.Add("ends", "It ends when it starts. For a whole day write 00:00 to 00:00.");
        var except = (request.Except ?? []).Select(d => errors.Day("except", d)).OfType<LocalDate>().ToList();
        var machines = (request.MachineIds ?? []).Where(m => !string.IsNullOrWhiteSpace(m)).Distinct().Select(MachineId.From).ToList();
        if (kind is not PlanKind.Closure && string.IsNullOrWhiteSpace(request.PersonId))
            errors.Add("personId", kind == PlanKind.Duty ? "Choose the steward." : "Name the supervising adult.");
        if (kind == PlanKind.Class && machines.Count == 0)
            errors.Add("machineIds", "Choose the machines of the class.");
        if (kind == PlanKind.Class && request.AtOnce is not (>= 1 and <= 20))
            errors.Add("atOnce", "How many may run at one time: 1 to 20.");
        if (kind == PlanKind.Class && request.AtOnce is { } atOnce && Classes.Refused(atOnce, rules) is { } tooMany)
            errors.Add("atOnce", tooMany.Text);
        if (errors.Any)
            return errors.Answer();
        plan = new NewPlan(
            Kind: kind,
            Title: string.IsNullOrWhiteSpace(request.Title) ? "Steward on duty" : request.Title.Trim(),
            When: new Recurrence(first, starts!.Value, ends!.Value, Texts.NullIfBlank(request.Rule), except),
            PersonId: kind == PlanKind.Closure ? (PersonId?)null : request.PersonId!.Trim(),
            MachineIds: kind == PlanKind.Duty ? [] : machines,
            Roster: kind == PlanKind.Class ? [.. (request.Roster ?? []).Distinct()] : [],
            AtOnce: kind == PlanKind.Class ? request.AtOnce : null
        );
        return null;
    }
}
