using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>A run at a machine with a controller, pressed as its user would, in real time, against the simulated machine.</summary>
public sealed class ControlledStationTests
{
    [Fact]
    public async Task Run_IsStartedWatchedAndStopped_AndAStewardSeesIt()
    {
        await using var house = await ControlledHouse.Start();
        await house.Book();
        using var member = new Browser(house.Address).As("member");
        member.Open("/station/heron");
        member.WaitFor("Your time", "Readings", "Judged once the extraction runs");
        LookTests.Look(member, "a station with a controller, nobody tapped in");
        member.Press("Tap in");
        foreach (var place in new[] { "Walk round", "Bed", "Head", "Power" })
        {
            member.Wait(() => member.Find("main h2").Text == place, place);
            member.PressStarting("All good", "main");
        }
        member.WaitFor("thick");
        member.Run<object?>(
            """
            const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
            for (const [id, value] of [['tag', 'S-0097'], ['mm-0', '3'], ['mm-1', '3'], ['mm-2', '3']]) {
              const field = document.getElementById(id)
              set.call(field, value)
              field.dispatchEvent(new Event('input', { bubbles: true }))
            }
            """
        );
        member.PressStarting("This is the sheet", "main");
        member.PressStarting("gauge", "main");
        member.PressStarting("It is set to", "main");
        member.PressStarting("It fits", "main");
        member.WaitFor("Airflow and lid are read: 0 m³/h");
        member.PressStarting("Yes, all of it", "main");
        member.WaitFor("The airflow is 0 m³/h");
        house.Heron.Turn(d => d with { AirflowM3PerHour = 640 });
        member.WaitFor("Airflow and lid are read: 640 m³/h");
        member.PressStarting("Yes, all of it", "main");
        member.WaitFor("First run of this sheet");
        foreach (var tick in member.Driver.FindElements(OpenQA.Selenium.By.CssSelector("main input[type=checkbox]")))
            tick.Click();
        member.PressStarting("I say so", "main");
        member.WaitFor("Hold to start");
        Hold(member);
        member.WaitFor("The beam is let on");
        house.Heron.State.Beam.ShouldBeTrue();
        LookTests.Look(member, "a run with a controller");

        using (var steward = new Browser(house.Address).As("steward"))
        {
            steward.WaitFor("Ines Calloway", "to press", "Beam on");
            LookTests.Look(steward, "Watch with a run");
        }

        member.PressStarting("STOP", "main");
        member.WaitFor("Beam off, seen", "Why was it stopped?");
        house.Heron.State.Beam.ShouldBeFalse();
        member.PressStarting("Sheet moved", "main");
        member.WaitFor("The lid stays shut", "640 m³/h through 0.45 m³");

        // The house is gone: what the screen showed stands there even after a reload, and says that it is old.
        house.LoseServer();
        member.Driver.Navigate().Refresh();
        member.WaitFor("No word from the house", "The lid stays shut", "640 m³/h through 0.45 m³");
    }

    private static void Hold(Browser browser)
    {
        var button = OpenQA.Selenium.By.XPath("//main//button[starts-with(normalize-space(), 'Hold to start')]");
        browser.Wait(() => browser.Driver.FindElement(button).Enabled, "the extraction has run long enough");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver)
            .ClickAndHold(browser.Driver.FindElement(button))
            .Pause(TimeSpan.FromSeconds(2))
            .Release()
            .Perform();
    }
}
