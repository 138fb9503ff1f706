using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using Xunit;

namespace VelvetGate.Core.Tests.Materials;

public class MaterialTableTests
{
    [Fact]
    public void Table_RulesEveryMaterialForEveryLaserAndOperation()
    {
        MaterialTable.Materials.Count.ShouldBeGreaterThanOrEqualTo(45);
        MaterialTable.Materials.Select(m => m.Id).ShouldBeUnique();
        foreach (var material in MaterialTable.Materials)
            MaterialTable.Rulings.Count(r => r.MaterialId == material.Id).ShouldBe(9, material.Name);
        MaterialTable.Rulings.ShouldAllBe(r => r.Reasons.Count > 0 && r.Hazard.Length > 0);
    }

    [Theory]
    [InlineData("pvc-sheet")]
    [InlineData("leather-pvc")]
    [InlineData("vinyl-record")]
    [InlineData("neoprene")]
    [InlineData("cellulose-nitrate")]
    [InlineData("fibreglass")]
    [InlineData("carbon-fibre")]
    [InlineData("battery-inside")]
    [InlineData("unknown")]
    public void Table_WhatNoHouseCanLoosen_IsNeverOnEveryLaser(string id) =>
        MaterialTable.Rulings.Where(r => r.MaterialId == id).ShouldAllBe(r => r.Standing == RulingStatus.Never);

    [Theory]
    [InlineData("acrylic-clear", LaserKind.Diode, Operation.Cut, RulingStatus.Cannot)]
    [InlineData("acrylic-opaque", LaserKind.Diode, Operation.Cut, RulingStatus.Permitted)]
    [InlineData("glass", LaserKind.Co2, Operation.Cut, RulingStatus.Cannot)]
    [InlineData("glass", LaserKind.Co2, Operation.Engrave, RulingStatus.Permitted)]
    [InlineData("metal-plain", LaserKind.Fibre, Operation.Engrave, RulingStatus.Permitted)]
    [InlineData("metal-plain", LaserKind.Co2, Operation.Cut, RulingStatus.Cannot)]
    [InlineData("birch-ply-laser", LaserKind.Fibre, Operation.Engrave, RulingStatus.Cannot)]
    [InlineData("mdf", LaserKind.Co2, Operation.Cut, RulingStatus.ByArrangement)]
    [InlineData("polycarbonate", LaserKind.Co2, Operation.Cut, RulingStatus.Banned)]
    [InlineData("leather-sole", LaserKind.Co2, Operation.Cut, RulingStatus.Cannot)]
    public void Table_TellsWhatALaserCannotDoFromWhatAHouseForbids(string id, LaserKind kind, Operation operation, RulingStatus standing) =>
        MaterialTable.Rulings.Single(r => r.MaterialId == id && r.Kind == kind && r.Operation == operation).Standing.ShouldBe(standing);

    [Fact]
    public void Table_MaterialWithADangerousTwin_NeedsAClearedTagUnlessAFreshEdgeTells()
    {
        foreach (var group in MaterialTable.LookAlikeGroups)
        {
            foreach (var id in group.MaterialIds)
            {
                MaterialTable.Find(id).ShouldNotBeNull(id.Value);
                var own = MaterialTable.Rulings.Where(r => r.MaterialId == id && r.Standing <= RulingStatus.ByArrangement).ToList();
                var dangerous = group.MaterialIds.Any(other =>
                    other != id
                    && MaterialTable.Rulings.Any(r => r.MaterialId == other && r.Standing is RulingStatus.Banned or RulingStatus.Never)
                );
                if (dangerous)
                    own.ShouldAllBe(
                        r =>
                            r.Evidence == (group.FreshEdgeTells ? Evidence.Declared : Evidence.ClearedTag)
                            || r.Evidence == Evidence.ClearedTag,
                        id.Value
                    );
            }
        }
    }

    [Fact]
    public void Covers_LimitsAreInclusive_AndNothingIsRounded()
    {
        var cork = MaterialTable.Rulings.First(r => r.MaterialId == "cork" && r.Operation == Operation.Cut);
        cork.Covers(6.35m).ShouldBeTrue();
        cork.Covers(6.350001m).ShouldBeFalse();
    }

    [Fact]
    public void Cell_TakesTheLesserOfRulingAndMachine()
    {
        var heron = Gating.GateCase.Heron;
        Shelf.Cell(heron, Of("cork")).Words.ShouldBe("Cut to 6.35");
        Shelf.Cell(heron with { MaxCutMm = 4 }, Of("cork")).Words.ShouldBe("Cut to 4");
        Shelf.Cell(heron, Of("pvc-sheet")).Standing.ShouldBe(RulingStatus.Never);
        Shelf.Cell(heron with { Kind = LaserKind.Diode }, Of("acrylic-clear")).Standing.ShouldBe(RulingStatus.Cannot);
        Shelf.Cell(heron, Of("glass")).Words.ShouldBe("No cut");
        Shelf.Cell(heron, []).Standing.ShouldBe(RulingStatus.Cannot);
    }

    /// <summary>Where practitioners differ, the list says so and which side it takes; the side is the one its rulings are on.</summary>
    [Fact]
    public void Practice_NamesMaterialsOfTheList_AndAgreesWithTheirRulings()
    {
        foreach (var (id, text) in MaterialTable.Practice)
        {
            MaterialTable.Find(id).ShouldNotBeNull(id.Value);
            var cut = Of(id).Select(r => r.Standing).ToHashSet();
            if (text.Contains("Never here", StringComparison.Ordinal))
                cut.ShouldBe([RulingStatus.Never], id.Value);
            else if (text.Contains("Banned here", StringComparison.Ordinal))
                cut.ShouldContain(RulingStatus.Banned, id.Value);
            else if (text.Contains("rrangement", StringComparison.Ordinal))
                cut.ShouldContain(RulingStatus.ByArrangement, id.Value);
            else
                cut.ShouldContain(RulingStatus.Permitted, id.Value);
        }
        foreach (
            var id in new[]
            {
                "polycarbonate",
                "abs",
                "bamboo",
                "foam-board",
                "pvc-sheet",
                "polystyrene",
                "polypropylene",
                "polyurethane",
                "foam-eva",
                "leather-chrome",
                "birch-ply-laser",
                "mdf",
                "wood-finished",
                "paper",
                "glass",
                "aluminium-anodised",
                "carbon-fibre",
            }
        )
            MaterialTable.Practice.ShouldContainKey(id);
    }

    [Fact]
    public void Leather_StainedOrDyed_IsToldApart()
    {
        Of("leather-veg").Where(r => r.Kind != LaserKind.Fibre).ShouldAllBe(r => r.Standing == RulingStatus.Permitted);
        Of("leather-stained")
            .Where(r => r.Kind != LaserKind.Fibre)
            .ShouldAllBe(r => r.Standing == RulingStatus.ByArrangement && r.Evidence == Evidence.ClearedTag);
        MaterialTable.TwinsOf("leather-stained").Single().MaterialIds.ShouldContain("leather-veg");
    }

    [Fact]
    public void RulesOfThumb_AreAnswered_AndPermitNothing() =>
        MaterialTable.RulesOfThumb.ShouldAllBe(r => r.Answer.EndsWith("Ask for the papers."));

    private static IEnumerable<Ruling> Of(MaterialId id) => MaterialTable.Rulings.Where(r => r.MaterialId == id);
}
