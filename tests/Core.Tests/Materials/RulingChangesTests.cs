using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using Xunit;

namespace VelvetGate.Core.Tests.Materials;

public class RulingChangesTests
{
    private static Ruling R(
        decimal min,
        decimal? max,
        RulingStatus standing,
        Evidence evidence = Evidence.Declared,
        bool filtered = false
    ) =>
        new(
            MaterialId: "mat-board",
            Kind: LaserKind.Co2,
            Operation: Operation.Cut,
            MinMm: min,
            MaxMm: max,
            Standing: standing,
            Evidence: evidence,
            Reasons: ["fire-melt"],
            Hazard: "Smoke.",
            Handling: "",
            FilteredNeedsArrangement: filtered
        );

    /// <summary>P6 reads: permitted to 6 mm.</summary>
    private static Ruling[] Ranges(string text)
    {
        var from = 0m;
        var all = new List<Ruling>();
        foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            decimal? to = word.Length > 1 ? decimal.Parse(word[1..], System.Globalization.CultureInfo.InvariantCulture) : null;
            all.Add(
                R(
                    from,
                    to,
                    word[0] switch
                    {
                        'P' => RulingStatus.Permitted,
                        'A' => RulingStatus.ByArrangement,
                        'B' => RulingStatus.Banned,
                        'N' => RulingStatus.Never,
                        _ => RulingStatus.Cannot,
                    }
                )
            );
            from = (to ?? 0) + 0.000001m;
        }
        return [.. all];
    }

    [Theory]
    [InlineData("P6", "P6", RulingDirection.Same)]
    [InlineData("P6", "A6", RulingDirection.Tightens)]
    [InlineData("P6", "P3", RulingDirection.Tightens)]
    [InlineData("P6", "P3 A6", RulingDirection.Tightens)]
    [InlineData("P6", "P8", RulingDirection.Loosens)]
    [InlineData("P6", "A3 P6 P8", RulingDirection.Loosens)]
    [InlineData("A", "P", RulingDirection.Loosens)]
    [InlineData("B", "A", RulingDirection.Loosens)]
    [InlineData("X", "P", RulingDirection.Loosens)]
    [InlineData("", "A3", RulingDirection.Loosens)]
    [InlineData("", "B", RulingDirection.Same)]
    [InlineData("B", "N", RulingDirection.Tightens)]
    [InlineData("P3 B", "P3 B10 A12", RulingDirection.Loosens)]
    public void Direction_IsReadAtEveryThickness(string before, string after, RulingDirection direction) =>
        RulingChanges.Direction(Ranges(before), Ranges(after)).ShouldBe(direction);

    /// <summary>A house rule decides whether polycarbonate is offered at all, and then by arrangement alone.</summary>
    [Theory]
    [InlineData("polycarbonate", RulingStatus.Banned, false, true)]
    [InlineData("polycarbonate", RulingStatus.ByArrangement, false, false)]
    [InlineData("polycarbonate", RulingStatus.ByArrangement, true, true)]
    [InlineData("polycarbonate", RulingStatus.Permitted, true, false)]
    [InlineData("petg", RulingStatus.Permitted, false, true)]
    public void Polycarbonate_FollowsItsHouseRule(string material, RulingStatus standing, bool offered, bool allowed)
    {
        var ruling = MaterialTable.Rulings.First(r => r.MaterialId == "polycarbonate") with { MaterialId = material, Standing = standing };
        (RulingChanges.Polycarbonate(material, [ruling], offered) is null).ShouldBe(allowed);
    }

    [Fact]
    public void Direction_CountsEvidenceAndFilters()
    {
        RulingChanges
            .Direction([R(0, null, RulingStatus.Permitted, Evidence.ClearedTag)], [R(0, null, RulingStatus.Permitted, Evidence.Declared)])
            .ShouldBe(RulingDirection.Loosens);
        RulingChanges
            .Direction([R(0, null, RulingStatus.Permitted)], [R(0, null, RulingStatus.Permitted, Evidence.ClearedTag)])
            .ShouldBe(RulingDirection.Tightens);
        RulingChanges
            .Direction([R(0, null, RulingStatus.ByArrangement, filtered: true)], [R(0, null, RulingStatus.ByArrangement)])
            .ShouldBe(RulingDirection.Loosens);
        // What is shut asks for nothing: its evidence does not matter.
        RulingChanges
            .Direction([R(0, null, RulingStatus.Banned, Evidence.ClearedTag)], [R(0, null, RulingStatus.Banned, Evidence.None)])
            .ShouldBe(RulingDirection.Same);
    }

    [Theory]
    [InlineData("N", "B", true)]
    [InlineData("N", "N3 B", true)]
    [InlineData("N", "", true)]
    [InlineData("N", "N", false)]
    [InlineData("B", "N", false)]
    public void Never_IsLoosenedByNobody(string before, string after, bool refused) =>
        (RulingChanges.Loosened(Ranges(before), Ranges(after))?.Code == "ruling.never").ShouldBe(refused);

    [Fact]
    public void Check_NamesTheFieldAtFault()
    {
        RulingChanges
            .Check([R(0, 3, RulingStatus.Permitted), R(3, 6, RulingStatus.Banned)])
            .Single()
            .ShouldSatisfyAllConditions(r => r.Code.ShouldBe("ruling.overlap"), r => r.Field.ShouldBe("ranges[1].min"));
        RulingChanges.Check([R(5, null, RulingStatus.Banned), R(0, 6, RulingStatus.Permitted)]).Single().Field.ShouldBe("ranges[0].min");
        RulingChanges.Check([R(6, 3, RulingStatus.Permitted)]).Single().Field.ShouldBe("ranges[0].max");
        RulingChanges.Check([]).Single().Code.ShouldBe("ruling.empty");
        RulingChanges.Check([R(0, 1, RulingStatus.Permitted) with { Hazard = " " }]).Single().Field.ShouldBe("hazard");
        RulingChanges.Check([R(0, 1, RulingStatus.Permitted) with { Reasons = ["bad luck"] }]).Single().Field.ShouldBe("reasons");
        RulingChanges.Check([R(0, 3, RulingStatus.Permitted), R(3.000001m, null, RulingStatus.Banned)]).ShouldBeEmpty();
    }

    [Fact]
    public void MayAgree_TakesAnotherPairOfEyes()
    {
        RulingChanges.MayAgree("m-1", "m-1", mayRule: true)!.Code.ShouldBe("ruling.self");
        RulingChanges.MayAgree("m-1", "m-2", mayRule: false)!.Code.ShouldBe("ruling.role");
        RulingChanges.MayAgree("m-1", "m-2", mayRule: true).ShouldBeNull();
    }

    [Fact]
    public void Say_WritesLimitsThatAreNeverRoundedUp()
    {
        RulingChanges.Say(Ranges("P6.35 B"), LengthUnit.In).ShouldBe("to 0.25 permitted, source declared; from 0.25 banned");
        RulingChanges.Say([], LengthUnit.Mm).ShouldBe("no ruling: shut");
    }

    [Fact]
    public void DefaultList_IsItselfWellFormed_AndKnowsEveryReason()
    {
        foreach (var cell in MaterialTable.Rulings.GroupBy(RulingCell.Of))
            RulingChanges.Check([.. cell]).ShouldBeEmpty(cell.Key.ToString());
        MaterialTable.Materials.Count.ShouldBeGreaterThanOrEqualTo(45);
    }

    [Theory]
    [InlineData("leatherette", "leather-pvc", "leather-pu")]
    [InlineData("lino", "rubber-other")]
    [InlineData("fibre board", "mdf", "hardboard")]
    [InlineData("ply", "birch-ply-laser", "ply-structural")]
    [InlineData("plexy glas", "glass")]
    [InlineData("acrilic", "acrylic-clear", "acrylic-opaque")]
    [InlineData("neopreen", "neoprene")]
    [InlineData("POLYCARBONTE", "polycarbonate")]
    [InlineData("cardbaord", "corrugated-card")]
    [InlineData("htv", "vinyl-adhesive")]
    [InlineData("Sílïcone", "silicone")]
    public void Find_KnowsNamesAndSlipsOfThePen(string typed, params string[] wanted)
    {
        var found = MaterialSearch.Find(MaterialTable.Materials, typed);
        if (typed == "plexy glas")
            found.ShouldNotContain("acrylic-clear", "a trade name is no name on this list");
        else
            foreach (var id in wanted)
                found.ShouldContain(id);
    }

    [Fact]
    public void Find_PutsTheNameItselfFirst_AndNothingForNonsense()
    {
        MaterialSearch.Find(MaterialTable.Materials, "mdf")[0].ShouldBe("mdf");
        MaterialSearch.Find(MaterialTable.Materials, "zzzz").ShouldBeEmpty();
        MaterialSearch.Find(MaterialTable.Materials, "  ").Count.ShouldBe(MaterialTable.Materials.Count);
    }
}
