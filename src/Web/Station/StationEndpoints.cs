using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
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
        var stations = app.MapGroup("/api/stations/{machine}")
            .WithTags("Station")
            .RequireAuthorization(at => at.AddRequirements(new AtMachineRequirement()));
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
        stations
            .MapPost("/stop", Stop)
            .WithName("StopBeam")
            .AllowAnonymous()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422);
    }

    /// <summary>How long a screen waits for the controller’s own word that the beam is off.</summary>
    private static readonly TimeSpan WordWithin = TimeSpan.FromSeconds(1);

    /// <summary>The beam goes off first; who it was and why is asked after.</summary>
    private static async Task<Results<Ok<StoppedResponse>, ProblemHttpResult>> Stop(
        string machine,
        StopRequest request,
        CurrentUser user,
        HouseStore house,
        StationStore stations,
        ControllerLink link,
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
        var live = await stations.Live(spec.Id, cancel);
        // The controller hears it before anything is written down.
        await link.Drop(spec.Id, OffWhy.Stop, cancel);
        // Without a controller this stops nothing, and says so: the run goes on until somebody has pressed the machine’s own stop.
        if (await stations.Open(machine, cancel) is { Beam: true, Controlled: true } session)
            await stations.Do(session.Id, id, session.Version, new StationAct(Deed.Stop), user.IdOrNull, now, cancel);
        var seen = live is null || live.IsSilent(now) ? null : await SeenOff(stations, spec.Id, cancel);
        return TypedResults.Ok(new StoppedResponse(seen, StationWords.Stopped(spec.Name, seen, (await house.Rules(now, cancel))?.Clock)));
    }

    /// <returns>When the relay went off; null where nobody says so in time.</returns>
    private static async Task<Instant?> SeenOff(StationStore stations, MachineId machine, CancellationToken cancel)
    {
        var asked = TimeProvider.System.GetTimestamp();
        while (TimeProvider.System.GetElapsedTime(asked) < WordWithin)
        {
            if (await stations.Live(machine, cancel) is { Beam: false, RelayAt: { } at })
                return at;
            await Task.Delay(20, cancel);
        }
        return null;
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

    /// <summary>One’s own sign-in, or at a screen of the machine a fob or a tap-in code.</summary>
    private static async Task<Results<Ok<StationResponse>, ProblemHttpResult>> Tap(
        string machine,
        TapRequest request,
        HttpContext http,
        CurrentUser user,
        StationScreens screens,
        StationTaps taps,
        StationRoomViews views,
        SignInGuard guard,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var id = errors.Id("id", request.Id) ?? Guid.NewGuid();
        if (errors.Any)
            return errors.Answer();
        var (fob, code, pin) = (Texts.NullIfBlank(request.Fob), Texts.NullIfBlank(request.Code), Texts.NullIfBlank(request.Pin));
        var chosen = errors.Id("booking", request.Booking);
        if (errors.Any)
            return errors.Answer();
        Refusal? refusal;
        if (chosen is { } booking)
            refusal = await taps.Choose(machine, booking, id, user.IdOrNull, cancel);
        else if (Fobs.MayTap(fob ?? code ?? pin, user.IdOrNull, await screens.StandsHere() || await user.Is(Role.Steward)) is { } not)
            refusal = not;
        else if (fob is null && code is null && pin is null)
            refusal = await taps.Tap(machine, user.Id, id, cancel);
        else
        {
            var guessed = $"station:{machine}";
            if (await guard.ClosedUntil(http, guessed, cancel) is { } until)
                return SignInEndpoints.TooMany(http, until);
            refusal =
                fob is not null ? await taps.Fob(machine, fob, pin, id, cancel)
                : code is not null ? await taps.Code(machine, code, id, cancel)
                : await taps.Pin(machine, pin!, id, cancel);
            if (Fobs.IsGuess(refusal))
                await guard.Failed(http, guessed, cancel);
            else if (refusal?.Problem != StationProblems.PinWanted)
                await guard.Unlock(guessed, cancel);
        }
        return refusal is not null ? Problems.Of(refusal)
            : await views.Of(machine, clock.GetCurrentInstant(), cancel) is { } station ? TypedResults.Ok(station)
            : Problems.NotFound($"machine as “{machine}”");
    }

    private static async Task<Results<Ok<StationResponse>, ProblemHttpResult>> Act(
        string machine,
        ActRequest request,
        CurrentUser user,
        StationScreens screens,
        StationStore stations,
        SettingStore settings,
        StationRoomViews views,
        ControllerLink link,
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
        // A screen at the machine does what the person does who is tapped in there.
        var by = user.IdOrNull ?? (await screens.StandsHere() ? session?.Person : null);
        var steward = await user.Is(Role.Steward) || session?.BesideAt(now) is { Steward: true };
        if (StationDoor.MayAct(session, sessionId, deed, by, await user.Is(Role.Steward)) is { } not)
            return Problems.Of(not);
        act = act with { Steward = steward, AtScreen = await screens.StandsHere() };
        if (deed == Deed.Stop && session!.Controlled)
            await link.Drop(session.MachineId, OffWhy.Stop, cancel);
        if (deed == Deed.Settings && errors.Id("settingId", request.SettingId) is { } chosen)
            act = act with { Set = await SetOf(settings, session!, chosen, now, cancel) };
        var done = await stations.Do(session!.Id, id!.Value, request.Version!.Value, act, by, now, cancel);
        if (done.Refusal is { } refusal)
            return Problems.Of(refusal);
        if (deed == Deed.Pause)
            await link.Drop(session.MachineId, OffWhy.Pause, cancel);
        if (done.Value is { Controlled: true, Beam: true } && deed is Deed.Start or Deed.Press or Deed.Look or Deed.Resume)
            await link.Ask(session.MachineId, cancel);
        return TypedResults.Ok((await views.Of(machine, now, cancel))!);
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

    private static StopWhy? Why(ActRequest r, FieldErrors errors) =>
        Texts.NullIfBlank(r.Why) is { } why ? errors.Word<StopWhy>("why", why, "Say why the beam went off.") : null;

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
            Why = deed == Deed.Stop ? Why(r, errors) : null,
            Result = deed == Deed.Outcome ? errors.Word<PartResult>("result", r.Result, "Say how the part came out.") : default,
            Code = Texts.NullIfBlank(r.Code) ?? "",
            Moved = r.Moved ?? false,
            Next = deed == Deed.Next ? errors.Word<NextWhat>("what", r.What, "Say what comes next.") : default,
            RunId = id,
        };
    }
}
