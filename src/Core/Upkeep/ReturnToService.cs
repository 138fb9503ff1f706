using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>What was touched on a machine.</summary>
public enum Touched
{
    /// <summary>Lens or mirrors, beyond cleaning.</summary>
    Optics,
    Tube,
    Alignment,

    /// <summary>Lid switch, key, emergency stop or our relay.</summary>
    Interlock,

    /// <summary>Fan, filter, duct.</summary>
    Extraction,
    Coolant,
    Other,
}

/// <summary>What was tried before a machine comes back.</summary>
/// <param name="Interlock">Lid opened: the beam is gone; the stops stop.</param>
/// <param name="TestFire">At low power on scrap.</param>
/// <param name="Framed">The frame lies where it should.</param>
public sealed record ReturnTests(
    bool Interlock = false,
    decimal? AirflowM3PerHour = null,
    decimal? CoolantC = null,
    bool TestFire = false,
    bool Framed = false
);

/// <summary>
/// Back into service, by what was touched. Where nothing was, a steward who has looked is enough; else whoever holds repair authority
/// for the machine, with all of it tried. Source: common practice; the maker’s manual and local rules come first.
/// </summary>
public static class ReturnToService
{
    /// <summary>Settings and kerf of the machine are of before the service from then on: a test piece comes first again.</summary>
    public static bool ChangesSettings(IEnumerable<Touched> touched) =>
        touched.Any(t => t is Touched.Optics or Touched.Tube or Touched.Alignment);

    /// <summary>A second person with authority tries it, since a mistake in it hurts people unseen.</summary>
    public static bool WantsSecond(IEnumerable<Touched> touched) => touched.Contains(Touched.Interlock);

    /// <param name="touched">Null where nobody said: unknown is never nothing.</param>
    public static Refusal? Wrong(IReadOnlyList<Touched>? touched, ReturnTests tests, MachineSpec machine, UpkeepHands hands, bool steward)
    {
        if (!hands.Repairs && !steward)
            return UpkeepProblems.RepairAuthority.Refuse();
        if (touched is null)
            return UpkeepProblems.TouchedUnsaid.Refuse("touched");
        if (touched.Count == 0)
            return null;
        if (!hands.Repairs)
            return UpkeepProblems.RepairAuthority.Refuse("touched");
        return Missing(tests, machine) ?? OutOfRange(tests.AirflowM3PerHour, tests.CoolantC, machine, "tested.");
    }

    /// <summary>The second word on a machine that a repairer has tried: interlock or stops that were touched are tried twice.</summary>
    public static Refusal? SecondWrong(IReadOnlyList<Touched> touched, ReturnTests tests, UpkeepHands hands, bool steward) =>
        !hands.Repairs && !hands.Trains && !steward ? UpkeepProblems.RepairAuthority.Refuse()
        : WantsSecond(touched) && !tests.Interlock
            ? UpkeepProblems.ReturnIncomplete.Refuse("tested.interlock", "the interlock tried by a second person")
        : null;

    private static Refusal? Missing(ReturnTests tests, MachineSpec machine)
    {
        var missing = new (string Field, string Says, bool Is)[]
        {
            ("tested.interlock", "interlock tried", !tests.Interlock),
            ("tested.airflowM3PerHour", "airflow read", tests.AirflowM3PerHour is null),
            ("tested.coolantC", "coolant read", machine.WaterCooled && tests.CoolantC is null),
            ("tested.testFire", "low-power test fire on scrap", !tests.TestFire),
            ("tested.framed", "frame looked at", !tests.Framed),
        }
            .Where(m => m.Is)
            .ToList();
        return missing.Count == 0
            ? null
            : UpkeepProblems.ReturnIncomplete.Refuse(missing[0].Field, string.Join(", ", missing.Select(m => m.Says)));
    }

    /// <param name="prefix">Before the name of a field at fault.</param>
    internal static Refusal? OutOfRange(decimal? airflow, decimal? coolant, MachineSpec machine, string prefix)
    {
        var reading = new HandReading(airflow, machine.WaterCooled ? coolant : null, null);
        if (HandReadings.Wrong(machine, reading).FirstOrDefault() is { } odd)
            return odd with { Field = prefix + odd.Field };
        var live = new LiveReadings(FanOn: true, AirflowM3PerHour: airflow, CoolantC: reading.CoolantC);
        return ReadingRules.Of(machine, live).FirstOrDefault(r => r.Code is "machine.airflowOut" or "machine.coolantOut") is { } bad
            ? UpkeepProblems.ReturnOut.Refuse(prefix + (bad.What == "Airflow" ? "airflowM3PerHour" : "coolantC"), bad.Says)
            : null;
    }
}
