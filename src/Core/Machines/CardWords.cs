using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>The words of each step, from the facts of machine and room.</summary>
internal sealed class CardWords(MachineSpec machine, RoomSpec? room)
{
    private const string Trained = "SMALL FLAME, AND YOU ARE TRAINED";

    private readonly MachineStation? _station = machine.Station;

    public string CallNumber => Or(room?.EmergencyCall, "the fire service");

    public string MeetingPoint => Or(room?.MeetingPoint, "the meeting point");

    private bool HasLid => _station?.EnclosureKind is not EnclosureKind.OpenFrame;

    public static CardStep Stop(StopDevice? first) =>
        new(
            CardAct.Stop,
            "STOP",
            first is null ? "Press the stop of the machine." : $"{Start(first.Name)}, {first.Where}: it {first.Does()}."
        )
        {
            Needs = new(InRoom: true),
            Brings = first is null ? new() : new(BeamOff: first.CutsTube ? true : null, ExtractionOn: first.CutsExtraction ? false : null),
        };

    public CardStep KeepShut(bool extractionRuns)
    {
        var air = _station?.AirAssist is AirAssist.PumpSwitch or AirAssist.HandValve ? "AIR ASSIST OFF, " : "";
        var lid = HasLid ? "LID SHUT" : "STAND BACK";
        var keep = HasLid ? "Keep the lid shut: opening it feeds the fire." : "There is no lid: do not lean over it.";
        if (!extractionRuns)
            return new(CardAct.KeepShut, air + lid, $"{keep} The extraction has stopped too: smoke stays in the room from now on.")
            {
                Needs = new(LidShut: true, InRoom: true),
            };
        var on =
            _station?.ExtractionPower == ExtractionPower.WithMachine
                ? "Leave the machine switched on while it draws the smoke away."
                : "Leave the extraction running.";
        return new(CardAct.KeepShut, $"{air}{lid}, EXTRACTION ON", $"{keep} {on}")
        {
            Needs = new(ExtractionOn: true, LidShut: true, InRoom: true),
        };
    }

    public static CardStep CutPower(StopDevice device, string strong) =>
        new(
            CardAct.CutPower,
            strong,
            $"{Start(device.Name)}, {device.Where}. "
                + (device.CutsExtraction ? "The extraction stops with it: smoke stays in the room from now on." : "The extraction runs on.")
        )
        {
            Needs = new(InRoom: true),
            Brings = new(BeamOff: true, ExtractionOn: device.CutsExtraction ? false : null),
        };

    public CardStep HandsOff(string? why) =>
        new(
            CardAct.HandsOff,
            HasLid ? "NOBODY OPENS THE LID" : "NOBODY FIGHTS IT",
            why is null ? "Nobody fights it." : $"Nobody fights it: {why}."
        )
        {
            Needs = new(LidShut: true, InRoom: true),
        };

    public CardStep Suppress() =>
        new(
            CardAct.Suppress,
            "SUPPRESSION",
            _station!.SuppressionKind == SuppressionKind.Button
                ? $"Press: {Plain(_station.Suppression)}. Wait ten seconds, lid shut."
                : $"{Start(Plain(_station.Suppression))}. Wait ten seconds, lid shut."
        )
        {
            Needs = new(BeamOff: true, LidShut: true, InRoom: true),
        };

    /// <summary>How the agent gets in stands in the step itself; the lid is shut again at its end.</summary>
    public CardStep Fight(CardVariant variant)
    {
        var with = room is null
            ? "the extinguisher of this house"
            : $"{Agent(room.Extinguisher)}, {Or(room.ExtinguisherWhere, "by the machine")}";
        var burst = HasLid
            ? "open the lid a crack, one or two short bursts, shut it, look"
            : "one or two short bursts from arm’s length, look";
        var smother = HasLid ? "Open the lid, lay a spare sheet over the flame, shut it, look" : "Lay a spare sheet over the flame, look";
        var text = variant switch
        {
            CardVariant.SmotherFirst => $"{smother}. Else {with}: {burst}. One try, then out.",
            CardVariant.SuppressionThenCo2 => $"{Start(with)}: pin out on the ground, {burst}. Once more at most, then out.",
            _ => $"{Start(with)}: {burst}. One try, then out.",
        };
        return new(CardAct.Fight, Trained, text) { Needs = new(BeamOff: true, LidShut: true, InRoom: true), Brings = new(LidShut: true) };
    }

    public CardStep Embers() =>
        new(
            CardAct.Embers,
            "EMBERS, NO FLAME",
            $"{(HasLid ? "Open the lid a crack: water" : "Water")} spray on embers in the tray only, never near high "
                + $"voltage.{(HasLid ? " Shut it again." : "")}"
        )
        {
            Needs = new(BeamOff: true, LidShut: true, InRoom: true),
            Brings = new(LidShut: true),
        };

    public CardStep FanOff()
    {
        var text = _station?.ExtractionPower switch
        {
            ExtractionPower.WithMachine => "The fan hangs on the machine: switch it off only if its switch is on your way out.",
            ExtractionPower.AlwaysOn => "The fan runs with the building: leave it.",
            _ => _station is { ExtractionSwitch.Length: > 0 } s
                ? $"Fan off ({Plain(s.ExtractionSwitch)}), only if that is on your way out."
                : "Fan off, only if its switch is on your way out.",
        };
        return new(CardAct.FanOff, "THE FAN MAY FEED IT", text)
        {
            Needs = new(InRoom: true),
            Brings = _station?.ExtractionPower == ExtractionPower.AlwaysOn ? new() : new(ExtractionOn: false),
        };
    }

    public CardStep Leave(string strong) =>
        new(CardAct.Leave, strong, $"Alarm: {Or(room?.AlarmPoint, "nearest alarm point")}. Way out: {Or(room?.WayOut, "nearest exit")}.")
        {
            Brings = new(InRoom: false),
        };

    public CardStep CallOut() =>
        new(
            CardAct.Call,
            $"CALL {Or(room?.EmergencyCall, "THE FIRE SERVICE").ToUpperInvariant()}",
            room is { Address.Length: > 0 } ? $"Say: laser cutter on fire, {room.Name}, {room.Address}." : "Say what burns and where."
        );

    public CardStep MeetAndCount() =>
        new(
            CardAct.Meet,
            "MEET AND COUNT",
            $"{Start(Or(room?.MeetingPoint, "meeting point"))}. Count heads, tell the fire service who is missing. Nobody goes back."
        );

    public CardStep AfterAnyFlame(int minutes) =>
        new(
            CardAct.Tell,
            "AFTER ANY FLAME",
            $"A steward looks into filter, duct and bin, and a named person watches for {minutes} minutes. "
                + $"Tell {Or(room?.WhoToTell, "a steward")}, however small it was."
        );

    public static CardStep StopForSmoke(StopDevice? first) =>
        Stop(first) with
        {
            Text = first is null ? "Press the stop of the machine." : $"{Start(first.Name)}, {first.Where}.",
        };

    public static CardStep LeaveAsAbove() =>
        new(CardAct.Leave, "EVERYBODY OUT", "Alarm, way out, call, meet and count: as for a fire.") { Brings = new(InRoom: false) };

    public static CardStep StopForFume(StopDevice? first)
    {
        var how = first is null ? "Stop." : $"Stop: {first.Name}, {first.Where}.";
        return first?.CutsExtraction == true
            ? new(CardAct.Stop, "STRANGE OR CHOKING SMELL", $"{how} The extraction stops with it: go at once. Do not open the lid.")
            {
                Needs = new(LidShut: true, InRoom: true),
                Brings = new(BeamOff: true, ExtractionOn: false),
            }
            : new(CardAct.Stop, "STRANGE OR CHOKING SMELL", $"{how} Extraction stays on. Do not open the lid.")
            {
                Needs = new(ExtractionOn: true, LidShut: true, InRoom: true),
                Brings = new(BeamOff: first?.CutsTube == true ? true : null),
            };
    }

    public CardStep OutOfFume() =>
        new(
            CardAct.Leave,
            "EVERYBODY OUT, DOOR SHUT",
            $"{Start(Or(room?.WayOut, "nearest exit"))}. Call a doctor for anyone who coughs or feels ill, and say what was cut."
        )
        {
            Brings = new(InRoom: false),
        };

    public CardStep Tell() =>
        new(
            CardAct.Call,
            "TELL",
            $"{Start(Or(room?.WhoToTell, "a steward"))}. The sheet and its offcuts stay where they are; the lid stays shut until a "
                + "steward says."
        );

    public IEnumerable<CardStep> Hurt()
    {
        yield return new(
            CardAct.Treat,
            "BURN",
            $"20 minutes of cool running water.{(room is { FirstAid.Length: > 0 } ? $" First aid: {Plain(room.FirstAid)}." : "")}"
        );
        yield return new(
            CardAct.Treat,
            "EYE",
            $"Hospital at once. Take this along: {machine.WavelengthNm} nm, {machine.PowerW:0.##} "
                + $"W{(_station is { Pulsed: true } ? ", pulsed" : "")}."
        );
    }

    public IEnumerable<string> Warnings(Stops stops, CardVariant variant)
    {
        yield return "A flare that dies within 2 or 3 seconds is usual. A flame that stays, or embers that glow, is not: act.";
        if (_station?.ExtractionPower == ExtractionPower.WithMachine)
            yield return "Switching this machine off also stops its extraction.";
        foreach (var device in _station?.StopDevices.Where(d => d is { FinishesStroke: true, CutsTube: true, OpensLid: false }) ?? [])
            yield return $"{Start(device.Name)} finishes the stroke before it stops.";
        foreach (var device in _station?.StopDevices.Where(d => d is { CutsTube: false, OpensLid: false }) ?? [])
            yield return $"{Start(device.Name)} {(device.FinishesStroke ? "finishes the stroke and " : "")}does not cut "
                + "the beam’s power: the "
                + "machine stays live.";
        if (!stops.BeamGoesOff && stops.First is not null)
            yield return "No stop described here cuts the beam’s power: a keeper has that mended first.";
        if (_station is { Suppression.Length: > 0, SuppressionKind: SuppressionKind.HeatTriggered } passive)
            yield return $"{Start(Plain(passive.Suppression))} goes off by itself in heat: there is nothing to press.";
        if (machine.Kind == LaserKind.Co2)
            yield return "High voltage inside, about 25 kV: never open a panel.";
        if (room is { Extinguisher: FireAgent.Co2 } && variant != CardVariant.StopAndLeave)
            yield return "CO₂ in a small room displaces the air, and burns the skin: leave right after.";
        if (room is { Extinguisher: FireAgent.DryPowder })
            yield return "Dry powder ruins optics: people first.";
        if (room is null)
            yield return "Nobody has described this room yet: alarm, way out and meeting point are missing here.";
        if (_station is null || _station.StopDevices.Count == 0)
            yield return "Nobody has described what the stops of this machine cut.";
    }

    private static string Agent(FireAgent agent) =>
        agent switch
        {
            FireAgent.Co2 => "CO₂ extinguisher",
            FireAgent.CleanAgent => "clean-agent extinguisher",
            FireAgent.DryPowder => "dry-powder extinguisher",
            FireAgent.Water => "water extinguisher",
            FireAgent.Foam => "foam extinguisher",
            _ => "extinguisher",
        };

    private static string Or(string? text, string other) => string.IsNullOrWhiteSpace(text) ? other : Plain(text);

    private static string Plain(string text) => text.TrimEnd('.');

    private static string Start(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];
}
