namespace VelvetGate.Core.House;

/// <summary>One step of the card, in the imperative.</summary>
/// <param name="Strong">The few words read at two metres.</param>
public sealed record CardStep(string Strong, string Text);

/// <summary>The card at a machine.</summary>
/// <param name="Warnings">What must not be done, and what is different here.</param>
public sealed record Card(
    string MachineName, string HouseName, IReadOnlyList<CardStep> Fire, IReadOnlyList<CardStep> Fume, IReadOnlyList<CardStep> Hurt, IReadOnlyList<string> Warnings, string Call, string Meet, string Defers);

/// <summary>
/// Words the emergency card from the machine's facts and the house's choice. The spine is common practice: stop, lid shut and extraction on,
/// emergency stop, the extinguisher the house chose and only on a small flame by someone trained, else alarm, out, call, meet.
/// Source: common practice; houses differ, the fire officer decides.
/// </summary>
public static class EmergencyCard
{
    public const string Defers = "Follow your local code, the maker’s manual and your fire officer. When in doubt: alarm, out, call.";

    /// <param name="room">Null while nobody has described the room: the card says what is missing instead of guessing.</param>
    public static Card For(MachineSpec machine, RoomSpec? room, HouseRules rules)
    {
        var station = machine.Station;
        // Opening the lid feeds a fire: what works by that is no stop here. What leaves the extraction running comes first.
        var devices = station?.StopDevices.Where(d => !d.OpensLid).OrderBy(d => d.CutsExtraction).ThenByDescending(d => d.CutsTube).ToList() ?? [];
        var first = devices.FirstOrDefault();
        var kills = devices.Skip(1).FirstOrDefault(d => d.CutsTube);
        return new Card(
            machine.Name, rules.HouseName, [.. Fire(machine, room, rules.Card, first, kills)], [.. Fume(room)], [.. Hurt(machine, room)],
            [.. Warnings(machine, room, rules.Card)], Or(room?.EmergencyCall, "the fire service"), Or(room?.MeetingPoint, "the meeting point"), Defers);
    }

    private static IEnumerable<CardStep> Fire(MachineSpec machine, RoomSpec? room, CardVariant variant, StopDevice? first, StopDevice? kills)
    {
        yield return first is null
            ? new("STOP", "Press the stop of the machine.")
            : new("STOP", $"{Start(first.Name)}, {first.Where}: it {first.Says()}.");
        yield return new("LID SHUT, EXTRACTION ON", machine.Station?.ExtractionPower == ExtractionPower.WithMachine
            ? "Keep the lid shut. Leave the machine switched on while it draws the smoke away."
            : "Keep the lid shut. Leave the extraction running.");
        if (kills is not null)
        {
            yield return kills.CutsExtraction
                ? new("STILL BURNING: CUT THE POWER", $"{Start(kills.Name)}, {kills.Where}. The extraction stops with it: smoke will stay in the room, so leave.")
                : new("STILL BURNING: CUT THE POWER", $"{Start(kills.Name)}, {kills.Where}. The extraction runs on.");
        }
        foreach (var step in Fight(machine, room, variant)) yield return step;
        yield return new("ELSE: ALARM, EVERYBODY OUT", $"Alarm: {Or(room?.AlarmPoint, "nearest alarm point")}. Way out: {Or(room?.WayOut, "nearest exit")}.");
        yield return new($"CALL {Or(room?.EmergencyCall, "THE FIRE SERVICE").ToUpperInvariant()}", room is { Address.Length: > 0 } ? $"Say: laser cutter on fire, {room.Name}, {room.Address}." : "Say what burns and where.");
        yield return new("MEET AND COUNT", $"{Start(Or(room?.MeetingPoint, "meeting point"))}. Count heads, tell the fire service who is missing. Nobody goes back.");
        yield return new("AFTER ANY FLAME", $"Look into filter, duct and bin; a named person watches for 30 minutes. Tell {Or(room?.WhoToTell, "a steward")}, however small it was.");
    }

    private static IEnumerable<CardStep> Fight(MachineSpec machine, RoomSpec? room, CardVariant variant)
    {
        var with = room is null ? "the extinguisher of this house" : $"{Agent(room.Extinguisher)}, {Or(room.ExtinguisherWhere, "by the machine")}";
        switch (variant)
        {
            case CardVariant.StopAndLeave:
                yield return new("DO NOT FIGHT IT", "Only a named, trained adult may use the extinguisher.");
                break;
            case CardVariant.TrainedExtinguisher:
                yield return new("SMALL FLAME, AND YOU ARE TRAINED", $"{Start(with)}: short bursts. One try.");
                break;
            case CardVariant.SmotherFirst:
                yield return new("SMALL FLAME, AND YOU ARE TRAINED", $"Smother it with a spare sheet. Else {with}: short bursts. One try.");
                break;
            case CardVariant.SuppressionThenCo2:
                if (machine.Station is { Suppression.Length: > 0 } station) yield return new("SUPPRESSION", $"{Start(station.Suppression)}. Wait ten seconds, lid shut.");
                yield return new("SMALL FLAME, AND YOU ARE TRAINED", $"{Start(with)}: pin out on the ground, lid open a crack, one or two bursts, close, look. One more at most.");
                break;
        }
        if (room is { WaterAllowed: true }) yield return new("EMBERS", "Water spray on embers in the tray only, power cut, never near high voltage.");
    }

    private static IEnumerable<CardStep> Fume(RoomSpec? room)
    {
        yield return new("STRANGE OR CHOKING SMELL", "Stop. Extraction stays on. Do not open the lid.");
        yield return new("EVERYBODY OUT, DOOR SHUT", $"{Start(Or(room?.WayOut, "nearest exit"))}. Call a doctor for anyone who coughs or feels ill, and say what was cut.");
        yield return new("TELL", $"{Start(Or(room?.WhoToTell, "a steward"))}. The sheet and its offcuts stay where they are.");
    }

    private static IEnumerable<CardStep> Hurt(MachineSpec machine, RoomSpec? room)
    {
        yield return new("BURN", $"20 minutes of cool running water.{(room is { FirstAid.Length: > 0 } ? $" First aid: {room.FirstAid}." : "")}");
        yield return new("EYE", $"Hospital at once. Take this along: {machine.WavelengthNm} nm, {machine.PowerW:0.##} W{(machine.Station is { Pulsed: true } ? ", pulsed" : "")}.");
    }

    private static IEnumerable<string> Warnings(MachineSpec machine, RoomSpec? room, CardVariant variant)
    {
        yield return "A flare that dies within 2 or 3 seconds is usual. A flame that stays, or embers that glow, is not: act.";
        if (machine.Station?.ExtractionPower == ExtractionPower.WithMachine) yield return "Switching this machine off also stops its extraction.";
        foreach (var device in machine.Station?.StopDevices.Where(d => d is { FinishesStroke: true, CutsTube: true }) ?? []) yield return $"{Start(device.Name)} finishes the stroke before it stops.";
        foreach (var device in machine.Station?.StopDevices.Where(d => d is { CutsTube: false, OpensLid: false }) ?? []) yield return $"{Start(device.Name)} {(device.FinishesStroke ? "finishes the stroke and " : "")}does not cut the beam’s power: the machine stays live.";
        if (machine.Kind == LaserKind.Co2) yield return "High voltage inside, about 25 kV: never open a panel.";
        if (room is { Extinguisher: FireAgent.Co2 } && variant != CardVariant.StopAndLeave) yield return "CO₂ in a small room displaces the air, and burns the skin: leave right after.";
        if (room is { Extinguisher: FireAgent.DryPowder }) yield return "Dry powder ruins optics: people first.";
        if (room is null) yield return "Nobody has described this room yet: alarm, way out and meeting point are missing here.";
        if (machine.Station is null || machine.Station.StopDevices.Count == 0) yield return "Nobody has described what the stops of this machine cut.";
    }

    private static string Agent(FireAgent agent) => agent switch
    {
        FireAgent.Co2 => "CO₂ extinguisher",
        FireAgent.CleanAgent => "clean-agent extinguisher",
        FireAgent.DryPowder => "dry-powder extinguisher",
        FireAgent.Water => "water extinguisher",
        FireAgent.Foam => "foam extinguisher",
        _ => "extinguisher",
    };

    private static string Or(string? text, string other) => string.IsNullOrWhiteSpace(text) ? other : text.TrimEnd('.');

    private static string Start(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];
}
