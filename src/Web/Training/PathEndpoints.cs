using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Training;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Training;

/// <param name="Title">What the step is called.</param>
/// <param name="Count">Supervised runs; 0 takes the house rule.</param>
public sealed record PathStepResponse(ModuleKind Kind, string Id, int Count, string Title);

/// <param name="Since">From when the house's own path holds; null for the starting one.</param>
/// <param name="Version">What a change is written against.</param>
/// <param name="Coming">When another one begins that is planned already.</param>
public sealed record PathResponse(
    string Authority,
    string Name,
    string AddOn,
    IReadOnlyList<PathStepResponse> Steps,
    IReadOnlyList<PathStepResponse> Refresher,
    AddOnNeed? Need,
    Instant? Since,
    long Version,
    Instant? Coming
);

/// <param name="Kind">One of the names of a step's kind, in camel case.</param>
public sealed record StepChoice(ModuleKind Kind, string Id, string Title);

/// <param name="Choices">Steps that a path may have here, beside outside certificates.</param>
/// <param name="AddOns">Add-ons to start from that the house does not have yet.</param>
public sealed record PathList(IReadOnlyList<PathResponse> Items, IReadOnlyList<StepChoice> Choices, IReadOnlyList<PathResponse> AddOns);

public sealed record StepRequest(string? Kind = null, string? Id = null, int? Count = null);

/// <param name="Fixture">A fixture, such as rotary.</param>
/// <param name="ThickerThan">A length in any unit, such as “6 mm”.</param>
/// <param name="ForSigning">Whoever signs others off on the machine holds it.</param>
public sealed record NeedRequest(
    string? Fixture = null,
    string? ThickerThan = null,
    IReadOnlyList<string>? MaterialIds = null,
    bool? ForSigning = null
);

/// <param name="Authority">What is changed; for a new add-on its machine, with <paramref name="Version"/> null.</param>
/// <param name="Version">The version it was written against; 0 for a starting path, null for a new add-on.</param>
/// <param name="From">First house day; empty takes now.</param>
public sealed record PathRequest(
    string? Authority = null,
    string? AddOn = null,
    IReadOnlyList<StepRequest>? Steps = null,
    IReadOnlyList<StepRequest>? Refresher = null,
    NeedRequest? Need = null,
    long? Version = null,
    string? From = null,
    string? Reason = null
);

/// <param name="Owing">Who holds it and would have something to read or answer, by the day after which it counts.</param>
public sealed record PathChanged(bool Stored, IReadOnlyList<OwingPerson> Owing);

public sealed record OwingPerson(string Name, IReadOnlyList<string> Titles, Instant CountsUntil);

/// <summary>Paths: which steps lead to what. Read by everybody, changed by stewards.</summary>
public static class PathEndpoints
{
    public static void MapPaths(this IEndpointRouteBuilder app)
    {
        var paths = app.MapGroup("/api/training/paths").WithTags("Training");
        paths.MapGet("/", List).WithName("ListPaths").RequireAuthorization(Policy.SignedIn);
        paths
            .MapPost("/preview", (PathRequest request, Parts parts, CancellationToken cancel) => Change(request, false, parts, cancel))
            .WithName("PreviewPath")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(409);
        paths
            .MapPost("/", (PathRequest request, Parts parts, CancellationToken cancel) => Change(request, true, parts, cancel))
            .WithName("ChangePath")
            .RequireAuthorization(Policy.Steward)
            .ProducesProblem(400)
            .ProducesProblem(409);
    }

    /// <summary>What a change of a path is worked out from.</summary>
    public sealed record Parts(
        PathStore Paths,
        CourseStore Course,
        TrainingStore Training,
        PracticalSheetStore Practicals,
        MaterialStore Materials,
        HouseStore House,
        PeopleStore People,
        CurrentUser User,
        IClock Clock
    );

    private static async Task<Results<Ok<PathList>, ProblemHttpResult>> List(
        PathStore paths,
        CourseStore course,
        PracticalSheetStore practicals,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var all = await paths.All(rules, now, cancel);
        var modules = await course.Modules(cancel);
        var sheets = await practicals.All(cancel);
        var names = await paths.Names(all, cancel);
        string Title(PathStep s) =>
            s.Kind switch
            {
                ModuleKind.Reading or ModuleKind.Quiz => modules.FirstOrDefault(m => m.Id == s.Id)?.Title ?? s.Id,
                ModuleKind.Authority => $"Signed off for {names.GetValueOrDefault(s.Id, s.Id)} first",
                ModuleKind.Outside => s.Id,
                ModuleKind.Induction => "An induction",
                ModuleKind.SupervisedRuns when (s.Count > 0 ? s.Count : rules.SupervisedRuns) is var n => n == 1
                    ? "A supervised run"
                    : $"{n} supervised runs",
                _ => s.Id.Length == 0 ? "Sign-off by a note" : sheets.FirstOrDefault(p => p.Id == s.Id)?.Title ?? s.Id,
            };
        PathStepResponse Step(PathStep s) => new(s.Kind, s.Id, s.Count, Title(s));
        List<StepChoice> choices =
        [
            .. modules.Select(m => new StepChoice(m.Kind, m.Id, m.Title)),
            .. all.Select(p => new StepChoice(ModuleKind.Authority, p.Path.Authority, $"Signed off for {names[p.Path.Authority]} first")),
            new(ModuleKind.Induction, "", "An induction"),
            new(ModuleKind.SupervisedRuns, "", "Supervised runs"),
            .. sheets.Select(s => new StepChoice(ModuleKind.SignOff, s.Id, s.Title)),
            new(ModuleKind.SignOff, "", "Sign-off by a note"),
        ];
        PathResponse Answer(PathNow p) =>
            new(
                Authority: p.Path.Authority,
                Name: names.GetValueOrDefault(p.Path.Authority, p.Path.Name),
                AddOn: p.Path.Name,
                Steps: [.. p.Path.Steps.Select(Step)],
                Refresher: [.. p.Path.Refresher.Select(Step)],
                Need: p.Path.Need,
                Since: p.Since,
                Version: p.Version,
                Coming: p.Coming
            );
        var addOns = (await house.Machines(now, cancel))
            .SelectMany(m => StartingAddOns.For(m.Spec))
            .Where(a => !names.ContainsKey(a.Authority));
        return TypedResults.Ok(
            new PathList([.. all.Select(Answer)], choices, [.. addOns.Select(a => Answer(new PathNow(a, null, 0, null)))])
        );
    }

    private static async Task<Results<Ok<PathChanged>, ProblemHttpResult>> Change(
        PathRequest request,
        bool store,
        Parts parts,
        CancellationToken cancel
    )
    {
        var now = parts.Clock.GetCurrentInstant();
        if (await parts.House.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var errors = new FieldErrors();
        var today = rules.Clock.DateOf(now);
        var day = errors.Day("from", request.From);
        if (day < today)
            errors.Add("from", "A path begins today or later. Leave it empty to begin now.");
        var from = day is { } d && d > today ? rules.Clock.Day(d).Start : now;
        var need = Need(request.Need, errors);
        if (store)
            errors.Reason("reason", request.Reason);
        var authority = request.Version is null
            ? Paths.NewAddOn(request.Authority?.Trim() ?? "", request.AddOn?.Trim() ?? "")
            : request.Authority?.Trim() ?? "";
        var path = new TrainingPath(
            authority,
            request.AddOn?.Trim() ?? "",
            Steps(request.Steps, "steps", errors),
            Steps(request.Refresher, "refresher", errors),
            need
        );
        if (errors.Any)
            return errors.Answer();
        var all = await parts.Paths.All(rules, now, cancel);
        var modules = await parts.Course.Modules(cancel);
        errors.Add(
            Paths.Check(
                path,
                [.. all.Select(p => p.Path).Where(p => p.Authority != path.Authority)],
                modules,
                [.. (await parts.Practicals.All(cancel)).Select(s => s.Id)],
                [.. (await parts.Materials.Shelf(now, cancel)).Materials.Select(m => m.Id)]
            )
        );
        if (errors.Any)
            return errors.Answer();
        if (
            store
            && (
                await parts.Paths.Change(path, request.Version ?? 0, request.Reason!.Trim(), from, parts.User.Id, rules, now, cancel)
            ).Refusal
                is { } refusal
        )
            return Problems.Of(refusal);
        var names = await PeopleNames.All(parts.People, true, parts.Clock, cancel);
        var holders = (await parts.Training.Held(now, null, cancel))
            .Where(c => c.Authority == path.Authority && names.ContainsKey(c.PersonId))
            .ToList();
        var done = await parts.Course.Done([.. holders.Select(h => h.PersonId)], cancel);
        var repeats = await parts.Practicals.Repeats(cancel);
        var owing = new List<OwingPerson>();
        foreach (var held in holders)
        {
            var owed = Theory.Owed(path, held.Since, from, modules, [.. done[held.PersonId]], repeats, rules);
            if (owed.Count > 0)
                owing.Add(new OwingPerson(names[held.PersonId], [.. owed.Select(o => o.Title)], owed.Min(o => o.CountsUntil)));
        }
        return TypedResults.Ok(new PathChanged(store, [.. owing.OrderBy(o => o.Name, StringComparer.Ordinal)]));
    }

    private static List<PathStep> Steps(IReadOnlyList<StepRequest>? steps, string field, FieldErrors errors)
    {
        return
        [
            .. (steps ?? [])
                .OfType<StepRequest>()
                .Select(s => new PathStep(
                    errors.Word<ModuleKind>(field, s.Kind, $"There is no kind of step “{s.Kind}”."),
                    s.Id?.Trim() ?? "",
                    s.Count ?? 0
                )),
        ];
    }

    private static AddOnNeed? Need(NeedRequest? request, FieldErrors errors)
    {
        if (request is null)
            return null;
        decimal? thicker = string.IsNullOrWhiteSpace(request.ThickerThan) ? null : errors.Mm("need", request.ThickerThan, LengthUnit.Mm);
        List<MaterialId> ids = [.. (request.MaterialIds ?? []).OfType<string>().Distinct().Select(MaterialId.From)];
        var need = new AddOnNeed(Texts.NullIfBlank(request.Fixture), thicker, ids.Count > 0 ? ids : null, request.ForSigning ?? false);
        return need == new AddOnNeed() ? null : need;
    }
}
