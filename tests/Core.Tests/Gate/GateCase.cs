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
        "heron",
        "Heron",
        LaserKind.Co2,
        10600,
        80,
        900,
        600,
        10,
        8,
        180,
        0.2m,
        3000,
        500,
        Extraction.Ducted,
        90,
        0.45m,
        650,
        true,
        "1",
        "far right",
        "own switch",
        "tube and motors",
        ["rotary"],
        Station: new(
            "bay",
            "label",
            "",
            ExtractionPower.OwnSwitch,
            "wall",
            AirAssist.Automatic,
            Cooling.Chiller,
            25,
            28,
            32,
            5,
            null,
            null,
            false,
            "",
            "",
            "",
            ["gauge"],
            [],
            [],
            [new("red button", "front", true, false)],
            []
        )
        {
            EnclosureKind = EnclosureKind.Closed,
            Framing = Framing.PointerLidOpen,
        }
    );

    public static GateCase Open()
    {
        var ask = new GateQuestion(
            "m-4",
            "heron",
            [new GateItem("birch-ply-laser", 3, [Operation.Cut], "S-0097", Guid.Parse("11111111-1111-4111-8111-111111111111"))],
            null,
            null,
            Start,
            90
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
            "S-0097",
            "birch-ply-laser",
            "Birch plywood, laser grade",
            3,
            [new ClearanceFacts(Always, [Operation.Cut, Operation.Score, Operation.Engrave], [])],
            [],
            600,
            400
        );
        return new GateFacts(
            GateFacts.CurrentVersion,
            Now,
            Packs.Start(Packs.StaffedWorkshop, "The Old Ropewalk", "Europe/London") with
            {
                Colours = TestColours.Map,
            },
            new PersonFacts("Ines", Spans(Always), Spans(Always), Spans(), Spans(), Fact.Known<int?>(29)),
            new TrainingFacts(
                Fact.Known<IReadOnlyList<Certificate>>([
                    new Certificate("heron", new Span(Instant.FromUtc(2026, 10, 1, 0, 0), Instant.FromUtc(2027, 10, 1, 0, 0))),
                ]),
                Fact.Known<Instant?>(Now - Duration.FromDays(10)),
                [],
                [],
                []
            ),
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
            [new DrawingFacts(true, Fact.Known<DrawingSummary?>(Drawing()))],
            new MachineFacts(
                Heron,
                Spans(),
                Fact.Known<IReadOnlyList<UpkeepFacts>>([]),
                ["rotary"],
                Fact.Known(true),
                [new TestedFacts("birch-ply-laser", 3, Operation.Cut, Now - Duration.FromDays(30))]
            ),
            new TimeFacts(Spans(), Spans(), Spans()),
            new RoomFacts(
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
            "square.svg",
            "svg",
            200,
            200,
            new Extent(10, 10, 35, 35),
            [new StrokeWork("#ff0000", 100, 1, 0, [new MoveBin(4, 100)], 0, new Extent(10, 10, 35, 35))],
            [],
            [],
            0,
            [],
            0,
            0
        );
}
