using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>The card one touch away, a near miss in three taps, and an incident from the telling to what closes it.</summary>
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

    /// <summary>What, where, send; and without a network it waits, and arrives once.</summary>
    [Fact]
    public void NearMiss_InThreeTaps_AndWithoutANetwork()
    {
        using var cable = new CuttableProxy("127.0.0.1", new Uri(server.Address).Port);
        using var phone = new Browser($"http://127.0.0.1:{cable.Port}", phone: true);
        phone.Open("/near-miss/heron");
        phone.WaitFor("No name is kept");
        phone.FitsAcross().ShouldBeTrue();
        LookTests.Look(phone, "near miss on a phone");
        Tap(phone, "lidTooSoon");
        phone.Press("Send without a name");
        phone.WaitFor("Told, without a name");

        cable.Cut();
        Tap(phone, "smoke");
        phone.There("input[name=machine][value=wren]").Click();
        phone.WaitFor("the steward on duty is told");
        phone.Press("Send without a name");
        phone.WaitFor("waits on this device");
        cable.Mend();
        phone.Open("/near-miss/heron");
        phone.WaitFor("1 told that waited");
        phone.Run<long>("return JSON.parse(localStorage.getItem('velvetgate-near-misses')).length").ShouldBe(0);

        using var steward = new Browser(server.Address).As("steward", "/incidents");
        steward.WaitFor("Look before the next start");
        steward.Press("I have looked", "[data-look=wren]");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("What you found", "Bed, lens, filter and duct are cold.");
        steward.Press("I have looked", "[data-look=wren]");
        steward.WaitGone("Somebody told of fire or smoke at Wren");
    }

    [Fact]
    public void AnIncident_FromTheTellingToWhatClosesIt()
    {
        using var member = new Browser(server.Address).As("member", "/incidents/tell?machine=kestrel&what=glow");
        member.WaitFor("Telling is never held against anybody");
        member.Press("Save the incident");
        member.WaitFor("Write what was seen, in your own words");
        member.Text.ShouldContain("Choose how bad it was");
        LookTests.Look(member, "an incident that lacks words");
        member.There("[data-severity='2'] input").Click();
        member.Type("What was seen, in order", "A bright spot under the dust, after the run.");
        member.Unfold("What helps to find the cause");
        member.Type("Airflow of the extraction, % of usual", "40");
        member.Press("Save the incident");
        member.WaitFor("Kestrel out of service");
        member.Text.ShouldContain("nobody yet");
        member.Text.ShouldContain("Weak extraction");
        var address = new Uri(member.Driver.Url).AbsolutePath;
        member.Press("Begin the fire watch now: 60 min");
        member.WaitFor("Look at 0 min made");
        member.Press("Look at 0 min made");
        member.WaitFor("0 min, nothing");

        using var steward = new Browser(server.Address).As("steward", address);
        steward.WaitFor("none ticked yet");
        LookTests.Look(steward, "an incident");
        steward.Find("#cause-extraction").Click();
        steward.Press("Save the causes");
        steward.WaitFor("1 ticked");
        steward.Unfold("I have looked");
        steward.Press("End the hold");
        steward.WaitFor("The fire watch is not over");
        steward.Unfold("Add an action");
        steward.Type("What is done", "Clean the duct");
        steward.Press("Add it");
        steward.WaitFor("Give the day until when");
        steward.Text.ShouldContain("things to go");
        steward.Open("/incidents/figures");
        steward.WaitFor("per 100 h");
        LookTests.Look(steward, "how often");
    }

    private static void Tap(Browser phone, string what) => phone.There($"input[name=what][value={what}]").Click();
}
