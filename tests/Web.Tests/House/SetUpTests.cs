using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>An empty house on a weekday evening, set up by forms alone until its first induction and first booking.</summary>
public class SetUpTests(EmptyHouse house) : IClassFixture<EmptyHouse>
{
    private static readonly object Founding = new
    {
        houseName = "Mill Lane Makers",
        zone = "Europe/Paris",
        pack = "staffedWorkshop",
        givenName = "Ada",
        familyName = "Quarry",
        email = "ada@mill.example",
        signInName = "ada",
        password = "a long quiet river",
        alsoSteward = true,
        code = "rope walk",
        colours = new Dictionary<string, string> { ["#8A2252"] = "cut", ["#2f6f5e"] = "score" },
    };

    /// <summary>A machine as a keeper types it, for the forms and the browser alike.</summary>
    internal static Dictionary<string, object> Robin =>
        new()
        {
            ["id"] = "robin",
            ["name"] = "Robin",
            ["kind"] = "co2",
            ["wavelengthNm"] = "10600",
            ["powerW"] = "60",
            ["laserClass"] = "1",
            ["station.classEvidence"] = "label on the back",
            ["station.enclosureKind"] = "closed",
            ["station.framing"] = "pointerLidOpen",
            ["bedWidthMm"] = "20 in",
            ["bedHeightMm"] = "12 in",
            ["marginMm"] = "1/2 in",
            ["maxCutMm"] = "1/4 in",
            ["maxHeightMm"] = "60 mm",
            ["kerfMm"] = "0.2 mm",
            ["accelerationMmS2"] = "2000",
            ["topSpeedMmS"] = "400",
            ["homeCorner"] = "upper left",
            ["fixtures"] = "rotary",
            ["extraction"] = "ducted",
            ["station.extractionPower"] = "ownSwitch",
            ["extractionLeadSeconds"] = "90",
            ["enclosureM3"] = "0.2",
            ["airflowM3PerHour"] = "300",
            ["station.airAssist"] = "automatic",
            ["station.cooling"] = "chiller",
            ["waterCooled"] = true,
            ["station.coolantCautionC"] = "25",
            ["station.coolantAskC"] = "28",
            ["station.coolantShutC"] = "32",
            ["station.coolantColdC"] = "5",
            ["station.stopDevices"] = new[]
            {
                new
                {
                    name = "red button",
                    where = "front",
                    cutsTube = true,
                    cutsExtraction = false,
                },
            },
        };

    internal static Dictionary<string, object> Room =>
        new()
        {
            ["name"] = "Laser room",
            ["extinguisher"] = "co2",
            ["extinguisherWhere"] = "by the door",
            ["alarmPoint"] = "red box",
            ["wayOut"] = "back stairs",
            ["meetingPoint"] = "old oak",
            ["emergencyCall"] = "112",
            ["whoToTell"] = "the steward",
        };

    private static async Task Ok(Task<Answer> call)
    {
        var answer = await call;
        ((int)answer.Status).ShouldBeInRange(200, 204, $"{answer.Response.RequestMessage!.RequestUri}: {answer.Body}");
    }

    private static Task<Answer> Put(Api api, string path, object body) => api.Put(path, body);

    [Fact]
    public async Task EmptyHouse_ByFormsAlone_ComesToItsFirstInductionAndBooking()
    {
        using var visitor = await house.As(null);
        (await visitor.Get("/api/set-up")).Body.GetProperty("empty").GetBoolean().ShouldBeTrue();
        var wrong = await visitor.Post(
            "/api/set-up",
            new
            {
                houseName = "",
                zone = "Mars/Base",
                pack = "club",
                password = "short",
            }
        );
        wrong.Status.ShouldBe(HttpStatusCode.BadRequest);
        wrong
            .Fields.Order()
            .ShouldBe(["code", "colours", "familyName", "givenName", "houseName", "pack", "password", "signInName", "zone"]);
        (await visitor.Post("/api/set-up", Founding)).Status.ShouldBe(HttpStatusCode.Created);
        (await visitor.Post("/api/set-up", Founding)).Code.ShouldBe("house.founded");
        (await visitor.Get("/api/house"))
            .Body.GetProperty("colours")
            .EnumerateObject()
            .Select(c => (c.Name, c.Value.GetString()))
            .ShouldBe([("#8a2252", "cut"), ("#2f6f5e", "score")], ignoreOrder: true);

        using var ada = await house.As(null);
        await ada.SignIn("ada", "a long quiet river");
        (await Missing(ada)).ShouldBe([
            "No machine is listed yet.",
            "The room is not described: the emergency cards have gaps.",
            "No fire kit is listed: the gate stays shut.",
            "The steward rota is empty: nobody is on duty.",
        ]);
        var robin = Robin;
        robin["station.roomMinimumC"] = "10";
        await Ok(ada.Post("/api/machines", new { fields = robin, unit = "mm" }));
        (await ada.Post("/api/machines", new { fields = Robin, unit = "mm" })).Code.ShouldBe("machine.taken");
        var room = Room;
        room["discharge"] = "permitted, letter in the office";
        await Ok(Put(ada, "/api/house/room", new { fields = room }));
        await Ok(Put(ada, "/api/house/kit/extinguisher", new { name = "CO2 extinguisher", lastDay = "2027-06-30" }));
        await Ok(
            ada.Post(
                "/api/calendar",
                new
                {
                    kind = "duty",
                    firstDay = "2026-11-24",
                    starts = "10:00",
                    ends = "21:00",
                    rule = "FREQ=DAILY;UNTIL=20261224",
                    personId = await Me(ada),
                }
            )
        );
        (await Missing(ada)).ShouldBe([
            "Nobody trains on Robin: write down a founding sign-off.",
            "Not shown of Robin: a commissioning sheet.",
        ]);
        await Ok(Put(ada, "/api/machines/robin/commissioning", new { fields = SetUpSheet.Whole, version = 0 }));
        (await Missing(ada)).ShouldBe(["Nobody trains on Robin: write down a founding sign-off."]);

        var added = await ada.Post(
            "/api/people",
            new
            {
                givenName = "Ben",
                familyName = "Hazel",
                signInName = "ben",
            }
        );
        var ben = added.Id;
        (
            await visitor.Post(
                $"/api/invites/{added.Body.GetProperty("invite").GetProperty("code").GetString()}",
                new { password = "wood and string" }
            )
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        await Ok(
            ada.Post(
                "/api/founding-sign-offs",
                new
                {
                    personId = await Me(ada),
                    machineId = "robin",
                    evidence = "Maker's two-day course, certificate in the binder.",
                }
            )
        );
        (
            await ada.Post(
                "/api/founding-sign-offs",
                new
                {
                    personId = ben,
                    machineId = "robin",
                    evidence = "x",
                }
            )
        ).Code.ShouldBe("founding.trainers");
        using var other = await house.As(null);
        await other.SignIn("ben", "wood and string");
        var question = new
        {
            materialId = "mat-board",
            thickness = "1.4 mm",
            operations = new[] { "cut" },
            machineId = "robin",
            start = "2026-11-25T15:00:00+01:00",
            runMinutes = 5,
        };
        (await other.Post("/api/gate/ask?soonest=false", question))
            .Codes.Where(c => c is "person.agreement" or "training.none")
            .ShouldBe(["person.agreement", "training.none"]);
        await Ok(other.Post("/api/me/agreement"));
        // The first induction: the founding trainer signs the learner off.
        await Ok(
            ada.Post(
                "/api/sign-offs",
                new
                {
                    memberId = ben,
                    authority = "robin",
                    note = "Saw the whole start-up and a cut, nothing missed.",
                }
            )
        );
        var open = await other.Post("/api/gate/ask?soonest=false", question);
        open.Verdict.ShouldBe("conditions", open.Body.ToString());
        (await other.Post("/api/bookings", question)).Status.ShouldBe(HttpStatusCode.Created);
        (await Missing(ada)).ShouldBeEmpty();
    }

    private static async Task<string> Me(Api api) => (await api.Get("/api/me")).Body.GetProperty("memberId").GetString()!;

    private static async Task<string[]> Missing(Api api) =>
        [.. (await api.Get("/api/house/sheets")).Body.GetProperty("missing").EnumerateArray().Select(m => m.GetString()!)];
}

public class SheetsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task Machine_WithFieldsAtFault_NamesEachAndStoresNothing()
    {
        using var keeper = await house.As("keeper");
        var sheet = SetUpTests.Robin;
        (sheet["id"], sheet["bedWidthMm"], sheet["kind"]) = ("Big One", "wide", "plasma");
        var answer = await keeper.Post("/api/machines", new { fields = sheet });
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Fields.Order().ShouldBe(["bedWidthMm", "kind"]);
        (await keeper.Post("/api/machines", new { fields = "no" })).Fields.ShouldBe(["fields"]);
        (await keeper.Post("/api/machines", new { })).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await keeper.Get("/api/machines")).Body.GetProperty("items").GetArrayLength().ShouldBe(4);
    }

    [Fact]
    public async Task Machine_ChangedFromTwoWindows_KeepsTheFirstAndTellsTheSecond()
    {
        using var keeper = await house.As("keeper");
        var swift = (await keeper.Get("/api/house/sheets"))
            .Body.GetProperty("machines")
            .EnumerateArray()
            .Single(m => m.GetProperty("spec").GetProperty("id").GetString() == "swift");
        var body = new { fields = swift.GetProperty("spec"), version = swift.GetProperty("version").GetInt32() };
        (await keeper.Put("/api/machines/swift", body)).Status.ShouldBe(HttpStatusCode.OK);
        var second = await keeper.Put("/api/machines/swift", body);
        (second.Status, second.Code).ShouldBe((HttpStatusCode.Conflict, "stale"));
        (await keeper.Put("/api/machines/heron", body)).Fields.ShouldBe(["id"]);
        (await keeper.Put("/api/machines/gull", new { fields = SetUpTests.Robin, version = 1 })).Fields.ShouldBe(["id"]);
    }

    [Fact]
    public async Task Kit_OutOfDate_ShutsTheGate_AndItsNewDateOpensItAgain()
    {
        using var keeper = await house.As("keeper");
        using var member = await house.As("member");
        var question = Questions.Open(await member.FreeStart(fromDay: 3));
        (await keeper.Put("/api/house/kit/co2", new { name = "CO2 extinguisher by the door", lastDay = "2026-11-25" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await member.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("room.kitOut");
        (await keeper.Put("/api/house/kit/co2", new { name = "CO2 extinguisher by the door", lastDay = "soon" })).Fields.ShouldBe([
            "lastDay",
        ]);
        (await keeper.Put("/api/house/kit/co2", new { name = "CO2 extinguisher by the door", lastDay = "2027-11-25" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await member.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldNotContain("room.kitOut");
    }

    [Theory]
    [InlineData("name", "", "name")]
    [InlineData("minNm", 100, "minNm")]
    [InlineData("maxNm", 300, "maxNm")]
    [InlineData("opticalDensity", 40, "opticalDensity")]
    [InlineData("count", -1, "count")]
    public async Task Eyewear_WithAFieldAtFault_NamesIt(string key, object value, string field)
    {
        using var keeper = await house.As("keeper");
        var set = new Dictionary<string, object>
        {
            ["name"] = "amber",
            ["minNm"] = 400,
            ["maxNm"] = 500,
            ["opticalDensity"] = 6,
            ["damageRated"] = true,
            ["count"] = 2,
            [key] = value,
        };
        (await keeper.Put("/api/house/eyewear/amber", set)).Fields.ShouldBe([field]);
    }

    [Fact]
    public async Task Emergency_OfEachMachine_IsForVisitorsToo_AndWordedFromItsFacts()
    {
        using var visitor = await house.As(null);
        var wren = await visitor.Get("/api/machines/wren/emergency");
        wren.Status.ShouldBe(HttpStatusCode.OK);
        var text = wren.Body.ToString();
        text.ShouldContain("Switching this machine off also stops its extraction.");
        text.ShouldContain("iron bollard");
        (await visitor.Get("/api/machines/heron/emergency")).Body.ToString().ShouldNotContain("also stops its extraction");
        (await visitor.Get("/api/machines/gull/emergency")).Status.ShouldBe(HttpStatusCode.NotFound);
        wren.Body.GetProperty("others").GetArrayLength().ShouldBe(4);
    }
}
