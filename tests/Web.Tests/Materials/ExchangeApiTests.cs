using System.Diagnostics;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

public class ExchangeApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<string> Text(Api api, string path) => await (await api.Get(path)).Response.Content.ReadAsStringAsync();

    private static JsonElement.ArrayEnumerator List(Answer answer, string name) => answer.Body.GetProperty(name).EnumerateArray();

    [Fact]
    public async Task Rulings_OutAndInAgain_ChangeNothing()
    {
        using var steward = await house.As("steward");
        foreach (var format in new[] { "csv", "json" })
        {
            var back = await steward.Post(
                "/api/rulings-file",
                new { text = await Text(steward, $"/api/rulings-file?format={format}"), dryRun = true }
            );
            List(back, "bad").ShouldBeEmpty();
            List(back, "materials").ShouldBeEmpty();
            back.Body.GetProperty("rows").GetInt32().ShouldBeGreaterThan(600);
        }
        (await steward.Get("/api/rulings-file?format=xls")).Fields.ShouldBe(["format"]);
    }

    [Fact]
    public async Task Import_LooksFirst_StoresAllOrNothing_AndMilderWaits()
    {
        using var steward = await house.As("steward");
        const string heading = "material,laser,operation,min mm,max mm,standing,evidence,reasons,hazard,handling,filtered asks\n";
        const string good =
            "denim,co2,cut,0,3,permitted,declared,fire-melt,Smoke.,,no\nhdpe,co2,cut,0,1,byArrangement,clearedTag,fire-melt,Melts.,,no\n";
        var look = await steward.Post("/api/rulings-file", new { text = heading + good });
        look.Body.GetProperty("stored").GetBoolean().ShouldBeFalse("nothing is stored unless it is asked for");
        List(look, "materials").Select(m => m.GetProperty("direction").GetString()).ShouldBe(["tightens", "loosens"]);
        var bad = await steward.Post(
            "/api/rulings-file",
            new
            {
                text = heading + good + "denim,co2,saw,0,3,permitted,declared,,Smoke.,,no\n",
                dryRun = false,
                reason = "New list.",
            }
        );
        bad.Body.GetProperty("stored").GetBoolean().ShouldBeFalse();
        List(bad, "bad").Single().GetProperty("line").GetInt32().ShouldBe(4);
        (await Max(steward)).ShouldBe(6.35);
        (await steward.Post("/api/rulings-file", new { text = heading + good, dryRun = false })).Fields.ShouldBe(["reason"]);
        (
            await steward.Post(
                "/api/rulings-file",
                new
                {
                    text = heading + good + "pvc-sheet,co2,cut,0,1,permitted,none,,Fine.,,no\n",
                    dryRun = false,
                    reason = "Vinyl too.",
                }
            )
        ).Code.ShouldBe("ruling.never");
        (await Max(steward)).ShouldBe(6.35, "one row that nobody may store stores none");

        var done = await steward.Post(
            "/api/rulings-file",
            new
            {
                text = heading + good,
                dryRun = false,
                reason = "New list.",
            }
        );
        (done.Body.GetProperty("stored").GetBoolean(), done.Body.GetProperty("proposals").GetInt32()).ShouldBe((true, 1));
        (await Max(steward)).ShouldBe(3);

        static async Task<double> Max(Api api) =>
            (await api.Get("/api/materials?find=denim"))
                .Body.GetProperty("items")[0]
                .GetProperty("rulings")
                .EnumerateArray()
                .Single(r => r.GetProperty("kind").GetString() == "co2" && r.GetProperty("operation").GetString() == "cut")
                .GetProperty("maxMm")
                .GetDouble();
    }

    [Fact]
    public async Task Sheets_InAndOut_AndReadByAnIndependentReader()
    {
        using var steward = await house.As("steward");
        const string text =
            "material;thickness;width;height;supplier;batch;count\ncork;3 mm;24 in;40 cm;\"Harbour; \"\"Sheets\"\"\";=May;3\n";
        var look = await steward.Post("/api/sheets-file", new { text });
        (look.Body.GetProperty("sheets").GetInt32(), look.Body.GetProperty("stored").GetBoolean()).ShouldBe((3, false));
        var done = await steward.Post("/api/sheets-file", new { text, dryRun = false });
        List(done, "tags").Count().ShouldBe(3);
        var csv = Path.GetTempFileName();
        await File.WriteAllTextAsync(csv, await Text(steward, "/api/sheets-file"), TestContext.Current.CancellationToken);
        // Python's csv module reads what we write: RFC 4180 by another hand.
        using var python = Process.Start(
            new ProcessStartInfo(
                "python3",
                ["-c", "import csv,sys,json;print(json.dumps(list(csv.DictReader(open(sys.argv[1],encoding='utf-8',newline='')))))", csv]
            )
            {
                RedirectStandardOutput = true,
            }
        )!;
        var rows = JsonDocument
            .Parse(await python.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken))
            .RootElement.EnumerateArray()
            .ToList();
        File.Delete(csv);
        var mine = rows.Where(r => r.GetProperty("material").GetString() == "cork").ToList();
        mine.Count.ShouldBe(3);
        mine.ShouldAllBe(r =>
            r.GetProperty("supplier").GetString() == "Harbour; \"Sheets\""
            && r.GetProperty("width").GetString() == "609.6 mm"
            && r.GetProperty("batch").GetString() == "'=May"
        );
        var json = JsonDocument.Parse(await Text(steward, "/api/sheets-file?format=json")).RootElement.EnumerateArray().ToList();
        json.Count.ShouldBe(rows.Count);
        (await steward.Post("/api/sheets-file", new { text = "material,thickness,width,height\ncork,thin,1,1" }))
            .Body.GetProperty("bad")[0]
            .GetProperty("field")
            .GetString()
            .ShouldBe("thickness");
        (await steward.Post("/api/sheets-file", new { text = "" })).Fields.ShouldBe(["file"]);
    }
}
