using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.People;

public class PeopleRulesTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly LocalDate Today = new(2026, 11, 24);
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "The Shed", "Europe/London");

    [Theory]
    [InlineData(Role.Steward, null, "b", true, false, null)]
    [InlineData(Role.Steward, null, "b", false, true, "role.keeper")]
    [InlineData(Role.Keeper, null, "a", true, true, "role.self")]
    [InlineData(Role.Trainer, "heron", "b", false, true, null)]
    [InlineData(Role.Trainer, "heron", "b", true, false, "role.trainer")]
    [InlineData(Role.Trainer, null, "b", true, true, "role.machine")]
    [InlineData(Role.Steward, "heron", "b", true, true, "role.machine")]
    [InlineData(Role.Repair, "heron", "b", true, false, null)]
    public void MayGive_ARole(Role role, string? machine, string to, bool keeper, bool trainer, string? code) =>
        (RoleGrants.May(role, Ids.From<MachineId>(machine), to, "a", keeper, trainer, null, Now)?.Code).ShouldBe(code);

    [Fact]
    public void MayGive_ARoleThatHasEnded_IsRefused() =>
        RoleGrants.May(Role.Steward, null, "b", "a", true, false, Now, Now)!.Field.ShouldBe("until");

    [Theory]
    [InlineData(-800, -800, false, null, null)]
    [InlineData(-700, -800, false, null, "erase.retention")]
    [InlineData(-800, -10, false, null, "erase.retention")]
    [InlineData(-800, -800, true, null, "erase.legalHold")]
    [InlineData(5, -800, false, null, "erase.open")]
    [InlineData(-800, -800, false, "the role keeper", "erase.owns")]
    public void MayErase_AfterRetentionAndWithoutHolds(int endedDaysAgo, int lastDaysAgo, bool hold, string? owns, string? code) =>
        (
            Retention
                .MayErase(
                    "b",
                    "a",
                    Now + Duration.FromDays(endedDaysAgo),
                    Now + Duration.FromDays(lastDaysAgo),
                    hold,
                    owns is null ? [] : [owns],
                    Rules,
                    Now
                )
                ?.Code
        ).ShouldBe(code);

    [Fact]
    public void MayErase_AnOpenAccountOrOneself_IsRefused()
    {
        Retention.MayErase("b", "a", null, null, false, [], Rules, Now)!.Code.ShouldBe("erase.open");
        Retention.MayErase("a", "a", Now - Duration.FromDays(900), null, false, [], Rules, Now)!.Code.ShouldBe("erase.self");
    }

    /// <summary>
    /// A minor's injury stays three years past 18 (a usual limitation period; local law decides), an adult's for the retention period.
    /// </summary>
    [Fact]
    public void InjuryKeptUntil_OfAMinor_IsAtTwentyOne()
    {
        var clock = Rules.Clock;
        clock.DateOf(Retention.InjuryKeptUntil(new LocalDate(2012, 6, 1), Now, Rules)).ShouldBe(new LocalDate(2033, 6, 1));
        clock.DateOf(Retention.InjuryKeptUntil(new LocalDate(1990, 6, 1), Now, Rules)).ShouldBe(new LocalDate(2028, 11, 24));
        clock.DateOf(Retention.InjuryKeptUntil(null, Now, Rules)).ShouldBe(new LocalDate(2028, 11, 24));
        clock
            .DateOf(Retention.InjuryKeptUntil(new LocalDate(2008, 11, 25), Now, Rules))
            .ShouldBe(new LocalDate(2029, 11, 25), "seventeen on that day");
    }

    [Fact]
    public void LatestBirth_OfABand_NeverMakesSomebodyOlderThanTheyMayBe()
    {
        var latest = Ages.LatestBirth("14to15", Today);
        Ages.On(latest, Today).ShouldBe(14);
        Ages.On(latest, Today.PlusYears(2)).ShouldBe(16);
        Ages.On(null, Today).ShouldBeNull();
        Ages.On(new LocalDate(2008, 2, 29), new LocalDate(2026, 2, 28)).ShouldBe(17);
        Ages.On(new LocalDate(2008, 2, 29), new LocalDate(2026, 3, 1)).ShouldBe(18);
    }

    [Fact]
    public void Founding_OnlyWithoutTrainers_WithEvidence_ForTwelveMonths()
    {
        SignOffs.Found(true, "Maker’s course.", Rules, Now).Refusal!.Code.ShouldBe("founding.trainers");
        SignOffs.Found(false, " ", Rules, Now).Refusal!.Field.ShouldBe("evidence");
        Rules
            .Clock.DateOf(SignOffs.Found(false, "Maker’s course.", Rules, Now).Value.End!.Value - Duration.FromMinutes(1))
            .ShouldBe(new LocalDate(2027, 11, 24));
        SignOffs.MayConfirm("p", "setter", "other").ShouldBeNull();
        SignOffs.MayConfirm("p", "setter", "p")!.Code.ShouldBe("founding.self");
        SignOffs.MayConfirm("p", "setter", "setter")!.Code.ShouldBe("founding.self");
    }

    [Theory]
    [InlineData("learner", "trainer", null)]
    [InlineData("learner", "learner", "run.notYours")]
    [InlineData("trainer", "learner", null)]
    [InlineData("desk", "trainer", null)]
    [InlineData("desk", "desk", "run.notYours")]
    public void SupervisedRun_CountsByTheWordOfBoth(string loggedBy, string by, string? code) =>
        (RunLog.MayConfirm("learner", "trainer", loggedBy, by)?.Code).ShouldBe(code);

    [Theory]
    [InlineData(14, false, "noShow.grace")]
    [InlineData(15, false, null)]
    [InlineData(20, true, "noShow.arrived")]
    [InlineData(90, false, "noShow.over")]
    public void NoShow_IsReleasedAfterTheGrace(int minutesIn, bool arrived, string? code) =>
        (RunLog.MayRelease(Now, Now + Duration.FromMinutes(90), arrived, false, 15, Now + Duration.FromMinutes(minutesIn))?.Code).ShouldBe(
            code
        );

    [Fact]
    public void MostAtOnce_CountsWhatSharesAnInstantInTheWindow()
    {
        Span At(int from, int to) => new(Now + Duration.FromHours(from), Now + Duration.FromHours(to));
        Span.MostAtOnce([At(0, 2), At(1, 3), At(2, 4)], Now, Now + Duration.FromHours(4)).ShouldBe(2, "touching ends do not overlap");
        Span.MostAtOnce([At(0, 2), At(1, 3)], Now + Duration.FromHours(2), Now + Duration.FromHours(4)).ShouldBe(1);
        Span.MostAtOnce([], Now, Now).ShouldBe(0);
    }
}

public class PeopleCsvTests
{
    private static readonly LocalDate Today = new(2026, 11, 24);

    [Theory]
    [InlineData(",")]
    [InlineData(";")]
    [InlineData("\t")]
    public void Read_WithAnyUsualSeparator_TakesQuotesAndAccents(string separator)
    {
        var text =
            $"\uFEFFGiven name,Family name,Birth date,Email\r\nZoë,\"O'Neil-Ó Dálaigh\",2012-05-31,z@house.example\r\n\"Ann \"\"Annie\"\"\",Low,,\r\n".Replace(
                ",",
                separator,
                StringComparison.Ordinal
            );
        var rows = PeopleCsv.Read(text, Today).Value;
        rows.Select(r => r.Errors.Count).ShouldBe([0, 0]);
        rows[0]
            .Person.ShouldBe(
                new NewPerson(
                    GivenName: "Zoë",
                    FamilyName: "O'Neil-Ó Dálaigh",
                    BirthDate: new LocalDate(2012, 5, 31),
                    Band: null,
                    Email: "z@house.example",
                    SignInName: null,
                    AccountEnds: null
                )
            );
        rows[1].Person!.GivenName.ShouldBe("Ann \"Annie\"");
    }

    [Theory]
    [InlineData("", "csv.empty")]
    [InlineData("name\nAnn", "csv.heading")]
    [InlineData("given name,family name,shoe size\nAnn,Low,39", "csv.heading")]
    [InlineData("given name,family name\n\"Ann,Low", "csv.bad")]
    [InlineData("given name,family name\nA\uFFFDn,Low", "csv.encoding")]
    public void Read_AFileThatCannotBeTaken_SaysWhy(string text, string code) => PeopleCsv.Read(text, Today).Refusal!.Code.ShouldBe(code);

    [Theory]
    [InlineData("Ann,,,,", "familyName")]
    [InlineData("Ann,Low,31.5.2012,,", "birthDate")]
    [InlineData("Ann,Low,2030-01-01,,", "birthDate")]
    [InlineData("Ann,Low,2012-05-31,14to15,", "ageBand")]
    [InlineData("Ann,Low,,teen,", "ageBand")]
    [InlineData("Ann,Low,,,nowhere", "email")]
    [InlineData("=HYPERLINK(1),Low,,,", "givenName")]
    public void Read_ARowAtFault_NamesTheField(string row, string field) =>
        PeopleCsv
            .Read($"given name,family name,birth date,age band,email\n{row}", Today)
            .Value.ShouldHaveSingleItem()
            .Errors.ShouldHaveSingleItem()
            .Field.ShouldBe(field);

    [Fact]
    public void Read_TheSamePersonTwice_NamesTheLine() =>
        PeopleCsv
            .Read("given name,family name\nAnn,Low\nBea,High\nann,LOW", Today)
            .Value[2]
            .Errors.ShouldHaveSingleItem()
            .Text.ShouldContain("line 2");

    [Fact]
    public void Check_ABand_KeepsNoBirthDateButTheLatestItAllows() =>
        PeopleCsv
            .Check("Ann", "Low", null, "16to17", null, null, null, Today)
            .Person.ShouldBe(
                new NewPerson(
                    GivenName: "Ann",
                    FamilyName: "Low",
                    BirthDate: new LocalDate(2010, 11, 24),
                    Band: "16to17",
                    Email: null,
                    SignInName: null,
                    AccountEnds: null
                )
            );
}
