using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>One stage of an extraction, in the order of the air.</summary>
/// <param name="Stage">Such as particle filter, carbon, fan.</param>
/// <param name="Lasts">How long it lasts, as its maker says.</param>
public sealed record ExtractionStage(string Stage, string Lasts);

/// <summary>
/// What was looked at, tried and measured when a machine was set up where it stands, or set up anew. What is empty was not done, or nobody
/// wrote it down. Numbers that the machine is worked out by stand on its own form.
/// </summary>
/// <param name="By">Who answers for the sheet.</param>
/// <param name="Wiring">Who looked at earth and wiring, with which paper.</param>
/// <param name="InterlocksOn">When the interlocks were tried.</param>
/// <param name="MakersGone">With the service key turned, lid open a finger, a hand, half: the beam gone at once each time.</param>
/// <param name="RelayGone">The same with the key back, by our own lid contact and relay.</param>
/// <param name="WiredBy">Who wired our controller into the maker’s enable input.</param>
/// <param name="Consent">With whose consent.</param>
/// <param name="ClassAnew">By whom the class was assessed after the wiring, and what it came to.</param>
/// <param name="WindowNm">Wavelength that the window is stated for, in nm.</param>
/// <param name="WindowOd">Optical density that its maker states there.</param>
/// <param name="AirflowHow">How, by whom and at which fan level the airflow was measured.</param>
/// <param name="InwardMS">Inward speed at the openings, from the extraction engineer, in m/s.</param>
/// <param name="Route">Of the duct, to where it comes out.</param>
/// <param name="Level">It stands level, on a stand that carries it.</param>
public sealed record CommissioningSheet(
    LocalDate On,
    string By,
    string Wiring,
    LocalDate? InterlocksOn,
    bool MakersGone,
    bool RelayGone,
    string WiredBy,
    string Consent,
    string ClassAnew,
    int? WindowNm,
    decimal? WindowOd,
    string AirflowHow,
    decimal? InwardMS,
    string Route,
    IReadOnlyList<ExtractionStage> Stages,
    bool Level
)
{
    /// <summary>When the interlocks are shown by this sheet; null where it does not show them.</summary>
    /// <param name="controller">A controller of ours is at the machine: its relay is tried, too.</param>
    public LocalDate? InterlocksShown(bool controller) => MakersGone && (RelayGone || !controller) ? InterlocksOn : null;

    /// <summary>Whoever wired our controller is known, with consent, and the class was assessed after it.</summary>
    public bool IsControllerShown => WiredBy.Length > 0 && Consent.Length > 0 && ClassAnew.Length > 0;
}

/// <summary>What is known of how a machine was set up, and of its interlocks since.</summary>
/// <param name="On">Start of the day of the last sheet; null where there is none.</param>
/// <param name="Missing">What is not shown, in words.</param>
/// <param name="InterlocksAt">When the interlocks were last tried, with the beam gone each time; null where nobody did.</param>
/// <param name="ControllerShown">False where a controller is wired in and nobody wrote down by whom, with consent, and the class
/// anew.</param>
public sealed record SetUpFacts(Instant? On, IReadOnlyList<string> Missing, Instant? InterlocksAt, bool ControllerShown)
{
    /// <param name="sheet">The last; null where there is none.</param>
    /// <param name="room">Null where nobody described it.</param>
    /// <param name="controller">A controller of ours is wired in.</param>
    /// <param name="tried">When the interlocks were last tried since, in upkeep, after work or after a break.</param>
    public static SetUpFacts Of(
        MachineSpec machine,
        CommissioningSheet? sheet,
        RoomSpec? room,
        bool controller,
        Instant? tried,
        HouseClock clock
    )
    {
        var shown = sheet?.InterlocksShown(controller) is { } day ? clock.Day(day).Start : (Instant?)null;
        return new(
            On: sheet is null ? null : clock.Day(sheet.On).Start,
            Missing: CommissioningGaps.Of(machine, sheet, room, controller),
            InterlocksAt: tried is null || shown > tried ? shown : tried,
            ControllerShown: !controller || sheet is { IsControllerShown: true }
        );
    }
}
