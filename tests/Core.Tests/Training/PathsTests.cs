using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class PathsTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly TrainingModule[] Modules =
    [
        new("fire", ModuleKind.Reading, "Fire", "fire", 1, []),
        new("quiz", ModuleKind.Quiz, "Quiz", "", 1, []),
    ];
    private static readonly TrainingPath Wren = new("wren", "", [new(ModuleKind.SignOff)], [new(ModuleKind.SignOff)]);
    private static readonly TrainingPath Good = new(
        "heron",
        "",
        [
            new(ModuleKind.Reading, "fire"),
            new(ModuleKind.Quiz, "quiz"),
            new(ModuleKind.Authority, "wren"),
            new(ModuleKind.SignOff, "practical-co2"),
        ],
        [new(ModuleKind.SignOff)]
    );

    private static IReadOnlyList<Refusal> Check(TrainingPath path, params TrainingPath[] others) =>
        Paths.Check(path, others.Length == 0 ? [Wren] : others, Modules, ["practical-co2"], ["mdf"]);

    [Theory]
    [InlineData(Packs.School, 5)]
    [InlineData(Packs.StaffedWorkshop, 5)]
    [InlineData(Packs.MemberRun, 4)]
    public void Starting_EveryPack_TheoryThenPracticeThenTheSheet_AndRotaryWhereTaken(string pack, int steps)
    {
        var rules = Packs.Start(pack, "House", "Europe/London");
        var paths = Paths.Starting(GateCase.Heron, ["rotary"], Modules, rules);
        paths.Select(p => p.Authority).ShouldBe(["heron", "heron/rotary"]);
        paths[0].Steps.Count.ShouldBe(steps);
        paths[0].Steps[^1].ShouldBe(new PathStep(ModuleKind.SignOff, "practical-co2"));
        paths[0].Refresher.Count.ShouldBeLessThan(paths[0].Steps.Count);
        paths[1].Steps[0].ShouldBe(new PathStep(ModuleKind.Authority, "heron"), "the machine first");
        foreach (var path in paths)
            Paths.Check(path, paths, Modules, [.. StartingPracticals.All.Select(p => p.Id)], []).ShouldBeEmpty();
        Paths.Starting(GateCase.Heron, [], Modules, rules).ShouldHaveSingleItem();
    }

    [Fact]
    public void All_TheHousesOwn_InPlaceOfTheStartingOnes()
    {
        var own = Wren with { Refresher = [new(ModuleKind.SupervisedRuns, Count: 2), new(ModuleKind.SignOff)] };
        Paths.All([Wren, Good], [own]).ShouldBe([Good, own]);
    }

    [Fact]
    public void Check_WhatCannotBe_IsNamedWithItsField()
    {
        Check(Good).ShouldBeEmpty();
        Fields(Good with { Steps = [] }).ShouldBe(["steps", "steps"]);
        Fields(Good with { Steps = [new(ModuleKind.SignOff), new(ModuleKind.Reading, "fire")] }).ShouldBe(["steps"]);
        Fields(Good with { Refresher = [new(ModuleKind.Reading, "flood"), new(ModuleKind.SignOff, "practical-x")] })
            .ShouldBe(["refresher", "refresher"]);
        Fields(Good with { Steps = [new(ModuleKind.Quiz, "fire"), new(ModuleKind.SignOff)] }).ShouldBe(["steps"], "a reading is no quiz");
        Fields(Good with { Steps = [new(ModuleKind.SupervisedRuns), new(ModuleKind.SupervisedRuns, Count: 2), new(ModuleKind.SignOff)] })
            .ShouldBe(["steps"], "twice");
        Fields(Good with { Steps = [new(ModuleKind.Outside), new(ModuleKind.SupervisedRuns, Count: 21), new(ModuleKind.SignOff)] })
            .ShouldBe(["steps", "steps"]);
        Fields(new TrainingPath("heron/thick", " ", [new(ModuleKind.SignOff)], [new(ModuleKind.SignOff)], new AddOnNeed(ThickerThanMm: 0)))
            .ShouldBe(["name", "need"]);

        static IEnumerable<string?> Fields(TrainingPath path) => Check(path).Select(r => r.Field);
    }

    [Theory]
    [InlineData("heron", true)]
    [InlineData("heron/thick-stock", true)]
    [InlineData("heron/thick/er", false)]
    [InlineData("heron/", false)]
    [InlineData("heron/Thick stock", false)]
    [InlineData("heron/ä", false)]
    public void Check_AnAuthority_IsAMachineOrAnAddOnOfIt(string authority, bool serves) =>
        Check(Good with { Authority = authority, Name = authority.Contains('/') ? "Thick stock" : "" })
            .Any(r => r.Field == "authority")
            .ShouldBe(!serves);

    [Theory]
    [InlineData(LaserKind.Co2, "Thick stock, Metal marking, Trainer")]
    [InlineData(LaserKind.Diode, "Thick stock, Metal marking, Trainer")]
    [InlineData(LaserKind.Fibre, "Metal marking, Trainer")]
    public void StartingAddOns_FitTheMachine_AndServeAsTheyAre(LaserKind kind, string names)
    {
        var machine = GateCase.Heron with { Kind = kind };
        var addOns = StartingAddOns.For(machine);
        string.Join(", ", addOns.Select(a => a.Name)).ShouldBe(names);
        var paths = Paths.Starting(machine, [], Modules, Packs.Start(Packs.School, "House", "Europe/London"));
        foreach (var addOn in addOns)
            Paths.Check(addOn, paths, Modules, [], [.. MaterialTable.Materials.Select(m => m.Id)]).ShouldBeEmpty();
        var ask = GateCase.Open().Ask;
        (string, AddOnNeed)[] needs = [.. addOns.Select(a => (a.Authority, a.Need!))];
        NeededAuthorities.Of(ask, needs).ShouldBe(["heron"], "no run needs the trainer’s, and 3 mm plywood no other");
        NeededAuthorities
            .Of(ask with { Items = [ask.Items[0] with { MaterialId = "metal-plain" }] }, needs)
            .ShouldBe(["heron", "heron/metal-marking"]);
    }

    [Fact]
    public void Check_AMaterialThatIsNotOnTheList_IsNamed() =>
        Check(Good with { Authority = "heron/x", Name = "X", Need = new AddOnNeed(MaterialIds: ["mdf", "unobtainium"]) })
            .ShouldHaveSingleItem()
            .Text.ShouldContain("unobtainium");

    [Fact]
    public void NewAddOn_IsCalledAfterItsName()
    {
        Paths.NewAddOn("heron", "Thick stock!").ShouldBe("heron/thick-stock");
        Check(Good with { Authority = $"heron/{new string('x', 61)}", Name = "x" }).ShouldContain(r => r.Field == "authority");
    }

    [Fact]
    public void Check_ACircle_HasNoBeginning()
    {
        var kestrel = new TrainingPath(
            "kestrel",
            "",
            [new(ModuleKind.Authority, "heron"), new(ModuleKind.SignOff)],
            [new(ModuleKind.SignOff)]
        );
        var wren = Wren with { Steps = [new(ModuleKind.Authority, "kestrel"), new(ModuleKind.SignOff)] };
        Check(Good, wren, kestrel).ShouldHaveSingleItem().Text.ShouldContain("a circle has no beginning");
        Check(Good with { Steps = [new(ModuleKind.Authority, "heron"), new(ModuleKind.SignOff)] }).ShouldHaveSingleItem();
        Check(Good, Wren, kestrel).ShouldBeEmpty("Heron before Kestrel is no circle");
    }

    [Fact]
    public void NeededFor_AnAddOn_WhereItsNeedIsMet()
    {
        var ask = GateCase.Open().Ask;
        (string, AddOnNeed)[] addOns =
        [
            ("heron/rotary", new AddOnNeed("rotary")),
            ("heron/thick", new AddOnNeed(ThickerThanMm: 6)),
            ("heron/metal", new AddOnNeed(MaterialIds: ["steel", "brass"])),
        ];
        NeededAuthorities.Of(ask, addOns).ShouldBe(["heron"]);
        NeededAuthorities.Of(ask with { Fixture = "rotary" }, addOns).ShouldBe(["heron", "heron/rotary"]);
        NeededAuthorities.Of(ask with { Items = [ask.Items[0] with { ThicknessMm = 6 }] }, addOns).ShouldBe(["heron"]);
        NeededAuthorities
            .Of(ask with { Items = [ask.Items[0], ask.Items[0] with { ThicknessMm = 6.1m }] }, addOns)
            .ShouldBe(["heron", "heron/thick"]);
        NeededAuthorities.Of(ask with { Items = [ask.Items[0] with { MaterialId = "brass" }] }, addOns).ShouldBe(["heron", "heron/metal"]);
    }

    [Fact]
    public void Owed_NeverReadCountsForTheHousesDays_ChangedUntilItsDay()
    {
        var rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
        var since = Instant.FromUtc(2026, 10, 20, 12, 0);
        Theory.Owed(Good, since, null, Modules, [new("fire", 1, Now), new("quiz", 1, Now)], [], rules).ShouldBeEmpty();
        var never = Theory.Owed(Good, since, null, Modules, [new("quiz", 1, Now)], [], rules).ShouldHaveSingleItem();
        (never.Title, never.CountsUntil).ShouldBe(
            ("Fire", Instant.FromUtc(2026, 11, 4, 0, 0)),
            "14 days after 20 October, across the clock change, at the end of the day"
        );
        Theory
            .Owed(Good, since, Now, Modules, [new("quiz", 1, Now)], [], rules)[0]
            .CountsUntil.ShouldBe(Instant.FromUtc(2026, 12, 9, 0, 0), "a path that is newer than the certificate counts from its own day");
        TrainingModule[] changed =
        [
            Modules[0] with
            {
                Version = 3,
                Repeats = [new Repeat(2, new LocalDate(2026, 11, 30)), new Repeat(3, new LocalDate(2026, 12, 5))],
            },
            Modules[1],
        ];
        Theory
            .Owed(Good, since, null, changed, [new("fire", 1, Now), new("quiz", 1, Now)], [], rules)[0]
            .CountsUntil.ShouldBe(Instant.FromUtc(2026, 12, 1, 0, 0), "the earliest of what was missed");
        Theory
            .Owed(Good, since, null, changed, [new("fire", 2, Now), new("quiz", 1, Now)], [], rules)[0]
            .CountsUntil.ShouldBe(Instant.FromUtc(2026, 12, 6, 0, 0));
        Theory.Owed(Good, since, null, changed, [new("fire", 3, Now), new("quiz", 1, Now)], [], rules).ShouldBeEmpty();
        Theory.Owed(Wren, since, null, Modules, [], [], rules).ShouldBeEmpty("a path without reading owes none");
    }
}
