using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;
using VelvetGate.Core.Station;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Settings;
using VelvetGate.Store.Station;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Station;

/// <summary>The session at a machine. A page is a view: any number may look, and an act on an older view is refused.</summary>
public static class StationEndpoints
{
    public static void MapStations(this IEndpointRouteBuilder app)
    {
        var stations = app.MapGroup("/api/stations/{machine}").WithTags("Station").RequireAuthorization(Policy.SignedIn);
        stations.MapGet("", Look).WithName("Station").ProducesProblem(404);
        stations.MapPost("/tap", Tap).WithName("TapIn").ProducesProblem(400).ProducesProblem(404).ProducesProblem(422);
        stations
            .MapPost("/act", Act)
            .WithName("StationAct")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422);
    }

    private static async Task<Results<Ok<StationResponse>, ProblemHttpResult>> Look(
        string machine,
        StationRoomViews views,
        IClock clock,
        CancellationToken cancel
    ) =>
        await views.Of(machine, clock.GetCurrentInstant(), cancel) is { } station
            ? TypedResults.Ok(station)
            : Problems.NotFound($"machine as “{machine}”");

    private static async Task<Results<Ok<StationResponse>, ProblemHttpResult>> Tap(
        string machine,
        TapRequest request,
        CurrentUser user,
        HouseStore house,
        BookingStore bookings,
        StationStore stations,
        StationRoomViews views,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        if (errors.Any)
            return errors.Answer();
        var now = clock.GetCurrentInstant();
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == machine) is not { Spec: var spec })
            return Problems.NotFound($"machine as “{machine}”");
        var mine = (await bookings.Between(now, now + Duration.FromHours(24), user.Id, cancel))
            .Where(b => b.MachineId == machine && b.PersonId == user.Id && b.End > now)
            .OrderBy(b => b.Start)
            .FirstOrDefault();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        if (StationDoor.MayTapIn(spec.Name, mine?.Start, rules, now) is { } early)
            return Problems.Of(early);
        var session = await stations.TapIn(id, mine!, now, cancel);
        return session.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok((await views.Of(machine, now, cancel))!);
    }

    private static async Task<Results<Ok<StationResponse>, ProblemHttpResult>> Act(
        string machine,
        ActRequest request,
        CurrentUser user,
        StationStore stations,
        SettingStore settings,
        StationRoomViews views,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var errors = new FieldErrors();
        var deed = errors.Word<Deed>("act", request.Act, "Say what was done.");
        var id = errors.Id("id", request.Id);
        if (id is null)
            errors.Add("id", "Send a random UUID of your own.");
        var sessionId = errors.Id("session", request.Session);
        if (sessionId is null || request.Version is null)
            errors.Add("session", "Say which session, and its version.");
        var act = Read(deed, id ?? Guid.Empty, request, errors);
        if (errors.Any)
            return errors.Answer();
        var session = await stations.Open(machine, cancel);
        if (StationDoor.MayAct(session, sessionId, deed, user.Id, await user.Is(Role.Steward)) is { } not)
            return Problems.Of(not);
        if (deed == Deed.Settings && errors.Id("settingId", request.SettingId) is { } chosen)
            act = act with { Set = await SetOf(settings, session!, chosen, now, cancel) };
        var done = await stations.Do(session!.Id, id!.Value, request.Version!.Value, act, user.Id, now, cancel);
        return done.Refusal is { } refusal ? Problems.Of(refusal) : TypedResults.Ok((await views.Of(machine, now, cancel))!);
    }

    /// <summary>The values of an entry of the library for this machine and material; null where there is none.</summary>
    private static async Task<SetTo?> SetOf(
        SettingStore settings,
        StationSession session,
        Guid id,
        Instant now,
        CancellationToken cancel
    ) =>
        (await settings.Of(session.On.MaterialId, now, cancel)).FirstOrDefault(s => s.Id == id && s.Values.MachineId == session.MachineId)
            is { Values: var v }
            ? new SetTo(id, v.PowerPercent, v.SpeedMmS, v.Passes)
            : null;

    private static StationAct Read(Deed deed, Guid id, ActRequest r, FieldErrors errors)
    {
        var unit = errors.Unit(r.Unit);
        errors.AtMost("note", r.Note, RunLog.SettingsLongest);
        return new StationAct(deed)
        {
            Item = r.Item,
            Ok = r.Ok ?? false,
            Note = r.Note,
            Tag = Texts.NullIfBlank(r.Tag) is { } tag ? Core.Materials.SheetTags.Read(tag) ?? tag.ToUpperInvariant() : (SheetTag?)null,
            ThicknessMm = deed == Deed.Sheet ? [.. (r.Thickness ?? []).Select((t, i) => errors.Mm($"thickness[{i}]", t, unit))] : [],
            Method = r.Method,
            GaugeBack = r.GaugeBack ?? false,
            Set = r.Values is { PowerPercent: { } power, SpeedMmPerS: { } speed, Passes: { } passes }
                ? new SetTo(null, power, speed, passes)
                : null,
            Seen = r.Seen ?? false,
            Assist = r.Assist ?? false,
            LidShut = r.LidShut ?? false,
            Height = r.Height ?? false,
            Material = r.Material ?? false,
            Stay = r.Stay ?? false,
            Why = deed == Deed.Stop ? errors.Word<StopWhy>("why", r.Why ?? "ended", "Say why the beam went off.") : default,
            Result = deed == Deed.Outcome ? errors.Word<PartResult>("result", r.Result, "Say how the part came out.") : default,
            Moved = r.Moved ?? false,
            Next = deed == Deed.Next ? errors.Word<NextWhat>("what", r.What, "Say what comes next.") : default,
            RunId = id,
        };
    }
}
