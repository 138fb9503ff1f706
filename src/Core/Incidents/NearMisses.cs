using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using NodaTime;
using NodaTime.Text;

namespace VelvetGate.Core.Incidents;

/// <summary>The half of a day, or the week, that a near miss is kept under. No minute is.</summary>
/// <param name="Day">The day, or the Monday of the week.</param>
public sealed record NearMissTime(LocalDate Day, NearMissSpan Span)
{
    public override string ToString() => $"{LocalDatePattern.Iso.Format(Day)} {Span.ToString().ToLowerInvariant()}";

    /// <summary>As people read it, such as “Tue 24 Nov, afternoon”.</summary>
    public string Says =>
        Span == NearMissSpan.Week
            ? $"week of {Day.ToString("ddd d MMM", CultureInfo.InvariantCulture)}"
            : $"{Day.ToString("ddd d MMM", CultureInfo.InvariantCulture)}, {Span.ToString().ToLowerInvariant()}";

    /// <summary>What was told is shown, and chained, from here on: never while it could be joined to who is there.</summary>
    public LocalDateTime Over =>
        Span switch
        {
            NearMissSpan.Morning => Day + LocalTime.Noon,
            NearMissSpan.Afternoon => Day.PlusDays(1).AtMidnight(),
            _ => Day.PlusDays(7).AtMidnight(),
        };

    /// <summary>The coarser of the two where few use a machine: a half day would name one of them.</summary>
    public static NearMissTime At(LocalDateTime local, bool few) =>
        few
            ? new(local.Date.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday)), NearMissSpan.Week)
            : new(local.Date, local.TimeOfDay < LocalTime.Noon ? NearMissSpan.Morning : NearMissSpan.Afternoon);

    /// <returns>Null where the text is no half day.</returns>
    public static NearMissTime? Read(string? text)
    {
        var parts = (text ?? "").Split(' ');
        return
            parts.Length == 2
            && Typed.Day(parts[0]) is { } day
            && Typed.Word<NearMissSpan>(parts[1]) is { } span
            && (span != NearMissSpan.Week || day.DayOfWeek == IsoDayOfWeek.Monday)
            ? new(day, span)
            : null;
    }
}

public enum NearMissSpan
{
    Morning,
    Afternoon,
    Week,
}

/// <summary>One near miss as it is kept: nothing in it says who.</summary>
/// <param name="Id">Random, made by whoever tells.</param>
/// <param name="MachineId">Null for the room.</param>
public sealed record NearMiss(Guid Id, NearMissTime When, MachineId? MachineId, Mishap What, string Note);

/// <summary>
/// Telling without a name. Source: houses where telling is never punished hear of more and burn less (common practice).
/// </summary>
public static class NearMisses
{
    /// <summary>Where fewer use a machine, a near miss is kept under its week.</summary>
    public const int FewPeople = 5;

    /// <summary>From one address in an hour: more is no telling.</summary>
    public const int MostAnHour = 20;
    public const int NoteLongest = 500;

    /// <summary>Days back that one told without a network may reach.</summary>
    public const int OldestDays = 31;

    public const string Promise =
        "No name is kept: no minute, no session, no number of a person. In a small house somebody may still guess who told. By itself a "
        + "near miss is never held against anyone.";

    /// <returns>Null when it may be kept.</returns>
    /// <param name="today">On the clock of the house.</param>
    public static Refusal? Check(NearMiss told, LocalDate today)
    {
        if (!Mishaps.OfNearMisses.Contains(told.What))
            return IncidentsProblems.NearMissWhat.Refuse("what");
        if (told.Note.Length > NoteLongest)
            return IncidentsProblems.NearMissNote.Refuse("note", NoteLongest);
        if (told.When.Day > today || told.When.Day < today.PlusDays(-OldestDays - 7))
            return IncidentsProblems.NearMissDay.Refuse("halfDay", OldestDays);
        return null;
    }

    /// <returns>Null where the words may stand in place of those with a name in them.</returns>
    public static Refusal? MayStrike(string? words) =>
        words?.Length > NoteLongest ? IncidentsProblems.NearMissNote.Refuse("note", NoteLongest) : null;

    /// <summary>What the record keeps of a half day: how many, and a digest of them in an order that says nothing.</summary>
    public static string Digest(IEnumerable<NearMiss> told)
    {
        var lines = told.Select(t => $"{t.Id:D}|{t.When}|{t.MachineId?.Value ?? "-"}|{t.What}|{t.Note}").Order(StringComparer.Ordinal);
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', lines))));
    }
}
