using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Training;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Training;

/// <summary>What is taught changes while somebody is in the middle of it, in several windows, or while the clock is set.</summary>
public sealed class MendingStoreTests : IAsyncLifetime
{
    private const string Person = "m-5",
        Quiz = ModuleRules.SafetyQuiz;
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly LocalDate Today = new(2026, 11, 24);
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private static QuestionDraft Reworded(Question q, string text) =>
        new(
            Topic: q.Topic,
            Kind: q.Kind,
            Critical: q.Critical,
            Text: text,
            Options: q.Options,
            Right: q.Correct.Count,
            Why: q.Why,
            Picture: q.Picture,
            Alt: q.Alt
        );

    private async Task<Attempt> Begun()
    {
        var (course, quizzes) = (new CourseStore(_db.App), new QuizStore(_db.App));
        foreach (var reading in StartingTraining.Readings)
            await course.Acknowledge(Person, reading.Id, 1, reading.Options[0], Now, default);
        return (await quizzes.Find((await quizzes.Begin(Person, Quiz, Rules, Now, default)).Value, default))!;
    }

    [Fact]
    public async Task Question_RewordedWhileSomebodyHasIt_IsMarkedAsItWasDrawn()
    {
        var (questions, quizzes) = (new QuestionStore(_db.App), new QuizStore(_db.App));
        var attempt = await Begun();
        var places = attempt.Questions.Select((q, i) => (Question: q, Drawn: attempt.Drawn[i])).ToList();
        var (old, drawn) = places.First(p => p.Question.Kind == QuestionKind.Single);
        // The wrong answer of yesterday becomes the right one.
        var turned = Reworded(old, "Asked the other way round?") with { Options = [.. old.Options.Reverse()] };
        var id = (await questions.Change(old.Id, turned, "The other way round.", "m-3", Now, default)).Value;
        id.ShouldNotBe(old.Id);
        foreach (var (question, shown) in places)
        {
            var order = shown.Shown.ToList();
            (
                await quizzes.Answer(attempt.Id, Person, question.Id, [.. question.Correct.Select(c => order.IndexOf(c))], Now, default)
            ).IsOk.ShouldBeTrue(question.Id);
        }
        (await quizzes.End(attempt.Id, Person, Rules, Now, default))!.Mark!.ShouldBe(new QuizMark(18, 18, 100, 0, true));
        (await quizzes.Bank(default)).Select(q => q.Id).ShouldNotContain(old.Id);
        (await quizzes.Bank(default)).Single(q => q.Id == id).Options[0].ShouldBe(old.Options[^1]);
        (await quizzes.Ended(Quiz, 1, default))
            .ShouldHaveSingleItem()
            .Questions.Select(q => q.Id)
            .ShouldContain(drawn.Id, "its answers stay with the old wording");
    }

    [Fact]
    public async Task Question_RewordedInSixWindowsAtOnce_IsOneQuestion()
    {
        var (questions, quizzes) = (new QuestionStore(_db.App), new QuizStore(_db.App));
        var before = await quizzes.Bank(default);
        var old = before.First(q => q.Kind == QuestionKind.Multiple);
        var made = await Task.WhenAll(
            Enumerable.Range(0, 6).Select(i => questions.Change(old.Id, Reworded(old, $"Wording {i}?"), "Six hands.", "m-3", Now, default))
        );
        made.Count(m => m.IsOk).ShouldBe(1);
        made.Where(m => !m.IsOk).ShouldAllBe(m => m.Refusal!.Code == "question.gone");
        var after = await quizzes.Bank(default);
        after.Count.ShouldBe(before.Count);
        after
            .Select(q => q.Id)
            .ToList()
            .IndexOf(made.Single(m => m.IsOk).Value)
            .ShouldBe(before.Select(q => q.Id).ToList().IndexOf(old.Id), "it stands where the old one stood");
        var added = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(_ => questions.Change(null, Reworded(old, "The same words of six?"), "Six hands.", "m-3", Now, default))
        );
        added.Select(a => a.Value).ShouldBeUnique("each has an id of its own");
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).FirstBad.ShouldBeNull();
    }

    [Fact]
    public async Task Question_ThatShowsAPicture_KeepsIt_WhenItsWordsChange()
    {
        var (questions, quizzes) = (new QuestionStore(_db.App), new QuizStore(_db.App));
        var old = (await quizzes.Bank(default)).First(q => q.Kind == QuestionKind.Picture);
        var id = (
            await questions.Change(
                old.Id,
                Reworded(old, "What do you see?") with
                {
                    Picture = null,
                    Alt = null,
                },
                "Shorter.",
                "m-3",
                Now,
                default
            )
        ).Value;
        var reworded = (await quizzes.Bank(default)).Single(q => q.Id == id);
        (reworded.Picture, reworded.Alt).ShouldBe((old.Picture, old.Alt));
    }

    [Fact]
    public async Task Sheet_PublishedWhileSomebodyIsWatched_EndsOnTheVersionItBeganWith()
    {
        var (practicals, sheets) = (new PracticalStore(_db.App), new PracticalSheetStore(_db.App));
        var id = (await practicals.Begin(Person, "heron", "m-3", Rules, Now, default)).Value;
        var seen = (await practicals.Find(id, default))!;
        var change = new PracticalChange(
            seen.Sheet.Title,
            [.. seen.Sheet.Steps, new PracticalStep("new-stop", "Shows the new stop", true)],
            Today.PlusDays(9)
        );
        (
            await sheets.Publish(seen.Sheet.Id, 1, change, "A new stop.", "m-2", Rules, Now + Duration.FromMinutes(1), default)
        ).IsOk.ShouldBeTrue();

        PracticalMark Mark(string step) => new(Guid.NewGuid(), step, StepMark.Unprompted, null, Now + Duration.FromMinutes(2), "m-3");
        (await practicals.Mark(id, [Mark("new-stop")], "m-3", Now + Duration.FromMinutes(2), default)).IsOk.ShouldBeFalse(
            "it is not on this sheet"
        );
        var marked = (
            await practicals.Mark(id, [.. seen.Sheet.Steps.Select(s => Mark(s.Id))], "m-3", Now + Duration.FromMinutes(2), default)
        ).Value;
        foreach (var who in new[] { "m-3", Person })
            (await practicals.Agree(id, marked.Marks.Count, who, Rules, Now + Duration.FromMinutes(3), default)).IsOk.ShouldBeTrue(who);
        var ended = (await practicals.Find(id, default))!;
        (ended.Outcome, ended.Sheet.Version).ShouldBe(("signed", 1));
        (
            await practicals.Find(
                (await practicals.Begin("m-6", "heron", "m-3", Rules, Now + Duration.FromMinutes(4), default)).Value,
                default
            )
        )!
            .Sheet.Steps[^1]
            .Id.ShouldBe("new-stop");
    }

    [Fact]
    public async Task Sheet_PublishedFromTwoTabs_OneWins_AndTheOtherIsTold()
    {
        var sheets = new PracticalSheetStore(_db.App);
        var sheet = (await sheets.All(default))[0];
        var published = await Task.WhenAll(
            Enumerable
                .Range(0, 5)
                .Select(i =>
                    sheets.Publish(
                        sheet.Id,
                        sheet.Version,
                        new PracticalChange($"Title {i}", sheet.Steps, Today),
                        "At once.",
                        "m-2",
                        Rules,
                        Now,
                        default
                    )
                )
        );
        published.Count(p => p.IsOk).ShouldBe(1);
        published.Where(p => !p.IsOk).ShouldAllBe(p => p.Refusal!.Code == "practical.changed");
        (await sheets.All(default)).Single(s => s.Id == sheet.Id).Version.ShouldBe(sheet.Version + 1);
        (await sheets.Repeats(default)).ShouldHaveSingleItem().PracticalId.ShouldBe(sheet.Id);
        (
            await sheets.Publish(null, 0, new PracticalChange("Rotary", sheet.Steps, null), null, "m-2", Rules, Now, default)
        ).Value.Again.ShouldBeEmpty("a first sheet meets nobody");
        (await sheets.All(default)).Select(s => s.Title).ShouldNotContain("Rotary", "looking stores nothing");
    }

    [Fact]
    public async Task Quiz_Anew_TellsWhoPassed_Once_AndPassingAgainIsEnough()
    {
        var course = new CourseStore(_db.App);
        var version = (await course.Modules(default)).Single(m => m.Id == Quiz).Version;
        var passed = (await course.Renew(Quiz, version, Today.PlusDays(3), null, "m-2", Today, Now, default)).Value;
        passed.ShouldNotBeEmpty();
        (await course.Modules(default)).Single(m => m.Id == Quiz).Version.ShouldBe(version, "looking changes nothing");
        var asked = await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(_ => course.Renew(Quiz, version, Today.PlusDays(3), "Half of it is new.", "m-2", Today, Now, default))
        );
        asked.Count(a => a.IsOk).ShouldBe(1);
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (
            await connection.ExecuteScalarAsync<int>(
                "select count(*)::int from people.message where key like @key",
                new { key = $"%{Quiz}.{version + 1}%" }
            )
        ).ShouldBe(passed.Count, "each is told once");
    }

    [Fact]
    public async Task Clock_SetBackAnHour_LosesNoAnswer_NoMarkAndNoAgreement()
    {
        var (quizzes, practicals) = (new QuizStore(_db.App), new PracticalStore(_db.App));
        var attempt = await Begun();
        var earlier = Now - Duration.FromHours(1);
        (
            await quizzes.Answer(
                attempt.Id,
                Person,
                attempt.Questions[0].Id,
                attempt.Questions[0].Kind == QuestionKind.Multiple ? [0, 1]
                    : attempt.Questions[0].Kind == QuestionKind.Order ? [.. Enumerable.Range(0, attempt.Questions[0].Options.Count)]
                    : [0],
                earlier,
                default
            )
        ).IsOk.ShouldBeTrue();
        var ended = (await quizzes.End(attempt.Id, Person, Rules, earlier, default))!;
        ended.Ended.ShouldBe(Now, "no attempt ends before it began");

        var id = (await practicals.Begin("m-6", "heron", "m-3", Rules, Now, default)).Value;
        var steps = (await practicals.Find(id, default))!.Sheet.Steps;
        var marked = (
            await practicals.Mark(
                id,
                [.. steps.Select(s => new PracticalMark(Guid.NewGuid(), s.Id, StepMark.Unprompted, null, earlier, "m-3"))],
                "m-3",
                earlier,
                default
            )
        ).Value;
        marked.Marks.ShouldAllBe(m => m.At == Now);
        foreach (var who in new[] { "m-3", "m-6" })
            (await practicals.Agree(id, marked.Marks.Count, who, Rules, earlier, default)).IsOk.ShouldBeTrue(who);
        (await practicals.Find(id, default))!.Outcome.ShouldBe("signed");
    }

    [Fact]
    public async Task Teaching_APathThatBeginsLater_AsksForNothingBeforeItsDay()
    {
        var (paths, training) = (new PathStore(_db.App), new TrainingStore(_db.App));
        var later = Now + Duration.FromDays(7);
        var path = new TrainingPath(
            "swift/teaching",
            "Teaching",
            [new PathStep(ModuleKind.Authority, "swift"), new PathStep(ModuleKind.SignOff)],
            [new PathStep(ModuleKind.SignOff)],
            new AddOnNeed(ForSigning: true)
        );
        (await paths.Change(path, 0, "Whoever teaches is taught.", later, "m-2", Rules, Now, default)).IsOk.ShouldBeTrue();
        await _db.Tamper(
            "insert into people.role (person_id, role, machine_id, held, recorded) select 'm-9', 'trainer', 'swift', "
                + "tstzrange('2026-11-01', null), tstzrange('2026-11-01', null) where not exists (select from people.role where "
                + "person_id = 'm-9' and role = 'trainer' and machine_id = 'swift' and upper_inf(recorded))"
        );
        Task<Result<(CertificateNow Certificate, IReadOnlyList<string> Open)>> Sign(
            string member,
            Instant at,
            string authority = "swift"
        ) => training.SignOff(member, authority, "Watched.", "m-9", Rules, at, default);
        (await Sign("m-40", Now)).IsOk.ShouldBeTrue();
        (await Sign("m-41", later)).Refusal!.Code.ShouldBe("signOff.authority");
        (await Sign("m-41", later, "swift/teaching")).IsOk.ShouldBeTrue("somebody has to be the first");
        await _db.Tamper(
            "insert into training.certificate (id, person_id, authority, held, signed_by, recorded, text_id) select "
                + "gen_random_uuid(), 'm-9', 'swift/teaching', tstzrange('2026-12-01', '2026-12-20'), 'm-2', tstzrange('2026-12-01', "
                + "null), text_id from training.certificate limit 1"
        );
        (await Sign("m-41", later)).IsOk.ShouldBeTrue();
        (await Sign("m-42", Now + Duration.FromDays(30))).Refusal!.Code.ShouldBe("signOff.authority", "it ended on 20 December");
    }
}
