using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.Sheets)]
public sealed class RequestTests(LiveServer server) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-files-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void Request_WithItsDataSheet_EndsAsOneClearedSheet()
    {
        using var member = new Browser(server.Address).As("member", "/materials");
        member.Type("Find a material by any name", "zibeline board");
        member.WaitFor("Nothing called “zibeline board”");
        member.Press("Ask for a ruling");
        member.Wait(() => member.Field("What it is called").GetAttribute("value") == "zibeline board", "the name is taken along");
        member.Type("What it is called", Keys.Delete);
        member.Press("Ask the stewards");
        member.WaitFor("Say what it is called");
        member.Type("What it is called", "Zibeline board");
        member.Type("Who sells it", "Harbour Sheet Supply");
        member.Type("What you want to do with it", "Lampshades for the spring fair.");
        member.Press("Ask the stewards");
        member.WaitFor("waits for a steward");
        member.Driver.FindElements(By.XPath("//summary[.='Answer it']")).ShouldBeEmpty("nobody answers their own");
        var sheet = Path.Combine(_folder, "data.pdf");
        File.WriteAllText(sheet, "%PDF-1.4 data");
        member.Find("[data-request='Zibeline board'] input[type=file]").SendKeys(sheet);
        member.WaitFor("data.pdf");

        using var steward = new Browser(server.Address).As("steward", "/watch");
        steward.WaitFor("Ruling asked for");
        steward.Open("/materials/requests");
        steward.WaitFor("Lampshades for the spring fair.");
        var request = "[data-request='Zibeline board']";
        steward.Wait(
            () =>
            {
                steward.Find("summary", request).Click();
                return steward.Driver.FindElements(Css.By($"{request} details[open]")).Count > 0;
            },
            "the answer opens"
        );
        new SelectElement(steward.Field("Answer")).SelectByText("This one sheet, by arrangement");
        steward.Press("Send the answer");
        steward.WaitFor("Choose the material whose rulings hold for it");
        new SelectElement(steward.Field("The rulings of this hold for it")).SelectByText("MDF");
        steward.Type("Measured thickness", "3");
        steward.Type("Width", "40 cm");
        steward.Type("Height", "30 cm");
        steward.Type("What you tell them", "The data sheet says wood fibre and urea resin.");
        steward.Press("Send the answer");
        steward.WaitGone("Lampshades for the spring fair.");

        member.WaitFor("may be used as one sheet");
        member.WaitFor("The data sheet says wood fibre and urea resin.");
        var tag = member.Driver.FindElement(Css.By($"{request} a[href^='/sheets/']")).Text;
        member.Open($"/sheets/{tag}");
        member.WaitFor("Cleared to");
        member.WaitFor("data.pdf");
    }

    [Fact]
    public void RulingsFile_ShowsTheBadRow_ForgetsItWithTheNextFile_AndStores()
    {
        const string heading = "material,laser,operation,min mm,max mm,standing,evidence,reasons,hazard,handling,filtered asks\n";
        using var steward = new Browser(server.Address).As("steward", "/materials/files");
        Choose("bad.csv", heading + "felt-wool,co2,saw,0,3,permitted,declared,,Smoke.,,no\n");
        steward.Press("See what the rulings would do");
        steward.WaitFor("Nothing is saved while a row is wrong.");
        steward.WaitFor("Line 2, operation");
        steward.Button("Bring them in").Enabled.ShouldBeFalse();

        Choose("good.csv", heading + "felt-wool,co2,cut,0,2,permitted,clearedTag,fire-melt,Smells of burnt hair.,,no\n");
        steward.WaitGone("Nothing is saved while a row is wrong.");
        steward.Press("See what the rulings would do");
        steward.WaitFor("Changes 1 material");
        steward.Press("Bring them in");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why they change", "Thick felt smoulders inside.");
        steward.Press("See what the rulings would do");
        steward.WaitFor("stricter");
        steward.Press("Bring them in");
        steward.WaitFor("Brought in.");

        steward.Open("/materials/felt-wool");
        steward.WaitFor("Thick felt smoulders inside.");
        var boxes = steward.Driver.FindElements(Css.By("input[aria-label^='Compare CO₂, cut']"));
        boxes.Count.ShouldBeGreaterThan(1);
        foreach (var box in boxes.Take(2))
            box.Click();
        var side = steward.Find("[aria-label='Side by side']").Text;
        side.ShouldContain("Smells of burnt hair.");
        side.ShouldContain("on the list from the start");

        void Choose(string name, string text)
        {
            var path = Path.Combine(_folder, name);
            File.WriteAllText(path, text);
            steward.There("#rulings-file").SendKeys(path);
        }
    }

    [Fact]
    public void SheetsFile_IsLookedAt_ThenRegistered()
    {
        using var steward = new Browser(server.Address).As("steward", "/materials/files");
        var path = Path.Combine(_folder, "stock.csv");
        File.WriteAllText(
            path,
            "material,thickness,width,height,supplier,batch,count\ncork,3 mm,60 cm,40 cm,Harbour Sheet Supply,Zibeline "
                + "order,3\nnothing,3 mm,60 cm,40 cm,,,1\n"
        );
        steward.There("#sheets-file").SendKeys(path);
        steward.Press("See what would be registered");
        steward.WaitFor("Line 3, material");
        steward.Button("Register them").Enabled.ShouldBeFalse();
        var mended = Path.Combine(_folder, "mended.csv");
        File.WriteAllText(
            mended,
            "material,thickness,width,height,supplier,batch,count\ncork,3 mm,60 cm,40 cm,Harbour Sheet Supply,Zibeline order,3\n"
        );
        steward.There("#sheets-file").SendKeys(mended);
        steward.WaitGone("Line 3, material");
        steward.Press("See what would be registered");
        steward.WaitFor("1 row, 3 sheets.");
        steward.Press("Register them");
        steward.WaitFor("Registered: S-");
        steward.Open("/sheets");
        steward.WaitFor("Cork");
    }
}
