using NodaTime;
using Shouldly;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class PageChangeTests
{
    private static readonly LocalDate Today = new(2026, 11, 24);
    private static readonly PageChange Good = new("## Doors\nBoth stay open.", "What stays open?", ["Both doors", "One door"], Today);

    [Fact]
    public void Wrong_OfAGoodPage_IsNothing()
    {
        Good.Wrong(Today).ShouldBeEmpty("its last day is today");
        (Good with { RepeatBy = null }).Wrong(Today).ShouldBeEmpty("nobody has to read it again");
        foreach (var page in StartingTraining.Readings)
            new PageChange(page.Body, page.Check, page.Options, null).Wrong(Today).ShouldBeEmpty(page.Id);
    }

    public static TheoryData<PageChange, string> Bad =>
        new()
        {
            { Good with { Body = " " }, "body" },
            { Good with { Body = new string('x', PageChange.LongestBody + 1) }, "body" },
            { Good with { Check = "" }, "check" },
            { Good with { Check = new string('x', 301) }, "check" },
            { Good with { Options = ["One"] }, "options" },
            { Good with { Options = ["One", " "] }, "options" },
            { Good with { Options = ["1", "2", "3", "4", "5", "6", "7"] }, "options" },
            { Good with { Options = ["Both doors", "both doors"] }, "options" },
            { Good with { RepeatBy = Today.PlusDays(-1) }, "repeatBy" },
        };

    [Theory]
    [MemberData(nameof(Bad))]
    public void Wrong_NamesTheField(PageChange change, string field) => change.Wrong(Today).ShouldHaveSingleItem().Field.ShouldBe(field);

    [Theory]
    [InlineData("Glasses by the door", "glasses-by-the-door")]
    [InlineData("Fire", "fire-2")]
    [InlineData("Über die Öfen!", "uber-die-ofen")]
    public void IdOf_ATitle_IsAnotherThanThoseThereAre(string title, string id) => NewPages.IdOf(title, ["fire", "fumes"]).ShouldBe(id);

    [Fact]
    public void NewPage_WantsATitle_AndNoQuizOrStartingPathWaitsForIt()
    {
        NewPages.Wrong(" ")!.Field.ShouldBe("title");
        NewPages.Wrong("!!!")!.Field.ShouldBe("title");
        NewPages.Wrong(new string('x', 61))!.Field.ShouldBe("title");
        NewPages.Wrong("Our bins").ShouldBeNull();
        TrainingModule[] modules =
        [
            new("fire", ModuleKind.Reading, "Fire", "fire", 1, []),
            new("our-bins", ModuleKind.Reading, "Our bins", "", 1, []),
        ];
        ModuleRules.Unread(modules, [], Today).Select(m => m.Id).ShouldBe(["fire"]);
        Paths
            .Starting(Gating.GateCase.Heron, [], modules, Core.House.Packs.Start(Core.House.Packs.School, "House", "Europe/London"))[0]
            .Steps.Select(s => s.Id)
            .ShouldNotContain("our-bins");
    }
}
