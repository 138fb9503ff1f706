using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>
/// Every page at a desk and on a phone: readable by machines (axe), nothing wider than the window, no error in the console.
/// </summary>
[Collection(Houses.Look)]
public class LookTests(LiveServer server)
{
    private static readonly string[] Pages =
    [
        "/watch",
        "/ask",
        "/ask?operations=cut&material=birch-ply-laser&thickness=3+mm&machine=heron&tag=S-0118&run=18&start=2026-11-27T14:00:00Z",
        "/materials",
        "/materials/acrylic-clear",
        "/sheets",
        "/sheets/S-0118",
        "/identify",
        "/materials/requests",
        "/materials/files",
        "/list",
        "/list/kestrel",
        "/training?person=m-20",
        "/training/ladder",
        "/training/read/fire",
        "/training/paths",
        "/training/inductions",
        "/training/review",
        "/training/conduct/m-30",
        "/drawings",
        "/bookings",
        "/bookings/soonest?operations=cut&material=birch-ply-laser&thickness=3+mm&tag=S-0097&run=18",
        "/machines",
        "/upkeep",
        "/records",
        "/house/rules",
        "/house/calendar",
        "/me",
        "/emergency/wren",
    ];

    private static readonly string[] KeepersPages = ["/house/room", "/house/machines", "/house/commissioning", "/house/people?person=m-57"];

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void EveryPage_IsAccessible_FitsAcross_AndLogsNoError(bool phone)
    {
        using var browser = new Browser(server.Address, phone);
        browser.Open("/");
        browser.WaitFor("Sign in");
        Look(browser, "sign-in");
        browser.As("steward");
        foreach (var page in Pages)
        {
            // Fetched anew at a desk; on a phone as by a link.
            if (phone && !OfTheServer(page))
                browser.Go(page);
            else
                browser.Open(page);
            Rests(browser, page);
            Look(browser, page);
        }
        browser.Driver.Manage().Cookies.DeleteAllCookies();
        browser.As("keeper");
        foreach (var page in KeepersPages)
        {
            browser.Open(page);
            browser.Wait(() => browser.Is(".sheetgroup, .plainlist") && !browser.Is("[role=status].quiet"), $"{page} is there");
            Look(browser, page);
        }
        browser.Open("/house/machines");
        browser.Press("Add a machine");
        Look(browser, "a machine sheet");
        var errors = browser
            .Driver.Manage()
            .Logs.GetLog(LogType.Browser)
            .Where(l => l.Level == LogLevel.Severe && !l.Message.Contains("401", StringComparison.Ordinal))
            .Select(l => l.Message);
        errors.ShouldBeEmpty();
    }

    /// <summary>What a member, somebody new and a trainer see of each page is another page: lists without forms, and empty rooms.</summary>
    [Theory]
    [InlineData("newcomer")]
    [InlineData("member")]
    [InlineData("trainer")]
    public void EveryPage_IsAccessible_AsEveryRole(string role)
    {
        using var browser = new Browser(server.Address);
        browser.As(role);
        foreach (
            var page in Pages
                .Concat(["/house/room", "/house/machines"])
                .Except(["/records", "/identify", "/materials/files", "/training/review", "/training/conduct/m-30", "/emergency/wren"])
        )
        {
            if (OfTheServer(page))
                browser.Open(page);
            else
                browser.Go(page);
            Rests(browser, page);
            Look(browser, page);
        }
    }

    private static bool OfTheServer(string page) =>
        page.StartsWith("/list", StringComparison.Ordinal) || page.StartsWith("/emergency", StringComparison.Ordinal);

    private static void Rests(Browser browser, string page) =>
        browser.Wait(() => !browser.Is("[role=status].quiet, .unasked") || page == "/ask", $"{page} is there");

    internal static void Look(Browser browser, string page)
    {
        browser.FitsAcross().ShouldBeTrue($"{page} scrolls sideways");
        if (!browser.Run<bool>("return 'axe' in window"))
            browser.Driver.ExecuteScript(Axe);
        var found = (IReadOnlyCollection<object>?)
            browser.Driver.ExecuteAsyncScript(
                """
                const done = arguments[0]
                axe.run(document, { resultTypes: ['violations'], runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'], rules: { 'heading-order': { enabled: true } } }).then((r) =>
                    done(r.violations.map((v) => `${v.id}: ${v.help} (${v.nodes.slice(0, 3).map((n) => n.html.slice(0, 120)).join(' | ')})`)))
                """
            );
        found.ShouldNotBeNull().ShouldBeEmpty(page);
    }

    private static readonly string Axe = new Deque.AxeCore.Commons.BundledAxeScriptProvider().GetScript();

    [Fact]
    public void Phone_TheRailFoldsBehindOneButton_AndThePostsReadDownward()
    {
        using var browser = new Browser(server.Address, phone: true).As(
            "newcomer",
            "/ask?operations=cut&material=birch-ply-laser&thickness=3+mm&machine=heron&run=18&start=2026-11-27T14:00:00Z"
        );
        browser.Verdict().ShouldBe("Shut");
        var posts = browser.Driver.FindElements(Css.By("[data-post]"));
        posts.Count.ShouldBe(7);
        posts.Select(p => p.Location.Y).ShouldBeInOrder();
        browser.Press("Rooms");
        browser.Press("Bookings");
        browser.WaitFor("You have nothing booked");
    }

    /// <summary>Things to touch are 44 px high on a phone (WCAG 2.5.5 gives the figure; our look asks for it).</summary>
    [Fact]
    public void Phone_TheMainActions_AreLargeEnoughForAThumb()
    {
        using var browser = new Browser(server.Address, phone: true).As("steward", "/machines");
        browser.Button("Stop Heron").Size.Height.ShouldBeGreaterThanOrEqualTo(44);
        browser.Button("Rooms").Size.Height.ShouldBeGreaterThanOrEqualTo(44);
    }
}
