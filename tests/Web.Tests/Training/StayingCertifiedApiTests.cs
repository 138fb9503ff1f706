using System.Net;
using System.Text.Json;
using NodaTime;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>Suspending, conduct, appeals, and certificates on paper.</summary>
public class StayingCertifiedApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private async Task<string> Certificate(string person, string authority)
    {
        using var steward = await house.As("steward");
        var people = (await steward.Get("/api/people")).Body.GetProperty("items").EnumerateArray();
        return people
            .Single(p => p.GetProperty("id").GetString() == person)
            .GetProperty("certificates")
            .EnumerateArray()
            .Single(c => c.GetProperty("authority").GetString() == authority)
            .GetProperty("id")
            .GetString()!;
    }

    [Fact]
    public async Task Suspended_ShutsTheGate_AndComesBackWhenItsConditionsAreMet()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var start = await member.FreeStart();
        var id = await Certificate("m-4", "heron");
        using var outside = await house.As(null);
        (await outside.Get($"/api/verify/{id}")).Body.GetProperty("state").GetString().ShouldBe("valid");
        (
            await steward.Post(
                "/api/certificate-holds",
                new
                {
                    personId = "m-2",
                    authority = "heron",
                    kind = "suspended",
                    reason = "Me.",
                }
            )
        ).Code.ShouldBe("hold.self");
        (
            await steward.Post(
                "/api/certificate-holds",
                new
                {
                    personId = "m-4",
                    authority = "kestrel",
                    kind = "suspended",
                    reason = "None.",
                }
            )
        ).Code.ShouldBe("hold.none");
        (
            await steward.Post(
                "/api/certificate-holds",
                new
                {
                    personId = "m-4",
                    authority = "heron",
                    kind = "review",
                    supervisedRuns = 1,
                    reason = "x",
                }
            )
        ).Fields.ShouldBe(["kind"]);
        var held = await steward.Post(
            "/api/certificate-holds",
            new
            {
                personId = "m-4",
                authority = "heron",
                kind = "suspended",
                quiz = true,
                reason = "Opened the lid in the smoke.",
            }
        );
        held.Status.ShouldBe(HttpStatusCode.Created);
        var ask = await member.Post("/api/gate/ask", Questions.Open(start));
        ask.Codes.ShouldContain("training.suspended");
        (await member.Post("/api/bookings", Questions.Open(start))).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var verify = (await outside.Get($"/api/verify/{id}")).Body;
        verify.GetProperty("state").GetString().ShouldBe("suspended");
        verify.ToString().ShouldNotContain("Calloway", Case.Insensitive, "validity and scope, no name");
        (await member.Get("/api/certificate-holds?person=m-4"))
            .Body.GetProperty("items")[0]
            .GetProperty("unmet")[0]
            .GetString()
            .ShouldBe("the quiz has not been passed since");
        (await member.Get("/api/certificate-holds")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post($"/api/certificate-holds/{held.Id}/end", new { reason = "We talked." })).Code.ShouldBe("hold.conditions");
        await house.Db.Tamper(
            """
            insert into training.attempt (id, person_id, module_id, version, seed, drawn, questions, started, ended, correct, asked,
                critical_missed, passed)
            values (gen_random_uuid(), 'm-4', 'laser-safety', 1, 1, '[]', '[]', '2026-11-24 10:30Z', '2026-11-24 10:40Z', 18, 18, 0, true)
            """
        );
        (await steward.Post($"/api/certificate-holds/{held.Id}/end", new { reason = "Passed the quiz, we talked." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        house.Clock.Now += Duration.FromMinutes(1);
        (await member.Post("/api/gate/ask", Questions.Open(start))).Codes.ShouldNotContain("training.suspended");
        (await steward.Post($"/api/certificate-holds/{held.Id}/end", new { reason = "Again." })).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Conduct_ByTheLadder_AppealedAndHeardBySomebodyNotInvolved()
    {
        using var steward = await house.As("steward");
        (await steward.Get("/api/people/m-5/conduct/next"))
            .Body.GetProperty("leftRunning")
            .GetString()
            .ShouldBe("pause", "a house with a ladder and a pause at once");
        (await steward.Post("/api/people/m-5/conduct", new { matter = "shouting", text = "x" })).Fields.ShouldBe(["matter"]);
        (await steward.Post("/api/people/m-2/conduct", new { matter = "other", text = "Me." })).Code.ShouldBe("conduct.self");
        var written = await steward.Post(
            "/api/people/m-5/conduct",
            new
            {
                matter = "leftRunning",
                text = "Left the room while it cut.",
                machineId = "wren",
            }
        );
        written.Status.ShouldBe(HttpStatusCode.Created);
        using var newcomer = await house.As("newcomer");
        var start = WebHouse.At(1, 15);
        (await newcomer.Post("/api/gate/ask?soonest=false", Questions.Open(start).With("memberId", "m-5"))).Codes.ShouldContain(
            "person.paused"
        );
        (await newcomer.Get("/api/people/m-4/conduct")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await newcomer.Post($"/api/conduct/{written.Id}/appeal", new { text = "" })).Fields.ShouldBe(["text"]);
        (await newcomer.Post($"/api/conduct/{written.Id}/appeal", new { text = "I stood behind the glass door." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await newcomer.Post($"/api/conduct/{written.Id}/appeal", new { text = "Again." })).Code.ShouldBe("appeal.twice");
        (await steward.Post($"/api/conduct/{written.Id}/hear", new { outcome = "lifted", text = "I was wrong." })).Code.ShouldBe(
            "appeal.involved"
        );

        await house.MakeSteward("m-3");
        using var other = await house.As("trainer");
        (await other.Get("/api/appeals"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(i => i.GetProperty("id").GetString() == written.Id)
            .GetProperty("mayHear")
            .GetBoolean()
            .ShouldBeTrue();
        (
            await other.Post(
                $"/api/conduct/{written.Id}/hear",
                new
                {
                    outcome = "maybe",
                    heardOn = "2026-12-24",
                    text = "",
                }
            )
        ).Fields.ShouldBe(["heardOn", "outcome", "text"], ignoreOrder: true);
        (
            await other.Post(
                $"/api/conduct/{written.Id}/hear",
                new { outcome = "lifted", text = "The camera shows them behind the glass." }
            )
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await newcomer.Post("/api/gate/ask?soonest=false", Questions.Open(start).With("memberId", "m-5"))).Codes.ShouldNotContain(
            "person.paused",
            "its pause ended with it"
        );
        (await steward.Get("/api/people/m-5/conduct/next"))
            .Body.GetProperty("other")
            .GetString()
            .ShouldBe("note", "what was lifted does not count");
    }

    /// <summary>Read back by programs that this project did not make: poppler and ZBar.</summary>
    [Theory]
    [InlineData("certificate.pdf")]
    [InlineData("card.pdf")]
    public async Task Paper_ReadBackByOthers_SaysWhoMayRunWhat_AndItsCodeLeadsToThePage(string file)
    {
        using var member = await house.As("member");
        var id = await Certificate("m-4", "wren");
        var folder = Directory.CreateTempSubdirectory("vg-paper-").FullName;
        try
        {
            var pdf = Path.Combine(folder, file);
            await File.WriteAllBytesAsync(
                pdf,
                await member.Http.GetByteArrayAsync($"/api/certificates/{id}/{file}", TestContext.Current.CancellationToken),
                TestContext.Current.CancellationToken
            );
            var text = await Outside.Run("pdftotext", "-layout", pdf, "-");
            text.ShouldContain("Ines Calloway");
            text.ShouldContain("Wren");
            text.ShouldContain("10 October 2027");
            await Outside.Run("pdftoppm", "-r", "300", "-png", pdf, Path.Combine(folder, "page"));
            (await Outside.Run("zbarimg", "-q", "--raw", Directory.GetFiles(folder, "page*.png").Single()))
                .Trim()
                .ShouldEndWith($"/verify/{id}");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get($"/api/certificates/{id}/{file}")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await newcomer.Get($"/api/verify/{Guid.NewGuid()}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Matrix_FiltersAndExports_AndRefusesWhatItDoesNotKnow()
    {
        using var trainer = await house.As("trainer");
        var all = (await trainer.Get("/api/training/matrix")).Body;
        all.GetProperty("rows").GetArrayLength().ShouldBe(all.GetProperty("all").GetInt32());
        (await trainer.Get("/api/training/matrix?find=calloway")).Body.GetProperty("rows").GetArrayLength().ShouldBe(1);
        var soon = (await trainer.Get("/api/training/matrix?show=soon"))
            .Body.GetProperty("rows")
            .EnumerateArray()
            .SelectMany(r => r.GetProperty("cells").EnumerateArray());
        soon.ShouldContain(c => c.GetProperty("soon").GetBoolean());
        (await trainer.Get("/api/training/matrix?show=some")).Fields.ShouldBe(["show"]);
        (await trainer.Get("/api/training/matrix?authority=owl")).Fields.ShouldBe(["authority"]);
        (await trainer.Get("/api/training/matrix-file?format=xls")).Fields.ShouldBe(["format"]);
        var csv = await (
            await trainer.Http.GetAsync("/api/training/matrix-file?find=calloway", TestContext.Current.CancellationToken)
        ).Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        csv.ShouldContain("m-4,Ines Calloway,heron,Heron,2027-10-10,");
        JsonDocument
            .Parse(
                await (
                    await trainer.Http.GetAsync("/api/training/matrix-file?format=json", TestContext.Current.CancellationToken)
                ).Content.ReadAsStringAsync(TestContext.Current.CancellationToken)
            )
            .RootElement.GetArrayLength()
            .ShouldBeGreaterThan(60);
    }

    [Fact]
    public async Task Outside_RecordedByASteward_ShownToThePersonOnly()
    {
        using var steward = await house.As("steward");
        (await steward.Post("/api/people/m-5/outside", new { })).Fields.ShouldBe(
            ["title", "issuer", "from", "evidence"],
            ignoreOrder: true
        );
        (
            await steward.Post(
                "/api/people/nobody/outside",
                new
                {
                    title = "Course",
                    issuer = "College",
                    from = "2026-01-02",
                    evidence = "Seen.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NotFound);
        (
            await steward.Post(
                "/api/people/m-5/outside",
                new
                {
                    title = "Course",
                    issuer = "College",
                    from = "2026-01-02",
                    to = "2028-01-02",
                    evidence = "Seen.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get("/api/people/m-5/outside"))
            .Body.GetProperty("items")[0]
            .GetProperty("until")
            .GetString()
            .ShouldStartWith("2028-01-03");
        (await newcomer.Get("/api/people/m-4/outside")).Status.ShouldBe(HttpStatusCode.Forbidden);
    }
}
