using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

public sealed record LapsingCertificate(string Authority, string Name, Lapse Lapse);

/// <summary>One message about all of a person's certificates that lapse soon.</summary>
/// <param name="Key">The same while nothing new lapses: nobody is told twice.</param>
public sealed record Reminder(string Key, string Title, string Text);

/// <summary>Who is reminded of what, and when. Source: house practice; one message, not a flood.</summary>
public static class Reminders
{
    /// <returns>Null when nothing lapses within the house's days.</returns>
    public static Reminder? For(IReadOnlyList<LapsingCertificate> certificates, HouseRules rules, Instant now)
    {
        var until = now + Duration.FromDays(rules.RemindDays);
        var soon = certificates
            .Where(c => c.Lapse.At > now && c.Lapse.At <= until)
            .OrderBy(c => c.Lapse.At)
            .ThenBy(c => c.Authority, StringComparer.Ordinal)
            .ToList();
        if (soon.Count == 0)
            return null;
        var lines = soon.Select(c =>
            c.Lapse.Cause == LapseCause.Idle
                ? $"{c.Name}: nothing run for a while; it lapses after {Day(c)} unless you run before."
                : $"{c.Name}: its last day is {Day(c)}. Ask a trainer to renew it."
        );
        // The week, so that another run, which moves a lapse by days, is no new reason to write.
        var key = string.Join(',', soon.Select(c => $"{c.Authority}@{c.Lapse.At.ToUnixTimeSeconds() / (7 * 86400)}"));
        return new Reminder(
            key,
            soon.Count == 1 ? $"Your certificate for {soon[0].Name} lapses soon" : $"{soon.Count} of your certificates lapse soon",
            string.Join("\n", lines)
        );

        string Day(LapsingCertificate c) => HouseDates.LastDay(c.Lapse.At, rules);
    }
}
