using NodaTime;
using Shouldly;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Booking;

public class TimeWordsTests
{
    /// <summary>A Tuesday in winter: London is UTC.</summary>
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "h", "Europe/London");

    private static TimeWish Read(string words) => TimeWords.Read(words, Now, Rules.Clock).Value;

    private static Instant Day(int day, int month = 11) => Instant.FromUtc(2026, month, day, 0, 0);

    [Fact]
    public void Read_SeveralPhrases_AllHold()
    {
        var wish = Read("After 17:00, not Saturdays and Sundays, before 3 December.");
        wish.From.ShouldBe(new LocalTime(17, 0));
        wish.NotOn.ShouldBe([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday]);
        wish.Before.ShouldBe(Day(3, 12));
        TimeWords
            .Says(wish, Now, Day(15, 12), Rules)
            .ShouldBe("from Tue 24 Nov 10:15 to Thu 3 Dec 00:00, no start before 17:00, Saturday, Sunday left out");
    }

    [Theory]
    [InlineData("between 9:30 and 12:00", 9, 12)]
    [InlineData("9:30 to 12:00", 9, 12)]
    [InlineData("from 9:30 and until 12:00", 9, 12)]
    public void Read_TwoTimes_AreTheBoundsOfADay(string words, int from, int to)
    {
        var wish = Read(words);
        (wish.From, wish.To).ShouldBe((new LocalTime(from, 30), new LocalTime(to, 0)));
    }

    [Theory]
    [InlineData("today", 24, 25)]
    [InlineData("tomorrow", 25, 26)]
    [InlineData("on Friday", 27, 28)]
    [InlineData("Friday", 27, 28)]
    [InlineData("27 November", 27, 28)]
    [InlineData("on 27th nov", 27, 28)]
    [InlineData("2026-11-27", 27, 28)]
    [InlineData("November 27", 27, 28)]
    [InlineData("this week", 23, 30)]
    public void Read_Days_AreWholeDaysOfTheHouse(string words, int from, int to)
    {
        var wish = Read(words);
        (wish.After, wish.Before).ShouldBe((Day(from), Day(to)));
    }

    [Fact]
    public void Read_EdgesOfADate_MeanWhatPeopleMean()
    {
        Read("before Friday").Before.ShouldBe(Day(27));
        Read("by Friday").Before.ShouldBe(Day(28), "Friday is still in it");
        Read("after Friday").After.ShouldBe(Day(28));
        Read("from Friday").After.ShouldBe(Day(27));
        Read("from 3 January").After.ShouldBe(Instant.FromUtc(2027, 1, 3, 0, 0), "the next one");
    }

    [Fact]
    public void Read_OnlySomeDays_LeavesTheOthersOut()
    {
        Read("only Mondays or Fridays").NotOn!.Count.ShouldBe(5);
        Read("weekdays").NotOn.ShouldBe([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday]);
        Read("Fridays").NotOn!.ShouldNotContain(IsoDayOfWeek.Friday);
        Read("not at weekends").NotOn.ShouldBe([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday]);
        Read("evenings").From.ShouldBe(new LocalTime(18, 0));
        Read(" ").ShouldBe(TimeWish.Any);
    }

    [Theory]
    [InlineData("whenever", "whenever")]
    [InlineData("after 17:00, soonish", "soonish")]
    [InlineData("after 27:00", "after 27:00")]
    [InlineData("not someday", "not someday")]
    [InlineData("31 February", "31 february")]
    public void Read_WhatIsNotUnderstood_IsNamed(string words, string named)
    {
        var refused = TimeWords.Read(words, Now, Rules.Clock).Refusal.ShouldNotBeNull();
        refused.Code.ShouldBe("wish.words");
        refused.Text.ShouldContain($"“{named}”");
    }

    [Theory]
    [InlineData("after Friday, before Thursday")]
    [InlineData("from 17:00, until 12:00")]
    [InlineData("not weekdays, not weekends")]
    public void Read_WhatLeavesNothing_SaysSo(string words) =>
        TimeWords.Read(words, Now, Rules.Clock).Refusal.ShouldNotBeNull().Code.ShouldBe("wish.empty");
}
