using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.House)]
public class GateTests(LiveServer server)
{
    private const string Question = "/ask?operations=cut&material=birch-ply-laser&thickness=3+mm&machine=heron&tag=S-0097&run=18";

    [Fact]
    public void Member_AsksByTheSentence_TakesTheSoonestTime_Books_AndCancels()
    {
        using var browser = new Browser(server.Address).As("member", "/ask");
        browser.WaitFor("Still to fill in");
        browser.Find("[data-blank='Operation']").Click();
        browser.Find("#op-cut").Click();
        browser.Press("Fill in");
        browser.Fill("Thickness", "1/8 in");
        browser.Fill("Material", "laser ply birch");
        browser.Fill("Machine", "wren");
        browser.Fill("Sheet tag", "S-0097");
        browser.Fill("Run time", "18");
        if (browser.Verdict() == "Shut")
            browser.Press(browser.Find(".path + button").Text);
        browser.Wait(() => browser.Verdict() == "Open, with conditions", "the soonest time opens");
        browser.Driver.FindElements(Css.By(".gateline .bay")).Count.ShouldBe(7);
        browser.Find("[aria-label='Booking']").Text.ShouldContain("Checks");
        browser.PressStarting("Book ", "[aria-label='Booking']");
        browser.WaitFor("Booked.");
        Thread.Sleep(1500);
        browser.Text.ShouldContain("Booked.", customMessage: "its own booking does not shut the gate in its face");
        browser.Press("See your bookings");
        browser.Find("[data-booking]");
        var mine = browser
            .Driver.FindElements(Css.By("[data-booking]"))
            .First(b => b.Text.Contains("Wren", StringComparison.Ordinal) && b.Text.Contains("Ines Calloway", StringComparison.Ordinal));
        var row = $"[data-booking='{mine.GetAttribute("data-booking")}']";
        browser.Find("summary", row).Click();
        browser.Press("Give the time back", row);
        browser.Wait(() => browser.Driver.FindElements(Css.By(row)).Count == 0, "the booking is gone");
    }

    [Fact]
    public void Newcomer_IsShutAtTraining_WithTheReasonItsRuleAndWhatClearsIt()
    {
        using var browser = new Browser(server.Address).As("newcomer", Question + "&start=2026-11-27T14:00:00Z");
        browser.Verdict().ShouldBe("Shut");
        browser.Standing("training").ShouldBe("shut");
        var row = browser.Find("tr[data-code='training.none']").Text;
        row.ShouldContain("holds no certificate for Heron");
        row.ShouldContain("only inducted people (common practice)");
        row.ShouldContain("A trainer for Heron signs");
        browser.Find(".path").Text.ShouldContain("opens Training");
    }

    [Fact]
    public void Keyboard_Alone_FillsABlankAndReachesTheSign()
    {
        using var browser = new Browser(server.Address).As("member", Question + "&start=2026-11-27T14:00:00Z");
        browser.Verdict();
        var blank = browser.Find("[data-blank='Material']");
        blank.SendKeys(Keys.Enter);
        var field = browser.Find("[role=dialog] [role=combobox]");
        field.Equals(browser.Driver.SwitchTo().ActiveElement()).ShouldBeTrue("the panel takes the focus");
        field.SendKeys("vinyl record");
        browser.Wait(() => browser.Driver.FindElements(Css.By("[role=option]")).Count == 1, "one vinyl record");
        field.SendKeys(Keys.Enter);
        browser.Wait(() => browser.Standing("sheet") == "shut", "the sheet post shuts");
        browser.WaitFor("is never allowed");
        browser.Wait(
            () => browser.Driver.SwitchTo().ActiveElement().GetAttribute("data-blank") == "Material",
            "the focus is back on the blank"
        );
        browser.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        browser.Find("[role=dialog] input").SendKeys(Keys.Escape);
        browser.Driver.FindElements(Css.By("[role=dialog]")).ShouldBeEmpty();
    }

    [Fact]
    public void BadInput_NamesTheFieldAndKeepsWhatWasTyped()
    {
        using var browser = new Browser(server.Address).As("member", Question + "&start=2026-11-27T14:00:00Z");
        browser.Verdict();
        browser.Fill("Thickness", "3 parsecs");
        browser.WaitFor("The unit “parsecs” is not known here");
        browser.Find("[data-blank='Thickness']").Text.ShouldContain("3 parsecs");
        browser.Find("[data-blank='Thickness']").GetAttribute("class")!.ShouldContain("bad");
        browser.Text.ShouldContain("Not asked");
        browser.Find("[data-blank='Minutes']").Click();
        var field = browser.Find("[role=dialog] input");
        field.SendKeys("an hour" + Keys.Enter);
        browser.WaitFor("Write minutes as a number");
        browser.Find("[role=dialog] input").GetAttribute("value").ShouldBe("an hour");
    }

    [Fact]
    public void FivePostsShut_TheLineStillFitsAcross()
    {
        using var browser = new Browser(server.Address).As(
            "newcomer",
            "/ask?operations=cut&material=pvc-sheet&thickness=9+mm&machine=kestrel&start=2026-11-27T05:00:00Z"
        );
        browser.Verdict().ShouldBe("Shut");
        browser.Driver.FindElements(Css.By("[data-standing='shut']")).Count.ShouldBe(5);
        browser.FitsAcross().ShouldBeTrue();
        browser
            .Number(
                "return document.querySelector('.poles').getBoundingClientRect().right - "
                    + "document.querySelector('.postline').getBoundingClientRect().right"
            )
            .ShouldBeLessThanOrEqualTo(1);
    }

    [Fact]
    public void Question_SurvivesAReload()
    {
        using var browser = new Browser(server.Address).As("member", Question + "&start=2026-11-27T14:00:00Z");
        var verdict = browser.Verdict();
        browser.Driver.Navigate().Refresh();
        browser.Verdict().ShouldBe(verdict);
        browser.Find("[data-blank='Sheet tag']").Text.ShouldContain("S-0097");
    }

    [Fact]
    public void AskASteward_LandsInWatchWithItsQuestion()
    {
        using var member = new Browser(server.Address).As(
            "member",
            Question.Replace("&tag=S-0097", "", StringComparison.Ordinal) + "&start=2026-11-28T12:00:00Z"
        );
        if (member.Verdict() != "Needs a steward")
            member.Press(member.Find(".path + button").Text);
        member.Wait(() => member.Verdict() == "Needs a steward", "only a steward is needed");
        member.Type("What should the steward know?", "Offcut from the harbour set, label kept.");
        member.Press("Ask a steward", "[aria-label='Booking']");
        member.WaitFor("Asked.");
        using var steward = new Browser(server.Address).As("steward");
        steward.WaitFor("Offcut from the harbour set");
        steward.Wait(
            () =>
            {
                steward
                    .Driver.FindElements(Css.By(".needs li"))
                    .Single(li => li.Text.Contains("harbour set", StringComparison.Ordinal))
                    .FindElement(By.TagName("a"))
                    .Click();
                return true;
            },
            "pressing See the question"
        );
        steward.Verdict().ShouldBe("Needs a steward");
        steward.Find("[data-blank='Person']").Text.ShouldContain("Ines Calloway");
        steward.WaitFor("Ines Calloway asks");
        steward.Press("Lift once");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why, in a sentence for the record", "I cut from that sheet on Monday.");
        steward.Press("Lift once");
        steward.WaitFor("Lifted, once");
        steward.Wait(() => steward.Verdict() == "Open, with conditions", "the gate opens with the lift");
        member.Open("/watch");
        member.WaitFor("A steward let your request through for Heron");
        member.Press("A steward let your request through for Heron: book it");
        member.WaitFor("I cut from that sheet on Monday.");
        member.Wait(() => member.Verdict() == "Open, with conditions", "open for the member too");
        member.PressStarting("Book ", "[aria-label='Booking']");
        member.WaitFor("Booked.");
    }

    [Fact]
    public void Inches_ChosenOnce_ShowEverywhere()
    {
        using var browser = new Browser(server.Address).As("member", "/materials");
        browser.WaitFor("Limits in mm");
        browser.Find(".unitchoice label:last-child").Click();
        browser.WaitFor("Limits in inches");
        browser.WaitFor("Cut to 0.25");
        browser.Press("List for the wall");
        browser.WaitFor("In millimetres");
        browser.Open(Question + "&start=2026-11-27T14:00:00Z&thickness=3/8");
        browser.Verdict();
        browser.Fill("Thickness", "0.375");
        browser.Find("[data-blank='Thickness']").Text.ShouldContain("0.375 in");
        browser.WaitFor("cuts to 0.314 in; this is 0.375 in");
        browser.Open("/machines");
        browser.WaitFor("to 0.315 in");
    }
}
