using System.Diagnostics;
using System.Net.Http.Headers;
using System.Text;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Gate;

/// <summary>
/// Mutated bodies to every kind of endpoint, from a fixed seed: no 5xx, none slow. Time-boxed; VELVETGATE_FUZZ_SECONDS runs longer by hand.
/// </summary>
public class ApiFuzzTests(WebHouse house) : IClassFixture<WebHouse>
{
    private const int Wanted = 40_000;

    private static readonly (string Who, string Method, string Path, string Body)[] Seeds =
    [
        (
            "member",
            "POST",
            "/api/gate/ask?soonest=false",
            """{"memberId":"m-4","machineId":"heron","materialId":"birch-ply-laser","thickness":"1/8 in","operations":["cut"],"sheetTag":"S-0097","runMinutes":18,"start":"2026-11-25T14:00:00+00:00","minutes":75}"""
        ),
        (
            "steward",
            "POST",
            "/api/bookings",
            """{"id":"11111111-1111-4111-8111-111111111111","memberId":"m-9","machineId":"wren","items":[{"materialId":"mat-board","thicknessMm":1.4,"operations":["cut","score"]}],"start":"2026-11-26T11:00:00+00:00","minutes":60,"companions":2,"supervisorId":"m-3"}"""
        ),
        (
            "member",
            "POST",
            "/api/asks",
            """{"machineId":"heron","materialId":"acrylic-clear","thicknessMm":3,"operations":["cut"],"start":"2026-11-25T14:00:00+00:00","note":"please"}"""
        ),
        (
            "member",
            "POST",
            "/api/runs",
            """{"machineId":"heron","materialId":"mat-board","thickness":"1.4 mm","operations":["cut"],"start":"2026-11-24T08:00:00Z","end":"2026-11-24T08:30:00Z","outcome":"clean","settings":"x"}"""
        ),
        (
            "keeper",
            "POST",
            "/api/machines",
            """{"unit":"in","fields":{"id":"robin","name":"Robin","kind":"co2","wavelengthNm":"10600","bedWidthMm":"20 in","station":{"stopDevices":[{"name":"a","where":"b","cutsTube":true}]},"fixtures":["rotary"]}}"""
        ),
        (
            "keeper",
            "POST",
            "/api/house/rules",
            """{"reason":"x","from":"2026-12-01T00:00:00Z","fields":{"houseName":"A","zoneId":"Europe/London","hours":[{"day":"monday","opens":"10:00","closes":"21:00"}],"colours":{"#ff0000":"cut"}}}"""
        ),
        (
            "steward",
            "POST",
            "/api/calendar/preview",
            """{"kind":"class","title":"x","firstDay":"2026-12-01","starts":"10:00","ends":"12:00","rule":"FREQ=WEEKLY;BYDAY=TU,TH;COUNT=5","personId":"m-9","machineIds":["wren"],"roster":["m-55"],"atOnce":2,"except":["2026-12-08"]}"""
        ),
        ("keeper", "POST", "/api/people/import", """{"csv":"given name,family name,age band\nAnn,Low,14to15\n","dryRun":true}"""),
        ("keeper", "PUT", "/api/house/kit/co2", """{"name":"CO2","lastDay":"2027-01-01"}"""),
        ("trainer", "POST", "/api/sign-offs", """{"memberId":"m-30","authority":"heron/rotary","note":"seen"}"""),
        (
            "steward",
            "POST",
            "/api/training/paths",
            """{"authority":"heron/thick","addOn":"Thick stock","steps":[{"kind":"reading","id":"fire"},{"kind":"authority","id":"heron"},{"kind":"outside","id":"Course"},{"kind":"supervisedRuns","count":2},{"kind":"signOff","id":"practical-co2"}],"refresher":[{"kind":"signOff"}],"need":{"fixture":"rotary","thickerThan":"1/4 in","materialIds":["mdf"]},"version":0,"from":"2026-12-01","reason":"x"}"""
        ),
        (
            "steward",
            "POST",
            "/api/training/readings",
            """{"title":"Our bins","body":"Words.","check":"Where?","options":["Here","There"],"reason":"x"}"""
        ),
        ("trainer", "POST", "/api/practicals", """{"memberId":"m-31","authority":"heron"}"""),
        (
            "trainer",
            "POST",
            "/api/inductions",
            """{"machineId":"wren","trainerId":"m-3","date":"2026-12-14","time":"18:00","minutes":90,"places":3}"""
        ),
        (
            "steward",
            "POST",
            "/api/paper-sign-offs",
            """{"memberId":"m-41","authority":"swift","signedOn":"2026-10-02","evidence":"binder"}"""
        ),
        (
            "steward",
            "POST",
            "/api/people/m-41/outside",
            """{"title":"Course","issuer":"College","from":"2026-01-02","to":"2028-01-02","evidence":"seen"}"""
        ),
        (
            "steward",
            "POST",
            "/api/certificate-holds",
            """{"personId":"m-10","authority":"heron","kind":"suspended","supervisedRuns":1,"quiz":true,"reason":"x"}"""
        ),
        (
            "steward",
            "POST",
            "/api/certificate-holds/review",
            """{"signer":"m-3","from":"2026-09-01","to":"2026-11-24","reason":"x","dryRun":true}"""
        ),
        ("steward", "POST", "/api/people/m-42/conduct", """{"matter":"other","step":"note","machineId":"wren","text":"x"}"""),
        ("steward", "POST", "/api/people/m-40/pauses", """{"reason":"x","until":"2026-12-01T00:00:00Z"}"""),
    ];

    private static readonly string[] Spice =
    [
        "null",
        "-1",
        "1e400",
        "0.0000000000000000000000000001",
        "\"\"",
        "[]",
        "{}",
        "true",
        "\"\\u0000\"",
        "\"\\ud800\"",
        "\"9999-12-31T23:59:59Z\"",
        "\"0000-00-00\"",
        "99999999999999999999",
        "\"'; drop table x\"",
        ",",
        "}",
        "\"m-1\"",
        "\"heron\"",
        "[[[[[[[[",
        "\"FREQ=DAILY;COUNT=999999999\"",
        "\"FREQ=YEARLY;BYDAY=53MO;COUNT=9\"",
        "\"-9999999 ft\"",
        "\"😀\"",
    ];

    [Fact]
    public async Task Mutated_BodiesNeverComeTo5xx_AndNoneIsSlow()
    {
        var seconds = double.TryParse(Environment.GetEnvironmentVariable("VELVETGATE_FUZZ_SECONDS"), out var given) ? given : 60;
        var callers = new Dictionary<string, Api>();
        foreach (var who in Seeds.Select(s => s.Who).Distinct())
            callers[who] = await house.As(who);
        var clock = Stopwatch.StartNew();
        int done = 0,
            next = 0;
        var statuses = new System.Collections.Concurrent.ConcurrentDictionary<int, int>();
        await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(_ =>
                    Task.Run(async () =>
                    {
                        while (clock.Elapsed.TotalSeconds < seconds && (given > 0 || Volatile.Read(ref next) < Wanted))
                        {
                            var i = Interlocked.Increment(ref next);
                            var random = new Random(i);
                            var (who, method, path, seed) = Seeds[i % Seeds.Length];
                            var body = Mutate(seed, random);
                            using var request = new HttpRequestMessage(new HttpMethod(method), path)
                            {
                                Content = new ByteArrayContent(body),
                            };
                            request.Content.Headers.ContentType = MediaTypeHeaderValue.Parse("application/json");
                            var started = Stopwatch.GetTimestamp();
                            using var answer = await callers[who].Http.SendAsync(request);
                            var took = Stopwatch.GetElapsedTime(started);
                            statuses.AddOrUpdate((int)answer.StatusCode, 1, (_, n) => n + 1);
                            if ((int)answer.StatusCode >= 500)
                                throw new InvalidOperationException(
                                    $"Seed {i}: {(int)answer.StatusCode} on {path} {Encoding.UTF8.GetString(body)}: "
                                        + $"{await answer.Content.ReadAsStringAsync()} {string.Join("\n", house.Unexpected)}"
                                );
                            if (took.TotalSeconds > 5)
                                throw new InvalidOperationException($"Seed {i} took {took} on {path} {Encoding.UTF8.GetString(body)}");
                            Interlocked.Increment(ref done);
                        }
                    })
                )
        );
        done.ShouldBeGreaterThan(500, "else hardly anything was tried");
        statuses.GetValueOrDefault(400).ShouldBeGreaterThan(done / 10);
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{done} bodies: {string.Join(", ", statuses.OrderBy(s => s.Key).Select(s => $"{s.Key} x {s.Value}"))}"
        );
    }

    /// <summary>Mostly one value of the body changed for another, so that it still parses and reaches the rules; else raw bytes.</summary>
    private static byte[] Mutate(string seed, Random random)
    {
        var text = new StringBuilder(seed);
        for (var n = random.Next(1, 4); n > 0 && text.Length > 4; n--)
        {
            var at = random.Next(text.Length);
            switch (random.Next(5))
            {
                case 0 or 1:
                    var colon = text.ToString().IndexOf(':', at);
                    if (colon < 0)
                        break;
                    var end = colon + 1;
                    while (end < text.Length && text[end] is not (',' or '}' or ']'))
                        end++;
                    text.Remove(colon + 1, end - colon - 1).Insert(colon + 1, Spice[random.Next(Spice.Length)]);
                    break;
                case 2:
                    text.Remove(at, Math.Min(random.Next(1, 10), text.Length - at));
                    break;
                case 3:
                    text[at] = (char)random.Next(32, 127);
                    break;
                default:
                    text.Insert(at, Spice[random.Next(Spice.Length)]);
                    break;
            }
        }
        var bytes = Encoding.UTF8.GetBytes(text.ToString());
        if (random.Next(12) == 0)
            bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
        return bytes;
    }
}
