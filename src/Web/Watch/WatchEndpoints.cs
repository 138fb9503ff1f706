using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Watch;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Watch;
using VelvetGate.Web.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Watch;

/// <param name="Hours">Whole hours of the axis, opening to closing.</param>
/// <param name="Needs">Stewards and trainers see all; others their own.</param>
public sealed record WatchResponse(
    Instant Now,
    string Date,
    string Label,
    Instant? Opens,
    Instant? Closes,
    IReadOnlyList<SlotResponse> Hours,
    string? OnDuty,
    Instant? OnDutyUntil,
    IReadOnlyList<WatchMachine> Machines,
    IReadOnlyList<Need> Needs
);

public sealed record WatchMachine(
    MachineId Id,
    string Name,
    LaserKind Kind,
    decimal PowerW,
    decimal BedWidthMm,
    decimal BedHeightMm,
    StopResponse? Stop,
    IReadOnlyList<WatchBooking> Bookings,
    WatchStation? Station
);

/// <summary>A booking on the strip of its machine.</summary>
/// <param name="Parts">Adding up to the minutes.</param>
public sealed record WatchBooking(Guid Id, string Name, bool Mine, Instant Start, Instant End, int Minutes, IReadOnlyList<WatchPart> Parts)
{
    internal static WatchBooking Of(BookedTime b, PersonId asker, bool whole) =>
        new(
            Id: b.Id,
            Name: PersonName.For(b.GivenName, b.FamilyName, Ages.On(b.BirthDate, b.Start), whole || b.PersonId == asker),
            Mine: b.PersonId == asker,
            Start: b.Start,
            End: b.End,
            Minutes: b.Minutes,
            Parts: [.. b.Parts.Select(p => new WatchPart(p.Part, p.Minutes))]
        );
}

public sealed record WatchPart(PartKind Part, decimal Minutes);

public static class WatchEndpoints
{
    public static void MapWatch(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/watch", Watch).WithTags("Watch").WithName("Watch").ProducesProblem(400).RequireAuthorization(Policy.SignedIn);
        app.MapPost("/api/parked/{subject}/done", Looked)
            .WithTags("Watch")
            .WithName("ParkedDone")
            .ProducesProblem(404)
            .RequireAuthorization(Policy.Calendar);
    }

    /// <summary>Somebody has looked at what the server could not do.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Looked(string subject, ParkedWork parked, CancellationToken cancel) =>
        await parked.Done(subject, cancel) ? TypedResults.NoContent() : Problems.NotFound("thing that is to be looked at");

    private static async Task<Results<Ok<WatchResponse>, ProblemHttpResult>> Watch(
        string? unit,
        CurrentUser user,
        WatchStore store,
        CancellationToken cancel
    )
    {
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        var staff = await user.Is(Role.Steward, Role.Trainer);
        if (await store.Now(staff ? (PersonId?)null : user.Id, cancel) is not { } watch)
            return Problems.NoRules();
        var whole = await user.SeesNames();
        var (rules, now) = (watch.Rules, watch.At);
        var date = rules.Clock.DateOf(now);
        var open = rules.OpenOn(date);
        var booked = watch.Bookings.ToLookup(b => b.MachineId);
        var list = new WatchList(watch.Machines.ToDictionary(m => m.Id), watch.Materials, rules, shown.Value, now);
        return TypedResults.Ok(
            new WatchResponse(
                Now: now,
                Date: date.ToString("uuuu-MM-dd", null),
                Label: date.ToString("dddd d MMMM uuuu", System.Globalization.CultureInfo.InvariantCulture),
                Opens: open?.Start,
                Closes: open?.End,
                Hours: open is { } hours ? [.. Hours(rules, hours)] : [],
                OnDuty: watch.OnDuty is { } d ? PersonName.For(d.GivenName, d.FamilyName, Ages.On(d.BirthDate, now), whole) : null,
                OnDutyUntil: watch.OnDuty?.Until,
                Machines:
                [
                    .. watch
                        .Machines.Where(m => !m.IsGone(now, rules.Clock))
                        .Select(m => new WatchMachine(
                            Id: m.Id,
                            Name: m.Name,
                            Kind: m.Kind,
                            PowerW: m.PowerW,
                            BedWidthMm: m.BedWidthMm,
                            BedHeightMm: m.BedHeightMm,
                            Stop: watch.Stops.TryGetValue(m.Id, out var stop) ? StopResponse.Of(stop, whole, now) : null,
                            Bookings: [.. booked[m.Id].Select(b => WatchBooking.Of(b, user.Id, whole))],
                            Station: watch.Stations.TryGetValue(m.Id, out var station)
                                ? WatchStation.Of(station, m, whole || station.Session?.Person == user.Id, now)
                                : null
                        )),
                ],
                Needs: list.Of(watch.Tasks, staff ? NeedsAHand.Room(Readiness.DiskFreeMb(), watch.DrawingBytes) : [])
            )
        );
    }

    private static IEnumerable<SlotResponse> Hours(HouseRules rules, Interval hours)
    {
        for (var at = hours.Start; at <= hours.End; at += Duration.FromHours(1))
            yield return new SlotResponse(at, rules.Clock.At(at).ToString("%H", System.Globalization.CultureInfo.InvariantCulture));
    }
}
