using System.Net;
using System.Text.Json;
using NodaTime;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Station.Controllers;

/// <summary>Who is there: fobs at the reader, tap-in codes at a screen of the machine, and two taps that hand it over.</summary>
public class FobTests : IAsyncLifetime
{
    private const string Blue = "04:A2:19:BF";
    private readonly ControlledHouse _house = new();
    private DrivenController _machine = null!;
    private Api _member = null!;
    private Api _steward = null!;
    private StationRun _run = null!;

    public async ValueTask InitializeAsync()
    {
        await _house.InitializeAsync();
        _member = await _house.As("member");
        _steward = await _house.As("steward");
        _run = new StationRun(_member);
        _machine = new DrivenController(_house);
    }

    public async ValueTask DisposeAsync()
    {
        await _machine.DisposeAsync();
        _member.Dispose();
        _steward.Dispose();
        await _house.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    private async Task<Guid> Learn(string person, string code)
    {
        var learnt = await _steward.Post(
            "/api/fobs",
            new
            {
                personId = person,
                looks = "blue tag",
                code,
            }
        );
        learnt.Status.ShouldBe(HttpStatusCode.OK, learnt.Body.ToString());
        return learnt.Body.GetProperty("id").GetGuid();
    }

    private async Task<JsonElement> Tapped(string says)
    {
        var tap = default(JsonElement);
        for (var i = 0; i < 500; i++)
        {
            if (
                (await _member.Get(StationRun.At)).Body.TryGetProperty("tap", out tap)
                && tap.GetProperty("says").GetString()!.Contains(says, StringComparison.Ordinal)
            )
                return tap;
            await Task.Delay(10);
        }
        throw new TimeoutException($"No tap says “{says}” but {tap}.");
    }

    /// <summary>Up to a beam that is on.</summary>
    private async Task Running()
    {
        await _run.TapIn(_house);
        await _machine.Connect();
        await _machine.Pass(1);
        await _run.Prepare();
        await _machine.Pass(92);
        await _run.Confirm();
        (await _run.Start()).Status.ShouldBe(HttpStatusCode.OK);
        await _machine.Becomes(relay: true);
    }

    [Fact]
    public async Task Fob_IsLearntAtTheReader_TapsIn_AndIsRevokedWhenLost()
    {
        await _run.Book(_house);
        await _machine.Connect();
        await _machine.Pass(1);
        await _machine.Fob(Blue);
        (await Tapped("Nobody here has this fob")).GetProperty("code").GetString().ShouldBe("fob.unknown");

        var waits = await _steward.Post(
            "/api/fobs",
            new
            {
                personId = "m-4",
                looks = "blue tag",
                machineId = "heron",
            }
        );
        waits.Status.ShouldBe(HttpStatusCode.OK, waits.Body.ToString());
        await _machine.Pass(30);
        await _machine.Fob(Blue);
        (await Tapped("Learnt")).TryGetProperty("code", out _).ShouldBeFalse();
        var mine = (await _member.Get("/api/fobs")).Body.GetProperty("items").EnumerateArray().Single();
        mine.GetProperty("looks").GetString().ShouldBe("blue tag");
        (await _house.Ask<int>($"select count(*)::int from station.machine_event where value like '%{Blue}%'")).ShouldBe(0);
        (await _house.Ask<int>($"select count(*)::int from station.fob where hash like '%{Blue}%'")).ShouldBe(0);

        await _machine.Fob(Blue);
        await Tapped("is tapped in");
        await _run.Look();
        (_run.Step, _run.Session.GetProperty("mine").GetBoolean()).ShouldBe(("checks", true));
        await _run.Do("tapOut");

        using var newcomer = await _house.As("newcomer");
        var id = mine.GetProperty("id").GetGuid();
        (await newcomer.Delete($"/api/fobs/{id}")).Code.ShouldBe("fob.gone", "somebody else’s is none of theirs");
        (await _member.Delete($"/api/fobs/{id}")).Status.ShouldBe(HttpStatusCode.NoContent, "whoever lost it says so");
        await _machine.Pass(21);
        await _machine.Fob(Blue);
        await Tapped("Nobody here has this fob");
        (await _member.Get(StationRun.At)).Body.GetProperty("step").GetString().ShouldBe("idle");
    }

    [Fact]
    public async Task Fob_IsOnePersons_AndAReaderWaitsAMinute()
    {
        await Learn("m-4", Blue);
        (
            await _steward.Post(
                "/api/fobs",
                new
                {
                    personId = "m-5",
                    looks = "the same",
                    code = Blue,
                }
            )
        ).Code.ShouldBe("fob.known");
        (await _steward.Post("/api/fobs", new { personId = "m-5", code = "12345" })).Code.ShouldBe("fob.name");
        (
            await _steward.Post(
                "/api/fobs",
                new
                {
                    personId = "m-5",
                    looks = "x",
                    machineId = "wren",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.NotFound, "Wren has no reader");
        await _machine.Connect();
        await _machine.Pass(1);
        await _steward.Post(
            "/api/fobs",
            new
            {
                personId = "m-5",
                looks = "green tag",
                machineId = "heron",
            }
        );
        await _machine.Pass(61);
        await _machine.Fob("another one");
        await Tapped("4 to 100 letters");
        await _machine.Fob("another-one");
        await Tapped("Nobody here has this fob");
    }

    [Fact]
    public async Task TapHeardTooLate_CountsForNothing()
    {
        await Learn("m-4", Blue);
        await _run.Book(_house);
        await _machine.Connect();
        await _machine.Pass(1);
        _machine.Cut();
        await _machine.Fob(Blue);
        await _machine.Pass(20, heard: false);
        await _machine.Connect();
        await _machine.Pass(2);
        await Tapped("too late");
        (await _member.Get(StationRun.At)).Body.GetProperty("step").GetString().ShouldBe("idle");
    }

    [Fact]
    public async Task Screen_StandsAtOneMachine_AndRunsTheSessionOfWhoeverTappedInThere()
    {
        await _run.Book(_house);
        using var screen = await _house.As("keeper");
        (await _member.Post($"{StationRun.At}/devices", new { name = "mine" })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await screen.Post($"{StationRun.At}/devices", new { name = " " })).Code.ShouldBe("device.name");
        var enrolled = await screen.Post($"{StationRun.At}/devices", new { name = "tablet at Heron" });
        enrolled.Status.ShouldBe(HttpStatusCode.OK, enrolled.Body.ToString());
        (await screen.Post("/api/sign-out")).Status.ShouldBe(HttpStatusCode.NoContent);

        var idle = await screen.Get(StationRun.At);
        (idle.Status, idle.Body.GetProperty("screen").GetBoolean()).ShouldBe((HttpStatusCode.OK, true));
        (await screen.Get("/api/stations/wren")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        using var stranger = await _house.As(null);
        (await stranger.Get(StationRun.At)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await screen.Post($"{StationRun.At}/tap")).Code.ShouldBe("fob.nothing", "who is there is never guessed");

        var code = (await _member.Post("/api/me/tap-in-code")).Body.GetProperty("code").GetString()!;
        code.ShouldMatch("^[0-9]{6}$");
        (await _member.Post($"{StationRun.At}/tap", new { code })).Code.ShouldBe("fob.notHere");
        var newer = (await _member.Post("/api/me/tap-in-code")).Body.GetProperty("code").GetString()!;
        (await screen.Post($"{StationRun.At}/tap", new { code })).Code.ShouldBe("code.wrong", "a newer one takes its place");
        var tapped = await screen.Post($"{StationRun.At}/tap", new { code = newer });
        tapped.Status.ShouldBe(HttpStatusCode.OK, tapped.Body.ToString());
        tapped.Body.GetProperty("session").GetProperty("name").GetString()!.ShouldNotContain("Calloway", Case.Sensitive, "anybody looks");
        (await screen.Post($"{StationRun.At}/tap", new { code = newer })).Code.ShouldBe("code.wrong", "once");

        var atScreen = new StationRun(screen);
        await atScreen.Look();
        await atScreen.Do("check", new { item = "walk", ok = true });
        (await _house.Ask<string>("select by from station.act order by at desc limit 1")).ShouldBe("m-4");
        await atScreen.Do("tapOut");
        (await screen.Get(StationRun.At)).Body.TryGetProperty("session", out _).ShouldBeFalse("nobody is there any more");

        _house.Clock.Now += Duration.FromSeconds(1);
        var old = (await _member.Post("/api/me/tap-in-code")).Body.GetProperty("code").GetString()!;
        _house.Clock.Now += Duration.FromSeconds(30);
        (await screen.Post($"{StationRun.At}/tap", new { code = old })).Code.ShouldBe("code.wrong", "after half a minute");

        using var keeper = await _house.As("keeper");
        var id = (await keeper.Get($"{StationRun.At}/devices")).Body.GetProperty("items")[0].GetProperty("id").GetGuid();
        (await keeper.Delete($"{StationRun.At}/devices/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await screen.Get(StationRun.At)).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Pin_GoesWithTheFob_WhereTheHouseAsksForIt()
    {
        await Learn("m-4", Blue);
        await _house.Owned("update house.rules set body = jsonb_set(body, '{pinWithFob}', 'true')");
        await _run.Book(_house);
        await _machine.Connect();
        await _machine.Pass(1);
        using var screen = await _house.As("keeper");
        await screen.Post($"{StationRun.At}/devices", new { name = "tablet at Heron" });
        await screen.Post("/api/sign-out");
        (await screen.Post($"{StationRun.At}/tap", new { pin = "2580" })).Code.ShouldBe("pin.nobody", "no fob was held here");
        await _machine.Fob(Blue);
        (await Tapped("Type your PIN")).GetProperty("code").GetString().ShouldBe("pin.wanted");
        (await screen.Post($"{StationRun.At}/tap", new { pin = "2580" })).Code.ShouldBe("pin.unset");

        var fobs = (await _member.Get("/api/fobs")).Body;
        (fobs.GetProperty("pinAsked").GetBoolean(), fobs.TryGetProperty("pinSetAt", out _)).ShouldBe((true, false));
        (await _member.Put("/api/me/pin", new { pin = "1234" })).Code.ShouldBe("pin.form");
        (await _member.Put("/api/me/pin", new { pin = "2580" })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await _house.Ask<bool>("select exists (select from station.pin where hash like '%2580%')")).ShouldBeFalse();
        (await screen.Post($"{StationRun.At}/tap", new { pin = "2581" })).Code.ShouldBe("pin.wrong");
        var tapped = await screen.Post($"{StationRun.At}/tap", new { pin = "2580" });
        tapped.Status.ShouldBe(HttpStatusCode.OK, tapped.Body.ToString());
        tapped.Body.GetProperty("step").GetString().ShouldBe("checks");
        await _machine.Fob(Blue);
        await Tapped("is at this machine");
        var run = new StationRun(screen);
        await run.Look();
        await run.Do("tapOut");

        await _machine.Pass(21);
        await _machine.Fob(Blue);
        await Tapped("Type your PIN");
        await _machine.Pass(61);
        (await screen.Post($"{StationRun.At}/tap", new { pin = "2580" })).Code.ShouldBe("pin.nobody", "a minute is over");
        (await screen.Post($"{StationRun.At}/tap", new { fob = Blue, pin = "2580" })).Status.ShouldBe(HttpStatusCode.OK, "both at once");
    }

    [Fact]
    public async Task OnDuty_ATapSaysThatTheyAreReallyThere()
    {
        await _run.Book(_house);
        await _house.Owned("update house.duty set person_id = 'm-2' where person_id <> 'm-2'");
        (await _member.Post($"{StationRun.At}/tap")).Status.ShouldBe(HttpStatusCode.OK);
        (await Minds()).ShouldContain("room.notSeen", "the rota names somebody whom nobody has seen");
        using var there = await _house.As("steward");
        (await HeadCountSays(there)).ShouldContain("has not tapped in");
        var tapped = await _steward.Post($"{StationRun.At}/tap");
        (await _house.Ask<int>("select count(*)::int from station.seen where person_id = 'm-2'")).ShouldBe(1);
        (await Minds()).ShouldNotContain("room.notSeen", tapped.Body.ToString());
        var list = await HeadCountSays(there);
        list.ShouldContain("has tapped in");
        list.ShouldContain("tapped in, booked until");
        await _run.Do("tapOut");
        (await HeadCountSays(there)).ShouldNotContain("tapped in, booked until");
        var again = await _steward.Post($"{StationRun.At}/tap");
        again.Status.ShouldBe(HttpStatusCode.OK, "without a booking too");
        again.Body.GetProperty("tap").GetProperty("says").GetString()!.ShouldContain("on duty until");
    }

    private static async Task<string> HeadCountSays(Api steward) => (await steward.Get("/api/head-count")).Body.ToString();

    private async Task<IReadOnlyList<string>> Minds()
    {
        await _run.Look();
        return [.. _run.Session.GetProperty("mind").EnumerateArray().Select(r => r.GetProperty("code").GetString()!)];
    }

    [Fact]
    public async Task GuessingCodes_IsSlowedDown()
    {
        using var screen = await _house.As("keeper");
        await screen.Post($"{StationRun.At}/devices", new { name = "tablet at Heron" });
        await screen.Post("/api/sign-out");
        for (var i = 0; i < 10; i++)
            (await screen.Post($"{StationRun.At}/tap", new { code = $"00000{i}" })).Code.ShouldBe("code.wrong");
        (await screen.Post($"{StationRun.At}/tap", new { code = "000010" })).Status.ShouldBe(HttpStatusCode.TooManyRequests);
    }

    [Fact]
    public async Task HandOver_TakesTwoTaps_AndTheRunGoesOnAndIsTheSecondOnes()
    {
        await Learn("m-4", Blue);
        await Learn("m-3", "trainers-fob");
        await Running();
        await _machine.Fob("trainers-fob");
        (await Tapped("hand over to you")).GetProperty("code").GetString().ShouldBe("fob.notYours");
        await _machine.Pass(16);
        await _machine.Fob(Blue);
        await Tapped("is at this machine");
        await _run.Look();
        _run.Session.GetProperty("mine").GetBoolean().ShouldBeTrue("a second too late");

        await _machine.Pass(20);
        await _machine.Fob("trainers-fob");
        await Tapped("hand over to you");
        await _machine.Pass(2);
        await _machine.Fob(Blue);
        await Tapped("Handed over to");
        _machine.Relay.ShouldBeTrue("the run goes on");
        await _run.Look();
        _run.Station.TryGetProperty("session", out _).ShouldBeFalse("it is somebody else’s now");
        using var trainer = await _house.As("trainer");
        var theirs = new StationRun(trainer);
        await theirs.Look();
        theirs.Session.GetProperty("mine").GetBoolean().ShouldBeTrue();
        await theirs.Do("press");
        await theirs.Do("stop", new { why = "ended" });
        await _machine.Becomes(relay: false);
        await _machine.Pass(60);
        await theirs.Look();
        await theirs.Do("lidOpened");
        await theirs.Do("outcome", new { result = "through" });
        (await _house.Ask<string>("select person_id || ' ' || allowed || ' ' || behind from run.log order by at desc limit 1")).ShouldBe(
            "m-3 true booking"
        );
        (await _house.Ask<bool>("select exists (select from ledger.entry where kind = 'watch.handedOver')")).ShouldBeTrue();
        using var handed = await _house.As("member");
        (await handed.Post($"{StationRun.At}/tap")).Code.ShouldBe("fob.notYours");
    }

    [Fact]
    public async Task Learner_StartsWhileTheSupervisorTapped()
    {
        using var newcomer = await _house.As("newcomer");
        var run = new StationRun(newcomer);
        await run.Book(_house, change: q => q.With("memberId", "m-5").With("supervisorId", "m-3"));
        (await newcomer.Post($"{StationRun.At}/tap")).Status.ShouldBe(HttpStatusCode.OK);
        await run.Look();
        await _machine.Connect();
        await _machine.Pass(1);
        await run.Prepare();
        await _machine.Pass(92);
        await run.Confirm();
        run.Session.GetProperty("supervisorDue").GetBoolean().ShouldBeTrue();
        (await run.Start()).Code.ShouldBe("start.supervisor");
        using var trainer = await _house.As("trainer");
        (await trainer.Post($"{StationRun.At}/tap")).Status.ShouldBe(HttpStatusCode.OK, "on their own phone");
        await Tapped("supervises");
        (await run.Start()).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task SecondLapse_GoesOnWhileAStewardsFobStandsBy()
    {
        await Learn("m-2", "stewards-fob");
        await Running();
        await _machine.Pass(181);
        await _run.Look();
        await _run.Do("look");
        await _machine.Becomes(relay: true);
        await _machine.Pass(181);
        await _run.Look();
        (await _run.Send("look")).Code.ShouldBe("attention.lapsed");
        await _machine.Fob("stewards-fob");
        await Tapped("stands by");
        await _run.Look();
        await _run.Do("look");
        await _machine.Becomes(relay: true);
    }

    /// <summary>A class: the teacher taps at each machine, pupils are chosen from the bookings, and the long list comes once.</summary>
    [Fact]
    public async Task Class_PupilsAreChosenWithoutAFob_WhileTheTeacherTapped()
    {
        await Learn("m-3", "teachers-fob");
        using var newcomer = await _house.As("newcomer");
        var run = new StationRun(newcomer);
        await run.Book(_house, change: q => q.With("memberId", "m-5").With("supervisorId", "m-3"));
        await _machine.Connect();
        await _machine.Pass(1);
        using var screen = await _house.As("keeper");
        await screen.Post($"{StationRun.At}/devices", new { name = "tablet at Heron" });
        await screen.Post("/api/sign-out");
        var booking = await _house.Ask<string>("select id::text from booking.booking where person_id = 'm-5' order by number desc limit 1");
        (await screen.Post($"{StationRun.At}/tap", new { booking })).Code.ShouldBe("learner.supervisor");

        await _machine.Fob("teachers-fob");
        await Tapped("supervises at this machine");
        var offered = (await screen.Get(StationRun.At)).Body.GetProperty("learners").EnumerateArray().Single();
        offered.GetProperty("booking").GetString().ShouldBe(booking);
        (await _member.Post($"{StationRun.At}/tap", new { booking })).Code.ShouldBe("learner.supervisor", "a member chooses nobody");
        (await screen.Post($"{StationRun.At}/tap", new { booking })).Status.ShouldBe(HttpStatusCode.OK);

        var pupil = new StationRun(screen);
        await pupil.Look();
        pupil.Session.GetProperty("places").GetArrayLength().ShouldBe(4);
        await pupil.Prepare();
        await _machine.Pass(92);
        await pupil.Confirm();
        (await pupil.Start()).Status.ShouldBe(HttpStatusCode.OK, "the teacher tapped less than ten minutes ago");
    }

    [Fact]
    public async Task Pause_TakesTheBeamAway_AndItComesBack()
    {
        await Running();
        await _machine.Pass(30);
        await _run.Look();
        _run.Session.GetProperty("mayPause").GetBoolean().ShouldBeTrue();
        await _run.Do("pause");
        await _machine.Becomes(relay: false);
        await _machine.Pass(60);
        await _run.Look();
        (_run.Step, _run.Session.GetProperty("run").TryGetProperty("pausedUntil", out _)).ShouldBe(("running", true));
        await _run.Do("resume");
        await _machine.Becomes(relay: true);
        await _machine.Pass(10);
        await _run.Look();
        await _run.Do("pause");
        await _machine.Becomes(relay: false);
        await _machine.Pass(121);
        await _run.Look();
        (await _run.Send("resume")).Code.ShouldBe("pause.over");
        _machine.Relay.ShouldBeFalse();
        await _run.Do("stop", new { why = "byMistake" });
    }

    [Fact]
    public async Task ServiceKey_SaysWhatHolds_AndTheMachineComesBackByASteward()
    {
        await _machine.Connect();
        await _machine.Pass(1);
        _machine.Sensors = _machine.Sensors with { KeyOut = true };
        await _machine.Pass(2);
        var says = (await _member.Get(StationRun.At)).Body.GetProperty("service").ToString();
        says.ShouldContain("class 4");
        says.ShouldContain("10600 nm");
        _machine.Sensors = _machine.Sensors with { KeyOut = false };
        await _machine.Pass(2);
        (await _member.Get(StationRun.At)).Body.TryGetProperty("service", out _).ShouldBeFalse();
        (await _house.Ask<bool>("select exists (select from house.stop where machine_id = 'heron' and upper_inf(recorded))")).ShouldBeTrue(
            "until lid switch and stops were tried"
        );
    }

    [Fact]
    public async Task Papers_ForAHouseWithoutAScreen_AndForDaysWithoutTheServer()
    {
        var run = await Printed(_member, "/api/machines/heron/without-screen.pdf");
        foreach (var words in new[] { "Walk round", "The lid", "53 s at least", "looks at least every", "no safety system" })
            run.ShouldContain(words);
        (await _member.Get("/api/who-may-run.pdf")).Status.ShouldBe(HttpStatusCode.Forbidden);
        var week = await Printed(_steward, "/api/who-may-run.pdf");
        week.ShouldContain("Certified:");
        week.ShouldContain("Bartek Quill");
        var held = await _steward.Post(
            "/api/certificate-holds",
            new
            {
                personId = "m-3",
                authority = "heron",
                kind = "suspended",
                reason = "A bypassed lid switch.",
                supervisedRuns = 1,
            }
        );
        ((int)held.Status).ShouldBeLessThan(300, held.Body.ToString());
        var after = await Printed(_steward, "/api/who-may-run.pdf");
        System
            .Text.RegularExpressions.Regex.Count(after, "Bartek Quill")
            .ShouldBe(System.Text.RegularExpressions.Regex.Count(week, "Bartek Quill") - 1, "suspended on Heron");
        week.ShouldContain("Heron");
    }

    /// <summary>Anybody reads the screen: what the gate has against a person is theirs to read, on their own phone.</summary>
    [Fact]
    public async Task ShutGate_OnAScreen_SaysNothingAboutThePerson()
    {
        await Learn("m-4", Blue);
        await _run.Book(_house);
        await _machine.Connect();
        await _machine.Pass(1);
        await _steward.Post("/api/people/m-4/pauses", new { reason = "Left a running laser." });
        await _machine.Fob(Blue);
        var tap = await Tapped("The gate is shut for Ines C.");
        (tap.GetProperty("code").GetString(), tap.GetProperty("says").GetString()!.Contains("paused", StringComparison.Ordinal)).ShouldBe(
            ("station.shutHere", false)
        );
        var own = await _member.Post($"{StationRun.At}/tap");
        (own.Code, own.Detail.Contains("paused", StringComparison.Ordinal)).ShouldBe(("station.shut", true));
        (await _member.Get(StationRun.At)).Body.GetProperty("tap").GetProperty("says").GetString()!.ShouldNotContain("paused");
    }

    /// <summary>As pdftotext of poppler reads it.</summary>
    private static async Task<string> Printed(Api api, string path) =>
        (await Outside.TextOf(await api.Http.GetByteArrayAsync(path))).ReplaceLineEndings(" ");
}
