using NodaTime;
using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class HeadCountTests
{
    private static readonly Instant Until = Instant.FromUtc(2026, 11, 24, 12, 0);

    private static Present One(Presence how, string id, int companions = 0) => new(how, null, id, "Sam Reed", Until, companions);

    /// <summary>Two people of one name are two; one person with two reasons is one.</summary>
    [Fact]
    public void People_AreCountedOnce_AndNamesakesApart() =>
        HeadCount
            .Of([One(Presence.OnDuty, "m-1"), One(Presence.FireWatch, "m-1"), One(Presence.Booked, "m-2", 3), One(Presence.Class, "m-3")])
            .ShouldBe(3 + 3);

    [Theory]
    [InlineData(Presence.Arrived, 1, "booked until 12:00, has arrived, with 1 companion")]
    [InlineData(Presence.Booked, 0, "booked until 12:00, arrival not told")]
    [InlineData(Presence.Leads, 0, "leads a class until 12:00")]
    [InlineData(Presence.Class, 0, "on the roll of a class until 12:00")]
    public void EachReason_HasItsWords(Presence how, int companions, string words) =>
        HeadCount.Says(One(how, "m-1", companions), _ => "12:00").ShouldBe(words);
}
