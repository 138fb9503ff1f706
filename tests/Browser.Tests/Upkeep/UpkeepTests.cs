using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests.Upkeep;

[Collection(Houses.House)]
public sealed class UpkeepTests(LiveServer server)
{
    /// <summary>A member sees an alarm, the repairer reads why, tries the machine and returns it; the board keeps what was done.</summary>
    [Fact]
    public void Fault_IsToldInTwoTaps_AndTheRepairerReturnsTheMachine()
    {
        using var member = new Browser(server.Address).As("member", "/upkeep");
        member.WaitFor("Heron");
        new SelectElement(member.Field("At which machine")).SelectByText("Heron");
        member.Press("Flow alarm of the cooling");
        member.WaitFor("Look for a kinked line");
        member.Press("It is still so");
        member.WaitFor("Nothing: a tube without coolant cracks.");

        using var repairer = new Browser(server.Address).As("trainer", "/machines");
        repairer.WaitFor("Flow alarm of the cooling");
        repairer.Press("Return Heron to service");
        repairer.Type("What was done and checked", "A new pump, air out of the lines.");
        repairer.Field("Yes, or nobody is sure: by whoever may repair it").Click();
        repairer.Field("cooling").Click();
        repairer.Press("Return Heron now");
        repairer.WaitFor("Still missing before it comes back: interlock tried, airflow read");
        repairer.Field("lid opened: the beam is gone at once; the stops stop").Click();
        repairer.Field("test fire at low power, on scrap").Click();
        repairer.Field("the frame lies where it should").Click();
        repairer.Type("Airflow read, m³/h", "640");
        repairer.Type("Coolant read, °C", "21,5");
        repairer.Press("Return Heron now");
        repairer.WaitFor("Stop Heron");
        member.Go("/upkeep");
        member.WaitFor("Mirrors: dab clean");
        member.WaitGone("Flow alarm of the cooling, Heron");
    }

    /// <summary>The keeper goes through the sheet of Kestrel anew: what was missing is shown, and a slip is asked again.</summary>
    [Fact]
    public void Keeper_WritesACommissioningSheet_AndNothingIsMissing()
    {
        using var keeper = new Browser(server.Address).As("keeper", "/house/commissioning");
        keeper.WaitFor("the optical density of the window", "Not shown of Kestrel: the optical density of the window.");
        var kestrel = keeper.Find("section[aria-label='Commissioning of Kestrel']");
        kestrel.FindElements(OpenQA.Selenium.By.CssSelector("button")).Last().Click();
        keeper.Type("Optical density stated there, OD (may stay empty)", "dark");
        keeper.Press("Save the sheet");
        keeper.WaitFor("a number");
        keeper.Type("Optical density stated there, OD (may stay empty)", "7");
        keeper.Press("Save the sheet");
        keeper.WaitGone("Still missing");
        keeper.Find("section[aria-label='Commissioning of Kestrel'] button").Click();
        keeper.WaitFor("another took its place on 24 Nov 2026");
    }

    /// <summary>The weekly round of a trainer: airflow with its reading, where a slip is asked again and nothing typed is lost.</summary>
    [Fact]
    public void Trainer_LogsTheAirflow()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/upkeep");
        trainer.WaitFor("Airflow: look into the duct", "The airflow of Wren falls by 0.3 m³/h a day");
        new SelectElement(trainer.Field("Trends of")).SelectByText("Wren");
        trainer.WaitFor("Airflow, the middle of each day, m³/h", "+ read by hand", "cleaning due");
        trainer.Find("[data-task='wren-airflow'] button").Click();
        trainer.Type("Airflow after, m³/h", "1750");
        trainer.Type("What was found (may stay empty)", "Lint in the elbow.");
        trainer.Press("It is done");
        trainer.WaitFor("Is it another unit?");
        trainer.Field("What was found (may stay empty)").GetAttribute("value").ShouldBe("Lint in the elbow.");
        trainer.Type("Airflow after, m³/h", "175");
        trainer.Press("It is done");
        trainer.Wait(
            () => trainer.Find("[data-task='wren-airflow']").Text.Contains("97 %", StringComparison.Ordinal),
            "the reading stands on the board"
        );
        trainer.WaitGone("The airflow of Wren falls");
    }
}
