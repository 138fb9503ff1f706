using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class PracticalTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private static readonly PracticalSheet Sheet = new(
        "s",
        "Sheet",
        1,
        [.. Enumerable.Range(1, 8).Select(i => new PracticalStep($"{i}", $"Step {i}", i <= 2))]
    );

    /// <summary>One letter a step: u, p, m, or a dot for unmarked.</summary>
    private static IEnumerable<PracticalMark> Marks(string letters, int second = 0) =>
        letters
            .Select((c, i) => (c, i))
            .Where(x => x.c != '.')
            .Select(x => new PracticalMark(
                Guid.NewGuid(),
                $"{x.i + 1}",
                x.c switch
                {
                    'u' => StepMark.Unprompted,
                    'p' => StepMark.Prompted,
                    _ => StepMark.Missed,
                },
                null,
                Now + Duration.FromSeconds(second),
                "m-3"
            ));

    [Theory]
    [InlineData("uuuuuuuu", PracticalOutcome.Signed)]
    [InlineData("ppuuuuup", PracticalOutcome.Signed)] // three prompts, two of them critical steps
    [InlineData("ppuuupup", PracticalOutcome.Repeat)] // four
    [InlineData("uuuupmpu", PracticalOutcome.Signed)] // a step missed without being critical is a prompt
    [InlineData("uuumpmpu", PracticalOutcome.Repeat)]
    [InlineData("umuuuuuu", PracticalOutcome.NotSigned)]
    [InlineData("um......", PracticalOutcome.NotSigned)] // nothing that follows mends it
    [InlineData("pppp....", PracticalOutcome.Repeat)]
    [InlineData("uuuuuuu.", PracticalOutcome.Open)]
    [InlineData("........", PracticalOutcome.Open)]
    public void Judge_ByRule(string letters, PracticalOutcome outcome) =>
        Practicals.Judge(Sheet, Marks(letters), Rules).Outcome.ShouldBe(outcome);

    [Fact]
    public void Judge_TheLatestMarkCounts_WhateverTheOrderTheyComeIn()
    {
        var marks = Marks("umuuuuuu", 1).Concat(Marks(".u......", 2)).ToList();
        Practicals.Judge(Sheet, marks, Rules).Outcome.ShouldBe(PracticalOutcome.Signed);
        Practicals.Judge(Sheet, Enumerable.Reverse(marks), Rules).Outcome.ShouldBe(PracticalOutcome.Signed);
        Practicals
            .Judge(Sheet, Marks("uuuuuuuu", 1).Concat(Marks(".m......", 1)), Rules)
            .Outcome.ShouldBe(PracticalOutcome.NotSigned, "of two at one instant the harder counts");
    }

    [Fact]
    public void Judge_HouseThatAllowsNone_AndItsSentence()
    {
        Practicals.Judge(Sheet, Marks("uuupuuuu"), Rules with { PromptsAllowed = 0 }).Outcome.ShouldBe(PracticalOutcome.Repeat);
        Practicals.Judge(Sheet, Marks("mmuuuuuu"), Rules).Why.ShouldBe("A critical step was missed: Step 1; Step 2. Not signed.");
        Practicals.MayMark(Sheet, "9", null)!.Field.ShouldBe("stepId");
        Practicals.MayMark(Sheet, "8", new string('x', Practicals.NoteLongest + 1))!.Field.ShouldBe("note");
        Practicals.MayMark(Sheet, "8", "saw it").ShouldBeNull();
    }

    [Fact]
    public void Starting_ThreeSheets_WithTheCriticalStepsOfTheTrade()
    {
        StartingPracticals.All.Count.ShouldBe(3);
        foreach (var sheet in StartingPracticals.All)
        {
            sheet.Steps.Select(s => s.Id).ShouldBeUnique();
            string[] critical = ["stay", "fan", "stop", "identify", "focus", "wait", "flame"];
            foreach (var id in critical)
                sheet.Steps.Single(s => s.Id == id).Critical.ShouldBeTrue($"{sheet.Id}: {id}");
            var order = sheet.Steps.Select(s => s.Id).ToList();
            order.IndexOf("fan").ShouldBeLessThan(order.IndexOf("stay"), "extraction before the cut");
            order.IndexOf("wait").ShouldBeGreaterThan(order.IndexOf("stay"));
        }
        Enum.GetValues<LaserKind>().Select(StartingPracticals.For).ShouldBe(StartingPracticals.All.Select(s => s.Id), ignoreOrder: true);
    }

    [Theory]
    [InlineData("m-2", "2026-03-14", "Signed by the old steward.", null)]
    [InlineData("m-5", "2026-03-14", "Mine.", "memberId")]
    [InlineData("m-2", null, "Signed.", "signedOn")]
    [InlineData("m-2", "2026-11-25", "Signed.", "signedOn")]
    [InlineData("m-2", "2025-11-23", "Signed.", "signedOn")] // over by its own date
    [InlineData("m-2", "2026-03-14", " ", "evidence")]
    public void FromPaper_ByAnother_FromItsOwnDay(string member, string? day, string evidence, string? field)
    {
        var read = SignOffs.FromPaper(
            "m-5",
            member,
            day is null ? null : NodaTime.Text.LocalDatePattern.Iso.Parse(day).Value,
            evidence,
            Rules,
            Now
        );
        read.Refusal?.Field.ShouldBe(field);
        if (field is null)
            read.Value.ShouldBe(new Span(Instant.FromUtc(2026, 3, 14, 0, 0), Instant.FromUtc(2027, 3, 15, 0, 0)));
    }

    [Fact]
    public void MayPass_WhereTheHouseWantsTheCourse_TheSheetEndsIt()
    {
        var path = new TrainingPath("heron", "", [new(ModuleKind.SignOff, "practical-co2")], [new(ModuleKind.SignOff)]);
        var strict = Rules with { CourseBeforeSignOff = true };
        SignOffs.MayPass(path, ["Fire"], false, Rules).ShouldBeNull("a trainer answers for what is open");
        SignOffs.MayPass(path, ["Fire"], true, strict)!.Code.ShouldBe("signOff.path");
        SignOffs.MayPass(path, [], false, strict)!.Code.ShouldBe("signOff.sheet");
        SignOffs.MayPass(path, [], true, strict).ShouldBeNull();
        SignOffs.MayPass(path with { Steps = [new(ModuleKind.SignOff)] }, [], false, strict).ShouldBeNull("this one ends with a note");
    }
}
