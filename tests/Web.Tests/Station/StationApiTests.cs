using System.Net;
using System.Text.Json;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Station;

/// <summary>A session at Heron over HTTP, on a clock that the test sets.</summary>
public class StationApiTests : IAsyncLifetime
{
    private const string At = "/api/stations/heron";
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync()
    {
        await _house.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    /// <summary>What the screen would send, with what it shows.</summary>
    private sealed class Screen(Api api, JsonElement station)
    {
        public JsonElement Station { get; private set; } = station;
        public JsonElement Session => Station.GetProperty("session");
        public string Step => Session.GetProperty("step").GetString()!;

        public async Task<Answer> Send(string act, object? with = null, string? id = null, int? version = null)
        {
            var body = JsonSerializer.SerializeToNode(with ?? new { })!.AsObject();
            body["act"] = act;
            body["id"] = id ?? Guid.NewGuid().ToString();
            body["session"] = Session.GetProperty("id").GetString();
            body["version"] = version ?? Session.GetProperty("version").GetInt32();
            return await api.Post($"{At}/act", body);
        }

        public async Task Do(string act, object? with = null)
        {
            var answer = await Send(act, with);
            answer.Status.ShouldBe(HttpStatusCode.OK, $"{act} at {Step}: {answer.Body}");
            Station = answer.Body;
        }
    }

    private async Task<Screen> TapIn(Api member)
    {
        var drawing = (
            await member.PutIn(
                "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='60mm' viewBox='0 0 60 60'>"
                    + "<rect x='5' y='5' width='50' height='50' fill='none' stroke='#9c2f4f'/></svg>"
            )
        ).Id;
        var start = await member.FreeStart(q => q.With("drawingId", drawing).With("runMinutes", null));
        var booked = await member.Post("/api/bookings", Questions.Open(start).With("drawingId", drawing).With("runMinutes", null));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        _house.Clock.Now = OffsetDateTimePattern.ExtendedIso.Parse(start).Value.ToInstant();
        var tapped = await member.Post($"{At}/tap");
        tapped.Status.ShouldBe(HttpStatusCode.OK, tapped.Body.ToString());
        return new Screen(member, tapped.Body);
    }

    [Fact]
    public async Task FromTappingInToTappingOut_TheRunIsLoggedByItself()
    {
        using var member = await _house.As("member");
        (await member.Post($"{At}/tap")).Code.ShouldBe("fob.noBooking");
        var screen = await TapIn(member);
        foreach (var place in screen.Session.GetProperty("places").EnumerateArray().Select(p => p.GetProperty("id").GetString()).ToList())
            await screen.Do("check", new { item = place, ok = true });
        (await screen.Send("sheet", new { tag = "S-0101", thickness = new[] { "3", "3", "3" } })).Code.ShouldBe("sheet.other");
        (await screen.Send("sheet", new { tag = "S-0097", thickness = new[] { "3" } })).Fields.ShouldBe(["thicknessMm"]);
        await screen.Do("sheet", new { tag = "s-97", thickness = new[] { "3.0", "0.118 in", "3.02 mm" } });
        await screen.Do("focus", new { method = "gauge", gaugeBack = true });
        (await screen.Send("settings", new { settingId = Guid.NewGuid() })).Code.ShouldBe("settings.unknown");
        await screen.Do(
            "settings",
            new
            {
                values = new
                {
                    powerPercent = 60,
                    speedMmPerS = 23,
                    passes = 1,
                },
            }
        );
        await screen.Do("frame");
        await screen.Do(
            "air",
            new
            {
                seen = true,
                assist = true,
                lidShut = true,
            }
        );
        await screen.Do(
            "confirm",
            new
            {
                height = true,
                material = true,
                stay = true,
            }
        );
        using var keeper = await _house.As("keeper");
        var code = (await keeper.Post("/api/machines/heron/place-code")).Body.GetProperty("code").GetString()!;
        (await screen.Send("start", new { stay = true })).Code.ShouldBe(
            "start.notHere",
            "from a phone, where a code stands at the machine"
        );
        (await screen.Send("here", new { code = "000000" })).Code.ShouldBe("here.wrong");
        await screen.Do("here", new { code = code.ToLowerInvariant() });
        screen.Session.GetProperty("hereDue").GetBoolean().ShouldBeFalse();
        (await screen.Send("start", new { stay = true })).Code.ShouldBe("start.extractionLead");
        _house.Clock.Now += Duration.FromSeconds(100);
        await screen.Do("start", new { stay = true });
        screen.Step.ShouldBe("running");

        // Nothing here reaches the machine: a stop from anywhere says so, and the run stands as it is.
        using (var visitor = await _house.As(null))
            (await visitor.Post($"{At}/stop", new { }))
                .Body.GetProperty("says")
                .GetString()!
                .ShouldStartWith("This screen cannot stop Heron");
        (await member.Get(At)).Body.GetProperty("step").GetString().ShouldBe("running");

        // Two tabs: the older one is told, but for a press; and the same press twice is one.
        (await screen.Send("press", version: 1)).Status.ShouldBe(
            HttpStatusCode.OK,
            "nobody waits for the newest view to say that they watch"
        );
        var stale = await screen.Send("look", version: 1);
        (stale.Status, stale.Code).ShouldBe((HttpStatusCode.Conflict, "station.moved"));
        var press = Guid.NewGuid().ToString();
        var first = await screen.Send("press", id: press);
        first.Status.ShouldBe(HttpStatusCode.OK);
        (await screen.Send("press", id: press)).Body.ToString().ShouldBe(first.Body.ToString());
        screen = new Screen(member, first.Body);

        _house.Clock.Now += Duration.FromSeconds(60);
        await screen.Do("stop", new { why = "ended" });
        (await screen.Send("lidOpened")).Code.ShouldBe("lid.early");
        _house.Clock.Now += Duration.FromSeconds(60);
        await screen.Do("lidOpened");
        await screen.Do("outcome", new { result = "through", moved = false });
        await screen.Do("next", new { what = "finish" });
        (await screen.Send("tapOut")).Code.ShouldBe("close.open");
        foreach (var item in new[] { "bed", "head", "fan" })
            await screen.Do("close", new { item });
        (await screen.Send("tapOut")).Status.ShouldBe(HttpStatusCode.OK);
        (await member.Get(At)).Body.TryGetProperty("session", out _).ShouldBeFalse();

        var run = (await member.Get("/api/runs?mine=true")).Body.GetProperty("items")[0];
        (run.GetProperty("outcome").GetString(), run.GetProperty("settings").GetString()).ShouldBe(("clean", "60 %, 23 mm/s, 1 pass"));
        (run.GetProperty("end").GetDateTimeOffset() - run.GetProperty("start").GetDateTimeOffset()).ShouldBe(TimeSpan.FromSeconds(60));
        run.GetProperty("thicknessMm").GetDecimal().ShouldBe(3.02m);
    }

    [Fact]
    public async Task CodeAndPapersAtTheMachine_AreForEverybodyWhoStandsThere()
    {
        using var keeper = await _house.As("keeper");
        using var visitor = await _house.As(null);
        (await keeper.Get("/api/machines/heron/place-code")).Body.TryGetProperty("code", out _).ShouldBeFalse();
        (await keeper.Get("/api/machines/heron/place-code.pdf")).Status.ShouldBe(HttpStatusCode.NotFound);
        var code = (await keeper.Post("/api/machines/heron/place-code")).Body.GetProperty("code").GetString()!;
        code.ShouldMatch("^[0-9A-HJKMNP-TV-Z]{6}$");
        var card = await keeper.Http.GetByteArrayAsync("/api/machines/heron/place-code.pdf");
        (await Outside.TextOf(card)).ShouldContain(code);
        (await Outside.CodesOf(card)).ShouldContain(c => c.EndsWith($"/station/heron?here={code}", StringComparison.Ordinal));
        (await keeper.Post("/api/machines/heron/place-code")).Body.GetProperty("code").GetString().ShouldNotBe(code, "renewed");
        (await keeper.Delete("/api/machines/heron/place-code")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Post("/api/machines/nowhere/place-code")).Status.ShouldBe(HttpStatusCode.NotFound);

        (await Put("<html>", "guide.pdf")).Code.ShouldBe("machinePaper.kind");
        var added = await Put("%PDF-1.7 fold here", "Quick guide.pdf");
        added.Status.ShouldBe(HttpStatusCode.Created, added.Body.ToString());
        (await visitor.Http.GetStringAsync("/at/heron")).ShouldContain("Quick guide");
        using var file = await visitor.Http.GetAsync($"/at/heron/papers/{added.Id}");
        (await file.Content.ReadAsStringAsync()).ShouldBe("%PDF-1.7 fold here");
        file.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment", "nothing in it runs here");
        (await visitor.Http.GetAsync($"/at/wren/papers/{added.Id}")).StatusCode.ShouldBe(HttpStatusCode.NotFound, "it is Heron’s");
        (await keeper.Delete($"/api/machines/heron/papers/{added.Id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await visitor.Http.GetStringAsync("/at/heron")).ShouldNotContain("Quick guide");

        async Task<Answer> Put(string text, string name)
        {
            using var form = new MultipartFormDataContent
            {
                { new ByteArrayContent(System.Text.Encoding.UTF8.GetBytes(text)), "file", name },
            };
            return await Answer.Of(await keeper.Http.PostAsync("/api/machines/heron/papers", form));
        }
    }

    [Fact]
    public async Task SomebodyElse_SeesWhoIsThere_AndTakesTheBeamAwayAtMost()
    {
        using var member = await _house.As("member");
        using var other = await _house.As("newcomer");
        using var steward = await _house.As("steward");
        var screen = await TapIn(member);
        var seen = (await other.Get(At)).Body;
        seen.TryGetProperty("session", out _).ShouldBeFalse();
        seen.GetProperty("busy").GetProperty("name").GetString()!.ShouldNotContain("Calloway");
        (await other.Post($"{At}/tap")).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var theirs = new Screen(other, screen.Station);
        (await theirs.Send("check", new { item = "walk", ok = true })).Code.ShouldBe("station.notYours");

        // Wrong is told in two taps; nothing starts, and they may go.
        await screen.Do(
            "check",
            new
            {
                item = "walk",
                ok = false,
                note = "The blanket is gone.",
            }
        );
        screen.Session.GetProperty("held").GetString()!.ShouldContain("blanket");
        (await member.Get("/api/machines"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(m => m.GetProperty("id").GetString() == "heron")
            .GetProperty("stop")
            .GetProperty("reason")
            .GetString()!
            .ShouldContain("blanket");
        var out_ = await new Screen(steward, (await steward.Get(At)).Body).Send("tapOut");
        out_.Status.ShouldBe(HttpStatusCode.OK, out_.Body.ToString());
        (await member.Get("/api/stations/osprey")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task StoppedMachine_NobodyTapsIn()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        var start = await member.FreeStart(q => q.With("machineId", "wren"), 4);
        var ask = Questions.Open(start).With("machineId", "wren");
        (await member.Post("/api/bookings", ask)).Status.ShouldBe(HttpStatusCode.Created);
        _house.Clock.Now = OffsetDateTimePattern.ExtendedIso.Parse(start).Value.ToInstant();
        await steward.Post("/api/machines/wren/stops", new { reason = "A smell." });
        var refused = await member.Post("/api/stations/wren/tap");
        (refused.Code, refused.Body.ToString().Contains("stopped")).ShouldBe(("station.shut", true));
    }

    /// <summary>Whoever comes next ends what nobody ended, hears what was left, and the stewards hear it too.</summary>
    [Fact]
    public async Task SessionThatNobodyEnded_IsEndedByTheNextPerson()
    {
        using var member = await _house.As("member");
        using var trainer = await _house.As("trainer");
        var screen = await TapIn(member);
        var until = screen.Session.GetProperty("until").GetDateTimeOffset();
        // A run was told, and they walked away.
        await _house.Db.Tamper(
            "update station.session set body = jsonb_set(jsonb_set(body, '{step}', '\"close\"'), '{runs}', '[{\"id\":\"11111111-1111-4111-"
                + "8111-111111111111\",\"item\":0,\"start\":\"2026-11-24T10:00:00Z\",\"end\":\"2026-11-24T10:05:00Z\",\"outcome\":"
                + "\"clean\",\"moved\":false,\"extra\":false}]')"
        );
        (await trainer.Post($"{At}/tap")).Code.ShouldBe("fob.notYours");
        var start = await trainer.FreeStart(q => q.With("memberId", null), (until.Date - TestDay).Days + 1);
        (await trainer.Post("/api/bookings", Questions.Open(start).With("memberId", null))).Status.ShouldBe(HttpStatusCode.Created);
        _house.Clock.Now = OffsetDateTimePattern.ExtendedIso.Parse(start).Value.ToInstant();
        var tapped = await trainer.Post($"{At}/tap");
        tapped.Status.ShouldBe(HttpStatusCode.OK, tapped.Body.ToString());
        tapped
            .Body.GetProperty("session")
            .GetProperty("found")
            .EnumerateArray()
            .Select(f => f.GetString())
            .ShouldBe(["Bed and bins", "Head and fixture", "Fan, computer, stick"]);
        (await screen.Send("close", new { item = "bed" })).Code.ShouldBe("station.moved");
    }

    [Fact]
    public async Task BookingGivenBack_StartsNothingMore()
    {
        using var member = await _house.As("member");
        var screen = await TapIn(member);
        await _house.Db.Tamper(
            $"update booking.booking set cancelled_at = '{_house.Clock.Now}' where id = (select booking_id from station.session)"
        );
        await _house.Db.Tamper("update station.session set body = jsonb_set(body, '{step}', '\"confirm\"')");
        (await screen.Send("start", new { stay = true })).Code.ShouldBe("station.givenBack");
    }

    /// <summary>What is typed at the machine is held against the sheet like an entry of the library.</summary>
    [Fact]
    public async Task FarTooMuchEnergy_IsShutAtTheMachineToo()
    {
        using var member = await _house.As("member");
        var screen = await TapIn(member);
        await _house.Db.Tamper(
            "update station.session set body = body || '{\"step\":\"settings\",\"sheet\":{\"tag\":\"S-0097\",\"mm\":[3]},"
                + "\"focus\":\"gauge\"}'"
        );
        screen = new Screen(member, (await member.Get(At)).Body);
        await screen.Do(
            "settings",
            new
            {
                values = new
                {
                    powerPercent = 100,
                    speedMmPerS = 4,
                    passes = 1,
                },
            }
        );
        screen.Session.GetProperty("open").EnumerateArray().Select(o => o.GetProperty("code").GetString()).ShouldContain("settings.double");
    }

    private static readonly DateTime TestDay = new(2026, 11, 24, 0, 0, 0, DateTimeKind.Utc);
}
