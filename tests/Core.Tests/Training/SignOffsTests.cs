using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Core.Watch;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

public class SignOffsTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);
    private readonly HouseRules _rules = Packs.Start(Packs.StaffedWorkshop, "h", "Europe/London");
    private readonly Span[] _trains = [new(Now - Duration.FromDays(1))];

    [Fact]
    public void Sign_ByATrainer_HoldsToTheMidnightAfterTwelveMonths() =>
        SignOffs
            .Sign("m-3", "m-5", "heron", "All steps unprompted.", _trains, _rules, Now)
            .Value.ShouldBe(new Span(Now, Instant.FromUtc(2027, 11, 25, 0, 0)));

    [Theory]
    [InlineData("m-3", "m-3", "note", true, "signOff.self")]
    [InlineData("m-3", "m-5", "note", false, "signOff.authority")]
    [InlineData("m-3", "m-5", " ", true, "signOff.note")]
    public void Sign_AgainstTheRules_IsRefused(string signer, string member, string note, bool trains, string code) =>
        SignOffs.Sign(signer, member, "heron", note, trains ? _trains : [], _rules, Now).Refusal!.Code.ShouldBe(code);

    [Fact]
    public void Sign_AuthorityEndingNow_NoLongerCounts() =>
        SignOffs
            .Sign("m-3", "m-5", "heron", "note", [new Span(Now - Duration.FromDays(9), Now)], _rules, Now)
            .Refusal!.Code.ShouldBe("signOff.authority");

    [Fact]
    public void Trains_WhereThereIsAPathForTeaching_OnlyWhileBothHold()
    {
        var role = new Span(Now - Duration.FromDays(9));
        Certificate[] held =
        [
            new("heron/trainer", new Span(Now - Duration.FromDays(2), Now + Duration.FromDays(5))),
            new("heron/trainer", new Span(Now - Duration.FromDays(99), Now - Duration.FromDays(50))),
            new("heron", role),
        ];
        SignOffs.Trains("heron", [role], [], []).ShouldBe([role], "a house without such a path");
        SignOffs.Trains("heron", [role], ["heron/trainer"], held).ShouldBe([held[0].Held]);
        SignOffs.Trains("heron/rotary", [role], ["heron/trainer"], []).ShouldBeEmpty();
        SignOffs.Trains("heron/trainer", [role], ["heron/trainer"], []).ShouldBe([role], "somebody has to be the first");
        SignOffs.Trains("heron", [], ["heron/trainer"], held).ShouldBeEmpty("the certificate alone is no role");
    }

    [Theory]
    [InlineData(0, 4, 2, 6, 2, 4)]
    [InlineData(2, 6, 0, 4, 2, 4)]
    [InlineData(0, null, 2, 6, 2, 6)]
    [InlineData(2, null, 0, null, 2, null)]
    [InlineData(0, 2, 2, 6, null, null)] // touching ends share nothing
    [InlineData(4, null, 0, 4, null, null)]
    public void Shared_IsWhatBothHold(int start, int? end, int otherStart, int? otherEnd, int? from, int? until)
    {
        Span Of(int a, int? b) => new(Now + Duration.FromHours(a), b is { } e ? Now + Duration.FromHours(e) : null);
        Of(start, end).Shared(Of(otherStart, otherEnd)).ShouldBe(from is { } f ? Of(f, until) : null);
    }

    [Theory]
    [InlineData("2028-02-29T12:00:00Z", "2029-03-01T00:00:00Z")] // a leap day's year ends on 28 February
    [InlineData("2026-08-31T12:00:00Z", "2027-08-31T23:00:00Z")] // summer time: local midnight is 23:00 UTC
    public void EndOf_LeapDaysAndSummerTime(string at, string end) =>
        SignOffs.EndOf(Instants.Parse(at).Value, _rules).ShouldBe(Instants.Parse(end).Value);

    [Fact]
    public void EndOf_School_IsTheEndOfTheSchoolYear() =>
        SignOffs.EndOf(Now, _rules with { CertificateMonths = 0 }).ShouldBe(Instant.FromUtc(2027, 7, 31, 23, 0));

    [Theory]
    [InlineData("Ines", "Calloway", 29, true, "Ines Calloway")]
    [InlineData("Ines", "Calloway", 29, false, "Ines C.")]
    [InlineData("Juno", "Applegarth", 16, false, "J. A.")]
    [InlineData("Oisín", "Ödegård", null, false, "Oisín Ö.")]
    [InlineData("Erased", "", null, false, "Erased")]
    public void PersonName_ForOthers(string given, string family, int? age, bool whole, string shown) =>
        PersonName.For(given, family, age, whole).ShouldBe(shown);

    [Fact]
    public void NeedsAHand_WorstFirstThenSoonest()
    {
        var needs = NeedsAHand.Order([
            NeedsAHand.Lapsing("A", "Heron", Now + Duration.FromDays(10), Now, "a"),
            NeedsAHand.Asked("B", "cut", Now + Duration.FromHours(30), Now, "b"),
            NeedsAHand.Stopped("Wren", "smoke", "s"),
            NeedsAHand.Lapsing("C", "Heron", Now + Duration.FromHours(1), Now, "c"),
            NeedsAHand.Asked("D", "cut", Now + Duration.FromHours(1), Now, "d"),
        ]);
        needs.Select(n => n.Subject).ShouldBe(["s", "d", "c", "b", "a"]);
        needs.Select(n => n.Urgency).ShouldBe([4, 4, 3, 2, 1]);
    }
}
