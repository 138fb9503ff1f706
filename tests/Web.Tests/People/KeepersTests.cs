using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.People;

public class KeepersTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>
    /// Two keepers who end each other's role at the same moment leave one; a role that ends tomorrow is no keeper to rely on.
    /// </summary>
    [Fact]
    public async Task Keepers_EndingEachOther_LeaveOne()
    {
        await house.Db.Tamper(
            "insert into people.role (person_id, role, held, recorded) values ('m-2', 'keeper', tstzrange('2026-01-01', null), "
                + "tstzrange('2026-01-01', null))"
        );
        using var one = await house.As("keeper");
        using var two = await house.As("steward");
        var (first, second) = (await Row("m-1"), await Row("m-2"));
        var ended = await Task.WhenAll(one.Post($"/api/roles/{second}/end"), two.Post($"/api/roles/{first}/end"));
        ended.Count(e => e.Status == HttpStatusCode.NoContent).ShouldBe(1);
        ended
            .Count(e => e.Status is HttpStatusCode.Conflict or HttpStatusCode.Forbidden)
            .ShouldBe(1, "the last keeper stays, or the second is none any more");
        (await Scalar("select count(*) from people.acting where role = 'keeper' and upper_inf(recorded) and upper_inf(held)")).ShouldBe(1);

        async Task<long> Row(string person) =>
            await Scalar($"select row_id from people.role where person_id = '{person}' and role = 'keeper' and upper_inf(recorded)");
    }

    /// <summary>The only keeper whose role lasts is not ended by one whose role ends tomorrow, nor is that account.</summary>
    [Fact]
    public async Task LastKeeper_WhoseRoleLasts_Stays()
    {
        await house.Db.Tamper(
            "insert into people.role (person_id, role, held, recorded) values ('m-6', 'keeper', tstzrange('2026-01-01', "
                + "'2026-11-26'), tstzrange('2026-01-01', null)); update people.person set sign_in_name = 'yusra', password_hash = "
                + "(select password_hash from people.person where id = 'm-4') where id = 'm-6'"
        );
        (await Scalar("select count(*) from people.acting where role = 'keeper' and upper_inf(recorded) and upper_inf(held)")).ShouldBe(1);
        using var leaving = await house.As("yusra");
        await using var command = house.Db.Owner.CreateCommand(
            "select person_id from people.acting where role = 'keeper' and upper_inf(recorded) and upper_inf(held)"
        );
        var person = (string)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!;
        var row = await Scalar(
            $"select row_id from people.role where person_id = '{person}' and role = 'keeper' and upper_inf(recorded) and upper_inf(held)"
        );
        (await leaving.Post($"/api/roles/{row}/end")).Code.ShouldBe("role.lastKeeper");
        (await leaving.Put($"/api/people/{person}/end", new { lastDay = "2026-11-24" })).Code.ShouldBe("role.lastKeeper");
    }

    private async Task<long> Scalar(string sql)
    {
        await using var command = house.Db.Owner.CreateCommand(sql);
        return (long)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!;
    }
}
