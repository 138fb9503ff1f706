using System.Net;
using System.Text.Json;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.People;

public class AccountsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<JsonElement> Account(Api keeper, string id) => (await keeper.Get($"/api/people/{id}/account")).Body;

    [Fact]
    public async Task Roles_AreGivenByTheRightPeople_NeverToOneself_AndEnd()
    {
        using var keeper = await house.As("keeper");
        using var trainer = await house.As("trainer");
        (await keeper.Post("/api/people/m-1/roles", new { role = "steward" })).Code.ShouldBe("role.self");
        (await keeper.Post("/api/people/m-20/roles", new { role = "trainer", machineId = "heron" })).Code.ShouldBe("role.trainer");
        (await trainer.Post("/api/people/m-20/roles", new { role = "steward" })).Code.ShouldBe("role.keeper");
        (
            await trainer.Post(
                "/api/people/m-20/roles",
                new
                {
                    role = "trainer",
                    machineId = "heron",
                    lastDay = "2027-03-31",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await trainer.Post("/api/people/m-20/roles", new { role = "trainer", machineId = "heron" })).Code.ShouldBe("role.held");
        (await keeper.Post("/api/people/m-20/roles", new { role = "king" })).Fields.ShouldBe(["role"]);
        (await keeper.Post("/api/people/m-20/roles", new { role = "countersigner" })).Status.ShouldBe(HttpStatusCode.NoContent);
        var roles = (await Account(keeper, "m-20")).GetProperty("roles").EnumerateArray().ToList();
        roles.Select(r => r.GetProperty("role").GetString()).ShouldBe(["countersigner", "member", "trainer"]);
        var row = roles[0].GetProperty("rowId").GetInt64();
        house.Clock.Now += Duration.FromSeconds(1);
        (await keeper.Post($"/api/roles/{row}/end")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Post($"/api/roles/{row}/end")).Status.ShouldBe(HttpStatusCode.NotFound);
        var own = (await Account(keeper, "m-1"))
            .GetProperty("roles")
            .EnumerateArray()
            .Single(r => r.GetProperty("role").GetString() == "keeper")
            .GetProperty("rowId")
            .GetInt64();
        (await keeper.Post($"/api/roles/{own}/end")).Code.ShouldBe("role.lastKeeper");
    }

    [Fact]
    public async Task Consent_UnderEighteen_OpensOnlyItsMachinesUntilItEnds()
    {
        using var keeper = await house.As("keeper");
        using var steward = await house.As("steward");
        var id = (
            await keeper.Post(
                "/api/people",
                new
                {
                    givenName = "Pip",
                    familyName = "Young",
                    ageBand = "16to17",
                }
            )
        ).Id;
        async Task<IReadOnlyList<string>> Codes(string machine) =>
            (
                await steward.Post(
                    "/api/gate/ask?soonest=false",
                    Questions.Open(WebHouse.At(2, 15)).With("memberId", id).With("machineId", machine)
                )
            ).Codes;
        (await Codes("heron")).ShouldContain("person.noConsent");
        (await keeper.Post($"/api/people/{id}/consents", new { machineIds = new[] { "heron" }, text = " " })).Fields.ShouldBe(["text"]);
        var consent = await keeper.Post(
            $"/api/people/{id}/consents",
            new
            {
                machineIds = new[] { "heron" },
                text = "Father, signed form.",
                lastDay = "2027-07-31",
            }
        );
        consent.Status.ShouldBe(HttpStatusCode.Created);
        (await Codes("heron")).ShouldNotContain("person.noConsent");
        (await Codes("wren")).ShouldContain("person.noConsent");
        house.Clock.Now += Duration.FromSeconds(1);
        (await keeper.Post($"/api/consents/{consent.Id}/end")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Codes("heron")).ShouldContain("person.noConsent");
        (await Account(keeper, id)).GetProperty("ageBand").GetString().ShouldBe("16to17");
    }

    [Fact]
    public async Task AccountEnd_OfAGuest_ShutsTheGateAfterIt_AndClosedEndsTheSession()
    {
        using var keeper = await house.As("keeper");
        var added = await keeper.Post(
            "/api/people",
            new
            {
                givenName = "Gus",
                familyName = "Guest",
                signInName = "gus",
                accountEnds = "2026-11-26",
            }
        );
        var id = added.Id;
        using var guest = await house.As(null);
        (
            await guest.Post(
                $"/api/invites/{added.Body.GetProperty("invite").GetProperty("code").GetString()}",
                new { password = "ten letters!" }
            )
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        await guest.SignIn("gus", "ten letters!");
        (await guest.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(1, 15)).With("memberId", id))).Codes.ShouldNotContain(
            "person.inactive"
        );
        (await guest.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(3, 15)).With("memberId", id))).Codes.ShouldContain(
            "person.inactive"
        );
        (await keeper.Put($"/api/people/{id}/end", new { lastDay = "someday" })).Fields.ShouldBe(["lastDay"]);
        (await keeper.Put("/api/people/m-1/end", new { lastDay = "2026-11-30" })).Code.ShouldBe("account.self");
        house.Clock.Now += Duration.FromSeconds(1);
        (await keeper.Put($"/api/people/{id}/end", new { lastDay = "2026-11-20" })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await guest.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task MyData_IsAFileOfMyOwn_AndErasingFollowsTheRule()
    {
        using var member = await house.As("member");
        var data = await member.Get("/api/me/data");
        data.Response.Content.Headers.ContentDisposition!.FileName!.ShouldContain("my-velvet-gate-data.json");
        data.Body.GetProperty("person")[0].GetProperty("id").GetString().ShouldBe("m-4");
        using var keeper = await house.As("keeper");
        (await keeper.Post("/api/people/m-30/erase")).Code.ShouldBe("erase.open");
        (await keeper.Post("/api/people/m-1/erase")).Code.ShouldBe("erase.self");
        (await keeper.Post("/api/people/nobody/erase")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await keeper.Post("/api/people/m-30/legal-hold", new { hold = true, reason = "Insurer asks." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await keeper.Post("/api/people/m-30/erase")).Code.ShouldBe("erase.legalHold");
    }

    [Fact]
    public async Task Import_ShowsEveryRowBeforeItStoresAny()
    {
        using var keeper = await house.As("keeper");
        const string good = "given name,family name,age band\nOona,Flint,adult\nInes,Calloway,\nJory,Pebble,11to13\n";
        var dry = await keeper.Post("/api/people/import", new { csv = good });
        (dry.Body.GetProperty("stored").GetBoolean(), dry.Body.GetProperty("added").GetInt32()).ShouldBe((false, 2));
        dry.Body.GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("state").GetString()).ShouldBe(["new", "known", "new"]);
        var bad = await keeper.Post("/api/people/import", new { csv = good + "Only,,\n", dryRun = false });
        bad.Body.GetProperty("stored").GetBoolean().ShouldBeFalse("a wrong row stores nothing");
        (await keeper.Post("/api/people/import", new { csv = good, dryRun = false }))
            .Body.GetProperty("stored")
            .GetBoolean()
            .ShouldBeTrue();
        (await keeper.Post("/api/people/import", new { csv = good, dryRun = false })).Body.GetProperty("added").GetInt32().ShouldBe(0);
        (await keeper.Post("/api/people/import", new { csv = "who\nme" })).Code.ShouldBe("csv.heading");
    }

    [Fact]
    public async Task SignInName_Taken_IsRefused_AndPasswordsAreLong()
    {
        using var keeper = await house.As("keeper");
        (
            await keeper.Post(
                "/api/people",
                new
                {
                    givenName = "A",
                    familyName = "B",
                    signInName = "member",
                }
            )
        ).Fields.ShouldBe(["signInName"]);
        var given = await keeper.Post(
            "/api/people",
            new
            {
                givenName = "A",
                familyName = "B",
                signInName = "ab",
                password = "long enough here",
            }
        );
        (given.Status, given.Code, given.Fields.Single()).ShouldBe((HttpStatusCode.BadRequest, "password.invite", "password"));
        (
            await keeper.Post(
                "/api/people",
                new
                {
                    givenName = "",
                    familyName = "B",
                    birthDate = "31/12/1999",
                }
            )
        ).Fields.Order().ShouldBe(["birthDate", "givenName"]);
        using var newcomer = await house.As("newcomer");
        (await newcomer.Put("/api/me/password", new { current = "wrong", password = "a new long one" })).Fields.ShouldBe(["current"]);
        (await newcomer.Put("/api/me/password", new { current = "ropewalk", password = "a new long one" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await newcomer.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        await newcomer.SignIn("newcomer", "a new long one");
    }
}

public class FoundingApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>
    /// A machine that lost its trainers: written down by the keeper, shown as unconfirmed, confirmed by another, gone after a year.
    /// </summary>
    [Fact]
    public async Task Founding_UnconfirmedIsACondition_ConfirmedIsClear_AndItEnds()
    {
        using var keeper = await house.As("keeper");
        using var steward = await house.As("steward");
        await house.Db.Tamper(
            "update people.role set recorded = tstzrange(lower(recorded), '2026-11-24 10:00Z') where role = 'trainer' and "
                + "machine_id = 'kestrel'"
        );
        (await keeper.Post("/api/founding-sign-offs", new { personId = "m-2", machineId = "kestrel" })).Fields.ShouldBe(["evidence"]);
        var made = await keeper.Post(
            "/api/founding-sign-offs",
            new
            {
                personId = "m-2",
                machineId = "kestrel",
                evidence = "Ran such markers for six years.",
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        var question = Questions
            .Open(WebHouse.At(2, 14))
            .With("memberId", "m-2")
            .With("machineId", "kestrel")
            .With("operations", new[] { "engrave" });
        (await steward.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.founding");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("Founding sign-off to confirm");
        (await steward.Post($"/api/founding-sign-offs/{made.Id}/confirm", new { reason = "I trust myself." })).Code.ShouldBe(
            "founding.self"
        );
        await house.Db.Tamper(
            "update people.person set sign_in_name = 'yusra', password_hash = (select password_hash from people.person where id = "
                + "'m-2') where id = 'm-6'"
        );
        using var other = await house.As("yusra");
        house.Clock.Now += Duration.FromMinutes(1);
        (await other.Post($"/api/founding-sign-offs/{made.Id}/confirm", new { reason = "Saw the papers." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await steward.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldNotContain("training.founding");
        house.Clock.Now += Duration.FromDays(370);
        (await steward.Get("/api/founding-sign-offs")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
        house.Clock.Now -= Duration.FromDays(370);
    }
}
