using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.People;

public class NamesTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static List<string> Names(Answer people) =>
        [.. people.Body.GetProperty("items").EnumerateArray().Select(p => p.GetProperty("name").GetString()!)];

    [Fact]
    public async Task People_ToAMember_AreAFirstNameAndInitial_MinorsInitialsOnly()
    {
        using var member = await house.As("member");
        var answer = await member.Get("/api/people");
        var names = Names(answer);
        names.ShouldContain("Tamsin O.");
        names.ShouldContain("Ines Calloway", "oneself is whole");
        names.ShouldNotContain(n => n.Contains("Okoro", StringComparison.Ordinal));
        names.ShouldContain("E. C.", "Elias Cobb is fifteen");
        answer.Body.ToString().ShouldNotContain("Elias");
        using var steward = await house.As("steward");
        Names(await steward.Get("/api/people")).ShouldContain("Elias Cobb");
    }

    [Fact]
    public async Task Bookings_ToAMember_NameOthersShortly()
    {
        using var member = await house.As("member");
        var names = (await member.Get("/api/bookings"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Where(b => !b.GetProperty("mine").GetBoolean())
            .Select(b => b.GetProperty("name").GetString()!)
            .ToList();
        names.Count.ShouldBeGreaterThan(5);
        names.ShouldAllBe(n => n.EndsWith('.'));
    }

    [Fact]
    public async Task PauseReason_IsSeenByThePersonAndStewardsOnly()
    {
        const string reason = "Left the lid open twice.";
        using var steward = await house.As("steward");
        (await steward.Post("/api/people/m-5/pauses", new { reason })).Status.ShouldBe(System.Net.HttpStatusCode.Created);
        (await steward.Get("/api/people")).Body.ToString().ShouldContain(reason);
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get("/api/me")).Body.ToString().ShouldContain(reason);
        foreach (var other in new[] { "member", "trainer", "keeper" })
        {
            using var api = await house.As(other);
            (await api.Get("/api/people")).Body.ToString().ShouldNotContain(reason);
        }
    }

    [Fact]
    public async Task Stop_ByAMinor_ShowsInitialsToMembers()
    {
        await house.Db.Tamper(
            "insert into house.stop (id, machine_id, set_by, text_id, held, recorded) select gen_random_uuid(), 'wren', id, "
                + "gen_random_uuid(), '[2026-11-24 09:00Z,)', '[2026-11-24 09:00Z,)' from people.person where given_name = 'Elias'"
        );
        using var member = await house.As("member");
        var watch = (await member.Get("/api/watch")).Body.ToString();
        watch.ShouldContain("E. C.");
        watch.ShouldNotContain("Elias");
    }
}
