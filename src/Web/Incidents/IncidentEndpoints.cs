using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Incidents: anyone tells one; whoever was there and the stewards read it and add words.</summary>
public static class IncidentEndpoints
{
    public static void MapIncidents(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/incidents").WithTags("Incidents").RequireAuthorization(Policy.SignedIn);
        group.MapPost("/", Tell).WithName("TellIncident").ProducesProblem(400).ProducesProblem(409);
        group.MapGet("/", List).WithName("ListIncidents");
        group.MapGet("/choices", Choices).WithName("IncidentChoices");
        group.MapGet("/{id:guid}", Find).WithName("ShowIncident").ProducesProblem(403).ProducesProblem(404);
        group
            .MapPost("/{id:guid}/change", Change)
            .WithName("ChangeIncident")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/{id:guid}/words", AddWords)
            .WithName("AddIncidentWords")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
    }

    private static async Task<Results<Created<IncidentMade>, ProblemHttpResult>> Tell(
        IncidentRequest request,
        CurrentUser user,
        IncidentStore incidents,
        IncidentAnswers answers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var told = Read(request, rules.Clock, errors);
        if (errors.Any)
            return errors.Answer();
        var staff = request.NotThere ?? await user.Is(Role.Steward);
        var made = await incidents.Tell(told, rules, user.Id, staff, now, cancel);
        if (made.Refusal is { } refusal)
            return Problems.Of(refusal);
        var (answer, _) = await answers.Find(made.Value, cancel);
        return TypedResults.Created(
            $"/api/incidents/{made.Value}",
            new IncidentMade(made.Value, answer!.Number, answer.Holds, answer.Causes)
        );
    }

    private static async Task<Ok<IncidentList>> List(
        CurrentUser user,
        IncidentReading incidents,
        IncidentAnswers answers,
        NearMissStore nearMisses,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var all = await answers.SeesAll();
        var names = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec.Name);
        var lines = await incidents.List(all ? (PersonId?)null : user.Id, cancel);
        var rules = await house.Rules(now, cancel);
        var looks = await nearMisses.LooksAsked(now, cancel);
        return TypedResults.Ok(
            new IncidentList(
                [.. lines.Select(l => Line(l, names))],
                !all,
                [
                    .. (await incidents.Lessons(cancel)).Select(l => new LessonResponse(
                        Mishaps.InWords(l.What),
                        rules!.Clock.DateOf(l.At).ToString("MMMM uuuu", System.Globalization.CultureInfo.InvariantCulture),
                        l.Lesson ?? ""
                    )),
                ],
                [.. looks.Select(l => new LookAskedResponse(l, names[l]))]
            )
        );
    }

    private static Ok<IncidentChoices> Choices() =>
        TypedResults.Ok(
            new IncidentChoices(
                [
                    .. Enum.GetValues<Mishap>()
                        .Select(w => new MishapChoice(w, Mishaps.Says(w), Mishaps.StopsAtOnce(w), Mishaps.ShutsTheRoom(w))),
                ],
                [.. Enum.GetValues<Severity>().Select(s => new SeverityChoice((int)s, Mishaps.Says(s)))],
                [.. Causes.All.Select(c => new CauseChoice(c.Code, c.Title))]
            )
        );

    internal static IncidentLineResponse Line(IncidentLine line, IReadOnlyDictionary<MachineId, string> names) =>
        new(
            Id: line.Incident.Id,
            Number: line.Incident.Number,
            MachineId: line.Incident.MachineId,
            Place: line.Incident.MachineId is { } machine ? names.GetValueOrDefault(machine, machine.Value) : "the room",
            At: line.Incident.At,
            What: line.Incident.What,
            WhatWords: Mishaps.InWords(line.Incident.What),
            Severity: (int)line.Incident.Severity,
            Causes: [.. line.Causes.Select(c => Causes.Find(c)?.Title ?? c)],
            HoldsSet: line.HoldsSet,
            Open: line.Incident.ClosedAt is null,
            CarriedOver: line.Incident.CarriedOver
        );

    private static async Task<Results<Ok<IncidentResponse>, ProblemHttpResult>> Find(
        Guid id,
        IncidentAnswers answers,
        CancellationToken cancel
    )
    {
        var (answer, refusal) = await answers.Find(id, cancel);
        return answer is null ? Problems.Of(refusal!) : TypedResults.Ok(answer);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Change(
        Guid id,
        ChangeRequest request,
        CurrentUser user,
        IncidentStore incidents,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var change = new IncidentChange(
            Severity: request.Severity is null ? null : Severe(request.Severity, errors),
            Damage: Text("damage", request.Damage, errors),
            Cost: Cost(request.Cost, errors),
            FireService: request.FireService,
            Marked: request.Marked,
            PutOut: Text("putOut", request.PutOut, errors),
            MakerSays: Text("makerSays", request.MakerSays, errors),
            Tag: Tag(request.Tag, errors),
            Facts: Facts(request.Facts, errors),
            Law: Law(request.Law, errors)
        );
        if (request.Version is null)
            errors.Add("version", "Say which version was read.");
        if (errors.Any)
            return errors.Answer();
        var changed = await incidents.Change(id, change, request.Version!.Value, user.Id, clock.GetCurrentInstant(), cancel);
        return changed.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> AddWords(
        Guid id,
        WordsRequest request,
        CurrentUser user,
        IncidentStore incidents,
        IncidentAnswers answers,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var words = errors.Need("words", request.Words, "Write what you saw.");
        errors.AtMost("words", request.Words, IncidentRules.TextLongest);
        var at = string.IsNullOrWhiteSpace(request.At) ? null : When("at", request.At, rules.Clock, errors);
        if (errors.Any)
            return errors.Answer();
        var added = await incidents.AddWords(id, at, words, await answers.SeesAll(), user.Id, now, cancel);
        return added.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.NoContent();
    }

    private static ToldIncident Read(IncidentRequest request, HouseClock clock, FieldErrors errors)
    {
        var at = When("at", request.At, clock, errors) ?? default;
        var what = errors.Word<Mishap>("what", request.What, $"Say what happened: {string.Join(", ", Enum.GetNames<Mishap>())}.");
        var seen = errors.Need("seen", request.Seen, "Write what was seen, in your own words.");
        errors.AtMost("seen", request.Seen, IncidentRules.TextLongest);
        Guid? run = null;
        if (!string.IsNullOrWhiteSpace(request.RunId))
        {
            if (Guid.TryParse(request.RunId, out var id))
                run = id;
            else
                errors.Add("runId", "That is not a UUID.");
        }
        return new ToldIncident(
            MachineId: Ids.From<MachineId>(Texts.NullIfBlank(request.MachineId)),
            At: at,
            What: what,
            Severity: Severe(request.Severity, errors),
            RunId: run,
            Seen: seen,
            Damage: Text("damage", request.Damage, errors),
            Cost: Cost(request.Cost, errors),
            FireService: request.FireService,
            Marked: request.Marked,
            Hurt: request.Hurt,
            Injury: Text("injury", request.Injury, errors),
            PutOut: Text("putOut", request.PutOut, errors),
            Tag: Tag(request.Tag, errors),
            Facts: Facts(request.Facts, errors) ?? new ToldFacts(),
            There: [.. (request.There ?? []).Where(p => !string.IsNullOrWhiteSpace(p)).Select(p => PersonId.From(p.Trim())).Distinct()]
        );
    }

    private static Severity Severe(int? severity, FieldErrors errors)
    {
        if (severity is >= 1 and <= 5)
            return (Severity)severity;
        errors.Add("severity", "Choose how bad it was, from 1 to 5.");
        return Severity.NoHarm;
    }

    private static string? Text(string field, string? text, FieldErrors errors)
    {
        errors.AtMost(field, text, IncidentRules.TextLongest);
        return string.IsNullOrWhiteSpace(text) ? null : text.Trim();
    }

    private static decimal? Cost(decimal? cost, FieldErrors errors)
    {
        if (cost is < 0 or > IncidentRules.LargestCost)
            errors.Add("cost", "Give an amount of at least 0.");
        return cost is null ? null : Math.Round(cost.Value, 2);
    }

    private static SheetTag? Tag(string? tag, FieldErrors errors)
    {
        if (string.IsNullOrWhiteSpace(tag))
            return null;
        if (Core.Materials.SheetTags.Read(tag) is { } read)
            return read;
        errors.Add("tag", "Write the number on the tag, such as S-0142.");
        return null;
    }

    private static ToldFacts? Facts(FactsRequest? facts, FieldErrors errors)
    {
        if (facts is null)
            return null;
        var unit = errors.Unit(facts.Unit);
        decimal? Mm(string field, string? text)
        {
            if (string.IsNullOrWhiteSpace(text))
                return null;
            var mm = errors.Mm(field, text, unit);
            if (mm is > 0 and <= 500)
                return mm;
            errors.Add(field, "Write a thickness, such as 3 mm or 1/8 in.");
            return null;
        }
        void Within(string field, decimal? value, decimal most)
        {
            if (value is <= 0 || value > most)
                errors.Add(field, $"Give a number above 0, up to {most:0}.");
        }
        Within("facts.powerW", facts.PowerW, 1000);
        Within("facts.speedMmPerS", facts.SpeedMmPerS, 5000);
        Within("facts.passes", facts.Passes, 100);
        if (facts.AirflowPercent is < 0 or > 200)
            errors.Add("facts.airflowPercent", "Give the airflow in percent of what it should be, from 0 to 200.");
        return new ToldFacts(
            SettingsForMm: Mm("facts.settingsFor", facts.SettingsFor),
            MeasuredMm: Mm("facts.measured", facts.Measured),
            FocusSet: facts.FocusSet,
            SomebodyThere: facts.SomebodyThere,
            AirAssistOn: facts.AirAssistOn,
            AirflowPercent: facts.AirflowPercent,
            LidTooSoon: facts.LidTooSoon,
            PowerW: facts.PowerW,
            SpeedMmPerS: facts.SpeedMmPerS,
            Passes: facts.Passes
        );
    }

    private static LawReport? Law(LawRequest? law, FieldErrors errors)
    {
        if (law is null)
            return null;
        errors.AtMost("law.to", law.To, 200);
        errors.AtMost("law.number", law.Number, 100);
        return new LawReport(law.Wanted, law.To?.Trim() ?? "", errors.Day("law.by", law.By), law.Number?.Trim() ?? "");
    }

    /// <summary>A moment with its offset, or as the clock of the house shows it; what comes twice or not at all is never guessed.</summary>
    private static Instant? When(string field, string? text, HouseClock clock, FieldErrors errors)
    {
        if (Typed.Moment(text) is { } moment)
            return moment;
        if (LocalMinutes.Parse(text?.Trim() ?? "") is not { Success: true } local)
            errors.Add(field, "Give the time on the clock of the house, such as 2026-11-24T14:00.");
        else if (clock.Read(local.Value) is LocalReading.Once once)
            return once.At;
        else if (clock.Read(local.Value) is LocalReading.Missing missing)
            errors.Add(field, HouseProblems.LocalMissing.Refuse(null, local.Value, missing.Next.ToString("HH:mm", null)).Text);
        else
            errors.Add(field, "The clocks went back: that time came twice. Give a time before or after that hour.");
        return null;
    }

    private static readonly NodaTime.Text.LocalDateTimePattern LocalMinutes = NodaTime.Text.LocalDateTimePattern.CreateWithInvariantCulture(
        "uuuu-MM-dd'T'HH:mm"
    );
}
