using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.Training)]
public sealed class TrainingTests(LiveServer server)
{
    [Fact]
    public void Newcomer_ReadsThePages_AndGetsThroughTheQuiz_AlsoWithoutAConnection()
    {
        using var person = new Browser(server.Address).As("newcomer", "/training/ladder");
        person.WaitFor("Read first: Fire");
        var first = true;
        foreach (
            var (page, answer) in new[]
            {
                ("fire", "stays shut"),
                ("fumes", "Only fresh air"),
                ("eyes", "the wavelength of this laser"),
                ("voltage", "leave it and tell a steward"),
                ("materials", "do not cut it"),
                ("conduct", "No, not for a moment"),
            }
        )
        {
            person.Open($"/training/read/{page}");
            if (first)
            {
                person.Press("I have read it");
                person.WaitFor("Answer the question below the page");
                Choose(person, "is opened to look");
                person.Press("I have read it");
                person.WaitFor("That is not what the page says");
                first = false;
            }
            Choose(person, answer);
            person.Press("I have read it");
            person.WaitFor("Read on");
        }
        person.Press("All pages are read: on to the quiz");
        person.Press("Begin the quiz");
        person.WaitFor("One is right.", "Several are right", "Put them in order");
        var address = new Uri(person.Driver.Url).AbsolutePath;

        LookTests.Look(person, "a quiz");
        // By keyboard, and with the network gone in the middle of it.
        Answer(person);
        person.Driver.ExecuteCdpCommand("Network.enable", []);
        Offline(person, true);
        person.Press("Next");
        Answer(person);
        person.WaitFor("Not sent yet");
        Offline(person, false);
        person.WaitFor("Every answer is kept.");
        person.Open(address);
        person.Wait(() => person.Driver.FindElements(Css.By(".bead.full")).Count == 2, "both answers outlive a reload");
        person.Find("[aria-label='Question 18, open']").Click();
        person.Press("End with 16 open");
        person.WaitFor("Not passed");
        person.WaitFor("It can be tried again from");
        person.WaitFor("Look at these again");
        LookTests.Look(person, "a marked quiz");
        person.Open("/training/ladder");
        person.WaitFor("The quiz can be tried again from");

        using var trainer = new Browser(server.Address).As("trainer", "/training/questions");
        trainer.WaitFor("quizzes ended");
        trainer.WaitFor("Too few answers to judge");
        trainer.WaitFor("reliability KR-20");
        LookTests.Look(trainer, "questions");
    }

    [Fact]
    public void Trainer_SeesWhereSomebodyStands()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/training?person=m-2");
        trainer.Press("Which steps are done, and what comes next");
        trainer.WaitFor("’s way to the machines");
        trainer.Text.ShouldNotContain("Begin the quiz");
        trainer.FitsAcross().ShouldBeTrue();
    }

    [Fact]
    public void Steward_ChangesAPage_SeesWhomItTouches_AndTwoTabsDoNotOverwrite()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/read/conduct");
        using var other = new Browser(server.Address).As("steward", "/training/read/conduct");
        foreach (var tab in new[] { steward, other })
        {
            tab.Press("Change this page");
            tab.Find("#page-body").SendKeys(Keys.Control + Keys.End);
            tab.Find("#page-body").SendKeys("\n\n## Doors\nBoth doors stay open while a laser runs.");
        }
        steward.Press("Publish it");
        steward.WaitFor("Write the reason in a sentence");
        steward.Find("#page-repeat").SendKeys("12242026");
        steward.Press("See it, and who it touches");
        steward.WaitFor("people read it again and are told");
        steward.Type("Why it changes", "The fire officer asked for it.");
        steward.Press("Publish it");
        steward.Wait(() => steward.Driver.FindElements(Css.By("article h2")).Any(h => h.Text == "Doors"), "the page says it");

        other.Type("Why it changes", "Mine.");
        other.Press("Publish it");
        other.WaitFor("Somebody changed this page meanwhile");
        other.Find("#page-body").GetAttribute("value")!.ShouldContain("Both doors stay open");

        using var member = new Browser(server.Address).As("member", "/training/ladder");
        member.WaitFor("read it again by 24 Dec 2026");
    }

    private static void Choose(Browser browser, string option) =>
        browser.Wait(
            () =>
            {
                var label = browser.Driver.FindElements(Css.By(".readcheck label")).FirstOrDefault(l => l.Text == option);
                label?.Click();
                return label is not null;
            },
            option
        );

    private static void Answer(Browser browser)
    {
        var field = browser.Driver.FindElements(Css.By(".question input")).FirstOrDefault();
        if (field is not null)
            field.SendKeys(Keys.Space);
        else
            browser.Find(".ordering button:enabled").SendKeys(Keys.Enter);
    }

    private static void Offline(Browser browser, bool offline) =>
        browser.Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new()
            {
                ["offline"] = offline,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
}
