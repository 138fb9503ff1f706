using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Text;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

public class DrawingsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const string Open = "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'>";

    /// <summary>What a person may send by mistake or by malice: a clear problem within five seconds, never a 5xx.</summary>
    public static TheoryData<string> Hostile => [.. Files.Keys];

    private static readonly Dictionary<string, Func<byte[]>> Files = new()
    {
        ["empty"] = () => [],
        ["not XML"] = () => Encoding.UTF8.GetBytes("hello"),
        ["a PNG"] = () => [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 0, 0, 0, 13],
        ["a picture that claims ten thousand million pixels"] = () =>
            [
                0x89,
                0x50,
                0x4E,
                0x47,
                0x0D,
                0x0A,
                0x1A,
                0x0A,
                0,
                0,
                0,
                13,
                .. "IHDR"u8,
                0,
                1,
                0x86,
                0xA0,
                0,
                1,
                0x86,
                0xA0,
                8,
                0,
                0,
                0,
                0,
                1,
                2,
                3,
                4,
            ],
        ["a JPEG cut short"] = () => [0xFF, 0xD8, 0xFF, 0xE0, 0, 16, .. "JFIF"u8],
        ["truncated"] = () => Encoding.UTF8.GetBytes(Open + "<path d='M0 0h10' stroke='#9c2f4f'/><g>"),
        ["external entity"] = () =>
            Encoding.UTF8.GetBytes("<!DOCTYPE svg [<!ENTITY x SYSTEM 'file:///etc/passwd'>]>" + Open + "<text>&x;</text></svg>"),
        ["entity expansion"] = () =>
            Encoding.UTF8.GetBytes(
                "<!DOCTYPE svg [<!ENTITY a '"
                    + new string('a', 1000)
                    + "'>"
                    + string.Concat(
                        Enumerable
                            .Range(1, 8)
                            .Select(i =>
                                $"<!ENTITY {(char)('a' + i)} '{string.Concat(Enumerable.Repeat($"&{(char)('a' + i - 1)};", 10))}'>"
                            )
                    )
                    + "]>"
                    + Open
                    + "<text>&i;</text></svg>"
            ),
        ["recursive use"] = () => Encoding.UTF8.GetBytes(Open + "<g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g></svg>"),
        ["doubling use"] = () =>
            Encoding.UTF8.GetBytes(
                Open
                    + "<defs><path id='l0' d='M0 0h1' stroke='#9c2f4f'/>"
                    + string.Concat(Enumerable.Range(1, 30).Select(i => $"<g id='l{i}'><use href='#l{i - 1}'/><use href='#l{i - 1}'/></g>"))
                    + "</defs><use href='#l30'/></svg>"
            ),
        ["nested deep"] = () => Encoding.UTF8.GetBytes(Open + string.Concat(Enumerable.Repeat("<g>", 200_000))),
        ["beyond every number"] = () => Encoding.UTF8.GetBytes(Open + "<path stroke='#9c2f4f' d='M0 0H1e308V-1e308'/></svg>"),
        ["half UTF-16"] = () => [0xFF, 0xFE, (byte)'<', 0, (byte)'s'],
        ["a PDF"] = () => "%PDF-1.7 and so on"u8.ToArray(),
        ["DXF cut short"] = () => Encoding.UTF8.GetBytes(Dxf("LINE\n10\n0\n20\n0\n11\n3\n21\n4")[..^6]),
        ["DXF block in itself"] = () =>
            Encoding.UTF8.GetBytes(
                "0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nA\n10\n0\n20\n0\n0\nINSERT\n2\nA\n10\n1\n20\n0\n0\nENDBLK\n0\nENDSEC\n"
                    + Dxf("INSERT\n2\nA\n10\n0\n20\n0")
            ),
        ["DXF polyline without end"] = () =>
            Encoding.UTF8.GetBytes(
                "0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n" + string.Concat(Enumerable.Repeat("10\n1\n20\n1\n", 3_000_000))
            ),
        ["gzip bomb"] = () => Zip(new byte[300 * 1024 * 1024]),
        ["gzip cut short"] = () => Zip(Encoding.UTF8.GetBytes(Open + "</svg>"))[..20],
        ["a million selectors"] = () =>
            Encoding.UTF8.GetBytes(
                Open + "<style>" + string.Concat(Enumerable.Range(0, 30_000).Select(i => $".c{i} .d{i}{{stroke:red}}")) + "</style></svg>"
            ),
    };

    /// <summary>A DXF file of one entity.</summary>
    private static string Dxf(string entity) => $"0\nSECTION\n2\nENTITIES\n0\n{entity}\n0\nENDSEC\n0\nEOF\n";

    private static byte[] Zip(byte[] bytes)
    {
        using var packed = new MemoryStream();
        using (var zip = new GZipStream(packed, CompressionLevel.Fastest))
            zip.Write(bytes);
        return packed.ToArray();
    }

    [Fact]
    public async Task PutIn_Dxf_IsReadInItsUnit_AndDrawnUpwards_WhateverItIsCalled()
    {
        using var member = await house.As("member");
        var text = "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n1\n0\nENDSEC\n" + Dxf("LINE\n62\n1\n10\n0\n20\n1\n11\n3\n21\n5");
        foreach (
            var (bytes, name) in new[]
            {
                (Encoding.UTF8.GetBytes(text), "bracket.dxf"),
                (Zip(Encoding.UTF8.GetBytes(text)), "bracket.dxf.gz"),
                (Encoding.UTF8.GetBytes(text), "bracket.svg"),
            }
        )
        {
            var id = (await member.PutIn(bytes, name)).Id;
            var report = (await member.Get($"/api/drawings/{id}/check")).Body.GetProperty("report");
            var stroke = report.GetProperty("strokes").EnumerateArray().Single();
            (stroke.GetProperty("colour").GetString(), stroke.GetProperty("operation").GetString()).ShouldBe(("#ff0000", "unknown"), name);
            stroke.GetProperty("lengthMm").GetDouble().ShouldBe(127, 1e-3);
            report.GetProperty("extentMm").GetProperty("minY").GetDouble().ShouldBe(25.4, 1e-3);
            var lines = (await member.Get($"/api/drawings/{id}/lines")).Body;
            lines.GetProperty("upwards").GetBoolean().ShouldBeTrue();
            lines.GetProperty("lines")[0].GetProperty("path").GetString().ShouldBe("M0 25.4L76.2 127");
        }
    }

    [Theory]
    [MemberData(nameof(Hostile))]
    public async Task PutIn_HostileFile_IsAClearProblemSoon(string what)
    {
        using var member = await house.As("member");
        // Making the file is no work of the server.
        var file = Files[what]();
        var (answer, seconds) = await Soonest(() => member.PutIn(file));
        seconds.ShouldBeLessThan(5);
        answer.Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        answer.Fields.ShouldBe(["file"]);
        answer.Detail.ShouldEndWith(".");
        answer.Detail.ShouldNotContain("root:");
    }

    /// <summary>The quickest of three tries: what else the machine does meanwhile slows one, and hardly all.</summary>
    private static async Task<(T Answer, double Seconds)> Soonest<T>(Func<Task<T>> act)
    {
        var best = double.MaxValue;
        for (var i = 0; ; i++)
        {
            var clock = Stopwatch.StartNew();
            var answer = await act();
            best = Math.Min(best, clock.Elapsed.TotalSeconds);
            if (best < 5 || i == 2)
                return (answer, best);
        }
    }

    /// <summary>
    /// NaN in path data counts up to its error and is said; a huge file of nested overlapping lines is read within patience.
    /// </summary>
    [Fact]
    public async Task PutIn_BadNumbersOrEveryLineOverEveryOther_IsReadWithinPatience()
    {
        using var member = await house.As("member");
        var nan = await member.PutIn(Open + "<path stroke='#9c2f4f' d='M0 0h10 v NaN h5'/></svg>");
        nan.Status.ShouldBe(HttpStatusCode.Created);
        (await member.Get($"/api/drawings/{nan.Id}/check")).Body.ToString().ShouldContain("path.broken");
        var clock = Stopwatch.StartNew();
        var stacked = string.Concat(Enumerable.Range(1, 60_000).Select(i => FormattableString.Invariant($"M0 0h{i * 0.001}")));
        (await member.PutIn(Open + $"<path stroke='#9c2f4f' d='{stacked}'/></svg>")).Status.ShouldBe(HttpStatusCode.Created);
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(5);
    }

    [Fact]
    public async Task PutIn_TwoHundredMegabytes_IsTooLarge()
    {
        using var member = await house.As("member");
        var clock = Stopwatch.StartNew();
        var answer = await member.PutIn(new byte[200 * 1024 * 1024]);
        answer.Status.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        answer.Code.ShouldBe("file.tooLarge");
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(5);
    }

    [Fact]
    public async Task Check_ReportsLengthsFindingsAndTime_AndIsTheOwnersAlone()
    {
        using var member = await house.As("member");
        var id = (
            await member.PutIn(
                Open
                    + "<path d='M10 10h50v50h-50zM10 10h50' fill='none' stroke='#9c2f4f'/><path d='M20 20h30' "
                    + "stroke='#2e6e8e'/><text x='5' y='9'>Hi</text></svg>",
                "../../panel\u0007.svg"
            )
        ).Id;
        var check = (await member.Get($"/api/drawings/{id}/check?machineId=heron&materialId=mat-board&thickness=1/16 in")).Body;
        check.GetProperty("drawing").GetProperty("name").GetString().ShouldBe("panel.svg");
        check.GetProperty("thicknessMm").GetDecimal().ShouldBe(1.5875m);
        var report = check.GetProperty("report");
        report
            .GetProperty("strokes")
            .EnumerateArray()
            .Single(s => s.GetProperty("operation").GetString() == "cut")
            .GetProperty("lengthMm")
            .GetDouble()
            .ShouldBe(250, 1e-6);
        report
            .GetProperty("findings")
            .EnumerateArray()
            .Select(f => f.GetProperty("code").GetString())
            .ShouldBe(["line.duplicate", "text.live"], "the doubled line ends on the square, and so is not open");
        report.GetProperty("time").GetProperty("runSeconds").GetDouble().ShouldBeGreaterThan(1);
        using var newcomer = await house.As("newcomer");
        (await newcomer.Get($"/api/drawings/{id}/check")).Status.ShouldBe(HttpStatusCode.NotFound);
        (
            await newcomer.Post("/api/gate/ask", Questions.Open(WebHouse.At(1, 14)).With("memberId", "m-5").With("drawingId", id))
        ).Codes.ShouldContain("drawing.unknown");
        (await member.Get($"/api/drawings/{id}/check?thickness=thin")).Fields.ShouldBe(["thickness"]);
        (await member.Get($"/api/drawings/{id}/check?machineId=osprey")).Fields.ShouldBe(["machineId"]);
    }
}
