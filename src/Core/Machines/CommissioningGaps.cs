using System.Globalization;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>
/// What of a machine nobody has shown yet. Source: common practice for machines with an enclosed beam; the maker’s manual, local rules and
/// the extraction engineer decide.
/// </summary>
public static class CommissioningGaps
{
    /// <param name="sheet">The last; null where there is none.</param>
    /// <param name="room">Null where nobody described it.</param>
    /// <param name="controller">A controller of ours is wired in.</param>
    /// <returns>Each in words, in the order in which it is best done; empty where all is shown.</returns>
    public static IReadOnlyList<string> Of(MachineSpec machine, CommissioningSheet? sheet, RoomSpec? room, bool controller) =>
        [.. Sheet(machine, sheet, controller), .. Form(machine), .. Room(machine, room)];

    private static IEnumerable<string> Sheet(MachineSpec machine, CommissioningSheet? sheet, bool controller)
    {
        if (sheet is null)
        {
            yield return "a commissioning sheet";
            yield break;
        }
        if (sheet.Wiring.Length == 0)
            yield return "who looked at earth and wiring";
        if (!machine.BeamCanReachPeople && !sheet.MakersGone)
            yield return "the maker’s interlock, tried with the service key turned";
        if (controller && !sheet.RelayGone)
            yield return "our relay, tried with the lid open";
        if (controller && !sheet.IsControllerShown)
            yield return "who wired our controller, with whose consent, and the class assessed after it";
        if (!machine.BeamCanReachPeople && sheet.WindowNm is null)
            yield return "which wavelength the window is for";
        else if (sheet.WindowNm is { } window && Math.Abs(window - machine.WavelengthNm) > machine.WavelengthNm / 10)
            yield return string.Create(
                CultureInfo.InvariantCulture,
                $"a window for {machine.WavelengthNm} nm: the one there is for {window} nm"
            );
        else if (sheet.WindowNm is not null && sheet.WindowOd is null)
            yield return "the optical density of the window";
        if (sheet.AirflowHow.Length == 0)
            yield return "how the airflow was measured";
        if (sheet.InwardMS is null or 0)
            yield return "the inward speed at the openings, from the extraction engineer";
        if (sheet.Stages.Count == 0)
            yield return "the stages of the extraction, each with its life";
        if (machine.Extraction != Extraction.Filtered && sheet.Route.Length == 0)
            yield return "the route of the duct";
        if (!sheet.Level)
            yield return "that it stands level";
    }

    private static IEnumerable<string> Form(MachineSpec machine)
    {
        if (machine.AirflowM3PerHour <= 0 || machine.EnclosureM3 <= 0)
            yield return "measured airflow and enclosure volume";
        if (machine.Station?.EnclosureKind is null)
            yield return "how it is enclosed";
        if (machine is { WaterCooled: true, Station.RoomMinimumC: null })
            yield return "how cold the room may be";
    }

    private static IEnumerable<string> Room(MachineSpec machine, RoomSpec? room)
    {
        if (machine.Extraction != Extraction.Filtered && string.IsNullOrWhiteSpace(room?.Discharge))
            yield return "a paper that permits discharge outdoors";
        if (machine.Extraction == Extraction.Filtered && string.IsNullOrWhiteSpace(room?.FreshAir))
            yield return "how the room gets fresh air";
        if (machine.Extraction == Extraction.Filtered && room?.CoAlarm != true)
            yield return "a carbon-monoxide alarm";
    }
}
