using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class ComparisonTests
{
    [Theory]
    [InlineData(3, 400, 2, 400, "More than before, and that could well be chance")]
    [InlineData(1, 400, 12, 400, "Fewer than before, and chance alone would bring that about in only")]
    [InlineData(0, 400, 0, 300, "None in either.")]
    [InlineData(2, 400, 1, 200, "As many as before.")]
    public void Words_ForPeople(int now, double hours, int before, double hoursBefore, string says) =>
        Comparison.Of(now, hours, before, hoursBefore).Says.ShouldStartWith(says);

    /// <summary>Unknown hours compare with nothing.</summary>
    [Fact]
    public void Hours_Missing_AreSaid()
    {
        var comparison = Comparison.Of(3, null, 1, 100);
        comparison.ByChance.ShouldBeNull();
        comparison.Says.ShouldStartWith("Hours are missing");
    }
}
