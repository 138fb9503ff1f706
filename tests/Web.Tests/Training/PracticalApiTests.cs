using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>Practical sign-offs over HTTP.</summary>
public class PracticalApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<(string Id, List<string> Steps)> Begin(Api trainer, string member, string authority)
    {
        var begun = await trainer.Post("/api/practicals", new { memberId = member, authority });
        begun.Status.ShouldBe(HttpStatusCode.Created);
        var sheet = (await trainer.Get($"/api/practicals/{begun.Id}")).Body.GetProperty("sheet");
        return (begun.Id, [.. sheet.GetProperty("steps").EnumerateArray().Select(s => s.GetProperty("id").GetString()!)]);
    }

    private static object Mark(string step, string mark, string? note = null, Guid? id = null) =>
        new
        {
            id = id ?? Guid.NewGuid(),
            stepId = step,
            mark,
            note,
            at = "2026-11-24T10:14:00Z",
        };

    private static string Verdict(Answer answer) => answer.Body.GetProperty("verdict").GetProperty("outcome").GetString()!;

    private static int Count(Answer answer) => answer.Body.GetProperty("marks").GetArrayLength();

    [Fact]
    public async Task Practical_MarkedToTheEnd_IsSignedWhenBothAgree_AndNotBefore()
    {
        using var trainer = await house.As("trainer");
        using var newcomer = await house.As("newcomer");
        var (id, steps) = await Begin(trainer, "m-5", "heron");
        (await trainer.Post("/api/practicals", new { memberId = "m-5", authority = "heron" })).Id.ShouldBe(
            id,
            "a second window opens the same sheet"
        );
        (await newcomer.Post($"/api/practicals/{id}/agree", new { marks = 0 })).Code.ShouldBe("practical.open");
        var all = await trainer.Post(
            $"/api/practicals/{id}/marks",
            new
            {
                marks = steps.Select((s, i) => Mark(s, i < 2 ? "prompted" : "unprompted", i == 0 ? "Forgot the booking at first." : null)),
            }
        );
        Verdict(all).ShouldBe("signed");
        (await newcomer.Get("/api/people"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(p => p.GetProperty("me").GetBoolean())
            .GetProperty("certificates")
            .GetArrayLength()
            .ShouldBe(0);
        (await trainer.Post($"/api/practicals/{id}/agree", new { marks = 3 })).Code.ShouldBe("practical.stale");
        (await trainer.Post($"/api/practicals/{id}/agree", new { marks = Count(all) }))
            .Body.TryGetProperty("outcome", out _)
            .ShouldBeFalse();
        (await newcomer.Get("/api/messages")).Body.ToString().ShouldContain($"/training/practical/{id}");

        // Another mark after the trainer agreed: both agree anew.
        var more = await trainer.Post(
            $"/api/practicals/{id}/marks",
            new { marks = new[] { Mark(steps[0], "unprompted", "Said it before I asked.") } }
        );
        more.Body.TryGetProperty("trainerAgreedAt", out _).ShouldBeFalse();
        (await newcomer.Post($"/api/practicals/{id}/agree", new { marks = Count(more) })).Status.ShouldBe(HttpStatusCode.OK);
        var ended = await trainer.Post($"/api/practicals/{id}/agree", new { marks = Count(more) });
        ended.Body.GetProperty("outcome").GetString().ShouldBe("signed");
        (await newcomer.Get("/api/people"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(p => p.GetProperty("me").GetBoolean())
            .GetProperty("certificates")[0]
            .GetProperty("authority")
            .GetString()
            .ShouldBe("heron");
        (await trainer.Post($"/api/practicals/{id}/marks", new { marks = new[] { Mark(steps[1], "missed") } })).Code.ShouldBe(
            "practical.ended"
        );
    }

    [Fact]
    public async Task Practical_ACriticalMiss_IsNotSigned_WhateverTheyAgreeTo()
    {
        using var trainer = await house.As("trainer");
        var (id, steps) = await Begin(trainer, "m-4", "wren");
        var once = Guid.NewGuid();
        var seen = await trainer.Post(
            $"/api/practicals/{id}/marks",
            new { marks = steps.Select(s => s == "stay" ? Mark(s, "missed", "Went for the phone.", once) : Mark(s, "unprompted")) }
        );
        Verdict(seen).ShouldBe("notSigned");
        Count(
                await trainer.Post(
                    $"/api/practicals/{id}/marks",
                    new { marks = new[] { Mark("stay", "missed", "Went for the phone.", once) } }
                )
            )
            .ShouldBe(steps.Count, "sent twice it is one");
        using var member = await house.As("member");
        (await member.Post($"/api/practicals/{id}/agree", new { marks = steps.Count })).Status.ShouldBe(HttpStatusCode.OK);
        var ended = await trainer.Post($"/api/practicals/{id}/agree", new { marks = steps.Count });
        ended.Body.GetProperty("outcome").GetString().ShouldBe("notSigned");
        (await member.Get("/api/practicals")).Body.GetProperty("items").GetArrayLength().ShouldBe(1);
        var pdf = await member.Http.GetAsync($"/api/practicals/{id}/sheet.pdf", TestContext.Current.CancellationToken);
        pdf.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
    }

    [Fact]
    public async Task Practical_NobodyWatchesThemselves_NorWithoutAuthority_AndOthersDoNotSeeIt()
    {
        using var trainer = await house.As("trainer");
        using var member = await house.As("member");
        (await trainer.Post("/api/practicals", new { memberId = "m-3", authority = "heron" })).Code.ShouldBe("signOff.self");
        (await trainer.Post("/api/practicals", new { memberId = "m-5", authority = "kestrel" })).Code.ShouldBe("signOff.authority");
        (await trainer.Post("/api/practicals", new { memberId = "m-5", authority = "heron/rotary" })).Code.ShouldBe("practical.none");
        (await trainer.Post("/api/practicals", new { })).Fields.ShouldBe(["memberId", "authority"]);
        var (id, steps) = await Begin(trainer, "m-6", "heron");
        (await member.Get($"/api/practicals/{id}")).Code.ShouldBe("practical.notYours");
        (await member.Post($"/api/practicals/{id}/agree", new { marks = 0 })).Code.ShouldBe("practical.notYours");
        (
            await trainer.Post(
                $"/api/practicals/{id}/marks",
                new
                {
                    marks = new[]
                    {
                        new
                        {
                            id = Guid.NewGuid(),
                            stepId = "fly",
                            mark = "missed",
                        },
                    },
                }
            )
        ).Fields.ShouldBe(["stepId"]);
        (
            await trainer.Post($"/api/practicals/{id}/marks", new { marks = new[] { new { stepId = steps[0], mark = "fine" } } })
        ).Fields.ShouldBe(["id"]);
        (
            await trainer.Post(
                $"/api/practicals/{id}/marks",
                new
                {
                    marks = new[]
                    {
                        new
                        {
                            id = Guid.NewGuid(),
                            stepId = steps[0],
                            mark = "fine",
                        },
                    },
                }
            )
        ).Fields.ShouldBe(["mark"]);
        (await trainer.Post($"/api/practicals/{id}/drop", new { reason = "" })).Fields.ShouldBe(["reason"]);
        (await trainer.Post($"/api/practicals/{id}/drop", new { reason = "The lamp failed." }))
            .Body.GetProperty("outcome")
            .GetString()
            .ShouldBe("dropped");
        (await Begin(trainer, "m-6", "heron")).Id.ShouldNotBe(id, "another sheet may be begun");
    }

    [Fact]
    public async Task Induction_PlannedTakenCalledAndCalledOff()
    {
        using var trainer = await house.As("trainer");
        using var newcomer = await house.As("newcomer");
        object Session(string date, string time = "11:00", int places = 2, string machine = "wren") =>
            new
            {
                machineId = machine,
                date,
                time,
                minutes = 60,
                places,
            };
        (await trainer.Post("/api/inductions", Session("2026-11-23"))).Fields.ShouldBe(["time"]);
        (await trainer.Post("/api/inductions", Session("soon"))).Fields.ShouldBe(["date"]);
        (await trainer.Post("/api/inductions", Session("2026-12-10", places: 9))).Fields.ShouldBe(["places"]);
        (await trainer.Post("/api/inductions", Session("2026-12-10", machine: "kestrel"))).Code.ShouldBe("induction.authority");
        var planned = await trainer.Post("/api/inductions", Session("2026-12-12", "19:00"));
        planned.Status.ShouldBe(HttpStatusCode.Created);
        (await trainer.Post("/api/inductions", Session("2026-12-12", "19:30"))).Code.ShouldBe("induction.overlap");
        (await newcomer.Post($"/api/inductions/{planned.Id}/place")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await newcomer.Post($"/api/inductions/{planned.Id}/place")).Status.ShouldBe(HttpStatusCode.NoContent, "pressed twice");
        (await trainer.Post($"/api/inductions/{planned.Id}/place")).Code.ShouldBe("induction.self");
        var shown = (await newcomer.Get("/api/inductions"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(s => s.GetProperty("id").GetString() == planned.Id);
        (shown.GetProperty("free").GetInt32(), shown.GetProperty("mine").GetBoolean()).ShouldBe((1, true));
        (
            await trainer.Post($"/api/inductions/{planned.Id}/roll", new { there = new Dictionary<string, bool> { ["m-5"] = true } })
        ).Code.ShouldBe("induction.early");
        (await newcomer.Post($"/api/inductions/{planned.Id}/leave")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await newcomer.Post($"/api/inductions/{planned.Id}/place")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await trainer.Post($"/api/inductions/{planned.Id}/cancel", new { reason = "The trainer is ill." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await newcomer.Get("/api/messages")).Body.ToString().ShouldContain("The trainer is ill.");
        (await newcomer.Post($"/api/inductions/{planned.Id}/place")).Code.ShouldBe("induction.off");
        (await trainer.Post("/api/inductions", Session("2026-12-12", "19:30"))).Status.ShouldBe(
            HttpStatusCode.Created,
            "called off, its time is free again"
        );
    }
}
