using System.Globalization;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>Finding a time on any machine, and moving a booking by hand: with keys alone, and by dragging it.</summary>
[Collection(Houses.House)]
public class BookingsTests(LiveServer server)
{
    private const string Job = "operations=cut&material=birch-ply-laser&thickness=3+mm&tag=S-0097&run=18";

    [Fact]
    public void Soonest_InWords_LeadsToTheGate_AndTheBookingIsMovedByKeysAndByHand()
    {
        using var browser = new Browser(server.Address).As("member", $"/bookings/soonest?{Job}&when=on+2+December");
        browser.WaitFor("Understood as");
        browser.Text.ShouldContain("from Wed 2 Dec 00:00 to Thu 3 Dec 00:00");
        browser.Wait(() => browser.Is("[data-machine='kestrel']"), "every machine stands in the table");
        browser.Find("[data-machine='swift']").Text.ShouldContain("holds no certificate for Swift");
        browser.Find("[data-choice]").Click();
        browser.Wait(() => browser.Verdict() == "Open, with conditions", "the gate is open for what was offered");
        browser.PressStarting("Book ", "[aria-label='Booking']");
        browser.WaitFor("Booked.");

        browser.Open("/bookings");
        browser.Find("[aria-label='Day to show']");
        for (var day = 0; day < 8; day++)
        {
            var label = browser.Find("section[aria-label='A day of every machine'] h2").Text;
            browser.Press("Day after");
            browser.Wait(() => browser.Find("section[aria-label='A day of every machine'] h2").Text != label, "the next day");
        }
        browser.WaitFor("Wednesday 2 December 2026");
        var before = At(browser);
        // With the keyboard alone: a slot later, confirmed with Enter.
        browser.Find("[data-move]").SendKeys(Keys.ArrowRight);
        browser.WaitFor("Booking ");
        browser.Find("[data-confirm='move']").SendKeys(Keys.Enter);
        browser.Wait(() => !browser.Is("[data-confirm='move']"), "it is moved");
        var byKeys = At(browser);
        byKeys.ShouldBeGreaterThan(before);

        // By hand: somewhat to the right, in steps, and left there; the question that appears pushes no row from under the hand.
        var lane = browser.Run<string>("return document.querySelector('[data-move]').closest('[data-lane]').dataset.lane");
        var held = new Actions(browser.Driver).ClickAndHold(browser.Find("[data-move]"));
        for (var step = 0; step < 3; step++)
            held = held.MoveByOffset(60, 0);
        held.Release().Perform();
        browser.Wait(() => browser.Is("[data-confirm='move']"), "a plan to confirm");
        browser.Find("[data-confirm='move']").FindElement(By.XPath("..")).Text.ShouldContain(lane, Case.Insensitive, "in the same row");
        browser.Press("Leave it");
        browser.Wait(() => !browser.Is("[data-confirm='move']") && Math.Abs(At(browser) - byKeys) < 1, "it stands where it stood");
        browser.Press("Give the time back", Unfolded(browser));
        browser.Wait(() => !browser.Is("[data-move]"), "nothing of hers is left that day");
    }

    [Fact]
    public void Words_ThatAreNotUnderstood_AreNamed_AndStay()
    {
        using var browser = new Browser(server.Address).As("member", $"/bookings/soonest?{Job}");
        browser.WaitFor("Understood as");
        browser.Fill("When", "when the moon is full");
        browser.WaitFor("“when the moon is full” is not understood");
        browser.Find("[data-blank='When']").Text.ShouldContain("when the moon is full");
        browser.Fill("When", "mornings");
        browser.WaitFor("done by 12:00");
    }

    /// <summary>Where the only booking of that row is, across the window.</summary>
    private static double At(Browser browser) =>
        double.Parse(
            browser.Find("[data-move]").FindElement(By.XPath("..")).GetCssValue("left").Replace("px", "", StringComparison.Ordinal),
            CultureInfo.InvariantCulture
        );

    private static string Unfolded(Browser browser)
    {
        var row = $"[data-booking='{browser.Find("[data-move]").GetAttribute("data-move")}']";
        browser.Find("summary", row).Click();
        return row;
    }
}
