using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using Xunit;

namespace VelvetGate.Core.Tests.Materials;

public class SheetDeskTests
{
    [Theory]
    [InlineData("S-0097", "S-0097")]
    [InlineData("s97", "S-0097")]
    [InlineData(" s 97 ", "S-0097")]
    [InlineData("S-0097-2", "S-0097-2")]
    [InlineData("S-12345", "S-12345")]
    [InlineData("http://127.0.0.1:5080/sheets/S-0097", "S-0097")]
    [InlineData("https://house.example/sheets/S-0097-12", "S-0097-12")]
    [InlineData("97", null)]
    [InlineData("S-", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    [InlineData("S-0097; drop table", null)]
    public void Read_TakesWhatPeopleTypeAndCodesHold(string? text, string? tag) => (SheetTags.Read(text)?.Value).ShouldBe(tag);

    [Fact]
    public void Of_IsReadBackAsItself()
    {
        foreach (var number in new long[] { 1, 97, 1001, 9999, 10000, 123456 })
            SheetTags.Read(SheetTags.Of(number).Value).ShouldBe(SheetTags.Of(number));
        SheetTags.Root("S-0097-2").ShouldBe("S-0097");
        SheetTags.Root("S-0097").ShouldBe("S-0097");
    }

    /// <summary>Signatures: ISO 32000-1 7.5.2 (PDF), ISO/IEC 15948 5.2 (PNG), ITU-T T.81 B.1.1.3 with JFIF (JPEG).</summary>
    [Theory]
    [InlineData("255044462D312E37", "application/pdf")]
    [InlineData("89504E470D0A1A0A00", "image/png")]
    [InlineData("FFD8FFE000104A464946", "image/jpeg")]
    [InlineData("3C737667", null)]
    [InlineData("FFD8", null)]
    [InlineData("", null)]
    [InlineData("4D5A255044462D", null)]
    public void FileType_IsReadFromTheFirstBytes(string hex, string? type) => SheetDesk.FileType(Convert.FromHexString(hex)).ShouldBe(type);

    [Fact]
    public void MayClear_NeverOneselfNorWhatIsNever()
    {
        RulingStatus[] fine = [RulingStatus.Permitted, RulingStatus.Cannot];
        SheetDesk.MayClear("m-4", "m-2", SheetState.Waiting, false, fine).ShouldBeNull();
        SheetDesk.MayClear(null, "m-2", SheetState.Recheck, false, fine).ShouldBeNull();
        SheetDesk.MayClear("m-2", "m-2", SheetState.Waiting, false, fine)!.Code.ShouldBe("sheet.self");
        SheetDesk.MayClear("m-4", "m-2", SheetState.Waiting, true, fine)!.Code.ShouldBe("sheet.quarantined");
        SheetDesk.MayClear("m-4", "m-2", SheetState.Retired, false, fine)!.Code.ShouldBe("sheet.retired");
        SheetDesk
            .MayClear("m-4", "m-2", SheetState.Waiting, false, [RulingStatus.Permitted, RulingStatus.Never])!
            .Code.ShouldBe("sheet.never");
        SheetDesk
            .MayClear("m-4", "m-2", SheetState.Waiting, false, [RulingStatus.Banned, RulingStatus.Cannot])!
            .Code.ShouldBe("sheet.banned");
    }

    [Theory]
    [InlineData(200, 100, null)]
    [InlineData(100, 200, null)]
    [InlineData(600, 399, null)]
    [InlineData(600, 400, "sheet.offcut")]
    [InlineData(601, 10, "sheet.offcut")]
    [InlineData(401, 401, "sheet.offcut")]
    public void MayCutOff_FitsIntoItsSheetAndIsSmaller(int width, int height, string? code) =>
        SheetDesk.MayCutOff(SheetState.Cleared, false, 600, 400, width, height)?.Code.ShouldBe(code);

    [Fact]
    public void LastDay_FollowsTheHouse()
    {
        var day = new LocalDate(2026, 11, 30);
        var staffed = Packs.Start(Packs.StaffedWorkshop, "The Shed", "Europe/Lisbon");
        SheetDesk.LastDay(day, false, staffed).Date.ShouldBe(new LocalDate(2027, 2, 28), "three months from a 30th, into a short month");
        SheetDesk
            .LastDay(day, false, Packs.Start(Packs.School, "The Shed", "Europe/Lisbon"))
            .Date.ShouldBe(day.PlusDays(21), "for one project: until the last day it can be booked for");
        SheetDesk.LastDay(day, true, staffed).Date.ShouldBe(new LocalDate(2027, 11, 30));
    }
}

public class RulingRequestsTests
{
    [Theory]
    [InlineData("Quux board, 3 mm", "quux-board-3-mm")]
    [InlineData("Éclair Pâté", "eclair-pate")]
    [InlineData("  --  ", "")]
    [InlineData("木板", "")]
    [InlineData("A very very very very very long name indeed of a board", "a-very-very-very-very-very-long-name-ind")]
    public void IdOf_IsAnAddress(string name, string id) => RulingRequests.IdOf(name).ShouldBe(id);

    [Fact]
    public void Everywhere_SpeaksOfEveryCell_AndIsWellFormed()
    {
        var rulings = RulingRequests.Everywhere("quux", RulingStatus.Banned, ["unknown"], "Nobody knows.");
        rulings.Select(RulingCell.Of).Distinct().Count().ShouldBe(9);
        foreach (var ruling in rulings)
            RulingChanges.Check([ruling]).ShouldBeEmpty();
        RulingRequests.MayAnswer("m-1", "m-1")!.Code.ShouldBe("request.self");
        RulingRequests.MayAnswer("m-1", "m-2").ShouldBeNull();
    }
}
