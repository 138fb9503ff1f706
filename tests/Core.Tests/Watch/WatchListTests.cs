using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Watch;
using Xunit;

namespace VelvetGate.Core.Tests.Watch;

public class WatchListTests
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    private static StewardTask Task(string kind, int hours = 1, string id = "1", int ofKind = 1) =>
        new(
            Kind: kind,
            Id: id,
            PersonId: "m-4",
            GivenName: "Ada",
            FamilyName: "Quill",
            BirthDate: null,
            MachineId: "heron",
            MaterialId: "birch-ply-laser",
            Title: kind == "rulingReview" ? "2026-11-01" : "heron",
            Details: "Smells of chlorine.",
            Body: null,
            At: Now + Duration.FromHours(hours),
            OfKind: ofKind
        );

    private static IReadOnlyList<Need> Of(MachineSpec machine, params StewardTask[] tasks) =>
        new WatchList(
            new Dictionary<MachineId, MachineSpec> { ["heron"] = machine },
            new Dictionary<MaterialId, string> { ["birch-ply-laser"] = "Birch plywood" },
            Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London"),
            LengthUnit.Mm,
            Now
        ).Of(tasks, []);

    private static IReadOnlyList<Need> Of(params StewardTask[] tasks) => Of(GateCase.Heron, tasks);

    [Fact]
    public void WhatIsNow_StandsBeforeWhatCanWait_AndSoonerBeforeLater()
    {
        var needs = Of(Task("certificateLapsing", 48), Task("noShow", -1), Task("certificateLapsing", 30, "2"), Task("machineStopped", -5));
        needs
            .Select(n => n.Kind)
            .ShouldBe([NeedKind.MachineStopped, NeedKind.NoShow, NeedKind.CertificateLapsing, NeedKind.CertificateLapsing]);
        needs[2].By!.Value.ShouldBeLessThan(needs[3].By!.Value);
    }

    [Fact]
    public void MoreOfAKindThanAreShown_AreSaidInOneLine_WithoutASubject()
    {
        var needs = Of([.. Enumerable.Range(0, 25).Select(i => Task("certificateLapsing", 20 + i, $"{i}", ofKind: 160))]);
        needs.Count.ShouldBe(26);
        var more = needs.Single(n => n.Subject == "");
        more.Text.ShouldBe("135 more");
        more.Kind.ShouldBe(NeedKind.CertificateLapsing);
    }

    [Fact]
    public void Reviews_StandInOneLine_HoweverMany()
    {
        Of(Task("certificateReview", ofKind: 300)).ShouldHaveSingleItem().Text.ShouldBe("300 are to be looked at.");
        Of(Task("rulingReview", ofKind: 40)).ShouldHaveSingleItem().Text.ShouldBe("40 materials, Birch plywood first");
    }

    [Theory]
    [InlineData("machineStopped")]
    [InlineData("upkeepOverdue")]
    [InlineData("faultOpen")]
    [InlineData("paperDue")]
    public void OfAMachineThatIsGone_NothingWaits(string kind)
    {
        var task = Task(kind) with { Title = kind == "paperDue" ? "stopsTried" : "Title", Body = "\"2026-11-30\"" };
        Of(task).ShouldHaveSingleItem();
        Of(GateCase.Heron with { HereUntil = new LocalDate(2026, 11, 20) }, task).ShouldBeEmpty();
        Of(GateCase.Heron with { HereUntil = new LocalDate(2026, 11, 20) }, task with { OfKind = 30 }).ShouldBeEmpty("nor many of them");
    }

    /// <summary>Every kind that a room can offer has words, and a link’s subject.</summary>
    private static string TitleOf(NeedKind kind) =>
        kind switch
        {
            NeedKind.RulingReview => "2026-11-01",
            NeedKind.IncidentOpen or NeedKind.FireWatchRunning or NeedKind.IncidentActionLate or NeedKind.RoomShut => "3",
            NeedKind.PaperDue => "localRules",
            _ => "Title",
        };

    [Fact]
    public void EveryKind_HasWords()
    {
        foreach (var kind in Enum.GetValues<NeedKind>().Where(k => k != NeedKind.RoomShort))
        {
            var body =
                kind == NeedKind.AskWaiting
                    ? """
                        {"memberId":"m-4","machineId":"heron","items":[{"materialId":"birch-ply-laser","thicknessMm":3,
                         "operations":["cut"]}],
                         "start":"2026-11-24T12:00:00Z","minutes":60}
                        """
                : kind == NeedKind.IncidentOpen ? """{"severity":2,"watch":true,"causeless":true}"""
                : kind is NeedKind.IncidentActionLate or NeedKind.PaperDue ? "\"2026-11-30\""
                : null;
            var name = char.ToLowerInvariant(kind.ToString()[0]) + kind.ToString()[1..];
            var need = Of(
                    Task(name) with
                    {
                        Body = body,
                        Title = TitleOf(kind),
                        Details = kind switch
                        {
                            NeedKind.IncidentOpen => "flame",
                            NeedKind.KitWrong => "seal,damaged",
                            _ => "Details",
                        },
                    }
                )
                .ShouldHaveSingleItem();
            need.Kind.ShouldBe(kind);
            need.Title.ShouldNotBeNullOrWhiteSpace();
            need.Text.ShouldNotBeNullOrWhiteSpace();
        }
    }
}
