using NodaTime;
using Shouldly;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class IncidentsFileTests
{
    private const string Heading = "day,machine,what,severity,causes,seen,cost\n";

    private static IReadOnlyList<OldIncident> Read(string text) =>
        IncidentsFile
            .Read(
                text,
                new Dictionary<MachineId, Core.Machines.MachineSpec>
                {
                    ["heron"] = GateCase.Heron with { HereFrom = new LocalDate(2019, 1, 1) },
                },
                new LocalDate(2026, 11, 24),
                HouseClock.For("Europe/London")
            )
            .Value;

    [Fact]
    public void AnOldList_IsRead()
    {
        var rows = Read(
            Heading + "2021-03-04,Heron,flame,2,lines;settings,Two lines over each other,120.50\n2020-01-02,,Smoke or smell,1,,,\n"
        );
        rows.ShouldAllBe(r => r.Errors.Count == 0);
        var first = rows[0];
        (first.Day, first.MachineId, first.What, first.Severity, first.Cost).ShouldBe(
            (new LocalDate(2021, 3, 4), "heron", Mishap.Flame, Severity.NoHarm, 120.50m)
        );
        first.Causes.ShouldBe(["lines", "settings"]);
        (rows[1].MachineId, rows[1].What).ShouldBe(((MachineId?)null, Mishap.Smoke));
    }

    [Theory]
    [InlineData("2027-01-01,heron,flame,2,,,", "day")]
    [InlineData("1990-01-01,heron,flame,2,,,", "day")]
    [InlineData("2018-12-31,heron,flame,2,,,", "day")] // before the machine came
    [InlineData("4.3.2021,heron,flame,2,,,", "day")]
    [InlineData("2021-03-04,robin,flame,2,,,", "machine")]
    [InlineData("2021-03-04,heron,meteor,2,,,", "what")]
    [InlineData("2021-03-04,heron,flame,6,,,", "severity")]
    [InlineData("2021-03-04,heron,flame,2,ghosts,,", "causes")]
    [InlineData("2021-03-04,heron,flame,2,,,-3", "cost")]
    public void ARow_ThatCannotBe_NamesItsColumn(string row, string column) =>
        Read(Heading + row).ShouldHaveSingleItem().Errors.ShouldHaveSingleItem().Field.ShouldBe(column);

    [Fact]
    public void AFile_WithoutItsColumns_IsRefused() =>
        IncidentsFile
            .Read(
                "when,where\n2021-03-04,heron\n",
                new Dictionary<MachineId, Core.Machines.MachineSpec>(),
                new(2026, 11, 24),
                HouseClock.For("Europe/London")
            )
            .Refusal!.Code.ShouldBe("csv.heading");
}
