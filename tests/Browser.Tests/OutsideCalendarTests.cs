using System.Diagnostics;
using System.Globalization;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

public class OutsideCalendarTests
{
    /// <summary>
    /// When certificates end, against the npm package @js-temporal/polyfill (another calendar and another copy of the tz database, in
    /// Node): month ends, leap days,
    /// clock changes, also where they fall on midnight, half hours, and both sides of the date line.
    /// </summary>
    [Fact]
    public async Task EndsOfCertificates_AgreeWithAnIndependentCalendar()
    {
        var random = new Random(1582);
        string[] zones =
        [
            "Europe/London",
            "America/New_York",
            "Asia/Beirut",
            "America/Santiago",
            "Africa/Cairo",
            "Australia/Lord_Howe",
            "Asia/Kathmandu",
            "Pacific/Auckland",
        ];
        Instant[] edges =
        [
            .. new[]
            {
                "2024-02-29T12:00:00Z",
                "2026-03-28T23:59:59Z",
                "2026-10-24T23:30:00Z",
                "2027-01-31T12:00:00Z",
                "2028-02-29T23:59:59Z",
                "2026-08-31T11:00:00Z",
                "2026-12-31T23:59:59Z",
            }.Select(t => InstantPattern.ExtendedIso.Parse(t).Value),
        ];
        var cases = zones
            .SelectMany(z => edges.Select(e => (At: e, Months: 12, Zone: z)).Concat(edges.Select(e => (At: e, Months: 1, Zone: z))))
            .Concat(
                Enumerable
                    .Range(0, 1500)
                    .Select(_ =>
                        (
                            At: Instant.FromUnixTimeSeconds(1_700_000_000 + random.NextInt64(160_000_000)),
                            Months: random.Next(1, 60),
                            Zone: zones[random.Next(zones.Length)]
                        )
                    )
            )
            .ToList();
        var start = new ProcessStartInfo("node", ["calendar.mjs"])
        {
            WorkingDirectory = Repo.Path("tests", "outside"),
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
        };
        using var node = Process.Start(start)!;
        var reading = node.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        foreach (var (at, months, zone) in cases)
            node.StandardInput.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"{InstantPattern.ExtendedIso.Format(at)} {months} {zone}")
            );
        node.StandardInput.Close();
        var theirs = (await reading).TrimEnd('\n').Split('\n').Select(l => InstantPattern.ExtendedIso.Parse(l).Value).ToList();
        await node.WaitForExitAsync(TestContext.Current.CancellationToken);
        var ours = cases
            .Select(c => SignOffs.EndOf(c.At, Packs.Start(Packs.StaffedWorkshop, "House", c.Zone) with { CertificateMonths = c.Months }))
            .ToList();
        theirs.Count.ShouldBe(cases.Count);
        cases.Zip(ours, theirs).Where(c => c.Second != c.Third).Select(c => $"{c.First}: {c.Second} {c.Third}").ShouldBeEmpty();
    }
}
