using System.Globalization;
using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Machines;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;

namespace VelvetGate.Core.Watch;

/// <summary>One thing that a room has waiting.</summary>
/// <param name="Title">A name, an authority, an outcome: as its kind says.</param>
/// <param name="Details">What somebody wrote about it.</param>
/// <param name="Body">JSON, as its kind says.</param>
/// <param name="At">When it starts to hurt, or since when it waits.</param>
/// <param name="OfKind">How many of the kind wait in all: so many more than are given are said in a line.</param>
public sealed record StewardTask(
    string Kind,
    string Id,
    PersonId? PersonId,
    string? GivenName,
    string? FamilyName,
    LocalDate? BirthDate,
    MachineId? MachineId,
    MaterialId? MaterialId,
    string? Title,
    string? Details,
    string? Body,
    Instant? At,
    int OfKind
)
{
    public NeedKind NeedKind => Enum.Parse<NeedKind>(Kind, ignoreCase: true);
}

/// <summary>Words for what waits in the rooms, the most pressing first.</summary>
/// <param name="unit">Of the lengths in the words.</param>
public sealed class WatchList(
    IReadOnlyDictionary<MachineId, MachineSpec> machines,
    IReadOnlyDictionary<MaterialId, string> materials,
    HouseRules rules,
    LengthUnit unit,
    Instant now
)
{
    /// <summary>So many of a kind have a line each; the others have one together.</summary>
    public const int MostOfAKind = 25;

    public IReadOnlyList<Need> Of(IReadOnlyList<StewardTask> tasks, IEnumerable<Need> more)
    {
        var needs = new List<Need>(more);
        foreach (var kind in tasks.GroupBy(t => t.NeedKind))
        {
            var shown = kind.Key switch
            {
                NeedKind.CertificateReview => [NeedsAHand.Review(kind.First().OfKind, kind.Min(t => t.At) ?? now)],
                NeedKind.RulingReview => [.. NeedsAHand.Reviews([.. kind.Select(Overdue)], kind.First().OfKind)],
                _ => kind.Where(IsHere).Select(Need).ToList(),
            };
            needs.AddRange(shown);
            var hidden = kind.First().OfKind - kind.Count();
            if (hidden > 0 && shown.Count > 0 && kind.Key is not (NeedKind.CertificateReview or NeedKind.RulingReview))
                needs.Add(NeedsAHand.More(shown[^1], hidden));
        }
        return NeedsAHand.Order(needs);
    }

    private Need Need(StewardTask t) =>
        t.NeedKind switch
        {
            NeedKind.MachineStopped => NeedsAHand.Stopped(Machine(t), t.Details ?? "reason erased", t.Id),
            NeedKind.AskWaiting => NeedsAHand.Asked(
                PersonName.For(t.GivenName!, t.FamilyName!, Ages.On(t.BirthDate, now), whole: true),
                $"{Asked(t.Body!)} on {Machine(t)}, {Moment(t)}.{(t.Details is { } note ? $" {note}" : "")}",
                t.At!.Value,
                now,
                t.Id
            ),
            NeedKind.BookingAtRisk => NeedsAHand.AtRisk(
                Who(t),
                $"{Machine(t)}, {Moment(t)}. {string.Join(" ", GateJson.Read<List<RiskReason>>(t.Body ?? "[]").Select(r => r.Text))}",
                t.At!.Value,
                now,
                t.Id
            ),
            NeedKind.CertificateLapsing => NeedsAHand.Lapsing(Who(t), Authority(t.Title!), t.At!.Value, now, t.PersonId!.Value),
            NeedKind.NoShow => NeedsAHand.NoShow(
                Who(t),
                $"{Machine(t)} since {rules.Clock.At(t.At!.Value).ToString("HH:mm", CultureInfo.InvariantCulture)}",
                t.At!.Value,
                t.Id
            ),
            NeedKind.FoundingUnconfirmed => NeedsAHand.Unconfirmed(Who(t), Machine(t), t.At!.Value, t.Id),
            NeedKind.KitEnding => NeedsAHand.Kit(t.Title!, t.At!.Value, now, t.Id),
            NeedKind.RulingProposed => NeedsAHand.Proposed(
                Who(t),
                materials.GetValueOrDefault(t.MaterialId!.Value, t.MaterialId.Value.Value),
                Instant.Max(t.At!.Value, now),
                t.MaterialId.Value
            ),
            NeedKind.RulingRequested => NeedsAHand.Requested(Who(t), t.Title!, t.At!.Value),
            NeedKind.AppealWaiting => NeedsAHand.Appeal(Who(t), t.At!.Value, t.PersonId!.Value),
            NeedKind.RunToLook => NeedsAHand.RunToLook(
                Who(t),
                Machine(t),
                t.Title == "flame",
                RunVerdict.Why(t.Title == "flame", GateJson.Read<List<string>>(t.Body ?? "[]")),
                t.At!.Value,
                t.Id
            ),
            NeedKind.WorkParked => NeedsAHand.Parked(t.Details ?? "", t.At!.Value, t.Id),
            NeedKind.MailUndelivered => NeedsAHand.Undelivered(Who(t), t.Title!, t.Details ?? "", t.At!.Value, t.PersonId!.Value),
            NeedKind.UpkeepOverdue => NeedsAHand.Upkeep(t.MachineId is null ? "Room" : Machine(t), t.Title!, t.At!.Value, t.Id),
            NeedKind.FaultOpen => NeedsAHand.Fault(
                Machine(t),
                Symptoms.Find(t.Title)?.Seen ?? t.Title!,
                t.Details == "asks",
                t.At!.Value,
                t.Id
            ),
            NeedKind.KitWrong => NeedsAHand.KitWrong(
                t.Title!,
                KitFaults.Says(t.Details!.Split(',').Select(KitFaults.Of)),
                t.At!.Value,
                t.Id
            ),
            NeedKind.ConsumableLow => NeedsAHand.Low(t.Title!, t.Details!, t.At, t.Id),
            NeedKind.PaperDue => NeedsAHand.Paper(
                Papers.Of(Typed.Word<PaperKind>(t.Title)!.Value).Name + (t.MachineId is null ? "" : $", {Machine(t)}"),
                rules.Clock.Day(GateJson.Read<LocalDate>(t.Body!)).Start,
                now,
                t.Id
            ),
            NeedKind.IncidentOpen => NeedsAHand.Incident(
                Number(t),
                Place(t),
                Mishaps.InWords(Typed.Word<Mishap>(t.Details)!.Value),
                GateJson.Read<IncidentStanding>(t.Body!),
                t.At!.Value,
                now,
                t.Id
            ),
            NeedKind.FireWatchRunning => NeedsAHand.WatchRunning(Number(t), Place(t), Who(t), t.At!.Value, now, t.Id),
            NeedKind.IncidentActionLate => NeedsAHand.ActionLate(
                Number(t),
                Who(t),
                t.Details ?? "text erased",
                new LastDay(GateJson.Read<LocalDate>(t.Body!)).End(rules.Clock),
                now,
                t.Id
            ),
            NeedKind.LookAsked => NeedsAHand.LookAsked(Machine(t), t.At!.Value, t.Id),
            NeedKind.FixtureOverdue => NeedsAHand.Overdue(t.Title!, Who(t), t.At!.Value, t.Id),
            NeedKind.FixtureDamaged => NeedsAHand.Damaged(t.Title!, t.Details ?? "text erased", t.At!.Value, t.Id),
            NeedKind.RoomShut => NeedsAHand.RoomShut(Number(t), t.Id),
            var other => throw new InvalidOperationException($"No room has tasks of the kind {other}."),
        };

    /// <summary>Of a machine that has left the house nothing waits.</summary>
    private bool IsHere(StewardTask t) =>
        t.NeedKind is not (NeedKind.MachineStopped or NeedKind.UpkeepOverdue or NeedKind.FaultOpen or NeedKind.PaperDue)
        || t.MachineId is not { } machine
        || !machines[machine].IsGone(now, rules.Clock);

    private static string Who(StewardTask t) => $"{t.GivenName} {t.FamilyName}";

    private string Machine(StewardTask t) => machines[t.MachineId!.Value].Name;

    private string Place(StewardTask t) => t.MachineId is null ? "the room" : Machine(t);

    private static int Number(StewardTask t) => int.Parse(t.Title!, CultureInfo.InvariantCulture);

    private string Moment(StewardTask t) => rules.Clock.At(t.At!.Value).ToString("ddd d MMM HH:mm", CultureInfo.InvariantCulture);

    private (MaterialId, string, Instant) Overdue(StewardTask t) =>
        (
            t.MaterialId!.Value,
            materials.GetValueOrDefault(t.MaterialId.Value, t.MaterialId.Value.Value),
            rules.Clock.Day(Typed.Day(t.Title)!.Value).Start
        );

    private string Asked(string question)
    {
        var asked = GateJson.Read<GateQuestion>(question).Items[0];
        var operations = string.Join(" and ", asked.Operations.Select(o => o.ToString().ToLowerInvariant()));
        var material = materials.GetValueOrDefault(asked.MaterialId, asked.MaterialId.Value);
        return $"{operations} {Length.Show(asked.ThicknessMm, unit)} {material}";
    }

    private string Authority(string authority)
    {
        var parts = authority.Split('/', 2);
        var name = machines.TryGetValue(parts[0], out var machine) ? machine.Name : parts[0];
        return parts.Length == 2 ? $"{name} with {parts[1]}" : name;
    }
}
