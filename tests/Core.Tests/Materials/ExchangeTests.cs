using Shouldly;
using VelvetGate.Core.Materials;
using Xunit;

namespace VelvetGate.Core.Tests.Materials;

public class ExchangeTests
{
    private static readonly HashSet<MaterialId> Known = [.. MaterialTable.Materials.Select(m => m.Id)];
    private const string Heading = "material,laser,operation,min mm,max mm,standing,evidence,reasons,hazard,handling,filtered asks\n";

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void WholeList_WrittenAndReadBack_IsTheSame(bool json)
    {
        var text = json ? RulingsFile.WriteJson(MaterialTable.Rulings) : RulingsFile.WriteCsv(MaterialTable.Rulings);
        var rows = RulingsFile.Read(text, Known).Value;
        rows.SelectMany(r => r.Errors).ShouldBeEmpty();
        rows.Count.ShouldBe(MaterialTable.Rulings.Count);
        foreach (var (row, ruling) in rows.Zip(MaterialTable.Rulings))
        {
            row.Ruling!.Reasons.ShouldBe(ruling.Reasons);
            (row.Ruling with { Reasons = ruling.Reasons }).ShouldBe(ruling);
        }
    }

    [Theory]
    [InlineData("cork;co2;cut;0;6,35;permitted;none;fire-melt;Smoke.;;no", ';')]
    [InlineData("cork,CO2,Cut,0,6.35,permitted,none,fire-melt,Smoke.,,no", ',')]
    public void Separators_AndDecimalCommas_AreRead(string row, char separator)
    {
        var read = RulingsFile.Read("\uFEFF" + Heading.Replace(',', separator) + row, Known).Value.Single();
        read.Errors.ShouldBeEmpty();
        read.Ruling!.MaxMm.ShouldBe(6.35m);
    }

    [Theory]
    [InlineData("unobtainium,co2,cut,0,,banned,none,,Smoke.,,no", "material")]
    [InlineData("cork,steam,cut,0,,banned,none,,Smoke.,,no", "laser")]
    [InlineData("cork,1,cut,0,,banned,none,,Smoke.,,no", "laser")]
    [InlineData("cork,co2,saw,0,,banned,none,,Smoke.,,no", "operation")]
    [InlineData("cork,co2,cut,-1,,banned,none,,Smoke.,,no", "min mm")]
    [InlineData("cork,co2,cut,1e3,,banned,none,,Smoke.,,no", "min mm")]
    [InlineData("cork,co2,cut,0,thick,banned,none,,Smoke.,,no", "max mm")]
    [InlineData("cork,co2,cut,0,,fine,none,,Smoke.,,no", "standing")]
    [InlineData("cork,co2,cut,0,,banned,none,,Smoke.,,maybe", "filtered asks")]
    public void BadCells_AreNamed(string row, string column) =>
        RulingsFile.Read(Heading + row, Known).Value.Single().Errors.ShouldContain(e => e.Field == column);

    [Fact]
    public void Overlaps_OfOneCell_AreNamedAtTheSecondRow()
    {
        var rows = RulingsFile
            .Read(
                Heading
                    + "cork,co2,cut,0,3,permitted,none,,Smoke.,,no\ncork,co2,cut,3,6,banned,none,,Smoke.,,no\ncork,co2,score,3,6,banned,none,,Smoke.,,no",
                Known
            )
            .Value;
        rows.Select(r => r.Errors.Count).ShouldBe([0, 1, 0]);
        rows[1].Line.ShouldBe(3);
        rows[1].Errors[0].Code.ShouldBe("ruling.overlap");
    }

    [Theory]
    [InlineData("", "csv.empty")]
    [InlineData("material,laser\ncork,co2", "csv.heading")]
    [InlineData("material,laser,operation,colour\n", "csv.heading")]
    [InlineData("material,laser,operation\n\"cork,co2", "csv.bad")]
    [InlineData("caf\uFFFD,laser,operation", "csv.encoding")]
    [InlineData("[{\"material\":", "json.bad")]
    [InlineData("[{\"stuff\":\"cork\"}]", "csv.heading")]
    [InlineData("{\"material\":\"cork\"}", "json.bad")]
    public void Files_ThatCannotBeRead_SaySo(string text, string code) => RulingsFile.Read(text, Known).Refusal!.Code.ShouldBe(code);

    [Fact]
    public void Formulas_AreWrittenAsText_AndReadBackAsTheyWere()
    {
        var text = CsvTable.Write(
            ["material", "hazard"],
            [
                ["cork", "=HYPERLINK(\"http://evil.example\")"],
                ["cork", "+1"],
                ["cork", "plain, with \"quotes\" and\nlines"],
            ]
        );
        text.ShouldNotContain(",=");
        text.ShouldNotContain("\"=");
        CsvTable
            .Read(text, ["material", "hazard"], 2, 10)
            .Value.Select(r => r.Cells[1])
            .ShouldBe(["=HYPERLINK(\"http://evil.example\")", "+1", "plain, with \"quotes\" and\nlines"]);
    }

    [Fact]
    public void Sheets_AreReadInAnyUnit_AndBadOnesNamed()
    {
        var rows = SheetsFile
            .Read("material,thickness,width,height,supplier,batch,count\ncork,1/8 in,60 cm,400,Harbour,May,12\ncork,,600,9 m,,,5", Known)
            .Value;
        rows[0].Errors.ShouldBeEmpty();
        (rows[0].ThicknessMm, rows[0].WidthMm, rows[0].HeightMm, rows[0].Count).ShouldBe((3.175m, 600m, 400m, 12));
        rows[1].Errors.Select(e => e.Field).ShouldBe(["thickness", "height", "batch"]);
        SheetsFile
            .Read(
                "material,thickness,width,height,supplier,batch,count\n" + string.Concat(Enumerable.Repeat("cork,3,1,1,,b,200\n", 11)),
                Known
            )
            .Refusal!.Code.ShouldBe("sheets.many");
    }
}
