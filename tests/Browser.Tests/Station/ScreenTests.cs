using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>A screen that stands at a machine: enrolled on itself, and run by whoever taps in there.</summary>
public sealed class ScreenTests
{
    [Fact]
    public async Task Screen_IsEnrolledOnItself_AndKnowsPeopleByTheirOwnTap()
    {
        await using var house = await ControlledHouse.Start();
        await house.Book();
        using var screen = new Browser(house.Address).As("keeper");
        screen.Open("/station/heron");
        screen.WaitFor("You have no time here now");
        screen.Driver.FindElement(By.CssSelector("details summary")).Click();
        screen.PressStarting("Enrol it", "main");
        screen.WaitFor("Nobody is tapped in", "Hold your fob at the reader");
        LookTests.Look(screen, "a screen at a machine, nobody tapped in");

        await house.Fob("not-a-fob");
        screen.WaitFor("Nobody here has this fob");
        await house.Fob("fob-newcomer");
        screen.WaitFor("You have no booking on Heron now");

        // Who left the fob at home types the code from the phone.
        using var member = new Browser(house.Address).As("member");
        member.Open("/me");
        member.WaitFor("Your fob: red tag");
        member.Press("Show a tap-in code");
        member.WaitFor("good once");
        var code = member.Find(".bigcode").Text;
        screen.Type("Hold your fob at the reader, or type the tap-in code from your phone", code);
        screen.Press("Tap in");
        screen.WaitFor("Walk round", "Ines C.", "is tapped in");
        screen.Driver.FindElement(By.TagName("body")).Text.ShouldNotContain("Calloway", Case.Sensitive, "anybody looks at it");
        LookTests.Look(screen, "a screen at a machine, with somebody at it");
        screen.PressStarting("All good", "main");
        screen.Wait(() => screen.Find("main h2").Text == "Bed", "the screen does what the person does");

        await house.Fob("fob-trainer");
        screen.WaitFor("They tap out first, or tap too within 15 s");
        await house.Fob("fob-member");
        screen.WaitFor("Handed over to Bartek Q.");
        screen.PressStarting("Tap out", "main");
        screen.WaitFor("Nobody is tapped in");

        // A house that asks for a PIN beside the fob.
        await house.Rule("pinWithFob", "true");
        member.Open("/me");
        member.WaitFor("You have none yet");
        member.Type("Your PIN: figures alone", "1234");
        member.Press("Set my PIN");
        member.WaitFor("not all the same and not counted up or down");
        member.Type("Your PIN: figures alone", "2580");
        member.Press("Set my PIN");
        member.WaitFor("Yours is set since");
        LookTests.Look(member, "one’s own page with a PIN");
        await house.Fob("fob-member");
        screen.WaitFor("Type your PIN at this machine’s screen");
        LookTests.Look(screen, "a screen that waits for a PIN");
        screen.Type("PIN that goes with this fob", "2580");
        screen.Press("Go on");
        screen.WaitFor("Walk round", "Ines C.");
    }

    [Fact]
    public async Task Keeper_PutsACodeAndAPaperAtAMachine()
    {
        await using var house = await ControlledHouse.Start();
        using var keeper = new Browser(house.Address).As("keeper");
        keeper.Open("/machines");
        keeper.WaitFor("Heron");
        var part = keeper.Driver.FindElement(By.XPath("//li[@data-machine='heron']"));
        part.FindElement(By.XPath(".//summary[contains(., 'Code and papers')]")).Click();
        keeper.WaitFor("None is asked for yet");
        part.FindElement(By.XPath(".//button[contains(., 'Make a code')]")).Click();
        keeper.WaitFor("before each start, since", "Make a new one");
        var file = Path.Combine(Directory.CreateTempSubdirectory("vg-paper-").FullName, "Quick guide.pdf");
        await File.WriteAllTextAsync(file, "%PDF-1.7 fold here");
        part.FindElement(By.CssSelector("input[type=file]")).SendKeys(file);
        keeper.WaitFor("Quick guide");
        Directory.Delete(Path.GetDirectoryName(file)!, recursive: true);
        LookTests.Look(keeper, "code and papers at a machine");
        using var visitor = new Browser(house.Address);
        visitor.Open("/at/heron");
        visitor.WaitFor("Papers", "Quick guide");
    }

    [Fact]
    public async Task Steward_LearnsAFobAtTheReader_AndRevokesIt()
    {
        await using var house = await ControlledHouse.Start();
        using var steward = new Browser(house.Address).As("steward");
        steward.Open("/house/fobs");
        steward.WaitFor("Learn a fob", "red tag");
        steward.Wait(
            () => new SelectElement(steward.Field("Whose")).Options.Any(o => o.Text == "Ines Calloway"),
            "everybody can be chosen"
        );
        new SelectElement(steward.Field("Whose")).SelectByText("Ines Calloway");
        steward.Type("What it looks like", "green key ring");
        new SelectElement(steward.Field("Read")).SelectByText("at Heron");
        steward.Press("Wait for it at the reader");
        steward.WaitFor("Hold it at the reader now");
        LookTests.Look(steward, "the page of fobs");
        await house.Fob("a-new-fob");
        steward.WaitFor("Ines Calloway, green key ring");
        steward.Driver.FindElement(By.CssSelector("[aria-label='Lost: revoke it, green key ring of Ines Calloway']")).Click();
        steward.Wait(() => !steward.Find("main").Text.Contains("green key ring, learnt", StringComparison.Ordinal), "it is gone");
    }
}
