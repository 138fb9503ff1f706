using System.Net;
using NodaTime;
using Shouldly;
using VelvetGate.Core.People;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.People;

/// <summary>
/// A password is set by its person alone, by a link that serves once; who may act for others needs a second pair of eyes.
/// </summary>
public class InviteTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static string CodeOf(Answer made) => made.Body.GetProperty("code").GetString()!;

    [Fact]
    public async Task Invite_ServesOnceEndsEverySessionAndStandsInTheRecord()
    {
        using var keeper = await house.As("keeper");
        using var member = await house.As("member");
        using var visitor = await house.As(null);
        var first = CodeOf(await keeper.Post("/api/people/m-4/invite"));
        var made = await keeper.Post("/api/people/m-4/invite");
        made.Body.GetProperty("link").GetString().ShouldStartWith("http://127.0.0.1:5080/invite/");
        (await visitor.Post($"/api/invites/{first}", new { password = "a long quiet river" })).Code.ShouldBe(
            "invite.over",
            "a newer one was made"
        );
        (await visitor.Post($"/api/invites/{CodeOf(made)}", new { password = "short" })).Fields.ShouldBe(["password"]);
        (
            await visitor.Post($"/api/invites/{CodeOf(made).Replace("-", "").ToLowerInvariant()}", new { password = "a long quiet river" })
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await visitor.Post($"/api/invites/{CodeOf(made)}", new { password = "another long river" })).Code.ShouldBe("invite.over");
        (await member.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        await member.SignIn("member", "a long quiet river");
        (await member.Get("/api/messages")).Body.ToString().ShouldContain("Your password was set");
        (await keeper.Get("/api/ledger?before=9999999")).Body.ToString().ShouldContain("person.passwordSet");
        (
            await house
                .Db.App.CreateCommand(
                    $"select count(*) from people.invite where code_hash = '{CodeOf(made)}' or code_hash like '%{CodeOf(made)[..5]}%'"
                )
                .ExecuteScalarAsync(TestContext.Current.CancellationToken)
        ).ShouldBe(0L, "the code itself is kept nowhere");
    }

    [Fact]
    public async Task Invite_AfterItsEnd_IsOver()
    {
        using var keeper = await house.As("keeper");
        using var visitor = await house.As(null);
        var code = CodeOf(await keeper.Post("/api/people/m-5/invite"));
        house.Clock.Now += Invites.Lasts;
        (await visitor.Post($"/api/invites/{code}", new { password = "a long quiet river" })).Code.ShouldBe("invite.over");
        house.Clock.Now = TestDatabase.Now;
    }

    /// <summary>A keeper does not become a steward by setting a password: a second keeper or the countersigner agrees.</summary>
    [Fact]
    public async Task Invite_OfASteward_WaitsForASecondPairOfEyes()
    {
        await house.Db.Tamper(
            "insert into people.role (person_id, role, held, recorded) values ('m-3', 'countersigner', tstzrange('2026-01-01', "
                + "null), tstzrange('2026-01-01', null))"
        );
        using var keeper = await house.As("keeper");
        using var countersigner = await house.As("trainer");
        using var visitor = await house.As(null);
        var made = await keeper.Post("/api/people/m-2/invite");
        made.Body.GetProperty("waits").GetBoolean().ShouldBeTrue();
        (await visitor.Post($"/api/invites/{CodeOf(made)}", new { password = "a long quiet river" })).Code.ShouldBe("invite.waits");
        (await keeper.Post($"/api/invites/{made.Id}/agree")).Code.ShouldBe("invite.self");
        (await countersigner.Get("/api/invites"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single()
            .GetProperty("id")
            .GetString()
            .ShouldBe(made.Id);
        (await countersigner.Post($"/api/invites/{made.Id}/agree")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await visitor.Post($"/api/invites/{CodeOf(made)}", new { password = "a long quiet river" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await countersigner.Get("/api/invites")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
    }

    [Theory]
    [InlineData("m-2", "m-1", 0, 0, 0, "invite.singleHanded")]
    [InlineData("m-2", "m-1", 0, 0, 24, null)]
    [InlineData("m-2", "m-1", 1, 0, 48, "invite.self")]
    [InlineData("m-1", "m-1", 0, 0, 48, "invite.self")]
    public void MayAgree_ByTheMakerAlone_OnlyWhereThereIsNobodyElseAndAfterADay(
        string person,
        string by,
        int keepers,
        int countersigners,
        int hoursAfter,
        string? code
    ) =>
        Invites
            .MayAgree(person, "m-1", by, keepers, countersigners, TestDatabase.Now, TestDatabase.Now + Duration.FromHours(hoursAfter))
            ?.Code.ShouldBe(code);
}
