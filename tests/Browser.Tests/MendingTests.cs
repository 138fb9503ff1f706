using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>What is taught, changed by those who teach it: questions, practical sheets, the quiz anew, add-ons.</summary>
[Collection(Houses.Training)]
public sealed class MendingTests(LiveServer server)
{
    [Fact]
    public void Question_WrittenRewordedAndTakenOut_ByATrainer()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/training/questions");
        trainer.WaitFor("in the bank");
        trainer.Unfold("Write a question");
        trainer.Press("Add it");
        trainer.WaitFor("Write the reason in a sentence");
        trainer.Find("#q-new-text").SendKeys("What does the lidded bin take?");
        trainer.Find("#q-new-options").SendKeys("Warm scraps\nWet paint\nWarm scraps");
        trainer.Find("#q-new-why").SendKeys("Embers need a lid.");
        trainer.Find("#q-new-reason").SendKeys("Asked at every induction.");
        trainer.Press("Add it");
        trainer.WaitFor("Two answers are the same");
        trainer.Find("#q-new-text").GetAttribute("value").ShouldBe("What does the lidded bin take?", "typed work is kept");
        trainer.Find("#q-new-options").SendKeys(Keys.Backspace + " only");
        LookTests.Look(trainer, "a question being written");
        trainer.Press("Add it");
        trainer.WaitFor("Quizzes that are open keep the words they began with");
        OpenRow(trainer, "What does the lidded bin take?");
        trainer.Find("details[open] textarea[id$='-text']", "table.questions").SendKeys(" Say why.");
        trainer.Find("details[open] input[id$='-reason']", "table.questions").SendKeys("Clearer.");
        trainer.Press("Replace the old one", "table.questions");
        trainer.WaitFor("What does the lidded bin take? Say why.");
        OpenRow(trainer, "What does the lidded bin take? Say why.");
        trainer.Find("details[open] input[id$='-reason']", "table.questions").SendKeys("No longer asked.");
        trainer.Press("Take it out", "table.questions");
        trainer.WaitGone("What does the lidded bin take?");
    }

    /// <summary>Opens a row of the bank and the form in it.</summary>
    private static void OpenRow(Browser browser, string question) =>
        browser.Wait(
            () =>
            {
                foreach (var words in new[] { question, "Change it" })
                {
                    var summary = browser
                        .Driver.FindElements(Css.By("table.questions summary"))
                        .FirstOrDefault(s => s.Displayed && s.Text.Trim() == words);
                    if (summary is not null && summary.FindElement(By.XPath("..")).GetAttribute("open") is null)
                        summary.Click();
                }
                return browser.Driver.FindElements(Css.By("table.questions details[open] details[open] input[id$='-reason']")).Count == 1;
            },
            $"the form of “{question}”"
        );

    [Fact]
    public void PracticalSheet_ANewVersion_SaysWhoShowsItAgain_BeforeItIsPublished()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/paths");
        steward.WaitFor("Practical forms");
        steward.Unfold("Practical on an enclosed diode cutter, version 1");
        steward.Find("#practical-diode-steps").SendKeys("\n! Shows where the new stop is");
        steward.Press("Publish it");
        steward.WaitFor("Write the reason in a sentence");
        steward.Find("#practical-diode-reason").SendKeys("The stop has moved.");
        steward.Run<object?>(
            "const e = document.getElementById('practical-diode-by'); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "
                + "'value').set.call(e, '2026-12-20'); e.dispatchEvent(new Event('input', { bubbles: true }))"
        );
        steward.Press("See who it affects", "details[open]");
        steward.WaitFor("show it again by then and are told");
        LookTests.Look(steward, "a practical sheet before it is published");
        steward.Press("Publish it");
        steward.WaitFor("Practical on an enclosed diode cutter, version 2");
    }

    [Fact]
    public void Quiz_Anew_IsLookedAtFirst()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/paths");
        steward.WaitFor("Everybody passes the quiz anew");
        steward.Unfold("Everybody passes the quiz anew");
        steward.Press("See who it affects", "details[open]");
        steward.WaitFor("Give the day until which");
        steward.Text.ShouldNotContain("Asked, and told.");
    }

    [Fact]
    public void AddOn_StartedFromThickStock_IsThenOneOfThePaths()
    {
        using var steward = new Browser(server.Address).As("steward", "/training/paths");
        steward.WaitFor("Another add-on");
        steward.Press("Add one: thick stock, metal, being a trainer …");
        new SelectElement(steward.Field("On")).SelectByText("Swift");
        new SelectElement(steward.Field("Start from")).SelectByText("Metal marking");
        steward.WaitFor("Aluminium, anodised");
        new SelectElement(steward.Field("Start from")).SelectByText("Thick stock");
        steward.Field("Stock thicker than").GetAttribute("value").ShouldBe("6 mm");
        LookTests.Look(steward, "an add-on being made");
        steward.Type("Stock thicker than", "a finger");
        steward.Type("Why", "Long cuts burn.");
        steward.Press("Save the path");
        steward.WaitFor("Could not read", "is not a length", "cannot be read");
        steward.Type("Stock thicker than", "1/4 in");
        steward.Press("Save the path");
        steward.WaitFor("Needed for stock above 6.35 mm");
    }
}
