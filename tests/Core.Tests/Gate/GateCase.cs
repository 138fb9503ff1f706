using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Tests.Gating;

/// <summary>An ask that every post passes, to be spoiled one fact at a time.</summary>
internal sealed record GateCase(GateQuestion Ask, GateFacts Facts)
{
    public static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    public static readonly Instant Start = Instant.FromUtc(2026, 11, 25, 14, 0);
    public static readonly Span Always = new(Instant.FromUtc(2025, 1, 1, 0, 0));

    public static readonly MachineSpec Heron = new(
        Id: "heron",
        Name: "Heron",
        Kind: LaserKind.Co2,
        WavelengthNm: 10600,
        PowerW: 80,
        BedWidthMm: 900,
        BedHeightMm: 600,
        MarginMm: 10,
        MaxCutMm: 8,
        MaxHeightMm: 180,
        KerfMm: 0.2m,
        AccelerationMmS2: 3000,
        TopSpeedMmS: 500,
        Extraction: Extraction.Ducted,
        ExtractionLeadSeconds: 90,
        EnclosureM3: 0.45m,
        AirflowM3PerHour: 650,
        WaterCooled: true,
        LaserClass: "1",
        HomeCorner: "far right",
        ExtractionPower: "own switch",
        StopCuts: "tube and motors",
        Fixtures: ["rotary"],
        Station: new(
            Place: "bay",
            ClassEvidence: "label",
            Enclosure: "",
            ExtractionPower: ExtractionPower.OwnSwitch,
            ExtractionSwitch: "wall",
            AirAssist: AirAssist.Automatic,
            Cooling: Cooling.Chiller,
            CoolantCautionC: 25,
            CoolantAskC: 28,
            CoolantShutC: 32,
            CoolantColdC: 5,
            RoomMinimumC: null,
            AttentionMinutes: null,
            Pulsed: false,
            Suppression: "",
            Access: "",
            Beds: "",
            FocusMethods: ["gauge"],
            ServicedBy: [],
            Documents: [],
            StopDevices: [new("red button", "front", true, false)],
            KeptAt: []
        )
        {
            EnclosureKind = EnclosureKind.Closed,
            Framing = Framing.PointerLidOpen,
        }
    );

    /// <summary>Gone through and tried lately, with nothing missing.</summary>
    public static readonly SetUpFacts WellSetUp = new(
        On: Now - Duration.FromDays(300),
        Missing: [],
        InterlocksAt: Now - Duration.FromDays(30),
        ControllerShown: true
    );

    public static GateCase Open()
    {
        var ask = new GateQuestion(
            MemberId: "m-4",
            MachineId: "heron",
            Items: [new GateItem("birch-ply-laser", 3, [Operation.Cut], "S-0097", Guid.Parse("11111111-1111-4111-8111-111111111111"))],
            Fixture: null,
            SupervisorId: null,
            Start: Start,
            Minutes: 90
        );
        return new GateCase(ask, Facts_(ask));
    }

    public Decision Decide() => Core.Gating.Gate.Decide(Ask, Facts);

    public GateCase With(Func<GateFacts, GateFacts> change) => this with { Facts = change(Facts) };

    public GateCase Asking(Func<GateQuestion, GateQuestion> change) => this with { Ask = change(Ask) };

    public GateCase WithSheet(Func<SheetFacts, SheetFacts> change) => With(f => f with { Sheets = [change(f.Sheets[0])] });

    public GateCase WithDrawing(Func<DrawingSummary, DrawingSummary> change) =>
        With(f =>
            f with
            {
                Drawings = [f.Drawings[0] with { Drawing = Fact.Known<DrawingSummary?>(change(f.Drawings[0].Drawing.Value!)) }],
            }
        );

    /// <summary>An entry of the library to cut this plywood on Heron, tested at the thickness it is for.</summary>
    public static SettingFacts Entry(decimal mm, int number = 7) =>
        new(
            Id: new Guid(number, 0, 0, new byte[8]),
            Number: number,
            MachineId: "heron",
            MaterialId: "birch-ply-laser",
            ThicknessMm: mm,
            Operation: Operation.Cut,
            JPerMm: mm,
            SpeedMmS: 20,
            Passes: 1,
            PitchMm: null,
            Held: Always,
            Flames: 0,
            Clean: [new CleanFacts(mm, null, Now - Duration.FromDays(20))]
        );

    /// <summary>The machine set to these entries of the library.</summary>
    public GateCase Set(params SettingFacts[] entries) =>
        Asking(a => a with { Items = [a.Items[0] with { SettingIds = [.. entries.Select(e => e.Id)] }] })
            .With(f => f with { Settings = entries });

    /// <summary>A drawing of this height wrapped round something, on a page that is once around unless said otherwise.</summary>
    public GateCase OnRotary(double heightMm, RoundPiece round, double? pageMm = null) =>
        Asking(a => a with { Fixture = "rotary", Items = [a.Items[0] with { Round = round }] })
            .WithDrawing(d =>
                d with
                {
                    ExtentMm = new(0, 0, 100, heightMm),
                    WidthMm = 215.9,
                    HeightMm = pageMm ?? Math.PI * (double)round.WidestMm,
                }
            );

    /// <summary>A sheet that measures so much, and is tagged so.</summary>
    public GateCase Measuring(decimal mm) =>
        Asking(a => a with { Items = [a.Items[0] with { ThicknessMm = mm }] })
            .WithSheet(s => s with { Tag = Fact.Known<TagFacts?>(s.Tag.Value! with { ThicknessMm = mm }) });

    /// <summary>With a fixture of this machine, and where it is; null at hand.</summary>
    public GateCase WithFixture(string fixture, FixtureFacts? where) =>
        Asking(a => a with { Fixture = fixture })
            .With(f => f with { Machine = f.Machine with { FixturesHere = [fixture], Fixture = where } });

    public GateCase Rules(Func<HouseRules, HouseRules> change) => With(f => f with { Rules = change(f.Rules) });

    public static Fact<IReadOnlyList<Span>> Spans(params Span[] spans) => Fact.Known<IReadOnlyList<Span>>(spans);

    public static Span Around(int hoursBefore, int hoursAfter) =>
        new(Start - Duration.FromHours(hoursBefore), Start + Duration.FromHours(hoursAfter));

    private static GateFacts Facts_(GateQuestion ask)
    {
        var rulings = MaterialTable
            .Rulings.Where(r => r.MaterialId == "birch-ply-laser" && r.Kind == LaserKind.Co2)
            .Select(r => new HeldRuling(r, Always))
            .ToList();
        var tag = new TagFacts(
            Tag: "S-0097",
            MaterialId: "birch-ply-laser",
            MaterialName: "Birch plywood, laser grade",
            ThicknessMm: 3,
            Cleared: [new ClearanceFacts(Always, [Operation.Cut, Operation.Score, Operation.Engrave], [])],
            Quarantined: [],
            WidthMm: 600,
            HeightMm: 400
        );
        return new GateFacts(
            V: GateFacts.CurrentVersion,
            Now: Now,
            Rules: Packs.Start(Packs.StaffedWorkshop, "The Old Ropewalk", "Europe/London") with
            {
                Colours = TestColours.Map,
            },
            Person: new PersonFacts("Ines", Spans(Always), Spans(Always), Spans(), Spans(), Fact.Known<int?>(29)),
            Training: new TrainingFacts(
                Fact.Known<IReadOnlyList<Certificate>>([
                    new Certificate("heron", new Span(Instant.FromUtc(2026, 10, 1, 0, 0), Instant.FromUtc(2027, 10, 1, 0, 0))),
                ]),
                Fact.Known<Instant?>(Now - Duration.FromDays(10)),
                [],
                [],
                []
            ),
            Sheets:
            [
                new SheetFacts(
                    "Birch plywood, laser grade",
                    false,
                    1.2m,
                    Fact.Known<IReadOnlyList<HeldRuling>>(rulings),
                    ["Plywood, structural or unknown glue"],
                    Fact.Known<TagFacts?>(tag)
                ),
            ],
            Drawings: [new DrawingFacts(true, Fact.Known<DrawingSummary?>(Drawing()))],
            Machine: new MachineFacts(
                Heron,
                Spans(),
                Fact.Known<IReadOnlyList<UpkeepFacts>>([]),
                ["rotary"],
                Fact.Known(true),
                [new TestedFacts("birch-ply-laser", 3, Operation.Cut, Now - Duration.FromDays(30))]
            ),
            Time: new TimeFacts(Spans(), Spans(), Spans()),
            Room: new RoomFacts(
                Fact.Known<IReadOnlyList<KitFacts>>([new KitFacts("CO2 extinguisher", null)]),
                Spans(Always),
                Instant.FromUtc(2027, 1, 1, 0, 0),
                Fact.Known<IReadOnlyList<EyewearFacts>>([]),
                Fact.Known(new RoomAirFacts(true, true))
            )
        );
    }

    /// <summary>One 100 mm cut square.</summary>
    private static DrawingSummary Drawing() =>
        new(
            Name: "square.svg",
            Format: "svg",
            WidthMm: 200,
            HeightMm: 200,
            ExtentMm: new Extent(10, 10, 35, 35),
            Strokes:
            [
                new StrokeWork(
                    Colour: "#ff0000",
                    LengthMm: 100,
                    Paths: 1,
                    OpenPaths: 0,
                    Moves: [new MoveBin(4, 100)],
                    TravelMm: 0,
                    Box: new Extent(10, 10, 35, 35)
                ),
            ],
            Fills: [],
            Doubled: [],
            Texts: 0,
            TextAt: [],
            Images: 0,
            Broken: 0
        );
}
