using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

public class SignOffApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Theory]
    [InlineData("m-3", "heron", "Myself.", 403, "signOff.self")]
    [InlineData("m-5", "kestrel", "Not my machine.", 403, "signOff.authority")]
    [InlineData("m-5", "heron", "  ", 400, "signOff.note")]
    [InlineData("m-999", "heron", "Nobody.", 404, "person.unknownId")]
    [InlineData("m-5", "osprey", "No such machine.", 404, "signOff.unknownAuthority")]
    [InlineData("m-5", "heron/spoon", "No such fixture.", 404, "signOff.unknownAuthority")]
    public async Task SignOff_Refused(string memberId, string authority, string note, int status, string code)
    {
        using var trainer = await house.As("trainer");
        var answer = await trainer.Post(
            "/api/sign-offs",
            new
            {
                memberId,
                authority,
                note,
            }
        );
        ((int)answer.Status, answer.Code).ShouldBe((status, code));
        answer.Detail.ShouldEndWith(".");
    }

    [Fact]
    public async Task SignOff_OfATrainerWhoseAuthorityEnded_IsRefusedFromThatMoment()
    {
        using var trainer = await house.As("trainer");
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-5",
                    authority = "wren",
                    note = "All seen.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        await house.Db.Tamper(
            "update people.role set recorded = tstzrange(lower(recorded), '2026-11-24 10:00Z') where person_id = 'm-3' and "
                + "machine_id = 'wren'"
        );
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-6",
                    authority = "wren",
                    note = "All seen.",
                }
            )
        ).Code.ShouldBe("signOff.authority");
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-6",
                    authority = "heron",
                    note = "All seen.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task Pause_OfOneselfOrWithoutAReason_IsRefused()
    {
        using var steward = await house.As("steward");
        (await steward.Post("/api/people/m-2/pauses", new { reason = "Tired." })).Code.ShouldBe("pause.self");
        (await steward.Post("/api/people/m-5/pauses", new { reason = " " })).Fields.ShouldBe(["reason"]);
        (await steward.Post("/api/people/m-5/pauses", new { reason = "Until?", until = "2026-12-01" })).Fields.ShouldBe(["until"]);
        (await steward.Post("/api/people/m-999/pauses", new { reason = "Who." })).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
