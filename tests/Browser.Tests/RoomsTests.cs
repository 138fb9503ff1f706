using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.House)]
public sealed class RoomsTests(LiveServer server)
{
    [Fact]
    public void Trainer_SignsANewcomerOff_AndTheGateChangesAtOnce()
    {
        const string question = "/ask?operations=cut&material=mat-board&thickness=1.4+mm&machine=wren&run=5&start=2026-11-27T14:00:00Z";
        using var newcomer = new Browser(server.Address).As("newcomer", question);
        newcomer.Verdict();
        newcomer.Standing("training").ShouldBe("shut");
        using var trainer = new Browser(server.Address).As("trainer", "/training?person=m-5");
        new OpenQA.Selenium.Support.UI.SelectElement(trainer.Field("For")).SelectByText("Wren");
        trainer.Unfold("By a note alone");
        trainer.Press("Sign off for Wren");
        trainer.WaitFor("Write what you saw the person do");
        trainer.Type("What you saw", "Focus, extraction, frame and stop without a prompt.");
        trainer.Press("Sign off for Wren");
        trainer.WaitFor("Signed off for Wren.");
        newcomer.Wait(() => newcomer.Standing("training") is "clear" or "caution", "the rope falls by itself in the newcomer's window");
    }

    [Fact]
    public void Steward_PausesAndReleases_WithReasons()
    {
        using var steward = new Browser(server.Address).As("steward", "/training?person=m-21");
        steward.Unfold("Pause");
        steward.Press("Pause until released");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why, for the person and the stewards", "Left the room with the beam on.");
        steward.Press("Pause until released");
        steward.WaitFor("Paused since");
        steward.WaitFor("Left the room with the beam on.");
        steward.Type("Why it ends", "We talked; a supervised run comes first.");
        steward.Press("Release");
        steward.WaitGone("Paused since");
    }

    [Fact]
    public void Materials_FoundByAnyName_TellTwinsAndWhyNever()
    {
        using var browser = new Browser(server.Address).As("member", "/materials");
        browser.Type("Find a material by any name", "leatherette");
        browser.WaitGone("Birch plywood, laser grade\n");
        browser.Press("Imitation leather or cloth, vinyl-coated");
        browser.WaitFor("no house can relax this");
        browser.WaitFor("hydrogen chloride");
        browser.WaitFor("Cannot be told apart by eye");
        browser.Type("Find a material by any name", "unobtainium");
        browser.WaitFor("Nothing called");
    }

    [Fact]
    public async Task Desk_LogsARunThatWasForgotten()
    {
        await server.Db.Tamper("delete from run.log where number = (select max(number) from run.log where booking_id is not null)");
        using var browser = new Browser(server.Address).As("steward", "/bookings");
        browser.WaitFor("to log");
        browser.Press("Log the run");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Field("How it came out")).SelectByText("a flame that stayed");
        browser.WaitFor("puts the machine out of service and calls the stewards");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Field("How it came out")).SelectByText("not cut through");
        browser.Type("Settings and remarks", "70 %, 18 mm/s, lens hazy");
        browser.Press("Log it");
        browser.WaitFor("70 %, 18 mm/s, lens hazy");
        browser.WaitGone("Log it");
        browser.Find("[data-run]").Text.ShouldContain("not cut through");
    }

    /// <summary>A run that nobody stands behind waits in Watch, and counts once a steward says so.</summary>
    [Fact]
    public async Task Steward_LooksAtARunThatNobodyStandsBehind()
    {
        await server.Db.Tamper(
            """
            insert into run.log (id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, logged_by, at,
                allowed, wants_look)
            values (gen_random_uuid(), 'm-4', 'wren', 'mat-board', 1.4, '{cut}', '[2026-11-23 15:00Z,2026-11-23 15:20Z)', 'clean', 'm-4',
                '2026-11-23 15:30Z', true, true)
            """
        );
        using var browser = new Browser(server.Address).As("steward", "/watch");
        browser.WaitFor("Ines Calloway on Wren: no booking covers it, and no steward has vouched for it");
        browser.Open("/bookings");
        browser.WaitFor("Runs to look at");
        browser
            .Driver.FindElements(Css.By("[data-tolook]"))
            .First(r => r.Text.Contains("Ines Calloway", StringComparison.Ordinal))
            .FindElement(By.TagName("button"))
            .Click();
        browser.Type("What you found", "I was beside it the whole time.");
        browser.Driver.FindElement(Css.By("[id^='counts-']")).Click();
        browser.Press("Save");
        browser.Wait(
            () =>
                !browser.Driver.FindElements(Css.By("[data-tolook]")).Any(r => r.Text.Contains("Ines Calloway", StringComparison.Ordinal)),
            "it waits no more"
        );
    }

    [Fact]
    public void Records_ShowTheChainNewestFirst()
    {
        using var browser = new Browser(server.Address).As("keeper", "/records");
        browser.WaitFor("Each entry is chained");
        browser.Find("table.plain tbody tr");
        var numbers = browser
            .Driver.FindElements(Css.By("table.plain tbody tr td:first-child"))
            .Select(c => c.Text)
            .Where(t => t.Length > 0)
            .Select(int.Parse)
            .ToList();
        numbers.Count.ShouldBeGreaterThan(100);
        numbers.ShouldBe(numbers.OrderDescending());
        using var member = new Browser(server.Address).As("member");
        member.Driver.FindElements(Css.By("nav.rail a")).ShouldNotContain(a => a.Text == "Records");
    }

    [Fact]
    public void SignIn_WrongPassword_SaysSoAndKeepsTheName_AndDemoNamesAreOneClick()
    {
        using var browser = new Browser(server.Address);
        browser.Open("/");
        browser.Type("Name", "somebody");
        browser.Type("Password", "guess");
        browser.Press("Sign in");
        browser.WaitFor("Name or password is not right");
        browser.Field("Name").GetAttribute("value").ShouldBe("somebody");
        browser.Press("member");
        browser.WaitFor("Ines Calloway");
        browser.Press("Sign out");
        browser.WaitFor("A demo house");
    }
}
