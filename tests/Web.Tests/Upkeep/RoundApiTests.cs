using System.Net;
using System.Text.Json;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Ledger;
using Xunit;

namespace VelvetGate.Web.Tests.Upkeep;

/// <summary>The round of fire kit and eyewear, the stock of upkeep, and locks on machines out of service.</summary>
public sealed class RoundApiTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private static async Task<JsonElement> Item(Api api, string id, bool eyewear = false) =>
        (await api.Get("/api/upkeep/round"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(i => i.GetProperty("id").GetString() == id && i.GetProperty("eyewear").GetBoolean() == eyewear);

    private static async Task<IReadOnlyList<string>> Ask(Api api) =>
        (await api.Post("/api/gate/ask?soonest=false", Questions.Open(WebHouse.At(2, 14)).With("machineId", "heron"))).Codes;

    private static async Task<JsonElement> Stock(Api api, string name) =>
        (await api.Get("/api/upkeep/stock"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(s => s.GetProperty("name").GetString() == name);

    /// <summary>A blanket that is gone shuts the room until somebody finds it there; a new date alone does not open it.</summary>
    [Fact]
    public async Task Kit_FoundWrong_ShutsTheGate_UntilItIsFoundRight()
    {
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        using var keeper = await _house.As("keeper");
        using var steward = await _house.As("steward");
        (await member.Post("/api/upkeep/round/kit/blanket", new { inOrder = true })).Code.ShouldBe("upkeep.notYours");
        (await trainer.Post("/api/upkeep/round/kit/blanket", new { })).Fields.ShouldBe(["wrong"]);
        (await trainer.Post("/api/upkeep/round/kit/blanket", new { wrong = new[] { "stolen" } })).Fields.ShouldBe(["wrong"]);
        (await trainer.Post("/api/upkeep/round/kit/nowhere", new { inOrder = true })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Ask(member)).ShouldNotContain("room.kitOut");
        (
            await trainer.Post("/api/upkeep/round/kit/blanket", new { wrong = new[] { "missing" }, note = "The hook is empty." })
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await Ask(member)).ShouldContain("room.kitOut");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("fire blanket: not there");
        _house.Clock.Now += Duration.FromMinutes(1);
        (await keeper.Put("/api/house/kit/blanket", new { name = "fire blanket", lastDay = "2028-01-31" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Ask(member)).ShouldContain("room.kitOut", "a date mends nothing");
        var found = await Item(trainer, "blanket");
        (found.GetProperty("wrong").GetString(), found.GetProperty("note").GetString()).ShouldBe(("not there", "The hook is empty."));
        found.GetProperty("lookedBy").GetString().ShouldBe("Bartek Quill");
        (await trainer.Post("/api/upkeep/round/kit/blanket", new { inOrder = true })).Status.ShouldBe(HttpStatusCode.OK);
        (await Ask(member)).ShouldNotContain("room.kitOut");

        (await trainer.Post("/api/upkeep/round/kit/blanket", new { wrong = new[] { "damaged" } })).Status.ShouldBe(HttpStatusCode.OK);
        (await Ask(member)).ShouldContain("room.kitOut");
        _house.Clock.Now += Duration.FromMinutes(1);
        (await keeper.Delete("/api/house/kit/blanket")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Delete("/api/house/kit/blanket")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Ask(member)).ShouldNotContain("room.kitOut", "what the house has no longer is nobody’s to put right");
        (await new LedgerVerifier(_house.Db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    /// <summary>The last item of the round does the room’s task; damaged eyewear counts no more.</summary>
    [Fact]
    public async Task Round_OnceWhole_DoesTheRoomsTask()
    {
        using var trainer = await _house.As("trainer");
        var before = await RoomTask();
        (await trainer.Post("/api/upkeep/round/eyewear/blue", new { damaged = 9 })).Fields.ShouldBe(["damaged"]);
        (await trainer.Post("/api/upkeep/round/eyewear/blue", new { damaged = 1, note = "Scratched." })).Status.ShouldBe(HttpStatusCode.OK);
        (await Item(trainer, "blue", eyewear: true)).GetProperty("count").GetInt32().ShouldBe(3);
        (await Look("co2")).ShouldBeFalse();
        (await Look("alarm")).ShouldBeFalse();
        (await RoomTask()).ShouldBe(before);
        (await Look("blanket")).ShouldBeTrue("it was the last of them");
        (await RoomTask()).ShouldNotBe(before);
        (await Look("blanket")).ShouldBeFalse("a second look begins no second round");

        async Task<bool> Look(string id)
        {
            var looked = await trainer.Post($"/api/upkeep/round/kit/{id}", new { inOrder = true });
            looked.Status.ShouldBe(HttpStatusCode.OK);
            _house.Clock.Now += Duration.FromMinutes(2);
            return looked.Body.GetProperty("roundDone").GetBoolean();
        }

        async Task<string> RoomTask() =>
            (await trainer.Get("/api/upkeep"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Single(t => t.GetProperty("part").GetString() == "fireKit")
                .GetProperty("since")
                .GetString()!;
    }

    /// <summary>Two people find two things wrong with one item at the same moment: both looks stay, and one of them holds.</summary>
    [Fact]
    public async Task Looks_AtTheSameMoment_ComeOneAfterTheOther()
    {
        using var trainer = await _house.As("trainer");
        using var steward = await _house.As("steward");
        var looks = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(i =>
                    (i % 2 == 0 ? trainer : steward).Post(
                        "/api/upkeep/round/kit/co2",
                        new { wrong = new[] { i % 2 == 0 ? "seal" : "damaged" } }
                    )
                )
        );
        looks.ShouldAllBe(l => l.Status == HttpStatusCode.OK);
        await using var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (
            await connection.ExecuteScalarAsync<int>("select count(*)::int from upkeep.kit_look where item_id = 'co2' and wrong <> '{}'")
        ).ShouldBe(6);
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from house.fire_kit where id = 'co2' and upper_inf(recorded) and upper_inf(held) and wrong <> '{}'"
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task Codes_AreForStewards()
    {
        using var steward = await _house.As("steward");
        using var trainer = await _house.As("trainer");
        var codes = await steward.Http.GetAsync("/api/upkeep/round/codes.pdf", TestContext.Current.CancellationToken);
        codes.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await trainer.Get("/api/upkeep/round/codes.pdf")).Status.ShouldBe(HttpStatusCode.Forbidden);
    }

    /// <summary>What a task used up is gone from the shelf, never below nothing, also where two take the last one at once.</summary>
    [Fact]
    public async Task Stock_GoesDownWithTheTask_AndIsOrderedInTime()
    {
        using var trainer = await _house.As("trainer");
        using var steward = await _house.As("steward");
        var carbon = (await Stock(trainer, "Carbon for Wren")).GetProperty("id").GetString();
        (await Change("cameIn", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Needs()).ShouldNotContain("Carbon for Wren");
        (await trainer.Post("/api/upkeep/wren-carbon/done", new { used = new[] { new { id = carbon, amount = 3 } } })).Code.ShouldBe(
            "stock.short",
            "nothing is done half"
        );
        (await trainer.Post("/api/upkeep/wren-carbon/done", new { used = new[] { new { id = carbon, amount = 1 } } })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        (await Stock(trainer, "Carbon for Wren")).GetProperty("stock").GetDecimal().ShouldBe(1);
        (await Needs()).ShouldContain("Carbon for Wren, fills: 1 left.");
        var last = await Task.WhenAll(Change("usedUp", 1), Change("usedUp", 1), Change("usedUp", 1));
        last.Count(l => l.Status == HttpStatusCode.NoContent).ShouldBe(1);
        last.Where(l => l.Status != HttpStatusCode.NoContent).ShouldAllBe(l => l.Code == "stock.short");
        (await Change("counted", 4)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Change("counted", 4)).Code.ShouldBe("stock.same");
        (await Change("lost", 4)).Fields.ShouldBe(["kind"]);
        (await Stock(trainer, "Carbon for Wren")).GetProperty("stock").GetDecimal().ShouldBe(4);

        Task<Answer> Change(string kind, decimal amount) =>
            trainer.Post(
                $"/api/upkeep/stock/{carbon}/changes",
                new
                {
                    kind,
                    amount,
                    batch = kind == "cameIn" ? "C-2301" : null,
                }
            );

        async Task<string> Needs() => (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString();
    }

    [Fact]
    public async Task Stock_IsDescribedByStewards_AndTwoWindowsDoNotWriteOverEachOther()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        var gloves = new
        {
            name = "Gloves",
            unit = "pairs",
            part = "filter",
            place = "by the door",
            supplier = "",
            reorder = 5,
            waste = "bin",
            version = 0,
        };
        (await member.Post("/api/upkeep/stock", gloves)).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post("/api/upkeep/stock", gloves with { waste = "", name = "" })).Fields.ShouldBe(["name", "waste"], true);
        var id = (await steward.Post("/api/upkeep/stock", gloves)).Id;
        (await steward.Post("/api/upkeep/stock", gloves)).Code.ShouldBe("stock.twice");
        var stock = await Stock(member, "Gloves");
        (stock.GetProperty("low").GetBoolean(), stock.GetProperty("mayChange").GetBoolean()).ShouldBe((true, false));
        (await member.Post($"/api/upkeep/stock/{id}/changes", new { kind = "cameIn", amount = 9 })).Code.ShouldBe("stock.staff");
        var version = stock.GetProperty("version").GetInt32();
        (await steward.Put($"/api/upkeep/stock/{id}", gloves with { reorder = 2, version = version })).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Put($"/api/upkeep/stock/{id}", gloves with { reorder = 3, version = version })).Code.ShouldBe("stock.changed");
        (await steward.Delete($"/api/upkeep/stock/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Delete($"/api/upkeep/stock/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>A lock that hangs keeps the machine out, whoever returns it; whoever has its key takes it off.</summary>
    [Fact]
    public async Task Lock_KeepsTheMachineOut_UntilItsHolderTakesItOff()
    {
        using var steward = await _house.As("steward");
        using var repairer = await _house.As("trainer");
        using var member = await _house.As("member");
        var where = new { where = "padlock 4 on the plug" };
        (await repairer.Post("/api/machines/heron/locks", where)).Code.ShouldBe("lock.runs");
        (await member.Get("/api/machines/heron/tag.pdf")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Post("/api/machines/heron/stops", new { reason = "Smoke from the filter." })).Status.ShouldBe(HttpStatusCode.Created);
        (await member.Post("/api/machines/heron/locks", where)).Code.ShouldBe("upkeep.notYours");
        (await repairer.Post("/api/machines/heron/locks", new { where = " " })).Fields.ShouldBe(["where"]);
        var hung = (await repairer.Post("/api/machines/heron/locks", where)).Id;
        (await repairer.Post("/api/machines/heron/locks", where)).Code.ShouldBe("lock.twice");
        var tag = await member.Http.GetAsync("/api/machines/heron/tag.pdf", TestContext.Current.CancellationToken);
        tag.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        _house.Clock.Now += Duration.FromMinutes(1);
        (await Return(steward)).Code.ShouldBe("return.locked");
        (await steward.Post($"/api/locks/{hung}/off", new { })).Fields.ShouldBe(["why"]);
        (await member.Post($"/api/locks/{hung}/off", new { why = "It is mine." })).Code.ShouldBe("lock.notYours");
        (await repairer.Get("/api/locks")).Body.GetProperty("items")[0].GetProperty("mine").GetBoolean().ShouldBeTrue();
        (await repairer.Post($"/api/locks/{hung}/off", new { })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await repairer.Post($"/api/locks/{hung}/off", new { })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await Return(steward)).Status.ShouldBe(HttpStatusCode.NoContent);

        static Task<Answer> Return(Api api) =>
            api.Post("/api/machines/heron/return", new { reason = "A rag in the filter.", touched = Array.Empty<string>() });
    }

    /// <summary>In a house where users service nothing, a member’s task is a trainer’s; the task keeps what it said.</summary>
    [Fact]
    public async Task School_WhereUsersServiceNothing_TakesTheTaskFromMembers()
    {
        using var member = await _house.As("member");
        using var keeper = await _house.As("keeper");
        (await Lens()).ShouldBe(("member", true));
        await using (var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken))
            await connection.ExecuteAsync("update house.rules set body = jsonb_set(body, '{memberUpkeep}', '\"nothing\"')");
        (await Lens()).ShouldBe(("trainer", false));
        (await member.Post("/api/upkeep/heron-lens/done", new { })).Code.ShouldBe("upkeep.notYours");

        async Task<(string?, bool)> Lens()
        {
            var task = (await member.Get("/api/upkeep"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Single(t => t.GetProperty("id").GetString() == "heron-lens");
            task.GetProperty("plannedWho").GetString().ShouldBe("member");
            return (task.GetProperty("who").GetString(), task.GetProperty("mayDo").GetBoolean());
        }
    }

    /// <summary>A machine that left the house: nothing of it is due, and what was recorded of it stays.</summary>
    [Fact]
    public async Task SoldMachine_IsNoLongerDue_AndItsRecordStays()
    {
        using var steward = await _house.As("steward");
        using var member = await _house.As("member");
        (await steward.Post("/api/upkeep/kestrel-mirrors/done", new { note = "Before it goes." })).Status.ShouldBe(HttpStatusCode.OK);
        var feed = new Uri((await member.Post("/api/feeds", new { kind = "upkeep" })).Body.GetProperty("url").GetString()!).AbsolutePath;
        (await member.Http.GetStringAsync(feed, TestContext.Current.CancellationToken)).ShouldContain("SUMMARY:Kestrel:");
        await using (var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken))
            await connection.ExecuteAsync("update house.machine set spec = spec || '{\"hereUntil\": \"2026-11-20\"}' where id = 'kestrel'");
        var calendar = await member.Http.GetStringAsync(feed, TestContext.Current.CancellationToken);
        calendar.ShouldNotContain("Kestrel");
        calendar.ShouldContain("SUMMARY:Heron: Lens: look\\, and clean if it needs it");
        calendar.ShouldContain("DTSTART;VALUE=DATE:2026");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldNotContain("Kestrel: ");
        (await steward.Get("/api/upkeep/kestrel-mirrors/done")).Body.ToString().ShouldContain("Before it goes.");
    }

    /// <summary>A photo of a fault: whoever told it adds one, staff see it, others do not, and what is no picture is refused.</summary>
    [Fact]
    public async Task Photo_OfAFault_IsSeenByStaffAndWhoeverTookIt()
    {
        using var member = await _house.As("member");
        using var newcomer = await _house.As("newcomer");
        using var steward = await _house.As("steward");
        using var trainer = await _house.As("trainer");
        var fault = (await member.Post("/api/faults", new { machineId = "heron", symptom = "edge" })).Id;
        (await Send(member, fault!, [1, 2, 3])).StatusCode.ShouldBe(HttpStatusCode.UnsupportedMediaType);
        (await Send(member, fault!, [])).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await Send(member, Guid.NewGuid().ToString(), Picture())).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Send(newcomer, fault!, Picture())).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Send(member, fault!, Picture())).StatusCode.ShouldBe(HttpStatusCode.Created);
        var photo = Photos(await Fault(steward)).ShouldHaveSingleItem();
        Photos(await Fault(newcomer)).ShouldBeEmpty();
        (await Fault(newcomer)).GetProperty("mayAddPhoto").GetBoolean().ShouldBeFalse();
        (await newcomer.Get($"/api/upkeep/photos/{photo}")).Status.ShouldBe(HttpStatusCode.Forbidden);
        var shown = await member.Http.GetAsync($"/api/upkeep/photos/{photo}", TestContext.Current.CancellationToken);
        shown.Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        for (var i = 0; i < 5; i++)
            (await Send(steward, fault!, Picture())).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await Send(steward, fault!, Picture())).StatusCode.ShouldBe(HttpStatusCode.InsufficientStorage);
        (await trainer.Post($"/api/upkeep/photos/{photo}/remove")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Post($"/api/upkeep/photos/{photo}/remove")).Status.ShouldBe(HttpStatusCode.NoContent);

        (await trainer.Post("/api/upkeep/heron-coolant/done", new { })).Status.ShouldBe(HttpStatusCode.OK);
        var done = (await trainer.Get("/api/upkeep/heron-coolant/done")).Body.GetProperty("items")[0];
        (await Send(trainer, done.GetProperty("id").GetString()!, Picture())).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await trainer.Get("/api/upkeep/heron-coolant/done"))
            .Body.GetProperty("items")[0]
            .GetProperty("photos")
            .GetArrayLength()
            .ShouldBe(1);

        async Task<JsonElement> Fault(Api api) =>
            (await api.Get("/api/faults")).Body.GetProperty("items").EnumerateArray().Single(f => f.GetProperty("id").GetString() == fault);

        static IReadOnlyList<string?> Photos(JsonElement of) =>
            [.. of.GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("id").GetString())];

        static async Task<HttpResponseMessage> Send(Api api, string of, byte[] bytes)
        {
            using var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", "gauge.png" } };
            return await api.Http.PostAsync($"/api/upkeep/{of}/photos", form);
        }
    }

    private static byte[] Picture()
    {
        using var bitmap = new SkiaSharp.SKBitmap(8, 6);
        using var image = SkiaSharp.SKImage.FromBitmap(bitmap);
        return image.Encode(SkiaSharp.SKEncodedImageFormat.Png, 90).ToArray();
    }
}
