using System.Text.Json;
using System.Text.Json.Nodes;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;
using VelvetGate.Core.Machines;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class HouseSheetsTests
{
    /// <summary>A pack with colours, which no pack ships.</summary>
    private static HouseRules Started(string pack) => Packs.Start(pack, "The Shed", "Europe/Lisbon") with { Colours = TestColours.Map };

    private static JsonObject RulesSheet(string pack) => (JsonObject)JsonNode.Parse(GateJson.Write(Started(pack)))!;

    private static JsonElement Json(JsonNode node) => JsonDocument.Parse(node.ToJsonString()).RootElement;

    /// <summary>A machine sheet as somebody types it.</summary>
    internal static JsonObject MachineSheet() =>
        (JsonObject)
            JsonNode.Parse(
                """
                {
                  "id": "robin", "name": "Robin", "kind": "co2", "wavelengthNm": "10600", "powerW": "60", "laserClass": "1", "station.classEvidence": "label on the back", "station.enclosureKind": "closed", "station.enclosure": "window for 10.6 µm", "station.framing": "pointerLidOpen",
                  "bedWidthMm": "20 in", "bedHeightMm": "12 in", "marginMm": "1/2 in", "maxCutMm": "1/4 in", "maxHeightMm": "60 mm", "kerfMm": "0.2", "accelerationMmS2": "2000", "topSpeedMmS": "400,5", "homeCorner": "upper left",
                  "fixtures": "rotary, pins", "extraction": "ducted", "station.extractionPower": "ownSwitch", "extractionLeadSeconds": "90", "enclosureM3": "0.2", "airflowM3PerHour": "300", "station.airAssist": "automatic",
                  "waterCooled": true, "station.cooling": "chiller", "station.coolantCautionC": "25", "station.coolantAskC": "28", "station.coolantShutC": "32", "station.coolantColdC": "5",
                  "station.stopDevices": [{ "name": "red button", "where": "front", "cutsTube": true }]
                }
                """
            )!;

    [Theory]
    [InlineData(Packs.School)]
    [InlineData(Packs.StaffedWorkshop)]
    [InlineData(Packs.MemberRun)]
    public void Rules_EveryPack_PassesItsOwnSheetAndComesBackTheSame(string pack)
    {
        var read = SheetChecks.Rules(Json(RulesSheet(pack)));
        read.Errors.ShouldBeEmpty();
        SheetChecks.Compare(Started(pack), read.Value!).ShouldBeEmpty();
    }

    /// <summary>The starting values of the three packs; all are house decisions (common practice differs).</summary>
    [Theory]
    [InlineData(Packs.School, 11, 18, true, 0, 60, 4, 80, 0, false, false, 2, 4, 2, 10, 12, 0, Conduct.WarningLadder, 2, 0, false, false)]
    [InlineData(
        Packs.StaffedWorkshop,
        14,
        16,
        true,
        12,
        90,
        4,
        80,
        24,
        true,
        true,
        3,
        8,
        3,
        15,
        12,
        3,
        Conduct.LadderAndPause,
        3,
        2,
        true,
        false
    )]
    [InlineData(
        Packs.MemberRun,
        18,
        18,
        false,
        12,
        120,
        3,
        80,
        24,
        true,
        true,
        4,
        10,
        3,
        15,
        12,
        3,
        Conduct.PauseAtOnce,
        3,
        0,
        true,
        false
    )]
    public void Packs_HaveTheirStartingValues(
        string pack,
        int attend,
        int alone,
        bool consent,
        int months,
        int idle,
        int learners,
        int pass,
        int coolDown,
        bool sameDay,
        bool walkUp,
        int day,
        int week,
        int open,
        int grace,
        int stock,
        int broughtIn,
        Conduct conduct,
        int attention,
        int pause,
        bool polycarbonate,
        bool flame
    )
    {
        var r = Packs.Start(pack, "The Shed", "Europe/Lisbon");
        (
            r.AttendFromAge,
            r.AloneFromAge,
            r.GuardianConsent,
            r.CertificateMonths,
            r.IdleLapseDays,
            r.LearnersPerTrainer,
            r.QuizPassPercent,
            r.QuizCoolDownHours
        ).ShouldBe((attend, alone, consent, months, idle, learners, pass, coolDown));
        (
            r.SameDayBooking,
            r.WalkUp,
            r.HoursPerPersonDay,
            r.HoursPerPersonWeek,
            r.OpenBookingsPerPerson,
            r.NoShowGraceMinutes,
            r.HouseStockMonths,
            r.BroughtInMonths
        ).ShouldBe((sameDay, walkUp, day, week, open, grace, stock, broughtIn));
        (r.Conduct, r.AttentionMinutes, r.PauseMinutes, r.PolycarbonateOffered, r.FlameTestOffered).ShouldBe(
            (conduct, attention, pause, polycarbonate, flame)
        );
    }

    [Theory]
    [InlineData("zoneId", "\"Atlantis/Harbour\"", "zoneId")]
    [InlineData("aloneFromAge", "9", "aloneFromAge")]
    [InlineData("hoursPerPersonWeek", "1", "hoursPerPersonWeek")]
    [InlineData("slotMinutes", "7.5", "slotMinutes")]
    [InlineData("slotMinutes", "0", "slotMinutes")]
    [InlineData("runFactor", "\"two\"", "runFactor")]
    [InlineData("supervision", "\"nobody\"", "supervision")]
    [InlineData("hours", "[]", "hours")]
    [InlineData("hours", """[{"day":"monday","opens":"18:00","closes":"10:00"}]""", "hours")]
    [InlineData("hours", """[{"day":"monday","opens":"9","closes":"10:00"}]""", "hours")]
    [InlineData("hours", """[{"day":"someday","opens":"09:00","closes":"10:00"}]""", "hours")]
    [InlineData("colours", """{"#ff0000":"burn"}""", "colours")]
    [InlineData("houseName", "\"\"", "houseName")]
    [InlineData("flameTestOffered", "true", "flameTestOffered")]
    public void Rules_WithAFieldAtFault_NameItAndSayWhat(string key, string value, string field)
    {
        var sheet = RulesSheet(Packs.School);
        sheet[key] = JsonNode.Parse(value);
        var error = SheetChecks.Rules(Json(sheet)).Errors.ShouldHaveSingleItem();
        error.Field.ShouldBe(field);
        error.Text.ShouldEndWith(".");
    }

    [Fact]
    public void Compare_TwoPacks_SaysEachRuleInWords()
    {
        var differences = SheetChecks.Compare(
            Packs.Start(Packs.StaffedWorkshop, "The Shed", "Europe/Lisbon"),
            Packs.Start(Packs.School, "The Shed", "Europe/Lisbon")
        );
        differences.ShouldContain(new RuleDifference("idleLapseDays", "Idle before one supervised run", "days", "90", "60"));
        differences.ShouldContain(new RuleDifference("walkUp", "Walk-up: booked at the machine, to begin at once", "", "yes", "no"));
        differences.Select(d => d.Key).ShouldNotContain("houseName");
        differences.Select(d => d.Key).ShouldNotContain("hours");
    }

    [Fact]
    public void Machine_AsTyped_IsReadInAnyUnitToTheLastDigit()
    {
        var read = MachineReading.Read(Json(MachineSheet()), LengthUnit.Mm);
        read.Errors.ShouldBeEmpty();
        var m = read.Value!;
        (m.BedWidthMm, m.BedHeightMm, m.MarginMm, m.MaxCutMm).ShouldBe((508m, 304.8m, 12.7m, 6.35m));
        (m.UsableWidthMm, m.UsableHeightMm).ShouldBe((482.6m, 279.4m));
        m.TopSpeedMmS.ShouldBe(400.5m);
        m.Fixtures.ShouldBe(["rotary", "pins"]);
        m.Station!.StopDevices.ShouldHaveSingleItem()
            .Says()
            .ShouldBe("stops at once, cuts the beam’s power, extraction runs on; the job can go on");
        GateJson.Read<MachineSpec>(GateJson.Write(m)).ShouldBeEquivalentTo(m);
    }

    [Theory]
    [InlineData("id", "\"Big Laser\"", "id")]
    [InlineData("wavelengthNm", "450", "wavelengthNm")]
    [InlineData("marginMm", "\"160 mm\"", "marginMm")]
    [InlineData("kerfMm", "0", "kerfMm")]
    [InlineData("bedWidthMm", "\"wide\"", "bedWidthMm")]
    [InlineData("station.stopDevices", "[]", "station.stopDevices")]
    [InlineData("station.stopDevices", """[{"name":"","where":"front"}]""", "station.stopDevices[0].name")]
    [InlineData("station.coolantShutC", "20", "station.coolantAskC")]
    [InlineData("station.enclosureKind", "\"openFrame\"", "laserClass")]
    [InlineData("powerW", "1e40", "powerW")]
    [InlineData("kind", "\"plasma\"", "kind")]
    [InlineData("waterCooled", "\"perhaps\"", "waterCooled")]
    [InlineData("name", "\"\\u0007\"", "name")]
    public void Machine_WithAFieldAtFault_NamesIt(string key, string value, string field)
    {
        var sheet = MachineSheet();
        sheet[key] = JsonNode.Parse(value);
        MachineReading.Read(Json(sheet), LengthUnit.Mm).Errors.Select(e => e.Field).ShouldContain(field);
    }

    [Fact]
    public void Room_NeedsWhatTheCardSays()
    {
        SheetChecks
            .Room(Json(new JsonObject()))
            .Errors.Select(e => e.Field)
            .ShouldBe(["name", "extinguisher", "extinguisherWhere", "alarmPoint", "wayOut", "meetingPoint", "emergencyCall", "whoToTell"]);
    }

    [Fact]
    public void Read_NotAnObject_SaysFillIn() =>
        FormReader
            .Read(HouseSheets.Room, JsonDocument.Parse("3").RootElement, LengthUnit.Mm)
            .Errors.ShouldHaveSingleItem()
            .Code.ShouldBe("form.missing");

    /// <summary>Every value a pack has stands on the sheet, or a keeper could never change it.</summary>
    [Fact]
    public void Rules_Sheet_HasEveryRule()
    {
        var keys = RulesSheet(Packs.School).Select(p => p.Key).ToHashSet();
        HouseSheets.Rules.Select(f => f.Key).Order(StringComparer.Ordinal).ShouldBe(keys.Order(StringComparer.Ordinal));
    }

    [Fact]
    public void Usual_LiesWithinItsOwnLimits()
    {
        var usual = MachineForm.Fields.Where(f => f.Usual.Length > 0).ToList();
        usual.Count.ShouldBeGreaterThan(8);
        foreach (var field in usual.Where(f => f.Kind is FieldKind.Number or FieldKind.Whole or FieldKind.Length))
            decimal.Parse(field.Usual, System.Globalization.CultureInfo.InvariantCulture).ShouldBeInRange(field.Min, field.Max, field.Key);
        foreach (var field in usual.Where(f => f.Kind == FieldKind.Choice))
            field.Choices!.Select(c => c.Value).ShouldContain(field.Usual, field.Key);
    }

    /// <summary>A reason of the gate names the house rule and what it says, in few words.</summary>
    [Fact]
    public void Says_GivesLabelAndValue()
    {
        var rules = Started(Packs.StaffedWorkshop) with { LongestBookingMinutes = 480 };
        SheetChecks
            .Says(nameof(HouseRules.LongestBookingMinutes), rules)
            .ShouldBe(new RuleSays("longestBookingMinutes", "Longest booking", "480", "min"));
        OpeningDay Open(NodaTime.IsoDayOfWeek day, int closes) =>
            new(day, new NodaTime.LocalTime(10, 0), new NodaTime.LocalTime(closes, 0));
        var week = Enumerable.Range(1, 7).Select(d => Open((NodaTime.IsoDayOfWeek)d, d == 6 ? 10 : 21)).ToList();
        SheetChecks
            .Says(nameof(HouseRules.Hours), rules with { Hours = week })
            .Value.ShouldBe("Mon to Fri 10:00 to 21:00; Sat closed; Sun 10:00 to 21:00");
        SheetChecks.Says(nameof(HouseRules.Agreement), rules).Value.ShouldBe("", "a long text stands on its own page");
    }
}
