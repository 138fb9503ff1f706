using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Tests.Drawings.Dxf;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>
/// Mutated drawings from a fixed seed: each is read or refused in words, quickly and in bounded memory. Time-boxed; VELVETGATE_FUZZ_SECONDS
/// runs longer by hand.
/// </summary>
public class DrawingFuzzTests
{
    private const int Wanted = 60_000;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    private static readonly string[] Seeds =
    [
        """<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50"><style>.a{stroke:#f00;fill:none}</style><g transform="translate(3,4) rotate(12)"><path class="a" d="M0 0L10 10H30V4C5 6 7 8 9 10S3 4 5 6Q1 2 3 4T9 9A5 6 10 01 20 20Z"/></g></svg>""",
        """<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"><defs><symbol id="s" viewBox="0 0 4 4"><circle r="2"/></symbol><rect id="r" width="3" height="4" rx="1"/></defs><use xlink:href="#s" x="3" width="9" height="9" stroke="red"/><use href="#r" transform="matrix(1 0 0 1 2 3)" style="stroke:blue;fill:none"/><polygon points="0,0 4,5 9,1" stroke="#00f"/></svg>""",
        """<!DOCTYPE svg [<!ENTITY a "12">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10" width="1in" height="1in"><ellipse rx="&a;" ry="3" stroke="rgb(1%,2%,3%)"/><text x="1" y="2">Hi</text><image width="3" height="3" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAlgAAAEsCAAAAAA="/><line x1="1" x2="20%" y2="3" stroke="currentColor" stroke-width="0"/><polyline points="1 2 3 4 5" stroke="hsl(120,50%,50%)"/></svg>""",
        DxfText.File(
            DxfText.Line(3, 4, "8 CUT|62 1|420 255")
                + "|0 ARC|10 1|20 2|40 10|50 350|51 80|210 0|220 0|230 -1|0 LWPOLYLINE|90 2|70 1|10 0|20 0|42 1|10 10|20 0|0 "
                + "INSERT|2 B|10 1|20 2|41 2|42 2|50 30|70 2|71 3|44 4|45 5",
            "9 $INSUNITS|70 1",
            DxfText.Layer("CUT", 1) + "|" + DxfText.Layer("off", -3),
            DxfText.Block("B", DxfText.Line(1, 2, "62 0") + "|0 CIRCLE|10 0|20 0|40 3")
        ),
        DxfText.File(
            "0 SPLINE|70 12|71 2|72 6|73 3|40 0|40 0|40 0|40 1|40 1|40 1|41 1|41 0.7|41 1|10 10|20 0|10 10|20 10|10 0|20 10|0 "
                + "ELLIPSE|10 0|20 0|11 10|21 0|40 0.5|41 0|42 6|0 POLYLINE|66 1|70 1|0 VERTEX|10 0|20 0|42 1|0 VERTEX|10 3|20 0|0 "
                + "SEQEND|0 SPLINE|71 3|11 0|21 0|11 3|21 4|11 5|21 1|0 TEXT|10 1|20 1|1 x|0 SOLID|10 0|20 0|11 3|21 0|12 0|22 3"
        ),
    ];

    private static readonly string[] Spice =
    [
        "\"",
        "<",
        ">",
        "&",
        "&#x0;",
        "1e999",
        "-1e-999",
        "NaN",
        "99999999999999999999",
        "<g>",
        "</g>",
        "d=\"M",
        "transform=\"scale(0)\"",
        "viewBox=\"0 0 0 0\"",
        "%",
        "Z",
        "A0 0 0 11",
        "]]>",
        "<![CDATA[",
        "<!--",
        "\0",
        "\uD800",
        "😀",
        "use href=\"#s\"",
        "url(#x)",
        "!important",
        "}",
        "{",
        ",",
        "em",
        "  ",
        "\n  0\n",
        "\n 10\n",
        "\n 70\n99999\n",
        "\n 40\n-1\n",
        "ENDSEC",
        "EOF",
        "VERTEX",
        "\n  2\nB\n",
    ];

    [Fact]
    public void Mutated_DrawingsAreReadOrRefusedInWords_QuicklyAndInBoundedMemory()
    {
        var seconds = double.TryParse(Environment.GetEnvironmentVariable("VELVETGATE_FUZZ_SECONDS"), out var given) ? given : 45;
        var clock = Stopwatch.StartNew();
        int done = 0,
            read = 0,
            refused = 0;
        var slowest = TimeSpan.Zero;
        var slow = new ConcurrentQueue<int>();
        Parallel.For(0, given > 0 ? int.MaxValue : Wanted, new ParallelOptions { MaxDegreeOfParallelism = 2 }, (i, loop) =>
        {
            if (clock.Elapsed.TotalSeconds > seconds)
            {
                loop.Stop();
                return;
            }
            var random = new Random(i);
            var bytes = Mutate(Seeds[i % Seeds.Length], random);
            var started = Stopwatch.GetTimestamp();
            try
            {
                Try(bytes);
                Interlocked.Increment(ref read);
            }
            catch (UnreadableDrawingException e)
            {
                if (!e.Message.EndsWith('.'))
                    throw new InvalidOperationException($"Seed {i} was refused without a sentence: {e.Message}");
                Interlocked.Increment(ref refused);
            }
            catch (Exception e)
            {
                throw new InvalidOperationException($"Seed {i}: {e.GetType().Name} on {Encoding.UTF8.GetString(bytes)}", e);
            }
            var took = Stopwatch.GetElapsedTime(started);
            if (took > Patience)
                slow.Enqueue(i);
            lock (Seeds)
            {
                if (took > slowest)
                    slowest = took;
            }
            Interlocked.Increment(ref done);
        });
        // Others may have had the machine: what is slow is slow again, alone.
        slow.Where(i => Enumerable.Range(0, 3).All(_ => TimeOf(i) > Patience)).ShouldBeEmpty("these seeds took too long, every time");
        done.ShouldBeGreaterThan(5000, "else hardly anything was tried");
        read.ShouldBeGreaterThan(done / 20);
        refused.ShouldBeGreaterThan(done / 20);
        (GC.GetTotalMemory(forceFullCollection: true) / 1_000_000).ShouldBeLessThan(500);
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{done} drawings, {read} read, {refused} refused, slowest {slowest.TotalMilliseconds:0} ms"
        );
    }

    private static void Try(byte[] bytes)
    {
        var summary = DrawingReading.Summarise("x.svg", DrawingFile.Read(new MemoryStream(bytes)));
        DrawingReport.Of(summary, TestColours.Map, GateCase.Heron, 1.2m, 3);
    }

    private static TimeSpan TimeOf(int i)
    {
        var bytes = Mutate(Seeds[i % Seeds.Length], new Random(i));
        var started = Stopwatch.GetTimestamp();
        try
        {
            Try(bytes);
        }
        catch (UnreadableDrawingException) { }
        return Stopwatch.GetElapsedTime(started);
    }

    private static byte[] Mutate(string seed, Random random)
    {
        var text = new StringBuilder(seed);
        for (var n = random.Next(1, 5); n > 0 && text.Length > 10; n--)
        {
            var at = random.Next(text.Length);
            switch (random.Next(6))
            {
                case 0:
                    text.Remove(at, Math.Min(random.Next(1, 12), text.Length - at));
                    break;
                case 1:
                    text.Insert(at, Spice[random.Next(Spice.Length)]);
                    break;
                case 2:
                    text[at] = (char)random.Next(32, 127);
                    break;
                case 3:
                    text.Insert(at, text.ToString(at, Math.Min(random.Next(1, 80), text.Length - at)));
                    break;
                case 4:
                    text.Insert(at, random.NextDouble() * Math.Pow(10, random.Next(-20, 20)));
                    break;
                default:
                    text.Length = at;
                    break;
            }
        }
        var bytes = Encoding.UTF8.GetBytes(text.ToString());
        if (random.Next(10) == 0 && bytes.Length > 0)
            bytes[random.Next(bytes.Length)] = (byte)random.Next(256);
        return bytes;
    }
}
