using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>The course over HTTP: what a person sees, and what stays with the server.</summary>
public class CourseApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task Read(Api api)
    {
        foreach (
            var step in (await api.Get("/api/training/ladder"))
                .Body.GetProperty("safety")
                .EnumerateArray()
                .Where(s => s.GetProperty("kind").GetString() == "reading")
        )
        {
            var id = step.GetProperty("id").GetString();
            var page = (await api.Get($"/api/training/readings/{id}")).Body;
            var version = page.GetProperty("version").GetInt32();
            var right = false;
            foreach (var option in page.GetProperty("options").EnumerateArray())
                right |=
                    (await api.Post($"/api/training/readings/{id}/done", new { version, answer = option.GetString() })).Status
                    == HttpStatusCode.NoContent;
            right.ShouldBeTrue(id);
        }
    }

    private static JsonElement Step(Answer ladder, string id) =>
        ladder.Body.GetProperty("safety").EnumerateArray().Single(s => s.GetProperty("id").GetString() == id);

    private static async Task<string> Begin(Api api) => (await api.Post("/api/training/quizzes/laser-safety/attempts")).Id;

    [Fact]
    public async Task Newcomer_ReadsAnswersAndIsMarked_AndNothingIsToldBefore()
    {
        using var newcomer = await house.As("newcomer");
        Step(await newcomer.Get("/api/training/ladder"), "laser-safety").GetProperty("state").GetString().ShouldBe("waits");
        (await newcomer.Post("/api/training/quizzes/laser-safety/attempts")).Code.ShouldBe("quiz.unread");
        (await newcomer.Post("/api/training/readings/fire/done", new { version = 1 })).Fields.ShouldBe(["answer"]);
        (await newcomer.Post("/api/training/readings/fire/done", new { version = 1, answer = "anything" })).Fields.ShouldBe(["answer"]);
        await Read(newcomer);
        Step(await newcomer.Get("/api/training/ladder"), "laser-safety").GetProperty("state").GetString().ShouldBe("open");

        var id = await Begin(newcomer);
        (await Begin(newcomer)).ShouldBe(id, "a second window shares the attempt");
        var open = await newcomer.Get($"/api/training/attempts/{id}");
        var questions = open.Body.GetProperty("questions").EnumerateArray().ToList();
        questions.Count.ShouldBe(18);
        questions
            .SelectMany(q => q.EnumerateObject().Select(p => p.Name))
            .ShouldNotContain(
                name => name == "correct" || name == "why" || name == "right",
                "the right answers never leave the server before the end"
            );
        foreach (var q in questions)
            (
                await newcomer.Http.PutAsync(
                    $"/api/training/attempts/{id}/answers/{q.GetProperty("id").GetString()}",
                    JsonContent(
                        new
                        {
                            answer = q.GetProperty("kind").GetString() == "order"
                                ? Enumerable.Range(0, q.GetProperty("options").GetArrayLength()).ToArray()
                                : [0],
                        }
                    ),
                    TestContext.Current.CancellationToken
                )
            ).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await newcomer.Get($"/api/training/attempts/{id}"))
            .Body.GetProperty("questions")[0]
            .GetProperty("answer")
            .GetArrayLength()
            .ShouldBeGreaterThan(0, "answers survive a reload");

        using var member = await house.As("member");
        (await member.Get($"/api/training/attempts/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Post($"/api/training/attempts/{id}/end")).Status.ShouldBe(HttpStatusCode.NotFound);

        var ended = await newcomer.Post($"/api/training/attempts/{id}/end");
        ended.Body.GetProperty("mark").GetProperty("passed").GetBoolean().ShouldBeFalse("all first choices are not all right");
        ended.Body.GetProperty("questions").EnumerateArray().ShouldAllBe(q => q.GetProperty("why").GetString()!.Length > 0);
        (await newcomer.Post("/api/training/quizzes/laser-safety/attempts")).Code.ShouldBe("quiz.coolDown");
        Step(await newcomer.Get("/api/training/ladder"), "laser-safety")
            .GetProperty("text")
            .GetString()!
            .ShouldContain("again from Wed 25 Nov 10:15");

        using var trainer = await house.As("trainer");
        (await trainer.Get($"/api/training/attempts/{id}")).Status.ShouldBe(HttpStatusCode.OK);
        var statistics = (await trainer.Get("/api/training/quizzes/laser-safety/statistics")).Body;
        statistics.GetProperty("attempts").GetInt32().ShouldBeGreaterThan(0);
        statistics.GetProperty("items").GetArrayLength().ShouldBeGreaterThanOrEqualTo(60);
        var asked = statistics
            .GetProperty("items")
            .EnumerateArray()
            .ToDictionary(i => i.GetProperty("id").GetString()!, i => i.GetProperty("asked").GetInt32());
        questions.ShouldAllBe(q => asked[q.GetProperty("id").GetString()!] > 0);
    }

    [Fact]
    public async Task Ladder_OfAnother_IsForStaff_AndACertificateStandsForItsSteps()
    {
        using var member = await house.As("member");
        using var trainer = await house.As("trainer");
        var own = (await member.Get("/api/training/ladder")).Body;
        var heron = own.GetProperty("paths").EnumerateArray().Single(m => m.GetProperty("authority").GetString() == "heron");
        heron.GetProperty("steps").EnumerateArray().ShouldAllBe(s => s.GetProperty("state").GetString() == "done");
        (await member.Get("/api/training/ladder?person=m-5")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await trainer.Get("/api/training/ladder?person=m-5")).Status.ShouldBe(HttpStatusCode.OK);
        (await trainer.Get("/api/training/ladder?person=nobody")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Get("/api/training/readings/nothing")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    private static StringContent JsonContent(object body) =>
        new(JsonSerializer.Serialize(body), System.Text.Encoding.UTF8, "application/json");
}
