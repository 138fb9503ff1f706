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
        new SelectElement(member.Field("At which machine")).SelectByText("Heron");
        member.Press("Flow alarm of the cooling");
        member.WaitFor("Look for a kinked line");
        member.Press("It is still so");
        member.WaitFor("What you may still do: Nothing: a tube without coolant cracks.");

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

    /// <summary>The weekly round of a trainer: airflow with its reading, where a slip is asked again and nothing typed is lost.</summary>
    [Fact]
    public void Trainer_LogsTheAirflow()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/upkeep");
        trainer.WaitFor("Airflow: look into the duct");
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
    }
}
