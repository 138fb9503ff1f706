using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>The card is one touch away.</summary>
[Collection(Houses.House)]
public sealed class IncidentsTests(LiveServer server)
{
    [Fact]
    public void TheCard_IsOneTouchAway_BeforeSigningInAndAfter()
    {
        using var visitor = new Browser(server.Address, phone: true);
        visitor.Open("/");
        visitor.Find("a[href='/emergency']").Click();
        visitor.WaitFor("EVERYBODY OUT");
        using var member = new Browser(server.Address).As("member", "/materials");
        member.Find(".rail a.emergency").Click();
        member.WaitFor("EVERYBODY OUT");
        member.Text.ShouldContain("It is over: tell what happened");
    }
}
