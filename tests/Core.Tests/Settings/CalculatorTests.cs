using System.Globalization;
using Shouldly;
using VelvetGate.Core.Settings.Calculators;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>Calculators against worked cases, published tables and closed forms.</summary>
public class CalculatorTests
{
    private static Dictionary<string, string?> Typed(string text) =>
        text.Split("; ", StringSplitOptions.RemoveEmptyEntries)
            .Select(p => p.Split('=', 2))
            .ToDictionary(p => p[0], string? (p) => p[1], StringComparer.Ordinal);

    private static CalcAnswer Work(string name, string typed, LengthUnit unit = LengthUnit.Mm)
    {
        var calculator = CalculatorList.Find(name)!;
        var (inputs, wrong) = CalcInputs.Read(calculator, Typed(typed), unit);
        wrong.ShouldBeEmpty();
        var worked = calculator.Answer(inputs!);
        worked.Refusal?.Text.ShouldBeNull();
        return worked.Value;
    }

    private static double Value(CalcAnswer answer, string name) =>
        Convert.ToDouble(answer.Values.Single(v => v.Name == name).Value, CultureInfo.InvariantCulture);

    /// <summary>Worked by hand from the formulas that each calculator names.</summary>
    [Theory]
    [InlineData("rotary", "height=8.5 in; diameter=2.8 in", "pageWidthMm", 215.90, 0.001)]
    [InlineData("rotary", "height=8.5 in; diameter=2.8 in", "pageHeightMm", 223.430, 0.001)]
    [InlineData("rotary", "height=100; diameter=73; diameter2=66", "taper", 0.09589, 0.00001)]
    [InlineData("rotary", "height=100; diameter=66; diameter2=73", "pageHeightMm", 229.336, 0.001)]
    [InlineData("kerf", "parts=10; nominal=20mm; measured=197.8mm", "kerfMm", 0.22, 0)]
    [InlineData("kerf", "parts=10; nominal=20mm; measured=197.8mm", "offsetPerEdgeMm", 0.11, 0)]
    [InlineData("slot", "sheet=2.94mm; kerf=0.22mm", "drawnMm", 2.72, 0)]
    [InlineData("sag", "radius=250mm; width=80mm", "sagMm", 3.2207, 0.0001)]
    [InlineData("sag", "radius=250mm; width=80mm", "belowTopMm", 1.6104, 0.0001)]
    [InlineData("sag", "radius=10; width=20", "sagMm", 10, 0)]
    [InlineData("spot", "focal=50.8mm; beam=6mm; m2=1.2; nm=10600", "spotMm", 0.13713, 0.00001)]
    [InlineData("spot", "focal=50.8mm; beam=6mm; m2=1.2; nm=10600", "rayleighMm", 1.1610, 0.0002)]
    [InlineData("energy", "watts=15; speed=15 in/min", "jPerMm", 2.3622, 0.0001)]
    [InlineData("energy", "watts=15; speed=15 in/min; passes=3", "jPerMm", 7.0866, 0.0001)]
    [InlineData("energy", "watts=40; speed=20; other-watts=60", "otherSpeedMmPerS", 30, 0)]
    [InlineData("energy", "watts=40; speed=20; sheet=3; other-sheet=6", "otherSpeedMmPerS", 10, 0)]
    public void WorkedCases(string name, string typed, string value, double expected, double within) =>
        Value(Work(name, typed), value).ShouldBe(expected, within + 1e-9);

    /// <summary>CDC 2003, Guidelines for Environmental Infection Control, table B.1: minutes for 99 % and 99.9 %, K = 1.</summary>
    [Theory]
    [InlineData(6, 46, 69)]
    [InlineData(12, 23, 35)]
    [InlineData(20, 14, 21)]
    [InlineData(50, 6, 8)]
    public void AirWait_IsThePrintedTable(int changesPerHour, int minutes99, int minutes999)
    {
        double Minutes(string residual) => Value(Work("air", $"volume=1; flow={changesPerHour}; k=1; residual={residual}"), "seconds") / 60;
        Math.Round(Minutes("0.01")).ShouldBe(minutes99);
        Math.Round(Minutes("0.001")).ShouldBe(minutes999);
    }

    [Fact]
    public void AirWait_TakesTheLowerAirflow_AndNeverLessThanTheHouse()
    {
        Value(Work("air", "volume=0.45; flow=520"), "seconds").ShouldBe(43.04, 0.01);
        Value(Work("air", "volume=0.45; flow=520"), "wait").ShouldBe(44);
        Value(Work("air", "volume=0.45; flow=700; commissioned=520"), "seconds").ShouldBe(43.04, 0.01);
        Value(Work("air", "volume=0.45; commissioned=800"), "seconds").ShouldBe(43.04, 0.01, "65 % of 800 where nobody has read it");
        Value(Work("air", "volume=0.05; flow=520"), "wait").ShouldBe(30);
        var calculator = CalculatorList.Find("air")!;
        calculator.Answer(CalcInputs.Read(calculator, Typed("volume=0.45; flow=0")).Inputs!).Refusal!.Text.ShouldContain("stays shut");
    }

    /// <summary>Where the gate would be shut for the airflow, no countdown says otherwise.</summary>
    [Fact]
    public void AirWait_BelowTheShutLimit_SaysSo()
    {
        Work("air", "volume=0.45; flow=420; commissioned=650").Standing.ShouldBe(Standing.Shut);
        Work("air", "volume=0.45; flow=430; commissioned=650").Standing.ShouldBeNull();
    }

    /// <summary>The known fire: settings for a quarter inch on an eighth.</summary>
    [Theory]
    [InlineData("6.35 mm", "3.175 mm", "2.00", "shut", "settings.double")]
    [InlineData("6.35 mm", "3.96 mm", "1.603", "ask", "settings.hot")]
    [InlineData("6.35 mm", "3.97 mm", "1.599", "caution", "settings.warm")]
    [InlineData("6.35 mm", "5.08 mm", "1.25", "caution", "settings.warm")]
    [InlineData("6.35 mm", "5.0801 mm", "1.249", "clear", null)]
    [InlineData("6.35 mm", "8.0 mm", "0.793", "caution", "settings.weak")]
    [InlineData("2.4 mm", "3 mm", "0.80", "caution", "settings.weak")]
    [InlineData("1/4 in", "1/8 in", "2.00", "shut", "settings.double")]
    public void Mismatch_NeverRoundsIntoAMilderWord(string given, string sheet, string shown, string standing, string? code)
    {
        var answer = Work("mismatch", $"settings-for={given}; sheet={sheet}");
        answer.Values[0].Shown.ShouldBe(shown);
        answer.Values[1].Value.ShouldBe(standing);
        answer.Values[2].Value.ShouldBe(code);
    }

    /// <summary>ANSI Z136.1 for 10 s: 5.1 mW/cm2 at 1064 nm, C_A 1.64 at 808 nm, 100 mW/cm2 at 10.6 µm. From memory.</summary>
    [Theory]
    [InlineData(450, 10, 5.415)]
    [InlineData(808, 10, 4.190)]
    [InlineData(1064, 10, 3.707)]
    [InlineData(10_600, 10, 3.017)]
    public void Eyewear_AtTheUsualWavelengths(int nm, double watts, double od)
    {
        Value(Work("eyewear", $"watts={watts}; nm={nm}"), "od").ShouldBe(od, 0.006);
    }

    /// <summary>
    /// A marking laser at 1064 nm, 1 mJ in 100 ns, 20 kHz: one pulse is 2.6 mJ/cm2 over the pupil; 5 µJ/cm2 with the factor of 200,000
    /// pulses, 0.0473, is 0.236 µJ/cm2: OD 4.04; the average of 20 W is OD 4.01.
    /// </summary>
    [Fact]
    public void Eyewear_OfPulses_TakesTheStricter()
    {
        var pulsed = Work("eyewear", "watts=20; nm=1064; pulse-energy=0.001; pulse-seconds=1e-7; hz=20000");
        Value(pulsed, "od").ShouldBe(4.041, 0.002);
        pulsed.Values[1].Shown.ShouldStartWith("pulses");
        Value(Work("eyewear", "watts=20; nm=1064"), "od").ShouldBe(4.008, 0.002);
    }

    /// <summary>k for a twisted bar: Timoshenko and Goodier, Theory of Elasticity, table of rectangular bars. From memory.</summary>
    [Theory]
    [InlineData(1.0, 0.675)]
    [InlineData(1.2, 0.759)]
    [InlineData(1.5, 0.848)]
    [InlineData(2.0, 0.930)]
    [InlineData(3.0, 0.985)]
    [InlineData(5.0, 0.999)]
    public void Hinge_TorsionOfABar_IsThePrintedTable(double ratio, double printed) => Hinge.Strip(ratio).ShouldBe(printed, 0.0006);

    [Fact]
    public void Hinge_TightBend_JamsAndCracks_AWideOneDoesNot()
    {
        Work("hinge", "sheet=3; web=1.5; gap=0.25; slot=25; radius=60; degrees=90").Standing.ShouldBe(Standing.Clear);
        var tight = Work("hinge", "sheet=3; web=3; gap=0.1; slot=8; radius=10; degrees=180");
        tight.Standing.ShouldBe(Standing.Caution);
        string.Join(" ", tight.Says!).ShouldContain("jam");
        string.Join(" ", tight.Says!).ShouldContain("crack");
    }

    [Fact]
    public void Rotary_RefusesHandlesAndBalls_AndAsksAboveTwoPerCentOfTaper()
    {
        Work("rotary", "height=100; diameter=70; handle=yes").Standing.ShouldBe(Standing.Shut);
        Work("rotary", "height=100; diameter=70; ball=yes").Standing.ShouldBe(Standing.Shut);
        Work("rotary", "height=100; diameter=100; diameter2=98").Standing.ShouldBe(Standing.Clear);
        Work("rotary", "height=100; diameter=100; diameter2=97.9").Standing.ShouldBe(Standing.Ask);
    }

    [Fact]
    public void BadInput_NamesEveryFieldAtOnce()
    {
        var calculator = CalculatorList.Find("kerf")!;
        var (inputs, wrong) = CalcInputs.Read(calculator, Typed("parts=2.5; measured=-3 mm; colour=red"));
        inputs.ShouldBeNull();
        wrong.Select(w => w.Field).ShouldBe(["colour", "parts", "nominal", "measured"], ignoreOrder: true);
        wrong.ShouldAllBe(w => w.Text.EndsWith('.'));
        var whole = CalcInputs.Read(calculator, Typed("parts=10; nominal=20; measured=200.1")).Inputs!;
        calculator.Answer(whole).Refusal!.Field.ShouldBe("measured");
    }

    /// <summary>Every calculator takes its own examples, shows its working, and draws inside its picture.</summary>
    [Fact]
    public void Examples_AreTaken_WithWorkingAndAPicture()
    {
        foreach (var calculator in CalculatorList.All)
        {
            var typed = calculator
                .Inputs.Where(i => i.Kind != InputKind.Tick && !(calculator.Name == "eyewear" && !i.Needed))
                .ToDictionary(i => i.Name, string? (i) => i.Example);
            var (inputs, wrong) = CalcInputs.Read(calculator, typed, LengthUnit.In);
            wrong.ShouldBeEmpty(calculator.Name);
            var answer = calculator.Answer(inputs!).Value;
            answer.Working.ShouldNotBeEmpty(calculator.Name);
            answer.Picture.Lines.ShouldNotBeEmpty(calculator.Name);
            foreach (var line in answer.Picture.Lines)
            foreach (var number in line.Path.Split('M', 'L', ' ').Where(t => t.Length > 0))
                double.Parse(number, CultureInfo.InvariantCulture)
                    .ShouldBeInRange(-5, CalcPicture.Width + 5, $"{calculator.Name}: {line.Path}");
        }
    }

    /// <summary>Whatever is typed into every field: an answer that is a number, or a sentence, and never a fault.</summary>
    [Fact]
    public void Extremes_AreAnsweredOrRefusedInWords()
    {
        string[] lengths = ["0.000000001", "0.001", "3", "99999"];
        string[] speeds = ["0.000000001", "20", "19999"];
        string[] numbers = ["0", "1e-27", "0.01", "1", "450", "10600", "999999"];
        var random = new Random(3);
        var (answered, refused) = (0, 0);
        foreach (var calculator in CalculatorList.All)
            for (var n = 0; n < 400; n++)
            {
                var typed = calculator
                    .Inputs.Where(i => i.Needed || random.Next(2) == 0)
                    .ToDictionary(
                        i => i.Name,
                        string? (i) =>
                            i.Kind switch
                            {
                                InputKind.Length => lengths[random.Next(lengths.Length)],
                                InputKind.Speed => speeds[random.Next(speeds.Length)],
                                InputKind.Tick => "yes",
                                _ => numbers[random.Next(numbers.Length)],
                            }
                    );
                var (inputs, wrong) = CalcInputs.Read(calculator, typed);
                var answer = inputs is null ? wrong[0] : calculator.Answer(inputs);
                if (answer.Refusal is { } refusal)
                {
                    refusal.Text.ShouldEndWith(".");
                    refused++;
                    continue;
                }
                answered++;
                Should.NotThrow(() => GateJson.Write(answer.Value.Values), calculator.Name);
            }
        (answered > 500 && refused > 500).ShouldBeTrue($"{answered} answered, {refused} refused");
    }

    [Theory]
    [InlineData("20", 20)]
    [InlineData("20 mm/s", 20)]
    [InlineData("1200 mm/min", 20)]
    [InlineData("15 in/min", 6.35)]
    [InlineData("2,5 m/min", 41.6667)]
    [InlineData("1 in per sec", 25.4)]
    public void Speeds_AreReadInAnyUnit(string text, double mmS) => ((double)Speed.Parse(text).Value).ShouldBe(mmS, 0.0001);

    [Theory]
    [InlineData("0 mm/s")]
    [InlineData("-5 mm/s")]
    [InlineData("20 mm")]
    [InlineData("fast")]
    [InlineData("90 m/s")]
    [InlineData("")]
    public void Speeds_ThatAreNone_AreRefusedInWords(string text) => Speed.Parse(text).Refusal!.Text.ShouldEndWith(".");
}
