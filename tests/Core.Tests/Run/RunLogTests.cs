using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Run;
using Xunit;

namespace VelvetGate.Core.Tests.Run;

public class RunLogTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    private static LoggedRun Run(int startMinutesAgo, int endMinutesAgo) =>
        new(
            PersonId: "m-4",
            MachineId: "heron",
            MaterialId: "mat-board",
            ThicknessMm: 1.4m,
            Operations: [Operation.Cut],
            Start: Now - Duration.FromMinutes(startMinutesAgo),
            End: Now - Duration.FromMinutes(endMinutesAgo),
            Outcome: Outcome.Clean,
            Settings: "80 %, 20 mm/s"
        );

    [Theory]
    [InlineData(30, 0, null)]
    [InlineData(30, -1, "run.future")]
    [InlineData(30, 30, "run.end")]
    [InlineData(20, 30, "run.end")]
    [InlineData(721, 0, "run.long")]
    [InlineData(720, 0, null)]
    public void Check_Times(int start, int end, string? code)
    {
        var refusal = RunLog.Check(Run(start, end), "m-4", false, Now);
        (refusal?.Code).ShouldBe(code);
    }

    [Fact]
    public void Check_ForSomebodyElse_IsTheDesksToDo()
    {
        RunLog.Check(Run(30, 0), "m-9", false, Now)!.Code.ShouldBe("run.notYours");
        RunLog.Check(Run(30, 0), "m-9", true, Now).ShouldBeNull();
        RunLog.Check(Run(30, 0) with { Operations = [] }, "m-4", false, Now)!.Field.ShouldBe("operations");
        RunLog.Check(Run(30, 0) with { Settings = new string('x', 1001) }, "m-4", false, Now)!.Field.ShouldBe("settings");
    }

    [Theory]
    [InlineData(31, 120, false, "arrive.early")]
    [InlineData(30, 120, false, null)]
    [InlineData(-60, 1, false, null)]
    [InlineData(-60, 0, false, "arrive.over")]
    [InlineData(10, 120, true, "arrive.cancelled")]
    public void MayArrive_FromHalfAnHourBeforeToTheEnd(int startsIn, int endsIn, bool cancelled, string? code)
    {
        var refusal = RunLog.MayArrive(Now + Duration.FromMinutes(startsIn), Now + Duration.FromMinutes(endsIn), cancelled, Now);
        (refusal?.Code).ShouldBe(code);
    }
}
