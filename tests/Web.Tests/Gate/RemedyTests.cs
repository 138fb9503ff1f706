using System.Net;
using Shouldly;
using VelvetGate.Tests.Support;
using VelvetGate.Web.Tests.House;
using Xunit;
using Asking = System.Collections.Generic.Dictionary<string, object?>;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>
/// Every remedy works: the reason is brought about, its remedy is followed over HTTP as the role it names, the same is asked again, and the
/// reason is gone,
/// or lets the person through after somebody named has said so.
/// </summary>
public class RemedyTests(WebHouse shared) : IClassFixture<WebHouse>
{
    private const string Square = "M5 5h20v20h-20z";

    /// <summary>
    /// Reasons that say what to look at and hold nobody up, that no remedy can lift, or that only a fault of the server brings about.
    /// </summary>
    private static readonly string[] Apart =
    [
        "person.withAdult",
        "training.supervised",
        "training.readBy",
        "material.declared",
        "drawing.warn",
        "drawing.rotary",
        "rotary.page",
        "settings.warm",
        "settings.weak",
        "settings.afterService", // a test piece, as with settings.untested
        "machine.readings",
        "machine.coolantWarm", // from here to the room: read at the machine, on the day
        "machine.coolantHot",
        "machine.coolantOut",
        "machine.coolantCold",
        "machine.roomCold",
        "machine.roomFreezing",
        "room.secondPerson",
        "room.notSeen", // read at the machine
        "room.wearEyewear", // read at the machine
        "person.tooYoung",
        "material.never", // nothing opens these: the answer names no way, and the test below holds it to that
        "person.unknown",
        "training.unknown",
        "machine.unknown",
        "time.unknown",
        "room.unknown", // facts that could not be loaded
    ];

    private sealed class Scene(WebHouse house)
    {
        public WebHouse House { get; } = house;

        public async Task<Api> As(string name) => await House.As(name);

        public async Task Sql(string sql)
        {
            await using var command = House.Db.Owner.CreateCommand(
                sql.Replace("@now", $"'{TestDatabase.Now}'::timestamptz", StringComparison.Ordinal)
            );
            await command.ExecuteNonQueryAsync();
        }

        /// <summary>Does something as somebody, and it is taken.</summary>
        public async Task<Answer> Do(string who, string method, string path, object body)
        {
            using var api = await As(who);
            var answer = method == "PUT" ? await api.Put(path, body) : await api.Post(path, body);
            ((int)answer.Status).ShouldBeInRange(200, 204, $"{who} {method} {path}: {answer.Body}");
            return answer;
        }

        public async Task<string> Draw(string path, string colour = "#9c2f4f")
        {
            using var member = await As("member");
            return (
                await member.PutIn(
                    $"<svg xmlns='http://www.w3.org/2000/svg' width='1200mm' height='40mm' viewBox='0 0 1200 40'><path d='{path}' "
                        + $"fill='none' stroke='{colour}'/></svg>"
                )
            ).Id;
        }
    }

    /// <param name="Who">Asks.</param>
    /// <param name="Bring">Brings the reason about; gives the question.</param>
    /// <param name="Follow">Follows the remedy; gives the question to ask again.</param>
    /// <param name="Alone">In a house of its own.</param>
    /// <param name="Lifted">A steward's word lets it through: the reason stays, and is no more than a condition.</param>
    private sealed record Way(
        string Who,
        Func<Scene, Task<Asking>> Bring,
        Func<Scene, Asking, Task<Asking>> Follow,
        bool Lifted = false,
        bool Alone = true
    );

    private static Asking Ask(int day = 2, int hour = 14) => Questions.Open(WebHouse.At(day, hour)).With("memberId", null);

    private static Func<Scene, Task<Asking>> Just(Func<Asking, Asking> change) => _ => Task.FromResult(change(Ask()));

    private static Func<Scene, Task<Asking>> After(string sql, Func<Asking, Asking>? change = null) =>
        async s =>
        {
            await s.Sql(sql);
            return (change ?? (q => q))(Ask());
        };

    private static Func<Scene, Asking, Task<Asking>> Then(Func<Asking, Asking> change) => (_, q) => Task.FromResult(change(q));

    private static Func<Scene, Asking, Task<Asking>> Then(string who, string method, string path, object body) =>
        async (s, q) =>
        {
            await s.Do(who, method, path, body);
            return q;
        };

    /// <summary>The ask goes to the stewards, and one of them lifts it.</summary>
    private static async Task<Asking> Lift(Scene s, Asking question)
    {
        using var member = await s.As("member");
        var put = await member.Post("/api/asks", question.With("note", "As we said."));
        put.Status.ShouldBe(HttpStatusCode.Created, put.Body.ToString());
        await s.Do("steward", "POST", $"/api/asks/{put.Id}/lift", new { reason = "Seen, and fine." });
        return question;
    }

    /// <summary>The question at the first time at which nothing shuts it: then a steward may lift it.</summary>
    private static Func<Scene, Task<Asking>> Liftable(Func<Asking, Asking> change, Func<Scene, Task>? first = null) =>
        async s =>
        {
            if (first is not null)
                await first(s);
            using var member = await s.As("member");
            for (var quarter = 0; quarter < 5 * 36; quarter++)
            {
                var question = change(
                    Ask(1 + quarter / 36, 10).With("start", WebHouse.At(1 + quarter / 36, 10 + quarter % 36 / 4, quarter % 4 * 15))
                );
                if ((await member.Post("/api/gate/ask?soonest=false", question)).Verdict == "ask")
                    return question;
            }
            throw new InvalidOperationException("At no time in five days.");
        };

    private static Way Lifts(Func<Scene, Task<Asking>> bring) => new("member", bring, Lift, Lifted: true);

    private static Way Else(Func<Asking, Asking> wrong, Func<Asking, Asking> right) =>
        new("member", Just(wrong), Then(right), Alone: false);

    private static Func<Asking, Asking> OnRotary(object round) => q => q.With("fixture", "rotary").With("round", round);

    private static Task CertifiedForRotary(Scene s) =>
        s.Do(
            "trainer",
            "POST",
            "/api/sign-offs",
            new
            {
                memberId = "m-4",
                authority = "heron/rotary",
                note = "Set up and ran a jar.",
            }
        );

    private static Way Wrapped(object round, string? sql = null) =>
        new(
            "member",
            async s =>
            {
                if (sql is not null)
                    await s.Sql(sql);
                return OnRotary(round)(Ask()).With("drawingId", await s.Draw(Square));
            },
            Then(OnRotary(new { diameter = "73" })),
            Alone: sql is not null
        );

    private const string NoCertificate =
        "update training.certificate set recorded = tstzrange(lower(recorded), @now) where person_id = 'm-4' and authority = "
        + "'wren' and upper_inf(recorded);";

    private static string Certificate(string held) =>
        $"{NoCertificate} insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded) select "
        + $"gen_random_uuid(), 'm-4', 'wren', 'm-3', gen_random_uuid(), {held}, tstzrange(@now, null);";

    private static readonly object SignOff = new
    {
        memberId = "m-4",
        authority = "wren",
        note = "Saw it all, no prompt.",
    };

    private static Asking Wren(Asking q) => q.With("machineId", "wren");

    /// <summary>Heron set to an entry for so many mm, with what the library suggests for the member's sheet otherwise.</summary>
    private static Func<Scene, Task<Asking>> SetTo(decimal mm, bool flame = false) =>
        async s =>
        {
            var like = await Suggested(s);
            var entry = await s.Do(
                "member",
                "POST",
                "/api/settings",
                new
                {
                    machineId = "heron",
                    materialId = "birch-ply-laser",
                    thicknessMm = mm,
                    operation = "cut",
                    powerPercent = like.GetProperty("powerPercent").GetDecimal(),
                    watts = like.GetProperty("watts").GetDecimal(),
                    speedMmPerS = like.GetProperty("speedMmPerS").GetDecimal(),
                    passes = like.GetProperty("passes").GetInt32(),
                }
            );
            if (flame)
                await s.Do(
                    "member",
                    "POST",
                    "/api/runs",
                    new
                    {
                        machineId = "heron",
                        materialId = "birch-ply-laser",
                        thickness = $"{mm} mm",
                        operations = new[] { "cut" },
                        settingId = entry.Id,
                        start = "2026-11-24T09:00:00Z",
                        end = "2026-11-24T09:10:00Z",
                        outcome = "flame",
                    }
                );
            return Ask().With("settingIds", new[] { entry.Id });
        };

    private static async Task<System.Text.Json.JsonElement> Suggested(Scene s)
    {
        using var member = await s.As("member");
        var list = (await member.Get("/api/settings?machineId=heron&materialId=birch-ply-laser&operation=cut&thicknessMm=3")).Body;
        var id = list.GetProperty("suggestion").GetProperty("id").GetString();
        return list.GetProperty("items").EnumerateArray().Single(i => i.GetProperty("id").GetString() == id);
    }

    /// <summary>A cut row on that sheet comes out clean at the energy of the setting.</summary>
    private static async Task<Asking> CutATestPiece(Scene s, Asking question)
    {
        var energy = (await Suggested(s)).GetProperty("jPerMm").GetDouble();
        var piece = await s.Do(
            "member",
            "POST",
            "/api/test-pieces",
            new
            {
                kind = "cut",
                machineId = "heron",
                materialId = "birch-ply-laser",
                thicknessMm = 3,
                sheetTag = "S-0097",
            }
        );
        var cells = piece
            .Body.GetProperty("cells")
            .EnumerateArray()
            .Select(c => c.GetProperty("jPerMm").GetDouble())
            .Select(e => new { energyJPerMm = e, through = e > 0.85 * energy });
        await s.Do("member", "POST", $"/api/test-pieces/{piece.Id}/results", new { cells });
        return question;
    }

    /// <summary>The keeper goes through the sheet of Heron anew, and nothing is left open.</summary>
    private static async Task<Asking> Commission(Scene s, Asking question)
    {
        using var keeper = await s.As("keeper");
        var all = (await keeper.Get("/api/commissioning")).Body;
        var heron = all.GetProperty("items").EnumerateArray().Single(m => m.GetProperty("machineId").GetString() == "heron");
        await s.Do(
            "keeper",
            "PUT",
            "/api/machines/heron/commissioning",
            new { fields = SetUpSheet.Whole, version = heron.GetProperty("version") }
        );
        return question;
    }

    private static object Air(decimal airflow) => new { airflowM3PerHour = airflow };

    private static Func<Scene, Task<Asking>> Read(decimal airflow) =>
        async s =>
        {
            await s.Do("trainer", "POST", "/api/machines/heron/readings", Air(airflow));
            return Ask();
        };

    private static Func<Scene, Task<Asking>> Fault(string symptom) =>
        async s =>
        {
            await s.Do("newcomer", "POST", "/api/faults", new { machineId = "heron", symptom });
            return Ask();
        };

    private static async Task<Asking> CloseFault(Scene s, Asking question)
    {
        using var steward = await s.As("steward");
        var open = (await steward.Get("/api/faults")).Body.GetProperty("items").EnumerateArray();
        foreach (var fault in open.Where(f => f.GetProperty("machineId").GetString() == "heron"))
            await s.Do("steward", "POST", $"/api/faults/{fault.GetProperty("id").GetString()}/close", new { note = "Put right." });
        return question;
    }

    private static readonly Dictionary<string, Way> Ways = new()
    {
        ["settings.double"] = new("member", SetTo(6.35m), Then(q => q.With("settingIds", null))),
        ["settings.hot"] = new("member", SetTo(5), CutATestPiece),
        ["settings.flame"] = new("member", SetTo(3, flame: true), Then(q => q.With("settingIds", null))),
        ["settings.unknown"] = Else(q => q.With("settingIds", new[] { Guid.NewGuid() }), q => q.With("settingIds", null)),
        ["settings.untested"] = new("member", SetTo(3), CutATestPiece),
        ["person.inactive"] = new(
            "steward",
            async s =>
            {
                await s.Do("keeper", "PUT", "/api/people/m-20/end", new { lastDay = "2026-11-25" });
                return Ask().With("memberId", "m-20");
            },
            Then("keeper", "PUT", "/api/people/m-20/end", new { })
        ),
        ["person.paused"] = new(
            "member",
            async s =>
            {
                await s.Do("steward", "POST", "/api/people/m-4/pauses", new { reason = "A word about the lid." });
                return Ask();
            },
            async (s, q) =>
            {
                using var member = await s.As("member");
                var pause = (await member.Get("/api/me")).Body.GetProperty("pause").GetProperty("id").GetString();
                await s.Do("steward", "POST", $"/api/pauses/{pause}/release", new { reason = "We talked." });
                return q;
            }
        ),
        ["person.elsewhere"] = new(
            "member",
            async s =>
            {
                using var member = await s.As("member");
                var start = await member.FreeStart(q => Wren(q), 4);
                (await member.Post("/api/bookings", Wren(Questions.Open(start)))).Status.ShouldBe(HttpStatusCode.Created);
                return Ask().With("start", start);
            },
            async (s, q) =>
            {
                using var member = await s.As("member");
                var mine = (await member.Get("/api/bookings?mine=true&from=2026-11-24T00:00:00Z&to=2026-12-20T00:00:00Z"))
                    .Body.GetProperty("items")
                    .EnumerateArray()
                    .Single(b => b.GetProperty("machineId").GetString() == "wren");
                await s.Do("member", "POST", $"/api/bookings/{mine.GetProperty("id").GetString()}/cancel", new { });
                return q;
            }
        ),
        ["person.agreement"] = new(
            "member",
            After("update people.agreement set recorded = tstzrange(lower(recorded), @now) where person_id = 'm-4'"),
            Then("member", "POST", "/api/me/agreement", new { })
        ),
        ["person.underAge"] = new(
            "member",
            After("update people.person set birth_date = '2011-06-01' where id = 'm-4'"),
            Then(q => q.With("supervisorId", "m-3"))
        ),
        ["person.noConsent"] = new(
            "member",
            After("update people.person set birth_date = '2010-01-01' where id = 'm-4'"),
            Then("keeper", "POST", "/api/people/m-4/consents", new { text = "Mother, signed form." })
        ),

        ["training.none"] = new("member", After(NoCertificate, Wren), Then("trainer", "POST", "/api/sign-offs", SignOff)),
        ["training.lapsed"] = new(
            "member",
            After(Certificate("tstzrange('2025-01-01', @now)"), Wren),
            Then("trainer", "POST", "/api/sign-offs", SignOff)
        ),
        ["training.idle"] = new(
            "member",
            After(
                Certificate("tstzrange('2026-01-05', '2027-01-05')")
                    + "delete from run.log where person_id = 'm-4' and machine_id = 'wren'",
                Wren
            ),
            Then(q => q.With("supervisorId", "m-3"))
        ),
        ["training.addOn"] = new("member", Just(q => q.With("fixture", "rotary")), async (s, q) =>
        {
            await CertifiedForRotary(s);
            return q;
        }),
        ["training.suspended"] = new(
            "member",
            async s =>
            {
                await s.Do(
                    "steward",
                    "POST",
                    "/api/certificate-holds",
                    new
                    {
                        personId = "m-4",
                        authority = "wren",
                        kind = "suspended",
                        reason = "Left it running.",
                    }
                );
                return Wren(Ask());
            },
            EndHold
        ),
        ["training.review"] = Lifts(Liftable(Wren, s => s.Do(
                    "steward",
                    "POST",
                    "/api/certificate-holds",
                    new
                    {
                        personId = "m-4",
                        authority = "wren",
                        kind = "review",
                        reason = "Signed by somebody whose word is looked at.",
                    }
                ))),
        ["training.founding"] = new(
            "member",
            async s =>
            {
                await s.Sql(NoCertificate);
                await s.Sql(
                    "update people.role set recorded = tstzrange(lower(recorded), @now) where role = 'trainer' and machine_id = "
                        + "'wren' and upper_inf(recorded)"
                );
                await s.Do(
                    "keeper",
                    "POST",
                    "/api/founding-sign-offs",
                    new
                    {
                        personId = "m-4",
                        machineId = "wren",
                        evidence = "Maker's course, two days.",
                    }
                );
                return Wren(Ask());
            },
            async (s, q) =>
            {
                using var keeper = await s.As("keeper");
                var id = (await keeper.Get("/api/founding-sign-offs"))
                    .Body.GetProperty("items")
                    .EnumerateArray()
                    .Single(f => f.GetProperty("personId").GetString() == "m-4")
                    .GetProperty("id")
                    .GetString();
                await s.Do("steward", "POST", $"/api/founding-sign-offs/{id}/confirm", new { reason = "Saw the certificate." });
                return q;
            }
        ),
        ["training.unread"] = new(
            "member",
            After(
                "delete from training.done where person_id = 'm-4' and module_id = (select id from training.module where kind = "
                    + "'reading' order by id limit 1)"
            ),
            async (s, q) =>
            {
                using var member = await s.As("member");
                var page = (await member.Get("/api/training/ladder"))
                    .Body.GetProperty("safety")
                    .EnumerateArray()
                    .First(p => p.GetProperty("kind").GetString() == "reading" && p.GetProperty("state").GetString() != "done")
                    .GetProperty("id")
                    .GetString();
                var reading = (await member.Get($"/api/training/readings/{page}")).Body;
                foreach (var option in reading.GetProperty("options").EnumerateArray())
                {
                    if (
                        (
                            await member.Post(
                                $"/api/training/readings/{page}/done",
                                new { version = reading.GetProperty("version").GetInt32(), answer = option.GetString() }
                            )
                        ).Status == HttpStatusCode.NoContent
                    )
                        break;
                }
                return q;
            }
        ),

        ["material.banned"] = Else(
            q => q.With("materialId", "abs").With("sheetTag", null),
            q => q.With("materialId", "mat-board").With("thicknessMm", 1.4)
        ),
        ["material.byArrangement"] = Lifts(Liftable(q => q.With("minutes", null).With("materialId", "mdf").With("sheetTag", null))),
        ["material.noRuling"] = new(
            "member",
            After(
                "update materials.ruling set recorded = tstzrange(lower(recorded), @now) where material_id = 'mat-board' and kind "
                    + "= 'co2' and operation = 'engrave' and upper_inf(recorded)",
                q =>
                    q.With("materialId", "mat-board")
                        .With("thicknessMm", 1.4)
                        .With("operations", new[] { "engrave" })
                        .With("sheetTag", null)
            ),
            async (s, q) =>
            {
                await s.Do("member", "POST", "/api/ruling-requests", new { name = "Mat board, engraved", note = "For labels." });
                using var steward = await s.As("steward");
                var shelf = (await steward.Get("/api/materials"))
                    .Body.GetProperty("items")
                    .EnumerateArray()
                    .Single(m => m.GetProperty("id").GetString() == "mat-board");
                await s.Do(
                    "steward",
                    "POST",
                    "/api/materials/mat-board/rulings",
                    new
                    {
                        version = shelf.GetProperty("version").GetInt32(),
                        cells = new[] { new { kind = "co2", operation = "engrave" } },
                        ranges = new[] { new { standing = "permitted", evidence = "none" } },
                        reasons = new[] { "fire-melt" },
                        hazard = "Smoke and fine particles.",
                        reason = "Asked for, and as before.",
                    }
                );
                // Milder than before: somebody else agrees.
                await s.House.MakeSteward("m-1");
                using var other = await s.As("keeper");
                var proposal = (await other.Get("/api/ruling-proposals"))
                    .Body.GetProperty("items")
                    .EnumerateArray()
                    .Single(p => p.GetProperty("materialId").GetString() == "mat-board")
                    .GetProperty("id")
                    .GetString();
                await s.Do("keeper", "POST", $"/api/ruling-proposals/{proposal}/agree", new { reason = "I looked at it too." });
                return q;
            }
        ),
        ["material.cannot"] = Else(
            q => q.With("materialId", "acrylic-clear").With("machineId", "swift").With("sheetTag", null),
            q => q.With("machineId", "heron")
        ),
        ["material.tooThick"] = Else(q => q.With("thicknessMm", 9).With("sheetTag", null), q => q.With("thicknessMm", 3)),
        ["material.extraction"] = Lifts(
            Liftable(q => Wren(q).With("minutes", null).With("materialId", "leather-veg").With("thicknessMm", 2).With("sheetTag", null))
        ),
        ["sheet.untagged"] = Else(q => q.With("sheetTag", null), q => q.With("sheetTag", "S-0097")),
        ["sheet.notCleared"] = new(
            "member",
            After(
                "update materials.clearance set recorded = tstzrange(lower(recorded), @now) where tag = 'S-0097' and upper_inf(recorded)"
            ),
            Then(
                "steward",
                "POST",
                "/api/sheets/S-0097/clear",
                new
                {
                    operations = new[] { "cut" },
                    machineIds = new[] { "heron" },
                    seen = "The maker's sheet in the folder.",
                }
            )
        ),
        ["sheet.wrong"] = Else(q => q.With("sheetTag", "S-0101"), q => q.With("sheetTag", "S-0097")),
        ["sheet.quarantined"] = new(
            "member",
            async s =>
            {
                await s.Do("newcomer", "POST", "/api/sheets/S-0097/report", new { reason = "Smelled of chlorine." });
                return Ask();
            },
            Then(q => q.With("sheetTag", null).With("materialId", "mat-board").With("thicknessMm", 1.4))
        ),
        ["sheet.unknown"] = Else(q => q.With("sheetTag", "S-4711"), q => q.With("sheetTag", "S-0097")),

        ["drawing.none"] = new("member", Just(q => q), async (s, q) => q.With("drawingId", await s.Draw(Square))),
        ["drawing.wanted"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{drawingWanted}', '\"everybody\"')"),
            async (s, q) => q.With("drawingId", await s.Draw(Square))
        ),
        ["drawing.unknown"] = new("member", Just(q => q.With("drawingId", Guid.NewGuid().ToString())), async (s, q) =>
            q.With("drawingId", await s.Draw(Square))
        ),
        ["drawing.stop"] = new(
            "member",
            async s => Ask().With("drawingId", await s.Draw(Square + "M5 5h20")),
            async (s, q) =>
                q.With(
                    "drawingId",
                    (
                        await s.Do(
                            "member",
                            "POST",
                            $"/api/drawings/{q["drawingId"]}/mend/keep",
                            new { machineId = "heron", doubled = true }
                        )
                    ).Id
                )
        ),
        ["drawing.asks"] = Lifts(async s =>
        {
            var id = await s.Draw(string.Concat(Enumerable.Range(0, 30).Select(i => $"M{5 + i * 0.8:0.0} 5v20")));
            return await Liftable(q => q.With("drawingId", id))(s);
        }),
        ["drawing.offBed"] = new(
            "member",
            async s => Ask().With("drawingId", await s.Draw("M5 5h1100v20h-1100z")),
            async (s, q) => q.With("drawingId", await s.Draw(Square))
        ),
        ["size.offSheet"] = new(
            "member",
            async s => Ask().With("drawingId", await s.Draw("M5 5h850v20h-850z")),
            async (s, q) => q.With("drawingId", await s.Draw(Square))
        ),
        ["page.notSheet"] = new(
            "member",
            async s =>
            {
                await s.Sql("update house.rules set body = jsonb_set(body, '{pageIsSheet}', 'true')");
                return Ask().With("drawingId", await s.Draw(Square));
            },
            async (s, q) =>
            {
                var laid = await s.Do(
                    "member",
                    "POST",
                    $"/api/drawings/{q["drawingId"]}/place",
                    new
                    {
                        machineId = "heron",
                        materialId = "birch-ply-laser",
                        thickness = "3 mm",
                        tag = "S-0097",
                    }
                );
                return q.With("drawingId", laid.Body.GetProperty("drawing").GetProperty("id").GetString());
            }
        ),
        ["rotary.shape"] = Wrapped(new { diameter = "73", handleOrBall = true }),
        ["rotary.range"] = Wrapped(
            new { diameter = "200" },
            "update house.machine set spec = jsonb_set(spec, '{station,rotaryToMm}', '120') where id = 'heron'"
        ),
        ["rotary.overlap"] = new(
            "member",
            async s => OnRotary(new { diameter = "73" })(Ask()).With("drawingId", await s.Draw("M5 5h20v20h-20zM30 5v300")),
            async (s, q) => q.With("drawingId", await s.Draw(Square))
        ),
        ["rotary.taper"] = Lifts(Liftable(OnRotary(new { diameter = "73", diameter2 = "66" }), CertifiedForRotary)),
        ["drawing.operations"] = new(
            "member",
            async s => Ask().With("drawingId", await s.Draw(Square, "#2e6e8e")),
            Then(q => q.With("operations", new[] { "cut", "score" }))
        ),

        ["machine.stopped"] = new(
            "member",
            async s =>
            {
                await s.Do("newcomer", "POST", "/api/machines/heron/stops", new { reason = "It smells of burning." });
                return Ask();
            },
            Then("steward", "POST", "/api/machines/heron/return", new { reason = "A crumb on the lens, cleaned.", opticsTouched = false })
        ),
        ["hold.incident"] = new("member", Incident("interlockFailed", "heron"), EndIncidentHolds),
        ["machine.look"] = new(
            "member",
            async s =>
            {
                using var visitor = await s.House.As(null);
                await visitor.Post(
                    "/api/near-misses",
                    new
                    {
                        id = Guid.NewGuid(),
                        machineId = "heron",
                        what = "smoke",
                    }
                );
                return Ask();
            },
            Then("steward", "POST", "/api/machines/heron/looked", new { reason = "Bed, lens, filter and duct looked at." })
        ),
        ["sheet.incident"] = new(
            "member",
            async s =>
            {
                await Incident("fume", "", "S-0097")(s);
                using var steward = await s.As("steward");
                // The room is aired: only the sheet is still held.
                await EndIncidentHolds(s, Ask(), only: "room");
                return Ask();
            },
            Then(q => q.With("sheetTag", null).With("materialId", "mat-board").With("thicknessMm", 1.4))
        ),
        ["material.incident"] = new(
            "member",
            async s =>
            {
                var id = await Tell(s, "other", "swift", "S-0097", 4);
                var material = Ask()["materialId"];
                await s.Do(
                    "steward",
                    "POST",
                    $"/api/incidents/{id}/holds",
                    new { holds = new[] { new { kind = "ruling", target = material } } }
                );
                return Ask();
            },
            EndIncidentHolds
        ),
        ["room.incident"] = new("member", Incident("fume", ""), EndIncidentHolds),
        ["machine.upkeepOverdue"] = new(
            "member",
            After("update upkeep.task set overdue_from = @now - interval '1 day' where id = 'wren-coolant'", Wren),
            Then("steward", "POST", "/api/upkeep/wren-coolant/done", new { note = "Changed, five litres." })
        ),
        ["machine.airflowDue"] = new("member", Read(545), Then("trainer", "POST", "/api/machines/heron/readings", Air(640))),
        ["machine.airflowLow"] = new("member", Read(480), Then("trainer", "POST", "/api/machines/heron/readings", Air(640))),
        ["machine.airflowOut"] = new("member", Read(420), Then("trainer", "POST", "/api/machines/heron/readings", Air(640))),
        ["upkeep.due"] = new(
            "member",
            After("update upkeep.task set due_from = @now - interval '1 day', overdue_from = null where id = 'wren-coolant'", Wren),
            Then("steward", "POST", "/api/upkeep/wren-coolant/done", new { note = "Changed, five litres." })
        ),
        ["fault.open"] = new("member", Fault("edge"), CloseFault),
        ["fault.asks"] = new("member", Fault("scratch"), CloseFault),
        ["fault.stops"] = new(
            "member",
            Fault("flowAlarm"),
            Then("steward", "POST", "/api/machines/heron/return", new { reason = "A kink in the line.", touched = Array.Empty<string>() })
        ),
        ["machine.commissioning"] = new("member", After("delete from house.commissioning where machine_id = 'heron'"), Commission),
        ["machine.gaps"] = new(
            "member",
            After("update house.commissioning set sheet = jsonb_set(sheet, '{level}', 'false') where machine_id = 'heron'"),
            Commission
        ),
        ["machine.interlocks"] = new(
            "member",
            After("delete from upkeep.interlock_trial where machine_id = 'heron'"),
            Then("trainer", "POST", "/api/upkeep/heron-interlocks/done", new { note = "Gone each time." })
        ),
        ["machine.afterBreak"] = new(
            "member",
            After(
                "update run.log set during = tstzrange(lower(during) - interval '40 days', upper(during) - interval '40 days') "
                    + "where machine_id = 'heron'"
            ),
            Then(
                "trainer",
                "POST",
                "/api/machines/heron/after-break",
                new
                {
                    interlocks = true,
                    outlet = true,
                    kit = true,
                    airflowM3PerHour = 640,
                    coolantC = 20,
                }
            )
        ),
        ["machine.notHere"] = new(
            "member",
            After("update house.machine set spec = jsonb_set(spec, '{hereUntil}', '\"2026-11-01\"') where id = 'heron'"),
            Then(Wren)
        ),
        ["fixture.out"] = new(
            "member",
            async s =>
            {
                await s.Do("steward", "POST", "/api/fixtures/pins/out", new { memberId = "m-3", due = WebHouse.At(2, 16) });
                return Ask().With("fixture", "pins");
            },
            Then("steward", "POST", "/api/fixtures/pins/back", new { })
        ),
        ["fixture.overdue"] = new(
            "member",
            After(
                "insert into house.fixture_out (id, fixture, person_id, out_at, out_by, due) values (gen_random_uuid(), 'pins', 'm-3', "
                    + "@now - interval '5 hours', 'm-2', @now - interval '1 hour')",
                q => q.With("fixture", "pins").With("start", "2026-11-24T15:00:00Z")
            ),
            Then("steward", "POST", "/api/fixtures/pins/back", new { })
        ),
        ["fixture.cutOnly"] = Else(
            q => q.With("fixture", "cutting grid").With("operations", new[] { "engrave" }),
            q => q.With("fixture", null)
        ),
        ["bench.taken"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{finishingBenches}', '0')", q => q.With("bench", new { })),
            Then(q => q.With("bench", null))
        ),
        ["machine.fixture"] = Else(q => q.With("fixture", "lathe"), q => q.With("fixture", null)),
        ["machine.notClosed"] = new(
            "member",
            After(
                "update house.rules set body = jsonb_set(body, '{closedMachinesOnly}', 'true'); update house.machine set spec = "
                    + "jsonb_set(spec, '{laserClass}', '\"4\"') where id = 'heron'"
            ),
            Then(Wren)
        ),
        ["machine.airflow"] = new(
            "member",
            After("update house.machine set spec = spec - 'airflowM3PerHour' where id = 'heron'"),
            async (s, q) =>
            {
                await MachineSheets.Write(s.House, "heron", "airflowM3PerHour", "650");
                return q;
            }
        ),
        ["machine.enclosure"] = new(
            "member",
            After("update house.machine set spec = spec #- '{station,enclosureKind}' where id = 'heron'"),
            async (s, q) =>
            {
                await MachineSheets.Write(s.House, "heron", "station.enclosureKind", "closed");
                return q;
            }
        ),

        ["time.past"] = Else(q => q.With("start", "2026-11-24T09:00:00Z"), q => q.With("start", WebHouse.At(2, 14))),
        ["time.closed"] = Else(q => q.With("start", "2026-11-26T05:00:00Z"), q => q.With("start", WebHouse.At(2, 14))),
        ["time.closure"] = new(
            "member",
            async s =>
            {
                await s.Do(
                    "keeper",
                    "POST",
                    "/api/calendar",
                    new
                    {
                        kind = "closure",
                        title = "Floor painted",
                        firstDay = "2026-11-26",
                        starts = "12:00",
                        ends = "18:00",
                    }
                );
                return Ask();
            },
            Then(q => q.With("start", WebHouse.At(3, 14)))
        ),
        ["time.class"] = Else(q => Wren(q).With("start", "2026-11-28T10:30:00Z"), q => q.With("start", "2026-11-28T14:00:00Z")),
        ["time.classFull"] = new(
            "member",
            After(
                "update house.plan set at_once = 1 where kind = 'class'; insert into house.roster (plan_id, person_id, recorded) "
                    + "select id, 'm-4', tstzrange(@now, null) from house.plan where kind = 'class';"
                    + "insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, "
                    + "made_at) select '00000000-0000-0000-0000-00000000c1a5', r.person_id, 'swift', '[2026-11-28 10:30Z,2026-11-28 "
                    + "11:45Z)', 75, '[]', '{\"items\":[]}', (select id from gate.decision limit 1), r.person_id, @now from "
                    + "house.roster r where r.person_id <> 'm-4' limit 1;"
                    + "insert into booking.resource (id) select 'class:' || id || '/1' from house.plan where kind = 'class' on "
                    + "conflict do nothing;"
                    + "insert into booking.claim (booking_id, resource, during, recorded) select "
                    + "'00000000-0000-0000-0000-00000000c1a5', 'class:' || id || '/1', '[2026-11-28 10:30Z,2026-11-28 11:45Z)', "
                    + "tstzrange(@now, null) from house.plan where kind = 'class'",
                q => Wren(q).With("start", "2026-11-28T10:30:00Z")
            ),
            Then(q => q.With("start", "2026-11-28T14:00:00Z"))
        ),
        ["time.lastRun"] = Else(q => q.With("start", "2026-11-26T19:45:00Z"), q => q.With("start", WebHouse.At(2, 14))),
        ["time.taken"] = new(
            "member",
            async s =>
            {
                using var trainer = await s.As("trainer");
                var start = await trainer.FreeStart(q => q.With("memberId", "m-3"), 5);
                (await trainer.Post("/api/bookings", Questions.Open(start).With("memberId", "m-3"))).Status.ShouldBe(
                    HttpStatusCode.Created
                );
                return Ask().With("start", start);
            },
            async (s, q) =>
            {
                using var member = await s.As("member");
                return q.With("start", await member.FreeStart(f => f.With("memberId", null), 6));
            }
        ),
        ["time.tooShort"] = Else(q => q.With("minutes", 15), q => q.With("minutes", null)),
        ["time.unknownRun"] = Else(q => q.With("runMinutes", null), q => q.With("runMinutes", 18)),
        ["time.sameDay"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{sameDayBooking}', 'false')", q =>
                q.With("start", "2026-11-24T15:00:00Z")
            ),
            Then(q => q.With("start", WebHouse.At(2, 14)))
        ),
        ["walkup.off"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{walkUp}', 'false')", q => q.With("start", "2026-11-24T10:30:00Z")),
            Then(q => q.With("start", WebHouse.At(2, 14)))
        ),
        ["time.limit"] = Lifts(Liftable(q => q.With("minutes", 195))),
        ["time.tooFarAhead"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{bookAheadDays}', '1')"),
            Then(q => q.With("start", WebHouse.At(1, 14)))
        ),
        ["time.lead"] = new(
            "member",
            After("update house.rules set body = jsonb_set(body, '{bookLeadMinutes}', '1440')", q =>
                q.With("start", "2026-11-24T15:00:00Z")
            ),
            Then(q => q.With("start", WebHouse.At(2, 14)))
        ),
        ["time.noShows"] = Lifts(async s =>
        {
            using var member = await s.As("member");
            await s.Do("member", "POST", "/api/bookings", Questions.Open(await member.FreeStart()));
            await s.Sql(
                "update house.rules set body = jsonb_set(body, '{noShowsBeforePause}', '1');"
                    + "update booking.claim set live = false, recorded = tstzrange(lower(recorded), @now + interval '1 second')"
                    + " where booking_id in (select id from booking.booking where person_id = 'm-4');"
                    + "update booking.booking set no_show = true, cancelled_at = @now, during = tstzrange(@now - interval '2 hours',"
                    + " @now - interval '1 hour') where person_id = 'm-4'"
            );
            return Ask();
        }),

        ["room.kitOut"] = new(
            "member",
            After("update house.fire_kit set in_date_until = @now where id = 'co2'"),
            Then("keeper", "PUT", "/api/house/kit/co2", new { name = "CO2 extinguisher by the door", lastDay = "2027-11-30" })
        ),
        ["room.noSupervisor"] = new(
            "member",
            After(
                "update house.duty set recorded = tstzrange(lower(recorded), @now) where during && '[2026-11-26 00:00Z,2026-11-27 00:00Z)'"
            ),
            Then(q => q.With("start", WebHouse.At(3, 14)))
        ),
        ["room.rotaOpen"] = new(
            "member",
            Just(q => q.With("start", "2026-12-22T14:00:00Z")),
            Then(
                "keeper",
                "POST",
                "/api/calendar",
                new
                {
                    kind = "duty",
                    firstDay = "2026-12-22",
                    starts = "10:00",
                    ends = "21:00",
                    personId = "m-2",
                }
            )
        ),
        ["room.freshAir"] = new(
            "member",
            After("update house.room set body = jsonb_set(jsonb_set(body, '{coAlarm}', 'false'), '{freshAir}', '\"\"')", Wren),
            async (s, q) =>
            {
                using var keeper = await s.As("keeper");
                var room = (await keeper.Get("/api/house/sheets")).Body.GetProperty("room");
                var fields = room.EnumerateObject().ToDictionary(p => p.Name, p => (object)p.Value);
                (fields["coAlarm"], fields["freshAir"]) = (true, "two roof vents, open while filters run");
                await s.Do("keeper", "PUT", "/api/house/room", new { fields });
                return q;
            }
        ),
        ["room.eyewear"] = new(
            "member",
            After("update house.machine set spec = jsonb_set(spec, '{laserClass}', '\"4\"') where id = 'heron'; delete from house.eyewear"),
            Then(
                "keeper",
                "PUT",
                "/api/house/eyewear/co2",
                new
                {
                    name = "CO2 goggles",
                    minNm = 10000,
                    maxNm = 11000,
                    opticalDensity = 6,
                    damageRated = true,
                    count = 4,
                }
            )
        ),
        ["eyewear.notCovered"] = new(
            "member",
            After(
                "update house.machine set spec = jsonb_set(jsonb_set(spec, '{laserClass}', '\"4\"'), '{wavelengthNm}', '355') "
                    + "where id = 'heron'"
            ),
            async (s, q) =>
            {
                await s.Sql("update house.machine set spec = jsonb_set(spec, '{wavelengthNm}', '10600') where id = 'heron'");
                await MachineSheets.Write(s.House, "heron", "laserClass", "1");
                return q;
            }
        ),
    };

    private static async Task<string> Tell(Scene s, string what, string machine, string? tag = null, int severity = 2) =>
        (
            await s.Do(
                "newcomer",
                "POST",
                "/api/incidents",
                new
                {
                    machineId = machine,
                    at = "2026-11-24T10:00:00Z",
                    what,
                    severity,
                    seen = "Seen and told.",
                    tag,
                }
            )
        ).Id;

    private static Func<Scene, Task<Asking>> Incident(string what, string machine, string? tag = null) =>
        async s =>
        {
            await Tell(s, what, machine, tag);
            return Ask();
        };

    private static Task<Asking> EndIncidentHolds(Scene s, Asking question) => EndIncidentHolds(s, question, null);

    private static async Task<Asking> EndIncidentHolds(Scene s, Asking question, string? only)
    {
        using var steward = await s.As("steward");
        foreach (var incident in (await steward.Get("/api/incidents")).Body.GetProperty("items").EnumerateArray())
        {
            var id = incident.GetProperty("id").GetString();
            var holds = (await steward.Get($"/api/incidents/{id}")).Body.GetProperty("holds").EnumerateArray();
            foreach (var hold in holds.Where(h => h.GetProperty("state").GetString() == "set"))
                if (only is null || hold.GetProperty("kind").GetString() == only)
                    await s.Do(
                        "steward",
                        "POST",
                        $"/api/incidents/{id}/holds/{hold.GetProperty("id")}/end",
                        new
                        {
                            reason = "Looked at all of it.",
                            checks = hold.GetProperty("checks").EnumerateArray().Select(c => c.GetProperty("code").GetString()).ToArray(),
                        }
                    );
        }
        return question;
    }

    private static async Task<Asking> EndHold(Scene s, Asking question)
    {
        using var steward = await s.As("steward");
        var hold = (await steward.Get("/api/certificate-holds?personId=m-4"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .First(h => h.GetProperty("personId").GetString() == "m-4")
            .GetProperty("id")
            .GetString();
        var ended = await s.Do("steward", "POST", $"/api/certificate-holds/{hold}/end", new { reason = "We went through it together." });
        // Two words are asked where a house says so: the second is another steward's.
        if (ended.Status != HttpStatusCode.Accepted)
            return question;
        await s.House.MakeSteward("m-1");
        await s.Do("keeper", "POST", $"/api/certificate-holds/{hold}/end", new { reason = "I agree." });
        return question;
    }

    public static TheoryData<string> Codes => [.. Ways.Keys];

    [Fact]
    public void EveryCode_HasAWay_OrIsNamedApart() =>
        Core
            .Gating.Codes.All.Select(r => r.Code)
            .Order(StringComparer.Ordinal)
            .ShouldBe(Ways.Keys.Concat(Apart).Order(StringComparer.Ordinal));

    [Theory]
    [MemberData(nameof(Codes))]
    public async Task Remedy_Followed_OpensTheWay(string code)
    {
        var way = Ways[code];
        // What only another question opens changes nothing in the house.
        await using var own = way.Alone ? new WebHouse() : null;
        if (own is not null)
            await own.InitializeAsync();
        var house = own ?? shared;
        var scene = new Scene(house);
        var question = await way.Bring(scene);
        using var asker = await house.As(way.Who);
        var before = await Reason(asker, question, code);
        before.ShouldNotBeNull($"{code} has to be brought about first");
        before.Value.GetProperty("remedy").GetProperty("text").GetString().ShouldNotBeNullOrWhiteSpace();
        var again = await way.Follow(scene, question);
        var after = await Reason(asker, again, code);
        if (way.Lifted)
            after!.Value.GetProperty("standing").GetString().ShouldBe("caution", $"{code} is lifted");
        else
            after.ShouldBeNull($"{code} after its remedy");
    }

    [Theory]
    [InlineData("material.never")]
    [InlineData("person.tooYoung")]
    public async Task WhatNothingOpens_NamesNoWay(string code)
    {
        await using var house = new WebHouse();
        await house.InitializeAsync();
        var scene = new Scene(house);
        await scene.Sql("update people.person set birth_date = '2016-01-01' where id = 'm-4'");
        using var asker = await house.As("member");
        var reason = await Reason(asker, Ask().With("materialId", "pvc-sheet").With("sheetTag", null), code);
        reason.ShouldNotBeNull();
        (reason.Value.TryGetProperty("remedy", out var remedy) && remedy.ValueKind != System.Text.Json.JsonValueKind.Null).ShouldBeFalse();
    }

    private static async Task<System.Text.Json.JsonElement?> Reason(Api api, Asking question, string code)
    {
        var answer = await api.Post("/api/gate/ask?soonest=false", question);
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body.ToString());
        var found = answer
            .Body.GetProperty("posts")
            .EnumerateArray()
            .SelectMany(p => p.GetProperty("reasons").EnumerateArray())
            .Where(r => r.GetProperty("code").GetString() == code)
            .ToList();
        return found.Count == 0 ? null : found[0];
    }
}
