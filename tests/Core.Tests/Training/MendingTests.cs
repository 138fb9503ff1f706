using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

/// <summary>Questions and practical sheets as they are changed in the app.</summary>
public class MendingTests
{
    private static readonly LocalDate Today = new(2026, 11, 24);
    private static readonly string[] Topics = ["fire", "fumes"];
    private static readonly QuestionDraft Draft = new(
        Topic: "fire",
        Kind: QuestionKind.Multiple,
        Critical: true,
        Text: "What do you do?",
        Options: ["Stop", "Shut", "Run"],
        Right: 2,
        Why: "Because."
    );
    private static readonly PracticalStep[] Steps = [new("stay", "Stays with it", true), new("log", "Writes it down", false)];

    [Fact]
    public void Draft_BecomesTheQuestion_OfItsKind()
    {
        Draft.Wrong(Topics).ShouldBeEmpty();
        Draft.As("q").Correct.ShouldBe([0, 1]);
        (Draft with { Kind = QuestionKind.Single }).As("q").Correct.ShouldBe([0]);
        (Draft with { Kind = QuestionKind.Order }).As("q").Correct.ShouldBe([0, 1, 2]);
        (Draft with { Kind = QuestionKind.Picture, Picture = "x.svg", Alt = "an x" }).As("q").Picture.ShouldBe("x.svg");
        (Draft with { Picture = "x.svg" }).As("q").Picture.ShouldBeNull("another kind has none");
        Draft.As("q").IsRight([1, 0]).ShouldBeTrue();
    }

    public static TheoryData<QuestionDraft, string> Bad =>
        new()
        {
            { Draft with { Topic = "cooking" }, "topic" },
            { Draft with { Text = " " }, "text" },
            { Draft with { Text = new string('x', 401) }, "text" },
            { Draft with { Why = "" }, "why" },
            { Draft with { Options = ["Stop"] }, "options" },
            { Draft with { Options = ["Stop", "stop"] }, "options" },
            { Draft with { Options = ["Stop", " "] }, "options" },
            { Draft with { Right = 0 }, "right" },
            { Draft with { Right = 4 }, "right" },
            { Draft with { Kind = QuestionKind.Picture }, "kind" },
        };

    [Theory]
    [MemberData(nameof(Bad))]
    public void Draft_NamesTheField(QuestionDraft draft, string field) => draft.Wrong(Topics).ShouldHaveSingleItem().Field.ShouldBe(field);

    [Fact]
    public void Bank_KeepsEnoughOfEachTopic_OneOfThemCritical()
    {
        List<Question> bank = [.. Enumerable.Range(0, 3).Select(i => (Draft with { Critical = i == 0 }).As($"{i}"))];
        QuestionBank.Serves(bank, ["fire"]).ShouldBeNull();
        QuestionBank.Serves(bank, Topics)!.Code.ShouldBe("question.few");
        QuestionBank.Serves([.. bank.Skip(1)], ["fire"])!.Code.ShouldBe("question.few");
        QuestionBank.Serves([.. bank.Skip(1), (Draft with { Critical = false }).As("3")], ["fire"])!.Code.ShouldBe("question.critical");
        QuestionBank.Serves(StartingTraining.Questions, [.. StartingTraining.Readings.Select(r => r.Id)]).ShouldBeNull("what ships serves");
    }

    [Fact]
    public void Sheet_ReadFromLines_KeepsTheIdsOfStepsThatStay()
    {
        var read = PracticalChange.Read("! Stays with it\n\n  Counts the sheets \n!Writes it down\n !! \n", Steps);
        read.ShouldBe([
            new("stay", "Stays with it", true),
            new("counts-the-sheets", "Counts the sheets", false),
            new("log", "Writes it down", true),
        ]);
        PracticalChange.Read("!!!\n…", []).Select(s => s.Id).ShouldBe(["step"], "a line without a letter has an id all the same");
        PracticalChange.Read(null, Steps).ShouldBeEmpty();
        PracticalChange.Read("Stays with it\nStays with it", Steps).Select(s => s.Id).ShouldBeUnique();
    }

    [Fact]
    public void Sheet_NamesWhatIsWrong()
    {
        var good = new PracticalChange("Practical", Steps, null);
        good.Wrong(Today).ShouldBeEmpty();
        (good with { Title = "" }).Wrong(Today).ShouldHaveSingleItem().Field.ShouldBe("title");
        (good with { Steps = [] }).Wrong(Today).ShouldHaveSingleItem().Field.ShouldBe("steps");
        (good with { Steps = [Steps[1]] }).Wrong(Today).ShouldHaveSingleItem().Text.ShouldContain("exclamation mark");
        (good with { Steps = [Steps[0], Steps[0] with { Id = "again" }] })
            .Wrong(Today)
            .ShouldHaveSingleItem()
            .Text.ShouldBe("Two steps are the same.");
        (good with { RepeatBy = Today.PlusDays(-1) }).Wrong(Today).ShouldHaveSingleItem().Field.ShouldBe("repeatBy");
    }

    [Theory]
    [InlineData(null, false, null)]
    [InlineData(null, true, "Give the day until which having passed before still counts.")]
    [InlineData(0, true, null)] // today still counts to its end
    [InlineData(-1, false, "Give a day that is not over.")]
    [InlineData(-1, true, "Give a day that is not over.")]
    public void Repeats_ByADay_ThatIsNotOver(int? days, bool asked, string? says) =>
        (Repeats.Wrong(days is { } d ? Today.PlusDays(d) : null, Today, asked)?.Text).ShouldBe(says);

    [Fact]
    public void Owed_APracticalThatChanged_ByWhoWasSignedBefore()
    {
        var rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
        var path = new TrainingPath("heron", "", [new(ModuleKind.SignOff, "practical-co2")], [new(ModuleKind.SignOff)]);
        var published = Instant.FromUtc(2026, 11, 10, 12, 0);
        PracticalRepeat[] repeats =
        [
            new("practical-co2", "Practical", published, new LocalDate(2026, 11, 30)),
            new("practical-diode", "Other", published, new LocalDate(2026, 11, 20)),
        ];
        var owed = Theory.Owed(path, published - Duration.FromDays(9), null, [], [], repeats, rules).ShouldHaveSingleItem();
        (owed.Title, owed.CountsUntil).ShouldBe(("Practical", Instant.FromUtc(2026, 12, 1, 0, 0)));
        Theory.Owed(path, published, null, [], [], repeats, rules).ShouldBeEmpty("signed since, it rests on the new one");
        Theory
            .Owed(path with { Steps = [new(ModuleKind.SignOff)] }, published - Duration.FromDays(9), null, [], [], repeats, rules)
            .ShouldBeEmpty("a path that ends with a note");
    }
}
