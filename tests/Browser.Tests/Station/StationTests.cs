using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>From the code at the machine to tapping in and the first looks, by touch and on a phone.</summary>
[Collection(Houses.Training)]
public sealed class StationTests(LiveServer server)
{
    [Fact]
    public void MachinesPage_ForEverybody_SaysHowItIsSwitchedOnAndStopped()
    {
        using var visitor = new Browser(server.Address, phone: true);
        visitor.Open("/at/heron");
        visitor.WaitFor("Switching on", "grey switch left of the bay", "Wait 53 s at least", "What each stop really does");
        visitor.FitsAcross().ShouldBeTrue();
        LookTests.Look(visitor, "a machine's page");
        visitor.Open("/at/osprey");
        visitor.WaitFor("This machine’s page is not here");
    }

    [Fact]
    public void Station_WithoutABooking_LeadsToTheGate_AndSaysThatItStopsNothing()
    {
        using var newcomer = new Browser(server.Address, phone: true).As("newcomer");
        newcomer.Open("/station/swift");
        newcomer.WaitFor("This screen cannot stop Swift");
        newcomer.FitsAcross().ShouldBeTrue();
        LookTests.Look(newcomer, "a station with nobody tapped in");
        newcomer.Open("/station/osprey");
        newcomer.WaitFor("There is no such machine as");
    }
}
