using System.Net;
using System.Net.Http.Json;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Incidents;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Incidents;

/// <summary>Three taps without a name: kept once, and joined to nobody.</summary>
public class NearMissTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Told(string what = "lidTooSoon", string? machine = "heron", string note = "", string? id = null) =>
        new
        {
            id = id ?? Guid.NewGuid().ToString(),
            machineId = machine,
            what,
            note,
        };

    private async Task<List<string>> Rows(string sql)
    {
        await using var command = house.Db.Owner.CreateCommand();
        command.CommandText = sql;
        var found = new List<string>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
            found.Add(string.Join('|', Enumerable.Range(0, reader.FieldCount).Select(i => reader.GetValue(i).ToString())));
        return found;
    }

    [Fact]
    public async Task AnybodyTells_TheSameTwiceOnce()
    {
        using var visitor = await house.As(null);
        var id = Guid.NewGuid().ToString();
        (await visitor.Post("/api/near-misses", Told(id: id))).Status.ShouldBe(HttpStatusCode.Accepted);
        (await visitor.Post("/api/near-misses", Told(id: id))).Status.ShouldBe(HttpStatusCode.Accepted);
        (await Rows($"select half_day, machine_id, what, note from incidents.near_miss where id = '{id}'")).ShouldBe([
            "2026-11-24 morning|heron|lidTooSoon|",
        ]);
    }

    /// <summary>
    /// A signed-in member tells one: no table says so, no session is touched, no message, entry or row holds the id beside an instant or
    /// a person, and a cookie that is no good does no harm, since nothing reads it.
    /// </summary>
    [Fact]
    public async Task NothingJoinsAReportToWhoeverTold()
    {
        using var member = await house.As("member");
        await member.Get("/api/me");
        var before = await Rows("select id, seen from people.session order by id");
        var entries = (await Rows("select count(*) from ledger.entry"))[0];
        house.Clock.Now += Duration.FromMinutes(30);
        var id = Guid.NewGuid().ToString();
        (await member.Post("/api/near-misses", Told("nobodyThere", note: "A coffee.", id: id))).Status.ShouldBe(HttpStatusCode.Accepted);
        (await Rows("select id, seen from people.session order by id")).ShouldBe(before, "no session was looked up");
        (await Rows("select count(*) from ledger.entry"))[0].ShouldBe(entries, "the record hears of the half day once it is over");
        var columns = await Rows(
            "select table_schema || '.' || table_name, string_agg(column_name || ' ' || data_type, ',' order by ordinal_position) "
                + "from information_schema.columns where table_schema = 'incidents' and table_name like 'near_miss%' group by 1 order by 1"
        );
        columns.ShouldBe([
            "incidents.near_miss|id uuid,half_day text,machine_id text,what text,note text,struck boolean",
            "incidents.near_miss_told|near_miss_id uuid",
        ]);
        // The id stands in no other table, whatever its type.
        var tables = await Rows(
            "select table_schema || '.' || table_name, '' from information_schema.tables where table_type = 'BASE TABLE' and table_schema "
                + "not in ('pg_catalog', 'information_schema', 'public')"
        );
        foreach (var table in tables.Select(t => t.TrimEnd('|')).Where(t => t != "incidents.near_miss"))
            (await Rows($"select 1 from {table} r where r::text like '%{id}%' limit 1")).ShouldBeEmpty(table);
        house.Clock.Now = TestDatabase.Now;
    }

    [Fact]
    public async Task Contents_ShowOnceTheHalfDayIsOver_AndTheRecordHearsOfItOnce()
    {
        using var visitor = await house.As(null);
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        (await visitor.Post("/api/near-misses", Told("other", null, "Ines left a rag on the duct."))).Status.ShouldBe(
            HttpStatusCode.Accepted
        );
        var before = (await steward.Get("/api/near-misses")).Body;
        before.GetProperty("hidden").GetInt32().ShouldBeGreaterThan(0);
        before.ToString().ShouldNotContain("rag on the duct");
        (await member.Get("/api/near-misses")).Status.ShouldBe(HttpStatusCode.Forbidden);
        house.Clock.Now = Instant.FromUtc(2026, 11, 24, 12, 0);
        var shown = (await steward.Get("/api/near-misses")).Body.GetProperty("items").EnumerateArray().ToList();
        var one = shown.Single(i => i.GetProperty("note").GetString()!.Contains("rag", StringComparison.Ordinal));
        one.GetProperty("when").GetString().ShouldBe("Tue 24 Nov, morning");
        (
            await steward.Post($"/api/near-misses/{one.GetProperty("id")}/strike", new { note = "Somebody left a rag on the duct." })
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await steward.Get("/api/near-misses")).Body.ToString().ShouldNotContain("Ines");
        var store = (NearMissStore)house.Services.GetService(typeof(NearMissStore))!;
        var rules = (
            await ((Store.House.HouseStore)house.Services.GetService(typeof(Store.House.HouseStore))!).Rules(house.Clock.Now, default)
        )!;
        await store.TellRecord(rules, house.Clock.Now, default);
        (await store.TellRecord(rules, house.Clock.Now, default)).ShouldBe(0, "each half day once");
        var entry = (await Rows("select body from ledger.entry where kind = 'incident.nearMisses' order by seq desc limit 1"))[0];
        entry.ShouldContain("\"halfDay\":\"2026-11-24 morning\"");
        entry.ShouldContain("\"digest\":\"");
        house.Clock.Now = TestDatabase.Now;
    }

    /// <summary>Fire or smoke asks for a look before the next start: the gate says so until a steward has looked.</summary>
    [Fact]
    public async Task FireOrSmoke_AsksForALook()
    {
        using var visitor = await house.As(null);
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var told = await visitor.Post("/api/near-misses", Told("glow", "wren"));
        told.Body.GetProperty("lookAsked").GetBoolean().ShouldBeTrue();
        var ask = Questions.Open(WebHouse.At(2, 14)).With("machineId", "wren");
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldContain("machine.look");
        var watch = (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString();
        watch.ShouldContain("lookAsked");
        (await steward.Get("/api/messages")).Body.ToString().ShouldContain("without a name");
        (await steward.Post("/api/machines/wren/looked", new { reason = "" })).Code.ShouldBe("reason.missing");
        (await steward.Post("/api/machines/wren/looked", new { reason = "Bed and filter cold." })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await steward.Post("/api/machines/wren/looked", new { reason = "Again." })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await member.Post("/api/gate/ask?soonest=false", ask)).Codes.ShouldNotContain("machine.look");
    }

    [Theory]
    [InlineData("fume", "heron", "nearMiss.what")]
    [InlineData("meteor", "heron", "request.invalid")]
    [InlineData("flame", "robin", "incident.unknownId")]
    public async Task Nonsense_IsRefused(string what, string machine, string code)
    {
        using var visitor = await house.As(null);
        (await visitor.Post("/api/near-misses", Told(what, machine))).Code.ShouldBe(code);
    }

    /// <summary>No page of another house, and no plain form, tells one in somebody's name.</summary>
    [Fact]
    public async Task AnotherPage_TellsNone()
    {
        using var visitor = await house.As(null);
        using var form = new HttpRequestMessage(HttpMethod.Post, "/api/near-misses") { Content = new StringContent("{}") };
        (await visitor.Http.SendAsync(form)).StatusCode.ShouldBeOneOf(
            HttpStatusCode.Forbidden,
            HttpStatusCode.UnsupportedMediaType,
            HttpStatusCode.NotFound
        );
        using var cross = new HttpRequestMessage(HttpMethod.Post, "/api/near-misses") { Content = JsonContent.Create(Told()) };
        cross.Headers.Add("Sec-Fetch-Site", "cross-site");
        (await visitor.Http.SendAsync(cross)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }
}

/// <summary>In a house of its own: what one place told stays told.</summary>
public class NearMissFloodTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>A visitor who sends a thousand has twenty kept in an hour, and is told.</summary>
    [Fact]
    public async Task AThousand_AreTooMany()
    {
        using var visitor = await house.As(null);
        var answers = new List<Answer>();
        foreach (var batch in Enumerable.Range(0, 1000).Chunk(50))
            answers.AddRange(
                await Task.WhenAll(
                    batch.Select(_ =>
                        visitor.Post(
                            "/api/near-misses",
                            new
                            {
                                id = Guid.NewGuid(),
                                machineId = "heron",
                                what = "other",
                            }
                        )
                    )
                )
            );
        answers.Count(a => a.Status == HttpStatusCode.Accepted).ShouldBe(20);
        answers.Last().Code.ShouldBe("nearMiss.many");
    }
}

/// <summary>A house whose keeper has everything logged that can be.</summary>
public sealed class LoudHouse : WebHouse
{
    protected override void ConfigureWebHost(Microsoft.AspNetCore.Hosting.IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        builder.UseSetting("Serilog:MinimumLevel:Default", "Verbose");
    }
}

public class NearMissLogTests(LoudHouse house) : IClassFixture<LoudHouse>
{
    /// <summary>Other requests stand in the log with their path; the telling of a near miss does not.</summary>
    [Fact]
    public async Task NoLog_HoldsOne()
    {
        using var visitor = await house.As(null);
        var (id, output) = (Guid.NewGuid().ToString(), new StringWriter());
        var was = Console.Out;
        Console.SetOut(TextWriter.Synchronized(output));
        try
        {
            await visitor.Get("/api/house");
            var told = await visitor.Post(
                "/api/near-misses",
                new
                {
                    id,
                    machineId = "heron",
                    what = "lidTooSoon",
                    note = "Smoke inside still.",
                }
            );
            told.Status.ShouldBe(HttpStatusCode.Accepted);
        }
        finally
        {
            Console.SetOut(was);
        }
        var text = output.ToString();
        text.ShouldContain("/api/house");
        text.ShouldNotContain("/api/near-misses");
        text.ShouldNotContain(id);
        text.ShouldNotContain("Smoke inside");
    }
}
