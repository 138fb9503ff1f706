using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>Paths, what the gate makes of them, and certificates under review, suspended and on paper.</summary>
public class PathApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<JsonElement> Path(Api api, string authority) =>
        (await api.Get("/api/training/paths"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(p => p.GetProperty("authority").GetString() == authority);

    private static object[] Steps(JsonElement path, string name) =>
        [
            .. path.GetProperty(name)
                .EnumerateArray()
                .Select(s => new
                {
                    kind = s.GetProperty("kind").GetString(),
                    id = s.GetProperty("id").GetString(),
                    count = s.GetProperty("count").GetInt32(),
                }),
        ];

    [Fact]
    public async Task Path_ChangedFromADay_IsLookedAtFirst_AndTwoTabsDoNotOverwrite()
    {
        using var steward = await house.As("steward");
        var swift = await Path(steward, "swift");
        object Body(object[] steps, long version, string? from = null, string? reason = "Small classes first.") =>
            new
            {
                authority = "swift",
                steps,
                refresher = Steps(swift, "refresher"),
                version,
                from,
                reason,
            };
        var version = swift.GetProperty("version").GetInt64();
        version.ShouldBe(0, "a starting path");
        var more = Steps(swift, "steps")
            .Prepend(
                new
                {
                    kind = "outside",
                    id = "Town hall course",
                    count = 0,
                }
            )
            .ToArray();
        (await steward.Post("/api/training/paths", Body(more, version, reason: " "))).Fields.ShouldBe(["reason"]);
        (
            await steward.Post(
                "/api/training/paths",
                Body(
                    [
                        new
                        {
                            kind = "reading",
                            id = "flood",
                            count = 0,
                        },
                    ],
                    version
                )
            )
        ).Fields.ShouldBe(["steps"]);
        (await steward.Post("/api/training/paths", Body([new { kind = "dance" }], version))).Fields.ShouldBe(["steps"]);
        (await steward.Post("/api/training/paths", Body(more, version, "2026-11-23"))).Fields.ShouldBe(["from"]);
        var asItIs = await steward.Post("/api/training/paths/preview", Body(Steps(swift, "steps"), version));
        var looked = await steward.Post("/api/training/paths/preview", Body(more, version));
        (looked.Body.GetProperty("stored").GetBoolean(), looked.Body.GetProperty("owing").GetArrayLength()).ShouldBe(
            (false, asItIs.Body.GetProperty("owing").GetArrayLength()),
            "a paper from elsewhere asks nothing of holders"
        );
        (await Path(steward, "swift")).GetProperty("version").GetInt64().ShouldBe(0, "looking stores nothing");

        (await steward.Post("/api/training/paths", Body(more, version))).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Post("/api/training/paths", Body(more, version))).Code.ShouldBe("path.stale");
        var changed = await Path(steward, "swift");
        changed.GetProperty("steps")[0].GetProperty("title").GetString().ShouldBe("Town hall course");
        (
            await steward.Post("/api/training/paths", Body(Steps(swift, "steps"), changed.GetProperty("version").GetInt64(), "2026-12-01"))
        ).Status.ShouldBe(HttpStatusCode.OK);
        var planned = await Path(steward, "swift");
        planned.GetProperty("steps")[0].GetProperty("title").GetString().ShouldBe("Town hall course", "the other begins on its day");
        planned.GetProperty("coming").GetString().ShouldStartWith("2026-12-01");
        (await steward.Post("/api/training/paths", Body(more, planned.GetProperty("version").GetInt64()))).Code.ShouldBe("path.planned");
    }

    [Fact]
    public async Task AddOn_IsAskedForWhereItsNeedIsMet_AndACircleIsRefused()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var start = await member.FreeStart();
        object Thick(string thicker, object[] steps) =>
            new
            {
                authority = "heron/thick",
                addOn = "Thick stock",
                steps,
                refresher = new[] { new { kind = "signOff" } },
                need = new { thickerThan = thicker },
                version = 0,
                reason = "Long cuts burn.",
            };
        object[] plain = [new { kind = "authority", id = "heron" }, new { kind = "signOff" }];
        (await steward.Post("/api/training/paths", Thick("thick", plain))).Fields.ShouldBe(["need"]);
        (
            await steward.Post(
                "/api/training/paths",
                Thick("6 mm", [new { kind = "authority", id = "heron/thick" }, new { kind = "signOff" }])
            )
        ).Fields.ShouldBe(["steps"]);
        (
            await steward.Post(
                "/api/training/paths",
                new
                {
                    authority = "owl/thick",
                    addOn = "Thick",
                    steps = plain,
                    refresher = plain,
                    version = 0,
                    reason = "No such machine.",
                }
            )
        ).Code.ShouldBe("path.unknown");
        (await steward.Post("/api/training/paths", Thick("1/10 in", plain))).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Post("/api/gate/ask", Questions.Open(start))).Codes.ShouldContain("training.addOn", "3 mm is more than 2.54 mm");
        (
            await member.Post("/api/gate/ask", Questions.Open(start).With("thickness", "2.5 mm").With("sheetTag", null))
        ).Codes.ShouldNotContain("training.addOn");
        (
            await steward.Post(
                "/api/training/paths",
                new
                {
                    authority = "wren",
                    addOn = "Long jobs",
                    steps = plain,
                    refresher = plain,
                    reason = "Named by the server.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await Path(steward, "wren/long-jobs")).GetProperty("name").GetString().ShouldBe("Wren with long jobs");
        using var trainer = await house.As("trainer");
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-4",
                    authority = "heron/thick",
                    note = "Watched a long cut in 6 mm.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        (await member.Post("/api/gate/ask", Questions.Open(start))).Codes.ShouldNotContain("training.addOn");
    }

    [Fact]
    public async Task SignedByANote_WithTheCourseOpen_CountsForTheHousesDays_ThenNoMore()
    {
        using var trainer = await house.As("trainer");
        var signed = await trainer.Post(
            "/api/sign-offs",
            new
            {
                memberId = "m-5",
                authority = "wren",
                note = "Taught elsewhere for years.",
            }
        );
        signed.Body.GetProperty("open").EnumerateArray().Select(o => o.GetString()).ShouldContain("Laser safety quiz");
        using var newcomer = await house.As("newcomer");
        Dictionary<string, object?> On(int day) => Questions.Open(WebHouse.At(day, 15)).With("machineId", "wren").With("memberId", "m-5");
        var soon = await newcomer.Post("/api/gate/ask?soonest=false", On(1));
        soon.Codes.ShouldContain("training.readBy");
        soon.Codes.ShouldNotContain("training.unread");
        (
            await newcomer.Post(
                "/api/gate/ask?soonest=false",
                Questions.Open("2026-12-08T15:00:00+00:00").With("machineId", "wren").With("memberId", "m-5")
            )
        ).Codes.ShouldContain("training.readBy");
        var late = await newcomer.Post(
            "/api/gate/ask?soonest=false",
            Questions.Open("2026-12-09T15:00:00+00:00").With("machineId", "wren").With("memberId", "m-5")
        );
        late.Codes.ShouldContain("training.unread", "fourteen days after 24 November");
    }

    [Fact]
    public async Task ChangedPage_ShutsTheGateOfWhoeverHasNotReadIt_AfterItsDay_AndOpensWhenRead()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        var draft = (await steward.Get("/api/training/readings/eyes/draft")).Body;
        var options = draft.GetProperty("options").EnumerateArray().Select(o => o.GetString()).ToList();
        var published = await steward.Post(
            "/api/training/readings/eyes/versions",
            new
            {
                version = draft.GetProperty("version").GetInt32(),
                body = draft.GetProperty("body").GetString() + "\n\nNew glasses hang by the door.",
                check = draft.GetProperty("check").GetString(),
                options,
                repeatBy = "2026-11-26",
                reason = "New glasses.",
            }
        );
        published.Status.ShouldBe(HttpStatusCode.OK);
        var (before, after) = (Questions.Open(WebHouse.At(2, 15)), Questions.Open(WebHouse.At(3, 15)));
        (await member.Post("/api/gate/ask?soonest=false", before)).Codes.ShouldContain("training.readBy");
        (await member.Post("/api/gate/ask?soonest=false", after)).Codes.ShouldContain("training.unread");
        (await member.Post("/api/training/readings/eyes/done", new { version = 2, answer = options[0] })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await member.Post("/api/gate/ask?soonest=false", after)).Codes.ShouldNotContain("training.unread");
    }

    [Fact]
    public async Task Newcomer_SeesTheWholeWayInTheSoonestOne()
    {
        using var newcomer = await house.As("newcomer");
        var answer = await newcomer.Post("/api/gate/ask", Questions.Open(WebHouse.At(1, 15)).With("memberId", "m-5"));
        var steps = answer
            .Body.GetProperty("soonest")
            .GetProperty("steps")
            .EnumerateArray()
            .Select(s => s.GetProperty("text").GetString()!)
            .ToList();
        steps.ShouldContain(s => s.StartsWith("6 pages to read: Fire, Fumes", StringComparison.Ordinal));
        steps.ShouldContain("An induction");
        steps.ShouldContain("A supervised run");
        steps[^1].ShouldBe("The run, as asked");
    }

    [Fact]
    public async Task StrictHouse_SignsOnlyWhenEveryStepIsDone()
    {
        await house.Db.Tamper("update house.rules set body = jsonb_set(body, '{courseBeforeSignOff}', 'true')");
        try
        {
            using var trainer = await house.As("trainer");
            var answer = await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-57",
                    authority = "heron",
                    note = "Did well.",
                }
            );
            (answer.Code, answer.Fields.Single()).ShouldBe(("signOff.path", "authority"));
            answer.Detail.ShouldContain("6 pages to read");
            (await trainer.Post("/api/practicals", new { memberId = "m-57", authority = "heron" })).Code.ShouldBe("signOff.path");
        }
        finally
        {
            await house.Db.Tamper("update house.rules set body = jsonb_set(body, '{courseBeforeSignOff}', 'false')");
        }
    }

    [Fact]
    public async Task Paper_IsEnteredByASteward_MarkedSo_AndNeverForOneself()
    {
        using var steward = await house.As("steward");
        (
            await steward.Post(
                "/api/paper-sign-offs",
                new
                {
                    memberId = "m-2",
                    authority = "kestrel",
                    signedOn = "2026-05-01",
                    evidence = "Old binder.",
                }
            )
        ).Code.ShouldNotBeNull();
        (
            await steward.Post(
                "/api/paper-sign-offs",
                new
                {
                    memberId = "m-40",
                    authority = "kestrel",
                    signedOn = "31 May",
                    evidence = "Old binder.",
                }
            )
        ).Fields.ShouldBe(["signedOn"]);
        (
            await steward.Post(
                "/api/paper-sign-offs",
                new
                {
                    memberId = "m-40",
                    authority = "owl",
                    signedOn = "2026-05-01",
                    evidence = "Old binder.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NotFound);
        var made = await steward.Post(
            "/api/paper-sign-offs",
            new
            {
                memberId = "m-40",
                authority = "kestrel",
                signedOn = "2026-11-01",
                evidence = "Old binder, page 12.",
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created);
        made.Body.GetProperty("until").GetString().ShouldBe("2027-11-02T00:00:00Z", "twelve months from the day on the paper");
        var rows = (await steward.Get("/api/training/matrix?authority=kestrel&show=holds")).Body.GetProperty("rows").EnumerateArray();
        rows.Single(r => r.GetProperty("id").GetString() == "m-40")
            .GetProperty("cells")
            .EnumerateArray()
            .Any(c => c.GetProperty("paper").GetBoolean())
            .ShouldBeTrue();
    }

    [Fact]
    public async Task PageOfOnesOwn_AsksForNothing_UntilAPathHasIt()
    {
        using var steward = await house.As("steward");
        using var newcomer = await house.As("newcomer");
        (
            await steward.Post(
                "/api/training/readings",
                new
                {
                    title = " ",
                    body = "",
                    check = "",
                    options = new[] { "One" },
                }
            )
        ).Fields.ShouldBe(["title", "body", "check", "options", "reason"], ignoreOrder: true);
        var page = new
        {
            title = "Our bins",
            body = "Scraps go into the **red** bin.",
            check = "Where do scraps go?",
            options = new[] { "Into the red bin", "Into the canal" },
            reason = "The red bin is new.",
        };
        var made = await steward.Post("/api/training/readings", page);
        (made.Status, made.Id).ShouldBe((HttpStatusCode.Created, "our-bins"));
        (await steward.Post("/api/training/readings", page)).Id.ShouldBe("our-bins-2");
        (await newcomer.Get("/api/training/ladder")).Body.ToString().ShouldNotContain("Our bins");
        (await newcomer.Get("/api/training/readings/our-bins")).Body.GetProperty("body").GetString().ShouldBe(page.body);

        var kestrel = await Path(steward, "kestrel");
        var steps = Steps(kestrel, "steps")
            .Prepend(
                new
                {
                    kind = "reading",
                    id = "our-bins",
                    count = 0,
                }
            )
            .ToArray();
        var changed = await steward.Post(
            "/api/training/paths",
            new
            {
                authority = "kestrel",
                steps,
                refresher = Steps(kestrel, "refresher"),
                version = kestrel.GetProperty("version").GetInt64(),
                reason = "The red bin.",
            }
        );
        changed.Body.GetProperty("owing").GetArrayLength().ShouldBeGreaterThan(0, "whoever holds it reads it within the house's days");
        (await newcomer.Get("/api/training/ladder")).Body.ToString().ShouldContain("Our bins");
        (await newcomer.Post("/api/training/quizzes/laser-safety/attempts")).Detail.ShouldNotContain("Our bins");
    }
}
