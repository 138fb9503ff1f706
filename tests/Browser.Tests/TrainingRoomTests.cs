using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.Training)]
public sealed class TrainingRoomTests(LiveServer server)
{
    private const string Learner = "m-58";

    private static void Mark(Browser browser, string step, string word) =>
        browser.Wait(
            () =>
            {
                browser.Find($"[data-step='{step}'] .pmark.{word}").Click();
                return browser.Find($"[data-step='{step}']").GetAttribute("data-mark") == word;
            },
            $"{step} is {word}"
        );

    private static void Offline(Browser browser, bool offline) =>
        browser.Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = offline,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );

    [Fact]
    public void Practical_InTwoWindows_WithoutAConnection_ThroughAReload_IsSignedWhenBothAgree()
    {
        using var trainer = new Browser(server.Address).As("trainer", $"/training?person={Learner}");
        trainer.WaitFor("Sign off");
        new SelectElement(trainer.Field("For")).SelectByText("Heron");
        trainer.PressStarting("Watch them: Practical on a CO", ".ticket");
        trainer.WaitFor("Not finished");
        LookTests.Look(trainer, "a practical");
        var address = new Uri(trainer.Driver.Url).AbsolutePath;
        using var tablet = new Browser(server.Address).As("trainer", address);
        tablet.WaitFor("Not finished");

        Mark(trainer, "book", "unprompted");
        Mark(tablet, "tidy", "prompted");
        trainer.Wait(
            () => trainer.Find("[data-step='tidy']").GetAttribute("data-mark") == "prompted",
            "the other window's mark comes over"
        );
        tablet.Driver.ExecuteCdpCommand("Network.enable", []);
        Offline(tablet, true);
        Mark(tablet, "kit", "unprompted");
        Mark(tablet, "identify", "missed");
        tablet.WaitFor("2 marks wait for the connection");
        Offline(tablet, false);
        tablet.WaitGone("for the connection");
        trainer.WaitFor("A critical step was missed");
        // Seen again, and by the keyboard.
        tablet.Find("[data-step='identify'] button").SendKeys("u");
        tablet.Wait(() => tablet.Find("[data-step='identify']").GetAttribute("data-mark") == "unprompted", "by the key u");
        tablet
            .Driver.SwitchTo()
            .ActiveElement()
            .GetAttribute("class")!
            .ShouldContain("pmark", Case.Sensitive, "the next step has the focus");
        tablet.Open(address);
        tablet.Wait(() => tablet.Driver.FindElements(Css.By(".pstep[data-mark]")).Count == 4, "four marks outlive a reload");
        foreach (
            var step in tablet.Driver.FindElements(Css.By(".pstep:not([data-mark])")).Select(s => s.GetAttribute("data-step")!).ToList()
        )
            Mark(tablet, step, "unprompted");
        tablet.WaitFor("May be signed");
        tablet.Press("I saw this, and agree");
        tablet.WaitFor("on their own sign-in");

        using var member = new Browser(server.Address);
        member.Open("/");
        Agree(member, server, address);
        trainer.Wait(() => trainer.Text.Contains("Signed off", StringComparison.Ordinal), "signed on the other window too");
        trainer.Driver.FindElements(Css.By("button.pmark")).ShouldBeEmpty("a closed sheet is not marked");
    }

    /// <summary>The person watched agrees on a session of their own.</summary>
    private static void Agree(Browser member, LiveServer server, string address)
    {
        server
            .Db.Tamper(
                "update people.person set sign_in_name = 'learner', password_hash = (select password_hash from people.person where "
                    + $"sign_in_name = 'member') where id = '{Learner}'"
            )
            .GetAwaiter()
            .GetResult();
        member.As("learner", address);
        member.WaitFor("May be signed");
        member.Driver.FindElements(Css.By("button.pmark")).ShouldBeEmpty("nobody marks themselves");
        member.Press("That is how it was: I agree");
        member.WaitFor("Signed off");
    }

    [Fact]
    public void Steward_ChangesAPath_LooksFirst_AndTheLadderFollows()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/paths");
        steward.WaitFor("Renewed by");
        LookTests.Look(steward, "paths");
        steward.Press("Change this path", "[data-path='swift']");
        new SelectElement(steward.Find("[aria-label='Steps: add a step']")).SelectByText("Signed off for Wren first");
        steward.Press("Save the path");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why", "Whoever runs Swift has run Wren.");
        steward.Press("See who it affects");
        steward.WaitFor("Nobody who holds it would have anything to read", "to do; the gate warns");
        steward.Press("Save the path");
        steward.WaitFor("as changed on");
        steward.Find("[data-path='swift']").Text.ShouldContain("Signed off for Wren first");
        steward.Driver.FindElements(By.TagName("summary")).Single(s => s.Text == "Write a page of your own").Click();
        steward.Press("Add the page");
        steward.WaitFor("Give the page a title");
        steward.Type("Title", "The red bin");
        steward.Type("The page, in Markdown", "Scraps go into the **red** bin.");
        steward.Type("A question on what it says", "Where do scraps go?");
        steward.Type("Its answers, one a line, the right one first", "Into the red bin\nInto the canal");
        steward.Find("details[open] #page-reason").SendKeys("It is new.");
        steward.Press("Add the page");
        steward.WaitFor("then put it into a path");
        using var newcomer = new Browser(server.Address).As("newcomer", "/training/ladder");
        newcomer.Wait(
            () => newcomer.Find("[data-path='swift']").Text.Contains("Signed off for Wren first", StringComparison.Ordinal),
            "the ladder has the step"
        );
    }

    [Fact]
    public void Induction_APlaceIsTaken_OnAPhone_AndGivenBack()
    {
        using var newcomer = new Browser(server.Address, phone: true).As("newcomer", "/training/inductions");
        newcomer.WaitFor("places free", "place free");
        LookTests.Look(newcomer, "inductions");
        newcomer.Press("Take a place");
        newcomer.WaitFor("You have a place.");
        newcomer.Press("Give it back");
        newcomer.WaitGone("You have a place.");

        using var trainer = new Browser(server.Address).As("trainer", "/training/inductions");
        trainer.WaitFor("Who was there?");
        trainer.Press("Call the roll");
        trainer.WaitFor("Saved.");
    }

    [Fact]
    public void Steward_SuspendsAndReinstates_AndReviewsWhatOneTrainerSigned()
    {
        using var steward = new Browser(server.Address).As("steward", "/training?person=m-24");
        steward.WaitFor("Suspend or review a certificate");
        steward.Wait(
            () =>
            {
                steward.Driver.FindElements(By.TagName("summary")).Single(s => s.Text == "Suspend or review a certificate").Click();
                return steward.Driver.FindElements(Css.By("details[open] #hold-kind")).Count == 1;
            },
            "the fold opens"
        );
        steward.Press("Suspend it");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why, for the person and the stewards", "Ran without air.");
        steward.Press("Suspend it");
        steward.WaitFor("suspended since");
        LookTests.Look(steward, "a suspended certificate");
        steward.Wait(
            () =>
            {
                steward.Driver.FindElements(By.TagName("summary")).Single(s => s.Text == "Reinstate").Click();
                return steward.Driver.FindElements(By.XPath("//button[.='Reinstate']")).Count == 1;
            },
            "the fold opens"
        );
        steward.Type("What was looked at", "Watched a whole run with air.");
        steward.Press("Reinstate");
        steward.WaitGone("suspended since");

        steward.Open("/training/review");
        steward.WaitFor("By signer and days");
        LookTests.Look(steward, "review");
        steward.Press("See whose they are");
        steward.WaitFor("Give the first day");
    }

    [Fact]
    public void Matrix_NarrowedAndTakenAsAFile_AndTheCodeOnPaperLeadsToItsPage()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/training?person=m-4");
        trainer.WaitFor("Ines Calloway");
        var paper = trainer.Driver.FindElements(By.LinkText("On paper")).First().GetAttribute("href")!;
        trainer.Type("Find a person", "calloway");
        trainer.Wait(
            () => trainer.Driver.FindElements(Css.By(".matrix tbody th")).Count == 1,
            "one row (“1 of ” stands in “61 of 61” too)"
        );
        trainer.Driver.FindElement(By.LinkText("CSV")).GetAttribute("href")!.ShouldContain("find=calloway");
        trainer.Type("Find a person", "nobody at all");
        trainer.WaitFor("Nobody matches");

        using var visitor = new Browser(server.Address, phone: true);
        visitor.Open($"/verify/{paper.Split('/')[^2]}");
        visitor.WaitFor("Counts");
        visitor.Text.ShouldNotContain("Calloway");
        LookTests.Look(visitor, "a verified certificate");
        visitor.Open($"/verify/{Guid.NewGuid()}");
        visitor.WaitFor("Not a certificate of this house");
    }

    [Fact]
    public void Conduct_WrittenByTheLadder_AppealedByThePerson()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/conduct/m-5");
        steward.WaitFor("Nothing is written");
        steward.Driver.FindElements(By.TagName("summary")).Single(s => s.Text == "Add an entry").Click();
        steward.Type("What was seen, and by whom", "Left offcuts under the bed; seen by two.");
        steward.Press("Save it");
        steward.WaitFor("A note: something else");
        using var newcomer = new Browser(server.Address).As("newcomer", "/training/conduct/m-5");
        newcomer.WaitFor("Your conduct");
        newcomer.Wait(
            () =>
            {
                newcomer.Find(".conductentry summary").Click();
                return newcomer.Driver.FindElements(Css.By(".conductentry details[open]")).Count == 1;
            },
            "the appeal opens"
        );
        newcomer.Type("Why it should be looked at again", "They were there when I came.");
        newcomer.Press("Ask for a hearing");
        newcomer.WaitFor("Waiting for somebody who was not involved");
        LookTests.Look(newcomer, "conduct");
        steward.Driver.Navigate().Refresh();
        steward.WaitFor("Waiting for somebody who was not involved");
        steward.Text.ShouldNotContain("Hear the appeal", Case.Sensitive, "who wrote it does not hear it");
    }
}
