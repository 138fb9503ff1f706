using NodaTime;
using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class NearMissesTests
{
    private static readonly LocalDate Tuesday = new(2026, 11, 24);

    private static NearMiss Told(Mishap what = Mishap.LidTooSoon, string note = "", NearMissTime? when = null) =>
        new(Guid.NewGuid(), when ?? new(Tuesday, NearMissSpan.Morning), "heron", what, note);

    [Theory]
    [InlineData(0, 0, "2026-11-24 morning")]
    [InlineData(11, 59, "2026-11-24 morning")]
    [InlineData(12, 0, "2026-11-24 afternoon")]
    [InlineData(23, 59, "2026-11-24 afternoon")]
    public void When_IsTheHalfOfTheDay(int hour, int minute, string kept)
    {
        var time = NearMissTime.At(Tuesday + new LocalTime(hour, minute), few: false);
        time.ToString().ShouldBe(kept);
        NearMissTime.Read(kept).ShouldBe(time);
    }

    /// <summary>Where few use the machine, a half day would name one of them.</summary>
    [Theory]
    [InlineData(23)]
    [InlineData(24)]
    [InlineData(29)]
    public void When_IsTheWeekWhereFewUseIt(int day) =>
        NearMissTime.At(new LocalDate(2026, 11, day) + new LocalTime(9, 0), few: true).ToString().ShouldBe("2026-11-23 week");

    [Theory]
    [InlineData("2026-11-24")]
    [InlineData("2026-11-24 10:15")]
    [InlineData("2026-11-24 evening")]
    [InlineData("2026-11-24 week")] // a Tuesday
    [InlineData("24.11.2026 morning")]
    public void AMinute_IsNoHalfDay(string text) => NearMissTime.Read(text).ShouldBeNull();

    [Fact]
    public void Contents_ShowOnceTheirTimeIsOver()
    {
        new NearMissTime(Tuesday, NearMissSpan.Morning).Over.ShouldBe(Tuesday + LocalTime.Noon);
        new NearMissTime(Tuesday, NearMissSpan.Afternoon).Over.ShouldBe(Tuesday.PlusDays(1).AtMidnight());
        new NearMissTime(new(2026, 11, 23), NearMissSpan.Week).Over.ShouldBe(new LocalDate(2026, 11, 30).AtMidnight());
    }

    [Theory]
    [InlineData(Mishap.Fume)]
    [InlineData(Mishap.InterlockFailed)]
    public void WhatSomebodyHasToActOn_IsToldWithAName(Mishap what) =>
        NearMisses.Check(Told(what), Tuesday)!.Code.ShouldBe("nearMiss.what");

    [Fact]
    public void Nonsense_IsRefused()
    {
        NearMisses.Check(Told(), Tuesday).ShouldBeNull();
        NearMisses.Check(Told(note: new string('x', 501)), Tuesday)!.Code.ShouldBe("nearMiss.note");
        NearMisses.Check(Told(when: new(Tuesday.PlusDays(1), NearMissSpan.Morning)), Tuesday)!.Code.ShouldBe("nearMiss.day");
        NearMisses.Check(Told(when: new(Tuesday.PlusDays(-60), NearMissSpan.Morning)), Tuesday)!.Code.ShouldBe("nearMiss.day");
        NearMisses.Check(Told(when: new(Tuesday.PlusDays(-20), NearMissSpan.Morning)), Tuesday).ShouldBeNull("it waited for a network");
    }

    /// <summary>The digest says what was told, and nothing of the order it came in.</summary>
    [Fact]
    public void Digest_IsTheSameInAnyOrder_AndOfNothingElse()
    {
        NearMiss[] told = [Told(), Told(Mishap.Flame, "It stayed."), Told(Mishap.Smoke)];
        var digest = NearMisses.Digest(told);
        NearMisses.Digest(told.Reverse()).ShouldBe(digest);
        NearMisses.Digest(told.Take(2)).ShouldNotBe(digest);
        NearMisses.Digest([told[0], told[1] with { Note = "It died." }, told[2]]).ShouldNotBe(digest);
    }
}
