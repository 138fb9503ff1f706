using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Dapper;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Booking;
using Xunit;

namespace VelvetGate.Web.Tests.Reports;

public sealed class UseApiTests : IAsyncLifetime
{
    private readonly WebHouse _house = new();

    public ValueTask InitializeAsync() => _house.InitializeAsync();

    public async ValueTask DisposeAsync() => await _house.DisposeAsync();

    private async Task<int> Tries()
    {
        await using var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        return await connection.QuerySingleAsync<int>("select count(*)::int from booking.try");
    }

    private static Dictionary<string, int> Refused(Answer use) =>
        use
            .Body.GetProperty("refused")
            .EnumerateArray()
            .ToDictionary(r => r.GetProperty("code").GetString()!, r => r.GetProperty("count").GetInt32());

    [Fact]
    public async Task ARefusedBooking_IsKeptOnce_AndCounted_ForStaffAlone_AndForgottenAfterNinetyDays()
    {
        using var member = await _house.As("member");
        using var steward = await _house.As("steward");
        var before = await Tries();
        var far = Questions.Open("2027-03-01T12:00:00Z");
        (await member.Post("/api/bookings", far)).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await member.Post("/api/bookings", far)).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Tries()).ShouldBe(before + 1, "the same within the hour is one try");
        (await member.Post("/api/bookings", Questions.Open("2027-03-02T12:00:00Z"))).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await member.Post("/api/bookings", Questions.Open("soon"))).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await Tries()).ShouldBe(before + 2, "what cannot be read is no try");
        Refused(await steward.Get("/api/use")).ShouldContainKeyAndValue("time.tooFarAhead", 2);
        (await member.Get("/api/use")).Body.TryGetProperty("refused", out _).ShouldBeFalse();
        (await member.Get("/api/me/data")).Body.ToString().ShouldContain("time.tooFarAhead");

        var store = _house.Services.GetRequiredService<TryStore>();
        await store.Forget(_house.Clock.Now + Duration.FromDays(89), default);
        (await Tries()).ShouldBeGreaterThanOrEqualTo(2);
        await store.Forget(_house.Clock.Now + Duration.FromDays(91), default);
        (await Tries()).ShouldBe(0);
    }

    [Fact]
    public async Task Use_CountsWhatTheCalendarHolds_AsAnswerAndAsTable()
    {
        using var member = await _house.As("member");
        var use = await member.Get("/api/use?from=2026-11-01&to=2026-11-30");
        use.Status.ShouldBe(HttpStatusCode.OK, use.Body.ToString());
        var figures = use.Body.GetProperty("figures");
        await using var connection = await _house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var (count, hours) = await connection.QuerySingleAsync<(int, double)>(
            """
            select count(*)::int, sum(extract(epoch from upper(during) - lower(during)))::float8 / 3600 from booking.booking
            where cancelled_at is null and lower(during) >= '2026-11-01' and lower(during) < '2026-12-01'
            """
        );
        count.ShouldBeGreaterThan(5, "the demo house is used");
        figures.GetProperty("bookings").GetInt32().ShouldBe(count);
        figures.GetProperty("fairness").GetProperty("hours").GetDouble().ShouldBe(hours, 1e-6);
        figures.GetProperty("hours").EnumerateArray().Sum(h => h.GetProperty("bookedMinutes").GetDouble()).ShouldBe(60 * hours, 1e-6);
        figures.GetProperty("machines").EnumerateArray().Sum(m => m.GetProperty("bookedHours").GetDouble()).ShouldBe(hours, 1e-6);

        var csv = await member.Http.GetStringAsync("/api/use/file?from=2026-11-01&to=2026-11-30", TestContext.Current.CancellationToken);
        csv.Split('\n')[0].Trim().ShouldBe("figure,machine,day,hour,code,value,unit");
        csv.ShouldContain("Gini of hours,");
        (await member.Get("/api/use?from=2026-11-30&to=2026-11-01")).Fields.ShouldBe(["to"]);
        (await member.Get("/api/use?from=2024-01-01&to=2026-11-01")).Fields.ShouldBe(["from"]);
        (await member.Get("/api/use?from=yesterday")).Fields.ShouldBe(["from"]);
    }

    [Fact]
    public async Task WhatIf_PlaysTheCalendarUnderOtherRules_AndNamesNobody()
    {
        using var keeper = await _house.As("keeper");
        var tried = await keeper.Post("/api/use/what-if", new { rules = new { openBookingsPerPerson = 1, hoursPerPersonDay = 1 } });
        tried.Status.ShouldBe(HttpStatusCode.OK, tried.Body.ToString());
        var result = tried.Body.GetProperty("result");
        result.GetProperty("booked").GetInt32().ShouldBeGreaterThan(5);
        result
            .GetProperty("changed")
            .GetProperty("served")
            .GetInt32()
            .ShouldBeLessThan(result.GetProperty("now").GetProperty("served").GetInt32());
        result.GetProperty("reasons").EnumerateArray().Select(r => r.GetProperty("setting").GetString()).ShouldContain("HoursPerPersonDay");
        result.GetProperty("cannotKnow").GetArrayLength().ShouldBeGreaterThan(2);
        tried.Body.GetProperty("rules").GetArrayLength().ShouldBe(2);
        tried.Body.ToString().ShouldNotContain("m-4");
        (await keeper.Get("/api/house/rules"))
            .Body.ToString()
            .ShouldNotContain("\"hoursPerPersonDay\":1,", Case.Sensitive, "nothing is put in place");

        (await keeper.Post("/api/use/what-if", new { rules = new { } })).Code.ShouldBe("whatIf.same");
        (await keeper.Post("/api/use/what-if", new { })).Code.ShouldBe("whatIf.rules");
        (await keeper.Post("/api/use/what-if", new { rules = new { noSuchRule = 1 } })).Fields.ShouldBe(["noSuchRule"]);
        (await keeper.Post("/api/use/what-if", new { rules = new { openBookingsPerPerson = "many" } })).Fields.ShouldBe([
            "openBookingsPerPerson",
        ]);
        (await keeper.Post("/api/use/what-if", new { rules = new { hoursPerPersonDay = 20 } })).Fields.ShouldBe(["hoursPerPersonWeek"]);
    }

    [Fact]
    public async Task WhatIf_TellsHowFarItIs_AndThenTheSame()
    {
        using var keeper = await _house.As("keeper");
        object question = new
        {
            rules = new { openBookingsPerPerson = 1 },
            from = "2026-10-01",
            to = "2026-11-24",
        };
        var whole = await keeper.Post("/api/use/what-if", question);
        var response = await keeper.Http.PostAsJsonAsync("/api/use/what-if/steps", question, TestContext.Current.CancellationToken);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("text/event-stream");
        var steps = (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))
            .Split('\n')
            .Where(l => l.StartsWith("data: ", StringComparison.Ordinal))
            .Select(l => JsonDocument.Parse(l[6..]).RootElement)
            .ToList();
        steps.Select(s => s.GetProperty("done").GetInt32()).ShouldBeInOrder();
        steps[^1].GetProperty("response").ToString().ShouldBe(whole.Body.ToString());
        (await keeper.Post("/api/use/what-if/steps", new { })).Code.ShouldBe("whatIf.rules");
    }
}
