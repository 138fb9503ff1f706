using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class PapersTests
{
    private static readonly LocalDate Today = new(2026, 11, 24);

    private static IEnumerable<string?> Fields(
        PaperKind kind = PaperKind.RiskFire,
        bool machine = false,
        int ago = 0,
        int? next = 365,
        string by = "the keeper",
        string says = ""
    )
    {
        var on = Today.PlusDays(-ago);
        return Papers.Wrong(kind, machine, on, next is { } days ? on.PlusDays(days) : null, by, says, Today).Select(r => r.Field);
    }

    [Fact]
    public void Paper_HasADay_WhoAnswersForIt_AndItsMachineWhereItIsOfOne()
    {
        Fields().ShouldBeEmpty();
        Fields(machine: true).ShouldBe(["machineId"]);
        Fields(PaperKind.DuctCleaned).ShouldBe(["machineId"]);
        Fields(PaperKind.DuctCleaned, machine: true).ShouldBeEmpty();
        Fields(ago: -1).ShouldBe(["onDay"]);
        Fields(next: 0).ShouldBe(["nextDay"]);
        Fields(next: null).ShouldBeEmpty();
        Fields(by: " ").ShouldBe(["by"]);
        Fields(says: new string('x', 601)).ShouldBe(["says"]);
    }

    /// <summary>A detector that is isolated without an end stays so.</summary>
    [Fact]
    public void Isolation_HasAnEnd() => Fields(PaperKind.DetectorIsolated, next: null).ShouldBe(["nextDay"]);

    [Fact]
    public void EveryKind_HasOneForm()
    {
        Papers.All.Select(p => p.Kind).ShouldBe(Enum.GetValues<PaperKind>(), ignoreOrder: true);
        Papers.All.ShouldAllBe(p => p.Name.Length > 0 && p.By.Length > 0 && p.Says.Length > 0 && p.Basis.Length > 0);
        // UK regulation 9 of the Control of Substances Hazardous to Health Regulations 2002: at least every 14 months (from memory).
        Papers.Of(PaperKind.ExtractionExamined).Months.ShouldBe(14);
    }

    [Fact]
    public void Paper_IsOver_FromItsNextDayOn()
    {
        Papers.IsOver(Today, Today).ShouldBeTrue();
        Papers.IsOver(Today.PlusDays(1), Today).ShouldBeFalse();
        Papers.IsOver(null, Today).ShouldBeFalse();
    }
}
