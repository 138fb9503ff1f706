using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>Around the bookings: calendars elsewhere, fixtures at the desk, use, other rules tried, closures from a file.</summary>
[Collection(Houses.House)]
public class AroundBookingsTests(LiveServer server)
{
    [Fact]
    public async Task ACalendarAddress_IsShownOnce_ReadsWithoutSignIn_AndIsRenewed()
    {
        using var browser = new Browser(server.Address).As("member", "/bookings/calendars");
        browser.Find("[data-feed='rota'] button").Click();
        browser.Wait(() => browser.Is("[data-feed='rota'] input"), "the address");
        using var http = new HttpClient();
        var first = Path(browser);
        (await http.GetStringAsync(server.Address + first, TestContext.Current.CancellationToken)).ShouldContain("BEGIN:VCALENDAR");
        browser.Press("Renew it", "[data-feed='rota']");
        browser.Wait(() => Path(browser) != first, "another address");
        ((int)(await http.GetAsync(server.Address + first, TestContext.Current.CancellationToken)).StatusCode).ShouldBe(410);
        browser.Press("Withdraw", "[data-feed='rota']");
        browser.Wait(() => !browser.Is("[data-feed='rota'] input"), "no address is left");

        static string Path(Browser browser) => new Uri(browser.Find("[data-feed='rota'] input").GetAttribute("value")!).AbsolutePath;
    }

    [Fact]
    public void AFixture_IsHandedOut_ComesBackDamaged_AndIsPutRight()
    {
        using var browser = new Browser(server.Address).As("steward", "/bookings/fixtures");
        const string Grid = "[data-fixture='cutting grid']";
        browser.Find($"{Grid} summary").Click();
        browser.Press("Hand it out", Grid);
        browser.Wait(() => browser.Find(Grid).Text.Contains("until", StringComparison.Ordinal), "somebody has it");
        browser.Find($"{Grid} summary").Click();
        browser.Find($"{Grid} input[type='checkbox']").Click();
        browser.Press("It came back", Grid);
        browser.WaitFor("Say what is wrong with it");
        browser.Type("What is wrong with it", "A bar is bent.");
        browser.Press("It came back", Grid);
        browser.WaitFor("A bar is bent.");
        browser.Press("It is in order", Grid);
        browser.Wait(() => browser.Find(Grid).Text.Contains("At hand", StringComparison.Ordinal), "it lies at hand");
    }

    [Fact]
    public void Use_StandsInPictures_AndOtherRulesAreTriedBeforeTheyHold()
    {
        using var browser = new Browser(server.Address).As("keeper", "/bookings/use");
        browser.WaitFor("By hour of the week");
        browser.Text.ShouldContain("Nobody is ranked here.");
        browser.Is("table td i").ShouldBeTrue("a column for an hour");

        browser.Open("/house/rules");
        browser.Press("Change the rules");
        browser.Type("Open bookings a person", "1");
        browser.Press("Try it on the last eight weeks");
        browser.WaitFor("What this cannot know");
        browser.Text.ShouldContain("would have been refused what they had");
        browser.Text.ShouldContain("As it is");
        browser.Press("Cancel");
    }

    [Fact]
    public void ClosuresOfAFile_AreSeenFirst_AndThenStandInTheCalendar()
    {
        var file = System.IO.Path.Combine(System.IO.Path.GetTempPath(), $"closures-{Guid.NewGuid():N}.ics");
        File.WriteAllText(
            file,
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//town//EN\r\nBEGIN:VEVENT\r\nUID:reading-week\r\nDTSTAMP:20261101T000000Z\r\n"
                + "SUMMARY:Reading week\r\nDTSTART;VALUE=DATE:20270510\r\nDTEND;VALUE=DATE:20270515\r\nEND:VEVENT\r\n"
                + "BEGIN:VEVENT\r\nUID:odd\r\nDTSTAMP:20261101T000000Z\r\nSUMMARY:Odd one\r\n"
                + "DTSTART;TZID=Nowhere/Here:20270510T100000\r\nDTEND;TZID=Nowhere/Here:20270510T110000\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
        );
        try
        {
            using var browser = new Browser(server.Address).As("keeper", "/house/calendar");
            browser.Find("#closures-file").SendKeys(file);
            browser.Press("See what would close");
            browser.WaitFor("10 May 2027 to 14 May 2027, all day");
            browser.Text.ShouldContain("Its time zone “Nowhere/Here” is not known here.");
            browser.Press("Put them in the calendar");
            browser.WaitFor("They stand in the calendar.");
            browser.Open("/house/calendar");
            browser.WaitFor("Reading week");
        }
        finally
        {
            File.Delete(file);
        }
    }
}
