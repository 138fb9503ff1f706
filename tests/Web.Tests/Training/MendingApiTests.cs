using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>Questions, practical sheets and the quiz changed in the app, and whom that meets.</summary>
public class MendingApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static readonly string[] Options = ["Into the lidded bin", "Into the canal"];

    private static async Task<List<JsonElement>> Bank(Api trainer) =>
        [.. (await trainer.Get("/api/training/quizzes/laser-safety/statistics")).Body.GetProperty("items").EnumerateArray()];

    [Fact]
    public async Task Question_IsAddedRewordedAndTakenOut_AndTheBankStaysDrawable()
    {
        using var trainer = await house.As("trainer");
        object Draft(string? replaces, string text, string kind = "single", string topic = "fire") =>
            new
            {
                replaces,
                topic,
                kind,
                critical = false,
                text,
                options = Options,
                right = 1,
                why = "Embers.",
                reason = "Asked often.",
            };
        (await trainer.Post("/api/training/questions", Draft(null, "", "dance", "cooking"))).Fields.ShouldBe(
            ["kind", "topic", "text"],
            ignoreOrder: true
        );
        var before = (await Bank(trainer)).Count;
        var added = await trainer.Post("/api/training/questions", Draft(null, "Where do scraps go?"));
        added.Id.ShouldBe("fire-where-do-scraps-go");
        var reworded = await trainer.Post("/api/training/questions", Draft(added.Id, "Where do warm scraps go?"));
        reworded.Id.ShouldNotBe(added.Id, "the answers to the old wording stay with it");
        (await trainer.Post("/api/training/questions", Draft(added.Id, "Once more?"))).Code.ShouldBe("question.gone");
        (await Bank(trainer)).Count.ShouldBe(before + 1);
        (await trainer.Post($"/api/training/questions/{reworded.Id}/retire", new { reason = "" })).Fields.ShouldBe(["reason"]);
        (await trainer.Post($"/api/training/questions/{reworded.Id}/retire", new { reason = "No longer." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Bank(trainer)).Count.ShouldBe(before);
        // Down to the last three, which stay.
        var eyes = (await Bank(trainer))
            .Where(q => q.GetProperty("topic").GetString() == "eyes")
            .OrderBy(q => q.GetProperty("critical").GetBoolean())
            .Select(q => q.GetProperty("id").GetString()!)
            .ToList();
        foreach (var id in eyes.Take(eyes.Count - 3))
            (await trainer.Post($"/api/training/questions/{id}/retire", new { reason = "Fewer." })).Status.ShouldBe(
                HttpStatusCode.NoContent
            );
        (await trainer.Post($"/api/training/questions/{eyes[^1]}/retire", new { reason = "Fewer." })).Code.ShouldBe("question.few");
    }

    [Fact]
    public async Task PracticalSheet_Changed_WhoWasSignedBeforeShowsItAgain()
    {
        using var steward = await house.As("steward");
        using var trainer = await house.As("trainer");
        using var member = await house.As("member");
        var sheet = (await steward.Get("/api/training/practical-sheets"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(s => s.GetProperty("id").GetString() == "practical-co2");
        var lines =
            string.Join(
                '\n',
                sheet
                    .GetProperty("steps")
                    .EnumerateArray()
                    .Select(s => (s.GetProperty("critical").GetBoolean() ? "! " : "") + s.GetProperty("text").GetString())
            ) + "\n! Shows where the new stop is";
        object Body(int version, bool dryRun, string? repeatBy = "2026-11-25", string? steps = null) =>
            new
            {
                id = "practical-co2",
                title = "Practical on a CO₂ cutter",
                steps = steps ?? lines,
                version,
                repeatBy,
                reason = "A new stop.",
                dryRun,
            };
        (await steward.Post("/api/training/practical-sheets", Body(1, true, "2026-11-01", "Looks"))).Fields.ShouldBe(
            ["steps", "repeatBy"],
            ignoreOrder: true
        );
        (
            await steward.Post(
                "/api/training/practical-sheets",
                new
                {
                    id = "practical-x",
                    title = "X",
                    steps = "! Looks",
                    version = 1,
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NotFound);
        var looked = (await steward.Post("/api/training/practical-sheets", Body(1, true))).Body;
        looked.GetProperty("again").EnumerateArray().Select(a => a.GetString()).ShouldContain("Ines Calloway");
        (await steward.Post("/api/training/practical-sheets", Body(1, false))).Body.GetProperty("stored").GetBoolean().ShouldBeTrue();
        (await steward.Post("/api/training/practical-sheets", Body(1, false))).Code.ShouldBe("practical.changed");
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(1, 15)))).Codes.ShouldContain("training.readBy");
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 15)))).Codes.ShouldContain("training.unread");
        (await member.Get("/api/messages")).Body.ToString().ShouldContain("again by 25 Nov 2026");
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-4",
                    authority = "heron",
                    note = "Showed the new stop.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 15)))).Codes.ShouldNotContain("training.unread");
        var made = await steward.Post(
            "/api/training/practical-sheets",
            new
            {
                title = "Rotary practical",
                steps = "! Centres the piece\nClears the lid",
                version = 0,
                reason = "Rotary.",
                dryRun = false,
            }
        );
        made.Body.GetProperty("id").GetString().ShouldBe("practical-rotary-practical");
        (await steward.Get("/api/training/paths")).Body.GetProperty("choices").ToString().ShouldContain("Rotary practical");
    }

    [Fact]
    public async Task Quiz_IsPassedAnew_ByADay_AndUntilThenItCounts()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var version = (await steward.Get("/api/training/practical-sheets")).Body.GetProperty("quizVersion").GetInt32();
        object Body(bool dryRun, string? repeatBy = "2026-11-26", string? reason = "Half of it is new.") =>
            new
            {
                version,
                repeatBy,
                reason,
                dryRun,
            };
        (await steward.Post("/api/training/quizzes/laser-safety/renew", Body(false, "", ""))).Fields.ShouldBe(
            ["repeatBy", "reason"],
            ignoreOrder: true
        );
        (await steward.Post("/api/training/quizzes/fire/renew", Body(true))).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Post("/api/training/quizzes/laser-safety/renew", Body(true)))
            .Body.GetProperty("again")
            .GetArrayLength()
            .ShouldBeGreaterThan(20);
        (await steward.Post("/api/training/quizzes/laser-safety/renew", Body(false))).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Post("/api/training/quizzes/laser-safety/renew", Body(false))).Code.ShouldBe("quiz.stale");
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 16)))).Codes.ShouldContain("training.readBy");
        (await member.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(3, 16)))).Codes.ShouldContain("training.unread");
        var step = (await member.Get("/api/training/ladder"))
            .Body.GetProperty("safety")
            .EnumerateArray()
            .Single(s => s.GetProperty("id").GetString() == "laser-safety");
        (step.GetProperty("state").GetString(), step.GetProperty("text").GetString()).ShouldBe(
            ("open", "It was changed since you passed it: pass it anew by 26 Nov 2026. Until then it counts.")
        );
        (await member.Post("/api/training/quizzes/laser-safety/attempts")).Status.ShouldBe(HttpStatusCode.OK);
    }
}
