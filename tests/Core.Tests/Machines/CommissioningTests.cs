using System.Text.Json;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Machines;

/// <summary>What a commissioning sheet shows, what it leaves open, and what the gate makes of it.</summary>
public class CommissioningTests
{
    private static readonly HouseRules Rules = GateCase.Open().Facts.Rules;
    private static readonly LocalDate Today = new(2026, 11, 24);

    private static readonly CommissioningSheet Whole = new(
        On: new(2026, 1, 20),
        By: "the keeper",
        Wiring: "by the house electrician, report 14",
        InterlocksOn: new(2026, 11, 1),
        MakersGone: true,
        RelayGone: true,
        WiredBy: "the seller’s fitter",
        Consent: "the maker’s letter",
        ClassAnew: "the laser safety officer: 1",
        WindowNm: 10600,
        WindowOd: 6,
        AirflowHow: "vane meter, fan at full",
        InwardMS: 0.6m,
        Route: "4 m of duct above the ridge",
        Stages: [new("fan", "20,000 h")],
        Level: true
    );

    private static readonly MachineSpec Heron = GateCase.Heron with { Station = GateCase.Heron.Station! with { RoomMinimumC = 10 } };

    private static readonly RoomSpec Room = GateJson.Read<RoomSpec>(
        """
        {"name":"Shop","address":"","discharge":"letter in the office","freshAir":"two vents","coAlarm":true,"extinguisherWhere":"",
        "extinguisher":"co2","waterAllowed":false,"alarmPoint":"","wayOut":"","meetingPoint":"","emergencyCall":"","whoToTell":"",
        "firstAid":"","keyTimes":"","computers":"","cleaningKit":"","toolbox":"","stock":""}
        """
    );

    [Fact]
    public void Gaps_OfAWholeSheet_AreNone() => CommissioningGaps.Of(Heron, Whole, Room, controller: true).ShouldBeEmpty();

    public static TheoryData<string, Func<CommissioningSheet, CommissioningSheet>> Left =>
        new()
        {
            { "earth and wiring", s => s with { Wiring = "" } },
            { "maker’s interlock", s => s with { MakersGone = false } },
            { "our relay", s => s with { RelayGone = false } },
            { "whose consent", s => s with { Consent = "" } },
            { "who wired", s => s with { WiredBy = "" } },
            { "class assessed", s => s with { ClassAnew = "" } },
            { "wavelength the window", s => s with { WindowNm = null, WindowOd = null } },
            { "for 450 nm", s => s with { WindowNm = 450 } },
            { "optical density", s => s with { WindowOd = null } },
            { "how the airflow", s => s with { AirflowHow = "" } },
            { "inward speed", s => s with { InwardMS = 0 } },
            { "stages", s => s with { Stages = [] } },
            { "route of the duct", s => s with { Route = "" } },
            { "level", s => s with { Level = false } },
        };

    [Theory]
    [MemberData(nameof(Left))]
    public void Gaps_NameEachThingLeftOpen_AndNothingElse(string says, Func<CommissioningSheet, CommissioningSheet> leave) =>
        CommissioningGaps.Of(Heron, leave(Whole), Room, controller: true).ShouldHaveSingleItem().ShouldContain(says);

    [Fact]
    public void Gaps_WithoutASheet_AreThat_AndWhatFormAndRoomLack()
    {
        var bare = Heron with { AirflowM3PerHour = 0, Station = Heron.Station! with { EnclosureKind = null, RoomMinimumC = null } };
        CommissioningGaps
            .Of(bare, null, null, controller: false)
            .ShouldBe([
                "a commissioning sheet",
                "measured airflow and enclosure volume",
                "how it is enclosed",
                "how cold the room may be",
                "a paper that permits discharge outdoors",
            ]);
        CommissioningGaps
            .Of(
                Heron with
                {
                    Extraction = Extraction.Filtered,
                },
                Whole with
                {
                    Route = "",
                },
                Room with
                {
                    FreshAir = "",
                    CoAlarm = false,
                },
                true
            )
            .ShouldBe(["how the room gets fresh air", "a carbon-monoxide alarm"], "filtered air has no duct");
    }

    [Fact]
    public void Gaps_WithoutAController_AskNothingAboutOne() =>
        CommissioningGaps
            .Of(Heron, Whole with { RelayGone = false, WiredBy = "", Consent = "", ClassAnew = "" }, Room, controller: false)
            .ShouldBeEmpty();

    [Fact]
    public void Interlocks_AreShownByTheSheetOrByALaterTrial_NeverByHalfATrial()
    {
        Shown(Whole, true, null).ShouldBe(Rules.Clock.Day(new(2026, 11, 1)).Start);
        Shown(Whole with { RelayGone = false }, true, null).ShouldBeNull("our relay is in the circuit and was not tried");
        Shown(Whole with { RelayGone = false }, false, null).ShouldNotBeNull();
        Shown(Whole, true, GateCase.Now).ShouldBe(GateCase.Now);
        Shown(Whole, true, Instant.FromUtc(2026, 3, 1, 0, 0)).ShouldBe(Rules.Clock.Day(new(2026, 11, 1)).Start);
        Shown(null, false, null).ShouldBeNull();

        static Instant? Shown(CommissioningSheet? sheet, bool controller, Instant? tried) =>
            SetUpFacts.Of(Heron, sheet, Room, controller, tried, Rules.Clock).InterlocksAt;
    }

    [Fact]
    public void Class_RestsOnInterlocks_ForAsLongAsTheHouseSays()
    {
        var tried = GateCase.Now;
        var setUp = GateCase.WellSetUp with { InterlocksAt = tried };
        Class(setUp, tried + Duration.FromDays(183)).ShouldBe("1");
        Class(setUp, tried + Duration.FromDays(183) + Duration.FromSeconds(1)).ShouldBe("4");
        Class(setUp with { InterlocksAt = null }, tried).ShouldBe("4");
        Class(setUp with { ControllerShown = false }, tried).ShouldBe("4");
        ClassInUse.Of(Heron, setUp with { InterlocksAt = null }, Rules, tried).BeamCanReachPeople.ShouldBeTrue();
        var open = Heron with { LaserClass = "4" };
        ClassInUse.WhyFour(open, setUp with { InterlocksAt = null }, Rules, tried).ShouldBeNull("an open beam rests on no interlock");
        ClassInUse.WhyFour(Heron, null, Rules, tried).ShouldBeNull("nothing was loaded of it");

        static string Class(SetUpFacts setUp, Instant at) => ClassInUse.Of(Heron, setUp, Rules, at).LaserClass;
    }

    [Fact]
    public void Gate_TakesAMachineWithoutATrialAsClass4_InEveryPost()
    {
        var c = GateCase.Open().With(f => f with { Machine = f.Machine with { SetUp = GateCase.WellSetUp with { InterlocksAt = null } } });
        var codes = Codes(c);
        codes.ShouldContain("machine.interlocks");
        codes.ShouldContain("room.eyewear", "nobody has eyewear for it");
        codes.ShouldNotContain("machine.notClosed");
        Codes(c.Rules(r => r with { ClosedMachinesOnly = true })).ShouldContain("machine.notClosed");
        c.Facts.Machine.Spec.LaserClass.ShouldBe("1", "what was loaded is what is stored");
        Codes(GateCase.Open()).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(36, 300, false)]
    [InlineData(9, 300, true)]
    public void Gate_AsksForASheetAnew_AfterTheMonthsOfTheHouse(int months, int daysAgo, bool asks)
    {
        var c = GateCase
            .Open()
            .Rules(r => r with { CommissioningMonths = months })
            .With(f => f with { Machine = f.Machine with { SetUp = GateCase.WellSetUp with { On = f.Now - Duration.FromDays(daysAgo) } } });
        Codes(c).Contains("machine.commissioning").ShouldBe(asks);
    }

    [Fact]
    public void Gate_NamesThreeOfWhatIsMissing_AndCountsTheRest()
    {
        var setUp = GateCase.WellSetUp with { Missing = ["one", "two", "three", "four", "five"] };
        var c = GateCase.Open().With(f => f with { Machine = f.Machine with { SetUp = setUp } });
        c.Decide()
            .Posts.SelectMany(p => p.Reasons)
            .Single(r => r.Code == "machine.gaps")
            .Text.ShouldBe("Not shown of Heron: one; two; three; and 2 more.");
    }

    [Theory]
    [InlineData(21, Phase.AtMachine, null)]
    [InlineData(22, Phase.Booking, Standing.Caution)]
    [InlineData(22, Phase.AtMachine, Standing.Shut)]
    public void Gate_AfterABreak_TellsWhoeverBooks_AndShutsAtTheMachine(int days, Phase phase, Standing? expected)
    {
        var c = GateCase
            .Open()
            .Asking(a => a with { Phase = phase })
            .With(f => f with { Machine = f.Machine with { SetUp = GateCase.WellSetUp, UsedAt = f.Now - Duration.FromDays(days) } });
        var reason = c.Decide().Posts.SelectMany(p => p.Reasons).SingleOrDefault(r => r.Code == "machine.afterBreak");
        reason?.Standing.ShouldBe(expected!.Value);
        (reason is null).ShouldBe(expected is null);
    }

    [Fact]
    public void Form_TakesWhatIsWritten_AndAsksForWhatContradictsItself()
    {
        Read("""{"on":"2026-11-24","by":"the keeper"}""").Value.ShouldNotBeNull().Stages.ShouldBeEmpty();
        Wrong("""{"on":"2026-11-25","by":"the keeper"}""").ShouldBe(["on"]);
        Wrong("""{"by":"the keeper"}""").ShouldBe(["on"]);
        Wrong("""{"on":"2026-11-24","by":"k","makersGone":true}""").ShouldBe(["interlocksOn"]);
        Wrong("""{"on":"2026-11-24","by":"k","interlocksOn":"2026-11-24"}""").ShouldBe(["makersGone"], "a beam that stayed is a fault");
        Wrong("""{"on":"2026-11-24","by":"k","interlocksOn":"2026-12-24","makersGone":true}""").ShouldBe(["interlocksOn"]);
        Wrong("""{"on":"2026-11-24","by":"k","windowOd":6}""").ShouldBe(["windowNm"]);
        Wrong("""{"on":"2026-11-24","by":"k","inwardMS":"fast"}""").ShouldBe(["inwardMS"]);

        static SheetReading<CommissioningSheet> Read(string json) => CommissioningForm.Read(JsonDocument.Parse(json).RootElement, Today);

        static IEnumerable<string?> Wrong(string json) => Read(json).Errors.Select(e => e.Field);
    }

    [Theory]
    [InlineData(11, "machine.roomCold")]
    [InlineData(5, "machine.roomCold")]
    [InlineData(4.9, "machine.roomFreezing")]
    [InlineData(12, null)]
    public void Room_ColderThanTheMachineTakes_IsSaid_AndNearFreezingShuts(double roomC, string? code)
    {
        var machine = Heron with { Station = Heron.Station! with { RoomMinimumC = 12 } };
        Code(machine, roomC).ShouldBe(code);
        Code(machine with { WaterCooled = false }, roomC).ShouldBe(code is null ? null : "machine.roomCold", "there is no water to freeze");
        Code(machine with { WaterCooled = false, Station = Heron.Station! with { RoomMinimumC = null } }, roomC).ShouldBeNull();

        static string? Code(MachineSpec machine, double roomC) =>
            ReadingRules.Of(machine, new(true, 650, 21, RoomC: (decimal)roomC)).FirstOrDefault(r => r.What == "Room")?.Code;
    }

    private static IReadOnlyList<string> Codes(GateCase c) => [.. c.Decide().Posts.SelectMany(p => p.Reasons).Select(r => r.Code)];
}
