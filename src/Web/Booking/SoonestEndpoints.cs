using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Web.Gate;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Booking;

/// <summary>A question to the gate without a machine and a start, and when the person can come.</summary>
public sealed record SoonestRequest : GateQuestionRequest
{
    /// <summary>No start before it; RFC 3339 with an offset. So too <see cref="Before"/>: no end after it.</summary>
    public string? After { get; init; }
    public string? Before { get; init; }

    /// <summary>Weekdays left out: mon, tue, wed, thu, fri, sat, sun.</summary>
    public IReadOnlyList<string>? NotOn { get; init; }

    /// <summary>On each day, no start before it; such as 17:00. So too <see cref="To"/>: no end after it.</summary>
    public string? From { get; init; }
    public string? To { get; init; }

    /// <summary>The same in words: “after 17:00, not Saturdays, before 3 December”.</summary>
    public string? Words { get; init; }
}

/// <param name="Machines">Soonest finish first; those that cannot be booked last.</param>
/// <param name="Understood">When times were looked for, in the house’s words.</param>
public sealed record SoonestTable(IReadOnlyList<MachineTimesResponse> Machines, string Understood);

/// <param name="RunMinutes">What the runs take there by themselves; null while that is not known.</param>
/// <param name="Reasons">What the first choice is open under; where there is no choice, everything against it.</param>
/// <param name="Opens">What is still to be learnt, where training is in the way.</param>
/// <param name="Minutes">To book.</param>
public sealed record MachineTimesResponse(
    MachineId MachineId,
    string Name,
    LaserKind Kind,
    decimal PowerW,
    Verdict Verdict,
    IReadOnlyList<ReasonResponse> Reasons,
    IReadOnlyList<ToLearn> Opens,
    int Minutes,
    decimal? RunMinutes,
    LengthResponse Length,
    IReadOnlyList<TimeChoice> Choices
);

/// <param name="From">When it can be done; null when it waits for nobody.</param>
public sealed record ToLearn(string Title, Instant? From);

/// <param name="Conditions">How many things it is open under.</param>
public sealed record TimeChoice(Instant Start, Instant End, Verdict Verdict, int Conditions);

/// <summary>Which machine, soonest? Nothing is booked by asking.</summary>
public static class SoonestEndpoints
{
    public static void MapSoonest(this IEndpointRouteBuilder app) =>
        app.MapPost("/api/machines/soonest", Soonest)
            .WithTags("Bookings")
            .WithName("FindSoonest")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400)
            .ProducesProblem(403);

    private static async Task<Results<Ok<SoonestTable>, ProblemHttpResult>> Soonest(
        SoonestRequest request,
        CurrentUser user,
        FactLoader facts,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var job = GateQuestionReading.ReadJob(request, user.Id, now, errors);
        var wish = Wish(request, now, rules, errors);
        if (job is null || wish is null)
            return errors.Answer();
        if (StewardRequests.MayAskFor(job.MemberId, user.Id, await user.Is(Role.Steward, Role.Trainer)) is { } others)
            return Problems.Of(others);
        var machines = (await house.MachinesHere(now, cancel)).Select(m => m.Spec).ToDictionary(m => m.Id);
        var until = FreeTimes.Until(rules, now);
        var asks = machines.Keys.Select(m => job with { MachineId = m }).ToList();
        var loaded = await facts.LoadEach(asks, now, user.Id, until, cancel);
        if (loaded.Select(l => l.Refusal).FirstOrDefault(r => r is not null) is { } refusal)
            return Problems.Of(refusal);
        var found = FreeTimes.Sorted(asks.Zip(loaded, (ask, known) => FreeTimes.On(ask, known.Value, wish)));
        return TypedResults.Ok(
            new SoonestTable([.. found.Select(f => Answer(machines[f.MachineId], f, rules))], TimeWords.Says(wish, now, until, rules))
        );
    }

    private static MachineTimesResponse Answer(MachineSpec machine, MachineTimes found, HouseRules rules) =>
        new(
            MachineId: machine.Id,
            Name: machine.Name,
            Kind: machine.Kind,
            PowerW: machine.PowerW,
            Verdict: found.Verdict,
            Reasons: GateEndpoints.Reasons(found.Reasons, rules),
            Opens: [.. found.Opens.Select(o => new ToLearn(o.Title, o.From))],
            Minutes: found.Minutes,
            RunMinutes: found.RunMinutes,
            Length: new LengthResponse(found.Length.FilledTo(found.Minutes), found.Length.NeededMinutes, found.Length.SlotMinutes),
            Choices: [.. found.Choices.Select(c => new TimeChoice(c.Start, c.End, c.Verdict, c.Conditions))]
        );

    /// <returns>Null when a field is wrong.</returns>
    private static TimeWish? Wish(SoonestRequest request, Instant now, HouseRules rules, FieldErrors errors)
    {
        const string offset = "Give the moment with its offset, such as 2026-11-24T10:00:00Z.";
        errors.AtMost("words", request.Words, TimeWords.Longest);
        var after = request.After is { } a ? errors.Moment("after", a, offset) : null;
        var before = request.Before is { } b ? errors.Moment("before", b, offset) : null;
        var from = request.From is { } f ? errors.Time("from", f) : null;
        var to = request.To is { } t ? errors.Time("to", t) : null;
        var notOn = new List<IsoDayOfWeek>();
        foreach (var word in request.NotOn ?? [])
        {
            if (TimeWords.Weekday(word) is { } day)
                notOn.Add(day);
            else
                errors.Add("notOn", $"“{word}” is not a weekday. Use mon, tue, wed, thu, fri, sat, sun.");
        }
        var said = TimeWords.Read(request.Words, now, rules.Clock);
        if (said.Refusal is { } wrong)
            errors.Add([wrong]);
        if (errors.Any)
            return null;
        var wish = new TimeWish(after, before, notOn, from, to).And(said.Value);
        if (wish.Check() is { } empty)
            errors.Add([empty]);
        return errors.Any ? null : wish;
    }
}
