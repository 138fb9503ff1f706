using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>When a booking may begin, by the opening hours alone.</summary>
internal static class OpenSlots
{
    /// <summary>Starts of one day in slots from its opening, none before <paramref name="from"/>, that end by closing.</summary>
    public static IEnumerable<Instant> Of(HouseRules rules, LocalDate day, Instant from, int minutes)
    {
        if (rules.OpenOn(day) is not { } open)
            yield break;
        var step = Duration.FromMinutes(rules.SlotMinutes);
        var passed = from > open.Start ? (long)Math.Ceiling((from - open.Start) / step) : 0;
        for (var start = open.Start + passed * step; start + Duration.FromMinutes(minutes) <= open.End; start += step)
            yield return start;
    }
}
