using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Store.Training;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Training;

/// <summary>Attempts when two windows, two clocks or two clicks meet.</summary>
public sealed class QuizStoreTests : IAsyncLifetime
{
    private const string Person = "m-5",
        Quiz = ModuleRules.SafetyQuiz;
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private TestDatabase _db = null!;
    private QuizStore _quizzes = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _quizzes = new QuizStore(_db.App);
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task ReadAll()
    {
        var course = new CourseStore(_db.App);
        foreach (var reading in StartingTraining.Readings)
            (await course.Acknowledge(Person, reading.Id, 1, reading.Options[0], Now, default)).IsOk.ShouldBeTrue(reading.Id);
    }

    private async Task<Attempt> Begun(Instant at)
    {
        var id = (await _quizzes.Begin(Person, Quiz, Rules, at, default)).Value;
        return (await _quizzes.Find(id, default))!;
    }

    /// <summary>Answers as a person would: places as shown.</summary>
    private async Task AnswerAll(Attempt attempt, Func<Question, bool> right, Instant at)
    {
        foreach (var (question, drawn) in attempt.Questions.Zip(attempt.Drawn))
        {
            var shown = drawn.Shown.ToList();
            var answer =
                right(question) ? question.Correct.Select(c => shown.IndexOf(c)).ToList()
                : question.Kind == QuestionKind.Order ? [.. question.Correct.Reverse().Select(c => shown.IndexOf(c))]
                : [shown.IndexOf(Enumerable.Range(0, question.Options.Count).First(o => !question.Correct.Contains(o)))];
            (await _quizzes.Answer(attempt.Id, Person, question.Id, answer, at, default)).IsOk.ShouldBeTrue(question.Id);
        }
    }

    [Fact]
    public async Task Begin_BeforeEverythingIsRead_SaysWhatIsMissing()
    {
        (await _quizzes.Begin(Person, Quiz, Rules, Now, default)).Refusal!.Text.ShouldStartWith("Read first: Fire, Fumes");
        (await _quizzes.Begin(Person, "nothing", Rules, Now, default)).Refusal!.Code.ShouldBe("notFound");
    }

    [Fact]
    public async Task Begin_FromManyWindowsAtOnce_IsOneAttempt()
    {
        await ReadAll();
        var begun = await Task.WhenAll(Enumerable.Range(0, 12).Select(_ => _quizzes.Begin(Person, Quiz, Rules, Now, default)));
        begun.Select(b => b.Value).Distinct().Count().ShouldBe(1);
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await connection.ExecuteScalarAsync<int>("select count(*)::int from training.attempt where person_id = @Person", new { Person })
        ).ShouldBe(1);
        var second = await Should.ThrowAsync<PostgresException>(() =>
            connection.ExecuteAsync(
                "insert into training.attempt (id, person_id, module_id, version, seed, drawn, questions, started) select "
                    + "gen_random_uuid(), person_id, module_id, version, seed, drawn, questions, started from training.attempt"
            )
        );
        second.SqlState.ShouldBe(PostgresErrorCodes.UniqueViolation);
    }

    [Fact]
    public async Task Passed_IsDone_AndTheSeedLaysTheQuizOutAgain()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        await AnswerAll(attempt, _ => true, Now);
        var ended = (await _quizzes.End(attempt.Id, Person, Rules, Now + Duration.FromMinutes(9), default))!;
        ended.Mark!.ShouldBe(new QuizMark(18, 18, 100, 0, true));
        (await new CourseStore(_db.App).Done(Person, default)).ShouldContain(d => d.ModuleId == Quiz);
        await using var connection = await _db.App.OpenConnectionAsync();
        var seed = await connection.ExecuteScalarAsync<long>("select seed from training.attempt where id = @Id", new { attempt.Id });
        QuizDraw
            .Of(StartingTraining.Questions, [.. StartingTraining.Readings.Select(r => r.Id)], seed)
            .Select(d => d.Id)
            .ShouldBe(attempt.Drawn.Select(d => d.Id));
        (await connection.QueryAsync<string>("select kind from ledger.entry order by seq desc limit 2")).ShouldBe([
            "quiz.ended",
            "quiz.begun",
        ]);
    }

    [Fact]
    public async Task OneCriticalQuestionWrong_Fails_AndTheWaitHolds()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        var missed = attempt.Questions.First(q => q.Critical).Id;
        await AnswerAll(attempt, q => q.Id != missed, Now);
        (await _quizzes.End(attempt.Id, Person, Rules, Now, default))!.Mark!.ShouldBe(new QuizMark(17, 18, 100m * 17 / 18, 1, false));
        (await _quizzes.Begin(Person, Quiz, Rules, Now + Duration.FromHours(23), default)).Refusal!.Code.ShouldBe("quiz.coolDown");
        (await _quizzes.Begin(Person, Quiz, Rules, Now + Duration.FromHours(24), default)).IsOk.ShouldBeTrue();
    }

    [Fact]
    public async Task Answers_FromTwoWindowsToDifferentQuestions_AreAllKept()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        await Task.WhenAll(
            attempt
                .Questions.Zip(attempt.Drawn)
                .Select(x =>
                    _quizzes.Answer(
                        attempt.Id,
                        Person,
                        x.First.Id,
                        [.. x.First.Correct.Select(c => x.Second.Shown.ToList().IndexOf(c))],
                        Now,
                        default
                    )
                )
        );
        (await _quizzes.Find(attempt.Id, default))!.Answers.Count.ShouldBe(18);
    }

    [Fact]
    public async Task WhatIsNoAnswer_IsRefused_AndNothingChanges()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        var question = attempt.Questions.First(q => q.Kind == QuestionKind.Single);
        foreach (var bad in new int[][] { [99], [-1], [0, 1] })
            (await _quizzes.Answer(attempt.Id, Person, question.Id, bad, Now, default)).Refusal!.Code.ShouldBe("quiz.answer");
        (await _quizzes.Answer(attempt.Id, Person, "not-drawn", [0], Now, default)).Refusal!.Code.ShouldBe("quiz.question");
        (await _quizzes.Answer(attempt.Id, "m-6", question.Id, [0], Now, default)).Refusal!.Code.ShouldBe(
            "notFound",
            "it is somebody else’s"
        );
        (await _quizzes.Find(attempt.Id, default))!.Answers.ShouldBeEmpty();
    }

    [Fact]
    public async Task EndedTwice_FromTwoWindows_IsMarkedOnce_AndTakesNoMoreAnswers()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        var ends = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => _quizzes.End(attempt.Id, Person, Rules, Now, default)));
        ends.ShouldAllBe(e => e!.Mark!.Right == 0);
        await using var connection = await _db.App.OpenConnectionAsync();
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from ledger.entry where kind = 'quiz.ended' and position(@id in body::text) > 0",
                new { id = attempt.Id.ToString() }
            )
        ).ShouldBe(1);
        (await _quizzes.Answer(attempt.Id, Person, attempt.Questions[0].Id, [0], Now, default)).Refusal!.Code.ShouldBe("quiz.ended");
    }

    [Fact]
    public async Task Forgotten_IsClosedAfterADay_WithTheAnswersItHas()
    {
        await ReadAll();
        var attempt = await Begun(Now);
        await AnswerAll(attempt, _ => true, Now);
        var later = Now + QuizMarking.Longest + Duration.FromHours(3);
        (await _quizzes.Answer(attempt.Id, Person, attempt.Questions[0].Id, [0], later, default)).Refusal!.Code.ShouldBe("quiz.ended");
        await _quizzes.Begin(Person, Quiz, Rules, later, default);
        var closed = (await _quizzes.Find(attempt.Id, default))!;
        closed.Ended.ShouldBe(Now + QuizMarking.Longest);
        closed.Mark!.Passed.ShouldBeTrue();
    }

    [Fact]
    public async Task AChangedPage_IsReadAgain_AndAnOldTabIsTold()
    {
        await ReadAll();
        var course = new CourseStore(_db.App);
        var (today, page) = (new LocalDate(2026, 11, 24), (await new CourseStore(_db.App).Page("fire", default))!);
        var change = new PageChange(page.Body + " New.", page.Check, page.Options, today);
        (await course.Publish("fire", 1, change, null, "m-2", today, Now, default)).Value.ShouldContain(Person);
        (await course.Page("fire", default))!.Version.ShouldBe(1, "looking changes nothing");
        var both = await Task.WhenAll(
            Enumerable.Range(0, 2).Select(_ => course.Publish("fire", 1, change, "The new extinguisher.", "m-2", today, Now, default))
        );
        both.Count(b => b.IsOk).ShouldBe(1);
        both.Single(b => !b.IsOk).Refusal!.Code.ShouldBe("page.stale");
        (await _quizzes.Begin(Person, Quiz, Rules, Now, default)).IsOk.ShouldBeTrue("today it still counts");
        (
            await _quizzes.End((await _quizzes.Standing(Person, Quiz, default)).Open!.Value, Person, Rules, Now, default)
        )!.Mark!.Passed.ShouldBeFalse();
        await using (var connection = await _db.App.OpenConnectionAsync())
            (
                await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from people.message where person_id = @Person and title = 'Read “Fire” again by 24 Nov 2026'",
                    new { Person }
                )
            ).ShouldBe(1);
        var tomorrow = Now + Duration.FromHours(26);
        (await _quizzes.Begin(Person, Quiz, Rules, tomorrow, default)).Refusal!.Text.ShouldBe("Read first: Fire.");
        var right = StartingTraining.Readings[0].Options[0];
        (await course.Acknowledge(Person, "fire", 1, right, tomorrow, default)).Refusal!.Code.ShouldBe("reading.stale");
        (await course.Acknowledge(Person, "fire", 2, "something else", tomorrow, default)).Refusal!.Code.ShouldBe("reading.wrong");
        (await course.Acknowledge(Person, "fire", 2, right, tomorrow, default)).IsOk.ShouldBeTrue();
        (await _quizzes.Begin(Person, Quiz, Rules, tomorrow, default)).IsOk.ShouldBeTrue();
    }
}
