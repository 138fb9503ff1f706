using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating;

/// <summary>The facts as they would be once a remedy is carried out; each rule names the one that is its own.</summary>
internal static class Assumption
{
    private static readonly Span Always = new(Instant.FromUnixTimeSeconds(0));

    /// <summary>From when the last step of the path can be done.</summary>
    public static GateFacts? SignedOff(Reason reason, GateQuestion ask, GateFacts facts)
    {
        var held = SoonestWay.StillToLearn(reason, ask, facts).Max(s => s.From) is { } from ? new Span(from) : Always;
        var certificates = Posts.TrainingPost.Needed(ask, facts).Select(a => new Certificate(a, held));
        return facts with
        {
            Training = facts.Training with
            {
                Certificates = Fact.Known<IReadOnlyList<Certificate>>([.. facts.Training.Certificates.Value, .. certificates]),
            },
        };
    }

    /// <summary>A test piece on that sheet came out clean.</summary>
    public static GateFacts? Proved(Reason reason, GateQuestion ask, GateFacts facts)
    {
        var item = ask.Items[reason.Item!.Value];
        var clean = new CleanFacts(item.ThicknessMm, item.SheetTag, facts.Now);
        return facts with
        {
            Settings = [.. facts.Settings!.Select(s => item.SettingIds!.Contains(s.Id) ? s with { Clean = [.. s.Clean, clean] } : s)],
        };
    }

    public static GateFacts? Read(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Training = facts.Training with { Owed = [] },
        };

    public static GateFacts? Reinstated(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Training = facts.Training with { Holds = [] },
        };

    /// <summary>One supervised run.</summary>
    public static GateFacts? Practised(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Training = facts.Training with { LastUse = Fact.Known<Instant?>(facts.Now) },
        };

    public static GateFacts? Signed(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Person = facts.Person with { Agreement = Fact.Known<IReadOnlyList<Span>>([Always]) },
        };

    public static GateFacts? Released(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Person = facts.Person with { Pauses = Fact.Known<IReadOnlyList<Span>>([]) },
        };

    public static GateFacts? Returned(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Machine = facts.Machine with
            {
                Stops = Fact.Known<IReadOnlyList<Span>>([]),
                IncidentStops = [],
                Faults = [.. (facts.Machine.Faults ?? []).Where(f => f.Standing != FaultStanding.Stops)],
            },
        };

    public static GateFacts? Mended(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Machine = facts.Machine with { Faults = [.. (facts.Machine.Faults ?? []).Where(f => f.Standing != FaultStanding.Asks)] },
        };

    public static GateFacts? Reviewed(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Sheets = [.. facts.Sheets.Select(s => s with { UnderReview = [] })],
        };

    public static GateFacts? Aired(Reason reason, GateQuestion ask, GateFacts facts) => facts with { Room = facts.Room with { Shut = [] } };

    public static GateFacts? Upkept(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Machine = facts.Machine with { Upkeep = Fact.Known<IReadOnlyList<UpkeepFacts>>([]) },
        };

    /// <summary>What somebody writes down of how the machine was set up.</summary>
    public static GateFacts? SetUp(GateFacts facts, Func<SetUpFacts, SetUpFacts> shown) =>
        facts.Machine.SetUp is { } setUp ? facts with { Machine = facts.Machine with { SetUp = shown(setUp) } } : null;

    /// <summary>Null for a machine whose form nobody has filled in: what closing it would take is not known.</summary>
    public static GateFacts? Enclosed(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts.Machine.Spec.Station is { } station
            ? WithSpec(facts, facts.Machine.Spec with { Station = station with { EnclosureKind = EnclosureKind.Closed } })
            : null;

    /// <summary>Any airflow will do here: what it is comes from the measuring.</summary>
    public static GateFacts? Measured(Reason reason, GateQuestion ask, GateFacts facts) =>
        WithSpec(facts, facts.Machine.Spec with { AirflowM3PerHour = 100, EnclosureM3 = Math.Max(facts.Machine.Spec.EnclosureM3, 0.1m) });

    public static GateFacts? AirThere(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Room = facts.Room with { Air = Fact.Known(new RoomAirFacts(CoAlarm: true, FreshAir: true)) },
        };

    public static GateFacts? KitThere(Reason reason, GateQuestion ask, GateFacts facts) =>
        facts with
        {
            Room = facts.Room with { FireKit = Fact.Known<IReadOnlyList<KitFacts>>([new KitFacts("fire kit", null)]) },
        };

    /// <summary>The sheet of the item is cleared for what is asked.</summary>
    public static GateFacts? Cleared(Reason reason, GateQuestion ask, GateFacts facts)
    {
        var item = reason.Item!.Value;
        var sheet = facts.Sheets[item];
        var asked = ask.Items[item];
        var rulings = sheet.Rulings.Value.Select(h =>
            h with
            {
                Ruling = h.Ruling with
                {
                    Evidence = Evidence.None,
                    FilteredNeedsArrangement = false,
                    Standing = h.Ruling.Standing == RulingStatus.ByArrangement ? RulingStatus.Permitted : h.Ruling.Standing,
                },
            }
        );
        var tag = sheet.Tag.Value is { } known ? known with { Cleared = [new ClearanceFacts(Always, asked.Operations, [])] } : null;
        var cleared = sheet with { Rulings = Fact.Known<IReadOnlyList<HeldRuling>>([.. rulings]), Tag = Fact.Known(tag) };
        return facts with { Sheets = [.. facts.Sheets.Select((s, i) => i == item ? cleared : s)] };
    }

    private static GateFacts WithSpec(GateFacts facts, MachineSpec spec) => facts with { Machine = facts.Machine with { Spec = spec } };
}
