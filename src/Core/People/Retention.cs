using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.People;

/// <summary>What stands in the way of erasing a person. Local law decides on periods; these are house rules with usual values.</summary>
public static class Retention
{
    /// <param name="accountEnds">When the account closed or closes; null while it has no end.</param>
    /// <param name="lastTime">End of the person's last booking or run, whichever is later; null without any.</param>
    /// <param name="legalHold">Somebody has to keep these details: a claim, an investigation.</param>
    /// <param name="owns">Roles or holds that nobody has taken over yet, in words.</param>
    /// <returns>Null when the person may be erased now.</returns>
    public static Refusal? MayErase(
        PersonId person,
        PersonId by,
        Instant? accountEnds,
        Instant? lastTime,
        bool legalHold,
        IReadOnlyList<string> owns,
        HouseRules rules,
        Instant now
    )
    {
        if (person == by)
            return PeopleProblems.EraseSelf.Refuse();
        if (legalHold)
            return PeopleProblems.EraseLegalHold.Refuse();
        if (accountEnds is null || accountEnds > now)
            return PeopleProblems.EraseOpen.Refuse();
        if (owns.Count > 0)
            return PeopleProblems.EraseOwns.Refuse(null, string.Join(", ", owns));
        var last = lastTime is { } time ? Instant.Max(accountEnds.Value, time) : accountEnds.Value;
        var from = FreeFrom(last, rules);
        return now < from
            ? PeopleProblems.EraseRetention.Refuse(
                null,
                rules.RetentionMonths,
                rules.Clock.At(from).ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture)
            )
            : null;
    }

    /// <summary>When the retention period after <paramref name="last"/> is over, on the house's calendar.</summary>
    public static Instant FreeFrom(Instant last, HouseRules rules) =>
        rules.Clock.Day(rules.Clock.DateOf(last).PlusMonths(rules.RetentionMonths)).Start;

    /// <summary>Until when an injury record stays, erasing or not; for an adult the retention period itself.</summary>
    /// <param name="born">Null for an adult whose birth date is not kept.</param>
    public static Instant InjuryKeptUntil(LocalDate? born, Instant happened, HouseRules rules)
    {
        var day = rules.Clock.DateOf(happened);
        var plain = FreeFrom(happened, rules);
        if (born is not { } birth || Ages.On(birth, day) >= Ages.Adult)
            return plain;
        return Instant.Max(plain, rules.Clock.Day(birth.PlusYears(rules.MinorInjuryUntilAge)).Start);
    }
}
