using System.Buffers.Binary;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Ledger;
using Xunit;

namespace VelvetGate.Web.Tests.People;

/// <summary>A code from a phone at sign-in. The phone here is written from RFC 6238 alone, and held to the values printed there.</summary>
public sealed class SecondFactorTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>RFC 4226 §5.3 with the time steps of RFC 6238 §4.</summary>
    private static string Code(byte[] secret, long step, int digits = 6)
    {
        Span<byte> counter = stackalloc byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
        Span<byte> mac = stackalloc byte[20];
#pragma warning disable CA5350 // The RFC's own default.
        HMACSHA1.HashData(secret, counter, mac);
#pragma warning restore CA5350
        var bits = BinaryPrimitives.ReadInt32BigEndian(mac[(mac[19] & 15)..]) & 0x7fffffff;
        return (bits % (int)Math.Pow(10, digits)).ToString(System.Globalization.CultureInfo.InvariantCulture).PadLeft(digits, '0');
    }

    private static byte[] Base32(string text)
    {
        var bits = string.Concat(
            text.Select(c => Convert.ToString("ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".IndexOf(c, StringComparison.Ordinal), 2).PadLeft(5, '0'))
        );
        return [.. Enumerable.Range(0, bits.Length / 8).Select(i => Convert.ToByte(bits.Substring(8 * i, 8), 2))];
    }

    private static long StepNow => SystemClock.Instance.GetCurrentInstant().ToUnixTimeSeconds() / 30;

    private async Task<(Api Api, byte[] Secret, IReadOnlyList<string> Spare, long Step)> SetUp(string who)
    {
        var api = await house.As(who);
        var begun = await api.Post("/api/me/second-factor");
        begun.Status.ShouldBe(HttpStatusCode.OK, begun.Body.ToString());
        var secret = Base32(begun.Body.GetProperty("secret").GetString()!);
        begun.Body.GetProperty("uri").GetString().ShouldStartWith("otpauth://totp/");
        var wrong = ((int.Parse(Code(secret, StepNow), System.Globalization.CultureInfo.InvariantCulture) + 500_001) % 1_000_000).ToString(
            "000000",
            System.Globalization.CultureInfo.InvariantCulture
        );
        (await api.Post("/api/me/second-factor/confirm", new { code = wrong })).Fields.ShouldBe(["code"]);
        var step = StepNow;
        var confirmed = await api.Post("/api/me/second-factor/confirm", new { code = Code(secret, step) });
        confirmed.Status.ShouldBe(HttpStatusCode.OK, confirmed.Body.ToString());
        return (api, secret, [.. confirmed.Body.GetProperty("codes").EnumerateArray().Select(c => c.GetString()!)], step);
    }

    private async Task<Answer> SignIn(string name, string? code = null)
    {
        using var api = await house.As(null);
        return await api.Post(
            "/api/sign-in",
            new
            {
                name,
                password = "ropewalk",
                code,
            }
        );
    }

    /// <summary>RFC 6238, appendix B: SHA-1, the secret is the ASCII text 12345678901234567890; eight digits.</summary>
    [Theory]
    [InlineData(59, "94287082")]
    [InlineData(1111111109, "07081804")]
    [InlineData(1111111111, "14050471")]
    [InlineData(1234567890, "89005924")]
    [InlineData(2000000000, "69279037")]
    [InlineData(20000000000, "65353130")]
    public void Phone_GivesThePrintedValues(long seconds, string code)
    {
        Code(Encoding.ASCII.GetBytes("12345678901234567890"), seconds / 30, 8).ShouldBe(code);
        new OtpNet.Totp(Encoding.ASCII.GetBytes("12345678901234567890"), totpSize: 8)
            .ComputeTotp(DateTime.UnixEpoch.AddSeconds(seconds))
            .ShouldBe(code);
    }

    [Fact]
    public async Task Code_IsAskedOnceSetUp_IsGoodOnce_AndSpareOnesStandIn()
    {
        var (api, secret, spare, step) = await SetUp("trainer");
        spare.Count.ShouldBe(8);
        (await api.Post("/api/me/second-factor")).Code.ShouldBe("secondFactor.set");
        (await SignIn("trainer")).Code.ShouldBe("signIn.secondFactor");
        (await SignIn("trainer", Code(secret, step))).Code.ShouldBe("signIn.secondFactor", "the code that confirmed it was used");
        (await SignIn("trainer", Code(secret, step + 1))).Status.ShouldBe(HttpStatusCode.OK);
        (await SignIn("trainer", Code(secret, step + 1))).Code.ShouldBe("signIn.secondFactor");
        (await SignIn("trainer", spare[0].ToLowerInvariant())).Status.ShouldBe(HttpStatusCode.OK);
        (await SignIn("trainer", spare[0])).Code.ShouldBe("signIn.secondFactor");
        (await api.Get("/api/me/second-factor")).Body.GetProperty("spare").GetInt32().ShouldBe(7);
        (await api.Delete("/api/me/second-factor")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await SignIn("trainer")).Status.ShouldBe(HttpStatusCode.OK);
        api.Dispose();
        (await new LedgerVerifier(house.Db.Owner).Verify(null, TestContext.Current.CancellationToken)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Secret_IsSealedInTheDatabase_AndNoSpareCodeStandsThere()
    {
        var (api, secret, spare, _) = await SetUp("newcomer");
        await using var command = house.Db.Owner.CreateCommand(
            "select secret, spare from people.second_factor where confirmed is not null limit 1"
        );
        await using var row = await command.ExecuteReaderAsync(TestContext.Current.CancellationToken);
        (await row.ReadAsync(TestContext.Current.CancellationToken)).ShouldBeTrue();
        row.GetFieldValue<byte[]>(0).AsSpan().IndexOf(secret).ShouldBe(-1);
        row.GetFieldValue<string[]>(1).Intersect(spare).ShouldBeEmpty();
        api.Dispose();
    }

    [Fact]
    public async Task Guessing_TheCode_IsHeldOff_LikeGuessingThePassword()
    {
        var (api, _, _, _) = await SetUp("member");
        var answers = new List<HttpStatusCode>();
        for (var i = 0; i < 12; i++)
            answers.Add((await SignIn("member", $"{100_000 + i}")).Status);
        api.Dispose();
        answers.ShouldContain(HttpStatusCode.TooManyRequests);
        answers.ShouldNotContain(HttpStatusCode.OK);
    }
}

/// <summary>A house that asks it of everybody whose word others rely on.</summary>
public sealed class SecondFactorWantedTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task Rule_LeavesNothingOpenButSettingItUp_ForThoseRolesAlone()
    {
        await house.Db.Tamper("update house.rules set body = jsonb_set(body, '{secondFactor}', 'true') where upper_inf(recorded)");
        using var member = await house.As("member");
        (await member.Get("/api/me")).Body.GetProperty("factorOwed").GetBoolean().ShouldBeFalse();
        (await member.Get("/api/bookings?from=2026-11-24&days=1")).Status.ShouldNotBe(HttpStatusCode.Forbidden);
        using var steward = await house.As("steward");
        (await steward.Get("/api/me")).Body.GetProperty("factorOwed").GetBoolean().ShouldBeTrue();
        foreach (var path in new[] { "/api/watch", "/api/people", "/api/ledger", "/api/me/data" })
            (await steward.Get(path)).Code.ShouldBe("secondFactor.setUp", path);
        (await steward.Post("/api/bookings", new { })).Code.ShouldBe("secondFactor.setUp");
        (await steward.Post("/api/machines/swift/stops", new { reason = "Smell." })).Status.ShouldBe(
            HttpStatusCode.Created,
            "nobody is kept from stopping a machine"
        );
        (await steward.Post("/api/sheets/S-0101/report", new { reason = "It smelled." })).Code.ShouldNotBe("secondFactor.setUp");
        (await steward.Get("/api/machines")).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Get("/api/machines/heron/emergency")).Status.ShouldBe(HttpStatusCode.OK, "nobody is kept from the card");
        (await steward.Post("/api/me/second-factor")).Status.ShouldBe(HttpStatusCode.OK);
        // The keeper's, so that somebody can take the other's off.
        await house.Db.Tamper(
            "update people.session set factor_owed = false; insert into people.second_factor (person_id, secret, begun, confirmed) "
                + "values ('m-2', '\\x00', now(), now()) on conflict (person_id) do update set confirmed = now()"
        );
        (await steward.Get("/api/watch")).Status.ShouldBe(HttpStatusCode.OK);
        using var keeper = await house.As("keeper");
        await house.Db.Tamper("update people.session set factor_owed = false");
        (await keeper.Delete("/api/people/m-1/second-factor")).Code.ShouldBe("secondFactor.self");
        (await keeper.Delete("/api/people/m-2/second-factor")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Delete("/api/people/m-2/second-factor")).Status.ShouldBe(HttpStatusCode.NotFound);
        (await steward.Get("/api/watch")).Code.ShouldBe("secondFactor.setUp", "taken off, it is owed anew");
        (await house.As(null)).Dispose();
    }
}
