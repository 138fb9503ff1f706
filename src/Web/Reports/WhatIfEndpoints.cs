using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Threading.Channels;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Reports;
using VelvetGate.Store.House;
using VelvetGate.Store.Reports;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Reports;

/// <param name="Rules">House rules that would be otherwise, by key as on the form; the rest stays.</param>
/// <param name="From">First day on which was asked; left out, eight weeks. So too <paramref name="To"/>, the last.</param>
public sealed record WhatIfRequest(JsonElement? Rules = null, string? From = null, string? To = null);

/// <param name="Rules">What differs from the rules that hold.</param>
public sealed record WhatIfResponse(string From, string To, IReadOnlyList<RuleDifference> Rules, WhatIfResult Result);

/// <param name="Of">How many there are to play.</param>
/// <param name="Response">With the last step.</param>
public sealed record WhatIfStep(int Done, int Of, WhatIfResponse? Response);

/// <summary>Other house rules, tried on what was asked for in the weeks before. Calling off the request calls off the play.</summary>
public static class WhatIfEndpoints
{
    /// <summary>So many a server plays without a pause for anybody else.</summary>
    private const int MostAsked = 20_000;

    private sealed record Prepared(
        HouseRules Now,
        HouseRules Changed,
        ReportDays Days,
        IReadOnlyList<RuleDifference> Differences,
        IReadOnlyList<AskedTime> Asked,
        IReadOnlyList<ClosedTime> Closed,
        IReadOnlyDictionary<MachineId, MachineSpec> Machines
    );

    public static void MapWhatIf(this IEndpointRouteBuilder app)
    {
        var whatIf = app.MapGroup("/api/use/what-if").WithTags("Reports").RequireAuthorization(Policy.Calendar);
        whatIf.MapPost("", Whole).WithName("WhatIf").ProducesProblem(400).ProducesProblem(422);
        whatIf
            .MapPost("/steps", Steps)
            .WithName("WhatIfSteps")
            .Produces<WhatIfStep>(200, "text/event-stream")
            .ProducesProblem(400)
            .ProducesProblem(422);
    }

    private static async Task<Results<Ok<WhatIfResponse>, ProblemHttpResult>> Whole(
        WhatIfRequest request,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (prepared, problem) = await Prepare(request, use, house, clock, cancel);
        return prepared is null ? problem! : TypedResults.Ok(await Task.Run(() => Play(prepared, _ => { }, cancel), cancel));
    }

    /// <summary>The same, telling how far it is: server-sent events.</summary>
    private static async Task<IResult> Steps(
        WhatIfRequest request,
        HttpContext http,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (prepared, problem) = await Prepare(request, use, house, clock, cancel);
        if (prepared is null)
            return problem!;
        http.Response.Headers["X-Accel-Buffering"] = "no";
        return TypedResults.ServerSentEvents(Stream(prepared, cancel));
    }

    private static async IAsyncEnumerable<SseItem<WhatIfStep>> Stream(Prepared prepared, [EnumeratorCancellation] CancellationToken cancel)
    {
        // Of two plays, one after the other. Who reads slowly misses steps, not the end.
        var all = 2 * prepared.Asked.Count;
        var steps = Channel.CreateBounded<int>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        var play = Task.Run(
            () =>
            {
                try
                {
                    return Play(prepared, done => steps.Writer.TryWrite(done), cancel);
                }
                finally
                {
                    steps.Writer.Complete();
                }
            },
            cancel
        );
        await foreach (var done in steps.Reader.ReadAllAsync(cancel))
            yield return new SseItem<WhatIfStep>(new WhatIfStep(done, all, null), "step");
        yield return new SseItem<WhatIfStep>(new WhatIfStep(all, all, await play), "result");
    }

    private static WhatIfResponse Play(Prepared p, Action<int> told, CancellationToken cancel)
    {
        var now = WhatIf.Play(p.Asked, p.Now, p.Machines, p.Closed, told, cancel);
        var changed = WhatIf.Play(p.Asked, p.Changed, p.Machines, p.Closed, done => told(p.Asked.Count + done), cancel);
        return new WhatIfResponse(
            p.Days.First.ToString("uuuu-MM-dd", null),
            p.Days.Last.ToString("uuuu-MM-dd", null),
            p.Differences,
            WhatIf.Compare(now, changed, p.Changed)
        );
    }

    private static async Task<(Prepared? Prepared, ProblemHttpResult? Problem)> Prepare(
        WhatIfRequest request,
        UseStore use,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return (null, Problems.NoRules());
        var changes = request.Rules is { ValueKind: JsonValueKind.Object } given ? given : default;
        if (WhatIf.MayTry(changes.ValueKind == JsonValueKind.Object, 1) is { } unnamed)
            return (null, Problems.Of(unnamed));
        var errors = new FieldErrors();
        var read = SheetChecks.With(rules, changes);
        errors.Add(read.Errors);
        if (errors.Any)
            return (null, errors.Answer());
        var differences = SheetChecks.Compare(rules, read.Value!);
        if (WhatIf.MayTry(true, differences.Count) is { } same)
            return (null, Problems.Of(same));
        var (days, problem) = UseEndpoints.Days(request.From, request.To, rules, now);
        if (days is null)
            return (null, problem);
        var machines = (await house.Machines(now, cancel)).ToDictionary(m => m.Spec.Id, m => m.Spec);
        var (asked, closed) = await use.Asked(days.Span(rules.Clock), cancel);
        if (asked.Count > MostAsked)
            return (null, Problems.Of(ReportsProblems.WhatIfMany.Refuse(null, MostAsked)));
        return (
            new Prepared(
                Now: rules,
                Changed: read.Value!,
                Days: days,
                Differences: differences,
                Asked: [.. asked.Where(a => machines.ContainsKey(a.MachineId))],
                Closed: closed,
                Machines: machines
            ),
            null
        );
    }
}
