using System.Globalization;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Incidents as they are sent: what whoever asks may see and do.</summary>
public sealed class IncidentAnswers(IncidentReading incidents, HouseStore house, PeopleStore people, CurrentUser user, IClock clock)
{
    /// <summary>Who sees all of them: stewards, keepers, and who answers for the house.</summary>
    public Task<bool> SeesAll() => user.Is(Role.Steward, Role.Keeper, Role.Countersigner);

    /// <returns>The incident; null when there is none, or why it is not for whoever asks.</returns>
    public async Task<(IncidentResponse? Answer, Refusal? Refusal)> Find(Guid id, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await incidents.Find(id, now, cancel) is not { } whole)
            return (null, CommonProblems.NotFound.Refuse(null, "incident"));
        var part = whole.Involved.FirstOrDefault(i => i.PersonId == user.Id)?.Part;
        if (IncidentRules.MayRead(await SeesAll(), part is not null) is { } refusal)
            return (null, refusal);
        var rules = (await house.Rules(now, cancel))!;
        return (await Answer(whole, part, rules, now, cancel), null);
    }

    public async Task<string> Place(MachineId? machine, CancellationToken cancel) =>
        machine is { } id
            ? (await house.Machines(clock.GetCurrentInstant(), cancel)).FirstOrDefault(m => m.Spec.Id == id)?.Spec.Name ?? id.Value
            : "the room";

    private async Task<IncidentResponse> Answer(IncidentWhole whole, string? part, HouseRules rules, Instant now, CancellationToken cancel)
    {
        var i = whole.Incident;
        var (steward, keeper, countersigner) = (await user.Is(Role.Steward), await user.Is(Role.Keeper), await user.Is(Role.Countersigner));
        var involved = part is "ran" or "there";
        var whose = whole
            .Seen.Select(s => s.By)
            .Concat(whole.Involved.Select(v => v.PersonId))
            .Concat(whole.Holds.Select(h => h.SetBy))
            .Concat(whole.Holds.Select(h => h.EndedBy).OfType<PersonId>())
            .Concat(whole.Holds.Where(h => h.Kind == "conduct").Select(h => PersonId.From(h.Target)))
            .Concat(whole.Proposed.Where(h => h.Kind == HoldKind.Conduct).Select(h => PersonId.From(h.Target)))
            .Concat(whole.Actions.Select(a => a.OwnerId))
            .Concat(whole.Injuries.Select(j => j.PersonId).OfType<PersonId>())
            .Concat(whole.Watch is { } w ? w.Done.Select(d => d.By).Append(w.PersonId) : []);
        var names = await PeopleNames.Of(whose, people, await user.SeesNames() || countersigner, clock, cancel);
        string Name(PersonId id) => names.GetValueOrDefault(id, "somebody");
        var place = await Place(i.MachineId, cancel);
        var seesInjuries = steward || keeper;
        var open = i.ClosedAt is null;
        return new IncidentResponse(
            Id: i.Id,
            Number: i.Number,
            Version: i.Version,
            MachineId: i.MachineId,
            Place: place,
            At: i.At,
            What: i.What,
            WhatWords: Mishaps.InWords(i.What),
            Severity: (int)i.Severity,
            FilledIn: [.. FilledIn(whole, Name)],
            Tag: i.Tag,
            MaterialId: i.MaterialId,
            MaterialName: whole.MaterialName,
            AtTheGate: whole.Run?.AtTheGate ?? [],
            Facts: i.Facts,
            Damage: i.Damage,
            PutOut: i.PutOut,
            MakerSays: i.MakerSays,
            Lesson: i.Lesson,
            Cost: i.Cost,
            FireService: i.FireService,
            Marked: i.Marked,
            Law: new LawResponse(i.Law.Wanted, i.Law.To, i.Law.By?.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture), i.Law.Number),
            Hurt: i.Hurt,
            CarriedOver: i.CarriedOver,
            Seen: [.. whole.Seen.Select(s => new SeenResponse(s.Id, s.At, s.Words ?? "Words erased", Name(s.By), s.ToldAt))],
            Involved: [.. whole.Involved.Select(v => new InvolvedResponse(Name(v.PersonId), v.Part))],
            Holds: Holds(whole, Name, place),
            Causes: CausesOf(whole),
            CausesNote: i.CausesNote,
            Actions: [.. whole.Actions.Select(a => Action(a, Name, user.Id, rules, now))],
            Photos: [.. whole.Photos.Select(p => new PhotoResponse(p.Id, p.Width, p.Height, p.At))],
            Injuries: seesInjuries
                ?
                [
                    .. whole.Injuries.Select(j => new InjuryResponse(
                        j.Id,
                        j.PersonId is { } who ? Name(who) : "a visitor",
                        j.Body,
                        rules.Clock.DateOf(j.KeptUntil)
                    )),
                ]
                : [],
            Watch: Watch(whole, rules, Name, now),
            Closing: [.. IncidentClosing.Steps(whole.Closing).Select(s => new ClosingStepResponse(s.Name, s.Done, s.Says))],
            CloseNote: i.CloseNote,
            ClosedAt: i.ClosedAt,
            AtRisk: whole.AtRisk,
            May: new MayResponse(
                Investigate: steward && open && !involved,
                SetHolds: steward && open,
                EndHolds: steward && part != "ran",
                Close: IncidentClosing.MayClose(whole.Closing, !open, new Closer(steward, countersigner, involved)) is null,
                Reopen: steward && !open,
                AddWords: open,
                SeeInjuries: seesInjuries,
                Teach: steward && !involved
            )
        );
    }

    public static IReadOnlyList<IncidentHoldResponse> Holds(IncidentWhole whole, Func<PersonId, string> name, string place)
    {
        string Target(HoldKind kind, string target) =>
            kind switch
            {
                HoldKind.Machine or HoldKind.Optics => place,
                HoldKind.Room => "the room",
                HoldKind.Conduct => name(target),
                HoldKind.Ruling => whole.MaterialName ?? target,
                _ => target,
            };
        IReadOnlyList<HoldCheckResponse> Checks(HoldKind kind) =>
            kind == HoldKind.Machine ? [.. IncidentHolds.MachineList.Select(l => new HoldCheckResponse(l.Code, l.Words))] : [];
        return
        [
            .. whole
                .Holds.Select(h => (Hold: h, Kind: Enum.Parse<HoldKind>(h.Kind, true)))
                .Select(h => new IncidentHoldResponse(
                    Id: h.Hold.Id,
                    Kind: h.Kind,
                    Target: h.Hold.Target,
                    Title: IncidentHolds.Title(h.Kind, Target(h.Kind, h.Hold.Target)),
                    Press: IncidentHolds.Press(h.Kind, Target(h.Kind, h.Hold.Target)),
                    Reason: h.Hold.Reason,
                    State: h.Hold.State,
                    By: name(h.Hold.SetBy),
                    At: h.Hold.SetAt,
                    EndedBy: h.Hold.EndedBy is { } ended ? name(ended) : null,
                    EndedAt: h.Hold.EndedAt,
                    Words: h.Hold.Words,
                    Checks: Checks(h.Kind)
                )),
            .. whole.Proposed.Select(p => new IncidentHoldResponse(
                Id: null,
                Kind: p.Kind,
                Target: p.Target,
                Title: IncidentHolds.Title(p.Kind, Target(p.Kind, p.Target)),
                Press: IncidentHolds.Press(p.Kind, Target(p.Kind, p.Target)),
                Reason: p.Reason,
                State: "proposed",
                By: null,
                At: null,
                EndedBy: null,
                EndedAt: null,
                Words: null,
                Checks: Checks(p.Kind)
            )),
        ];
    }

    /// <summary>Those the evidence speaks for first, then what somebody ticked beside them.</summary>
    public static IReadOnlyList<CauseResponse> CausesOf(IncidentWhole whole) =>
        [
            .. whole
                .ProposedCauses.GroupBy(p => p.Code)
                .Select(p => new CauseResponse(
                    p.Key,
                    Causes.Find(p.Key)!.Title,
                    string.Join(" ", p.Select(e => e.Evidence)),
                    p.All(e => e.Told),
                    whole.Causes.Contains(p.Key)
                )),
            .. whole
                .Causes.Where(c => whole.ProposedCauses.All(p => p.Code != c))
                .Select(c => new CauseResponse(c, Causes.Find(c)?.Title ?? c, null, true, true)),
        ];

    private static ActionResponse Action(ActionNow a, Func<PersonId, string> name, PersonId me, HouseRules rules, Instant now) =>
        new(
            Id: a.Id,
            Text: a.Text ?? "Words erased",
            Owner: name(a.OwnerId),
            Mine: a.OwnerId == me,
            Due: a.Due,
            Late: a.EndedAt is null && rules.Clock.DateOf(now) > a.Due,
            ShowsBy: a.ShowsBy ?? "",
            Link: a.Link,
            Ended: a.EndedAt is not null,
            Done: a.Done,
            EndWords: a.EndWords
        );

    private static FireWatchResponse Watch(IncidentWhole whole, HouseRules rules, Func<PersonId, string> name, Instant now)
    {
        var wanted = whole.Incident.WantsAWatch;
        var began = whole.Watch;
        var made = began?.Done.ToDictionary(d => d.Minute) ?? [];
        return new FireWatchResponse(
            Wanted: wanted,
            Minutes: began?.Minutes ?? rules.FireWatchMinutes,
            Who: began is null ? null : name(began.PersonId),
            Began: began?.Began,
            Ends: began?.Began + Duration.FromMinutes(began?.Minutes ?? 0),
            Looks: began is null
                ? []
                :
                [
                    .. WatchPlan
                        .Looks(began.Began, began.Minutes, made.Keys, now)
                        .Select(l => new LookResponse(
                            l.Minute,
                            l.At,
                            l.State,
                            made.TryGetValue(l.Minute, out var look) ? look.Found.ToString().ToLowerInvariant() : null,
                            made.TryGetValue(l.Minute, out var done) ? name(done.By) : null,
                            made.GetValueOrDefault(l.Minute)?.Note
                        )),
                ],
            HowTo: WatchPlan.HowTo
        );
    }

    private static IEnumerable<string> FilledIn(IncidentWhole whole, Func<PersonId, string> name)
    {
        if (whole.Run is { } run)
        {
            yield return $"run {run.Number.ToString(CultureInfo.InvariantCulture)}, {name(run.PersonId)}";
            if (!string.IsNullOrWhiteSpace(run.Settings))
                yield return $"settings: {run.Settings}";
        }
        if (whole.Incident.Tag is { } tag)
            yield return $"sheet {tag}{(whole.MaterialName is { } material ? $", {material}" : "")}";
        else if (whole.MaterialName is { } alone)
            yield return alone;
        if (whole.Run?.Decision is { } decision)
            yield return $"decision {decision.ToString()[..8]}";
    }
}
