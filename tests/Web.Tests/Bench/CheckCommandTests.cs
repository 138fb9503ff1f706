using System.Diagnostics;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Bench;

/// <summary><c>vg check</c> as scripts call it: the published program, without a database.</summary>
public sealed class CheckCommandTests : IDisposable
{
    private readonly string _file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.svg");

    public void Dispose() => File.Delete(_file);

    private (int Exit, string Out, string Error) Check(string svg, params string[] more)
    {
        File.WriteAllText(_file, svg);
        return Run([_file, "--machine", "heron", "--material", "birch-ply-laser", "--thickness", "3", .. more]);
    }

    private static (int Exit, string Out, string Error) Run(string[] args)
    {
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP") ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test web.");
        var start = new ProcessStartInfo("dotnet", [Path.Combine(app, "cli", "vg.dll"), "check", .. args]) { RedirectStandardOutput = true, RedirectStandardError = true };
        using var process = Process.Start(start)!;
        var error = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output, error.Result);
    }

    private static string Svg(string inner) => $"<svg xmlns='http://www.w3.org/2000/svg' width='4in' height='2in' viewBox='0 0 400 200'>{inner}</svg>";

    [Fact]
    public void Check_AClean_ExitsZeroWithTheWholeDocument()
    {
        var (exit, text, _) = Check(Svg("<path d='M0 0h100v100h-100z' fill='none' stroke='red'/><rect x='200' width='100' height='100'/>"), "--json");
        exit.ShouldBe(0);
        var json = JsonDocument.Parse(text).RootElement;
        json.EnumerateObject().Select(p => p.Name).ShouldBe(["widthMm", "heightMm", "extentMm", "strokes", "fills", "findings", "time"]);
        json.GetProperty("widthMm").GetDouble().ShouldBe(101.6, 1e-6);
        json.GetProperty("extentMm").GetProperty("maxX").GetDouble().ShouldBe(76.2, 1e-3);
        var stroke = json.GetProperty("strokes")[0];
        stroke.GetProperty("colour").GetString().ShouldBe("#ff0000");
        stroke.GetProperty("operation").GetString().ShouldBe("cut");
        stroke.GetProperty("lengthMm").GetDouble().ShouldBe(101.6, 1e-3);
        (stroke.GetProperty("paths").GetInt32(), stroke.GetProperty("openPaths").GetInt32()).ShouldBe((1, 0));
        json.GetProperty("fills")[0].GetProperty("areaMm2").GetDouble().ShouldBe(25.4 * 25.4, 0.1);
        json.GetProperty("time").GetProperty("runSeconds").GetDouble().ShouldBeGreaterThan(0);
    }

    [Fact]
    public void Check_WithAStopFinding_ExitsOneWithItsPlace()
    {
        var (exit, text, _) = Check(Svg("<path d='M0 0h100M100 0h-100' stroke='red'/>"), "--json");
        exit.ShouldBe(1);
        var finding = JsonDocument.Parse(text).RootElement.GetProperty("findings")[0];
        (finding.GetProperty("code").GetString(), finding.GetProperty("severity").GetString()).ShouldBe(("line.duplicate", "stop"));
        finding.GetProperty("lengthMm").GetDouble().ShouldBe(25.4, 1e-3);
        finding.GetProperty("at")[0][0].GetDouble().ShouldBe(12.7, 1e-3);
    }

    [Theory]
    [InlineData("not a drawing")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><path")]
    public void Check_Unreadable_ExitsTwoWithASentence(string text)
    {
        var (exit, output, error) = Check(text, "--json");
        (exit, output).ShouldBe((2, ""));
        error.Trim().ShouldEndWith(".");
    }

    [Fact]
    public void Check_Options_ChangeColoursBedAndKerf()
    {
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>")).Exit.ShouldBe(1);
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>"), "--colours", "#123456=score").Exit.ShouldBe(0);
        Check(Svg("<path d='M0 0h100' stroke='#123456'/>"), "--all-cut").Exit.ShouldBe(0);
        Check(Svg("<path d='M0 0h100' stroke='red'/>"), "--bed", "20x20", "--kerf", "0.3").Exit.ShouldBe(1);
    }

    [Fact]
    public void Check_WrongUse_ExitsTwo()
    {
        Run(["nowhere.svg"]).Exit.ShouldBe(2);
        Check(Svg(""), "--machine", "osprey").Exit.ShouldBe(2);
        Check(Svg(""), "--loud").Exit.ShouldBe(2);
    }
}
