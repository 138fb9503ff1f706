using NodaTime;
using Shouldly;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

/// <summary>
/// The setting at the machine against the sheet as measured. Heron has 80 W; a cut of 3 mm that came out clean had 3 J/mm, so that 60 % at
/// 8 mm/s, 6 J/mm, is twice what it needs.
/// </summary>
public class SessionGateTests
{
    private static readonly Instant Now = GateCase.Start;

    private static IReadOnlyList<string> Against(SetTo set, params decimal[] mm)
    {
        var entry = GateCase.Entry(3);
        var c = GateCase.Open().With(f => f with { Settings = [entry] });
        var session = new StationSession
        {
            Id = Guid.NewGuid(),
            MachineId = "heron",
            Person = "m-4",
            Booking = Guid.NewGuid(),
            TappedIn = Now,
            Until = Now + Duration.FromMinutes(90),
            Items = c.Ask.Items,
            Places = [],
            Sheet = new SheetSeen("S-0097", mm),
            Set = set.Id is null ? set : set with { Id = entry.Id },
        };
        var facts = SessionGate.Known(session, c.Facts with { Now = Now }, null);
        return [.. SessionGate.Against(session, SessionGate.Ask(session, Now), facts).Select(r => r.Code)];
    }

    [Fact]
    public void ValuesOfOnesOwn_AreHeldAgainstWhatTheSheetNeeds()
    {
        Against(new SetTo(null, 60, 8, 1), 3).ShouldBe(["settings.double"]);
        Against(new SetTo(null, 60, 9.9m, 1), 3).ShouldBe(["settings.hot"]);
        Against(new SetTo(null, 60, 16, 1), 3).ShouldBeEmpty();
        Against(new SetTo(null, 60, 16, 2), 3).ShouldBe(["settings.double"]);
    }

    /// <summary>An entry for 3 mm on a sheet that is 1.5 mm in one place is twice the energy there.</summary>
    [Fact]
    public void ThinnestPlace_DecidesAboutTheSetting()
    {
        Against(new SetTo(Guid.NewGuid(), 60, 20, 1), 3, 3, 3).ShouldBeEmpty();
        Against(new SetTo(Guid.NewGuid(), 60, 20, 1), 3, 1.5m, 3).ShouldContain("settings.double");
    }
}
