using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Gate;

/// <param name="Posts">Always seven, in order.</param>
/// <param name="Soonest">Null when it is open as asked, or when nothing would open it.</param>
/// <param name="MayBeLifted">A steward may lift all that reads ask.</param>
/// <param name="Handling">What the house’s rulings say of handling each material: how to hold it, what to clean after.</param>
public sealed record GateResponse(
    Verdict Verdict,
    IReadOnlyList<PostResponse> Posts,
    AskedResponse Asked,
    LengthResponse Length,
    SoonestResponse? Soonest,
    IReadOnlyList<HandlingResponse> Handling,
    bool MayBeLifted
);

/// <param name="Item">Index of the item.</param>
public sealed record HandlingResponse(int Item, string Material, string Text);

public sealed record PostResponse(Post Post, Standing Standing, IReadOnlyList<ReasonResponse> Reasons, string Fact);

/// <param name="Settings">The house rules that say so, with what they say.</param>
public sealed record ReasonResponse(
    string Code,
    Standing Standing,
    string Text,
    string Source,
    int? Item,
    RemedyResponse? Remedy,
    IReadOnlyList<RuleSays> Settings
);

/// <param name="By">Who does it.</param>
/// <param name="Page">Where it is done or seen, with <c>{person}</c> and <c>{drawing}</c> of the question.</param>
public sealed record RemedyResponse(string Action, string Text, RemedyBy? By, string? Page, string? PageWords)
{
    /// <summary>A decision of an earlier version may name what there is no more.</summary>
    internal static RemedyResponse Of(Remedy remedy)
    {
        var action = Remedies.Find(remedy.Action);
        return new RemedyResponse(remedy.Action, remedy.Text, action?.By, action?.Page, action?.PageWords);
    }
}

public sealed record AskedResponse(PersonId MemberId, MachineId MachineId, Instant Start, int Minutes);

/// <param name="SlotMinutes">What to book: the needed minutes rounded up to slots.</param>
public sealed record LengthResponse(IReadOnlyList<BookingPart> Parts, decimal NeededMinutes, int SlotMinutes);

public sealed record SoonestResponse(IReadOnlyList<StepResponse> Steps, Instant Start, int Minutes, Verdict Verdict);

public sealed record StepResponse(string Action, string Text, Instant? At, Post? Opens);

public sealed record StewardRequestMade(Guid Id);

/// <summary>A question to the stewards, with what each post said when it was put.</summary>
/// <param name="Name">Whole name: staff and the person only see it.</param>
/// <param name="Outcome">Verdict, and each post's standing and codes at that time.</param>
/// <param name="State">waiting, lifted, refused, takenBack, withdrawn or expired.</param>
/// <param name="AnswerBy">Unanswered until then it is refused.</param>
/// <param name="Answer">The steward's written reason.</param>
/// <param name="Booked">True once a booking uses the lift.</param>
public sealed record StewardRequestResponse(
    Guid Id,
    PersonId MemberId,
    string Name,
    bool Mine,
    Instant At,
    string? Note,
    GateQuestion Ask,
    System.Text.Json.JsonElement Outcome,
    string State,
    Instant AnswerBy,
    Instant? AnsweredAt,
    string? Answer,
    bool Booked
);

public sealed record StewardRequestState(string State);

public sealed record WaitingList(IReadOnlyList<StewardRequestResponse> Items);

public static class GateEndpoints
{
    public static void MapGate(this IEndpointRouteBuilder app)
    {
        var gate = app.MapGroup("/api").WithTags("Gate").RequireAuthorization(Policy.SignedIn);
        gate.MapPost("/gate/ask", AskGate).WithName("AskGate").ProducesProblem(400).ProducesProblem(403);
        gate.MapPost("/asks", AskSteward).WithName("AskSteward").ProducesProblem(400).ProducesProblem(403).ProducesProblem(409);
        gate.MapGet("/asks", Waiting).WithName("ListAsks");
        gate.MapGet("/asks/{id:guid}", One).WithName("FindAsk").ProducesProblem(404);
        MapAnswer("lift", StewardReply.Lift, "LiftAsk");
        MapAnswer("refuse", StewardReply.Refuse, "RefuseAsk");
        MapAnswer("take-back", StewardReply.TakeBack, "TakeBackLift");
        gate.MapPost("/asks/{id:guid}/withdraw", Withdraw).WithName("WithdrawAsk").ProducesProblem(404);

        void MapAnswer(string word, StewardReply kind, string name) =>
            gate.MapPost(
                    $"/asks/{{id:guid}}/{word}",
                    (Guid id, ReasonRequest request, CurrentUser user, StewardRequestStore asks, IClock clock, CancellationToken cancel) =>
                        Answer(id, kind, request, user, asks, clock, cancel)
                )
                .WithName(name)
                .RequireAuthorization(Policy.Answers)
                .ProducesProblem(400)
                .ProducesProblem(403)
                .ProducesProblem(404)
                .ProducesProblem(409);
    }

    private static async Task<Results<Ok<GateResponse>, ProblemHttpResult>> AskGate(
        GateQuestionRequest request,
        CurrentUser user,
        FactLoader facts,
        IClock clock,
        bool? soonest,
        CancellationToken cancel
    )
    {
        var loaded = await Load(request, user, facts, clock, cancel, ahead: soonest != false);
        if (loaded.Problem is { } problem)
            return problem;
        var (ask, known) = loaded.Asked!.Value;
        var decision = Core.Gating.Gate.Decide(ask, known);
        Metering.Decided(decision.Verdict, "asked");
        var way = decision.Verdict <= Verdict.Conditions || soonest == false ? null : SoonestWay.Find(ask, known);
        return TypedResults.Ok(Answer(ask, known, decision, way));
    }

    private static async Task<Results<Created<StewardRequestMade>, ProblemHttpResult>> AskSteward(
        GateQuestionRequest request,
        CurrentUser user,
        FactLoader facts,
        StewardRequestStore asks,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (request.Note is { Length: > 2000 })
            return Problems.Of(GateProblems.AskNote.Refuse("note"));
        var loaded = await Load(request, user, facts, clock, cancel);
        if (loaded.Problem is { } problem)
            return problem;
        var (ask, known) = loaded.Asked!.Value;
        var verdict = Core.Gating.Gate.Decide(ask, known).Verdict;
        if (verdict != Verdict.Ask)
            return Problems.Of((verdict == Verdict.Shut ? GateProblems.AskOfAShutGate : GateProblems.AskNotNeeded).Refuse());
        var id = await asks.Add(ask, known, request.Note, clock.GetCurrentInstant(), cancel);
        return TypedResults.Created($"/api/asks/{id}", new StewardRequestMade(id));
    }

    /// <summary>Staff see what waits; others their own asks, answered ones too.</summary>
    private static async Task<Ok<WaitingList>> Waiting(CurrentUser user, StewardRequestStore asks, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var found = await user.Is(Role.Steward, Role.Trainer, Role.Countersigner)
            ? await asks.Waiting(now, cancel)
            : await asks.Of(user.Id, now, cancel);
        return TypedResults.Ok(new WaitingList([.. found.Select(a => AnswerOf(a, user.Id))]));
    }

    private static async Task<Results<Ok<StewardRequestResponse>, ProblemHttpResult>> One(
        Guid id,
        CurrentUser user,
        StewardRequestStore asks,
        CancellationToken cancel
    )
    {
        var ask = await asks.Find(id, cancel);
        return ask is not null && (ask.PersonId == user.Id || await user.Is(Role.Steward, Role.Trainer, Role.Countersigner))
            ? TypedResults.Ok(AnswerOf(ask, user.Id))
            : Problems.NotFound("ask");
    }

    private static StewardRequestResponse AnswerOf(StewardRequest a, PersonId asker) =>
        new(
            Id: a.Id,
            MemberId: a.PersonId,
            Name: $"{a.GivenName} {a.FamilyName}",
            Mine: a.PersonId == asker,
            At: a.At,
            Note: a.Note,
            Ask: GateJson.Read<GateQuestion>(a.Ask),
            Outcome: System.Text.Json.JsonDocument.Parse(a.Outcome).RootElement,
            State: a.State,
            AnswerBy: StewardRequests.Deadline(a.Start),
            AnsweredAt: a.AnsweredAt,
            Answer: a.Answer,
            Booked: a.Booked
        );

    private static async Task<Results<Ok<StewardRequestState>, ProblemHttpResult>> Answer(
        Guid id,
        StewardReply kind,
        ReasonRequest request,
        CurrentUser user,
        StewardRequestStore asks,
        IClock clock,
        CancellationToken cancel
    )
    {
        var answered = await asks.Answer(
            id,
            kind,
            user.Id,
            await user.Is(Role.Steward),
            await user.Is(Role.Countersigner),
            request.Reason,
            clock.GetCurrentInstant(),
            cancel
        );
        var result = answered;
        return result.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok(new StewardRequestState(result.Value));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Withdraw(
        Guid id,
        CurrentUser user,
        StewardRequestStore asks,
        IClock clock,
        CancellationToken cancel
    ) =>
        await asks.Withdraw(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("request of yours that waits");

    /// <summary>Reads the ask, holds it against who asks, loads the facts, and fills in the minutes where they were left out.</summary>
    internal static async Task<((GateQuestion Ask, GateFacts Facts)? Asked, ProblemHttpResult? Problem)> Load(
        GateQuestionRequest request,
        CurrentUser user,
        FactLoader facts,
        IClock clock,
        CancellationToken cancel,
        bool ahead = false
    )
    {
        var errors = new FieldErrors();
        var now = clock.GetCurrentInstant();
        if (GateQuestionReading.Read(request, user.Id, now, errors) is not { } ask)
            return (null, errors.Answer());
        if (StewardRequests.MayAskFor(ask.MemberId, user.Id, await user.Is(Role.Steward, Role.Trainer)) is { } others)
            return (null, Problems.Of(others));
        var loaded = await facts.Load(ask, now, null, user.Id, cancel, ahead: ahead ? SoonestWay.Until(ask, now) : null);
        if (loaded.Refusal is { } refusal)
            return (null, Problems.Of(refusal));
        if (ask.Minutes == 0)
            ask = ask with { Minutes = JobLength.Of(ask, loaded.Value).SlotMinutes };
        return ((ask, loaded.Value), null);
    }

    internal static GateResponse Answer(GateQuestion ask, GateFacts facts, Decision decision, Soonest? way) =>
        new(
            Verdict: decision.Verdict,
            Posts: Posts(decision, facts.Rules),
            Asked: new AskedResponse(ask.MemberId, ask.MachineId, ask.Start, ask.Minutes),
            Length: new LengthResponse(decision.Length.FilledTo(ask.Minutes), decision.Length.NeededMinutes, decision.Length.SlotMinutes),
            Soonest: way is null
                ? null
                : new SoonestResponse(
                    [.. way.Steps.Select(s => new StepResponse(s.Action, s.Text, s.At, s.Opens))],
                    way.Start,
                    way.Minutes,
                    way.Verdict
                ),
            Handling: [.. Core.Gating.Handling.Of(ask, facts).Select(h => new HandlingResponse(h.Item, h.Material, h.Text))],
            MayBeLifted: StewardRequests.ToLift(decision).IsOk
        );

    internal static IReadOnlyList<PostResponse> Posts(Decision decision, HouseRules rules)
    {
        var says = Says(decision.Reasons, rules);
        return [.. decision.Posts.Select(p => new PostResponse(p.Post, p.Standing, [.. p.Reasons.Select(r => Reason(r, says))], p.Fact))];
    }

    internal static IReadOnlyList<ReasonResponse> Reasons(IReadOnlyList<Reason> reasons, HouseRules rules)
    {
        var says = Says(reasons, rules);
        return [.. reasons.Select(r => Reason(r, says))];
    }

    private static ReasonResponse Reason(Reason r, Dictionary<string, RuleSays> says) =>
        new(
            Code: r.Code,
            Standing: r.Standing,
            Text: r.Text,
            Source: r.Source,
            Item: r.Item,
            Remedy: r.Remedy is { } m ? RemedyResponse.Of(m) : null,
            Settings: [.. r.Settings.Select(s => says[s])]
        );

    private static Dictionary<string, RuleSays> Says(IEnumerable<Reason> reasons, HouseRules rules) =>
        SheetChecks
            .Says([.. reasons.SelectMany(r => r.Settings).Distinct()], rules)
            .ToDictionary(r => r.Key, StringComparer.OrdinalIgnoreCase);
}
