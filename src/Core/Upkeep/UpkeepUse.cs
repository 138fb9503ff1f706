using NodaTime;

namespace VelvetGate.Core.Upkeep;

/// <summary>What was run on a machine in some time.</summary>
/// <param name="PlainHours">On stock that leaves little.</param>
/// <param name="HeavyHours">On stock that leaves heavy residue.</param>
public sealed record RunSums(int Runs, decimal PlainHours, decimal HeavyHours)
{
    public static readonly RunSums Nothing = new(0, 0, 0);

    /// <summary>In the unit of a counter that goes by use.</summary>
    /// <param name="residueWeight">How often an hour counts on stock that leaves heavy residue.</param>
    public decimal By(UpkeepCounter counter, decimal residueWeight) =>
        counter switch
        {
            UpkeepCounter.Runs => Runs,
            UpkeepCounter.LaserHours => PlainHours + HeavyHours,
            UpkeepCounter.WeightedHours => PlainHours + HeavyHours * residueWeight,
            _ => 0,
        };
}

/// <summary>How far a task is.</summary>
/// <param name="Used">In the unit of its counter; of airflow the last reading in per cent, null where nobody read it.</param>
/// <param name="DueFrom">Since when it is due, or from when it will be; null while nobody can say.</param>
/// <param name="IsForecast">By the use of the last weeks; else it is certain.</param>
public sealed record UpkeepStand(decimal? Used, bool Due, bool Overdue, Instant? DueFrom, bool IsForecast);

/// <summary>Counters of upkeep, and when a task will be due.</summary>
public static class UpkeepUse
{
    /// <summary>Use is foretold by the mean of so many days.</summary>
    public const int ForecastDays = 28;

    /// <summary>No forecast reaches further: the use of a month says nothing about it.</summary>
    public const int ForecastMost = 730;

    /// <summary>The day on which a task that counts days is due: its first moment.</summary>
    public static Instant DayDue(Instant since, decimal days, HouseClock clock) =>
        clock.Day(clock.DateOf(since).PlusDays((int)Math.Ceiling(days))).Start;

    /// <summary>When a task will be due by its use, as it was lately.</summary>
    /// <param name="lately">Used in the last <paramref name="days"/>.</param>
    /// <param name="days">On which the machine was in service, of the last <see cref="ForecastDays"/>: out of service its use stands
    /// still.</param>
    /// <returns>Null where nothing was used, or it lies too far off.</returns>
    public static Instant? Forecast(decimal used, decimal limit, decimal lately, decimal days, Instant now)
    {
        if (used >= limit)
            return now;
        if (lately <= 0 || days <= 0)
            return null;
        var left = (limit - used) / (lately / days);
        return left > ForecastMost ? null : now + Duration.FromDays((double)left);
    }

    /// <summary>How a task stands now.</summary>
    /// <param name="use">Since it was last done.</param>
    /// <param name="lately">In the last <see cref="ForecastDays"/>.</param>
    /// <param name="marked">Since when it was found due: by its use, or because somebody saw a sign of it.</param>
    /// <param name="airflowPercent">Of commissioning, as last read.</param>
    public static UpkeepStand Of(
        UpkeepPlan plan,
        Instant since,
        RunSums use,
        (RunSums Runs, decimal Days) lately,
        (Instant? Due, Instant? Overdue) marked,
        decimal? airflowPercent,
        decimal residueWeight,
        HouseClock clock,
        Instant now
    )
    {
        if (plan.Counter == UpkeepCounter.Airflow)
            return new(airflowPercent, marked.Due <= now || airflowPercent < plan.Limit, marked.Overdue <= now, marked.Due, false);
        if (plan.Counter == UpkeepCounter.Days)
        {
            var used = Math.Floor((decimal)(now - since).TotalDays);
            var by = DayDue(since, plan.Limit, clock);
            var due = marked.Due is { } sooner ? Instant.Min(sooner, by) : by;
            return new(Math.Max(0, used), due <= now, marked.Overdue <= now || DayDue(since, plan.Overdue, clock) <= now, due, false);
        }
        var count = use.By(plan.Counter, residueWeight);
        if (marked.Due <= now)
            return new(count, true, marked.Overdue <= now, marked.Due, false);
        var forecast = Forecast(count, plan.Limit, lately.Runs.By(plan.Counter, residueWeight), lately.Days, now);
        return new(count, count >= plan.Limit, count >= plan.Overdue, forecast, true);
    }
}
