using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>Where a question starts, several sheets in one, a colour's operation in one press, and the password once more.</summary>
[Collection(Houses.House)]
public sealed class DoorsTests(LiveServer server) : IDisposable
{
    private readonly string _file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.svg");

    public void Dispose() => File.Delete(_file);

    [Fact]
    public void FirstVisit_OffersDoors_AndTheLastQuestionComesBack()
    {
        using var browser = new Browser(server.Address).As("trainer", "/ask");
        browser.WaitFor("I have a drawing");
        browser.Text.ShouldNotContain("The last question again");
        browser.Press("I have a sheet");
        browser.WaitFor("a sheet nobody has cleared");
        browser.Open(
            "/ask?operations=cut&material=birch-ply-laser&thickness=3+mm&machine=heron&tag=S-0097&run=18&start=2026-11-27T14:00:00Z"
        );
        browser.Verdict().ShouldNotBeEmpty();
        browser.Open("/ask");
        browser.WaitFor("The last question again: cut 3 mm birch plywood, laser grade on Heron");
        browser.Find(".firstdoors a:last-child").Click();
        browser.Wait(() => browser.Driver.Url.Contains("tag=S-0097", StringComparison.Ordinal), "the question of before");
        browser.Driver.Url.ShouldNotContain("2026-11-27T14:00");
    }

    [Fact]
    public void SecondSheet_IsAskedInTheSameTime_AndTakenOutAgain()
    {
        using var browser = new Browser(server.Address).As(
            "member",
            "/ask?operations=cut&material=birch-ply-laser&thickness=3+mm&machine=heron&tag=S-0097&run=18&start=2026-11-27T14:00:00Z"
        );
        browser.Verdict().ShouldNotBeEmpty();
        browser.Press("Add another sheet or drawing for the same time");
        browser.WaitFor("Still to fill in: the thickness, the material");
        browser.Fill("Thickness 2", "4 mm");
        browser.Fill("Material 2", "ABS");
        browser.WaitFor("is banned here");
        LookTests.Look(browser, "a question of two sheets");
        browser.Driver.Navigate().Refresh();
        browser.WaitFor("is banned here");
        browser.Driver.FindElement(Css.By("[aria-label='take out the second sheet']")).Click();
        browser.WaitGone("is banned here");
    }

    [Fact]
    public void UnknownColour_GetsItsOperationInOnePress_AndGivesItBack()
    {
        File.WriteAllText(
            _file,
            "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><path d='M10 10h50v30h-50z' "
                + "fill='none' stroke='#12ab34'/></svg>"
        );
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser.There("input[type=file]").SendKeys(_file);
        browser.WaitFor("#12ab34 has no operation in this house");
        LookTests.Look(browser, "a drawing with a colour to name");
        browser.Press("Cut", "[aria-label='What #12ab34 does in this drawing']");
        browser.WaitFor("cut, for this drawing only");
        browser.WaitFor("None of the faults that are looked for was found");
        browser.Text.ShouldContain("Not looked at");
        browser.Press("Take it back");
        browser.WaitFor("#12ab34 has no operation in this house");
        browser.Press("Delete this drawing");
        browser.Press("Delete it");
        browser.WaitGone(Path.GetFileName(_file));
    }

    [Fact]
    public async Task Role_GivenLongAfterTheSignIn_AsksForThePassword_AndGoesOn()
    {
        using var browser = new Browser(server.Address).As("keeper", "/house/people?person=m-41");
        await server.Db.Tamper("update people.session set proved = now() - interval '20 minutes' where person_id = 'm-1'");
        browser.WaitFor("Give the role");
        browser.Press("Give the role");
        browser.WaitFor("Give your password again");
        browser.Type("Password", "guess");
        browser.Press("Go on");
        browser.WaitFor("That is not your password");
        browser.Type("Password", "ropewalk");
        browser.Press("Go on");
        browser.WaitGone("Give your password again");
    }

    [Fact]
    public void Month_ShowsTheRotaDayByDay_AndTurnsOver()
    {
        using var browser = new Browser(server.Address).As("member", "/house/calendar");
        browser.WaitFor("November 2026");
        browser.Driver.FindElements(Css.By(".month td .line.duty")).Count.ShouldBeGreaterThan(20);
        browser.Find(".month td.today").Text.ShouldContain("24");
        browser.Press("Next month");
        browser.WaitFor("December 2026");
        browser.Driver.FindElements(Css.By(".month td.today")).ShouldBeEmpty();
        browser.WaitFor("Youth company");
    }
}
