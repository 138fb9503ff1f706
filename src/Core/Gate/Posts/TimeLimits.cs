using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Limits of the house for one person’s bookings, each named with its value and with when it would pass.</summary>
internal static class TimeLimits
{
    /// <summary>Weeks after the one that is full in which room is looked for.</summary>
    private const int LooksAheadDays = 28;

    public static void Read(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var rules = facts.Rules;
        ReadAhead(ask, facts, post);
        if (ask.Minutes > rules.LongestBookingMinutes)
            post.Add(
                Codes.TimeLimit,
                $"A booking is at most {rules.LongestBookingMinutes} min here, and this is {ask.Minutes}.",
                remedy: Remedies.TimeShorter.Says("Split the job: it would pass on no day."),
                setting: nameof(HouseRules.LongestBookingMinutes)
            );
        if (!facts.Time.PersonBooked.IsKnown)
            return;
        var booked = facts.Time.PersonBooked.Value;
        if (rules.ClassesOutsideLimits)
        {
            if ((facts.Time.Classes ?? []).Any(c => c.OnRoster && c.During.Holds(ask.Start) && c.During.End >= ask.End))
                return;
            booked = [.. booked.Except(facts.Time.InClass ?? [])];
        }
        ReadOpen(booked, facts, post);
        ReadHours(ask, booked, facts, post);
        ReadNoShows(ask, facts, post);
    }

    private static void ReadAhead(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var rules = facts.Rules;
        var (today, day) = (rules.Clock.DateOf(facts.Now), rules.Clock.DateOf(ask.Start));
        if (Period.DaysBetween(today, day) > rules.BookAheadDays)
            post.Add(
                Codes.TimeTooFarAhead,
                $"Bookings are taken up to {rules.BookAheadDays} days ahead.",
                remedy: Remedies.TimeOther.Says(
                    $"Choose an earlier day, or ask again from {HouseDates.Day(day.PlusDays(-rules.BookAheadDays))} on."
                )
            );
        // Sooner than a walk-up nobody books: that is a rule of its own.
        var soon = ask.Start - facts.Now;
        if (soon >= HouseRules.WalkUpWithin && soon < Duration.FromMinutes(rules.BookLeadMinutes))
            post.Add(
                Codes.TimeLead,
                $"Bookings are made {Say.Minutes(rules.BookLeadMinutes)} before they start, or earlier.",
                remedy: Remedies.TimeOther.Says(
                    $"Choose a start from {HouseDates.Moment(facts.Now + Duration.FromMinutes(rules.BookLeadMinutes), rules)} on."
                )
            );
    }

    private static void ReadOpen(IReadOnlyList<Span> booked, GateFacts facts, PostWriter post)
    {
        var most = facts.Rules.OpenBookingsPerPerson;
        var open = booked.Where(b => b.End > facts.Now).Select(b => b.End!.Value).Order().ToList();
        if (open.Count < most)
            return;
        post.Add(
            Codes.TimeLimit,
            $"{most} bookings may be open at once, and {open.Count} are.",
            remedy: Remedies.BookingCancel.Says(
                $"Cancel one, or ask again from {HouseDates.Moment(open[open.Count - most], facts.Rules)} on."
            ),
            setting: nameof(HouseRules.OpenBookingsPerPerson)
        );
    }

    private static void ReadHours(GateQuestion ask, IReadOnlyList<Span> booked, GateFacts facts, PostWriter post)
    {
        var rules = facts.Rules;
        var clock = rules.Clock;
        var day = clock.DateOf(ask.Start);
        Hold(
            "a day",
            rules.HoursPerPersonDay,
            ask.Minutes / 60m,
            day,
            d => HoursWithin(booked, clock.Day(d)),
            d => d.PlusDays(1),
            Remedies.TimeOther.Says("Choose another day."),
            nameof(HouseRules.HoursPerPersonDay)
        );
        Hold(
            "a week",
            rules.HoursPerPersonWeek,
            ask.Minutes / 60m,
            Monday(day),
            d => HoursWithin(booked, Week(d, clock)),
            d => d.PlusDays(7),
            Remedies.TimeOther.Says("Choose another week."),
            nameof(HouseRules.HoursPerPersonWeek)
        );
        if (rules.PeakHoursPerPersonWeek == 0)
            return;
        var peak = Peak(day, rules);
        var wanted = HoursWithin([new Span(ask.Start, ask.End)], peak);
        if (wanted > 0)
            Hold(
                $"a week between {rules.PeakFromHour}:00 and {rules.PeakToHour}:00",
                rules.PeakHoursPerPersonWeek,
                wanted,
                Monday(day),
                d => Enumerable.Range(0, 7).Sum(n => HoursWithin(booked, Peak(d.PlusDays(n), rules))),
                d => d.PlusDays(7),
                Remedies.TimeOther.Says("Choose a time outside these hours."),
                nameof(HouseRules.PeakHoursPerPersonWeek)
            );

        void Hold(
            string per,
            decimal most,
            decimal hours,
            LocalDate at,
            Func<LocalDate, decimal> before,
            Func<LocalDate, LocalDate> next,
            Remedy other,
            string setting
        )
        {
            var has = before(at);
            if (has + hours <= most)
                return;
            var passes = hours > most ? (LocalDate?)null : at;
            while (passes is { } p && before(p) + hours > most)
                passes = p < at.PlusDays(LooksAheadDays) ? next(p) : null;
            post.Add(
                Codes.TimeLimit,
                $"{most:0.##} hours {per} are allowed for one person, and with this it is {has + hours:0.##}.",
                remedy: hours > most ? Remedies.TimeShorter.Says("Split the job: it would pass on no day.")
                    : passes is { } from ? other with { Text = $"{other.Text} From {HouseDates.Day(from)} on it passes." }
                    : other,
                setting: setting
            );
        }
    }

    /// <summary>Who did not come, often enough, waits: the time went to nobody.</summary>
    private static void ReadNoShows(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var rules = facts.Rules;
        // Who walks up takes what stands free now, from nobody.
        if (rules.NoShowsBeforePause == 0 || ask.Start - facts.Now < HouseRules.WalkUpWithin)
            return;
        var from = facts.Now - Duration.FromDays(HouseRules.NoShowsCountDays);
        var missed = (facts.Time.NoShows ?? []).Where(n => n >= from && n <= facts.Now).OrderDescending().ToList();
        if (missed.Count < rules.NoShowsBeforePause)
            return;
        var until = missed[0] + Duration.FromDays(rules.NoShowPauseDays);
        var walkUp = rules is { WalkUp: true, SameDayBooking: true } ? ", or walk up when a machine stands free" : "";
        if (facts.Now < until)
            post.Add(
                Codes.TimeNoShows,
                $"{missed.Count} bookings in {HouseRules.NoShowsCountDays} days went to nobody; after {rules.NoShowsBeforePause} "
                    + $"this house takes no new one for {rules.NoShowPauseDays} days.",
                remedy: Remedies.TimeOther.Says($"Ask again from {HouseDates.Moment(until, rules)} on{walkUp}.")
            );
    }

    private static LocalDate Monday(LocalDate day) => day.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));

    private static Interval Week(LocalDate monday, HouseClock clock) => new(clock.Day(monday).Start, clock.Day(monday.PlusDays(6)).End);

    private static Interval Peak(LocalDate day, HouseRules rules) =>
        rules.PeakFromHour < rules.PeakToHour
            ? rules.Clock.Between(day, new LocalTime(rules.PeakFromHour, 0), new LocalTime(rules.PeakToHour % 24, 0))
            : new Interval(rules.Clock.Day(day).Start, rules.Clock.Day(day).Start);

    private static decimal HoursWithin(IEnumerable<Span> spans, Interval window) =>
        spans.Sum(s =>
        {
            var start = Instant.Max(s.Start, window.Start);
            var end = Instant.Min(s.End ?? window.End, window.End);
            return start < end ? (decimal)(end - start).TotalHours : 0;
        });
}
