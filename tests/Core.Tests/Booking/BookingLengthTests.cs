using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Booking;

public class BookingLengthTests
{
    private readonly HouseRules _rules = Packs.Start(Packs.StaffedWorkshop, "h", "Europe/London");

    /// <summary>Worked example of the trade (common practice): run 18, clearing 1 → 10 + 1.5 + 2 x 22 + 10 = 65.5 → 75 min.</summary>
    [Fact]
    public void Of_WorkedExample_Is65AndAHalf_Booked75()
    {
        var length = BookingLength.Of(_rules, 90, [18], 1, heavyResidue: false, untested: 0, changeovers: 0);
        length.NeededMinutes.ShouldBe(65.5m);
        length.SlotMinutes.ShouldBe(75);
        length.Parts.Sum(p => p.Minutes).ShouldBe(65.5m);
    }

    [Fact]
    public void Of_UntestedResidueAndTwoItems_AddsEachPart()
    {
        var length = BookingLength.Of(_rules, 90, [10, 10], 1, heavyResidue: true, untested: 1, changeovers: 1);
        length.NeededMinutes.ShouldBe(10 + 1.5m + 10 + 2 * (13 + 13) + 2 * 2 + 5 + 15);
    }

    [Fact]
    public void Of_NothingKnownOfTheRun_TakesTheFixedPartsOnly() =>
        BookingLength
            .Of(_rules, 90, [null], 1, false, 0, 0)
            .Parts.Select(p => p.Part)
            .ShouldBe([PartKind.Checks, PartKind.ExtractionLead, PartKind.CleanDown]);

    [Fact]
    public void FilledTo_LongerThanNeeded_ShowsTheRestAsSpare()
    {
        var parts = BookingLength.Of(_rules, 90, [18], 1, false, 0, 0).FilledTo(75);
        parts.Sum(p => p.Minutes).ShouldBe(75);
        parts[^1].ShouldBe(new BookingPart(PartKind.Spare, 9.5m));
    }
}
