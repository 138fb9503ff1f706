namespace VelvetGate.Core.Incidents;

/// <summary>What somebody says of the run, until another room knows it for itself. Null: nobody said.</summary>
/// <param name="SettingsForMm">The thickness that the settings were made for.</param>
/// <param name="MeasuredMm">The thickness of the sheet, measured afterwards.</param>
/// <param name="FocusSet">The height of the head was set for this sheet.</param>
/// <param name="SomebodyThere">Somebody stood by the machine all the time.</param>
/// <param name="AirAssistOn">The air assist blew while it cut.</param>
/// <param name="AirflowPercent">Airflow of the extraction, in percent of what it should be.</param>
/// <param name="LidTooSoon">The lid was opened before its time.</param>
/// <param name="PowerW">Beam power of the run. With it go <paramref name="SpeedMmPerS"/> and <paramref name="Passes"/>.</param>
public sealed record ToldFacts(
    decimal? SettingsForMm = null,
    decimal? MeasuredMm = null,
    bool? FocusSet = null,
    bool? SomebodyThere = null,
    bool? AirAssistOn = null,
    decimal? AirflowPercent = null,
    bool? LidTooSoon = null,
    decimal? PowerW = null,
    decimal? SpeedMmPerS = null,
    int? Passes = null
);

/// <summary>What the house knows of the run for itself.</summary>
/// <param name="Drawing">Name of the drawing that ran.</param>
/// <param name="DoubledMm">Length of cuts drawn more than once; null where no drawing is known.</param>
/// <param name="NearMm">Length of cuts nearer to another than the beam is wide.</param>
/// <param name="ThicknessMm">As it was asked or logged.</param>
/// <param name="Tag">Of the sheet.</param>
/// <param name="TagKnown">False where no run, and so no sheet, is known at all.</param>
/// <param name="Quarantined">The sheet was in quarantine then.</param>
/// <param name="Overdue">Upkeep of the bed, mirrors or lens that was overdue then.</param>
/// <param name="UsualJPerMm2">Energy for each mm of line and mm of thickness that this material takes; null where it is not known.</param>
public sealed record KnownFacts(
    string? Drawing = null,
    double? DoubledMm = null,
    double? NearMm = null,
    decimal? ThicknessMm = null,
    SheetTag? Tag = null,
    bool TagKnown = false,
    bool Quarantined = false,
    IReadOnlyList<string>? Overdue = null,
    decimal? UsualJPerMm2 = null,
    bool Cut = false
);

/// <summary>A cause that the evidence speaks for.</summary>
/// <param name="Told">It rests on what somebody said, and not on what the house knows.</param>
public sealed record ProposedCause(string Code, string Evidence, bool Told);

/// <summary>One cause.</summary>
public sealed record Cause(string Code, string Title);

/// <summary>
/// Why it happened, proposed from evidence; somebody who investigates ticks what is true. The four causes of fires are the material,
/// settings for another material or thickness, focus, and lines over lines; residue, unattended running and thick stock in one slow pass
/// come beside them. Fume has the material, weak extraction and a lid opened too soon. Source: common practice.
/// </summary>
public static class Causes
{
    public static readonly Cause Lines = new("lines", "Overlapping lines");
    public static readonly Cause Settings = new("settings", "Settings for another thickness or material");
    public static readonly Cause Focus = new("focus", "Out of focus");
    public static readonly Cause Unattended = new("unattended", "Nobody at the machine");
    public static readonly Cause Material = new("material", "Unsafe or unknown material");
    public static readonly Cause Residue = new("residue", "Residue on the bed or the optics");
    public static readonly Cause OnePass = new("onePass", "Thick stock in one slow pass");
    public static readonly Cause Extraction = new("extraction", "Weak extraction");
    public static readonly Cause AirAssist = new("airAssist", "Air assist off");
    public static readonly Cause LidTooSoon = new("lidTooSoon", "Lid opened too soon");
    public static readonly Cause Machine = new("machine", "A fault of the machine");
    public static readonly Cause Other = new("other", "Something else, in words");

    /// <summary>Nobody knows yet: it needs words within <see cref="OpenDays"/> days.</summary>
    public static readonly Cause Open = new("open", "Not known yet");

    /// <summary>Days that a cause may stay open before it needs words. House practice.</summary>
    public const int OpenDays = 14;

    /// <summary>Settings this many times too strong speak for themselves. House practice.</summary>
    public const decimal SettingsRatio = 1.25m;

    /// <summary>Below this share of its airflow, in percent, an extraction is weak. House practice.</summary>
    public const decimal WeakAirflow = 75;

    public static IReadOnlyList<Cause> All { get; } =
    [Lines, Settings, Focus, Unattended, Material, Residue, OnePass, Extraction, AirAssist, LidTooSoon, Machine, Other, Open];

    public static Cause? Find(string? code) => All.FirstOrDefault(c => c.Code == code);

    /// <param name="hotPassFactor">A house value: so many times the usual energy in one pass is one slow pass.</param>
    /// <returns>Never empty: where nothing speaks for anything, that it is open.</returns>
    public static IReadOnlyList<ProposedCause> Propose(Mishap what, KnownFacts known, ToldFacts told, decimal hotPassFactor)
    {
        var found = new List<ProposedCause>();
        void Add(Cause cause, string evidence, bool said = true) => found.Add(new ProposedCause(cause.Code, evidence, said));

        AddLines(known, Add);
        if (told.SettingsForMm is { } meant && (told.MeasuredMm ?? known.ThicknessMm) is > 0 and var thick)
        {
            var ratio = meant / thick;
            if (ratio >= SettingsRatio)
                Add(Settings, $"Ratio {Show(ratio)}: set for {Mm(meant)}, the sheet measures {Mm(thick)}.");
        }
        if (told.FocusSet == false)
            Add(Focus, "The height of the head was not set for this sheet.");
        if (told.SomebodyThere == false || what == Mishap.NobodyThere)
            Add(Unattended, "Nobody stood by the machine all the time.");
        if (known.Quarantined)
            Add(Material, $"Sheet {known.Tag} was in quarantine.", said: false);
        else if (what is Mishap.WrongSheet or Mishap.Fume)
            Add(Material, $"{Mishaps.Says(what)}.");
        else if (known is { TagKnown: true, Tag: null })
            Add(Material, "No tag of a sheet is known for the run.", said: false);
        if (known.Overdue is { Count: > 0 } overdue)
            Add(Residue, $"Overdue then: {string.Join(", ", overdue)}.", said: false);
        AddOnePass(known, told, hotPassFactor, Add);
        if (told.AirflowPercent < WeakAirflow)
            Add(Extraction, $"{Show(told.AirflowPercent.Value)} % of its airflow; under {Show(WeakAirflow)} % it is weak.");
        if (told.AirAssistOn == false && known.Cut)
            Add(AirAssist, "The air assist was off while it cut.");
        if (told.LidTooSoon == true || what == Mishap.LidTooSoon)
            Add(LidTooSoon, "The lid was opened before its time.");
        if (what == Mishap.InterlockFailed)
            Add(Machine, "The beam came on, or could have, with the lid open.");
        if (found.Count == 0)
            Add(Open, $"Nothing that is known speaks for a cause. It needs words within {OpenDays} days.", said: false);
        return found;
    }

    private static void AddLines(KnownFacts known, Action<Cause, string, bool> add)
    {
        if (known.DoubledMm is > 0 and var doubled)
            add(Lines, $"line.duplicate: {doubled:0} mm of cut line drawn more than once on {known.Drawing}.", false);
        else if (known.NearMm is > 0 and var near)
            add(Lines, $"line.near: {near:0} mm of cut line nearer to another than the beam is wide on {known.Drawing}.", false);
    }

    /// <summary>Energy of a cut is power by speed, for each mm of thickness: J/mm2.</summary>
    private static void AddOnePass(KnownFacts known, ToldFacts told, decimal factor, Action<Cause, string, bool> add)
    {
        if (told is not { PowerW: > 0 and var power, SpeedMmPerS: > 0 and var speed, Passes: 1 })
            return;
        if ((told.MeasuredMm ?? known.ThicknessMm) is not (> 0 and var thick) || known.UsualJPerMm2 is not (> 0 and var usual))
            return;
        var energy = power / speed / thick;
        if (known.Cut && energy >= usual * factor)
            add(
                OnePass,
                $"{Show(energy)} J for each mm of line and mm of thickness in one pass, {Show(energy / usual)} times what this material "
                    + "takes here.",
                true
            );
    }

    private static string Mm(decimal mm) => $"{mm.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture)} mm";

    private static string Show(decimal value) => value.ToString("0.0#", System.Globalization.CultureInfo.InvariantCulture);
}
