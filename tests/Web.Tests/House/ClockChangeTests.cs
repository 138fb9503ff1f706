using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>
/// A house that never closes, over both changes of 2027 in London: 28 March 01:00 UTC and 31 October 01:00 UTC (EU rule since 1996; the tz
/// database).
/// </summary>
public sealed class NightHouse : WebHouse
{
    public async Task OpenAllNight(Instant now)
    {
        Clock.Now = now;
        await using var connection = await Db.Owner.OpenConnectionAsync();
        var rules = JsonNode.Parse(await connection.QuerySingleAsync<string>("select body::text from house.rules limit 1"))!;
        var hours = new JsonArray([
            .. rules["hours"]!
                .AsArray()
                .Select(d =>
                    (JsonNode)
                        new JsonObject
                        {
                            ["day"] = d!["day"]!.GetValue<string>(),
                            ["opens"] = "00:00:00",
                            ["closes"] = "23:45:00",
                        }
                ),
        ]);
        // A year on: whoever tried the interlocks last did so long ago, and that is not what is tested here.
        rules["interlockDays"] = 700;
        (rules["hours"], rules["supervision"], rules["idleLapseDays"], rules["hoursPerPersonDay"], rules["lastRunBeforeCloseMinutes"]) = (
            hours,
            "secondPersonInCall",
            900,
            20,
            0
        );
        await connection.ExecuteAsync(
            """
            delete from house.rules;
            insert into house.rules (id, held, recorded, body, reason)
                values (gen_random_uuid(), tstzrange('2020-01-01', null), tstzrange('2020-01-01', null), @body::jsonb, 'open all night');
            update materials.clearance set held = tstzrange('2020-01-01', null);
            update training.certificate set held = tstzrange('2026-01-01', null) where person_id in ('m-4', 'm-3');
            update upkeep.task set overdue_from = '2030-01-01';
            update house.fire_kit set in_date_until = null;
            """,
            new { body = rules.ToJsonString() }
        );
    }
}

public class ClockChangeTests(NightHouse house) : IClassFixture<NightHouse>
{
    private static Dictionary<string, object?> At(string start, string who = "m-4") =>
        Questions.Open(start).With("memberId", who).With("minutes", 75);

    [Fact]
    public async Task Forward_TheMissingHourIsRefusedWithTheNext_AndLengthsAreTrue()
    {
        await house.OpenAllNight(Instant.FromUtc(2027, 3, 20, 12, 0));
        using var member = await house.As("member");
        var missing = await member.Get("/api/house/local?local=2027-03-28T01:30");
        (missing.Status, missing.Code).ShouldBe((HttpStatusCode.UnprocessableEntity, "local.missing"));
        missing.Detail.ShouldContain("there is no 01:30");
        missing.Detail.ShouldContain("02:00 BST");
        missing.Body.GetProperty("next").GetString().ShouldBe("2027-03-28T01:00:00Z");
        var day = (await member.Get("/api/house/day?date=2027-03-28")).Body;
        var labels = day.GetProperty("slots").EnumerateArray().Select(s => s.GetProperty("label").GetString()!).ToList();
        labels.ShouldNotContain(l => l.StartsWith("01:", StringComparison.Ordinal));
        labels.IndexOf("02:00").ShouldBe(labels.IndexOf("00:45") + 1);
        day.GetProperty("clockChange").GetString()!.ShouldContain("no 01:00 to 02:00");

        // 00:30 for 75 minutes ends at 02:45 on the wall, one hour and a quarter later in truth.
        var booked = await member.Post("/api/bookings", At("2027-03-28T00:30:00+00:00"));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        booked.Body.GetProperty("end").GetString().ShouldBe("2027-03-28T01:45:00Z");
        using var steward = await house.As("steward");
        var overlapping = await steward.Post("/api/bookings", At("2027-03-28T02:30:00+01:00", "m-3"));
        (overlapping.Status, overlapping.Code).ShouldBe((HttpStatusCode.Conflict, "time.taken"));
        (await steward.Post("/api/bookings", At("2027-03-28T02:45:00+01:00", "m-3"))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task Back_TheDoubledHourIsOfferedTwiceByName_AndBothCanBeBooked()
    {
        await house.OpenAllNight(Instant.FromUtc(2027, 10, 20, 12, 0));
        using var member = await house.As("member");
        var doubled = await member.Get("/api/house/local?local=2027-10-31T01:30");
        doubled.Status.ShouldBe(HttpStatusCode.OK, doubled.Body.ToString());
        var readings = doubled.Body.GetProperty("readings").EnumerateArray().ToList();
        readings.Select(r => r.GetProperty("label").GetString()).ShouldBe(["01:30 BST", "01:30 GMT"]);
        readings.Select(r => r.GetProperty("at").GetString()).ShouldBe(["2027-10-31T00:30:00Z", "2027-10-31T01:30:00Z"]);
        var day = (await member.Get("/api/house/day?date=2027-10-31")).Body;
        var labels = day.GetProperty("slots").EnumerateArray().Select(s => s.GetProperty("label").GetString()!).ToList();
        labels.ShouldContain("01:00 BST");
        labels.ShouldContain("01:00 GMT");
        labels.Count.ShouldBe(labels.Distinct().Count());
        labels.Count.ShouldBe(25 * 4 - 1);
        day.GetProperty("clockChange").GetString()!.ShouldContain("01:00 to 02:00 comes twice, first BST, then GMT");

        (await member.Post("/api/bookings", At("2027-10-31T01:00:00+01:00").With("minutes", 60).With("runMinutes", 10))).Status.ShouldBe(
            HttpStatusCode.Created
        );
        using var steward = await house.As("steward");
        (await steward.Post("/api/bookings", At("2027-10-31T01:30:00+01:00", "m-3"))).Code.ShouldBe("time.taken");
        (await steward.Post("/api/bookings", At("2027-10-31T01:00:00+00:00", "m-3"))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Theory]
    [InlineData("")]
    [InlineData("tomorrow at nine")]
    public async Task Local_ThatCannotBeRead_SaysHowToWriteIt(string local)
    {
        using var member = await house.As("member");
        (await member.Get($"/api/house/local?local={Uri.EscapeDataString(local)}")).Fields.ShouldBe(["local"]);
    }
}
