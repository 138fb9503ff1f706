using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class QuizTests
{
    private static readonly IReadOnlyList<Question> Bank = StartingTraining.Questions;
    private static readonly IReadOnlyList<string> Topics = [.. StartingTraining.Readings.Select(r => r.Id)];
    private static readonly Question Some = new(
        Id: "q",
        Topic: "fire",
        Kind: QuestionKind.Single,
        Critical: false,
        Text: "?",
        Options: ["a", "b", "c"],
        Correct: [1],
        Why: "Because."
    );

    private static HouseRules Rules(int pass = 80, int coolDown = 24) =>
        Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London") with
        {
            QuizPassPercent = pass,
            QuizCoolDownHours = coolDown,
        };

    private static Dictionary<string, IReadOnlyList<int>> AllRight(IEnumerable<Question> questions) =>
        questions.ToDictionary(q => q.Id, q => q.Correct);

    /// <summary>First outputs of SplitMix64 for the seed 1234567, as published with its reference implementation (from memory).</summary>
    [Fact]
    public void SplitMix_GivesThePublishedSequence()
    {
        var random = new SplitMix(1234567);
        Enumerable
            .Range(0, 5)
            .Select(_ => random.Next())
            .ShouldBe([6457827717110365317, 3203168211198807973, 9817491932198370423, 4593380528125082431, 16408922859458223821]);
    }

    [Fact]
    public void Draw_SameSeed_IsTheSameQuiz_AndAnotherSeedAnother()
    {
        string Say(long seed) => string.Join(' ', QuizDraw.Of(Bank, Topics, seed).Select(d => $"{d.Id}:{string.Join(',', d.Shown)}"));
        Say(7).ShouldBe(Say(7));
        Say(7).ShouldNotBe(Say(8));
    }

    [Fact]
    public void Draw_BalancesTopics_EachWithACriticalQuestion_EachQuestionOnce()
    {
        var byId = Bank.ToDictionary(q => q.Id);
        for (var seed = 0; seed < 200; seed++)
        {
            var drawn = QuizDraw.Of(Bank, Topics, seed);
            drawn.Select(d => d.Id).Distinct().Count().ShouldBe(18);
            foreach (var topic in Topics)
            {
                var own = drawn.Where(d => byId[d.Id].Topic == topic).ToList();
                own.Count.ShouldBe(3, topic);
                own.ShouldContain(d => byId[d.Id].Critical, $"{topic} of seed {seed}");
            }
            drawn.ShouldAllBe(d => d.Shown.Order().SequenceEqual(Enumerable.Range(0, byId[d.Id].Options.Count)));
        }
    }

    /// <summary>
    /// Every question has its fair share: 2,000 draws, chi-square of the uncritical ones of each topic against equal chances.
    /// </summary>
    [Fact]
    public void Draw_FavoursNoQuestion_AndNoPlaceForTheRightAnswer()
    {
        var drawn = Enumerable.Range(0, 2000).SelectMany(seed => QuizDraw.Of(Bank, Topics, seed)).ToList();
        foreach (var topic in Topics)
        {
            var counts = Bank.Where(q => q.Topic == topic && !q.Critical).Select(q => (double)drawn.Count(d => d.Id == q.Id)).ToList();
            var mean = counts.Average();
            // 0.001 of the chi-square distribution with 9 degrees of freedom: 27.9 (Abramowitz and Stegun, table 26.8).
            counts.Sum(c => (c - mean) * (c - mean) / mean).ShouldBeLessThan(27.9, topic);
        }
        var four = drawn.Where(d => d.Shown.Count == 4).ToList();
        for (var place = 0; place < 4; place++)
            ((double)four.Count(d => d.Shown[place] == 0) / four.Count).ShouldBe(0.25, 0.02);
    }

    [Fact]
    public void Mark_WantsThePassMarkAndEveryCriticalQuestion()
    {
        var drawn = Enumerable.Range(0, 10).Select(i => Some with { Id = $"q{i}", Critical = i == 0 }).ToList();
        var answers = AllRight(drawn);
        QuizMarking.Mark(drawn, answers, Rules()).ShouldBe(new QuizMark(10, 10, 100, 0, true));
        answers.Remove("q8");
        answers["q9"] = [2];
        QuizMarking.Mark(drawn, answers, Rules()).ShouldBe(new QuizMark(8, 10, 80, 0, true), "the pass mark itself passes");
        QuizMarking.Mark(drawn, answers, Rules(pass: 81)).Passed.ShouldBeFalse();
        answers = AllRight(drawn);
        answers["q0"] = [0];
        QuizMarking.Mark(drawn, answers, Rules()).ShouldBe(new QuizMark(9, 10, 90, 1, false));
    }

    [Theory]
    [InlineData(QuestionKind.Single, new[] { 1 }, true)]
    [InlineData(QuestionKind.Single, new int[0], false)]
    [InlineData(QuestionKind.Multiple, new[] { 2, 0 }, true)]
    [InlineData(QuestionKind.Multiple, new[] { 0 }, false)]
    [InlineData(QuestionKind.Multiple, new[] { 0, 1, 2 }, false)]
    [InlineData(QuestionKind.Order, new[] { 0, 1, 2 }, true)]
    [InlineData(QuestionKind.Order, new[] { 0, 2, 1 }, false)]
    public void IsRight_ByKind(QuestionKind kind, int[] answer, bool right)
    {
        var question = Some with
        {
            Kind = kind,
            Correct = kind switch
            {
                QuestionKind.Multiple => [0, 2],
                QuestionKind.Order => [0, 1, 2],
                _ => [1],
            },
        };
        question.IsRight(answer).ShouldBe(right);
        question.IsRight(null).ShouldBeFalse();
    }

    [Theory]
    [InlineData(QuestionKind.Single, new[] { 0, 1 }, false)]
    [InlineData(QuestionKind.Single, new[] { 3 }, false)]
    [InlineData(QuestionKind.Single, new[] { -1 }, false)]
    [InlineData(QuestionKind.Single, new int[0], true)]
    [InlineData(QuestionKind.Multiple, new[] { 1, 1 }, false)]
    [InlineData(QuestionKind.Order, new[] { 0, 1 }, false)]
    [InlineData(QuestionKind.Order, new[] { 2, 1, 0 }, true)]
    public void CanBe_TakesWhatTheFormCanGive(QuestionKind kind, int[] answer, bool can) =>
        (Some with { Kind = kind }).CanBe(answer).ShouldBe(can);

    [Fact]
    public void NextTry_IsHoursLater_OrTheNextHouseDay_AlsoWhenTheClocksChange()
    {
        // 24 October 2026, 15:00 in London; the clocks go back the night after, and that day has 25 hours.
        var failed = Instant.FromUtc(2026, 10, 24, 14, 0);
        QuizMarking.NextTry(failed, Rules(coolDown: 24)).ShouldBe(Instant.FromUtc(2026, 10, 25, 14, 0));
        QuizMarking.NextTry(failed, Rules(coolDown: 0)).ShouldBe(Instant.FromUtc(2026, 10, 24, 23, 0));
        QuizMarking.NextTry(Instant.FromUtc(2026, 10, 25, 14, 0), Rules(coolDown: 0)).ShouldBe(Instant.FromUtc(2026, 10, 26, 0, 0));
    }

    [Fact]
    public void MayBegin_WantsTheReadings_AndTheWaitAfterAFail()
    {
        var today = new LocalDate(2026, 11, 24);
        var fire = new TrainingModule(
            "fire",
            ModuleKind.Reading,
            "Fire",
            "fire",
            3,
            [new Repeat(2, today.PlusDays(-1)), new Repeat(3, today)]
        );
        var now = Instant.FromUtc(2026, 11, 24, 10, 0);
        var unread = ModuleRules.Unread([fire], [new ModuleDone("fire", 1, now)], today);
        ModuleRules.MayBegin(unread, null, Rules(), now)!.Text.ShouldBe("Read first: Fire.", "version 1 no longer counts");
        ModuleRules.Unread([fire], [new ModuleDone("fire", 2, now)], today).ShouldBeEmpty("on its last day it still counts");
        ModuleRules.DueBy(fire, [new ModuleDone("fire", 2, now)], today).ShouldBe(today);
        ModuleRules.DueBy(fire, [new ModuleDone("fire", 3, now)], today).ShouldBeNull();
        ModuleRules.Unread([fire], [new ModuleDone("fire", 2, now)], today.PlusDays(1)).ShouldHaveSingleItem();
        ModuleRules.MayBegin([], now - Duration.FromHours(23), Rules(), now)!.Code.ShouldBe("quiz.coolDown");
        ModuleRules.MayBegin([], now - Duration.FromHours(24), Rules(), now).ShouldBeNull();
    }

    [Fact]
    public void Bank_IsWellFormed()
    {
        Bank.Count.ShouldBeGreaterThanOrEqualTo(60);
        Bank.Select(q => q.Id).Distinct().Count().ShouldBe(Bank.Count);
        foreach (var q in Bank)
        {
            Topics.ShouldContain(q.Topic, q.Id);
            q.CanBe(q.Correct).ShouldBeTrue(q.Id);
            q.Options.Distinct().Count().ShouldBe(q.Options.Count, q.Id);
            q.Options.Count.ShouldBeInRange(3, 6, q.Id);
            q.Why.ShouldNotBeEmpty(q.Id);
            (q.Kind == QuestionKind.Picture).ShouldBe(q.Picture is not null && q.Alt is not null, q.Id);
            if (q.Kind == QuestionKind.Multiple)
                q.Correct.Count.ShouldBeInRange(2, q.Options.Count - 1, q.Id);
        }
        foreach (var kind in Enum.GetValues<QuestionKind>())
            Bank.ShouldContain(q => q.Kind == kind);
        StartingTraining.Readings.Concat(StartingTraining.Further).ShouldAllBe(r => r.Body.Length > 800 && r.Options.Count >= 3);
    }
}
