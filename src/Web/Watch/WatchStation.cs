using System.Globalization;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Station;
using VelvetGate.Store.Station;

namespace VelvetGate.Web.Watch;

/// <summary>What happens at a machine now.</summary>
/// <param name="Name">Who is tapped in, as the one who looks may see it; null where nobody is.</param>
/// <param name="Step">How far they are.</param>
/// <param name="Beam">The relay lets the beam on, or without a controller a run was started and not ended.</param>
/// <param name="PressBy">Pressed by then, or attention lapses; null while no beam runs.</param>
/// <param name="EndsAbout">Of the run, as estimated.</param>
/// <param name="LidUntil">When the lid may be opened at the earliest.</param>
/// <param name="Held">Why nothing goes on until somebody has looked.</param>
/// <param name="Silent">There is a controller, and nothing was read for ten seconds.</param>
/// <param name="Read">In a line; null without a controller.</param>
/// <param name="Warnings">Readings that are not good.</param>
/// <param name="LeftOpen">What the session before left undone.</param>
public sealed record WatchStation(
    string? Name,
    StationStep? Step,
    Instant? Since,
    bool Beam,
    Instant? PressBy,
    Instant? EndsAbout,
    Instant? LidUntil,
    string? Held,
    bool Silent,
    string? Read,
    IReadOnlyList<string> Warnings,
    IReadOnlyList<string> LeftOpen
)
{
    internal static WatchStation Of(StationNow now, MachineSpec machine, bool whole, Instant at)
    {
        var (session, live) = (now.Session, now.Live);
        var readings = live?.Sensors is { } sensors ? ReadingRules.Of(machine, sensors.Read(session is { FanMeant: true })) : [];
        var run = session is { Beam: true } ? session.Run : null;
        return new WatchStation(
            Name: session is null ? null : PersonName.For(now.GivenName!, now.FamilyName!, Ages.On(now.BirthDate, at), whole),
            Step: session?.Step,
            Since: session?.TappedIn,
            Beam: live?.Beam ?? session is { Beam: true },
            PressBy: run?.Deadline,
            EndsAbout: run?.Start + (run is null ? null : Duration.FromSeconds((run.LowSeconds + run.HighSeconds) / 2)),
            LidUntil: session is { Step: StationStep.Wait } ? session.Lid?.Until : null,
            Held: session?.Held,
            Silent: live?.IsSilent(at) ?? false,
            Read: live is null
                ? null
                : string.Join(
                    ", ",
                    readings.Where(r => r.Value is not null).Select(r => $"{r.What.ToLowerInvariant()} {Say(r.Value!.Value)} {r.Unit}")
                ),
            Warnings: [.. readings.Where(r => r.Code is not null).Select(r => r.Says)],
            LeftOpen: session is null ? now.LeftOpen : []
        );
    }

    private static string Say(decimal value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
