using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

public sealed class RoomsTests(LiveServer server) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-files-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private string File(string name, string text)
    {
        var path = Path.Combine(_folder, name);
        System.IO.File.WriteAllText(path, text);
        return path;
    }

    [Fact]
    public void Trainer_SignsANewcomerOff_AndTheGateChangesAtOnce()
    {
        const string question = "/ask?operations=cut&material=mat-board&thickness=1.4+mm&machine=wren&run=5&start=2026-11-27T14:00:00Z";
        using var newcomer = new Browser(server.Address).As("newcomer", question);
        newcomer.Verdict();
        newcomer.Standing("training").ShouldBe("shut");
        using var trainer = new Browser(server.Address).As("trainer", "/training?person=m-5");
        new OpenQA.Selenium.Support.UI.SelectElement(trainer.Field("For")).SelectByText("Wren");
        trainer.Unfold("By a note alone");
        trainer.Press("Sign off for Wren");
        trainer.WaitFor("Write what you saw the person do");
        trainer.Type("What you saw", "Focus, extraction, frame and stop without a prompt.");
        trainer.Press("Sign off for Wren");
        trainer.WaitFor("Signed off for Wren.");
        newcomer.Wait(() => newcomer.Standing("training") is "clear" or "caution", "the rope falls by itself in the newcomer's window");
    }

    [Fact]
    public void Steward_PausesAndReleases_WithReasons()
    {
        using var steward = new Browser(server.Address).As("steward", "/training?person=m-21");
        steward.Unfold("Pause");
        steward.Press("Pause until released");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why, for the person and the stewards", "Left the room with the beam on.");
        steward.Press("Pause until released");
        steward.WaitFor("Paused since");
        steward.WaitFor("Left the room with the beam on.");
        steward.Type("Why it ends", "We talked; a supervised run comes first.");
        steward.Press("Release");
        steward.WaitGone("Paused since");
    }

    [Fact]
    public void Bench_RealFile_ShowsSizeLengthsAndNumberedFindings_AndGoesToTheGate()
    {
        using var browser = new Browser(server.Address).As("member", "/bench");
        var file = File("panel with a rather long name for a ship's lantern, third try.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' stroke='#f00'><rect x='5' y='5' width='50' height='60'/><rect x='55' y='5' width='50' height='60'/></g><path d='M10 10h20' fill='none' stroke='#00aa00'/><text x='10' y='70'>Fore</text></svg>");
        browser.There("input[type=file]").SendKeys(file);
        browser.WaitFor("Must mend");
        browser.Driver.FindElements(By.CssSelector(".findings li")).Select(f => f.GetAttribute("data-code")).ShouldBe(["line.duplicate", "colour.unknown", "text.live"]);
        browser.WaitFor("60 mm of cut line drawn more than once");
        browser.Driver.FindElements(By.CssSelector(".pinmark")).Count.ShouldBe(3);
        browser.Find(".docket").Text.ShouldContain("440");
        browser.Type("Thickness", "1/8 in");
        browser.WaitFor("Run time, rough");
        browser.Type("Thickness", "thin");
        browser.WaitFor("is not a length");
        browser.Press("Take it to the gate");
        browser.WaitFor("ship's lantern");
    }

    [Fact]
    public void Bench_DxfFile_StandsUpright_WithItsFindings()
    {
        using var browser = new Browser(server.Address).As("member", "/bench");
        const string line = "0\nLINE\n62\n1\n10\n10\n20\n100\n11\n90\n21\n100\n";
        browser.There("input[type=file]").SendKeys(File("bracket.dxf", $"0\nSECTION\n2\nENTITIES\n{line}{line}0\nCIRCLE\n62\n1\n10\n50\n20\n30\n40\n20\n0\nHATCH\n2\nSOLID\n0\nENDSEC\n0\nEOF\n"));
        browser.WaitFor("80 mm of cut line drawn more than once");
        browser.WaitFor("1 HATCH: not drawn here");
        var sheet = browser.Number("const box = document.querySelector('.sheetview').getBoundingClientRect(); return box.top + box.height / 2");
        var pin = browser.Number("return document.querySelector('.pinmark circle').getBoundingClientRect().top");
        pin.ShouldBeLessThan(sheet, "the line at y = 100 stands in the upper half, the circle at y = 30 below");
        LookTests.Look(browser, "a DXF on the bench");
    }

    [Fact]
    public void Bench_NearlyDoubledLine_IsShownAndMeasured_AndTheViewMovesByKeys()
    {
        using var browser = new Browser(server.Address).As("member", "/bench");
        browser.There("input[type=file]").SendKeys(File("near.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' stroke='#f00'><path d='M5 5h100M10 5.12h60M5 20h50M5 40h100M10 40.15h30'/></g><path d='M9 60h20' fill='none' stroke='#00f'/></svg>"));
        browser.WaitFor("90 mm of cut line runs nearer to another cut than the beam is wide (0.2 mm)");
        browser.Driver.FindElements(By.CssSelector(".pinmark")).Count.ShouldBe(browser.Driver.FindElements(By.CssSelector(".findings li")).Count);
        browser.Find("li[data-code='line.near'] button").Click();
        browser.WaitFor("0.12 mm apart");
        browser.Press("Next place");
        browser.WaitFor("0.15 mm apart");
        browser.WaitFor("2 of 2");
        var before = browser.Find(".pinmark.chosen").GetAttribute("transform");
        var sheet = browser.Find(".sheetview");
        sheet.SendKeys("-" + Keys.ArrowLeft);
        browser.Find(".pinmark.chosen").GetAttribute("transform").ShouldNotBe(before);
        sheet.SendKeys("0");
        browser.Driver.FindElements(By.XPath("//button[.='All of it'][@disabled]")).Count.ShouldBe(1);
        browser.Find("[id='layer-#0000ff']").Click();
        browser.Find("[id='layer-#0000ff']").Selected.ShouldBeFalse();
        LookTests.Look(browser, "a nearly doubled line on the bench");
    }

    [Fact]
    public void Bench_Mend_ShowsBeforeAndAfter_AndPutsTheCopyOnTheBench()
    {
        using var browser = new Browser(server.Address).As("member", "/bench");
        browser.There("input[type=file]").SendKeys(File("tiles.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' stroke='#f00'><rect x='5' y='5' width='40' height='30'/><rect x='45' y='5' width='40' height='30'/><path d='M5 60h60M5 60.1h40'/></g></svg>"));
        browser.WaitFor("30 mm of cut line drawn more than once");
        browser.Type("Close gaps up to", "a little");
        browser.Press("Show what it does");
        browser.WaitFor("is not a length");
        browser.Field("Close gaps up to").GetAttribute("value").ShouldBe("a little");
        browser.Type("Close gaps up to", "0.1 mm");
        browser.Press("Show what it does");
        browser.WaitFor("30 mm of doubled line taken out");
        browser.WaitFor("40 mm of nearly doubled line taken out");
        browser.Find("[aria-label='Findings']").Text.ShouldNotContain("drawn more than once");
        browser.Press("Before");
        browser.Find("[aria-label='Findings']").Text.ShouldContain("drawn more than once");
        browser.Press("Put it on the bench");
        browser.WaitFor("tiles, mended.svg");
        browser.WaitGone("drawn more than once");
        LookTests.Look(browser, "a mended drawing on the bench");
    }

    [Fact]
    public void Bench_BrokenFile_SaysWhatToDo_AndKeepsThePage()
    {
        using var browser = new Browser(server.Address).As("trainer", "/bench");
        browser.WaitFor("No drawing on the bench");
        browser.There("input[type=file]").SendKeys(File("broken.svg", "<svg xmlns='http://www.w3.org/2000/svg'><path"));
        browser.WaitFor("not well-formed SVG");
        browser.Text.ShouldContain("No drawing on the bench");
    }

    [Fact]
    public void Materials_FoundByAnyName_TellTwinsAndWhyNever()
    {
        using var browser = new Browser(server.Address).As("member", "/materials");
        browser.Type("Find a material by any name", "leatherette");
        browser.WaitGone("Birch plywood, laser grade\n");
        browser.Press("Imitation leather or cloth, vinyl-coated");
        browser.WaitFor("no house can loosen it");
        browser.WaitFor("hydrogen chloride");
        browser.WaitFor("The eye cannot tell");
        browser.Type("Find a material by any name", "unobtainium");
        browser.WaitFor("Nothing called");
    }

    [Fact]
    public async Task Desk_LogsARunThatWasForgotten()
    {
        await server.Db.Tamper("delete from run.log where number = (select max(number) from run.log)");
        using var browser = new Browser(server.Address).As("steward", "/bookings");
        browser.WaitFor("to log");
        browser.Press("Log the run");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Field("How it came out")).SelectByText("a flame that stayed");
        browser.WaitFor("Tell a steward now");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Field("How it came out")).SelectByText("not cut through");
        browser.Type("Settings and remarks", "70 %, 18 mm/s, lens hazy");
        browser.Press("Log it");
        browser.WaitFor("70 %, 18 mm/s, lens hazy");
        browser.WaitGone("Log it");
        browser.Find("[data-run]").Text.ShouldContain("not cut through");
    }

    [Fact]
    public void Records_ShowTheChainNewestFirst()
    {
        using var browser = new Browser(server.Address).As("keeper", "/records");
        browser.WaitFor("Each entry is chained");
        browser.Find("table.plain tbody tr");
        var numbers = browser.Driver.FindElements(By.CssSelector("table.plain tbody tr td:first-child")).Select(c => c.Text).Where(t => t.Length > 0).Select(int.Parse).ToList();
        numbers.Count.ShouldBeGreaterThan(100);
        numbers.ShouldBe(numbers.OrderDescending());
        using var member = new Browser(server.Address).As("member");
        member.Driver.FindElements(By.CssSelector("nav.rail a")).ShouldNotContain(a => a.Text == "Records");
    }

    [Fact]
    public void SignIn_WrongPassword_SaysSoAndKeepsTheName_AndDemoNamesAreOneClick()
    {
        using var browser = new Browser(server.Address);
        browser.Open("/");
        browser.Type("Name", "somebody");
        browser.Type("Password", "guess");
        browser.Press("Sign in");
        browser.WaitFor("Name or password is not right");
        browser.Field("Name").GetAttribute("value").ShouldBe("somebody");
        browser.Press("member");
        browser.WaitFor("Ines Calloway");
        browser.Press("Sign out");
        browser.WaitFor("A demo house");
    }
}
