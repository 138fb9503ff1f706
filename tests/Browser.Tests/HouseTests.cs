using System.Diagnostics;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.House)]
public class HouseTests(LiveServer server)
{
    private static void Choose(Browser browser, string label, string text) => new SelectElement(browser.Field(label)).SelectByText(text);

    private static void Tick(Browser browser, string label)
    {
        var field = browser.Field(label);
        browser.Driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center', behavior: 'instant' })", field);
        field.Click();
    }

    /// <summary>A date field takes its value as a person's picker would set it, whatever the browser's language.</summary>
    private static void Date(Browser browser, string label, string day) =>
        browser.Driver.ExecuteScript(
            "const f = arguments[0]; Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(f, "
                + "arguments[1]); f.dispatchEvent(new Event('input', { bubbles: true }))",
            browser.Field(label),
            day
        );

    /// <summary>From nothing to the first induction, by forms alone, as the first keeper of a house of one would.</summary>
    [Fact]
    public async Task EmptyHouse_FirstKeeper_ComesToTheFirstInduction()
    {
        await using var db = await TestDatabase.Empty();
        using var empty = await ServerProcess.Start(db, demo: false);
        using var browser = new Browser(empty.Address);
        var clock = Stopwatch.StartNew();
        browser.Open("/");
        browser.WaitFor("Set the house up");
        browser.Press("Set up this house");
        browser.WaitFor("Name the house");
        browser.WaitFor("Name at least the colour that cuts");
        browser.Type("The code from the server’s console", empty.Console.Split("The code that founds it: ")[1][..9]);
        browser.Type("Name of the house", "Mill Lane Makers");
        browser.Press("Add a colour");
        Choose(browser, "Time zone", "Europe/London");
        browser.Type("Your given name", "Ada");
        browser.Type("Your family name", "Quarry");
        browser.Type("The name you sign in with", "ada");
        browser.Type("Password, at least 10 characters", "a long quiet river");
        Tick(browser, "I am also the steward. Being keeper gives no safety powers by itself.");
        browser.Press("Set up this house");
        browser.WaitFor("No machine is listed yet.");

        browser.Press("Add one");
        browser.Press("Add the machine");
        browser.WaitFor("Fill in “Name”.");
        foreach (
            var (label, text) in new[]
            {
                ("Short name for addresses", "robin"),
                ("Name", "Robin"),
                ("Wavelength, nm", "10600"),
                ("Rated optical power, W", "60"),
                ("How the class is known", "label on the back"),
                ("Bed width", "20 in"),
                ("Bed depth", "12 in"),
                ("Greatest thickness it cuts", "1/4 in"),
                ("Greatest height it engraves", "60 mm"),
                ("Home corner", "upper left"),
                ("Enclosure volume, m³", "0.2"),
                ("Commissioning airflow, m³/h", "300"),
                ("Device 1", "red button"),
                ("Where 1", "front"),
            }
        )
            browser.Type(label, text);
        foreach (
            var (label, text) in new[]
            {
                ("Kind of laser", "CO₂ gas, about 10.6 µm"),
                ("Enclosure", "closed on all sides, cover switches tested"),
                ("How a job is framed", "lid open, pointer only"),
                ("Laser class in use", "1, closed and interlocked"),
                ("Extraction", "ducted outside"),
                ("Extraction gets its power", "from a switch of its own"),
                ("Air assist", "automatic"),
                ("Cooling", "chiller with lines"),
            }
        )
            Choose(browser, label, text);
        Tick(browser, "Cuts the beam’s power");
        browser.Press("Add the machine");
        browser.WaitFor("Robin, class 1 by its form, 60 W");

        browser.Press("Room and kit");
        browser.Type("Item", "CO2 extinguisher");
        browser.Press("Add to the kit");
        browser.WaitFor("does not go out of date");
        foreach (
            var (label, text) in new[]
            {
                ("Name of the room", "Laser room"),
                ("Where it hangs", "by the door"),
                ("Nearest alarm point", "red box"),
                ("Way out", "back stairs"),
                ("Meeting point", "old oak"),
                ("Number of the fire service", "999"),
                ("Who is told, however small the fire", "the steward"),
            }
        )
            browser.Type(label, text);
        Choose(browser, "Extinguisher chosen near the machines", "CO₂");
        browser.Press("Save the room");
        browser.WaitGone("The room is not described");

        browser.Press("Calendar");
        Choose(browser, "What", "steward on duty");
        Choose(browser, "Steward", "Ada Quarry");
        Date(browser, "First day", "2026-11-24");
        browser.Type("From, such as 09:30", "10:00");
        browser.Type("To", "21:00");
        foreach (var day in new[] { "Mon", "Tue", "Wed", "Thu", "Fri" })
            Tick(browser, day);
        Date(browser, "Last day", "2027-03-31");
        browser.Press("Save");
        browser.WaitFor("every Monday and Tuesday and Wednesday and Thursday and Friday, 10:00 to 21:00, until 31 Mar 2027");

        browser.Press("People");
        browser.Type("Given name", "Ben");
        browser.Type("Family name", "Hazel");
        browser.Press("Add the person");
        browser.Press("Ben Hazel", ".accountlist");
        browser.WaitFor("House agreement not signed yet");
        browser.Press("Ada Quarry", ".accountlist");
        browser.WaitFor("founding sign-off on a machine without trainers");
        Choose(browser, "On", "Robin");
        browser.Type("What it rests on", "Maker’s two-day course; the paper is in the binder.");
        browser.Press("Save the founding sign-off");
        browser.WaitGone("Nobody trains on Robin");
        // Its commissioning sheet asks for measurements: the keeper sees what is left, and the first induction waits for none of it.
        browser.WaitFor("Not shown of Robin: a commissioning sheet");

        browser.Open("/training");
        browser.WaitFor("Nobody has confirmed it yet");
        browser.Press("Ben Hazel");
        browser.Unfold("By a note alone");
        browser.Type("What you saw", "The whole start-up and one cut, nothing missed.");
        browser.Press("Sign off for Robin");
        browser.WaitFor("Signed off for Robin.");
        clock.Elapsed.TotalMinutes.ShouldBeLessThan(5, "a person types more slowly, but has thirty");
        browser.Open("/emergency/robin");
        browser.WaitFor("CALL 999");
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"From nothing to the first induction in {clock.Elapsed.TotalSeconds:0} s of typing."
        );
    }

    [Fact]
    public void Steward_WritesAClosure_SeesWhatItHits_AndEndsIt()
    {
        using var browser = new Browser(server.Address).As("steward", "/house/calendar");
        browser.Type("In a few words", "Chimney sweep");
        Date(browser, "First day", "2026-11-25");
        browser.Type("From, such as 09:30", "10:00");
        browser.Type("To", "20:00");
        browser.Press("See what it affects");
        browser.WaitFor("Not saved yet. 1 time, and");
        browser.WaitFor("bookings fall into them");
        browser.Press("Save");
        browser.WaitFor("Saved.");
        browser.WaitFor("Chimney sweep, 25 Nov 2026, 10:00 to 20:00");
        var line = browser
            .Driver.FindElements(Css.By("[data-plan]"))
            .First(l => l.Text.Contains("Chimney sweep", StringComparison.Ordinal))
            .GetAttribute("data-plan");
        browser.Press("End it", $"[data-plan='{line}']");
        browser.Press("End it from now", $"[data-plan='{line}']");
        browser.WaitGone("Chimney sweep, 25 Nov");
        browser.Type("In a few words", "No day given");
        browser.Press("Save");
        browser.WaitFor("Give the first day");
        browser.Field("In a few words").GetAttribute("value").ShouldBe("No day given", "what was typed is kept");
    }

    [Fact]
    public void Keeper_SchedulesARule_AndBothVersionsCanBeCompared()
    {
        using var browser = new Browser(server.Address).As("keeper", "/house/rules");
        browser.Press("Change the rules");
        browser.Type("Grace before a no-show’s time is released, min", "25");
        browser.Press("Change the rules now");
        browser.WaitFor("Write the reason in a sentence.");
        browser.Type("Why", "Trains are late in winter.");
        Date(browser, "In force from (empty: now)", "2027-01-01");
        browser.Press("Schedule the change");
        browser.WaitFor("From Fri 1 Jan 00:00, to come");
        browser.WaitFor("Grace before a no-show’s time is released: 15 to 25 min");
    }

    /// <summary>Nobody types somebody else's password: the keeper hands out a link, and it serves once.</summary>
    [Fact]
    public void Keeper_AddsAPerson_WhoSetsTheirPasswordByTheLink()
    {
        using var keeper = new Browser(server.Address).As("keeper", "/house/people");
        keeper.Type("Given name", "Wilhelmina");
        keeper.Type("Family name", "Featherstonehaugh-Okonkwo");
        keeper.Type("Sign-in name (may stay empty)", "wilhelmina");
        keeper.Press("Add the person");
        keeper.WaitFor("For the new person, and nobody else");
        var code = keeper.Find("[aria-label='Link to set a password'] b").Text;
        using var browser = new Browser(server.Address);
        browser.Open("/invite");
        browser.Type("Code from your keeper", code.ToLowerInvariant());
        browser.Type("Your password, at least 10 characters", "short");
        browser.Press("Set the password");
        browser.WaitFor("At least 10 characters");
        browser.Field("Code from your keeper").GetAttribute("value").ShouldBe(code.ToLowerInvariant(), "what was typed is kept");
        browser.Type("Your password, at least 10 characters", "a long quiet river");
        browser.Press("Set the password");
        browser.WaitFor("The link is used up");
        browser.Press("Sign in");
        browser.Type("Name", "wilhelmina");
        browser.Type("Password", "a long quiet river");
        browser.Press("Sign in");
        browser.WaitFor("Wilhelmina Featherstonehaugh-Okonkwo");
        browser.Open($"/invite/{code}");
        browser.Type("Your password, at least 10 characters", "another long river");
        browser.Press("Set the password");
        browser.WaitFor("was used, has ended");
    }

    /// <summary>Every field of the rules is in force: none is kept for later.</summary>
    [Fact]
    public void Forms_HaveNoFieldThatDecidesNothingYet()
    {
        using var browser = new Browser(server.Address).As("keeper", "/house/rules");
        browser.Press("Change the rules");
        browser.WaitFor("Walk-up: booked at the machine", "less than 30 minutes before it starts");
        browser.Text.ShouldNotContain("in force once");
    }

    /// <summary>
    /// The card at the machine is kept by the browser: the server ends, the card stays, the cards of the other machines too.
    /// </summary>
    [Fact]
    public async Task EmergencyCard_StaysReadable_WhenTheServerIsGone()
    {
        await using var db = await TestDatabase.Demo();
        using var gone = await ServerProcess.Start(db);
        using var browser = new Browser(gone.Address);
        browser.Open("/emergency/heron");
        browser.WaitFor("LID SHUT, EXTRACTION ON");
        browser.Wait(() => browser.Run<bool>("return !!navigator.serviceWorker.controller"), "the browser keeps the card");
        browser.Open("/emergency/heron");
        browser.WaitFor("LID SHUT, EXTRACTION ON");
        browser.Wait(
            () =>
                (bool)
                    browser.Driver.ExecuteAsyncScript("const done = arguments[0]; caches.match('/emergency/wren').then((r) => done(!!r))")!,
            "the other cards too"
        );
        gone.Kill();
        browser.Open("/emergency/heron");
        browser.WaitFor("red button, right of the lid");
        browser.Open("/emergency/wren");
        browser.WaitFor("Switching this machine off also stops its extraction.");
    }

    [Fact]
    public void Newcomer_TakesTheirDataAway_AndReadsTheAgreement()
    {
        using var browser = new Browser(server.Address).As("newcomer");
        browser.Press("Rowan Teasel");
        browser.WaitFor("I stay with a running laser");
        browser.Find("a[download]").GetAttribute("href")!.ShouldEndWith("/api/me/data");
        var data = (string)
            browser.Driver.ExecuteAsyncScript("const done = arguments[0]; fetch('/api/me/data').then((r) => r.text()).then(done)")!;
        data.ShouldContain("\"Rowan\"");
    }
}
