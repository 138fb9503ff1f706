using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;
using NodaTime.Text;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.House)]
public class WatchTests(LiveServer server)
{
    private static int Requests(Browser browser) =>
        (int)browser.Number("return performance.getEntriesByType('resource').filter(e => e.name.includes('/api/')).length");

    [Fact]
    public void SomebodyStopsAMachineInAnotherWindow_ShowsWithinTwoSeconds_AndAnIdlePagePollsNothing()
    {
        using var watching = new Browser(server.Address).As("steward");
        using var acting = new Browser(server.Address).As("newcomer", "/machines");
        watching.WaitFor("Needs a hand");
        Thread.Sleep(1500);
        var before = Requests(watching);
        Thread.Sleep(5000);
        Requests(watching).ShouldBe(before, "an idle page asks for nothing");

        acting.Press("Stop Swift");
        acting.Press("Stop Swift now");
        acting.WaitFor("Write the reason in a sentence");
        acting.Type("What is wrong", "Sparks under the head.");
        acting.Press("Stop Swift now");
        var clock = Stopwatch.StartNew();
        watching.WaitFor("Sparks under the head.");
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(2);
        acting.WaitFor("Its repairer, or a steward where nothing was touched, returns it to service");

        watching.Open("/machines");
        watching.Press("Return Swift to service");
        watching.Type("What was done and checked", "A crumb, taken out; test cut fine.");
        watching.WaitFor("Was anything touched?");
        watching.Find("#touched-swift-nothing").Click();
        watching.Press("Return Swift now");
        acting.Wait(
            () => acting.Driver.FindElements(Css.By("[data-machine='swift'] button")).Any(b => b.Text == "Stop Swift"),
            "Swift is in service in the other window too"
        );
    }

    [Fact]
    public void SomebodyBooksInAnotherWindow_TheStripShowsItWithinTwoSeconds()
    {
        using var watching = new Browser(server.Address).As("steward");
        using var acting = new Browser(server.Address).As(
            "steward",
            "/ask?member=m-3&operations=cut&material=mat-board&thickness=1.4+mm&machine=wren&run=5&start=2026-11-24T10:30:00Z"
        );
        watching.WaitFor("Needs a hand");
        int Bars() => watching.Driver.FindElements(Css.By("[data-machine='wren'] .lane > li")).Count;
        watching.Wait(() => Bars() > 0, "bars on Wren");
        var before = Bars();
        if (acting.Verdict() == "Shut")
            acting.Press(acting.Find(".path + button").Text);
        acting.Wait(() => acting.Verdict() == "Open, with conditions", "a time that is free");
        var today = acting.Find("[aria-label='Booking']").Text.Contains("Tue 24 Nov", StringComparison.Ordinal);
        acting.PressStarting("Book ", "[aria-label='Booking']");
        acting.WaitFor("Booked.");
        today.ShouldBeTrue("Wren has a gap today");
        var clock = Stopwatch.StartNew();
        watching.Wait(() => Bars() == before + 1, "one more bar");
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(2);
    }

    [Fact]
    public async Task Strips_ShowTheTexturesOfEachPartAndTheNowLine()
    {
        using var browser = new Browser(server.Address).As("member");
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        var line = LocalTimePattern.CreateWithInvariantCulture("HH:mm").Parse(browser.Find(".plumb").Text).Value;
        var house = await http.GetFromJsonAsync<JsonElement>("/api/house", TestContext.Current.CancellationToken);
        var now = InstantPattern
            .ExtendedIso.Parse(house.GetProperty("now").GetString()!)
            .Value.InZone(DateTimeZoneProviders.Tzdb[house.GetProperty("zone").GetString()!]);
        Period.Between(line, now.TimeOfDay, PeriodUnits.Minutes).Minutes.ShouldBeInRange(0, 2);
        browser.Find("[data-machine='heron'] .lane");
        browser.Driver.FindElements(Css.By(".tx-run")).Count.ShouldBeGreaterThan(3);
        browser.Driver.FindElements(Css.By(".tx-checks")).Count.ShouldBeGreaterThan(3);
        browser.Text.ShouldContain("How to read the strips");
    }

    [Fact]
    public void Keys_MoveAlongTheRail()
    {
        using var browser = new Browser(server.Address).As("steward");
        browser.Find("body").SendKeys("?");
        browser.WaitFor("Find on this page");
        browser.Press("Close");
        browser.Find("body").SendKeys(Keys.Alt + "3");
        browser.Wait(() => browser.Driver.Url.EndsWith("/materials", StringComparison.Ordinal), "Alt+3 goes to Materials");
        browser.Find("[data-find]");
        browser.Find("body").SendKeys("/");
        browser.Wait(
            () => browser.Driver.SwitchTo().ActiveElement().GetAttribute("aria-label") == "Find a material by any name",
            "/ finds"
        );
    }
}
