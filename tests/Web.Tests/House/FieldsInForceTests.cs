using System.Net;
using System.Text.Json;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Web.House;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>House rules and facts of the room whose effect shows only with the whole server: two values, two outcomes.</summary>
public sealed class FieldsInForceTests(WebHouse house) : IClassFixture<WebHouse>
{
    private Task Set(string table, string key, string value) =>
        house.Db.Tamper(
            $"update house.{table} set body = jsonb_set(body, '{{{JsonNamingPolicy.CamelCase.ConvertName(key)}}}', '{value}') where "
                + "upper_inf(recorded)"
        );

    private async Task<(Api Member, string Id, Instant Start)> Booked(int day)
    {
        var member = await house.As("member");
        var start = await member.FreeStart(fromDay: day);
        var booked = await member.Post("/api/bookings", Questions.Open(start));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        return (member, booked.Id!, OffsetDateTimePattern.Rfc3339.Parse(start).Value.ToInstant());
    }

    [Theory]
    [InlineData(15, HttpStatusCode.OK)]
    [InlineData(40, HttpStatusCode.UnprocessableEntity)]
    public async Task Grace_DecidesWhenTimeMayBeReleased(int grace, HttpStatusCode after20)
    {
        await Set("rules", nameof(HouseRules.NoShowGraceMinutes), $"{grace}");
        using var steward = await house.As("steward");
        var (member, id, start) = await Booked(day: grace == 15 ? 2 : 3);
        house.Clock.Now = start + Duration.FromMinutes(20);
        var answer = await steward.Post($"/api/bookings/{id}/release");
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;
        member.Dispose();
        (answer.Status == HttpStatusCode.OK).ShouldBe(after20 == HttpStatusCode.OK, answer.Body.ToString());
    }

    [Theory]
    [InlineData("true", true)]
    [InlineData("false", false)]
    public async Task NoShow_IsReleasedByItself_OnlyWhereTheHouseSaysSo(string releases, bool gone)
    {
        await Set("rules", nameof(HouseRules.NoShowGraceMinutes), "15");
        await Set("rules", nameof(HouseRules.ReleaseNoShows), releases);
        var (member, id, start) = await Booked(day: gone ? 4 : 1);
        house.Clock.Now = start + Duration.FromMinutes(20);
        await house.Services.GetServices<IHostedService>().OfType<HouseWorker>().Single().Once(TestContext.Current.CancellationToken);
        using var steward = await house.As("steward");
        var after = await steward.Post($"/api/bookings/{id}/release");
        house.Clock.Now = VelvetGate.Tests.Support.TestDatabase.Now;
        member.Dispose();
        after.Code.ShouldBe(gone ? "noShow.cancelled" : null, after.Body.ToString());
    }

    [Fact]
    public async Task Agreement_IsWhatTheNextMemberSigns()
    {
        using var member = await house.As("newcomer");
        await Set("rules", nameof(HouseRules.Agreement), "\"I sweep the floor.\"");
        (await member.Get("/api/me/account")).Body.GetProperty("agreement").GetString().ShouldBe("I sweep the floor.");
    }

    [Theory]
    [InlineData(nameof(RoomSpec.LabelColumns), 1)]
    [InlineData(nameof(RoomSpec.LabelRows), 1)]
    public async Task LabelPaper_DecidesHowManyLabelsAPageHas(string key, int value)
    {
        using var member = await house.As("member");
        (await member.Get("/api/sheet-labels.pdf?tags=S-0097&skip=23")).Status.ShouldBe(HttpStatusCode.OK);
        await Set("room", key, $"{value}");
        (await member.Get("/api/sheet-labels.pdf?tags=S-0097&skip=23")).Fields.ShouldBe(["skip"]);
        await Set("room", key, "null");
    }
}
