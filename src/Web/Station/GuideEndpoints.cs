using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Station;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>Papers of a machine: the code that leads to its page, a run step by step, and who may run when the server is away.</summary>
public static class GuideEndpoints
{
    public static void MapGuide(this IEndpointRouteBuilder app)
    {
        var machine = app.MapGroup("/api/machines/{id}").WithTags("Station").RequireAuthorization(Policy.SignedIn);
        machine
            .MapGet("/page-code.pdf", Code)
            .WithName("MachinePageCode")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
        machine
            .MapGet("/without-screen.pdf", WithoutScreenPaper)
            .WithName("WithoutScreen")
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
        app.MapGet("/api/who-may-run.pdf", WhoMayRun)
            .WithTags("Station")
            .WithName("WhoMayRun")
            .RequireAuthorization(Policy.Staff)
            .Produces(200, contentType: "application/pdf");
    }

    /// <summary>A session on paper: two pages to tick, for a machine without a screen.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> WithoutScreenPaper(
        string id,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { } machine)
            return Problems.NotFound($"machine as “{id}”");
        var session = WithoutScreen.Of(machine.Spec, rules);
        using var paper = new Paper(
            $"{session.Machine}: a run, step by step",
            $"{rules.HouseName}, printed {HouseDates.Moment(now, rules)}"
        );
        paper.Line(MachineGuide.NoSafetySystem, 9);
        foreach (var part in session.Parts)
        {
            paper.Heading(part.Title);
            foreach (var line in part.Lines)
                paper.Columns([("____", 0.08), (line, 0.92)], 10);
        }
        return TypedResults.File(paper.Finish(), "application/pdf", $"run-at-{id}.pdf");
    }

    /// <summary>For days without the server: who is booked in the coming week, and who holds a certificate, by machine.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> WhoMayRun(
        HouseStore house,
        BookingStore bookings,
        TrainingStore training,
        CertificateHoldStore holds,
        PeopleStore people,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var booked = (await bookings.Between(now, now + Duration.FromDays(7), null, cancel)).ToLookup(b => b.MachineId);
        var onHold = (await holds.Now(null, now, cancel)).Select(h => (h.PersonId, h.Authority)).ToHashSet();
        var held = (await training.Held(now, null, cancel))
            .Where(c => !onHold.Contains((c.PersonId, c.Authority)))
            .ToLookup(c => c.Authority);
        var everybody = (await people.All(now, cancel)).ToDictionary(p => p.Id);
        using var paper = new Paper("Who may run, on paper", $"{rules.HouseName}, with names, as of {HouseDates.Moment(now, rules)}");
        paper.Line(
            "For days without the server. A steward stays and decides: a stop, a pause of a person or a change of a sheet after this was "
                + $"printed is not on it; whoever has not run for {rules.IdleLapseDays} days runs beside somebody first. Write each "
                + "run down with sheet, settings and outcome, and type it in when the server is back.",
            9
        );
        foreach (var machine in await house.MachinesHere(now, cancel))
        {
            paper.Heading(machine.Stop is null ? machine.Spec.Name : $"{machine.Spec.Name}: stopped");
            foreach (var b in booked[machine.Spec.Id].OrderBy(b => b.Start))
                paper.Columns([
                    ($"{HouseDates.Moment(b.Start, rules)} to {rules.Clock.At(b.End):HH:mm}", 0.3),
                    ($"{b.GivenName} {b.FamilyName}{(b.AtRiskSince is null ? "" : ", ask a steward first")}", 0.26),
                    (string.Join(", ", b.Ask.Items.Select(i => i.SheetTag?.Value ?? i.MaterialId.Value)), 0.44),
                ]);
            paper.Line(
                "Certified: "
                    + string.Join(
                        ", ",
                        held[machine.Spec.Id.Value]
                            .Where(c => everybody.TryGetValue(c.PersonId, out var p) && p.Pause is null)
                            .Select(c =>
                                $"{everybody[c.PersonId].GivenName} {everybody[c.PersonId].FamilyName}"
                                + (c.Until is { } until ? $" to {rules.Clock.DateOf(until - Duration.FromSeconds(1)):d MMM}" : "")
                            )
                    ),
                9
            );
        }
        return TypedResults.File(paper.Finish(), "application/pdf", "who-may-run.pdf");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Code(
        string id,
        HouseStore house,
        HouseAddress address,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if ((await house.Machines(now, cancel)).FirstOrDefault(m => m.Spec.Id == id) is not { } machine)
            return Problems.NotFound("machine");
        using var paper = new Paper($"{machine.Spec.Name}: its page", rules.HouseName);
        paper.Line("Point a phone here: switching on and off, air, cooling, focus, what each stop really does. No account.", 14);
        paper.Code(address.Of($"/at/{id}"));
        paper.Line(address.Of($"/at/{id}"), 9);
        paper.Line("In danger first the machine’s own stop, then the card beside it.", 12);
        return TypedResults.File(paper.Finish(), "application/pdf", $"page-of-{id}.pdf");
    }
}
