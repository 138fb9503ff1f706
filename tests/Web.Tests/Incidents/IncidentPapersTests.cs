using System.Net;
using Shouldly;
using SkiaSharp;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Incidents;

/// <summary>Photos, prints, files and figures, read by programs that this project did not make.</summary>
public class IncidentPapersTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Told() =>
        new
        {
            machineId = "swift",
            at = "2026-11-24T09:50:00Z",
            what = "headHit",
            severity = 3,
            seen = "The head hit a clamp.",
            damage = "Nozzle bent.",
        };

    private static async Task<Answer> Send(Api api, string id, byte[] bytes)
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", "photo.jpg" } };
        return await Answer.Of(await api.Http.PostAsync($"/api/incidents/{id}/photos", form));
    }

    /// <summary>exiftool writes a place and a camera into a photo, and finds neither in what is kept.</summary>
    [Fact]
    public async Task APlaceInAPhoto_IsGone()
    {
        using var member = await house.As("member");
        var id = (await member.Post("/api/incidents", Told())).Id;
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid()}.jpg");
        using (var bitmap = new SKBitmap(200, 100))
        using (var image = SKImage.FromBitmap(bitmap))
            await File.WriteAllBytesAsync(file, image.Encode(SKEncodedImageFormat.Jpeg, 90).ToArray());
        await Outside.Run(
            "exiftool",
            "-overwrite_original",
            "-GPSLatitude=51.5",
            "-GPSLatitudeRef=N",
            "-GPSLongitude=0.1",
            "-GPSLongitudeRef=W",
            "-Make=Pinhole",
            "-XMP:Creator=Somebody",
            "-Comment=here",
            file
        );
        (await Outside.Run("exiftool", file)).ShouldContain("GPS Latitude");
        var sent = await Send(member, id, await File.ReadAllBytesAsync(file));
        sent.Status.ShouldBe(HttpStatusCode.Created, sent.Body.ToString());
        var kept = await member.Http.GetByteArrayAsync($"/api/incidents/{id}/photos/{sent.Id}");
        await File.WriteAllBytesAsync(file, kept);
        var read = await Outside.Run("exiftool", file);
        read.ShouldContain("Image Width                     : 200");
        foreach (var gone in new[] { "GPS", "Pinhole", "Somebody", "Comment" })
            read.ShouldNotContain(gone);
        File.Delete(file);
        (await member.Post($"/api/incidents/{id}/photos/{sent.Id}/remove")).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task WhatIsNoPhoto_IsRefusedInWords()
    {
        using var member = await house.As("member");
        var id = (await member.Post("/api/incidents", Told())).Id;
        var large = await Send(member, id, new byte[40 * 1024 * 1024]);
        large.Status.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        large.Detail.ShouldEndWith(".");
        (await Send(member, id, "<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>"u8.ToArray())).Code.ShouldBe(
            "photo.kind"
        );
        (await Send(member, id, [])).Code.ShouldBe("photo.missing");
    }

    /// <summary>pdftotext reads the paper: with names for stewards, without for everybody else.</summary>
    [Fact]
    public async Task ThePaper_SaysWhatItMay()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var id = (await member.Post("/api/incidents", Told())).Id;
        var plain = await Text(member, $"/api/incidents/{id}.pdf?personal=true");
        plain.ShouldContain("a laser head that hit");
        plain.ShouldContain("Swift out of service");
        plain.ShouldContain("without names");
        plain.ShouldNotContain("Calloway", Case.Sensitive, "a member prints no names");
        var whole = await Text(steward, $"/api/incidents/{id}.pdf?personal=true");
        whole.ShouldContain("Calloway");
        whole.ShouldContain("The head hit a clamp.");
        (await Text(steward, "/api/incidents-file?format=pdf")).ShouldContain("Register of incidents");
        (await Text(member, "/api/machines/heron/near-miss-code.pdf")).ShouldContain("/near-miss/heron");
    }

    private static async Task<string> Text(Api api, string path) => await Outside.TextOf(await api.Http.GetByteArrayAsync(path));

    /// <summary>What goes out comes in again, as carried over; a bad row keeps everything out.</summary>
    [Fact]
    public async Task TheRegister_GoesOutAndAnOldListComesIn()
    {
        using var steward = await house.As("steward");
        using var member = await house.As("member");
        (await member.Get("/api/incidents-file")).Status.ShouldBe(HttpStatusCode.Forbidden);
        const string Good =
            "day,machine,what,severity,causes,seen,cost\n2024-03-04,Heron,flame,2,lines,Two lines,12.50\n2024-05-01,,smoke,1,,,\n";
        var bad = await steward.Post("/api/incidents-file", new { text = Good + "2031-01-01,heron,flame,2,,,\n", dryRun = false });
        (bad.Body.GetProperty("stored").GetBoolean(), bad.Body.GetProperty("bad").GetArrayLength()).ShouldBe((false, 1));
        var dry = await steward.Post("/api/incidents-file", new { text = Good });
        (dry.Body.GetProperty("stored").GetBoolean(), dry.Body.GetProperty("rows").GetInt32()).ShouldBe((false, 2));
        var before = (await steward.Get("/api/incidents")).Body.GetProperty("items").GetArrayLength();
        (await steward.Post("/api/incidents-file", new { text = Good, dryRun = false }))
            .Body.GetProperty("stored")
            .GetBoolean()
            .ShouldBeTrue();
        (await steward.Get("/api/incidents")).Body.GetProperty("items").GetArrayLength().ShouldBe(before + 2);
        var csv = await steward.Http.GetStringAsync("/api/incidents-file");
        csv.ShouldContain("2024-03-04,heron,flame,2,lines,,12.50,0,closed,yes");
        csv.ShouldNotContain("Two lines", Case.Sensitive, "what people wrote stays in the house");
    }

    /// <summary>Rates over HTTP are those of Core, with the hours of the runs that were logged.</summary>
    [Fact]
    public async Task Rates_ComeWithTheirLimitsAndHours()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var rates = (await member.Get("/api/incidents/rates?from=2026-09-01&to=2026-11-24")).Body;
        var hours = rates.GetProperty("incidents").GetProperty("hours").GetDouble();
        await using var command = house.Db.Owner.CreateCommand();
        command.CommandText =
            "select sum(extract(epoch from upper(during) - lower(during)) / 3600)::float8 from run.log "
            + "where lower(during) >= '2026-08-31 23:00Z'";
        hours.ShouldBe((double)(await command.ExecuteScalarAsync())!, 1e-6);
        var near = rates.GetProperty("nearMisses");
        near.GetProperty("count").GetInt32().ShouldBeGreaterThan(5);
        near.GetProperty("per100").GetDouble().ShouldBe(near.GetProperty("count").GetInt32() / hours * 100, 1e-9);
        (await member.Get("/api/incidents/rates?from=2026-10-02&to=2026-10-01")).Code.ShouldBe("rate.period");
        var none = (await member.Get("/api/incidents/rates?from=1999-01-01&to=1999-12-31&machineId=heron")).Body;
        none.GetProperty("code").GetString().ShouldBe("rate.noHours");
        none.GetProperty("incidents").TryGetProperty("per100", out _).ShouldBeFalse("unknown hours give no rate");
        var figures = (await steward.Get("/api/incidents/figures?from=2026-09-01&to=2026-11-24")).Body;
        figures.GetProperty("months").GetArrayLength().ShouldBe(3);
        figures
            .GetProperty("months")
            .EnumerateArray()
            .Sum(m => m.GetProperty("incidents").GetInt32())
            .ShouldBe(figures.GetProperty("rates").GetProperty("incidents").GetProperty("count").GetInt32());
        (await member.Get("/api/incidents/figures")).Status.ShouldBe(HttpStatusCode.Forbidden);
    }
}
