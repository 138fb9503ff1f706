using System.Globalization;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings;

/// <summary>What settings are looked for.</summary>
/// <param name="ThicknessMm">As measured, the thinnest of its readings.</param>
public sealed record SettingWish(MachineId MachineId, MaterialId MaterialId, decimal ThicknessMm, Operation Operation);

/// <summary>One entry held against what is wished for.</summary>
/// <param name="Match">Cuts alone: how deep an engraving goes does not hang on the sheet. Null for anything else.</param>
/// <param name="Fits">The same operation, for about the same thickness.</param>
/// <param name="WhyNot">Why it is not suggested; null where it could be.</param>
public sealed record SettingLine(Setting Setting, SettingsMatch? Match, bool Fits, bool Tested, string? WhyNot);

/// <param name="Reasons">Why this one, first things first.</param>
public sealed record SettingSuggestion(Guid Id, IReadOnlyList<string> Reasons);

/// <summary>
/// The one setting to begin with, and why: the same operation, a thickness within a tenth, after the last service of the machine’s optics,
/// a technician’s before a member’s before a maker’s before a first guess, and of these the newest. All others stay in sight.
/// Source: common practice; the tenth is house practice.
/// </summary>
public static class Suggestion
{
    /// <param name="entries">Of the material, on any machine.</param>
    /// <param name="serviced">When the machine's optics were last touched; null for never.</param>
    /// <param name="ruled">Why no setting is suggested for this material there at all; null where it may be run.</param>
    public static (IReadOnlyList<SettingLine> Lines, SettingSuggestion? Suggested) Of(
        IReadOnlyList<Setting> entries,
        SettingWish wish,
        Instant? serviced,
        Refusal? ruled,
        Instant now,
        HouseClock clock,
        LengthUnit unit = LengthUnit.Mm
    )
    {
        var lines = entries
            .Where(e => e.Values.MachineId == wish.MachineId && e.Values.MaterialId == wish.MaterialId)
            .Select(e => Line(e, wish, serviced, ruled, now))
            .OrderBy(l => l.WhyNot is not null)
            .ThenBy(l => l.Setting.Values.Operation != wish.Operation)
            .ThenBy(l => l.Setting.Values.Origin)
            .ThenByDescending(l => l.Setting.At)
            .ThenByDescending(l => l.Setting.Number)
            .ToList();
        var suggested = lines is [{ WhyNot: null } first, ..]
            ? new SettingSuggestion(first.Setting.Id, Reasons(first, lines, wish, serviced, clock, unit))
            : null;
        return (lines, suggested);
    }

    private static SettingLine Line(Setting entry, SettingWish wish, Instant? serviced, Refusal? ruled, Instant now)
    {
        var v = entry.Values;
        var same = v.Operation == wish.Operation;
        var near = Tested.IsNear(v.ThicknessMm, wish.ThicknessMm);
        var after = serviced is null || entry.At > serviced || entry.Results.Clean > 0;
        var whyNot =
            ruled is not null ? "not permitted here"
            : !same ? "another operation"
            : !near ? "another thickness"
            : !after ? "before the last service of its optics"
            : entry.Results.Flames > 0 ? "a flame stayed with it"
            : null;
        return new SettingLine(
            entry,
            same && v.Operation == Operation.Cut && ruled is null ? SettingsMatch.Of(v.ThicknessMm, wish.ThicknessMm) : null,
            same && near,
            same && entry.Results.LastClean is { } at && Tested.Serves(v.ThicknessMm, at, wish.ThicknessMm, now),
            whyNot
        );
    }

    private static List<string> Reasons(
        SettingLine first,
        IReadOnlyList<SettingLine> lines,
        SettingWish wish,
        Instant? serviced,
        HouseClock clock,
        LengthUnit unit
    )
    {
        var v = first.Setting.Values;
        var same = lines.Count(l => l.WhyNot is null && l.Setting.Values.Origin == v.Origin);
        List<string> reasons =
        [
            $"{v.Operation.ToString().ToLowerInvariant()}, like yours",
            $"for {Length.Show(v.ThicknessMm, unit)}, within 10 % of {Length.Show(wish.ThicknessMm, unit)}",
        ];
        if (serviced is { } service)
            reasons.Add($"after the optics service of {clock.At(service).ToString("ddd d MMM", CultureInfo.InvariantCulture)}");
        reasons.Add($"{Says(v.Origin)}{(same > 1 ? ", the newest" : "")}");
        reasons.Add(first.Tested ? $"tested: {first.Setting.Results.Says}" : "not tested here yet: a test piece comes first");
        return reasons;
    }

    public static string Says(SettingOrigin origin) =>
        origin switch
        {
            SettingOrigin.Technician => "a technician’s entry",
            SettingOrigin.Member => "a member’s entry",
            SettingOrigin.Maker => "the maker’s, only a start",
            _ => "a first guess",
        };
}
