using OpenQA.Selenium;
using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

[Collection(Houses.Sheets)]
public sealed class SheetTests(LiveServer server) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-files-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void BroughtInSheet_FromTagToClearance_AndAReportPutsItAway()
    {
        using var member = new Browser(server.Address).As("member", "/sheets");
        member.Press("Register a sheet you bring");
        member.Press("Give it a tag");
        member.WaitFor("Choose the material that it was sold as");
        new SelectElement(member.Field("Sold as")).SelectByText("Acrylic, opaque");
        member.Type("Measured thickness", "1/8 in");
        member.Type("Width", "30 cm");
        member.Type("Height", "200");
        member.Press("Give it a tag");
        member.WaitFor("Write the number on the sheet");
        var tag = member.Find(".ruledone a b").Text;

        member.Open($"/sheets/{tag}");
        var wrong = Path.Combine(_folder, "label.pdf");
        File.WriteAllText(wrong, "not a pdf at all");
        member.Find("#evidence-file").SendKeys(wrong);
        member.WaitFor("Evidence is a PDF, PNG or JPEG file, whatever its name says");
        var right = Path.Combine(_folder, "order page of a supplier with a very long name indeed.pdf");
        File.WriteAllText(right, "%PDF-1.4 order");
        member.Find("#evidence-file").SendKeys(right);
        member.WaitFor("order page of a supplier with a very long name indeed.pdf");

        using var steward = new Browser(server.Address).As("steward", "/sheets");
        steward.Type("Tag, typed or scanned", tag.Replace("-", "").ToLowerInvariant());
        steward.Press("Open the sheet");
        steward.WaitFor("Not cleared");
        steward.Press($"Clear {tag}");
        steward.WaitFor("Write what you saw");
        steward.Type("What you saw: label, order page, data sheet", "The order page names it.");
        steward.Press($"Clear {tag}");
        steward.WaitFor("Cleared to");
        member.WaitFor("Cleared to");

        using var visitor = new Browser(server.Address);
        visitor.Open($"/sheets/{tag}");
        visitor.WaitFor("Cleared to");
        visitor.Text.ShouldNotContain("Calloway");
        visitor.Text.ShouldContain("Sign in to use or report it");

        steward.Driver.FindElements(By.TagName("summary")).Single(s => s.Text == "Something is wrong with it").Click();
        steward.Type("Why, in a sentence", "It smelled of chlorine.");
        steward.Press("Report it");
        steward.WaitFor("Put away now");
        visitor.Driver.Navigate().Refresh();
        visitor.WaitFor("In quarantine: do not use it");
    }

    [Fact]
    public void Steward_TightensARuling_AndProposesAMilderOne()
    {
        using var steward = new Browser(server.Address).As("steward", "/materials/silicone");
        steward.Press("Change a ruling");
        new SelectElement(steward.Find("[aria-label='Range 1 standing']")).SelectByText("banned");
        steward.Press("See what it does");
        steward.WaitFor("stricter");
        steward.Press("Save the ruling");
        steward.WaitFor("Write the reason in a sentence");
        steward.Type("Why it changes", "White dust in the extraction.");
        steward.Press("Save the ruling");
        steward.WaitFor("Saved.");
        steward.Press("Close");
        steward.WaitFor("White dust in the extraction.");

        steward.Press("Change a ruling");
        new SelectElement(steward.Find("[aria-label='Range 1 standing']")).SelectByText("permitted");
        steward.Type("Why it changes", "The filter was changed.");
        steward.Press("Save the ruling");
        steward.WaitFor("so it waits");
        steward.WaitFor("A milder ruling waits");
        steward.Driver.FindElements(By.XPath("//button[.='Agree']")).ShouldBeEmpty("nobody agrees to their own");
        steward.Open("/watch");
        steward.WaitFor("Milder ruling proposed");
        steward.Open("/materials/silicone");
        steward.Type("Why, in a sentence", "Not now.");
        steward.Press("Withdraw");
        steward.WaitGone("A milder ruling waits");
    }

    [Fact]
    public void Shelf_AnswersWhatMayICut_ByAnyNameAndThickness()
    {
        using var member = new Browser(server.Address).As("member", "/materials");
        new SelectElement(member.Find("[aria-label='Machine']")).SelectByText("Wren");
        member.Type("Thickness", "7 mm");
        member.WaitGone("Solid wood, raw");
        member.Type("Thickness", "3 mm");
        member.WaitFor("Solid wood, raw");
        member.WaitGone("Vinyl record");
        member.Type("Thickness", "fat");
        member.Find(".shelfwish [role=alert]");
        member.Type("Thickness", Keys.Delete);
        member.Type("Find a material by any name", "leatherete");
        member.WaitFor("Imitation leather, polyurethane");
        member.WaitGone("Birch plywood, laser grade");
    }
}
