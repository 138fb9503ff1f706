using System.Globalization;

namespace VelvetGate.Core.Machines;

/// <summary>What is measured at a machine now; null for what is silent or has no sensor.</summary>
/// <param name="FanOn">The extraction is meant to run: before, its airflow says nothing.</param>
public sealed record LiveReadings(
    bool FanOn,
    decimal? AirflowM3PerHour = null,
    decimal? CoolantC = null,
    decimal? CoolantLPerMin = null,
    decimal? RoomC = null,
    decimal? HumidityPercent = null
);

/// <summary>One thing that is measured, and what it means.</summary>
/// <param name="Code">Of the gate’s rule that it meets; null where it is good, or says nothing yet.</param>
/// <param name="Good">Between these; null for an open side.</param>
/// <param name="ShutFrom">Below this nothing runs; null for none. <paramref name="ShutTo"/>: above.</param>
/// <param name="Says">A sentence.</param>
public sealed record ReadingNow(
    string What,
    string Unit,
    decimal? Value,
    string? Code,
    (decimal? From, decimal? To) Good,
    decimal? ShutFrom,
    decimal? ShutTo,
    string Says
);

/// <summary>
/// What readings mean. Airflow is held against that at commissioning; which parts of it are too little is house practice, the extraction
/// engineer decides. Coolant limits are the machine’s own; the maker’s manual comes first.
/// </summary>
public static class ReadingRules
{
    public const decimal DuePart = 0.85m;
    public const decimal LowPart = 0.75m;

    /// <summary>Below this nothing runs; also what is taken where nobody has read the airflow.</summary>
    public const decimal ShutPart = 0.65m;

    /// <summary>°C: colder coolant is a caution. House practice.</summary>
    public const decimal CoolantCoolC = 15;

    /// <summary>K above the dew point in which water forms on a tube. House practice.</summary>
    public const decimal DewMarginK = 2;

    public static IReadOnlyList<ReadingNow> Of(MachineSpec machine, LiveReadings read) =>
        [
            Airflow(machine, read),
            .. machine is { WaterCooled: true, Station: { } station }
                ? [Coolant(machine.Name, station, read), .. read.CoolantLPerMin is { } flow ? [Flow(flow)] : Array.Empty<ReadingNow>()]
                : Array.Empty<ReadingNow>(),
            .. read.RoomC is { } room && LeastRoom(machine) is { } least ? [Room(machine, room, least)] : Array.Empty<ReadingNow>(),
        ];

    /// <summary>Those of the readings given that are not good; what was not read says nothing.</summary>
    public static IEnumerable<ReadingNow> Known(MachineSpec machine, LiveReadings read) =>
        Of(machine, read).Where(r => r.Value is not null && r.Code is not null);

    private static ReadingNow Airflow(MachineSpec machine, LiveReadings read)
    {
        var whole = machine.AirflowM3PerHour;
        var (due, low, shut) = (Math.Ceiling(whole * DuePart), Math.Ceiling(whole * LowPart), whole * ShutPart);
        var (code, says) = read.AirflowM3PerHour switch
        {
            _ when !read.FanOn => (null, $"Judged once the extraction runs; {Say(whole)} at commissioning."),
            null => ("machine.airflowOut", $"The airflow of {machine.Name} is not read: nothing runs."),
            { } now when whole <= 0 || now < shut => (
                "machine.airflowOut",
                $"Airflow {Say(now)} of {Say(whole)} m³/h at {machine.Name}: below {Say(shut)} nothing runs. Is the extraction on?"
            ),
            { } now when now < whole * LowPart => (
                "machine.airflowLow",
                $"Airflow {Say(now)} of {Say(whole)} m³/h at {machine.Name}: below {Say(low)} a steward decides."
            ),
            { } now when now < whole * DuePart => (
                "machine.airflowDue",
                $"Airflow {Say(now)} of {Say(whole)} m³/h at {machine.Name}: cleaning is due below {Say(due)}."
            ),
            _ => ((string?)null, $"Good. Clean due under {Say(due)}, nothing runs under {Say(shut)}."),
        };
        return new(
            What: "Airflow",
            Unit: "m³/h",
            Value: read.AirflowM3PerHour,
            Code: code,
            Good: (due, null),
            ShutFrom: shut,
            ShutTo: null,
            Says: says
        );
    }

    private static ReadingNow Coolant(string name, MachineStation station, LiveReadings read)
    {
        var (code, says) = read.CoolantC switch
        {
            null => ("machine.coolantOut", $"The coolant of {name} is not read: nothing runs."),
            { } now when now > station.CoolantShutC => (
                "machine.coolantOut",
                $"Coolant {Say(now)} °C at {name}: above {Say(station.CoolantShutC)} nothing runs. Let it cool."
            ),
            { } now when now < station.CoolantColdC => (
                "machine.coolantOut",
                $"Coolant {Say(now)} °C at {name}: below {Say(station.CoolantColdC)} nothing runs. Ice cracks a tube."
            ),
            { } now when now > station.CoolantAskC => (
                "machine.coolantHot",
                $"Coolant {Say(now)} °C at {name}: above {Say(station.CoolantAskC)} a steward decides."
            ),
            { } now when now > station.CoolantCautionC => (
                "machine.coolantWarm",
                $"Coolant {Say(now)} °C at {name}: power falls off as it warms. Short runs, then a break."
            ),
            { } now when now < CoolantCoolC => ("machine.coolantCold", $"Coolant {Say(now)} °C at {name}: cold. Let it run first."),
            { } now when Dew(read) is { } dew && now < dew + DewMarginK => (
                "machine.coolantCold",
                $"Coolant {Say(now)} °C at {name}, dew point {Say(dew)} °C: water forms on the tube. Set the cooling warmer."
            ),
            _ => ((string?)null, $"Good. Between {Say(CoolantCoolC)} and {Say(station.CoolantCautionC)}."),
        };
        return new(
            What: "Coolant",
            Unit: "°C",
            Value: read.CoolantC,
            Code: code,
            Good: (CoolantCoolC, station.CoolantCautionC),
            ShutFrom: station.CoolantColdC,
            ShutTo: station.CoolantShutC,
            Says: says
        );
    }

    private static ReadingNow Flow(decimal flow) =>
        new(
            What: "Coolant flow",
            Unit: "l/min",
            Value: flow,
            Code: flow > 0 ? null : "machine.coolantOut",
            Good: (null, null),
            ShutFrom: null,
            ShutTo: null,
            Says: flow > 0 ? "It flows." : "The coolant does not flow: look for a kinked line first."
        );

    /// <summary>°C: below it the water of a tube may freeze in a corner of the room. House practice.</summary>
    public const decimal FreezingRoomC = 5;

    /// <summary>The maker’s figure; for a water-cooled machine without one, the least that any may have.</summary>
    private static decimal? LeastRoom(MachineSpec machine) =>
        machine.Station?.RoomMinimumC is { } least ? (machine.WaterCooled ? Math.Max(least, FreezingRoomC) : least)
        : machine.WaterCooled ? FreezingRoomC
        : null;

    private static ReadingNow Room(MachineSpec machine, decimal room, decimal least)
    {
        var freezing = machine.WaterCooled && room < FreezingRoomC;
        return new(
            What: "Room",
            Unit: "°C",
            Value: room,
            Code: freezing ? "machine.roomFreezing"
                : room < least ? "machine.roomCold"
                : null,
            Good: (least, null),
            ShutFrom: machine.WaterCooled ? FreezingRoomC : null,
            ShutTo: null,
            Says: freezing
                    ? $"The room is {Say(room)} °C: below {Say(FreezingRoomC)} nothing runs on {machine.Name}, since ice cracks its tube."
                : room < least ? $"The room is {Say(room)} °C: {machine.Name} is made for {Say(least)} °C and more. Warm it first."
                : $"Good. {Say(least)} °C or warmer."
        );
    }

    private static decimal? Dew(LiveReadings read) =>
        read is { RoomC: { } room, HumidityPercent: > 0 and <= 100 and { } humidity } ? DewPoint(room, humidity) : null;

    /// <summary>°C at which water forms out of the air of a room.</summary>
    /// <param name="roomC">-40 to 50.</param>
    /// <param name="humidityPercent">Relative, above 0 to 100.</param>
    /// <remarks>Source: Magnus form with the constants of Alduchov and Eskridge 1996, J. Appl. Meteor. 35, 601.</remarks>
    public static decimal DewPoint(decimal roomC, decimal humidityPercent)
    {
        const double b = 17.625;
        const double c = 243.04;
        var gamma = Math.Log((double)humidityPercent / 100) + b * (double)roomC / (c + (double)roomC);
        return Math.Round((decimal)(c * gamma / (b - gamma)), 1);
    }

    private static string Say(decimal value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
