using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using VelvetGate.Core.Watch;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Run;
using VelvetGate.Store.Training;
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

public sealed record WatchMachine(MachineResponse Machine, IReadOnlyList<BookingResponse> Bookings);

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
        HouseStore house,
        BookingStore bookings,
        Needs needs,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var whole = await user.SeesNames();
        var date = rules.Clock.DateOf(now);
        var open = rules.OpenOn(date);
        var day = rules.Clock.Day(date);
        var machines = await house.MachinesHere(now, cancel);
        var booked = (await bookings.Between(day.Start, day.End, null, cancel)).ToLookup(b => b.MachineId);
        var duty = await house.OnDuty(now, cancel);
        return TypedResults.Ok(
            new WatchResponse(
                Now: now,
                Date: date.ToString("uuuu-MM-dd", null),
                Label: date.ToString("dddd d MMMM uuuu", System.Globalization.CultureInfo.InvariantCulture),
                Opens: open?.Start,
                Closes: open?.End,
                Hours: open is { } hours ? [.. Hours(rules, hours)] : [],
                OnDuty: duty is { } d ? PersonName.For(d.GivenName, d.FamilyName, Ages.On(d.BirthDate, now), whole) : null,
                OnDutyUntil: duty?.Until,
                Machines:
                [
                    .. machines.Select(m => new WatchMachine(
                        HouseEndpoints.Answer(m, rules, whole, now),
                        [.. booked[m.Spec.Id].Select(b => BookingResponses.Of(b, user.Id, whole))]
                    )),
                ],
                Needs: await needs.Of(
                    await user.Is(Role.Steward, Role.Trainer) ? (PersonId?)null : user.Id,
                    rules,
                    shown.Value,
                    now,
                    cancel
                )
            )
        );
    }

    private static IEnumerable<SlotResponse> Hours(HouseRules rules, Interval hours)
    {
        for (var at = hours.Start; at <= hours.End; at += Duration.FromHours(1))
            yield return new SlotResponse(at, rules.Clock.At(at).ToString("%H", System.Globalization.CultureInfo.InvariantCulture));
    }
}

/// <summary>Gathers what waits for a steward; Core says how urgent each thing is.</summary>
public sealed class Needs(
    HouseStore house,
    StewardRequestStore asks,
    BookingStore bookings,
    TrainingStore training,
    PeopleStore people,
    MaterialStore materials,
    FoundingStore founding,
    SheetStore sheets,
    RulingStore rulings,
    RulingRequestStore requests,
    ConductStore conduct,
    CertificateHoldStore certificateHolds,
    RunStore runs,
    ParkedWork parked,
    OutgoingMail mails,
    DrawingStore drawings,
    UpkeepStore upkeep
)
{
    /// <param name="onlyFor">Null gathers everything; else only what concerns this person.</param>
    public async Task<IReadOnlyList<Need>> Of(PersonId? onlyFor, HouseRules rules, LengthUnit unit, Instant now, CancellationToken cancel)
    {
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id);
        var found = new List<Need>();
        if (onlyFor is null)
        {
            foreach (var machine in machines.Values.Where(m => m.Stop is not null && !m.Spec.IsGone(now, rules.Clock)))
                found.Add(NeedsAHand.Stopped(machine.Spec.Name, machine.Stop!.Reason ?? "reason erased", machine.Stop.Id.ToString()));
        }
        var materialNames = (await materials.Shelf(now, cancel)).Materials.ToDictionary(m => m.Id, m => m.Name);
        foreach (var ask in (await asks.Waiting(now, cancel)).Where(a => onlyFor is null || a.PersonId == onlyFor))
        {
            var who = PersonName.For(ask.GivenName, ask.FamilyName, Ages.On(ask.BirthDate, now), true);
            var when = rules.Clock.At(ask.Start).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture);
            found.Add(
                NeedsAHand.Asked(
                    who,
                    $"{What(ask, materialNames, unit)} on {machines[ask.MachineId].Spec.Name}, {when}.{(ask.Note is { } n ? $" {n}" : "")}",
                    ask.Start,
                    now,
                    ask.Id.ToString()
                )
            );
        }
        foreach (var booking in (await bookings.AtRisk(now, cancel)).Where(b => onlyFor is null || b.PersonId == onlyFor))
        {
            var when = rules.Clock.At(booking.Start).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture);
            var why = string.Join(" ", booking.AtRisk.Select(r => r.Text));
            found.Add(
                NeedsAHand.AtRisk(
                    $"{booking.GivenName} {booking.FamilyName}",
                    $"{machines[booking.MachineId].Spec.Name}, {when}. {why}",
                    booking.Start,
                    now,
                    booking.Id.ToString()
                )
            );
        }
        if (onlyFor is null)
        {
            found.AddRange(await OfHouse(machines, rules, now, cancel));
            found.AddRange(await OfShelf(materialNames, rules, now, cancel));
        }
        var ending = await training.Held(now, now + Duration.FromDays(NeedsAHand.LapseDays), cancel);
        var names = (await people.All(now, cancel)).ToDictionary(p => p.Id, p => $"{p.GivenName} {p.FamilyName}");
        foreach (var certificate in ending.Where(c => names.ContainsKey(c.PersonId) && (onlyFor is null || c.PersonId == onlyFor)))
            found.Add(
                NeedsAHand.Lapsing(
                    names[certificate.PersonId],
                    Authority(certificate.Authority, machines),
                    certificate.Until!.Value,
                    now,
                    certificate.PersonId
                )
            );
        return NeedsAHand.Order(found);
    }

    private async Task<List<Need>> OfHouse(
        Dictionary<MachineId, MachineNow> machines,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var found = new List<Need>();
        foreach (var booking in await bookings.NoShows(rules.NoShowGraceMinutes, now, cancel))
        {
            var when = rules.Clock.At(booking.Start).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);
            found.Add(
                NeedsAHand.NoShow(
                    $"{booking.GivenName} {booking.FamilyName}",
                    $"{machines[booking.MachineId].Spec.Name} since {when}",
                    booking.Start,
                    booking.Id.ToString()
                )
            );
        }
        found.AddRange(NeedsAHand.Room(Readiness.DiskFreeMb(), await drawings.BytesKept(cancel)));
        found.AddRange((await parked.All(cancel)).Select(p => NeedsAHand.Parked(p.Why, p.At, p.Subject)));
        found.AddRange(
            (await mails.GivenUp(now, cancel)).Select(m =>
                NeedsAHand.Undelivered($"{m.GivenName} {m.FamilyName}", m.Title, m.Why, m.At, m.PersonId)
            )
        );
        found.AddRange(
            (await runs.ToLook(cancel)).Select(r =>
                NeedsAHand.RunToLook(
                    $"{r.GivenName} {r.FamilyName}",
                    r.Machine,
                    r.Outcome == "flame",
                    RunVerdict.Why(r.Outcome == "flame", r.Codes),
                    r.End,
                    r.Id.ToString()
                )
            )
        );
        foreach (var first in (await founding.Standing(now, cancel)).Where(f => f.ConfirmedAt is null))
            found.Add(
                NeedsAHand.Unconfirmed(
                    $"{first.GivenName} {first.FamilyName}",
                    machines[first.MachineId].Spec.Name,
                    first.Ends,
                    first.Id.ToString()
                )
            );
        found.AddRange(
            (await upkeep.All(now, cancel))
                .Where(t => t.OverdueFrom <= now && !machines[t.MachineId].Spec.IsGone(now, rules.Clock))
                .Select(t => NeedsAHand.Upkeep(machines[t.MachineId].Spec.Name, t.Name, t.OverdueFrom, t.Id))
        );
        foreach (var kit in (await sheets.Kit(now, cancel)).Where(k => k.InDateUntil < now + Duration.FromDays(NeedsAHand.LapseDays)))
            found.Add(NeedsAHand.Kit(kit.Name, kit.InDateUntil!.Value, now, kit.Id));
        var appeals = await conduct.Waiting(cancel);
        var names = appeals.Count == 0 ? [] : (await people.All(now, cancel)).ToDictionary(p => p.Id, p => $"{p.GivenName} {p.FamilyName}");
        found.AddRange(appeals.Select(a => NeedsAHand.Appeal(names.GetValueOrDefault(a.PersonId, "somebody"), a.Appeal!.At, a.PersonId)));
        var reviews = (await certificateHolds.Now(null, now, cancel)).Where(h => h.Kind == CertificateHoldKind.Review).ToList();
        if (reviews.Count > 0)
            found.Add(NeedsAHand.Review(reviews.Count, reviews.Min(r => r.Since)));
        return found;
    }

    private async Task<List<Need>> OfShelf(
        Dictionary<MaterialId, string> materialNames,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var found = new List<Need>();
        var waiting = await rulings.Waiting(cancel);
        var asked = (await requests.List("", true, cancel)).Where(r => r.State == "waiting").ToList();
        var names =
            waiting.Count + asked.Count == 0
                ? []
                : (await people.All(now, cancel)).ToDictionary(p => p.Id, p => $"{p.GivenName} {p.FamilyName}");
        foreach (var proposal in waiting)
            found.Add(
                NeedsAHand.Proposed(
                    names.GetValueOrDefault(proposal.ProposedBy, "somebody"),
                    materialNames.GetValueOrDefault(proposal.MaterialId, proposal.MaterialId.Value),
                    Instant.Max(proposal.HoldsFrom, now),
                    proposal.MaterialId
                )
            );
        found.AddRange(asked.Select(r => NeedsAHand.Requested(names.GetValueOrDefault(r.PersonId, "somebody"), r.Name, r.At)));
        found.AddRange(
            NeedsAHand.Reviews([
                .. (await rulings.Overdue(rules.Clock.DateOf(now), now, cancel)).Select(r =>
                    (r.MaterialId, r.Name, rules.Clock.Day(r.ReviewBy).Start)
                ),
            ])
        );
        return found;
    }

    private static string What(StewardRequest ask, Dictionary<MaterialId, string> materials, LengthUnit unit)
    {
        var asked = GateJson.Read<GateQuestion>(ask.Ask).Items[0];
        var operations = string.Join(" and ", asked.Operations.Select(o => o.ToString().ToLowerInvariant()));
        var material = materials.GetValueOrDefault(asked.MaterialId, asked.MaterialId.Value);
        return $"{operations} {Length.Show(asked.ThicknessMm, unit)} {material}";
    }

    private static string Authority(string authority, Dictionary<MachineId, MachineNow> machines)
    {
        var parts = authority.Split('/', 2);
        var name = machines.TryGetValue(parts[0], out var machine) ? machine.Spec.Name : parts[0];
        return parts.Length == 2 ? $"{name} with {parts[1]}" : name;
    }
}
