using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>What a phone in the workshop has to fetch before it shows anything.</summary>
[Collection(Houses.House)]
public class SizeTests(LiveServer server)
{
    private const int MostKb = 150;

    /// <summary>Script as it travels, compressed, until the door and then Watch rest.</summary>
    [Fact]
    public void DoorAndWatch_FetchLittleScript()
    {
        using var browser = new Browser(server.Address, untouched: true);
        browser.Open("/");
        browser.WaitFor("Sign in");
        Script(browser).ShouldBeLessThan(MostKb);
        // Without what the first visit left in the browser.
        using var watch = new Browser(server.Address, untouched: true).As("steward");
        watch.WaitFor("Needs a hand");
        Script(watch).ShouldBeInRange(60, MostKb, "the door and Watch, without the rooms that nobody went to");
    }

    private static double Script(Browser browser) =>
        browser.Number(
            """
            return performance.getEntriesByType('resource')
                .filter((r) => r.name.endsWith('.js') && r.initiatorType !== 'fetch')
                .reduce((sum, r) => sum + r.encodedBodySize, 0) / 1000
            """
        );
}
