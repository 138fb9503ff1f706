using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

public class OutsideJsonTests
{
    /// <summary>
    /// Canonical JSON against the npm package canonicalize (an RFC 8785 writer of others), byte for byte, on 500 made-up documents.
    /// </summary>
    [Fact]
    public void CanonicalJson_AgreesWithAnIndependentWriter()
    {
        var random = new Random(8785);
        var documents = Enumerable.Range(0, 500).Select(_ => Value(random, 4)).ToList();
        var file = Path.GetTempFileName();
        File.WriteAllText(file, "[" + string.Join(',', documents) + "]");
        var start = new ProcessStartInfo(
            "node",
            [
                "-e",
                "const c = require('canonicalize'); for (const d of JSON.parse(require('fs').readFileSync(process.argv[1], "
                    + "'utf8'))) console.log(c(d))",
                file,
            ]
        )
        {
            WorkingDirectory = Repo.Path("tests", "outside"),
            RedirectStandardOutput = true,
            StandardOutputEncoding = Encoding.UTF8,
        };
        using var node = Process.Start(start)!;
        var theirs = node.StandardOutput.ReadToEnd().TrimEnd('\n').Split('\n');
        node.WaitForExit();
        File.Delete(file);
        theirs.Length.ShouldBe(500);
        documents.Select(CanonicalJson.Normalise).ShouldBe(theirs);
    }

    private static string Value(Random random, int depth) =>
        random.Next(depth > 0 ? 7 : 5) switch
        {
            0 => "null",
            1 => random.Next(2) == 0 ? "true" : "false",
            2 => random.NextInt64(-CanonicalJson.LargestInteger, CanonicalJson.LargestInteger).ToString(CultureInfo.InvariantCulture),
            3 or 4 => Text(random),
            5 => "[" + string.Join(',', Enumerable.Range(0, random.Next(4)).Select(_ => Value(random, depth - 1))) + "]",
            _ => "{"
                + string.Join(
                    ',',
                    Enumerable
                        .Range(0, random.Next(5))
                        .Select(i =>
                            JsonSerializer.Serialize(i + JsonDocument.Parse(Text(random)).RootElement.GetString())
                            + ":"
                            + Value(random, depth - 1)
                        )
                )
                + "}",
        };

    /// <summary>Controls, quotes, accents and characters beyond the first plane.</summary>
    private static string Text(Random random)
    {
        var text = new StringBuilder();
        for (var i = random.Next(12); i > 0; i--)
        {
            var rune = random.Next(5) switch
            {
                0 => random.Next(0, 0x20),
                1 => "\"\\/\u007f\u0080\u20ac\ufb33"[random.Next(7)],
                2 => random.Next(0x1F600, 0x1F640),
                _ => random.Next(0x20, 0x3000),
            };
            text.Append(new Rune(rune));
        }
        return JsonSerializer.Serialize(text.ToString());
    }
}
