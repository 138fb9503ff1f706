using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>
/// Orders the steps of a machine's emergency card from its facts and the house's choice. The spine is common practice: stop, air assist
/// off, lid shut
/// and extraction on, cut the power, the extinguisher the house chose and only on a small flame by someone trained, else alarm, out, call,
/// meet.
/// Every step says what it presupposes and brings about; a test walks all cards. Source: common practice; houses differ, the fire officer
/// decides.
/// </summary>
public static class EmergencyCard
{
    public const string Defers = "Follow your local code, the maker’s manual and your fire officer. When in doubt: alarm, out, call.";

    /// <param name="room">Null while nobody has described the room: the card says what is missing instead of guessing.</param>
    public static Card For(MachineSpec machine, RoomSpec? room, HouseRules rules)
    {
        var stops = Stops.Of(machine.Station);
        var words = new CardWords(machine, room);
        return new Card(
            MachineName: machine.Name,
            HouseName: rules.HouseName,
            Fire: [.. Fire(machine, room, rules.Card, stops, words)],
            Fume: [.. Fume(stops, words)],
            Hurt: [.. words.Hurt()],
            Warnings: [.. words.Warnings(stops, rules.Card)],
            Call: words.CallNumber,
            Meet: words.MeetingPoint,
            Defers: Defers,
            Smoke: [.. Smoke(stops, words)],
            After: [words.AfterAnyFlame(rules.FireWatchMinutes)]
        );
    }

    private static IEnumerable<CardStep> Fire(MachineSpec machine, RoomSpec? room, CardVariant variant, Stops stops, CardWords words)
    {
        yield return CardWords.Stop(stops.First);
        var extractionRuns = stops.First?.CutsExtraction != true;
        yield return words.KeepShut(extractionRuns);
        if (stops.ThenCut is { } cut)
            yield return CardWords.CutPower(cut, "BEAM STILL ON, OR STILL BURNING: CUT THE POWER");
        // Nobody opens a lid over a beam that may be live.
        if (variant == CardVariant.StopAndLeave || !stops.BeamGoesOff)
        {
            yield return words.HandsOff(
                variant == CardVariant.StopAndLeave ? null
                : stops.First is null ? "nobody has written down what cuts this beam’s power"
                : "no stop of this machine cuts its beam’s power"
            );
        }
        else
        {
            if (
                variant == CardVariant.SuppressionThenCo2
                && machine.Station is { Suppression.Length: > 0, SuppressionKind: not SuppressionKind.HeatTriggered }
            )
                yield return words.Suppress();
            yield return words.Fight(variant);
            if (room is { WaterAllowed: true })
                yield return words.Embers();
        }
        foreach (var step in Out(words, "ELSE: ALARM, EVERYBODY OUT"))
            yield return step;
    }

    /// <summary>The fan may feed a fire in filter or duct, and stopping it is worth no second in the smoke.</summary>
    private static IEnumerable<CardStep> Smoke(Stops stops, CardWords words)
    {
        yield return CardWords.StopForSmoke(stops.First);
        yield return words.FanOff();
        yield return CardWords.LeaveAsAbove();
    }

    private static IEnumerable<CardStep> Fume(Stops stops, CardWords words)
    {
        yield return CardWords.StopForFume(stops.First);
        yield return words.OutOfFume();
        yield return words.Tell();
    }

    private static IEnumerable<CardStep> Out(CardWords words, string strong)
    {
        yield return words.Leave(strong);
        yield return words.CallOut();
        yield return words.MeetAndCount();
    }
}

/// <summary>Which stop comes first, and which only if the first is not enough.</summary>
/// <param name="First">Cuts the beam and leaves the extraction running, if there is such a one; else what leaves the extraction running;
/// else what there is.</param>
/// <param name="ThenCut">Cuts the beam’s power, where the first only pauses.</param>
internal sealed record Stops(StopDevice? First, StopDevice? ThenCut)
{
    /// <summary>The steps of the card take the beam its power.</summary>
    public bool BeamGoesOff => First is { CutsTube: true } || ThenCut is not null;

    /// <summary>Opening the lid feeds a fire: what works by that is no stop here.</summary>
    public static Stops Of(MachineStation? station)
    {
        var devices = station?.StopDevices.Where(d => !d.OpensLid).OrderBy(d => d.CutsExtraction).ThenByDescending(d => d.CutsTube).ToList()
            ?? [];
        var first = devices.FirstOrDefault();
        return new Stops(first, first is { CutsTube: false } ? devices.Skip(1).FirstOrDefault(d => d.CutsTube) : null);
    }
}
