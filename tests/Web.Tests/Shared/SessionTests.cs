using System.Net;
using Dapper;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using NodaTime;
using Shouldly;
using VelvetGate.Core.People;
using VelvetGate.Tests.Support;
using Xunit;
using Passwords = VelvetGate.Web.Shared.Passwords;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>
/// Sessions live on the server; what gives or takes power wants the password again; passwords hold against the first guesses.
/// </summary>
public class SessionTests(WebHouse house) : IClassFixture<WebHouse>
{
    private async Task Sql(string sql)
    {
        await using var connection = await house.Db.Owner.OpenConnectionAsync();
        await connection.ExecuteAsync(sql);
    }

    /// <summary>A cookie that somebody copied is worth nothing after the sign-out.</summary>
    [Fact]
    public async Task SignOut_EndsTheSession_NotOnlyTheCookie()
    {
        using var visitor = await house.As(null);
        var signed = await visitor.Post("/api/sign-in", new { name = "trainer", password = "ropewalk" });
        var copied = signed
            .Response.Headers.GetValues("Set-Cookie")
            .Single(c => c.StartsWith("velvetgate=", StringComparison.Ordinal))
            .Split(';')[0];
        using var thief = house.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        thief.DefaultRequestHeaders.Add("Cookie", copied);
        (await thief.GetAsync("/api/me", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.OK,
            "it is a good copy"
        );
        visitor.Http.DefaultRequestHeaders.Add("X-Velvet-Gate", signed.Body.GetProperty("antiforgeryToken").GetString());
        (await visitor.Post("/api/sign-out")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await thief.GetAsync("/api/me", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Sessions_AreListed_AndEndedOneByOneOrAllOthers()
    {
        await Sql("delete from people.session where person_id = 'm-3'");
        using var one = await house.As("trainer");
        using var two = await house.As("trainer");
        using var three = await house.As("trainer");
        var list = (await one.Get("/api/me/sessions")).Body.GetProperty("items").EnumerateArray().ToList();
        list.Count.ShouldBe(3);
        list.Count(s => s.GetProperty("here").GetBoolean()).ShouldBe(1);
        var second = (await two.Get("/api/me/sessions"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(s => s.GetProperty("here").GetBoolean())
            .GetProperty("id")
            .GetString();
        (await one.Delete($"/api/me/sessions/{second}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await two.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        using var member = await house.As("member");
        (
            await member.Delete($"/api/me/sessions/{list.First(s => s.GetProperty("here").GetBoolean()).GetProperty("id").GetString()}")
        ).Status.ShouldBe(HttpStatusCode.NotFound, "not theirs");
        (await one.Post("/api/me/sessions/end-others")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await three.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await one.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("until = now() - interval '1 second'", false)]
    [InlineData("idle_minutes = 30, seen = now() - interval '31 minutes'", false)]
    [InlineData("idle_minutes = 30, seen = now() - interval '29 minutes'", true)]
    [InlineData("seen = now() - interval '11 hours'", true)]
    public async Task Session_EndsAfterTwelveHours_AndSoonerWithoutUseOnASharedDevice(string change, bool holds)
    {
        using var keeper = await house.As("keeper");
        (await keeper.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
        await Sql($"update people.session set {change} where person_id = 'm-1'");
        (await keeper.Get("/api/me")).Status.ShouldBe(holds ? HttpStatusCode.OK : HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Session_OfASharedDevice_SaysSo_AndTwelveHoursAreTheMost()
    {
        using var visitor = await house.As(null);
        await visitor.Post(
            "/api/sign-in",
            new
            {
                name = "newcomer",
                password = "ropewalk",
                shared = true,
            }
        );
        var here = (await visitor.Get("/api/me/sessions"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(s => s.GetProperty("here").GetBoolean());
        here.GetProperty("shared").GetBoolean().ShouldBeTrue();
        (Parse(here, "until") - Parse(here, "began")).ShouldBe(Sessions.Longest);

        static Instant Parse(System.Text.Json.JsonElement of, string key) =>
            NodaTime.Text.InstantPattern.ExtendedIso.Parse(of.GetProperty(key).GetString()!).Value;
    }

    /// <summary>Roles, ends, links, holds and erasing want the password given within a quarter of an hour.</summary>
    [Fact]
    public async Task WhatGivesOrTakesPower_WantsThePasswordOnceMore()
    {
        using var keeper = await house.As("keeper");
        var (role, end) = ("/api/people/m-20/roles", "/api/people/m-20/end");
        (await keeper.Post(role, new { role = "steward" })).Status.ShouldBe(HttpStatusCode.NoContent);
        await Sql("update people.session set proved = now() - interval '16 minutes' where person_id = 'm-1'");
        foreach (
            var (method, path) in new[]
            {
                ("post", role),
                ("put", end),
                ("post", "/api/people/m-20/invite"),
                ("post", "/api/people/m-20/legal-hold"),
                ("post", "/api/people/m-20/erase"),
                ("post", "/api/roles/1/end"),
            }
        )
        {
            var answer = method == "put" ? await keeper.Put(path, new { }) : await keeper.Post(path, new { });
            (answer.Status, answer.Code).ShouldBe((HttpStatusCode.Forbidden, "signIn.again"), path);
        }
        (await keeper.Get("/api/people/m-20/account")).Status.ShouldBe(HttpStatusCode.OK, "to look is not to change");
        (await keeper.Post("/api/me/password/again", new { password = "guess" })).Code.ShouldBe("password.wrong");
        (await keeper.Post("/api/me/password/again", new { password = "ropewalk" })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Post(role, new { role = "countersigner" })).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Theory]
    [InlineData("aaaaaaaaaa", false)]
    [InlineData("password12", false)]
    [InlineData("qwertyuiop", false)]
    [InlineData("1234567890", false)]
    [InlineData("iloveyou12", false)]
    [InlineData("quarry1984", false)]
    [InlineData("adaquarry1", false)]
    [InlineData("short", false)]
    [InlineData("wood and string", true)]
    [InlineData("a long quiet river", true)]
    [InlineData("überflüssige Nägel", true)]
    public void Password_HoldsAgainstTheFirstGuesses(string password, bool serves) =>
        (Passwords.Check(password, "Ada", "Quarry", "ada@quarry.example") is null).ShouldBe(serves);

    [Fact]
    public void Password_OfTheLongest_IsJudgedAtOnce()
    {
        var clock = System.Diagnostics.Stopwatch.StartNew();
        Passwords.Check(string.Concat(Enumerable.Repeat("aB3$", 50))).ShouldBeNull();
        Passwords.Check(new string('a', 200)).ShouldNotBeNull();
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(5);
    }

    /// <summary>PBKDF2 with 210,000 rounds; the framework writes the number into the hash (bytes 5 to 8, most significant first).</summary>
    [Fact]
    public void Password_IsKeptWithManyRounds()
    {
        var hash = Convert.FromBase64String(Passwords.Hash("wood and string"));
        System.Buffers.Binary.BinaryPrimitives.ReadUInt32BigEndian(hash.AsSpan(5)).ShouldBe(210_000u);
    }

    [Theory]
    [InlineData("Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36", "Chrome on Linux")]
    [InlineData("Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0", "Firefox on Windows")]
    [InlineData(
        "Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36",
        "Chrome on Android"
    )]
    [InlineData("", "a program")]
    public void Device_IsNamedInAFewWords(string agent, string name) => Sessions.Device(agent).ShouldBe(name);
}

/// <summary>A server in use, not a demo: kept rounds are brought up, keys are sealed, and behind TLS cookies are bound to it.</summary>
public sealed class SecureHouse : WebHouse
{
    public string Certificate { get; } = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.pfx");

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        using var key = System.Security.Cryptography.RSA.Create(2048);
        var request = new System.Security.Cryptography.X509Certificates.CertificateRequest(
            "CN=keys",
            key,
            System.Security.Cryptography.HashAlgorithmName.SHA256,
            System.Security.Cryptography.RSASignaturePadding.Pkcs1
        );
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(300));
        File.WriteAllBytes(Certificate, certificate.Export(System.Security.Cryptography.X509Certificates.X509ContentType.Pfx, "sealed"));
        builder.UseSetting("VELVETGATE_DEMO", "false");
        builder.UseSetting("VELVETGATE_URL", "https://gate.example/");
        builder.UseSetting("VELVETGATE_HOSTS", "gate.example");
        builder.UseSetting("VELVETGATE_KEY_CERTIFICATE", Certificate);
        builder.UseSetting("VELVETGATE_KEY_PASSWORD", "sealed");
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        File.Delete(Certificate);
    }
}

public class SecureHouseTests(SecureHouse house) : IClassFixture<SecureHouse>
{
    private Api Caller(string host = "https://gate.example") =>
        new(
            house.CreateClient(
                new WebApplicationFactoryClientOptions
                {
                    BaseAddress = new Uri(host),
                    HandleCookies = true,
                    AllowAutoRedirect = false,
                }
            )
        );

    [Fact]
    public async Task BehindTls_CookiesAreBoundToTheHost_AndBrowsersStayWithIt()
    {
        using var api = Caller();
        var answer = await api.Post("/api/sign-in", new { name = "member", password = "ropewalk" });
        answer.Status.ShouldBe(HttpStatusCode.OK);
        foreach (
            var cookie in answer
                .Response.Headers.GetValues("Set-Cookie")
                .Where(c =>
                    c.Contains("velvetgate", StringComparison.Ordinal) && !c.StartsWith("velvetgate-device", StringComparison.Ordinal)
                )
        )
        {
            cookie.ShouldStartWith("__Host-velvetgate");
            cookie.ShouldContain("secure", Case.Insensitive);
            cookie.ShouldContain("path=/", Case.Insensitive);
        }
        answer.Response.Headers.GetValues("Strict-Transport-Security").Single().ShouldContain("max-age=31536000");
    }

    [Fact]
    public async Task OtherHosts_AreRefused_AndLinksNeverFollowThem()
    {
        using var other = Caller("https://evil.example");
        (await other.Http.GetAsync("/api/house", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        using var keeper = Caller();
        await keeper.SignIn("keeper", "ropewalk");
        (await keeper.Post("/api/people/m-4/invite")).Body.GetProperty("link").GetString().ShouldStartWith("https://gate.example/invite/");
        // No page or print asks the request where it came from.
        Directory
            .EnumerateFiles(Repo.Path("src", "Web"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .ShouldAllBe(f => !File.ReadAllText(f).Contains("Request.Host", StringComparison.Ordinal));
    }

    [Fact]
    public async Task SignIn_BringsAHashOfFewRoundsUp_AndKeepsSessions()
    {
        using var api = Caller();
        await api.SignIn("steward", "ropewalk");
        await using var connection = await house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var hash = Convert.FromBase64String(
            (await connection.ExecuteScalarAsync<string>("select password_hash from people.person where id = 'm-2'"))!
        );
        System.Buffers.Binary.BinaryPrimitives.ReadUInt32BigEndian(hash.AsSpan(5)).ShouldBe(210_000u);
        (await api.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Keys_InTheDatabase_AreSealed()
    {
        using var api = Caller();
        await api.SignIn("trainer", "ropewalk");
        await using var connection = await house.Db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var keys = (await connection.QueryAsync<string>("select xml from web.data_protection_key")).ToList();
        keys.ShouldNotBeEmpty();
        keys.ShouldAllBe(k => k.Contains("EncryptedData", StringComparison.Ordinal) && !k.Contains("<value>", StringComparison.Ordinal));
    }
}
