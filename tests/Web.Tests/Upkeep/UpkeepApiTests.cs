using System.Net;
using System.Text.Json;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Upkeep;

/// <summary>Tuesday 24 November, 10:15: what is due, what was read and done, faults, and the return of a machine.</summary>
public sealed class UpkeepApiTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private static async Task<JsonElement> Task_(Api api, string id) =>
        (await api.Get("/api/upkeep")).Body.GetProperty("items").EnumerateArray().Single(t => t.GetProperty("id").GetString() == id);

    private static async Task<IReadOnlyList<string>> Ask(Api api, string machine = "heron", int day = 2) =>
        (await api.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(day, 14)).With("machineId", machine))).Codes;

    private static object Tested(decimal? airflow = 640) =>
        new
        {
            interlock = true,
            airflowM3PerHour = airflow,
            coolantC = 21,
            testFire = true,
            framed = true,
        };

    /// <summary>A run makes the mirrors due, without a slip overdue; whoever may, does it, and the counter begins anew.</summary>
    [Fact]
    public async Task Mirrors_BecomeDueByRuns_AndOpenTheGateAgainOnceDone()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        using var trainer = await _house.As("trainer");
        var before = await Task_(steward, "heron-mirrors");
        (before.GetProperty("due").GetBoolean(), before.GetProperty("unit").GetString()).ShouldBe((false, "h"));
        var used = before.GetProperty("used").GetDecimal();
        await Limit(used + 0.4m, slip: 100);
        (await Ask(member)).ShouldNotContain("upkeep.due");
        await Run(30, 10);
        (await Ask(member)).ShouldContain("upkeep.due");
        (await Ask(member)).ShouldNotContain("machine.upkeepOverdue");
        await Limit(used + 0.4m, slip: 0);
        (await Ask(member)).ShouldContain("machine.upkeepOverdue");
        var board = (await steward.Get("/api/upkeep")).Body.GetProperty("items")[0];
        board.GetProperty("overdue").GetBoolean().ShouldBeTrue("the worst stands first");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("Heron: Mirrors");

        (await member.Post("/api/upkeep/heron-mirrors/done", new { })).Code.ShouldBe("upkeep.notYours");
        (await trainer.Post("/api/upkeep/heron-mirrors/done", new { reading = 500 })).Fields.ShouldBe(["reading"]);
        (await trainer.Post("/api/upkeep/heron-mirrors/done", new { note = "Second mirror was dull." })).Status.ShouldBe(HttpStatusCode.OK);
        (await trainer.Post("/api/upkeep/heron-mirrors/done", new { })).Code.ShouldBe("upkeep.doneJustNow");
        (await Ask(member)).ShouldNotContain("machine.upkeepOverdue");
        var after = await Task_(member, "heron-mirrors");
        (after.GetProperty("used").GetDecimal(), after.GetProperty("mayDo").GetBoolean()).ShouldBe((0, false));
        var last = (await steward.Get("/api/upkeep/heron-mirrors/done")).Body.GetProperty("items")[0];
        (last.GetProperty("by").GetString(), last.GetProperty("note").GetString()).ShouldBe(("Bartek Quill", "Second mirror was dull."));

        async Task Limit(decimal limit, decimal slip)
        {
            var task = await Task_(steward, "heron-mirrors");
            var plan = new
            {
                version = task.GetProperty("version").GetInt64(),
                name = "Mirrors: dab clean",
                part = "mirrors",
                counter = "laserHours",
                limit,
                slipPercent = slip,
                who = "trainer",
            };
            (await steward.Put("/api/upkeep/heron-mirrors", plan)).Status.ShouldBe(HttpStatusCode.OK);
            (await steward.Put("/api/upkeep/heron-mirrors", plan)).Code.ShouldBe("upkeep.changed", "two windows: the second looks again");
        }

        async Task Run(int minutes, int ago) =>
            (
                await steward.Post(
                    "/api/runs",
                    new
                    {
                        id = Guid.NewGuid(),
                        memberId = "m-4",
                        machineId = "heron",
                        materialId = "birch-ply-laser",
                        thickness = "3 mm",
                        operations = new[] { "cut" },
                        start = (_house.Clock.Now - Duration.FromMinutes(minutes + ago)).ToString(),
                        end = (_house.Clock.Now - Duration.FromMinutes(ago)).ToString(),
                        outcome = "clean",
                    }
                )
            ).Status.ShouldBe(HttpStatusCode.Created);
    }

    /// <summary>The worked case of airflow, over HTTP: each reading counts until the next one, for bookings that stand, too.</summary>
    [Fact]
    public async Task Airflow_CountsUntilItIsReadAgain()
    {
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        foreach (
            var (airflow, code) in new[]
            {
                (553m, null),
                (545m, "machine.airflowDue"),
                (480m, "machine.airflowLow"),
                (420m, "machine.airflowOut"),
            }
        )
        {
            (await Read(new { airflowM3PerHour = airflow })).Status.ShouldBe(HttpStatusCode.NoContent);
            (await Ask(member)).Where(c => c.StartsWith("machine.airflow", StringComparison.Ordinal)).ShouldBe(code is null ? [] : [code]);
            _house.Clock.Now += Duration.FromSeconds(1);
        }
        var task = await Task_(trainer, "heron-airflow");
        (task.GetProperty("due").GetBoolean(), task.GetProperty("airflow").GetDecimal()).ShouldBe((true, 420));
        (await trainer.Post("/api/upkeep/heron-airflow/done", new { })).Fields.ShouldBe(["reading"]);
        (await trainer.Post("/api/upkeep/heron-airflow/done", new { reading = 622, before = 420 })).Status.ShouldBe(HttpStatusCode.OK);
        (await Ask(member)).ShouldNotContain("machine.airflowOut");
        (await Read(new { })).Code.ShouldBe("reading.nothing");
        (await Read(new { airflowM3PerHour = 1400 })).Fields.ShouldBe(["airflowM3PerHour"]);
        (await trainer.Post("/api/machines/swift/readings", new { coolantC = 20 })).Code.ShouldBe("reading.notCooled");
        (await trainer.Post("/api/machines/nowhere/readings", new { roomC = 20 })).Status.ShouldBe(HttpStatusCode.NotFound);

        Task<Answer> Read(object values) => trainer.Post("/api/machines/heron/readings", values);
    }

    /// <summary>Two taps: what helped leaves a word, the same again is the same fault, and what grows worse stops the machine.</summary>
    [Fact]
    public async Task Fault_GrowsWorse_AndIsClosedByItsReturn()
    {
        using var member = await _house.As("member");
        using var newcomer = await _house.As("newcomer");
        using var steward = await _house.As("steward");
        var first = await member.Post("/api/faults", Flow(helped: true));
        (first.Status, first.Body.GetProperty("standing").GetString()).ShouldBe((HttpStatusCode.Created, "none"));
        (await Ask(member)).ShouldNotContain("fault.open");
        var again = await newcomer.Post("/api/faults", Flow(helped: false));
        (again.Id, again.Body.GetProperty("standing").GetString()).ShouldBe((first.Id, "stops"));
        var codes = await Ask(member);
        codes.ShouldContain("fault.stops");
        codes.ShouldNotContain("machine.stopped", "one reason, with what was seen");
        (await Task_(member, "heron-coolant")).GetProperty("due").GetBoolean().ShouldBeTrue("spent water is a cause");
        var told = (await newcomer.Get("/api/faults"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(f => f.GetProperty("id").GetString() == first.Id);
        (told.GetProperty("times").GetInt32(), told.TryGetProperty("by", out _)).ShouldBe((2, false), "who told it is for staff");
        (await steward.Post($"/api/faults/{first.Id}/close", new { note = "Fine." })).Code.ShouldBe("fault.returnFirst");
        (
            await newcomer.Post("/api/machines/heron/return", new { reason = "Straight again.", touched = Array.Empty<string>() })
        ).Code.ShouldBe("machine.repairAuthority");
        (await steward.Post("/api/machines/heron/return", new { reason = "A kink.", touched = Array.Empty<string>() })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Ask(member)).ShouldNotContain("fault.stops");
        (await member.Get("/api/faults")).Body.ToString().ShouldNotContain(first.Id);

        (await member.Post("/api/faults", new { machineId = "heron", symptom = "nonsense" })).Fields.ShouldBe(["symptom"]);
        (await member.Post("/api/faults", new { machineId = "heron", symptom = "other" })).Fields.ShouldBe(["note"]);
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();

        object Flow(bool helped) =>
            new
            {
                machineId = "heron",
                symptom = "flowAlarm",
                helped,
            };
    }

    /// <summary>A repairer’s word on a fault; a trainer has none.</summary>
    [Fact]
    public async Task Fault_IsJudgedAndClosedByThoseWhoMay()
    {
        using var member = await _house.As("member");
        using var repairer = await _house.As("trainer");
        var fault = (await member.Post("/api/faults", new { machineId = "heron", symptom = "edge" })).Id;
        (await Ask(member)).ShouldContain("fault.open");
        (await member.Post($"/api/faults/{fault}/standing", new { standing = "asks", note = "No." })).Code.ShouldBe(
            "machine.repairAuthority"
        );
        (await repairer.Post($"/api/faults/{fault}/standing", new { standing = "asks", note = "" })).Fields.ShouldBe(["note"]);
        (await repairer.Post($"/api/faults/{fault}/standing", new { standing = "asks", note = "The end switch sticks." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Ask(member)).ShouldContain("fault.asks");
        (await repairer.Post($"/api/faults/{fault}/close", new { note = "Oiled." })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await repairer.Post($"/api/faults/{fault}/close", new { note = "Oiled." })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Ask(member)).ShouldNotContain("fault.asks");
        // Of Swift the trainer is no repairer.
        var other = (await member.Post("/api/faults", new { machineId = "swift", symptom = "edge" })).Id;
        (await repairer.Post($"/api/faults/{other}/close", new { note = "Oiled." })).Code.ShouldBe("machine.repairAuthority");
    }

    /// <summary>The same fault told from two screens at once is one fault.</summary>
    [Fact]
    public async Task Fault_ToldTwiceAtOnce_IsOne()
    {
        var apis = await Task.WhenAll(Enumerable.Range(0, 6).Select(i => _house.As(i % 2 == 0 ? "member" : "newcomer")));
        var told = await Task.WhenAll(apis.Select(a => a.Post("/api/faults", new { machineId = "wren", symptom = "doubleImage" })));
        told.Select(t => t.Id).Distinct().ShouldHaveSingleItem();
        await using var connection = await _house.Db.Owner.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<int>("select times from upkeep.fault where symptom = 'doubleImage'")).ShouldBe(6);
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from house.stop where machine_id = 'wren' and upper_inf(recorded) and upper_inf(held)"
            )
        ).ShouldBe(1);
    }

    /// <summary>
    /// The worked case of a lens: a plain steward returns none, a repairer without airflow neither; complete, the same job needs its test
    /// piece again.
    /// </summary>
    [Fact]
    public async Task Lens_IsReturnedComplete_AndTheSameJobNeedsItsTestPieceAgain()
    {
        using var member = await _house.As("member");
        using var newcomer = await _house.As("newcomer");
        using var steward = await _house.As("steward");
        using var repairer = await _house.As("trainer");
        (await Ask(member)).ShouldNotContain("settings.afterService");
        (await newcomer.Post("/api/machines/heron/stops", new { reason = "The lens is scratched." })).Status.ShouldBe(
            HttpStatusCode.Created
        );
        _house.Clock.Now += Duration.FromMinutes(1);
        (await Return(steward, ["optics"], Tested())).Code.ShouldBe("machine.repairAuthority");
        (await Return(steward, null, Tested())).Code.ShouldBe("return.incomplete");
        (await Return(repairer, ["optics"], Tested(airflow: null))).Fields.ShouldBe(["tested.airflowM3PerHour"]);
        (await Return(repairer, ["optics"], Tested(airflow: 300))).Code.ShouldBe("return.out");
        (await Ask(member)).ShouldContain("machine.stopped");
        (await Return(repairer, ["optics"], Tested())).Status.ShouldBe(HttpStatusCode.NoContent);
        var codes = await Ask(member);
        codes.ShouldContain("settings.afterService");
        codes.ShouldNotContain("machine.stopped");
        (await Return(repairer, ["optics"], Tested())).Status.ShouldBe(HttpStatusCode.NotFound);

        Task<Answer> Return(Api api, string[]? touched, object tested) =>
            api.Post(
                "/api/machines/heron/return",
                new
                {
                    reason = "New lens.",
                    touched,
                    tested,
                }
            );
    }

    /// <summary>A firm’s work keeps the machine out until it is tried; an interlock is tried by two.</summary>
    [Fact]
    public async Task Service_KeepsTheMachineOut_UntilBothHaveTriedIt()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        using var repairer = await _house.As("trainer");
        var visit = new
        {
            touched = new[] { "interlock", "coolant" },
            by = "Northlight Service, a fitter",
            note = "Lid switch and pump replaced.",
        };
        (await member.Post("/api/machines/heron/service", visit)).Code.ShouldBe("machine.repairAuthority");
        (await steward.Post("/api/machines/heron/service", visit with { touched = [] })).Fields.ShouldBe(["touched"]);
        (await steward.Post("/api/machines/heron/service", visit)).Status.ShouldBe(HttpStatusCode.Created);
        (await Ask(member)).ShouldContain("machine.stopped");
        _house.Clock.Now += Duration.FromMinutes(1);
        (await Return(steward, [], new { })).Code.ShouldBe("machine.repairAuthority", "what the firm touched is not unsaid");
        (await Return(repairer, [], Tested())).Status.ShouldBe(HttpStatusCode.Accepted);
        (await Ask(member)).ShouldContain("machine.stopped", "one has tried the interlock");
        (await Return(steward, [], new { interlock = false })).Code.ShouldBe("return.incomplete");
        (await Return(steward, [], new { interlock = true })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Ask(member)).ShouldNotContain("machine.stopped");
        (await steward.Get("/api/machines/heron/service")).Body.GetProperty("items")[0].GetProperty("by").GetString().ShouldBe(visit.by);

        static Task<Answer> Return(Api api, string[] touched, object tested) =>
            api.Post(
                "/api/machines/heron/return",
                new
                {
                    reason = "Tried with the lid.",
                    touched,
                    tested,
                }
            );
    }

    /// <summary>
    /// The demo’s weekly rounds: Wren’s airflow comes under its limit within a fortnight, Heron’s does not; once cleaned nothing is
    /// foreseen, since what was read before says nothing of what comes. Where the sensor lies apart from the gauge, that is said.
    /// </summary>
    [Fact]
    public async Task Airflow_ThatFalls_IsForeseenUntilItIsCleaned()
    {
        using var trainer = await _house.As("trainer");
        async Task<string> Foreseen() => (await trainer.Get("/api/upkeep")).Body.GetProperty("foreseen").ToString();
        (await Foreseen()).ShouldContain("The airflow of Wren falls by 0.3 m³/h a day: cleaning is due around");
        (await Foreseen()).ShouldNotContain("Heron");

        var trends = (await trainer.Get("/api/machines/wren/trends?days=90")).Body;
        var airflow = trends.GetProperty("airflow");
        (airflow.GetProperty("due").GetDecimal(), airflow.GetProperty("byHand").GetArrayLength()).ShouldBe((153, 10));
        airflow.GetProperty("days").GetArrayLength().ShouldBeGreaterThanOrEqualTo(9);
        airflow.GetProperty("fall").GetProperty("crosses").GetString()!.ShouldBeInRange("2026-11-30", "2026-12-08");
        trends.GetProperty("weeks").EnumerateArray().Sum(w => w.GetProperty("hours").GetDecimal()).ShouldBeGreaterThan(0);
        trends.GetProperty("weeks").GetArrayLength().ShouldBe(14, "from Thursday 27 August to Tuesday 24 November");
        (await trainer.Get("/api/machines/wren/trends?days=14"))
            .Body.GetProperty("airflow")
            .GetProperty("days")
            .GetArrayLength()
            .ShouldBe(2);
        (await trainer.Get("/api/machines/wren/trends?days=6")).Fields.ShouldBe(["days"]);
        (await trainer.Get("/api/machines/nobody/trends")).Status.ShouldBe(HttpStatusCode.NotFound);

        (await trainer.Post("/api/upkeep/wren-airflow/done", new { reading = 175 })).Status.ShouldBe(HttpStatusCode.OK);
        (await Foreseen()).ShouldBe("[]");

        await using var owner = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await owner.ExecuteAsync(
            """
            insert into upkeep.reading (id, machine_id, at, run_id, airflow)
                select gen_random_uuid(), 'heron', @at, r.id, 520 from run.log r where r.machine_id = 'heron' order by r.at desc limit 1
            """,
            new { at = TestDatabase.Now }
        );
        (await Foreseen()).ShouldContain("The sensor of Heron says 520 m³/h where");
    }

    /// <summary>A machine without tasks begins with the usual ones, once; a task of the house’s own is added, changed and ended.</summary>
    [Fact]
    public async Task Tasks_AreBegunAddedAndEnded()
    {
        using var steward = await _house.As("steward");
        using var member = await _house.As("member");
        var added = (await steward.Post("/api/machines/swift/upkeep")).Body.GetProperty("added").GetInt32();
        added.ShouldBeGreaterThan(0);
        (await steward.Post("/api/machines/swift/upkeep")).Body.GetProperty("added").GetInt32().ShouldBe(0);
        (await steward.Post("/api/machines/nowhere/upkeep")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Get("/api/upkeep?machineId=swift"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldAllBe(t => t.GetProperty("machineId").GetString() == "swift");
        (await steward.Post("/api/upkeep", Plan("Duct look", "runs"))).Fields.ShouldBe(["counter"], "a room has no runs");
        (await steward.Post("/api/upkeep", Plan("", "days"))).Fields.ShouldBe(["name"]);
        (await steward.Post("/api/upkeep", Plan("Duct look", "hours"))).Fields.ShouldBe(["counter"]);
        var task = await steward.Post("/api/upkeep", Plan("Duct look", "days"));
        task.Status.ShouldBe(HttpStatusCode.OK, task.Body.ToString());
        (await steward.Post("/api/upkeep", Plan("duct LOOK", "days"))).Fields.ShouldBe(["name"]);
        (await member.Post("/api/upkeep", Plan("Mine", "days"))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Delete($"/api/upkeep/{task.Id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Delete($"/api/upkeep/{task.Id}")).Status.ShouldBe(HttpStatusCode.NotFound);

        static object Plan(string name, string counter) =>
            new
            {
                name,
                part = "duct",
                counter,
                limit = 90,
                who = "trainer",
                steps = new[] { "Look from the roof." },
            };
    }
}
