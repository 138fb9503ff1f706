using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>
/// Each code of the contract is switched on and off again by one fact, and read over HTTP. The fact is set through the API where it
/// has a way, else written to the tables as the role the server runs as.
/// </summary>
public class CodesOverHttpTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Drawing =
        """<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40"><path d="M5 5h20v20h-20z" fill="none" stroke="#9c2f4f"/></svg>""";

    private async Task Toggle(
        string code,
        Func<Task> on,
        Func<Task>? off,
        Func<Dictionary<string, object?>, Dictionary<string, object?>>? question = null,
        string who = "member"
    )
    {
        using var api = await house.As(who);
        async Task<IReadOnlyList<string>> Codes() =>
            (await api.Post("/api/gate/ask?soonest=false", (question ?? (q => q))(Questions.Open(WebHouse.At(2, 14))))).Codes;
        (await Codes()).ShouldNotContain(code);
        await on();
        (await Codes()).ShouldContain(code);
        if (off is null)
            return;
        await off();
        (await Codes()).ShouldNotContain(code);
    }

    /// <summary>A code that hangs on what is asked: absent from one question, present in another.</summary>
    private async Task Asking(string code, Func<Dictionary<string, object?>, Dictionary<string, object?>> question, string who = "member")
    {
        using var api = await house.As(who);
        (await api.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 14)).With("memberId", null))).Codes.ShouldNotContain(
            code
        );
        (
            await api.Post("/api/gate/ask?soonest=false", question(Questions.Open(WebHouse.At(2, 14)).With("memberId", null)))
        ).Codes.ShouldContain(code);
    }

    private Func<Task> Sql(string sql) =>
        async () =>
        {
            await using var command = house.Db.App.CreateCommand(
                sql.Replace("@now", $"'{TestDatabase.Now}'::timestamptz", StringComparison.Ordinal)
            );
            await command.ExecuteNonQueryAsync();
        };

    [Fact]
    public async Task PersonPaused()
    {
        using var steward = await house.As("steward");
        var pause = "";
        await Toggle(
            "person.paused",
            async () => pause = (await steward.Post("/api/people/m-4/pauses", new { reason = "A word about the lid." })).Id,
            async () => await steward.Post($"/api/pauses/{pause}/release", new { reason = "We talked." })
        );
    }

    [Fact]
    public async Task PersonElsewhere()
    {
        using var member = await house.As("member");
        var start = await member.FreeStart(q => q.With("machineId", "wren"), fromDay: 4);
        var booking = "";
        await Toggle(
            "person.elsewhere",
            async () => booking = (await member.Post("/api/bookings", Questions.Open(start).With("machineId", "wren"))).Id,
            async () => await member.Post($"/api/bookings/{booking}/cancel"),
            q => q.With("start", start)
        );
    }

    [Fact]
    public Task PersonAgreement() =>
        Toggle(
            "person.agreement",
            Sql("update people.agreement set recorded = tstzrange(lower(recorded), @now) where person_id = 'm-4'"),
            Sql("insert into people.agreement (person_id, held, recorded) values ('m-4', '[2025-01-01,)', tstzrange(@now, null))")
        );

    [Fact]
    public async Task TrainingNone_GoesWithASignOff()
    {
        using var trainer = await house.As("trainer");
        using var newcomer = await house.As("newcomer");
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-5").With("machineId", "wren");
        (await newcomer.Post("/api/gate/ask", question)).Codes.ShouldContain("training.none");
        (
            await trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-5",
                    authority = "wren",
                    note = "Saw it all, no prompt.",
                }
            )
        ).Status.ShouldBe(System.Net.HttpStatusCode.Created);
        (await newcomer.Post("/api/gate/ask", question)).Codes.ShouldNotContain("training.none");
    }

    [Fact]
    public Task TrainingLapsed() =>
        Toggle(
            "training.lapsed",
            Sql(
                "update training.certificate set recorded = tstzrange(lower(recorded), @now) where person_id = 'm-4' and authority "
                    + "= 'wren'; insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded) select "
                    + "gen_random_uuid(), 'm-4', 'wren', 'm-3', gen_random_uuid(), tstzrange('2025-01-01', @now), tstzrange(@now, null)"
            ),
            Sql(
                "insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded) select "
                    + "gen_random_uuid(), 'm-4', 'wren', 'm-3', gen_random_uuid(), tstzrange(@now, null), tstzrange(@now, null)"
            ),
            q => q.With("machineId", "wren")
        );

    [Fact]
    public Task TrainingAddOn() => Asking("training.addOn", q => q.With("fixture", "rotary"));

    [Theory]
    [InlineData("material.never", "pvc-sheet")]
    [InlineData("material.banned", "abs")]
    [InlineData("material.byArrangement", "mdf")]
    public Task Material_ByItsRuling(string code, string material) =>
        Asking(code, q => q.With("materialId", material).With("sheetTag", null));

    [Fact]
    public Task MaterialNoRuling() =>
        Toggle(
            "material.noRuling",
            Sql(
                "update materials.ruling set recorded = tstzrange(lower(recorded), @now) where material_id = 'mat-board' and kind "
                    + "= 'co2' and operation = 'engrave'"
            ),
            null,
            q => q.With("materialId", "mat-board").With("thicknessMm", 1.4).With("operations", new[] { "engrave" }).With("sheetTag", null)
        );

    [Fact]
    public Task MaterialCannot() =>
        Asking("material.cannot", q => q.With("materialId", "acrylic-clear").With("machineId", "swift").With("sheetTag", null));

    [Fact]
    public Task MaterialTooThick() => Asking("material.tooThick", q => q.With("thicknessMm", 9).With("sheetTag", null));

    [Fact]
    public Task SheetUntagged() => Asking("sheet.untagged", q => q.With("sheetTag", null));

    [Fact]
    public Task SheetWrong() => Asking("sheet.wrong", q => q.With("sheetTag", "S-0102"));

    [Fact]
    public Task SheetQuarantined() =>
        Toggle(
            "sheet.quarantined",
            Sql("insert into materials.quarantine (tag, held, recorded) values ('S-0098', tstzrange(@now, null), tstzrange(@now, null))"),
            Sql("update materials.quarantine set recorded = tstzrange(lower(recorded), @now + interval '1 second') where tag = 'S-0098'"),
            q => q.With("sheetTag", "S-0098").With("thicknessMm", 6)
        );

    [Fact]
    public async Task DrawingNone()
    {
        using var member = await house.As("member");
        var drawing = (await member.PutIn(Drawing)).Id;
        var answer = await member.Post("/api/gate/ask", Questions.Open(WebHouse.At(2, 14)).With("drawingId", drawing));
        answer.Codes.ShouldNotContain("drawing.none");
        answer.Codes.ShouldNotContain("drawing.stop");
        (await member.Post("/api/gate/ask", Questions.Open(WebHouse.At(2, 14)))).Codes.ShouldContain("drawing.none");
    }

    [Theory]
    [InlineData("drawing.stop", "M5 5h20v20h-20zM5 5h20")]
    [InlineData("drawing.offBed", "M5 5h900v20h-900z")]
    public async Task Drawing_ByWhatIsInIt(string code, string path)
    {
        using var member = await house.As("member");
        var fine = (await member.PutIn(Drawing)).Id;
        var faulty = (await member.PutIn(Drawing.Replace("M5 5h20v20h-20z", path, StringComparison.Ordinal))).Id;
        (await member.Post("/api/gate/ask", Questions.Open(WebHouse.At(2, 14)).With("drawingId", fine))).Codes.ShouldNotContain(code);
        (await member.Post("/api/gate/ask", Questions.Open(WebHouse.At(2, 14)).With("drawingId", faulty))).Codes.ShouldContain(code);
    }

    [Fact]
    public async Task MachineStopped()
    {
        using var newcomer = await house.As("newcomer");
        using var steward = await house.As("steward");
        var stop = "";
        await Toggle(
            "machine.stopped",
            async () => stop = (await newcomer.Post("/api/machines/swift/stops", new { reason = "It smells of burning." })).Id,
            async () =>
                await steward.Post(
                    $"/api/stops/{stop}/return",
                    new { reason = "A crumb on the lens, cleaned.", touched = Array.Empty<string>() }
                ),
            q => q.With("machineId", "swift")
        );
    }

    [Fact]
    public Task MachineUpkeepOverdue() =>
        Toggle(
            "machine.upkeepOverdue",
            Sql(
                "insert into upkeep.task (id, machine_id, name, plan, since, overdue_from, held, recorded) values ('wren-lens', 'wren', "
                    + "'Lens check', '{}', @now, @now, '[2026-01-01,)', tstzrange(@now, null))"
            ),
            Sql("update upkeep.task set recorded = tstzrange(lower(recorded), @now + interval '1 second') where id = 'wren-lens'"),
            q => q.With("machineId", "wren")
        );

    [Fact]
    public async Task TimeTaken()
    {
        using var trainer = await house.As("trainer");
        var start = await trainer.FreeStart(q => q.With("memberId", "m-3"), fromDay: 5);
        var booking = "";
        await Toggle(
            "time.taken",
            async () => booking = (await trainer.Post("/api/bookings", Questions.Open(start).With("memberId", "m-3"))).Id,
            async () => await trainer.Post($"/api/bookings/{booking}/cancel"),
            q => q.With("start", start)
        );
    }

    [Theory]
    [InlineData("time.past", "2026-11-24T10:00:00Z")]
    [InlineData("time.closed", "2026-11-26T05:00:00Z")]
    public Task Time_ByTheClock(string code, string start) => Asking(code, q => q.With("start", start));

    [Fact]
    public Task TimeTooShort() => Asking("time.tooShort", q => q.With("minutes", 30));

    [Fact]
    public Task TimeLimit() => Asking("time.limit", q => q.With("minutes", 195));

    [Fact]
    public Task RoomKitOut() =>
        Toggle(
            "room.kitOut",
            Sql(
                "update house.fire_kit set recorded = tstzrange(lower(recorded), @now) where id = 'blanket'; insert into "
                    + "house.fire_kit (id, name, in_date_until, held, recorded) values ('blanket', 'fire blanket', @now, "
                    + "'[2025-01-01,)', tstzrange(@now, null))"
            ),
            Sql(
                "update house.fire_kit set recorded = tstzrange(lower(recorded), @now + interval '1 second') where id = 'blanket' "
                    + "and upper_inf(recorded); insert into house.fire_kit (id, name, held, recorded) values ('blanket', 'fire blanket', "
                    + "'[2025-01-01,)', tstzrange(@now + interval '1 second', null))"
            )
        );

    [Fact]
    public Task RoomNoSupervisor() =>
        Toggle(
            "room.noSupervisor",
            Sql(
                "update house.duty set recorded = tstzrange(lower(recorded), @now) where during && '[2026-11-28 00:00Z,2026-11-29 00:00Z)'"
            ),
            Sql(
                "insert into house.duty (person_id, during, recorded) values ('m-2', '[2026-11-28 10:00Z,2026-11-28 21:00Z)', "
                    + "tstzrange(@now, null))"
            ),
            q => q.With("start", "2026-11-28T12:00:00Z")
        );

    [Fact]
    public async Task RoomEyewear()
    {
        // The class in use is read from the label: a panel was taken off, and no glasses here cover 1064 nm.
        using var api = await house.As("steward");
        var question = Questions
            .Open(WebHouse.At(2, 14))
            .With("memberId", "m-2")
            .With("machineId", "kestrel")
            .With("operations", new[] { "engrave" })
            .With("materialId", "metal-plain")
            .With("sheetTag", null);
        (await api.Post("/api/gate/ask", question)).Codes.ShouldNotContain("room.eyewear");
        await Sql("update house.machine set spec = jsonb_set(spec, '{laserClass}', '\"4\"') where id = 'kestrel'")();
        (await api.Post("/api/gate/ask", question)).Codes.ShouldContain("room.eyewear");
        await Sql(
            "insert into house.eyewear (id, name, min_nm, max_nm, optical_density, damage_rated, count, held, recorded) values "
                + "('yag', 'near-infrared glasses', 1000, 1100, 6, true, 2, '[2025-01-01,)', tstzrange(@now, null))"
        )();
        (await api.Post("/api/gate/ask", question)).Codes.ShouldNotContain("room.eyewear");
    }
}
